import type { IndexRequest } from '@zesty-sieve/core';
import type { Json } from '@zesty-sieve/core/language';
import type { Focus } from './focus.ts';
import { literalOf } from './literals.ts';
import type { Question } from './questions.ts';
import type { Random } from './random.ts';
import { setField, type Fields } from './reference/values.ts';
import type { Step } from './world.ts';

/**
 * Small worlds that are about one thing: few values that meet often, the indexes that this thing takes, and the questions
 * that have to do with it. What is rare in worlds of every kind is common in these.
 */
export interface Theme {
  readonly c: Fields[];
  readonly d: Fields[];
  readonly steps: Step[];
  readonly focus: Focus;
  readonly ask: () => Question;
}

const values: readonly (Json | undefined)[] = [0, 1, 2, 3, 'a', 'ab', 'b', 'null', null, undefined, true, [1], { f: 1 }];

/** Side by side, two of them could be taken for two others. */
const glued = ['a', 'b', 'c', 'a"b', 'b"c', 'c"a', 'a\0"b'];

function few(random: Random): (Json | undefined)[] {
  return random.chance(0.25) ? glued : random.some(values, 5, 3);
}

function build(collection: 'c' | 'd', index: IndexRequest): Step {
  return { kind: 'build', collection, index };
}

function documentsOf(random: Random, prefix: string, count: number, pool: readonly (Json | undefined)[]): Fields[] {
  return Array.from({ length: count }, (_, i) => {
    const made: Fields = { id: `${prefix}${i}` };
    for (const name of ['a', 'b', 'n', 'k']) {
      const value = random.pick(pool);
      if (value !== undefined) setField(made, name, value);
    }
    made.tags = random.list(0, 4, () => random.pick(pool) ?? 1);
    made.list = random.list(0, 3, () => ({ f: random.pick(pool) ?? 2 }));
    return made;
  });
}

/** Conditions that several indexes serve: unions, intersections, ranges, walks in order, pages of them. */
export function aboutIndexes(random: Random): Theme {
  const pool = few(random);
  const c = documentsOf(random, 'c', random.pick([12, 40, 40, 150]), pool);
  const fields = ['@.a', '@.b', '@.n'];
  const constants = pool.flatMap((value) => (value === undefined ? [] : (literalOf(value) ?? [])));
  const constant = () => (constants.length === 0 ? '1' : random.pick(constants));
  const steps = [
    ...fields.map((key) => build('c', { keys: [key + random.pick(['', ' desc'])] })),
    build('c', { keys: random.some(fields, 3, 2).map((key) => key + random.pick(['', ' desc'])) }),
    ...(random.chance(0.4) ? [build('c', { keys: ['@.tags[*]'] })] : []),
  ];
  const one = (): string =>
    random.weighed([
      [6, () => `${random.pick(fields)} ${random.pick(['==', '<', '<=', '>', '>='])} ${constant()}`],
      [1, () => `${random.pick(fields)} in [${constant()}, ${constant()}]`],
      [2, () => random.pick(['', '!']) + random.pick(fields)],
      [1, () => `starts_with(${random.pick(fields)}, "a")`],
      [1, () => `includes(@.tags, ${constant()})`],
    ]);
  const ask = (): Question => {
    const condition = random.weighed([
      [3, () => one()],
      [4, () => `${one()} && ${one()}`],
      [3, () => `${one()} || ${one()}`],
      [3, () => `(${one()} || ${one()}) && ${one()}`],
      [1, () => `${one()} && ${one()} && ${one()}`],
    ]);
    const keys = random.list(1, 2, () => random.pick(fields) + random.pick(['', ' desc']) + random.pick(['', ' nulls first']));
    const order = random.chance(0.6) ? [`order by ${keys.join(', ')}`] : [];
    const page = [
      ...(random.chance(0.3) ? [`offset ${random.pick([1, 2, 5])}`] : []),
      ...(random.chance(0.5) ? [`limit ${random.pick([1, 3, 9])}`] : []),
    ];
    const last = random.chance(0.3)
      ? [
          random.pick([
            'group by @.a measure n = count()',
            'group by @.b, @.n',
            'group all measure n = count(), least = min(@.a), most = max(@.a)',
            'select @.a, @.n',
          ]),
        ]
      : [];
    return { lines: [`where ${condition}`, ...order, ...page, ...last], parameters: {} };
  };
  return { c, d: [], steps, focus: { fields, conditions: [one()] }, ask };
}

/** Joins of every kind over keys that are there or not, null, lists, and objects that are none. */
export function aboutJoins(random: Random): Theme {
  const pool = few(random);
  const c = documentsOf(random, 'c', random.pick([6, 20]), pool);
  const d = documentsOf(random, 'd', random.pick([4, 12]), pool);
  const steps = ['@.k', '@.a', '@.tags[*]', '@.list[*].f'].filter(() => random.chance(0.7)).map((key) => build('d', { keys: [key] }));
  const ask = (): Question => {
    const on = random.weighed([
      [3, () => `p.k == @.${random.pick(['k', 'a', 'n'])}`],
      [4, () => `p.k == @.k && p.${random.pick(['a', 'b'])} == @.${random.pick(['a', 'b', 'n'])}`],
      [2, () => `p.k in @.${random.pick(['tags', 'list[*].f', 'a'])}`],
      [2, () => `@.k in p.${random.pick(['tags', 'list[*].f', 'list', 'a'])}`],
      [1, () => `(p.k == @.k || p.a == @.b)`],
      [1, () => `p.k == @.k && count(p.list[?@.f == p.a]) ${random.pick(['==', '<'])} count(@.tags[?@ == p.k])`],
      [1, () => `@.list[0:2][?@.f == p.k]`],
      [1, () => `p.a == @.a && p.n != 1 && @.b == 1`],
    ]);
    const kind = random.pick(['join', 'left join', 'gather join']);
    const last = random.pick([
      '',
      '',
      'where @.p.a == 1',
      'order by @.p.n, @.a desc\nlimit 5',
      'group by @.p.k as g measure n = count(), s = sum(@.p.n)',
      'unnest @.p.tags as e keep empty',
      'select @.id, @.p.id as partner',
    ]);
    return { lines: [`${kind} d as p on ${on}`, ...(last === '' ? [] : last.split('\n'))], parameters: {} };
  };
  return { c, d, steps, focus: { fields: ['@.a', '@.k'], conditions: ['@.k'] }, ask };
}

const measured: readonly (Json | undefined)[] = [0.1, 0.2, 0.3, 1.005, 42.55, -7.125, 1e16, -1e16, 3, 3, 4, null, undefined, 'x'];

/** What is done with rows: groups, ranks, orders of which few are wanted, pages, elements taken apart; of numbers with fractions. */
export function aboutRows(random: Random): Theme {
  const pool = few(random);
  const c = documentsOf(random, 'c', random.pick([9, 30, 90]), pool).map((one): Fields => {
    const made = { ...one };
    for (const name of ['x', 'y']) {
      const value = random.pick(measured);
      if (value !== undefined) made[name] = value;
    }
    return made;
  });
  const steps = random.chance(0.5) ? [build('c', { keys: ['@.x'] }), build('c', { keys: ['@.a', '@.y desc'] })] : [];
  const key = () => random.pick(['@.a', '@.b', '@.n', '@.x', '@.y']);
  const orderKey = () => key() + random.pick(['', ' desc']) + random.pick(['', '', ' nulls first']);
  const measure = (i: number) =>
    `m${i} = ${random.pick(['sum', 'avg', 'min', 'max', 'median', 'stddev', 'first', 'last', 'collect', 'count_distinct'])}(${random.pick(['@.x', '@.x', '@.y', '@.a'])})`;
  const ask = (): Question => {
    const orders = `order by ${random.list(1, 3, orderKey).join(', ')}`;
    const page = [...(random.chance(0.4) ? [`offset ${random.pick([1, 2, 4])}`] : []), `limit ${random.pick([1, 2, 5, 12])}`];
    const lines = random.weighed<() => string[]>([
      [
        3,
        () => () => [
          `group by ${random.list(1, 2, (i) => `${key()} as g${i}`).join(', ')} measure ${random.list(1, 3, measure).join(', ')}`,
        ],
      ],
      [2, () => () => [orders, `group all measure ${random.list(1, 3, measure).join(', ')}`]],
      [3, () => () => [orders, ...page]],
      [
        3,
        () => () => {
          const ranked = `${random.pick(['rank', 'dense rank', 'row number'])} as r${random.chance(0.6) ? ` partition by ${key()}` : ''} ${orders}`;
          return random.chance(0.5) ? [ranked, `where @.r <= ${random.pick([1, 2, 4])}`] : [ranked];
        },
      ],
      [
        2,
        () => () => [
          `unnest @.${random.pick(['tags', 'list'])} as e${random.chance(0.4) ? ' keep empty' : ''}`,
          `group by @.${random.pick(['e', 'a', 'e.f'])} as g measure ${random.list(1, 2, measure).join(', ')}`,
        ],
      ],
      [1, () => () => [`unnest @.tags as e`, orders, ...page]],
    ])();
    return { lines, parameters: {} };
  };
  return { c, d: [], steps, focus: { fields: ['@.a', '@.x'], conditions: ['@.x'] }, ask };
}
