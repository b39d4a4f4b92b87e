import type { FieldTree } from '../../../../shape/fieldTree.ts';
import { descend } from '../../../../shape/fieldTree.ts';
import type { NodeId } from '../../../places.ts';
import { fieldNames, isSingle, walk, type Expression, type PathExpression } from '../../../tree.ts';
import type { PipelineStage } from '../../../stages/stage.ts';
import { ParseFailure } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlExpression, SqlFrom, SqlRows } from '../tree.ts';
import { and, call, compare, defined, given, literal, not, or, onwards, path, written, type Truth } from './build.ts';
import type { Meaning } from './meaning.ts';
import { jsonValue, single } from './values.ts';
import type { Scope, Table } from './scope.ts';
import { conjuncts } from './walk.ts';
import { freeSource, RowNames, type Made, type Members, type Question, type Work } from './work.ts';

type TableItem = SqlFrom & { readonly kind: 'table' };
type Elements = SqlFrom & { readonly kind: 'unnest' | 'jsonTable' };

/** Makes the tables of FROM, one after another, and the stages that bring them into a row. */
export class Tables {
  readonly stages: Made[] = [];
  names = new RowNames([]);
  private readonly scope: Scope;
  private readonly meaning: Meaning;
  private readonly work: Work;
  private readonly members: Members;
  /** Names that the question's text mentions. */
  private readonly mentioned: () => readonly string[];
  private readonly translate: (query: TableItem['source'] & { kind: 'query' }, members: Members) => Question;

  constructor(scope: Scope, meaning: Meaning, work: Work, members: Members, translate: Tables['translate']) {
    this.mentioned = work.mentioned;
    this.scope = scope;
    this.meaning = meaning;
    this.work = work;
    this.members = members;
    this.translate = translate;
  }

  private push(stage: PipelineStage, clause: NodeId): void {
    this.stages.push({ stage, clause });
  }

  /** The question that a name stands for, where it is a member of WITH or a subquery. */
  private questionOf({ source }: TableItem): Question | undefined {
    if (source.kind === 'query') return this.translate(source, this.members);
    const member = this.members.get(source.name);
    return member && this.translate({ kind: 'query', query: member.query, id: source.id }, member.members);
  }

  first(item: TableItem): void {
    const { source, alias, aliasId, id } = item;
    const question = this.questionOf(item);
    if (question === undefined && source.kind === 'name') this.push({ kind: 'from', source: source.name, sourceId: source.id }, id);
    else this.stages.push(...question!.stages);
    const tree = question === undefined ? this.shapeOf(source) : question.tree;
    const columns = question?.columns && new Map(question.columns.map((name) => [name, (at: NodeId) => given([name], at)] as const));
    this.scope.add({ alias, aliasId, kind: 'rows', at: [], tree, ...(columns && { columns }) });
    // Where it is not known what there is, nothing that is asked for is written over.
    this.names = new RowNames(question?.columns ?? tree?.fields.keys() ?? this.mentioned());
  }

  private shapeOf(source: TableItem['source']): FieldTree | undefined {
    const tree = source.kind === 'name' ? this.work.known.shapeOf?.(source.name) : undefined;
    // Of a collection without documents nothing is known.
    return tree === undefined || tree.open || tree.fields.size === 0 ? undefined : tree;
  }

  /** Joins a table. `where` are conditions of WHERE that hold for it and those before it. */
  join(item: TableItem, where: readonly SqlExpression[]): void {
    const { source, alias, aliasId, id, using } = item;
    const question = this.questionOf(item);
    const name = question === undefined ? (source as { name: string }).name : this.define(alias, question, id);
    const target = this.names.partner(alias);
    const before = [...this.scope.tables];
    const table: Table = { alias, aliasId, kind: 'rows', at: [target], tree: question === undefined ? this.shapeOf(source) : question.tree, ...columnsOf(question) }; // prettier-ignore
    this.scope.add(table);
    this.scope.partner = { table, name: target };
    const equal = using.map((column): Truth => {
      const left = before.find((one) => one.kind === 'rows' && (one.columns?.has(column) ?? (one.tree === undefined || descend(one.tree, [column]) !== undefined))) ?? before[0]!; // prettier-ignore
      return compare('==', path([column], id, { kind: 'partner', name: target }), this.scope.valueIn(left, [column], id), id);
    });
    const on = [...conjuncts(item.on), ...where].map((condition) => this.joinTest(condition, target));
    this.scope.partner = undefined;
    const condition = written(and(id, ...equal, ...on), id);
    const kind = item.join === 'left' ? 'leftJoin' : 'join';
    this.push({ kind, source: name, sourceId: source.id, target: { names: [target], id: aliasId }, condition } as PipelineStage, id);
  }

  /** A condition of a join. That the partner's side equals the row's holds for no missing or null one, as in SQL. */
  private joinTest(condition: SqlExpression, partner: string): Truth {
    if (condition.kind === 'compare' && condition.operator === '==') {
      const left = this.meaning.value(condition.left);
      const right = this.meaning.value(condition.right);
      const [own, other] = isOf(left, partner) ? [left, right] : [right, left];
      if (isOf(own, partner) && !mentions(other, partner) && other.kind !== 'literal') return compare('==', own, other, condition.id);
    }
    return matchingNulls(this.meaning.isTrue(condition), partner);
  }

  /** Writes a question beside the pipeline, for a join to read. */
  define(alias: string, question: Question, clause: NodeId): string {
    const name = freeSource(this.work, alias);
    this.work.sources.push({ name, stages: question.stages, clause });
    return name;
  }

  /** The elements of an array of each row, or the rows of a JSON_TABLE. */
  elements(item: Elements): void {
    const { id, on } = item;
    if (item.kind === 'unnest') this.unnest(item);
    else this.jsonTable(item);
    if (on !== undefined) this.where(this.meaning.isTrue(on), id);
  }

  where(condition: Truth, clause: NodeId): void {
    if (condition !== true) this.push({ kind: 'where', condition: written(condition, clause) }, clause);
  }

  private unnest(item: SqlFrom & { kind: 'unnest' }): void {
    const { alias, ordinal, keepEmpty, id } = item;
    const array = this.pathOf(item.array, 'UNNEST');
    const target = this.names.free(alias);
    const place = ordinal === undefined ? undefined : this.names.free(ordinal);
    this.push({ kind: 'unnest', path: array, target: { names: [target], id }, position: place === undefined ? undefined : { names: [place], id }, keepEmpty }, id); // prettier-ignore
    this.scope.add({
      alias, aliasId: id, kind: 'element', at: [target], tree: this.elementTree(item.array, array),
      ...(ordinal !== undefined && { ordinal: { name: ordinal, value: (at) => fromOne(place!, at) } }),
    }); // prettier-ignore
  }

  /** What elements of a column look like; undefined where it is not known. */
  private elementTree(written: SqlExpression, array: PathExpression): FieldTree | undefined {
    if (written.kind !== 'column') return undefined;
    const { table } = this.scope.resolve(written);
    const names = fieldNames(array)?.slice(table.at.length);
    const tree = table.tree === undefined || names === undefined ? undefined : descend(table.tree, names);
    return tree?.element === undefined || tree.element.fields.size === 0 ? undefined : tree.element;
  }

  private jsonTable(item: SqlFrom & { kind: 'jsonTable' }): void {
    const columns = new Map<string, (id: NodeId) => Expression>();
    this.rowsOf(this.pathOf(item.argument, 'JSON_TABLE'), item.rows, { ...item, columns });
    this.scope.add({ alias: item.alias, aliasId: item.id, kind: 'rows', at: [item.alias], tree: undefined, columns });
  }

  private rowsOf(
    argument: PathExpression,
    rows: SqlRows,
    table: { alias: string; columns: Map<string, (id: NodeId) => Expression>; keepEmpty: boolean; id: NodeId },
  ): void {
    const { alias, columns, keepEmpty, id } = table;
    const found = onwards(argument, rows.path, rows.id);
    let row = found;
    let place: string | undefined;
    if (isSingle(found)) {
      if (!keepEmpty) this.where(call('exists', [found], id), id);
    } else {
      const target = this.names.free(alias);
      place = rows.columns.some(({ kind }) => kind === 'ordinal') ? this.names.free(`${alias}_place`) : undefined;
      this.push({ kind: 'unnest', path: found, target: { names: [target], id }, position: place === undefined ? undefined : { names: [place], id }, keepEmpty }, id); // prettier-ignore
      row = path([target], rows.id);
    }
    for (const column of rows.columns) {
      if (column.kind === 'ordinal') columns.set(column.name, (at) => (place === undefined ? literal(1, at) : fromOne(place, at)));
      else columns.set(column.name, (at) => jsonValue(single(onwards(row, column.path, at), at), column.type, at));
    }
    if (rows.nested !== undefined) this.rowsOf(row, rows.nested, { ...table, keepEmpty: true });
  }

  private pathOf(expression: SqlExpression, what: string): PathExpression {
    const value = this.meaning.value(expression);
    if (value.kind !== 'path') throw new ParseFailure(faults.needsPath(this.work.places.of(expression), what));
    return value;
  }
}

const columnsOf = (question: Question | undefined): Pick<Table, 'columns'> =>
  question?.columns === undefined ? {} : { columns: new Map(question.columns.map((name) => [name, undefined])) };

/** The notation counts places from 0, SQL from 1. */
const fromOne = (place: string, id: NodeId): Expression => ({ kind: 'arithmetic', operator: '+', left: path([place], id), right: literal(1, id), id }); // prettier-ignore

/** In a join, an equality of the two sides matches no NULLs: where NULL is to match NULL, that is said beside it. */
function matchingNulls(truth: Truth, partner: string): Truth {
  if (typeof truth === 'boolean') return truth;
  if (truth.kind === 'and') return { ...truth, operands: truth.operands.map((one) => written(matchingNulls(one, partner), one.id)) };
  if (truth.kind !== 'comparison' || truth.operator !== '==') return truth;
  const { left, right, id } = truth;
  if (mentions(left, partner) === mentions(right, partner) || left.kind !== 'call' || left.name !== 'or_null') return truth;
  const bare = (side: Expression): Expression => (side.kind === 'call' && side.name === 'or_null' ? side.arguments[0]! : side);
  return or(id, truth, and(id, not(defined(bare(left), id), id), not(defined(bare(right), id), id)));
}

function mentions(value: Expression, partner: string): boolean {
  let found = false;
  walk(value, (node) => (found ||= isOf(node, partner)));
  return found;
}

/** Whether an expression is of a partner alone. */
function isOf(value: Expression, partner: string): boolean {
  return value.kind === 'path' && value.root.kind === 'partner' && value.root.name === partner;
}
