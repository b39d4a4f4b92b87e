import type { Value } from './json.ts';
import { compareText, compareValues, needsCodePoints, orderRank, type Direction, type NullsPlace } from './order.ts';
import { sortTexts } from './textOrder.ts';
import { mergeSort } from './mergeSort.ts';
import { atOnce, part, type Steps } from './steps.ts';

/** One key of an order: its value for every row, its direction, and where null and missing go. */
export interface OrderColumn {
  readonly values: readonly Value[];
  readonly direction: Direction;
  readonly nulls: NullsPlace;
}

/**
 * The permutation that puts rows in order, stable: keys equal by the order of values (null and missing tie)
 * leave rows as they were. The columns are sorted one after another from the last, each pass stable.
 */
export function* orderInSteps(columns: readonly OrderColumn[], length: number): Steps<Uint32Array> {
  let order = new Uint32Array(length);
  for (let i = 0; i < length; i++) order[i] = i;
  for (let c = columns.length - 1; c >= 0; c--) {
    const done = columns.length - 1 - c;
    order = yield* part(sortedByColumn(columns[c]!, order), done / columns.length, (done + 1) / columns.length);
  }
  return order;
}

/** The same at once, where there are not many rows. */
export function stableOrder(columns: readonly OrderColumn[], length: number): Uint32Array {
  return atOnce(orderInSteps(columns, length));
}

function* sortedByColumn(column: OrderColumn, order: Uint32Array<ArrayBuffer>): Steps<Uint32Array<ArrayBuffer>> {
  const { values, direction, nulls } = column;
  const length = order.length;
  const kinds = kindsIn(values, length);
  const sign = direction === 'desc' ? -1 : 1;
  if (kinds === 'endless') return yield* sortedBy(rankCodes(values, length, direction, nulls, false), order);
  if (kinds === 'numbers') return yield* sortedBy(numberCodes(values, length, sign, nulls === 'last' ? afterAll : beforeAll), order);
  if (manyDifferent(values, length)) {
    if (kinds === 'mixed') return yield* sortedByKind(column, order);
    return yield* sortTexts(values, order, sign, nulls);
  }
  return yield* sortedBy(rankCodes(values, length, direction, nulls, kinds === 'texts'), order);
}

/** Kinds come one after another in the order of values: a pass for each, with the others as ties, and one by kind. */
function* sortedByKind({ values, direction, nulls }: OrderColumn, order: Uint32Array<ArrayBuffer>): Steps<Uint32Array<ArrayBuffer>> {
  const only = (belongs: (value: Value) => boolean): OrderColumn => ({
    values: values.map((value) => (belongs(value) ? value : undefined)),
    direction,
    nulls,
  });
  const isNumber = (value: Value) => typeof value === 'number';
  const isText = (value: Value) => typeof value === 'string';
  const { values: others } = only((value) => !isNumber(value) && !isText(value));
  let sorted = yield* part(sortedBy(rankCodes(others, order.length, direction, nulls, false), order), 0, 0.3);
  sorted = yield* part(sortedByColumn(only(isText), sorted), 0.3, 0.8);
  sorted = yield* part(sortedByColumn(only(isNumber), sorted), 0.8, 0.95);
  const kinds = values.map((value) => (value === undefined || value === null ? null : Math.max(1, orderRank(value))));
  return yield* part(sortedByColumn({ values: kinds, direction, nulls }, sorted), 0.95, 1);
}

/** Fewer rows are sorted in one piece, without a look at how their values lie. */
const fewRows = 512;

const looked = 2_000;

/** Whether most of some values spread over the column are different, so that ranks would not pay. */
function manyDifferent(values: readonly Value[], length: number): boolean {
  if (length < fewRows) return false;
  const step = Math.max(1, Math.floor(length / looked));
  const seen = new Set<Value>();
  let count = 0;
  for (let i = 0; i < length; i += step, count++) seen.add(values[i]);
  return seen.size > count * 0.6;
}

/** Numbers that compare as the values of the column do, and the span of whole ones where they are ranks. */
interface Codes {
  readonly codes: Float64Array;
  /** Set where the codes are whole numbers from 0 to this. */
  readonly greatest?: number;
}

const afterAll = Number.POSITIVE_INFINITY;
const beforeAll = Number.NEGATIVE_INFINITY;

/**
 * Whether all values but null and missing are numbers, or texts; `endless` where numbers are beyond what a double holds
 * (a document may say 1e400), so that no code is left for null and missing.
 */
function kindsIn(values: readonly Value[], length: number): 'numbers' | 'endless' | 'texts' | 'mixed' {
  let numbers = false;
  let texts = false;
  let endless = false;
  for (let i = 0; i < length; i++) {
    const value = values[i];
    if (typeof value === 'number') {
      numbers = true;
      if (value === afterAll || value === beforeAll) endless = true;
    } else if (typeof value === 'string') texts = true;
    else if (value !== undefined && value !== null) return 'mixed';
  }
  if (numbers && texts) return 'mixed';
  if (endless) return 'endless';
  return texts ? 'texts' : 'numbers';
}

function numberCodes(values: readonly Value[], length: number, sign: 1 | -1, empty: number): Codes {
  const codes = new Float64Array(length);
  for (let i = 0; i < length; i++) {
    const value = values[i];
    codes[i] = typeof value === 'number' ? sign * value : empty;
  }
  return { codes };
}

/** Gives every different value its rank. Values repeat as a rule, and the ranks of n rows sort in n steps. */
function rankCodes(values: readonly Value[], length: number, direction: Direction, nulls: NullsPlace, texts: boolean): Codes {
  const ids = new Map<Value, number>();
  const idOf = new Uint32Array(length);
  const distinct: Value[] = [];
  for (let i = 0; i < length; i++) {
    const value = values[i] ?? null;
    let id = ids.get(value);
    if (id === undefined) {
      id = distinct.push(value) - 1;
      ids.set(value, id);
    }
    idOf[i] = id;
  }
  const byRank = texts
    ? textOrder(distinct as (string | null)[])
    : distinct.map((_, i) => i).sort((a, b) => compareValues(distinct[a], distinct[b]));
  const rankOf = new Float64Array(distinct.length);
  let rank = 0;
  byRank.forEach((id, i) => {
    if (i > 0 && !(texts ? distinct[byRank[i - 1]!] === distinct[id] : compareValues(distinct[byRank[i - 1]!], distinct[id]) === 0)) rank++;
    rankOf[id] = rank;
  });
  const greatest = rank + 2;
  const codes = new Float64Array(length);
  for (let i = 0; i < length; i++) {
    const id = idOf[i]!;
    // Whole numbers from 1 for values; 0 and the greatest are left for null and missing.
    if (orderRank(distinct[id]) >= 6) codes[i] = nulls === 'last' ? greatest : 0;
    else codes[i] = 1 + (direction === 'asc' ? rankOf[id]! : rank - rankOf[id]!);
  }
  return { codes, greatest };
}

/** The positions of different texts in order. The built-in sort compares code units, fast. */
function textOrder(texts: readonly (string | null)[]): number[] {
  const plain = texts.filter((text): text is string => text !== null);
  const position = new Map(texts.map((text, i) => [text, i]));
  if (plain.some(needsCodePoints)) plain.sort(compareText);
  else plain.sort();
  const order = plain.map((text) => position.get(text) as number);
  const empty = position.get(null);
  return empty === undefined ? order : [...order, empty];
}

function* sortedBy({ codes, greatest }: Codes, order: Uint32Array<ArrayBuffer>): Steps<Uint32Array<ArrayBuffer>> {
  const length = order.length;
  if (greatest !== undefined && greatest <= 4 * length + 1024) return countingSort(codes, greatest, order);
  const range = wholeRange(codes, 4 * length + 1024);
  if (range !== undefined) {
    const shifted = codes.map((code) => (code === afterAll ? range.greatest + 2 : code === beforeAll ? 0 : code - range.least + 1));
    return countingSort(shifted, range.greatest + 2, order);
  }
  yield* mergeSort(codes, order, 0, length);
  return order;
}

/** The least code and the distance of the greatest from it, where all are whole and lie near one another. */
function wholeRange(codes: Float64Array, widest: number): { least: number; greatest: number } | undefined {
  let least = afterAll;
  let most = beforeAll;
  for (const code of codes) {
    if (code === afterAll || code === beforeAll) continue;
    if (!Number.isInteger(code)) return undefined;
    if (code < least) least = code;
    if (code > most) most = code;
  }
  // Where all are null or missing there is nothing between.
  if (most === beforeAll) return { least: 0, greatest: 0 };
  return most - least <= widest ? { least, greatest: most - least } : undefined;
}

function countingSort(codes: Float64Array, greatest: number, order: Uint32Array): Uint32Array<ArrayBuffer> {
  const starts = new Uint32Array(greatest + 2);
  for (const code of codes) starts[code + 1]!++;
  for (let i = 1; i < starts.length; i++) starts[i]! += starts[i - 1]!;
  const sorted = new Uint32Array(order.length);
  for (const row of order) sorted[starts[codes[row]!]!++] = row;
  return sorted;
}
