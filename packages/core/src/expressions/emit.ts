import { signatureOf } from '../language/functions/signatures.ts';
import type { Arithmetic, ArrayLiteral, Comparison, Expression, Membership } from '../language/tree.ts';
import { equalValues } from '../values/equality.ts';
import { internalized } from '../values/fields.ts';
import type { Value } from '../values/json.ts';
import { compareText, needsCodePoints } from '../values/order.ts';
import type { Context } from './context.ts';
import { emitCall } from './emitCalls.ts';
import { Emitter, type Atom, type Variables } from './emitter.ts';
import { emitExistence, emitPathValue } from './emitPaths.ts';
import { noteOf, siteOf } from './sites.ts';
import { memberTest } from './membership.ts';
import { once } from './once.ts';

/** Emits an expression where a value is wanted; the atom is `undefined` at run time for *nothing*. */
export function emitValue(emitter: Emitter, expression: Expression, variables: Variables): Atom {
  switch (expression.kind) {
    case 'literal':
      // Short texts of documents are compared by pointer where both are in the engine's own form.
      return emitter.constant(typeof expression.value === 'string' ? internalized(expression.value) : expression.value);
    case 'parameter':
      return emitter.hoisted(`context.parameters[${emitter.constant(expression.name)}]`);
    case 'path':
      return emitPathValue(emitter, expression, variables);
    case 'negation':
      return emitNegation(emitter, expression.operand, expression, variables);
    case 'arithmetic':
      return emitArithmetic(emitter, expression, variables);
    case 'array': {
      const array = emitter.variable('[]');
      for (const item of expression.items) {
        const value = emitValue(emitter, item, variables);
        emitter.line(`if (${value} !== undefined) ${array}.push(${value});`);
      }
      return array;
    }
    case 'object': {
      const object = emitter.variable('{}');
      for (const { name, value } of expression.entries) {
        const item = emitValue(emitter, value, variables);
        const key = emitter.constant(name);
        emitter.line(
          `if (${item} !== undefined) Object.defineProperty(${object}, ${key}, { value: ${item}, writable: true, enumerable: true, configurable: true });`,
        );
      }
      return object;
    }
    case 'call':
      return emitCall(emitter, expression, variables);
    default:
      return emitter.variable(emitCondition(emitter, expression, variables));
  }
}

/** Emits an expression where a condition is wanted; the atom is true or false at run time. */
export function emitCondition(emitter: Emitter, expression: Expression, variables: Variables): Atom {
  switch (expression.kind) {
    case 'and':
      return emitChain(emitter, expression.operands, variables, true);
    case 'or':
      return emitChain(emitter, expression.operands, variables, false);
    case 'not':
      return `!(${emitCondition(emitter, expression.operand, variables)})`;
    case 'path':
      return emitExistence(emitter, expression, variables);
    case 'comparison':
      return emitComparison(emitter, expression, variables);
    case 'in':
      return emitMembership(emitter, expression, variables);
    case 'call':
      if (signatureOf(expression.name)?.result === 'condition') return emitCall(emitter, expression, variables);
      return 'false';
    default:
      return 'false';
  }
}

/** `&&` (or `||`): an operand is looked at only where those before it leave it open. Flat, however long. */
function emitChain(emitter: Emitter, operands: readonly Expression[], variables: Variables, all: boolean): Atom {
  const result = emitter.variable(String(!all));
  const label = emitter.fresh();
  emitter.block(`${label}:`, () => {
    for (const operand of operands) {
      const holds = emitCondition(emitter, operand, variables);
      emitter.line(`if (${all ? `!(${holds})` : holds}) break ${label};`);
    }
    emitter.line(`${result} = ${all};`);
  });
  return result;
}

function isKnownNumber(expression: Expression): boolean {
  return expression.kind === 'literal' && typeof expression.value === 'number';
}

function emitNegation(emitter: Emitter, operand: Expression, whole: Expression, variables: Variables): Atom {
  const value = emitValue(emitter, operand, variables);
  const site = emitter.constant(siteOf(whole, [operand]));
  return emitter.variable(`typeof ${value} === 'number' ? -${value} : ${noteOf(site, 0, value)}`);
}

function emitArithmetic(emitter: Emitter, expression: Arithmetic, variables: Variables): Atom {
  const { operator, left, right } = expression;
  const a = emitValue(emitter, left, variables);
  const b = emitValue(emitter, right, variables);
  const site = emitter.constant(siteOf(expression, [left, right]));
  const result = emitter.variable('undefined');
  const wrong = (value: Atom, position: number, side: Expression) =>
    isKnownNumber(side) ? '' : `if (typeof ${value} !== 'number') ${noteOf(site, position, value)}; else `;
  const zero = operator === '/' || operator === '%' ? `if (${b} === 0) ${noteOf(site, 1, b)}; else ` : '';
  emitter.line(`${wrong(a, 0, left)}${wrong(b, 1, right)}${zero}${result} = ${a} ${operator} ${b};`);
  // Infinity and NaN are no JSON numbers; either one minus itself is not 0.
  emitter.line(`if (${result} - ${result} !== 0) ${result} = undefined;`);
  return result;
}

function literalOf(expression: Expression): Value {
  return expression.kind === 'literal' ? expression.value : undefined;
}

function emitComparison(emitter: Emitter, { operator, left, right }: Comparison, variables: Variables): Atom {
  const a = emitValue(emitter, left, variables);
  const b = emitValue(emitter, right, variables);
  const [known, other] = left.kind === 'literal' ? [left.value, b] : [literalOf(right), a];
  // Equality with a literal is identity, since a literal is never an array or an object.
  const equal =
    known === undefined ? `(${a} === ${b} || ${emitter.constant(equalValues)}(${a}, ${b}))` : ofTypeOf(known, other, `${a} === ${b}`);
  const less = (one: Atom, two: Atom, orEqual: boolean): string => {
    if (isOrderedByLanguage(known)) return ofTypeOf(known, other, `${one} ${orEqual ? '<=' : '<'} ${two}`);
    const isLess = known === null || typeof known === 'boolean' ? 'false' : `${emitter.constant(lessThan)}(${one}, ${two})`;
    return orEqual ? `(${equal} || ${isLess})` : isLess;
  };
  switch (operator) {
    case '==':
      return equal;
    case '!=':
      return `!(${equal})`;
    case '<':
      return less(a, b, false);
    case '>':
      return less(b, a, false);
    case '<=':
      return less(a, b, true);
    case '>=':
      return less(b, a, true);
  }
}

/** Whether JavaScript orders what is of a literal's type as we do. */
function isOrderedByLanguage(known: Value): boolean {
  return typeof known === 'number' || (typeof known === 'string' && !needsCodePoints(known));
}

/**
 * A comparison with a literal, done only where the other side is of its type. Where a field holds values of several types, V8 compares two
 * of one type in a few instructions, and calls a function for two of any.
 */
function ofTypeOf(known: Value, other: Atom, comparison: string): string {
  return typeof known === 'number' || typeof known === 'string'
    ? `(typeof ${other} === '${typeof known}' && ${comparison})`
    : `(${comparison})`;
}

function lessThan(a: Value, b: Value): boolean {
  if (typeof a === 'number') return typeof b === 'number' && a < b;
  return typeof a === 'string' && typeof b === 'string' && compareText(a, b) < 0;
}

function emitMembership(emitter: Emitter, { left, right }: Membership, variables: Variables): Atom {
  const value = emitValue(emitter, left, variables);
  if (right.kind === 'array' && right.items.every((item) => item.kind === 'literal')) {
    return `${emitter.constant(testOfLiterals(right))}(${value})`;
  }
  if (right.kind === 'parameter') {
    return `${emitter.hoisted(`${emitter.constant(memberOfParameter)}(context, ${emitter.constant(right.name)})`)}(${value})`;
  }
  const list = emitValue(emitter, right, variables);
  return `${emitter.constant(isMember)}(${value}, ${list})`;
}

const testOfLiterals = once(({ items }: ArrayLiteral) => memberTest(items.map((item) => literalOf(item) ?? null)));

/** The function may be called for a stretch of rows, or for each: the set is that of the run. */
function memberOfParameter({ parameters, members }: Context, name: string): (value: Value) => boolean {
  let test = members.get(name);
  if (test === undefined) members.set(name, (test = memberTest(parameters[name])));
  return test;
}

function isMember(value: Value, list: Value): boolean {
  return value !== undefined && Array.isArray(list) && list.some((item) => equalValues(item, value));
}

/** An emitter that knows how expressions are emitted: what stands inside a call or a filter is emitted through it. */
export function newEmitter(): Emitter {
  return new Emitter({ value: emitValue, condition: emitCondition });
}
