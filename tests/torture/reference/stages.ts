import {
  isChangeStep,
  type BestStage,
  isJoin,
  isRank,
  type Expression,
  type Json,
  type Measure,
  type OrderKey,
  type OmitStage,
  type Stage,
  usualSurface,
} from '@zesty-sieve/core/language';
import { holds, mean, value, type Scope } from './expressions.ts';
import { equal, isEmpty, nearest, order, put, setField, sum, units, type Fields, type Value } from './values.ts';

/** A row, and the place of what it comes from: ties of an order go by it. */
interface Placed {
  readonly row: Fields;
  readonly at: number;
}

export type Data = Readonly<Record<string, readonly Fields[]>>;

export interface World {
  readonly data: Data;
  readonly parameters: Readonly<Record<string, Json>>;
  readonly now: string;
}

/** What a pipeline means: its rows in their order. Undefined where a stage picks rows at random. */
export function meaning(text: string, world: World): Fields[] | undefined {
  const stages = usualSurface.parse(text).stages.flatMap(({ stage, off }) => (stage === undefined || off ? [] : [stage]));
  const [from, ...rest] = stages;
  if (from?.kind !== 'from' || rest.some((stage) => stage.kind === 'sample' || isChangeStep(stage))) return undefined;
  let rows: Placed[] = world.data[from.source].map((row, at) => ({ row, at }));
  for (const stage of rest) rows = after(stage, rows, world);
  return rows.map(({ row }) => row);
}

const scopeOf = (row: Json, world: World): Scope => ({
  current: row,
  whole: row,
  partners: {},
  parameters: world.parameters,
  now: world.now,
});

/** Rows in the order of a score, the highest first; those without a number are in no place. */
function ranking(
  score: Expression,
  rows: readonly Placed[],
  of: (expression: Expression, row: Json) => Value,
): { one: Placed; score: number }[] {
  const scored = rows.flatMap((one) => {
    const given = of(score, one.row);
    return typeof given === 'number' ? [{ one, score: given }] : [];
  });
  return scored.sort((a, b) => b.score - a.score || a.one.at - b.one.at);
}

function bestOf(stage: BestStage, rows: readonly Placed[], of: (expression: Expression, row: Json) => Value): Placed[] {
  const count = Number(of(stage.count, {}));
  const depth = stage.depth === undefined ? Math.max(100, 10 * count) : Number(of(stage.depth, {}));
  const [first, ...others] = stage.scores.map(({ expression }) => ranking(expression, rows, of));
  let found = first!;
  if (others.length > 0) {
    const sums = new Map<Placed, number>();
    [first!, ...others].forEach((one, r) => {
      const { weight } = stage.scores[r]!;
      const by = weight === undefined ? 1 : Number(of(weight, {}));
      one.slice(0, depth).forEach(({ one: row }, i) => sums.set(row, (sums.get(row) ?? 0) + by / (60 + i + 1)));
    });
    found = rows.flatMap((one) => (sums.has(one) ? [{ one, score: sums.get(one)! }] : []));
    found.sort((a, b) => b.score - a.score || a.one.at - b.one.at);
  }
  return found.slice(0, count).map(({ one, score }) => (stage.target === undefined ? one : { ...one, row: put(one.row, stage.target.names, score) }));
} // prettier-ignore

function after(stage: Stage, rows: readonly Placed[], world: World): Placed[] {
  const of = (expression: Expression, row: Json): Value => value(expression, scopeOf(row, world));
  switch (stage.kind) {
    case 'where':
      return rows.filter(({ row }) => holds(stage.condition, scopeOf(row, world)));
    case 'select':
      return rows.map(({ row, at }) => {
        let made: Fields = {};
        for (const { target, expression } of stage.items) {
          const one = of(expression, row);
          if (one !== undefined) made = put(made, target, one);
        }
        return { at, row: made };
      });
    case 'omit':
      return rows.map(({ row, at }) => ({ at, row: without(row, stage.paths.map(({ segments }) => segments)) as Fields })); // prettier-ignore
    case 'compute':
      return rows.map(({ row, at }) => ({
        at,
        row: stage.assignments.reduce((made, { target, expression }) => put(made, target, of(expression, made)), row),
      }));
    case 'unnest':
      return rows.flatMap(({ row, at }) => {
        const scope = scopeOf(row, world);
        const found = value(stage.path, scope);
        const elements = Array.isArray(found) ? found : isEmpty(found) ? [] : [found as Json];
        const placed = (element: Value, i: number | undefined): Placed => {
          const made = put(row, stage.target.names, element);
          return { at, row: stage.position ? put(made, stage.position.names, i) : made };
        };
        if (elements.length === 0) return stage.keepEmpty ? [placed(undefined, undefined)] : [];
        return elements.map(placed);
      });
    case 'group':
      return grouped(rows, stage.keys, stage.measures, world);
    case 'groupAll':
      return [{ at: 0, row: stage.measures.reduce((made, measure) => measured(made, measure, rows, world), {} as Fields) }];
    case 'order':
      return inOrder(rows, stage.keys, world);
    case 'offset':
      return rows.slice(of(stage.count, {}) as number);
    case 'best':
      return bestOf(stage, rows, of);
    case 'limit':
      return rows.slice(0, of(stage.count, {}) as number);
    default:
      if (isJoin(stage)) {
        const name = stage.target.names[stage.target.names.length - 1];
        return rows.flatMap(({ row, at }) => {
          const found = world.data[stage.source].filter((partner) =>
            holds(stage.condition, { ...scopeOf(row, world), partners: { [name]: partner }, joining: name }),
          );
          if (stage.kind === 'gatherJoin') return [{ at, row: put(row, stage.target.names, found) }];
          if (found.length === 0) return stage.kind === 'leftJoin' ? [{ at, row: put(row, stage.target.names, undefined) }] : [];
          return found.map((partner) => ({ at, row: put(row, stage.target.names, partner) }));
        });
      }
      if (isRank(stage)) {
        const keysOf = ({ row }: Placed) => stage.partition.map((key) => of(key, row));
        const partitions: { keys: Value[]; members: Placed[] }[] = [];
        for (const one of rows) {
          const keys = keysOf(one);
          const there = partitions.find((partition) => partition.keys.every((key, i) => equal(key, keys[i])));
          if (there) there.members.push(one);
          else partitions.push({ keys, members: [one] });
        }
        const ranks = new Map<Placed, number>();
        for (const { members } of partitions) {
          let dense = 0;
          let shared = 0;
          const sorted = inOrder(members, stage.keys, world);
          sorted.forEach((one, i) => {
            const ties = i > 0 && compareKeys(stage.keys, sorted[i - 1].row, one.row, world) === 0;
            if (!ties) {
              dense++;
              shared = i + 1;
            }
            ranks.set(one, stage.kind === 'rowNumber' ? i + 1 : stage.kind === 'rank' ? shared : dense);
          });
        }
        return rows.map((one) => ({ at: one.at, row: put(one.row, stage.target.names, ranks.get(one)) }));
      }
      throw new Error(`the reference has no ${stage.kind}`);
  }
}

function compareKeys(keys: readonly OrderKey[], a: Json, b: Json, world: World): number {
  for (const { expression, direction, nulls } of keys) {
    const [x, y] = [value(expression, scopeOf(a, world)), value(expression, scopeOf(b, world))];
    if (isEmpty(x) && isEmpty(y)) continue;
    if (isEmpty(x) || isEmpty(y)) return isEmpty(x) === (nulls === 'first') ? -1 : 1;
    const one = order(x as Json, y as Json);
    if (one !== 0) return direction === 'desc' ? -one : one;
  }
  return 0;
}

function inOrder(rows: readonly Placed[], keys: readonly OrderKey[], world: World): Placed[] {
  return rows
    .map((one, i) => ({ one, i }))
    .sort((a, b) => compareKeys(keys, a.one.row, b.one.row, world) || a.one.at - b.one.at || a.i - b.i)
    .map(({ one }) => one);
}

type Segments = OmitStage['paths'][number]['segments'];

/** A value without the nodes that paths lead to, all of them looked for in the value as it was. */
export function without(from: Json, paths: readonly Segments[]): Json {
  if (paths.length === 0 || typeof from !== 'object' || from === null) return from;
  const names: (string | number)[] = Array.isArray(from) ? from.map((_, i) => i) : Object.keys(from);
  const kept: Json[] = [];
  const made: Fields = {};
  for (const name of names) {
    const leading = paths.filter(([{ selectors }]) => {
      const [selector] = selectors;
      if (selector.kind === 'wildcard') return true;
      if (selector.kind === 'name') return !Array.isArray(from) && selector.name === name;
      if (selector.kind !== 'index' || !Array.isArray(from)) return false;
      return (selector.index < 0 ? from.length + selector.index : selector.index) === name;
    });
    if (leading.some((path) => path.length === 1)) continue;
    const inner = without((from as Fields)[name as string], leading.map((path) => path.slice(1))); // prettier-ignore
    if (Array.isArray(from)) kept.push(inner);
    else setField(made, name as string, inner);
  }
  return Array.isArray(from) ? kept : made;
}

function grouped(
  rows: readonly Placed[],
  keys: readonly { target: readonly string[]; expression: Expression }[],
  measures: readonly Measure[],
  world: World,
): Placed[] {
  const groups: { values: Value[]; members: Placed[] }[] = [];
  // Values of the first key that are texts or numbers find their groups sooner; all else is compared.
  const sooner = new Map<Value, typeof groups>();
  for (const one of rows) {
    const values = keys.map(({ expression }) => value(expression, scopeOf(one.row, world)));
    const [first] = values;
    const plain = typeof first === 'string' || typeof first === 'number' ? first : null;
    let near = sooner.get(plain);
    if (near === undefined) sooner.set(plain, (near = []));
    const there = near.find((group) => group.values.every((known, i) => equal(known, values[i])));
    if (there) there.members.push(one);
    else {
      const group = { values, members: [one] };
      near.push(group);
      groups.push(group);
    }
  }
  return groups.map(({ values, members }, at) => {
    let row: Fields = {};
    keys.forEach(({ target }, i) => {
      if (values[i] !== undefined) row = put(row, target, values[i]);
    });
    for (const measure of measures) row = measured(row, measure, members, world);
    return { at, row };
  });
}

function measured(
  row: Fields,
  { target, aggregate, argument, percentage, where }: Measure,
  members: readonly Placed[],
  world: World,
): Fields {
  const counted = members.filter((one) => where === undefined || holds(where, scopeOf(one.row, world)));
  const values = (): Json[] =>
    counted.flatMap((one) => {
      const found = argument && value(argument, scopeOf(one.row, world));
      return isEmpty(found) ? [] : [found as Json];
    });
  const numbers = () => values().filter((one) => typeof one === 'number');
  const conditions = () => counted.map((one) => argument !== undefined && holds(argument, scopeOf(one.row, world)));
  const different = () => values().filter((one, i, all) => all.findIndex((other) => equal(other, one)) === i);
  const best = (sign: number) =>
    values().reduce<Value>((found, one) => (found === undefined || sign * order(one, found) > 0 ? one : found), undefined);
  const of: Record<typeof aggregate, () => Value> = {
    count: () => counted.length,
    count_distinct: () => different().length,
    sum: () => (numbers().length === 0 ? undefined : sum(numbers())),
    avg: () => mean(numbers()),
    min: () => best(-1),
    max: () => best(1),
    median: () => percentileOf(numbers(), 50),
    percentile: () => {
      const share = percentage && value(percentage, scopeOf({}, world));
      return percentileOf(numbers(), typeof share === 'number' ? Math.min(100, Math.max(0, share)) : 50);
    },
    stddev: () => deviationOf(numbers()),
    collect: values,
    collect_distinct: different,
    first: () => values()[0],
    last: () => values().at(-1),
    any: () => conditions().includes(true),
    every: () => !conditions().includes(false),
  };
  return put(row, target, of[aggregate]());
}

function percentileOf(numbers: readonly number[], percentage: number): Value {
  if (numbers.length === 0) return undefined;
  const sorted = [...numbers].sort((a, b) => a - b);
  const place = (percentage / 100) * (sorted.length - 1);
  const [a, b] = [sorted[Math.floor(place)], sorted[Math.min(sorted.length - 1, Math.floor(place) + 1)]];
  const share = place - Math.floor(place);
  const found = Number.isFinite(b - a) ? a + (b - a) * share : a * (1 - share) + b * share;
  return Number.isFinite(found) ? found : undefined;
}

/** The root of the exact variance of a sample, which is rounded once. */
function deviationOf(numbers: readonly number[]): Value {
  const n = BigInt(numbers.length);
  if (n < 2n) return undefined;
  const total = numbers.reduce((all, x) => all + units(x), 0n);
  const squares = numbers.reduce((all, x) => all + units(x) ** 2n, 0n);
  const above = n * squares - total * total;
  const below = (n * (n - 1n)) << 1074n;
  const variance = nearest(above, below);
  if (typeof variance === 'number' && (variance === 0 ? above === 0n : variance > 2 ** -1000 && variance < 2 ** 1000))
    return Math.sqrt(variance);
  // Beyond what a double holds well: a hundredth of the bits more or fewer, and as many back.
  const shift = typeof variance === 'number' && variance < 1 ? -1200n : 1200n;
  const scaled = shift > 0n ? nearest(above, below << shift) : nearest(above << -shift, below);
  const root = Math.sqrt(scaled as number) * 2 ** Number(shift / 2n);
  return Number.isFinite(root) ? root : undefined;
}
