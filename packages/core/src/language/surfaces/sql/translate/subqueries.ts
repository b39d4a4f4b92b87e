import type { NodeId } from '../../../places.ts';
import type { Expression } from '../../../tree.ts';
import { ParseFailure } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlExpression, SqlItem, SqlQuery, SqlSelect } from '../tree.ts';
import { and, call, compare, defined, isCertain, not, or, path, written, type Truth } from './build.ts';
import type { Meaning, Standpoint, Subquery } from './meaning.ts';
import { Scope } from './scope.ts';
import { meaningAt } from './values.ts';
import { conjuncts, findAll, textOf } from './walk.ts';
import type { Made, Member, Members, Question, RowNames, Work } from './work.ts';

/** What a subquery of WHERE or HAVING needs of the question around it. */
export interface Around {
  readonly work: Work;
  readonly members: Members;
  readonly names: Pick<RowNames, 'partner'>;
  /** What the tables of the question around it are called. */
  readonly tables: ReadonlySet<string>;
  readonly meaning: () => Meaning;
  readonly clause: NodeId;
  /** Takes the joins that it becomes. */
  readonly push: (made: Made) => void;
  readonly define: (alias: string, question: Question, clause: NodeId) => string;
  readonly translate: (query: SqlQuery, members: Members) => Question;
}

type Pair = readonly [inner: SqlExpression, outer: Expression];

/**
 * IN and EXISTS with a subquery, as a join that gathers the matches of each row: one row stays one row, and whether there is a match is
 * whether the array has a first element.
 */
export function subqueryTest(node: Subquery, around: Around): ReturnType<Standpoint['subquery']> {
  const { query, id } = node;
  const value = node.kind === 'inQuery' ? valueItem(query, around) : undefined;
  const operand = node.kind === 'inQuery' ? around.meaning().value(node.operand) : undefined;
  const { pairs, rest } = correlated(query, around);
  const all: readonly Pair[] = value === undefined || operand === undefined ? pairs : [[value, operand], ...pairs];
  const isTrue = gathered(query, rest, all, 'found', around);
  const isFalse = (): Truth => {
    if (operand === undefined || value === undefined) return not(isTrue, id);
    refuseNull(query, value, around);
    if (isCertain(operand)) return not(isTrue, id);
    // NULL is in no set, and not in none either, unless that has nothing in it at all.
    const isEmpty = not(gathered(query, rest, pairs, 'other', around), id);
    return and(id, not(isTrue, id), or(id, defined(operand, id), isEmpty));
  };
  return { isTrue, isFalse };
}

function valueItem({ body }: SqlQuery, { work }: Around): SqlExpression {
  const [item, ...more] = body.select.value;
  if (more.length > 0 || item.kind !== 'expression') throw new ParseFailure(faults.oneColumn(work.places.of(body.select)));
  return item.expression;
}

/** Equalities of its WHERE between its own columns and those of the question around it; the rest is of its own alone. */
function correlated(query: SqlQuery, around: Around): { readonly pairs: readonly Pair[]; readonly rest: readonly SqlExpression[] } {
  const { body } = query;
  const own = new Set(body.from.flatMap((item) => [item.alias, ...(item.kind === 'unnest' ? [item.ordinal] : [])]));
  const isOuter = (node: SqlExpression): boolean =>
    findAll([node], 'column').some(({ first, steps }) => steps.length > 0 && !own.has(first) && around.tables.has(first));
  const pairs: Pair[] = [];
  const rest: SqlExpression[] = [];
  for (const condition of conjuncts(body.where?.value)) {
    if (!isOuter(condition)) {
      rest.push(condition);
      continue;
    }
    const sides = condition.kind === 'compare' && condition.operator === '==' ? [condition.left, condition.right] : [];
    const outer = sides.filter(isOuter);
    const inner = sides.find((side) => !isOuter(side));
    if (outer.length !== 1 || inner === undefined || looksAtAll(body))
      throw new ParseFailure(faults.notEquality(around.work.places.of(condition), 'A subquery that reads the outer question'));
    pairs.push([inner, around.meaning().value(outer[0]!)]);
  }
  return { pairs, rest };
}

/** Whether what it gives of one row depends on others, so that a condition put inside it would make another question of it. */
function looksAtAll({ select, groupBy, having, limit, offset }: SqlSelect): boolean {
  const items = select.value.flatMap((item) => (item.kind === 'expression' ? [item.expression] : []));
  const clauses = [groupBy, having, limit, offset].some((clause) => clause !== undefined);
  return clauses || findAll(items, 'aggregate').length > 0 || findAll(items, 'window').length > 0;
}

/** Joins the rows of a subquery that equal a row in each pair. Gives whether there is one. */
function gathered(query: SqlQuery, rest: readonly SqlExpression[], pairs: readonly Pair[], wanted: string, around: Around): Truth {
  const { body, members, id } = query;
  const name = around.names.partner(wanted);
  const [from, ...more] = body.from;
  const isPlain = pairs.length > 0 && from?.kind === 'table' && from.source.kind === 'name' && !around.members.has(from.source.name);
  if (isPlain && members.length === 0 && more.length === 0 && !looksAtAll(body)) {
    const { source, alias, aliasId } = from;
    const at: Standpoint['at'] = (node) => around.work.places.of(node);
    const scope = new Scope(at);
    const table = { alias, aliasId, kind: 'rows', at: [], tree: around.work.known.shapeOf?.((source as { name: string }).name) } as const;
    scope.add(table);
    scope.partner = { table, name };
    const inner = meaningAt({ column: scope.value, replaced: () => undefined, subquery: refused(around), at });
    const equal = pairs.map(([own, outer]) => compare('==', inner.value(own), outer, own.id));
    const condition = written(and(id, ...equal, ...rest.map(inner.isTrue)), id);
    push((source as { name: string }).name, source.id, condition);
  } else {
    const source = pairs.length === 0 && rest.length === 0 ? oneRowOf(query, around.members) : undefined;
    const question = source === undefined ? around.translate(asSource(query, rest, pairs), around.members) : around.translate(source.query, source.members); // prettier-ignore
    const equal = pairs.map(([own, outer], i) => compare('==', path([question.columns![i]!], own.id, { kind: 'partner', name }), outer, own.id)); // prettier-ignore
    push(around.define(name, question, id), id, written(and(id, ...equal), id));
  }
  return call('exists', [path([name, 0], id)], id);

  function push(source: string, sourceId: NodeId, condition: Expression): void {
    around.push({ stage: { kind: 'gatherJoin', source, sourceId, target: { names: [name], id }, condition }, clause: around.clause });
  }
}

const refused =
  ({ work }: Around): Standpoint['subquery'] =>
  (node) => {
    throw new ParseFailure(
      faults.misplaced(work.places.of(node), 'A subquery', 'the condition of another subquery', 'Make it a member of WITH.'),
    );
  };

/** The subquery with the columns that are compared, and nothing else; one row of it is enough where none are. */
function asSource(query: SqlQuery, rest: readonly SqlExpression[], pairs: readonly Pair[]): SqlQuery {
  const { body } = query;
  const id = body.select.id;
  const one: SqlItem = { kind: 'expression', expression: { kind: 'literal', value: 1, id }, alias: 'one', id };
  const items = pairs.map(([expression], i): SqlItem => ({ kind: 'expression', expression, alias: `c${i + 1}`, id }));
  const where = rest.length === 0 ? undefined : { value: { kind: 'and', operands: rest, id } as const, id: body.where!.id };
  const limit = body.limit ?? (pairs.length === 0 ? { value: { kind: 'literal', value: 1, id } as const, id } : undefined);
  // An aggregate of all gives its one row whatever is selected of it.
  const select = pairs.length === 0 && !looksAtAll(body) ? ([one] as const) : items.length === 0 ? body.select.value : ([items[0]!, ...items.slice(1)] as const); // prettier-ignore
  return { ...query, body: { ...body, select: { value: [select[0], ...select.slice(1)], id }, where, limit } };
}

/** The member of WITH that a subquery asks for any row at all, where that member gives one row at most by itself. */
function oneRowOf({ body, members }: SqlQuery, known: Members): Member | undefined {
  const [from, ...more] = body.from;
  if (members.length > 0 || more.length > 0 || body.where !== undefined || looksAtAll(body)) return undefined;
  if (from?.kind !== 'table' || from.source.kind !== 'name') return undefined;
  const member = known.get(from.source.name);
  const limit = member?.query.body.limit?.value;
  return limit?.kind === 'literal' && limit.value === 1 ? member : undefined;
}

/** NOT IN holds for no row where the subquery gives a NULL: it is taken where it cannot. */
function refuseNull({ body }: SqlQuery, value: SqlExpression, { work }: Around): void {
  if (value.kind === 'literal' ? value.value !== null : value.kind === 'window' || (value.kind === 'aggregate' && value.name === 'COUNT'))
    return;
  const text = textOf(value);
  const isSame = (node: SqlExpression): boolean => textOf(node) === text;
  const keeps = conjuncts(body.where?.value).some(
    (one) =>
      (one.kind === 'not' && one.operand.kind === 'is' && one.operand.what === 'null' && isSame(one.operand.operand)) ||
      (one.kind === 'compare' && (isSame(one.left) || isSame(one.right))) ||
      ((one.kind === 'in' || one.kind === 'between' || one.kind === 'like') && isSame(one.operand)),
  );
  const [from, ...more] = body.from;
  if (keeps || (more.length === 0 && from?.kind === 'table' && from.source.kind === 'name' && isIdentity(value, from.alias, work.known.identityOf?.(from.source.name)))) return; // prettier-ignore
  const span = work.places.of(value);
  const last = body.where ?? body.from[body.from.length - 1]!;
  throw new ParseFailure(faults.mayBeNull(span, work.text.slice(span.from, span.to), work.places.of(last).to, body.where === undefined ? 'WHERE' : 'AND')); // prettier-ignore
}

function isIdentity(value: SqlExpression, alias: string, identity: readonly string[] | undefined): boolean {
  if (value.kind !== 'column' || identity === undefined) return false;
  const steps = value.first === alias && value.steps.length > 0 ? value.steps : [value.first, ...value.steps];
  return steps.join('\n') === identity.join('\n');
}
