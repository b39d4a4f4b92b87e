import type { IndexRequest } from '@zesty-sieve/core';
import type { Json } from '@zesty-sieve/core/language';
import type { Fields } from './reference/values.ts';
import type { Case } from './world.ts';

/** Every fault that was ever found, by what it was: each stays here, and is asked in every way. */
interface Named {
  readonly name: string;
  readonly c: readonly Fields[];
  readonly d?: readonly Fields[];
  readonly indexes?: readonly (IndexRequest & { readonly of?: 'c' | 'd' })[];
  readonly asked: readonly string[];
  readonly parameters?: Readonly<Record<string, Json>>;
}

const many = (count: number, make: (i: number) => Fields): Fields[] => Array.from({ length: count }, (_, i) => ({ id: i, ...make(i) }));
const tubs = many(512, (i) => ({ t: i < 3 ? ['bathtub', 'bathtub row', 'bathtub man'][i] : `x${i}` }));
const towns = many(1_200, (i) => ({ t: `${i % 2 ? 'Béziers' : 'Caen'} ${i}` }));
const uneven = many(2_000, (i) => ({ ...(i % 20 > 0 && { size: i }), state: i % 19 === 0 ? 'x' : 'y' }));

export const named: readonly Named[] = [
  {
    name: 'a filter that asks the row for what it has no more',
    c: [
      { id: 'c0', list: [{}] },
      { id: 'c1', list: [{ f: 1 }] },
    ],
    asked: ['compute t = 1\nselect @.id, @.list\nwhere @.list[?@.f == $.t]', 'compute t = 1\nselect @.id, @.list\nwhere any(@.list, @.f == $.t)', 'rank as t order by @.id\ngroup by @.list\nwhere @.list[?@.f == $.t]'], // prettier-ignore
  },
  { name: 'texts that end with a packed stretch, in order', c: tubs, asked: ['order by @.t', 'order by @.t desc\nlimit 3'] },
  {
    name: 'texts that end with a packed stretch, by index',
    c: tubs,
    indexes: [{ keys: ['@.t'] }],
    asked: ['where @.t == "bathtub row"', 'where starts_with(@.t, "bathtub")\norder by @.t'],
  },
  {
    name: 'a change of a text that ends with a packed stretch',
    c: tubs,
    indexes: [{ keys: ['@.t'] }],
    asked: ['where @.t == "bathtub man"\ndelete'],
  },
  {
    name: 'a beginning that is not ASCII',
    c: towns,
    indexes: [{ keys: ['@.t'] }],
    asked: ['order by @.t', 'where @.t == "Béziers 17"', 'where @.t > "Béziers 9"\norder by @.t\nlimit 5'],
  },
  {
    name: 'identities of which one is not ASCII',
    c: many(513, (i) => ({ id: i === 0 ? 'Ann' : i === 512 ? 'é' : `Ann${1_000 - i}` })),
    asked: ['where @.id == "Ann700"', 'where @.id == "é"', 'where @.id == "Ann"'],
  },
  {
    name: 'an intersection with a walk that leaves null and missing for later',
    c: uneven,
    indexes: [{ keys: ['@.size'] }, { keys: ['@.state'] }],
    asked: ['where (@.size > 1899 || !@.size) && @.state == "x"\norder by @.size'],
  },
  {
    name: 'a condition beside one that may be missing, walked in order',
    c: [{ id: 1, a: 1 }, { id: 2 }, { id: 3, n: 'b' }],
    indexes: [{ keys: ['@.a desc', '@.n', '@.b'] }],
    asked: ['where (!@.a || @.a in ["null", "ab"]) && @.n > "ab"\norder by @.a'],
  },
  {
    name: '$ in a filter of a join that goes by index',
    c: [{ id: 1, k: 1, n: 1, a: 7 }],
    d: [{ id: 1, k: 1, a: 2, list: [{ f: 2 }, { f: 7 }] }],
    indexes: [{ of: 'd', keys: ['@.k'] }],
    asked: [
      'join d as p on p.k == @.k && count(p.list[?@.f == p.a]) == @.n',
      'join d as p on p.k == @.k && count(p.list[?@.f == $.a]) == @.n',
    ],
  },
  {
    name: 'an object is no list',
    c: [{ id: 1, k: 1 }],
    d: [
      { id: 1, list: { a: 1 } },
      { id: 2, list: [1] },
    ],
    indexes: [{ of: 'd', keys: ['@.list[*]'] }],
    asked: ['join d as p on @.k in p.list', 'where 1 in @.list'],
  },
  {
    name: 'a list of what a path selects',
    c: [{ id: 1, k: 3 }],
    d: [
      { id: 1, list: [{ f: [3, 4] }] },
      { id: 2, list: [{ f: 3 }] },
    ],
    indexes: [{ of: 'd', keys: ['@.list[*].f'] }],
    asked: ['join d as p on @.k in p.list[*].f'],
  },
  {
    name: 'keys of two texts that would be one',
    c: [
      { id: 1, a: 'a\0"b', b: 'c' },
      { id: 2, a: 'a', b: 'b\0"c' },
    ],
    d: [{ id: 1, a: 'a', b: 'b\0"c' }],
    asked: ['join d as p on p.a == @.a && p.b == @.b', 'group by @.a, @.b measure n = count()'],
  },
  {
    name: 'a group of deep values',
    c: [
      { id: 1, a: JSON.parse('['.repeat(200) + ']'.repeat(200)) as Json },
      { id: 2, a: JSON.parse('['.repeat(200) + ']'.repeat(200)) as Json },
    ],
    asked: ['group by @.a measure n = count()', 'group all measure n = count_distinct(@.a)'],
  },
  {
    name: 'a key that is written from the whole row',
    c: [
      { id: 1, a: 1 },
      { id: 2, a: 2 },
    ],
    indexes: [{ keys: ['$.a'] }],
    asked: ['where @.a == 1', 'where $.a == 2\norder by $.a'],
  },
  {
    name: 'sums whose terms come in another order',
    c: [
      { id: 1, a: 1e16, b: 1 },
      { id: 2, a: 1, b: 3 },
      { id: 3, a: -1e16, b: 2 },
    ],
    asked: ['order by @.b\ngroup all measure s = sum(@.a), m = avg(@.a), d = stddev(@.a)', 'group all measure s = sum(@.a)'],
  },
  {
    name: 'a partner in a filter after a slice',
    c: [{ id: 1, parts: [1, 2, 3] }],
    d: [{ id: 1, n: 2 }],
    asked: ['join d as p on @.parts[0:2][?@ == p.n]', 'join d as p on @..[?@ == p.n]'],
  },
  {
    name: 'an element in a filter after ..',
    c: [{ id: 1, list: [{ f: 1 }, { f: 2 }] }],
    asked: ['unnest @.list as e\nwhere @.list..[?@.f == $.e.f]\ngroup all measure n = count()'],
  },
  {
    name: 'an unnest of a path to several',
    c: [{ id: 1, parts: [{ qty: 5 }, { qty: 1 }, { qty: 4 }] }, { id: 2 }],
    asked: ['unnest @.parts[?@.qty > 3] as e keep empty', 'unnest @.parts[*].qty as e with position as at'],
  },
  {
    name: 'an index advised on the elements of two arrays',
    c: many(600, (i) => ({ b: i, parts: [{ f: i % 3, g: i % 5 }] })),
    asked: ['where @.parts[?@.f == 2 && @.g == 2]\ngroup all measure m0 = max(@.b)'],
  },
  {
    name: 'an order with a parameter in its key, of many',
    c: many(600, (i) => ({ a: i % 7 })),
    asked: [
      'where @.a == 3\norder by @.a + :p\nlimit 3',
      'group by @.a + :p as g measure n = count()',
      'group all measure m = max(@.a + :p)',
    ],
    parameters: { p: 2 },
  },
  {
    name: 'null inside arrays and objects',
    c: many(40, (i) => ({ a: [[null, {}, [], 'x', 1, true][i % 6] as Json] })),
    asked: ['order by @.a', 'select sorted_of([@.a, null, {}, 1]) as s'],
  },
  {
    name: 'elements that are left out by their places',
    c: [{ id: 1, list: ['a', 'b', 'c'] }],
    asked: ['omit @.list[0], @.list[1]', 'remove @.list[0], @.list[1]'],
  },
  {
    name: 'a literal that is less than another',
    c: [{ id: 1 }],
    asked: ['where null < 1', 'where 1 > null', 'where "a" < 1', 'where true < 2'],
  },
  {
    name: 'numbers too large to be shifted before they are rounded',
    c: [
      { id: 1, a: 1.7e308 },
      { id: 2, a: 4503599627370495.5 },
      { id: 3, a: 1.005 },
    ],
    asked: ['select @.id, round(@.a, 3) as r, round(@.a) as w, round(@.a, -2) as h'],
  },
  {
    name: 'patterns with anchors at their ends',
    c: [
      { id: 1, t: 'abc' },
      { id: 2, t: 'xabc' },
      { id: 3, t: '^abc$' },
    ],
    asked: ['where search(@.t, "^a")', 'where search(@.t, "c$")', 'where match(@.t, "^abc$")', 'where search(@.t, "^a|x")'],
  },
  {
    name: 'patterns that go back far',
    c: [{ id: 1, t: 'a'.repeat(40) }],
    asked: [`where match(@.t, "${'(a|a)'.repeat(35)}b")`, `where match(@.t, "${'a?'.repeat(20)}${'a'.repeat(35)}")`],
  },
  {
    name: 'equal values that are written otherwise',
    c: [
      { id: 1, a: { x: 1, y: 2 } },
      { id: 2, a: { y: 2, x: 1 } },
    ],
    indexes: [{ keys: ['@.a'] }, { keys: ['@.a desc', '@.id desc'] }],
    asked: [
      'group all measure least = min(@.a), most = max(@.a)',
      'order by @.id desc\ngroup all measure m = max(@.a)',
      'group by @.a measure n = count()',
    ],
  },
];

/** The questions of a named fault, one by one. */
export function casesOf({ c, d = [], indexes = [], asked, parameters = {} }: Named): Case[] {
  const steps = indexes.map(({ of = 'c', ...index }) => ({ kind: 'build', collection: of, index }) as const);
  return asked.map((text) => ({ c, d, steps, lines: text.split('\n'), parameters }));
}
