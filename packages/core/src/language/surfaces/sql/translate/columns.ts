import type { NodeId } from '../../../places.ts';
import type { OrderKey, PipelineStage, SelectItem } from '../../../stages/stage.ts';
import type { Expression } from '../../../tree.ts';
import { ParseFailure } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlExpression, SqlItem, SqlOrderKey, SqlSelect, SqlWindow, SqlWindowName } from '../tree.ts';
import { given, path, whole } from './build.ts';
import { lastName, orderKeys } from './grouping.ts';
import type { Meaning } from './meaning.ts';
import type { Scope, Table } from './scope.ts';
import { meaningAt } from './values.ts';
import { findAll, textOf } from './walk.ts';
import type { Made, RowNames, Work } from './work.ts';

type Named = SqlItem & { readonly kind: 'expression' };

/**
 * The expression that a key of GROUP BY or ORDER BY stands for: a column of SELECT by its place or its alias, or itself. In GROUP BY a
 * column of the tables, whose `scope` is given, comes before an alias of the same name; in ORDER BY the alias comes first.
 */
export function resolved(key: SqlExpression, select: SqlSelect, work: Work, scope?: Scope): SqlExpression {
  const items = select.select.value;
  if (key.kind === 'literal' && typeof key.value === 'number') {
    const item = items[key.value - 1];
    if (item?.kind !== 'expression') throw new ParseFailure(faults.badPosition(work.places.of(key), key.value, items.length));
    return item.expression;
  }
  if (key.kind !== 'column' || key.steps.length > 0) return key;
  const named = items.find((item): item is Named => item.kind === 'expression' && item.alias === key.first);
  if (named === undefined) return key;
  // `upper(status) AS status`: what is grouped by is the column, since there is one.
  const isColumn = findAll([named.expression], 'column').some(
    ({ first, steps }) => first === key.first || steps[steps.length - 1] === key.first,
  );
  return scope !== undefined && (isColumn || scope.hasColumn(key.first)) ? key : named.expression;
}

const kinds: Readonly<Record<SqlWindowName, 'rowNumber' | 'rank' | 'denseRank'>> = { ROW_NUMBER: 'rowNumber', RANK: 'rank', DENSE_RANK: 'denseRank' }; // prettier-ignore

/** Ranks rows by the windows of a question, each once. */
export function windows(
  nodes: readonly SqlExpression[],
  before: Meaning,
  select: SqlSelect,
  names: RowNames,
): { readonly stages: readonly Made[]; readonly meaning: Meaning; readonly names: readonly string[] } {
  const known = new Map<string, string>();
  const stages = findAll(nodes, 'window').flatMap((node): readonly Made[] => {
    const text = textOf(node);
    if (known.has(text)) return [];
    const alias = select.select.value.find((item) => item.kind === 'expression' && textOf(item.expression) === text);
    const name = names.free((alias?.kind === 'expression' ? alias.alias : undefined) ?? node.name.toLowerCase());
    known.set(text, name);
    return [{ stage: rankOf(node, name, before), clause: select.select.id }];
  });
  if (stages.length === 0) return { stages, meaning: before, names: [] };
  const replaced: Meaning['replaced'] = (node) => {
    const name = node.kind === 'window' ? known.get(textOf(node)) : undefined;
    return name === undefined ? before.replaced(node) : given([name], node.id, true);
  };
  return { stages, meaning: meaningAt({ ...before, replaced }), names: [...known.values()] };
}

function rankOf(node: SqlExpression & SqlWindow, name: string, before: Meaning): PipelineStage {
  const { id } = node;
  const partition = node.partition.map((key) => whole(before.value(key), id));
  // Rows without an order are numbered as they come.
  const keys: readonly OrderKey[] = node.order.length > 0 ? orderKeys(node.order, before) : [{ expression: { kind: 'literal', value: 0, id }, direction: 'asc', nulls: 'last', id }]; // prettier-ignore
  return { kind: kinds[node.name], target: { names: [name], id }, partition, keys } as PipelineStage;
}

/** The columns of an answer. */
export class Columns {
  private readonly select: SqlSelect;
  private readonly meaning: Meaning;
  private readonly scope: Scope;
  private readonly isGrouped: boolean;
  private readonly work: Work;

  constructor(select: SqlSelect, meaning: Meaning, scope: Scope, isGrouped: boolean, work: Work) {
    this.select = select;
    this.meaning = meaning;
    this.scope = scope;
    this.isGrouped = isGrouped;
    this.work = work;
  }

  /** The stages that make the columns, and their names; no names where the documents are given whole. */
  make(added: readonly string[]): { readonly stages: readonly PipelineStage[]; readonly columns: readonly string[] | undefined } {
    const [only, ...more] = this.select.select.value;
    const [first] = this.scope.tables;
    if (only.kind === 'all' && this.scope.tables.length === 1 && first?.columns === undefined && !this.isGrouped) {
      this.tablesOf(only);
      return { stages: this.afterWhole(more, added), columns: undefined };
    }
    const items = this.select.select.value.flatMap((item) => this.itemsOf(item));
    const names = new Set<string>();
    const named = items.map(({ name, ...item }, i): SelectItem => {
      const wanted = name ?? `column${i + 1}`;
      let free = wanted;
      for (let number = 2; names.has(free); number++) free = `${wanted}_${number}`;
      names.add(free);
      return { ...item, target: [free], named: true };
    });
    const inner = this.wholeFirst();
    const stages: PipelineStage[] = [{ kind: 'select', items: named }];
    if (inner !== undefined) stages.push(inner);
    return { stages, columns: [...names] };
  }

  /** `SELECT *, x AS y`: the whole document with more in it, and without what was only needed on the way. */
  private afterWhole(more: readonly SqlItem[], added: readonly string[]): PipelineStage[] {
    const { id } = this.select.select;
    const assignments = more.map((item) => {
      if (item.kind === 'all')
        throw new ParseFailure(faults.misplaced(this.work.places.of(item), 'A second *', 'SELECT', 'One gives everything.'));
      const name = item.alias ?? lastName(item.expression) ?? 'column';
      return { target: [name], expression: whole(this.meaning.value(item.expression), item.id), id: item.id };
    });
    const kept = new Set(assignments.map(({ target }) => target[0]));
    const gone = added.filter((name) => !kept.has(name));
    return [
      ...(assignments.length === 0 ? [] : [{ kind: 'compute', assignments } as const]),
      ...(gone.length === 0 ? [] : [{ kind: 'omit', paths: gone.map((name) => path([name], id)) } as const]),
    ];
  }

  private tablesOf(item: SqlItem & { kind: 'all' }): readonly Table[] {
    if (this.isGrouped) throw new ParseFailure(faults.notGrouped(this.work.places.of(item), '*', this.select.groupBy !== undefined));
    if (item.of === undefined) return this.scope.tables;
    const found = this.scope.tables.filter(({ alias }) => alias === item.of);
    if (found.length === 0) throw new ParseFailure(faults.unknownTable(this.work.places.of(item), item.of, this.scope.tables.map(({ alias }) => alias))); // prettier-ignore
    return found;
  }

  private itemsOf(item: SqlItem): readonly { name: string | undefined; expression: Expression; id: NodeId }[] {
    const { id } = item;
    if (item.kind === 'expression') {
      const { expression, alias } = item;
      return [{ name: alias ?? lastName(expression), expression: whole(this.meaning.value(expression), id), id }];
    }
    const tables = this.tablesOf(item);
    return tables.flatMap((table) => {
      if (table.columns !== undefined && this.scope.tables.length === 1)
        return [...table.columns.keys()].map((name) => ({ name, expression: whole(this.scope.valueIn(table, [name], id), id), id }));
      const ordinal = table.ordinal === undefined ? [] : [{ name: table.ordinal.name, expression: whole(table.ordinal.value(id), id), id }];
      return [{ name: table.alias, expression: this.everything(table, id), id }, ...ordinal];
    });
  }

  /** All of a table's row, as an object. */
  private everything(table: Table, id: NodeId): Expression {
    if (table.columns === undefined) return whole(path(table.at, id), id);
    const entries = [...table.columns.keys()].map((name) => ({ name, value: whole(this.scope.valueIn(table, [name], id), id) }));
    return { kind: 'object', entries, id };
  }

  /** The first table stands at the top of a row, and what was joined inside it: taken out again where it is given whole. */
  private wholeFirst(): PipelineStage | undefined {
    const [first, ...rest] = this.scope.tables;
    const items = this.select.select.value;
    const given = items.find((item) => item.kind === 'all' && (item.of === undefined || item.of === first?.alias));
    if (given === undefined || first?.columns !== undefined || this.isGrouped) return undefined;
    const inner = rest.flatMap((table) => (table.at.length === 0 ? [] : [path([first!.alias, ...table.at], given.id)]));
    return inner.length === 0 ? undefined : { kind: 'omit', paths: inner };
  }
}

/** Rows without repeats, and in the order asked: by what is selected, since nothing else is left. */
export function distinctStages(select: SqlSelect, columns: readonly string[], work: Work): Made[] {
  const clause = select.select.id;
  const keys = columns.map((name): SelectItem => ({ expression: given([name], clause), target: [name], named: true, id: clause }));
  const stages: Made[] = [{ stage: { kind: 'group', keys, measures: [] }, clause }];
  if (select.orderBy !== undefined) {
    const order = select.orderBy.value.map((key): OrderKey => ({
      ...key,
      expression: path([columnFor(key, select, columns, work)], key.id),
    }));
    stages.push({ stage: { kind: 'order', keys: order }, clause: select.orderBy.id });
  }
  return stages;
}

function columnFor(key: SqlOrderKey, select: SqlSelect, columns: readonly string[], work: Work): string {
  const items = select.select.value;
  const expression = resolved(key.expression, select, work);
  const place = items.findIndex((item) => item.kind === 'expression' && textOf(item.expression) === textOf(expression));
  if (place >= 0) return columns[place]!;
  const name = lastName(expression);
  if (expression.kind === 'column' && name !== undefined && columns.includes(name)) return name;
  throw new ParseFailure(faults.distinctOrder(work.places.of(key)));
}
