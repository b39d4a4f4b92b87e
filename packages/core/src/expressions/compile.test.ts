import fc from 'fast-check';
import { signatureOf } from '../language/functions/signatures.ts';
import { checkPipeline } from '../language/checkPipeline.ts';
import { usualSurface } from '../language/surfaces/registry.ts';
import { isSingle, type Call, type Expression, type PathExpression } from '../language/tree.ts';
import { equalValues } from '../values/equality.ts';
import type { Json, JsonObject, Value } from '../values/json.ts';
import { compareValues } from '../values/order.ts';
import { compileCondition, compileFetch, compileScan, compileValue, settled } from './compile.ts';
import { makeContext, type Context } from './context.ts';
import { meanings } from './meanings/table.ts';
import { matcherOf } from './meanings/patterns.ts';
import { nodesOf } from './nodes.ts';

/** What an expression means, read off its tree with no thought of speed: what the compiler is held to. */
interface Scope {
  readonly current: Json;
  readonly whole: Json;
  readonly context: Context;
}

function nodes(path: PathExpression, scope: Scope): Json[] {
  const start = path.root.kind === 'current' ? scope.current : scope.whole;
  return nodesOf(path.segments, start, (condition) => (element) => holds(condition, { ...scope, current: element })).map(
    ({ value }) => value,
  );
}

function valueOf(expression: Expression, scope: Scope): Value {
  const of = (one: Expression) => valueOf(one, scope);
  switch (expression.kind) {
    case 'literal':
      return expression.value;
    case 'parameter':
      return scope.context.parameters[expression.name];
    case 'path':
      return isSingle(expression) ? nodes(expression, scope)[0] : nodes(expression, scope);
    case 'negation': {
      const operand = of(expression.operand);
      return typeof operand === 'number' ? -operand : undefined;
    }
    case 'arithmetic': {
      const [a, b] = [of(expression.left), of(expression.right)];
      if (typeof a !== 'number' || typeof b !== 'number') return undefined;
      const result = { '+': a + b, '-': a - b, '*': a * b, '/': a / b, '%': a % b }[expression.operator];
      return Number.isFinite(result) ? result : undefined;
    }
    case 'array':
      return expression.items.map(of).filter((item) => item !== undefined);
    case 'object':
      return Object.fromEntries(
        expression.entries.flatMap(({ name, value }) => {
          const made = of(value);
          return made === undefined ? [] : [[name, made]];
        }),
      );
    case 'call':
      return called(expression, scope);
    default:
      return holds(expression, scope);
  }
}

function holds(expression: Expression, scope: Scope): boolean {
  const of = (one: Expression) => valueOf(one, scope);
  switch (expression.kind) {
    case 'and':
      return expression.operands.every((operand) => holds(operand, scope));
    case 'or':
      return expression.operands.some((operand) => holds(operand, scope));
    case 'not':
      return !holds(expression.operand, scope);
    case 'path':
      return nodes(expression, scope).length > 0;
    case 'in': {
      const [item, list] = [of(expression.left), of(expression.right)];
      return item !== undefined && Array.isArray(list) && list.some((one) => equalValues(one, item));
    }
    case 'comparison': {
      const [a, b] = [of(expression.left), of(expression.right)];
      const equal = equalValues(a, b);
      const comparable = (typeof a === 'number' && typeof b === 'number') || (typeof a === 'string' && typeof b === 'string');
      const order = comparable ? compareValues(a, b) : NaN;
      const { operator } = expression;
      if (operator === '==' || operator === '!=') return equal === (operator === '==');
      if (operator === '<' || operator === '<=') return order < 0 || (operator === '<=' && equal);
      return order > 0 || (operator === '>=' && equal);
    }
    case 'call':
      return called(expression, scope) === true;
    default:
      return false;
  }
}

function called({ name, arguments: given }: Call, scope: Scope): Value {
  const of = (one: Expression) => valueOf(one, scope);
  const elements = () => {
    const list = of(given[0]);
    return Array.isArray(list) ? list.map((current) => ({ ...scope, current })) : undefined;
  };
  const [first] = given;
  switch (name) {
    case 'count':
      return nodes(first as PathExpression, scope).length;
    case 'exists':
      return nodes(first as PathExpression, scope).length > 0;
    case 'value': {
      const found = nodes(first as PathExpression, scope);
      return found.length === 1 ? found[0] : undefined;
    }
    case 'if':
      return holds(first, scope) ? of(given[1]) : of(given[2]);
    case 'coalesce':
      return given.map(of).find((value) => value !== undefined && value !== null);
    case 'each':
      return elements()
        ?.map((element) => valueOf(given[1], element))
        .filter((one) => one !== undefined);
    case 'any':
      return elements()?.some((element) => holds(given[1], element)) ?? false;
    case 'every':
      return elements()?.every((element) => holds(given[1], element)) ?? false;
    case 'match':
    case 'search': {
      const [text, pattern] = given.map(of);
      if (typeof text !== 'string' || typeof pattern !== 'string') return false;
      return matcherOf(pattern, name === 'match' ? 'whole' : 'part')(text);
    }
  }
  const signature = signatureOf(name);
  if (signature === undefined) throw new Error(name);
  const values = given.map(of);
  const { parameters, result } = signature;
  const fits = values.every((value, i) => {
    const { type } = parameters[Math.min(i, parameters.length - 1)];
    return type === 'number' || type === 'text'
      ? typeof value === (type === 'text' ? 'string' : type)
      : type !== 'array' || Array.isArray(value);
  });
  if (!fits) return result === 'condition' ? false : undefined;
  const padded = [...values, ...parameters.slice(values.length).flatMap(({ rest }) => (rest ? [] : [undefined]))];
  return (meanings[name as keyof typeof meanings] as (...parameters: unknown[]) => Value)(...padded, scope.context);
}

const single = fc.constantFrom(
  ...[
    '@.a',
    '@.b',
    '@.s',
    '@.list',
    '@.list[0]',
    '@.list[-1].f',
    '@.list[1].f',
    '@.o',
    '@.o.x',
    '@',
    '@.f',
    '@.none',
    '$.a',
    '$.s',
    '$.o.x',
  ],
);
const literal = fc.constantFrom('0', '1', '2', '-1.5', '"x"', '"ab"', '"é😀"', 'null', 'true', 'false', '"2026-02-03"', ':number', ':text');

// A type alias, not an interface: the library wants an index signature.
type Texts = {
  value: string;
  comparable: string;
  condition: string;
  several: string;
};

const call = (name: string, ...parts: fc.Arbitrary<string>[]) => fc.tuple(...parts).map((given) => `${name}(${given.join(', ')})`);

const { value, condition } = fc.letrec<Texts>((tie) => ({
  several: fc.oneof(
    { depthSize: 'small' },
    fc.constantFrom('@.list[*]', '@.list[*].f', '@..f', '@.list[1:]', '@.list[::-1].f', "@['a', 's']", '$.list[0, 0]'),
    tie('condition').map((inner) => `@.list[?${inner}]`),
    tie('condition').map((inner) => `$.list[?${inner}].f`),
  ),
  // A several path is compared with nothing.
  comparable: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    single,
    literal,
    fc.tuple(tie('comparable'), fc.constantFrom('+', '-', '*', '/', '%'), tie('comparable')).map((parts) => `(${parts.join(' ')})`),
    fc.constantFrom('@.a', '@.o.x').map((path) => `-${path}`),
    call('length', tie('comparable')),
    call('lower', tie('comparable')),
    call('concat', tie('comparable'), tie('comparable')),
    call('substring', tie('comparable'), fc.constantFrom('0', '1', '-1', '@.a')),
    call('sum_of', tie('value')),
    call('max_of', tie('value')),
    call('last_of', tie('value')),
    call('distinct_of', tie('value')),
    call('sorted_of', tie('value')),
    call('each', fc.oneof(single, tie('several')), tie('value')),
    call('round', tie('comparable'), fc.constantFrom('0', '1', '@.b')),
    call('date_part', fc.constantFrom('"day"', '"weekday"'), tie('comparable')),
    call('if', tie('condition'), tie('value'), tie('value')),
    call('coalesce', tie('value'), tie('value')),
    call('type_of', tie('comparable')),
    call('number', tie('comparable')),
    call('text', tie('comparable')),
    call('boolean', tie('comparable')),
    call('count', tie('several')),
    call('value', tie('several')),
  ),
  value: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    tie('comparable'),
    tie('several'),
    fc.array(tie('comparable'), { maxLength: 3 }).map((items) => `[${items.join(', ')}]`),
    fc.tuple(tie('comparable'), tie('several')).map(([x, y]) => `{x: ${x}, "y z": ${y}}`),
  ),
  condition: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    fc.tuple(tie('comparable'), fc.constantFrom('==', '!=', '<', '<=', '>', '>='), tie('comparable')).map((parts) => `(${parts.join(' ')})`),
    single,
    tie('several'),
    fc.tuple(tie('comparable'), fc.constantFrom('[1, "x", null]', '@.list', ':list', '[@.a, [1]]')).map(([item, list]) => `(${item} in ${list})`),
    fc.array(tie('condition'), { minLength: 2, maxLength: 3 }).map((all) => `(${all.join(' && ')})`),
    fc.array(tie('condition'), { minLength: 2, maxLength: 3 }).map((all) => `(${all.join(' || ')})`),
    tie('condition').map((inner) => `!(${inner})`),
    call('contains', tie('comparable'), tie('comparable')),
    call('starts_with', tie('comparable'), tie('comparable')),
    call('includes', fc.oneof(single, tie('several')), tie('comparable')),
    call('includes_all', single, fc.constantFrom('[1]', '[]', '["x", 1]')),
    call('any', fc.oneof(single, tie('several')), tie('condition')),
    call('every', fc.oneof(single, tie('several')), tie('condition')),
    call('match', tie('comparable'), fc.constantFrom('"[a-z]+"', '"x|ab"', '"\\\\p{L}."')),
    call('search', tie('comparable'), fc.constantFrom('"b"', '"[0-9]"', ':text')),
    fc.oneof(single, tie('several')).map((path) => `exists(${path})`),
  ),
})); // prettier-ignore

const scalar = fc.constantFrom<Json>(0, 1, 2, -1.5, 'x', 'ab', 'Ab', 'é😀', '7', '2026-02-03', null, true, false);
const element: fc.Arbitrary<Json> = fc.oneof(
  scalar,
  fc.record({ f: scalar, a: scalar }, { requiredKeys: [] }),
  fc.array(scalar, { maxLength: 2 }),
);
const document = fc.record(
  { a: scalar, b: scalar, s: fc.constantFrom('x', 'ab', 'é😀', ''), list: fc.array(element, { maxLength: 3 }), o: fc.record({ x: scalar, f: scalar }) },
  { requiredKeys: [] },
) as fc.Arbitrary<JsonObject>; // prettier-ignore

const parameters = { number: 1, text: 'x', list: [2, 'ab', null] };
const scopeOf = (row: Json): Scope => ({ current: row, whole: row, context: makeContext(parameters, '2026-02-03T04:05:06.789Z') });

/** The tree of an expression, which must be well-formed and well-typed. */
function treeOf(stage: string): Expression {
  const parsed = usualSurface.parse(`from c\n${stage}`);
  const errors = checkPipeline(parsed, { collections: ['c'] }).diagnostics.filter(({ severity }) => severity === 'error');
  expect(errors).toEqual([]);
  const made = parsed.stages[1].stage;
  if (made?.kind === 'where') return made.condition;
  if (made?.kind === 'compute') return made.assignments[0].expression;
  throw new Error(stage);
}

test('compiled expressions give what their trees mean', () => {
  fc.assert(
    fc.property(value, fc.array(document, { minLength: 1, maxLength: 4 }), (text, rows) => {
      const tree = treeOf(`compute v = ${text}`);
      const compiled = compileValue(tree);
      for (const row of rows) {
        const scope = scopeOf(row);
        expect(compiled(row, scope.context)).toEqual(valueOf(tree, scope));
      }
    }),
    { numRuns: 1_500 },
  );
});

test('compiled conditions hold where their trees do: alone, in the loop of a scan, and in that of a fetch', () => {
  fc.assert(
    fc.property(condition, fc.array(fc.option(document, { nil: undefined }), { maxLength: 6 }), fc.nat(3), (text, documents, most) => {
      const tree = treeOf(`where ${text}`);
      const { context } = scopeOf(null);
      const fits = documents.flatMap((row, i) => (row !== undefined && holds(tree, scopeOf(row)) ? [i] : []));
      expect(documents.flatMap((row, i) => (row !== undefined && compileCondition(tree)(row, context) ? [i] : []))).toEqual(fits);
      const scanned: number[] = [];
      const tally = { read: 0, lookedAt: [] };
      const stretch = { from: 0, to: documents.length, most };
      const stopped = compileScan(tree, true)(
        documents,
        stretch,
        { rows: new Array(documents.length), count: 0, positions: scanned },
        tally,
        context,
      );
      expect(scanned).toEqual(fits.slice(0, most));
      const kept = { rows: new Array<Json>(documents.length), count: 0, positions: undefined };
      expect(compileScan(tree, false)(documents, stretch, kept, { read: 0, lookedAt: [] }, context)).toBe(stopped);
      expect(settled(kept)).toEqual(scanned.map((at) => documents[at]));
      expect(tally.read).toBe(documents.slice(0, stopped).filter((row) => row !== undefined).length);
      const backwards = documents.map((_, i) => documents.length - 1 - i);
      const fetched: number[] = [];
      compileFetch(tree)(
        documents,
        { chosen: backwards, from: 0, to: documents.length, most: Infinity },
        { rows: new Array(documents.length), count: 0, positions: fetched },
        { read: 0, lookedAt: [] },
        context,
      );
      expect(fetched).toEqual([...fits].reverse());
    }),
    { numRuns: 1_500 },
  );
});
