import type { Json } from '@zesty-sieve/core/language';
import type { Random } from './random.ts';
import { setField, type Fields } from './reference/values.ts';

/** Sizes around every threshold that the engine has. */
const small = [0, 1, 2, 3, 5, 8, 13, 21, 40];
const middle = [64, 65, 100, 511, 512, 513, 600, 1_025];
const large = [2_049, 3_000, 3_000, 4_100, 8_200, 20_000];

export interface Sizes {
  /** How often collections are of middle and large sizes. */
  readonly middle: number;
  readonly large: number;
}

export function sizeOf(random: Random, { middle: m, large: l }: Sizes): number {
  const at = random.bits() / 2 ** 32;
  return random.pick(at < l ? large : at < l + m ? middle : small);
}

const beginnings = [
  '',
  '',
  'a',
  'bathtub',
  'bathtub row',
  'Béziers ',
  'Caen ',
  'abcdefg',
  'abcdefghijklmn',
  'ééé',
  'éééééé',
  '日本語',
  '😀😀',
  'x'.repeat(64),
];
const units = [
  'a',
  'b',
  'c',
  ' ',
  'é',
  'z',
  '\0',
  '"',
  "'",
  '\n',
  '😀',
  '\uffff',
  '\ue000',
  '\ud7ff',
  '\u0301',
  '\u007f',
  '\u0080',
  '\\',
  '0',
  '9',
];
const odd = [
  '',
  '\0',
  '"',
  '""',
  "'",
  'null',
  'true',
  '0',
  '00',
  '1',
  '1.0',
  '-0',
  '1e5',
  '\ud800',
  '\udc00x',
  'a\0"b',
  'b\0"c',
  'ß',
  'ẞ',
  'İ',
  'ﬁ',
  '2024-02-29',
  '2024-02-30',
  '2023-12-31T23:59:60Z',
  '2024-03-10T01:02:03.4567+02:00',
];

const numbers = [
  0,
  -0,
  1,
  2,
  3,
  4,
  5,
  7,
  -1,
  -2,
  0.1,
  0.2,
  0.5,
  1.5,
  2.5,
  -2.5,
  1.005,
  10,
  100,
  1e3,
  2 ** 31,
  2 ** 32,
  2 ** 53 - 1,
  2 ** 53,
  -(2 ** 53),
  1e16,
  -1e16,
  1e17,
  1e300,
  -1e300,
  1e308,
  1.7e308,
  1e-7,
  1e-320,
  5e-324,
  123456.789,
];

export function text(random: Random): string {
  return random.weighed<string>([
    [8, () => random.pick(beginnings) + random.list(0, 9, () => random.pick(units.slice(0, 3))).join('')],
    [4, () => random.pick(beginnings) + random.list(0, 9, () => random.pick(units)).join('')],
    [3, () => random.pick(odd)],
    [1, () => date(random)],
  ]);
}

/** Texts that could be taken for others, put side by side. */
const glued = ['a', 'b', 'c', 'a"b', 'b"c', '"c', 'a"', '"', '', 'a\0"b', 'b\0"c', '1:a', '"1:a', '#1;', '[', 'n', 't', '-'];

/** Texts that go on from one another, so that many end where others do not: at every place at which they are packed, too. */
function growing(random: Random): () => string {
  const made = random.list(1, 4, () => random.pick(beginnings));
  const alphabet = random.some(units, 6, 2);
  return () => {
    const next =
      random.pick(made) + Array.from({ length: random.pick([1, 1, 2, 3, 4, 6, 7, 8, 14]) }, () => random.pick(alphabet)).join('');
    if (next.length > 60 || random.chance(0.1)) made[random.below(made.length)] = random.pick(beginnings);
    made.push(next);
    if (made.length > 40) made.splice(random.below(made.length), 1);
    return next;
  };
}

export function date(random: Random): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const day = `${random.pick(['0000', '0099', '1970', '2023', '2024', '2100'])}-${two(1 + random.below(12))}-${two(1 + random.below(28))}`;
  if (random.chance(0.5)) return day;
  return `${day}T${two(random.below(24))}:${two(random.below(60))}:${two(random.below(60))}${random.pick(['', '.5', '.123', '.123456'])}${random.pick(['Z', '', '+02:00', '-11:30'])}`;
}

export function number(random: Random): number {
  return random.weighed<number>([
    [6, () => random.below(6) - 1],
    [3, () => random.pick(numbers)],
    [2, () => (random.below(2_000) - 1_000) / 100],
    [1, () => random.below(100_000)],
  ]);
}

export function scalar(random: Random): Json {
  return random.weighed<Json>([
    [5, () => random.below(5)],
    [2, () => number(random)],
    [4, () => text(random)],
    [1, () => random.pick([true, false])],
    [1, () => null],
  ]);
}

/** What is too large, too deep or too alike for comfort. */
function outsized(random: Random): Json {
  return random.weighed<Json>([
    [2, () => random.pick(['x', 'ab', '😀']).repeat(random.pick([2_000, 50_000])) + random.below(3)],
    [1, () => JSON.parse('['.repeat(490) + random.below(3) + ']'.repeat(490)) as Json],
    [1, () => JSON.parse('{"f":'.repeat(490) + random.below(3) + '}'.repeat(490)) as Json],
    [1, () => Array.from({ length: random.pick([300, 5_000]) }, (_, i) => (i * 7) % 11)],
    [2, () => random.pick<Json>([{ p: 1, q: 2 }, { q: 2, p: 1 }, { p: 1, q: [1, 2] }, { p: 1, q: [2, 1] }, { p: 1 }])],
  ]);
}

export function anything(random: Random, depth = 2): Json {
  if (depth === 0 || random.chance(0.7)) return scalar(random);
  if (random.chance(0.5)) return random.list(0, 4, () => anything(random, depth - 1));
  const made: Fields = {};
  for (const name of random.some(['a', 'b', 'x', '__proto__', 'length', '', '0'], 3)) setField(made, name, anything(random, depth - 1));
  return made;
}

/** How values of a field are made, the same for a whole collection: few different ones, many, uneven, all alike, or whatever. */
type Maker = (i: number) => Json | undefined;

/** @param isMany whether there are so many documents that most of a column's values may be different */
function makerOf(random: Random, isMany = false): Maker {
  const few = random.list(1, 4, () => scalar(random));
  const pool = random.list(2, 12, () => text(random));
  const common = scalar(random);
  const missing = random.pick([0, 0, 0.05, 0.3]);
  const maker = random.weighed<Maker>([
    [4, () => () => random.pick(few)],
    [3, () => () => random.below(4)],
    [3, () => () => random.pick(pool)],
    [isMany ? 8 : 2, () => () => text(random)],
    [isMany ? 12 : 2, () => growing(random)],
    [2, () => () => random.pick(glued)],
    [isMany ? 4 : 2, () => (i) => `${pool[0]}${i}`],
    [2, () => (i) => (i * 7_919) % 1_009],
    [2, () => () => number(random)],
    [2, () => () => (random.chance(0.9) ? common : scalar(random))],
    [1, () => () => common],
    [1, () => () => anything(random)],
    [1, () => () => (random.chance(isMany ? 0.002 : 0.1) ? outsized(random) : scalar(random))],
    [1, () => () => scalar(random)],
    [1, () => () => date(random)],
  ]);
  return (i) => (random.chance(missing) ? undefined : maker(i));
}

function element(random: Random, f: Maker, g: Maker, i: number): Json {
  if (random.chance(0.08)) return scalar(random);
  const made: Fields = {};
  const [one, other] = [f(i), g(i)];
  if (one !== undefined) made.f = one;
  if (other !== undefined) made.g = other;
  return made;
}

/** The documents of a collection: fields of all kinds, and `k` and `n` that other collections have alike. */
export function documents(random: Random, prefix: string, count: number, shared: Maker): Fields[] {
  const isMany = count >= 500;
  const isGlued = random.chance(0.12);
  const maker = (): Maker => (isGlued ? () => random.pick(glued.slice(0, 8)) : makerOf(random, isMany));
  const makers = {
    a: maker(),
    b: maker(),
    n: maker(),
    t: maker(),
    x: maker(),
    y: maker(),
    f: maker(),
    g: maker(),
  };
  const identity = random.weighed<(i: number) => Json>([
    [3, () => (i) => `${prefix}${i}`],
    [1, () => (i) => i],
    [1, () => (i) => (i === 0 ? 'Ann' : i === 7 ? 'é' : `Ann${1_000 - i}`)],
    [1, () => (i) => `Béziers ${i}`],
  ]);
  const hasOdd = random.chance(0.3);
  const emptiness = random.pick([0, 0, 0.2]);
  return Array.from({ length: count }, (_, i) => {
    const made: Fields = { id: identity(i) };
    const set = (name: string, value: Json | undefined) => value !== undefined && setField(made, name, value);
    set('k', shared(i));
    for (const name of ['a', 'b', 'n', 't'] as const) set(name, makers[name](i));
    if (!random.chance(emptiness)) {
      const inner: Fields = {};
      const [x, y] = [makers.x(i), makers.y(i)];
      if (x !== undefined) inner.x = x;
      if (y !== undefined) inner.y = y;
      set('o', random.chance(0.05) ? scalar(random) : inner);
    }
    if (!random.chance(emptiness))
      set(
        'list',
        random.chance(0.06) ? anything(random) : random.list(0, random.chance(0.02) ? 40 : 3, () => element(random, makers.f, makers.g, i)),
      );
    if (!random.chance(emptiness))
      set(
        'tags',
        random.chance(0.05) ? scalar(random) : random.list(0, 4, () => (random.chance(0.5) ? random.below(4) : (makers.t(i) ?? null))),
      );
    if (hasOdd && random.chance(0.6))
      for (const name of random.some(['__proto__', 'a.b', "it's", '', 'length', '0'], 3)) set(name, makers.x(i));
    return made;
  });
}

export function collections(random: Random, sizes: Sizes): { c: Fields[]; d: Fields[] } {
  const shared = makerOf(random);
  const c = documents(random, 'c', sizeOf(random, sizes), shared);
  return { c, d: documents(random, 'd', random.pick(c.length > 600 ? small : [...small, 64, 100]), shared) };
}
