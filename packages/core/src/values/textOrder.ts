import type { Value } from './json.ts';
import { mergeSort } from './mergeSort.ts';
import { compareText, type NullsPlace } from './order.ts';

/** Groups of ties at most this large are sorted by comparing their texts. */
const smallGroup = 8;

/**
 * Sorts rows by texts of which most differ (null and missing first or last), stable. Stretches of a few characters
 * are packed into one number each: rows are sorted by the first stretch, and those that tie by the next. Numbers
 * compare far faster than texts.
 */
export function sortTexts(
  values: readonly Value[],
  order: Uint32Array<ArrayBuffer>,
  sign: 1 | -1,
  nulls: NullsPlace,
): Uint32Array<ArrayBuffer> {
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
  const packing = packingOf(texts, rows.subarray(start, end));
  const codes = new Float64Array(values.length);
  // A stack of groups that tie up to a place in their texts, rather than calls as deep as texts are long.
  const groups: { from: number; to: number; place: number }[] = [{ from: start, to: end, place: packing.shared }];
  for (let group = groups.pop(); group !== undefined; group = groups.pop()) {
    const { from, to, place } = group;
    if (to - from <= smallGroup) {
      insertByText(texts, rows, from, to, sign);
      continue;
    }
    for (let i = from; i < to; i++) codes[rows[i]] = sign * pack(texts[rows[i]], place, packing);
    mergeSort(codes, rows, from, to);
    for (let first = from, i = from + 1; i <= to; i++) {
      if (i < to && codes[rows[i]] === codes[rows[first]]) continue;
      // Texts that end within the stretch and tie are equal.
      const goesOn = texts[rows[first]].length > place + packing.characters;
      if (i - first > 1 && goesOn) groups.push({ from: first, to: i, place: place + packing.characters });
      first = i;
    }
  }
  return rows;
}

interface Packing {
  /** How many characters all texts begin with alike. */
  readonly shared: number;
  /** How many make one number, and the base of its digits; 0 stands for the end of a text. */
  readonly characters: number;
  readonly base: number;
}

const ascii: Omit<Packing, 'shared'> = { characters: 7, base: 129 };
const anyUnit: Omit<Packing, 'shared'> = { characters: 3, base: 0x1_2001 };

function packingOf(texts: readonly string[], rows: Uint32Array): Packing {
  const first = texts[rows[0]];
  let shared = first.length;
  let isAscii = true;
  for (const row of rows) {
    const text = texts[row];
    if (shared > text.length) shared = text.length;
    for (let i = 0; i < shared; i++) {
      if (text.charCodeAt(i) !== first.charCodeAt(i)) shared = i;
    }
    for (let i = shared; isAscii && i < text.length; i++) if (text.charCodeAt(i) > 127) isAscii = false;
  }
  // Half a surrogate pair is not a place to begin at.
  while (shared > 0 && (first.charCodeAt(shared - 1) & 0xfc00) === 0xd800) shared--;
  return { shared, ...(isAscii ? ascii : anyUnit) };
}

function pack(text: string, place: number, { characters, base }: Packing): number {
  let code = 0;
  for (let i = place; i < place + characters; i++) code = code * base + (i < text.length ? 1 + rankOf(text.charCodeAt(i)) : 0);
  return code;
}

/** Units in the order of the code points that they are part of: surrogates after all others. */
function rankOf(unit: number): number {
  if (unit < 0xd800) return unit;
  return unit <= 0xdfff ? unit + 0x2000 : unit - 0x800;
}

function insertByText(texts: readonly string[], rows: Uint32Array, from: number, to: number, sign: number): void {
  for (let i = from + 1; i < to; i++) {
    const row = rows[i];
    let j = i - 1;
    for (; j >= from && sign * compareText(texts[rows[j]], texts[row]) > 0; j--) rows[j + 1] = rows[j];
    rows[j + 1] = row;
  }
}
