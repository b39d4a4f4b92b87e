import type { Value } from './json.ts';
import { mergeSort } from './mergeSort.ts';
import { compareText, type NullsPlace } from './order.ts';
import { atOnce, part, type Steps } from './steps.ts';

/** Texts that are looked at in one step. */
const stretch = 65_536;

/** Of the whole work: what looking the texts through takes. */
const firstShare = 0.1;

/** Groups of ties at most this large are sorted by comparing their texts. */
const smallGroup = 8;

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
  const packing = yield* part(packingOf(texts, rows.subarray(start, end)), 0, firstShare);
  const codes = new Float64Array(values.length);
  // A stack of groups that tie up to a place in their texts, rather than calls as deep as texts are long.
  const groups: { from: number; to: number; place: number }[] = [{ from: start, to: end, place: packing.shared }];
  let done = firstShare;
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
    if (to - from <= stretch) {
      packAll(texts, rows, from, to, place, sign, packing, codes);
      atOnce(mergeSort(codes, rows, from, to));
    } else {
      // Every pass over most of the texts brings them about half of what is left nearer to their order.
      const next = done + (1 - done) / 2;
      for (let at = from; at < to; at += stretch) {
        packAll(texts, rows, at, Math.min(at + stretch, to), place, sign, packing, codes);
        yield done;
      }
      yield* part(mergeSort(codes, rows, from, to), done, next);
      done = next;
    }
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

function* packingOf(texts: readonly string[], rows: Uint32Array): Steps<Packing> {
  const first = texts[rows[0]];
  let shared = first.length;
  let isAscii = true;
  for (let from = 0; from < rows.length; from += stretch) {
    for (const row of rows.subarray(from, from + stretch)) {
      const text = texts[row];
      if (shared > text.length) shared = text.length;
      for (let i = 0; i < shared; i++) {
        if (text.charCodeAt(i) !== first.charCodeAt(i)) shared = i;
      }
      for (let i = shared; isAscii && i < text.length; i++) if (text.charCodeAt(i) > 127) isAscii = false;
    }
    yield from / rows.length;
  }
  // Half a surrogate pair is not a place to begin at.
  while (shared > 0 && (first.charCodeAt(shared - 1) & 0xfc00) === 0xd800) shared--;
  return { shared, ...(isAscii ? ascii : anyUnit) };
}

function packAll(
  texts: readonly string[],
  rows: Uint32Array,
  from: number,
  to: number,
  place: number,
  sign: number,
  packing: Packing,
  codes: Float64Array,
): void {
  for (let i = from; i < to; i++) codes[rows[i]] = sign * pack(texts[rows[i]], place, packing);
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
