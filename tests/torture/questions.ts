import type { Json } from '@zesty-sieve/core/language';
import { scalar } from './data.ts';
import type { Focus } from './focus.ts';
import { literalOf } from './literals.ts';
import type { Random } from './random.ts';
import type { Fields } from './reference/values.ts';
import { valuesIn } from './values.ts';

/** What a question may speak of: fields that rows have by now, and values that are found in the documents. */
interface Known {
  readonly random: Random;
  readonly values: readonly Json[];
  readonly focus: Focus;
  /** Names at the top of a row that earlier lines have made. */
  readonly made: string[];
  readonly parameters: Record<string, Json>;
}

/** A constant: one that documents have as a rule, as a literal or a parameter. */
function constant(known: Known, wanted?: (value: Json) => boolean): string {
  const { random, values, parameters } = known;
  for (let tries = 0; tries < 8; tries++) {
    const value = random.chance(0.8) && values.length > 0 ? random.pick(values) : scalar(random);
    if (wanted !== undefined && !wanted(value)) continue;
    if (random.chance(0.15)) {
      const name = `p${Object.keys(parameters).length}`;
      parameters[name] = value;
      return `:${name}`;
    }
    const literal = literalOf(value);
    if (literal !== undefined) return literal;
  }
  return String(random.below(4));
}
const textConstant = (known: Known): string => constant(known, (value) => typeof value === 'string');

const plainFields = ['@.a', '@.b', '@.n', '@.t', '@.k', '@.o.x', '@.o.y', '@.id'];
const oddFields = [
  '@["a.b"]',
  '@["__proto__"]',
  "@['it\\'s']",
  '@[""]',
  '@.length',
  '@["0"]',
  '@.list[0]',
  '@.list[-1].f',
  '@.tags[1]',
  '@.o',
  '@.list',
  '@.tags',
  '@.none',
  '$.a',
  '$.o.x',
];

/** A single path on a row. */
function single(known: Known): string {
  const { random, made } = known;
  return random.weighed([
    [14, () => random.pick(known.focus.fields)],
    [3, () => random.pick(plainFields)],
    [made.length > 0 ? 5 : 0, () => `@.${random.pick(made)}${random.pick(['', '', '.f', '.a', '.x', '.k'])}`],
    [2, () => random.pick(oddFields)],
  ]);
}

function several(known: Known, depth: number): string {
  const { random } = known;
  return random.weighed([
    [3, () => '@.list[*].f'],
    [2, () => '@.tags[*]'],
    [3, () => `@.list[?${elementCondition(known, depth)}]`],
    [2, () => `@.list[?${elementCondition(known, depth)}].g`],
    [2, () => `@.tags[?@ ${random.pick(['==', '<', '>', '!='])} ${constant(known)}]`],
    [1, () => `@.list[0:2][?${elementCondition(known, depth)}]`],
    [1, () => `@..[?${elementCondition(known, depth)}]`],
    [1, () => `@.list[0, -1]`],
    [1, () => '@..f'],
    [1, () => '@.*'],
    [1, () => `@.o[*]`],
    [1, () => `@.tags[${random.pick(['1:', ':2', '::-1', '-2:', '::2'])}]`],
    [known.made.length > 0 ? 1 : 0, () => `@.${random.pick(known.made)}[*]`],
  ]);
}

/** A condition on an element, which may look out at the row. */
function elementCondition(known: Known, depth: number): string {
  const { random } = known;
  const field = () => random.pick(['@.f', '@.g', '@']);
  const one = (): string =>
    random.weighed([
      [5, () => `${field()} ${random.pick(['==', '!=', '<', '<=', '>', '>='])} ${constant(known)}`],
      [2, () => `${field()} == $${single(known).slice(1)}`],
      [1, () => `${field()} in [${constant(known)}, ${constant(known)}]`],
      [1, () => `!${random.pick(['@.f', '@.g'])}`],
      [1, () => `@.f`],
      [depth > 0 ? 1 : 0, () => `count($.tags[?@ == ${constant(known)}]) > 0`],
    ]);
  return random.chance(0.35) ? `${one()} && ${one()}` : one();
}

/** An expression where a value is wanted. */
export function valueExpression(known: Known, depth = 2): string {
  const { random } = known;
  const inner = () => valueExpression(known, depth - 1);
  if (depth === 0) return random.chance(0.7) ? single(known) : constant(known);
  return random.weighed([
    [8, () => single(known)],
    [2, () => constant(known)],
    [2, () => `(${inner()} ${random.pick(['+', '-', '*', '/', '%'])} ${inner()})`],
    [1, () => `-${single(known)}`],
    [2, () => `coalesce(${inner()}, ${inner()})`],
    [1, () => `if(${condition(known, depth - 1)}, ${inner()}, ${inner()})`],
    [1, () => `[${inner()}, ${inner()}]`],
    [1, () => `{p: ${inner()}, "q r": ${inner()}}`],
    [
      2,
      () =>
        `${random.pick(['lower', 'upper', 'fold', 'trim', 'length', 'type_of', 'number', 'text', 'boolean', 'abs', 'floor', 'ceil', 'sqrt', 'exp', 'ln', 'instant'])}(${inner()})`,
    ],
    [
      2,
      () =>
        `${random.pick(['sum_of', 'avg_of', 'min_of', 'max_of', 'median_of', 'first_of', 'last_of', 'distinct_of', 'sorted_of', 'length'])}(${random.chance(0.5) ? several(known, 0) : inner()})`,
    ],
    [1, () => `round(${inner()}, ${random.pick(['0', '1', '2', '-1', '3'])})`],
    [1, () => `concat(${inner()}, ${inner()})`],
    [1, () => `${random.pick(['split', 'glue'])}(${inner()}, ${random.pick(['" "', '"a"', '""', '","'])})`],
    [1, () => `replace(${inner()}, ${textConstant(known)}, "-")`],
    [1, () => `substring(${inner()}, ${random.pick(['0', '1', '2'])}${random.pick(['', ', 3', ', 0'])})`],
    [1, () => `each(${random.pick(['@.list', '@.tags', '@.none'])}, ${random.pick(['@.f', '@', '@.g + 1', '$.a', '[@, $.b]'])})`],
    [1, () => `count(${several(known, 0)})`],
    [1, () => `value(${several(known, 0)})`],
    [1, () => several(known, 0)],
    [1, () => `date_trunc(${random.pick(['"year"', '"month"', '"week"', '"day"', '"hour"', '"second"'])}, ${inner()})`],
    [1, () => `date_add(${inner()}, ${random.pick(['1', '-3', '40'])}, ${random.pick(['"month"', '"day"', '"year"', '"hour"'])})`],
    [1, () => `date_diff(${random.pick(['"day"', '"month"', '"week"'])}, ${inner()}, ${inner()})`],
    [1, () => `date_part(${random.pick(['"year"', '"week"', '"weekday"', '"hour"'])}, ${inner()})`],
    [1, () => `(${condition(known, depth - 1)})`],
  ]);
}

const patterns = [
  'a.*',
  '^a',
  'b$',
  '[ab]+c?',
  '.*😀.*',
  '\\\\p{L}+',
  '(a|b)*',
  'bathtub.*',
  'B.ziers [0-9]+',
  'a{1,3}',
  '[^a]*',
  '(ab|a)(bc|c)?',
  'x*y*z*',
  '',
];

export function condition(known: Known, depth = 2): string {
  const { random } = known;
  const inner = () => condition(known, depth - 1);
  const simple: (readonly [number, () => string])[] = [
    [4, () => random.pick(known.focus.conditions)],
    [9, () => `${single(known)} ${random.pick(['==', '==', '==', '<', '<=', '>', '>=', '!='])} ${constant(known)}`],
    [1, () => `${constant(known)} ${random.pick(['==', '<', '>='])} ${single(known)}`],
    [3, () => `${single(known)} in [${random.list(0, 4, () => constant(known)).join(', ')}]`],
    [2, () => single(known)],
    [2, () => `!${single(known)}`],
    [2, () => several(known, 1)],
    [2, () => `includes(${random.pick(['@.tags', '@.list', '@.a'])}, ${constant(known)})`],
    [1, () => `includes_all(@.tags, [${random.list(0, 3, () => constant(known)).join(', ')}])`],
    [1, () => `${constant(known)} in @.tags`],
    [2, () => `starts_with(${single(known)}, ${textConstant(known)})`],
    [1, () => `${random.pick(['contains', 'ends_with'])}(${single(known)}, ${textConstant(known)})`],
    [1, () => `${random.pick(['match', 'search'])}(${single(known)}, "${random.pick(patterns)}")`],
    [1, () => `${random.pick(['any', 'every'])}(${random.pick(['@.list', '@.tags'])}, ${elementCondition(known, 0)})`],
  ];
  if (depth === 0) return random.weighed(simple);
  return random.weighed([
    [14, () => random.weighed(simple)],
    [3, () => `(${inner()} && ${inner()})`],
    [4, () => `(${inner()} || ${inner()})`],
    [1, () => `!(${inner()})`],
    [1, () => `${valueExpression(known, 1)} == ${valueExpression(known, 1)}`],
    [1, () => `${valueExpression(known, 1)} < ${constant(known)}`],
    [1, () => `exists(${single(known)})`],
  ]);
}

function orderKey(known: Known): string {
  const { random } = known;
  const key = random.chance(0.85) ? single(known) : valueExpression(known, 1);
  return `${key}${random.pick(['', '', ' desc'])}${random.pick(['', '', ' nulls first'])}`;
}

function orderBy(known: Known): string {
  return `order by ${known.random.list(1, 3, () => orderKey(known)).join(', ')}`;
}

function measure(known: Known, name: string): string {
  const { random } = known;
  const argument = () => (random.chance(0.8) ? single(known) : valueExpression(known, 1));
  const one = random.weighed([
    [3, () => 'count()'],
    [
      6,
      () =>
        `${random.pick(['sum', 'avg', 'min', 'max', 'median', 'stddev', 'count_distinct', 'collect', 'collect_distinct', 'first', 'last'])}(${argument()})`,
    ],
    [1, () => `percentile(${argument()}, ${random.pick(['0', '25', '90', '100'])})`],
    [1, () => `${random.pick(['any', 'every'])}(${condition(known, 1)})`],
  ]);
  return `${name} = ${one}${random.chance(0.15) ? ` where ${condition(known, 1)}` : ''}`;
}

function stage(known: Known): string[] {
  const { random, made } = known;
  return random.weighed<string[]>([
    [8, () => [`where ${condition(known)}`]],
    [5, () => [orderBy(known)]],
    [3, () => [random.pick(['limit', 'offset']) + ` ${random.pick([0, 1, 2, 3, 7, 40])}`]],
    [
      3,
      () => {
        const name = random.pick(['u', 'v', 'a', 'o.x', 'o.z', 'w.q']);
        const line = `compute ${name} = ${valueExpression(known)}`;
        if (!name.includes('.')) made.push(name);
        return [line];
      },
    ],
    [
      3,
      () => {
        const path = random.weighed([[4, () => '@.list'], [3, () => '@.tags'], [1, () => single(known)], [3, () => several(known, 1)]]); // prettier-ignore
        const position = random.chance(0.2) ? ' with position as at' : '';
        const line = `unnest ${path} as e${position}${random.chance(0.4) ? ' keep empty' : ''}`;
        made.push('e', ...(position ? ['at'] : []));
        return [line];
      },
    ],
    [
      4,
      () => {
        const kind = random.pick(['join', 'left join', 'gather join']);
        const on = random.weighed([
          [6, () => `p.k == ${random.pick(['@.k', '@.k', single(known)])}`],
          [2, () => `p.${random.pick(['id', 'a', 'n'])} == ${single(known)}`],
          [2, () => `p.k == @.k && p.a == @.a`],
          [1, () => `p.k in ${random.pick(['@.tags', '@.list[*].f'])}`],
          [1, () => `@.k in ${random.pick(['p.tags', 'p.list[*].f', 'p.list'])}`],
          [1, () => `p.k == @.k || p.a == @.b`],
          [1, () => `p.n > @.n`],
          [1, () => `@.list[?@.f == p.k]`],
          [1, () => `@..[?@.f == p.k] && p.k == @.k`],
          [1, () => `count(p.list[?@.f == p.k]) == ${single(known)}`],
        ]);
        const more = random.chance(0.3)
          ? ` && ${random.pick(['p.a != 1', 'p.id != @.id', `p.n < ${constant(known)}`, `@.a == ${constant(known)}`, 'p.tags[?@ == $.k]', 'p.o.x'])}`
          : '';
        const line = `${kind} d as p on ${more === '' ? on : `(${on})${more}`}`;
        made.push('p');
        return [line];
      },
    ],
    [
      4,
      () => {
        const keys = random.list(1, 3, (i) =>
          random.chance(0.6)
            ? `${random.pick(random.chance(0.7) ? known.focus.fields : plainFields)} as g${i}`
            : `${random.chance(0.5) ? single(known) : valueExpression(known, 1)} as g${i}`,
        );
        const measures = random.list(0, 3, (i) => measure(known, `m${i}`));
        made.splice(0, made.length, ...keys.map((_, i) => `g${i}`), ...measures.map((_, i) => `m${i}`));
        return [`group by ${keys.join(', ')}${measures.length > 0 ? ` measure ${measures.join(', ')}` : ''}`];
      },
    ],
    [
      2,
      () => {
        const measures = random.list(1, 3, (i) => measure(known, `m${i}`));
        made.splice(0, made.length, ...measures.map((_, i) => `m${i}`));
        return [`group all measure ${measures.join(', ')}`];
      },
    ],
    [
      3,
      () => {
        const partition = random.chance(0.6)
          ? ` partition by ${random.list(1, 2, () => (random.chance(0.9) ? single(known) : valueExpression(known, 1))).join(', ')}`
          : '';
        const line = `${random.pick(['rank', 'dense rank', 'row number'])} as r${partition} ${orderBy(known)}`;
        made.push('r');
        return random.chance(0.4) ? [line, `where @.r <= ${random.pick([1, 2, 3])}`] : [line];
      },
    ],
    [
      3,
      () => {
        const items = random.list(1, 3, (i) => random.weighed([[3, () => random.pick(plainFields)], [2, () => `${valueExpression(known, 1)} as s${i}`], [1, () => `${single(known)} as w.s${i}`]])); // prettier-ignore
        made.splice(0, made.length, ...items.map((_, i) => `s${i}`), 'w');
        return [`select ${[...new Set(items)].join(', ')}`];
      },
    ],
    [
      1,
      () => [
        `omit ${random.some(['@.a', '@.o.x', '@.list[*].f', '@.list[0]', '@.list[1]', '@.tags[-1]', '@.tags', '@.o[*]', '@["a.b"]'], 3, 1).join(', ')}`,
      ],
    ],
    [2, () => [best(known)]],
    [1, () => [`sample ${random.pick([0, 1, 5, 30])} seed ${random.below(3)}`]],
  ]);
}

/** The best by one score, or by the places of several. */
function best(known: Known): string {
  const { random, made } = known;
  const score = () => random.weighed([[4, () => single(known)], [1, () => `-${single(known)}`], [2, () => valueExpression(known, 1)]]); // prettier-ignore
  const scores = random.list(1, 3, () => `${score()}${random.chance(0.3) ? ` weight ${random.pick([0, 0.5, 2])}` : ''}`);
  const name = random.chance(0.6) ? random.pick(['q', 'a', 'w.q']) : undefined;
  if (name !== undefined && !name.includes('.')) made.push(name);
  return `best ${random.pick([0, 1, 3, 12])} by ${scores.join(', ')}${name === undefined ? '' : ` as ${name}`}${random.chance(0.3) ? ` depth ${random.pick([1, 2, 20])}` : ''}`;
}

export interface Question {
  /** Stage lines after `from c`. */
  readonly lines: readonly string[];
  readonly parameters: Readonly<Record<string, Json>>;
}

export function question(random: Random, documents: readonly Fields[], focus: Focus): Question {
  const known: Known = { random, focus, values: valuesIn(documents, random), made: [], parameters: {} };
  const lines = random.weighed<() => string[]>([
    // What indexes are for: conditions, an order, a page.
    [
      5,
      () => () => [
        ...random.list(0, 2, () => `where ${condition(known)}`),
        ...(random.chance(0.6) ? [orderBy(known)] : []),
        ...(random.chance(0.3) ? [`offset ${random.pick([1, 2, 5])}`] : []),
        ...(random.chance(0.4) ? [`limit ${random.pick([0, 1, 3, 10])}`] : []),
        ...(random.chance(0.5) ? stage(known) : []),
      ],
    ],
    [4, () => () => random.list(1, 5, () => stage(known)).flat()],
  ])();
  return { lines, parameters: known.parameters };
}

/** A change of the documents of `c`: conditions, then what happens to each. */
export function change(random: Random, documents: readonly Fields[], focus: Focus): Question {
  const known: Known = { random, focus, values: valuesIn(documents, random), made: [], parameters: {} };
  const step = (): string =>
    random.weighed([
      [
        4,
        () =>
          `set ${random
            .some(['@.a', '@.b', '@.o.x', '@.o.z.q', '@.list[*].f', '@.list[0].g', '@.tags[1]', '@.n'], 2, 1)
            .map((path) => `${path} = ${valueExpression(known, 1)}`)
            .join(', ')}`,
      ],
      [
        2,
        () =>
          `remove ${random.some(['@.a', '@.o.x', '@.list[0]', '@.list[1]', '@.list[*].f', '@.tags[-1]', '@.tags[0]', '@.o[*]'], 3, 1).join(', ')}`,
      ],
      [1, () => `append ${valueExpression(known, 1)} to ${random.pick(['@.tags', '@.list', '@.o.x', '@.none'])}`],
      [1, () => `take ${valueExpression(known, 1)} from ${random.pick(['@.tags', '@.list'])}`],
      [1, () => `replace with {"id": @.id, a: ${valueExpression(known, 1)}}`],
    ]);
  const steps = random.chance(0.15) ? ['delete'] : random.list(1, 3, step);
  return { lines: [...random.list(0, 2, () => `where ${condition(known)}`), ...steps], parameters: known.parameters };
}
