import type { AggregateName } from '../../../functions/aggregates.ts';
import type { Identified, NodeId } from '../../../places.ts';
import type { Measure, OrderKey, SelectItem } from '../../../stages/stage.ts';
import type { Expression, PathExpression } from '../../../tree.ts';
import { printExpression } from '../../notation/print.ts';
import { ParseFailure } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlAggregate, SqlExpression, SqlOrderKey } from '../tree.ts';
import { and, choose, compare, defined, given, literal, onwards, path, whole, written, type Truth } from './build.ts';
import type { Meaning, Standpoint } from './meaning.ts';
import { meaningAt } from './values.ts';
import { findAll, textOf } from './walk.ts';
import { RowNames, type Made, type Work } from './work.ts';

type Aggregate = SqlExpression & SqlAggregate;

/** What is asked of groups: the keys, and everything that stands after grouping, each with the name it is to have. */
export interface Grouping {
  readonly keys: readonly { readonly expression: SqlExpression; readonly name: string | undefined }[];
  /** Undefined where all rows are one group. */
  readonly clause: NodeId | undefined;
  readonly after: readonly SqlExpression[];
  readonly nameOf: (expression: SqlExpression) => string | undefined;
}

const measuring: Readonly<Record<Aggregate['name'], AggregateName>> = {
  COUNT: 'count', SUM: 'sum', AVG: 'avg', MIN: 'min', MAX: 'max', STDDEV_SAMP: 'stddev', PERCENTILE_CONT: 'percentile', JSON_ARRAYAGG: 'collect',
}; // prettier-ignore

/** Groups rows: NULL is one group, whether a field is missing or null. Gives the stages, and what expressions mean after them. */
export function group(
  grouping: Grouping,
  before: Meaning,
  work: Work,
  select: NodeId,
): { readonly stages: readonly Made[]; readonly meaning: Meaning; readonly names: RowNames } {
  const aggregates = findAll(grouping.after, 'aggregate');
  const clause = grouping.clause ?? select;
  const names = new RowNames([]);
  const keys = grouping.keys.map(({ expression, name }) => keyOf(expression, name, before, names));
  const measures = new Measures(before, names, grouping, work);
  const values = new Map(aggregates.map((aggregate) => [textOf(aggregate), measures.valueOf(aggregate)] as const));
  const order = orderOf(aggregates, before, work);
  const made = measures.list.length === 0 && keys.length === 0 ? [measures.countOf(clause)] : measures.list;
  const stages: Made[] = [
    ...(order.length === 0 ? [] : [{ stage: { kind: 'order', keys: order }, clause: select } as const]),
    { stage: keys.length === 0 ? { kind: 'groupAll', measures: made } : { kind: 'group', keys: keys.map(({ item }) => item), measures: made }, clause }, // prettier-ignore
  ];
  const replaced = (node: SqlExpression): Expression | undefined => {
    if (node.kind === 'aggregate') return values.get(textOf(node))?.(node.id);
    if (node.kind === 'literal' || node.kind === 'parameter' || keys.length === 0 || holdsAggregate(node)) return undefined;
    const value = before.value(node);
    const text = printExpression(value);
    const key = keys.find((one) => one.text === text) ?? keys.find((one) => isWithin(value, one.value));
    if (key === undefined) return undefined;
    const own = given([key.name], node.id);
    return key.text === text ? own : onwards(own, (value as PathExpression).segments.slice((key.value as PathExpression).segments.length), node.id); // prettier-ignore
  };
  const standpoint: Standpoint = {
    ...before,
    replaced,
    column: (column) => {
      const text = [column.first, ...column.steps].join('.');
      throw new ParseFailure(faults.notGrouped(before.at(column), text, keys.length > 0));
    },
  };
  return { stages, meaning: meaningAt(standpoint), names };
}

function holdsAggregate(node: SqlExpression): boolean {
  return findAll([node], 'aggregate').length > 0 || findAll([node], 'window').length > 0;
}

/** Whether a path goes on inside another. */
function isWithin(value: Expression, outer: Expression): boolean {
  if (value.kind !== 'path' || outer.kind !== 'path' || outer.segments.length === 0 || value.segments.length <= outer.segments.length)
    return false;
  return printExpression({ ...value, segments: value.segments.slice(0, outer.segments.length) }) === printExpression(outer);
}

function keyOf(expression: SqlExpression, wanted: string | undefined, before: Meaning, names: RowNames) {
  const value = before.value(expression);
  const { id } = expression;
  const name = names.free(wanted ?? lastName(expression) ?? 'key');
  const item: SelectItem = { expression: whole(value, id), target: [name], named: true, id };
  return { value, text: printExpression(value), name, item };
}

/** The last field name of a column's path. */
export function lastName(expression: SqlExpression): string | undefined {
  if (expression.kind === 'json') {
    const names = expression.path.flatMap(({ selectors }) => selectors.flatMap((one) => (one.kind === 'name' ? [one.name] : [])));
    return names[names.length - 1] ?? lastName(expression.argument);
  }
  if (expression.kind !== 'column') return undefined;
  return [expression.first, ...expression.steps].findLast((step) => typeof step === 'string') as string | undefined;
}

/** The measures that aggregates become; one for those that are written the same. */
class Measures {
  readonly list: Measure[] = [];
  private readonly before: Meaning;
  private readonly names: RowNames;
  private readonly grouping: Grouping;
  private readonly work: Work;
  private readonly known = new Map<string, (id: NodeId) => Expression>();

  constructor(before: Meaning, names: RowNames, grouping: Grouping, work: Work) {
    this.before = before;
    this.names = names;
    this.grouping = grouping;
    this.work = work;
  }

  countOf(id: NodeId): Measure {
    return { target: [this.names.free('rows')], aggregate: 'count', argument: undefined, percentage: undefined, where: undefined, id };
  }

  private add(name: string, { id }: Identified, measure: Pick<Measure, 'aggregate' | 'argument' | 'percentage'>, where: Truth): string {
    const target = this.names.free(name);
    this.list.push({ ...measure, target: [target], where: where === true ? undefined : written(where, id), id });
    return target;
  }

  /** What an aggregate's value is after grouping. */
  valueOf(node: Aggregate): (id: NodeId) => Expression {
    const text = textOf(node);
    let value = this.known.get(text);
    if (value === undefined) this.known.set(text, (value = this.make(node)));
    return value;
  }

  private make(node: Aggregate): (id: NodeId) => Expression {
    const { name, argument, distinct, filter } = node;
    const where = filter === undefined ? true : this.before.isTrue(filter);
    const wanted = this.grouping.nameOf(node) ?? [name.toLowerCase().replace(/_.*/, ''), (argument && lastName(argument)) ?? ''].filter(Boolean).join('_'); // prettier-ignore
    const value = argument && this.before.value(argument);
    const { id } = node;
    if (name === 'COUNT') {
      const counted = value === undefined ? true : defined(value, id);
      const target = distinct
        ? this.add(wanted, node, { aggregate: 'count_distinct', argument: value, percentage: undefined }, where)
        : this.add(wanted, node, { aggregate: 'count', argument: undefined, percentage: undefined }, and(id, where, counted));
      return (at) => given([target], at, true);
    }
    const percentage = name === 'PERCENTILE_CONT' ? this.percentage(node) : undefined;
    const target = this.add(wanted, node, { aggregate: measuring[name], argument: value, percentage }, where);
    if (name !== 'JSON_ARRAYAGG' || (filter === undefined && this.grouping.clause !== undefined)) return (at) => path([target], at);
    // Of no rows there is no array (ISO/IEC 9075-2, 10.11).
    const rows = this.add('rows', node, { aggregate: 'count', argument: undefined, percentage: undefined }, where);
    return (at) => choose(compare('>', given([rows], at, true), literal(0, at), at), path([target], at), literal(null, at), at);
  }

  /** 0 to 100, counted from the end that its order begins with. */
  private percentage({ share, order, id }: Aggregate): Expression {
    if (share?.kind !== 'literal' || typeof share.value !== 'number' || share.value < 0 || share.value > 1)
      throw new ParseFailure(faults.expected(this.work.places.of(share ?? { id }), 'a share from 0 to 1', 'another value'));
    const percent = Number((share.value * 100).toPrecision(15));
    return literal(order[0]?.direction === 'desc' ? 100 - percent : percent, id);
  }
}

/** The order in which a question collects. */
function orderOf(aggregates: readonly Aggregate[], before: Meaning, work: Work): readonly OrderKey[] {
  const ordered = aggregates.filter(({ name, order }) => name === 'JSON_ARRAYAGG' && order.length > 0);
  const texts = new Set(ordered.map(({ order }) => JSON.stringify(order.map((key) => [textOf(key.expression), key.direction, key.nulls]))));
  if (texts.size > 1) throw new ParseFailure(faults.severalOrders(work.places.of(ordered[1]!)));
  return orderKeys(ordered[0]?.order ?? [], before);
}

export function orderKeys(keys: readonly SqlOrderKey[], meaning: Meaning): readonly OrderKey[] {
  return keys.map(({ expression, direction, nulls, id }) => ({ expression: meaning.value(expression), direction, nulls, id }));
}
