import type { Value } from './json.ts';
import { mergeSort } from './mergeSort.ts';
import { compareText, type NullsPlace } from './order.ts';
import { part, type Steps } from './steps.ts';

/** Texts that are looked at in one step. */
const stretch = 65_536;

/** Groups of ties at most this large are sorted by comparing their texts. */
const smallGroup = 8;

/** Texts that tie up to a place in them: the rows from one place of the order up to another. */
interface Group {
  readonly from: number;
  readonly to: number;
  readonly place: number;
}

/** What is at work: rows are put in order by their texts, each by the number that its next stretch was packed into. */
interface Sorting {
  readonly texts: readonly string[];
  readonly rows: Uint32Array<ArrayBuffer>;
  readonly sign: 1 | -1;
  readonly codes: Float64Array<ArrayBuffer>;
}

/**
 * Sorts rows by texts of which most differ (null and missing first or last), stable. Stretches of a few characters
 * are packed into one number each: rows are sorted by the first stretch, and those that tie by the next. Numbers
 * compare far faster than texts.
 */
export function* sortTexts(
  values: readonly Value[],
  order: Uint32Array<ArrayBuffer>,
  sign: 1 | -1,
  nulls: NullsPlace,
): Steps<Uint32Array<ArrayBuffer>> {
  const length = order.length;
  const rows = new Uint32Array(length);
  const empty = order.filter((row) => typeof values[row] !== 'string');
  const start = nulls === 'first' ? empty.length : 0;
  const end = start + length - empty.length;
  let at = start;
  for (const row of order) if (typeof values[row] === 'string') rows[at++] = row;
  rows.set(empty, nulls === 'first' ? 0 : end);
  if (end - start < 2) return rows;
  const texts = values as readonly string[];
  if (yield* isInOrder(texts, rows.subarray(start, end), sign)) return rows;
  const codes = new Float64Array(values.length);
  const sorting: Sorting = { texts, rows, sign, codes };
  // A stack of groups, rather than calls as deep as texts are long.
  const groups: Group[] = [{ from: start, to: end, place: sharedBeginning(texts, rows.subarray(start, end)) }];
  let done = 0;
  let sinceStep = 0;
  for (let group = groups.pop(); group !== undefined; group = groups.pop()) {
    const { from, to, place } = group;
    sinceStep += to - from;
    if (sinceStep > stretch) {
      sinceStep = 0;
      yield done;
    }
    if (to - from <= smallGroup) {
      insertByText(texts, rows, from, to, sign);
      continue;
    }
    const next = yield* packed(sorting, group, done);
    // Every pass over most of the texts brings them about half of what is left nearer to their order.
    const after = to - from > stretch ? done + (1 - done) / 2 : done;
    yield* part(mergeSort(codes, rows, from, to), done, after);
    done = after;
    pushTies(sorting, { from, to, place: place + next }, groups);
  }
  return rows;
}

/** Identities often come in their own order: whether nothing is left to do. The first that is not in its place ends the look. */
function* isInOrder(texts: readonly string[], rows: Uint32Array, sign: 1 | -1): Steps<boolean> {
  for (let i = 1; i < rows.length; i++) {
    if (compareText(texts[rows[i - 1]!]!, texts[rows[i]!]!) * sign > 0) return false;
    if (i % stretch === 0) yield 0;
  }
  return true;
}

/** How many of the first units all texts begin with alike. */
function sharedBeginning(texts: readonly string[], rows: Uint32Array): number {
  const first = texts[rows[0]!]!;
  let shared = first.length;
  for (const row of rows) {
    const text = texts[row]!;
    if (shared > text.length) shared = text.length;
    for (let i = 0; i < shared; i++) {
      if (text.charCodeAt(i) !== first.charCodeAt(i)) shared = i;
    }
    if (shared === 0) return 0;
  }
  return shared;
}

/** How many units make one number, and the base of its digits; 0 stands for the end of a text. */
interface Packing {
  readonly units: number;
  readonly base: number;
  readonly greatest: number;
}
const ascii: Packing = { units: 7, base: 129, greatest: 127 };
const anyUnit: Packing = { units: 3, base: 0x1_0001, greatest: 0xffff };

/** Packs the next stretch of a group's texts, as densely as what stands in it allows; gives how many units that was. */
function* packed(sorting: Sorting, { from, to, place }: Group, done: number): Steps<number> {
  for (const packing of [ascii, anyUnit]) {
    let fits = true;
    for (let at = from; fits && at < to; at += stretch) {
      fits = packAll(sorting, { from: at, to: Math.min(at + stretch, to), place }, packing);
      if (to - from > stretch) yield done;
    }
    if (fits) return packing.units;
  }
  throw new Error('a unit of UTF-16 is above 0xFFFF');
}

/** @returns whether every unit of the stretch is one that the packing has a digit for */
function packAll({ texts, rows, sign, codes }: Sorting, { from, to, place }: Group, { units, base, greatest }: Packing): boolean {
  for (let i = from; i < to; i++) {
    const text = texts[rows[i]!]!;
    let code = 0;
    for (let k = place; k < place + units; k++) {
      let digit = 0;
      if (k < text.length) {
        const unit = text.charCodeAt(k);
        if (unit > greatest) return false;
        digit = 1 + rankOf(unit);
      }
      code = code * base + digit;
    }
    codes[rows[i]!] = sign * code;
  }
  return true;
}

/** Units in the order of the code points that they are part of: surrogates after all others. From 0 to 0xFFFF. */
function rankOf(unit: number): number {
  if (unit < 0xd800) return unit;
  return unit <= 0xdfff ? unit + 0x2000 : unit - 0x800;
}

/** Rows of equal codes are a group of the next place, as long as any of their texts goes on there. */
function pushTies({ texts, rows, codes }: Sorting, { from, to, place }: Group, groups: Group[]): void {
  let goesOn = false;
  for (let first = from, i = from; i < to; i++) {
    if (codes[rows[i]!] !== codes[rows[first]!]) {
      first = i;
      goesOn = false;
    }
    goesOn ||= texts[rows[i]!]!.length > place;
    const isLast = i + 1 === to || codes[rows[i + 1]!] !== codes[rows[i]!];
    if (isLast && goesOn && i > first) groups.push({ from: first, to: i + 1, place });
  }
}

function insertByText(texts: readonly string[], rows: Uint32Array, from: number, to: number, sign: number): void {
  for (let i = from + 1; i < to; i++) {
    const row = rows[i]!;
    let j = i - 1;
    for (; j >= from && sign * compareText(texts[rows[j]!]!, texts[row]!) > 0; j--) rows[j + 1] = rows[j]!;
    rows[j + 1] = row;
  }
}
