import type { Call, Expression, Json, PathExpression, Selector } from '@zesty-sieve/core/language';
import { added, between, instant, partOf, truncated } from './dates.ts';
import { fits } from './pattern.ts';
import { equal, field, isEmpty, isFields, nearest, order, setField, sum, textOrder, units, type Fields, type Value } from './values.ts';

/** What names stand for where an expression stands. */
export interface Scope {
  /** `@` */
  readonly current: Value;
  /** `$` */
  readonly whole: Value;
  readonly partners: Readonly<Record<string, Value>>;
  readonly parameters: Readonly<Record<string, Json>>;
  readonly now: string;
  /** The partner's name where equalities of a join stand, by themselves or joined by && and ||: there missing and null match nothing. */
  readonly joining?: string;
}

const isSingle = ({ segments }: PathExpression): boolean =>
  segments.every(({ descendant, selectors }) => !descendant && selectors.length === 1 && ['name', 'index'].includes(selectors[0].kind));

/** The nodes of a path (RFC 9535, 2.5), as their values. */
export function nodes(path: PathExpression, scope: Scope): Json[] {
  const { root } = path;
  const start = root.kind === 'current' ? scope.current : root.kind === 'whole' ? scope.whole : scope.partners[root.name];
  let found: Json[] = start === undefined ? [] : [start];
  for (const { descendant, selectors } of path.segments) {
    const visited = descendant ? found.flatMap(withDescendants) : found;
    found = visited.flatMap((node) => selectors.flatMap((selector) => selected(node, selector, scope)));
  }
  return found;
}

function childrenOf(node: Json): Json[] {
  if (Array.isArray(node)) return node;
  return isFields(node) ? Object.keys(node).map((name) => node[name]) : [];
}

function withDescendants(node: Json): Json[] {
  return [node, ...childrenOf(node).flatMap(withDescendants)];
}

function selected(node: Json, selector: Selector, scope: Scope): Json[] {
  switch (selector.kind) {
    case 'name': {
      const value = field(node, selector.name);
      return value === undefined ? [] : [value];
    }
    case 'index': {
      if (!Array.isArray(node)) return [];
      const value = node.at(selector.index);
      return value === undefined ? [] : [value];
    }
    case 'wildcard':
      return childrenOf(node);
    case 'filter':
      return childrenOf(node).filter((child) => holds(selector.condition, { ...scope, current: child, joining: undefined }));
    case 'slice': {
      if (!Array.isArray(node) || selector.step === 0) return [];
      const { step } = selector;
      const length = node.length;
      const normal = (i: number) => (i >= 0 ? i : length + i);
      const found: Json[] = [];
      if (step > 0) {
        const from = Math.max(0, normal(selector.start ?? 0));
        for (let i = from; i < Math.min(length, normal(selector.end ?? length)); i += step) found.push(node[i]);
      } else {
        const from = Math.min(length - 1, selector.start === undefined ? length - 1 : normal(selector.start));
        const until = selector.end === undefined ? -1 : Math.max(-1, normal(selector.end));
        for (let i = from; i > until; i += step) if (i >= 0) found.push(node[i]);
      }
      return found;
    }
  }
}

/** An expression where a condition is wanted. */
export function holds(expression: Expression, scope: Scope): boolean {
  switch (expression.kind) {
    case 'and':
      return expression.operands.every((operand) => holds(operand, scope));
    case 'or':
      return expression.operands.some((operand) => holds(operand, scope));
    case 'not':
      return !holds(expression.operand, { ...scope, joining: undefined });
    case 'path':
      return nodes(expression, scope).length > 0;
    case 'comparison': {
      const [a, b] = [value(expression.left, scope), value(expression.right, scope)];
      if (expression.operator === '==' && meets(expression.left, expression.right, scope) && (isEmpty(a) || isEmpty(b))) return false;
      return compared(a, expression.operator, b);
    }
    case 'in': {
      const [one, list] = [value(expression.left, scope), value(expression.right, scope)];
      if (meets(expression.left, expression.right, scope) && isEmpty(one)) return false;
      return one !== undefined && Array.isArray(list) && list.some((item) => equal(item, one));
    }
    case 'call':
      return value(expression, scope) === true;
    default:
      return false;
  }
}

/** Whether an equality in the condition of a join is one between its two sides. */
function meets(left: Expression, right: Expression, { joining }: Scope): boolean {
  if (joining === undefined) return false;
  const sides = [sidesOf(left, joining, false), sidesOf(right, joining, false)];
  const isRow = (side: Set<string>) => side.has('row') && !side.has('partner');
  const isPartner = (side: Set<string>) => side.has('partner') && !side.has('row');
  return (isRow(sides[0]) && isPartner(sides[1])) || (isPartner(sides[0]) && isRow(sides[1]));
}

function sidesOf(expression: Expression, partner: string, inElement: boolean): Set<string> {
  const found = new Set<string>();
  const add = (inner: Expression, element: boolean) => sidesOf(inner, partner, element).forEach((side) => found.add(side));
  switch (expression.kind) {
    case 'path':
      if (expression.root.kind === 'partner') found.add('partner');
      else if (expression.root.kind === 'whole' || !inElement) found.add('row');
      for (const { selectors } of expression.segments) for (const one of selectors) if (one.kind === 'filter') add(one.condition, true);
      break;
    case 'call':
      expression.arguments.forEach((argument, i) =>
        add(argument, inElement || (i === 1 && ['each', 'any', 'every'].includes(expression.name))),
      );
      break;
    case 'negation':
    case 'not':
      add(expression.operand, inElement);
      break;
    case 'arithmetic':
    case 'comparison':
    case 'in':
      add(expression.left, inElement);
      add(expression.right, inElement);
      break;
    case 'and':
    case 'or':
      for (const operand of expression.operands) add(operand, inElement);
      break;
    case 'array':
      for (const item of expression.items) add(item, inElement);
      break;
    case 'object':
      for (const { value: inner } of expression.entries) add(inner, inElement);
      break;
    default:
  }
  return found;
}

function less(a: Value, b: Value): boolean {
  if (typeof a === 'number') return typeof b === 'number' && a < b;
  return typeof a === 'string' && typeof b === 'string' && textOrder(a, b) < 0;
}

function compared(a: Value, operator: string, b: Value): boolean {
  switch (operator) {
    case '==':
      return equal(a, b);
    case '!=':
      return !equal(a, b);
    case '<':
      return less(a, b);
    case '<=':
      return less(a, b) || equal(a, b);
    case '>':
      return less(b, a);
    default:
      return less(b, a) || equal(a, b);
  }
}

const finite = (x: number): Value => (Number.isFinite(x) ? x : undefined);

/** An expression where a value is wanted. */
export function value(expression: Expression, scope: Scope): Value {
  switch (expression.kind) {
    case 'literal':
      return expression.value;
    case 'parameter':
      return scope.parameters[expression.name];
    case 'path':
      return isSingle(expression) ? nodes(expression, scope)[0] : nodes(expression, scope);
    case 'negation': {
      const x = value(expression.operand, scope);
      return typeof x === 'number' ? -x : undefined;
    }
    case 'arithmetic': {
      const [a, b] = [value(expression.left, scope), value(expression.right, scope)];
      if (typeof a !== 'number' || typeof b !== 'number') return undefined;
      switch (expression.operator) {
        case '+':
          return finite(a + b);
        case '-':
          return finite(a - b);
        case '*':
          return finite(a * b);
        case '/':
          return b === 0 ? undefined : finite(a / b);
        case '%':
          return b === 0 ? undefined : finite(a % b);
      }
      return undefined;
    }
    case 'array':
      return expression.items.flatMap((item) => {
        const one = value(item, scope);
        return one === undefined ? [] : [one];
      });
    case 'object': {
      const made: Fields = {};
      for (const { name, value: inner } of expression.entries) {
        const one = value(inner, scope);
        if (one !== undefined) setField(made, name, one);
      }
      return made;
    }
    case 'call':
      return called(expression, scope);
    default:
      return holds(expression, scope);
  }
}

function called(call: Call, outer: Scope): Value {
  const scope = outer.joining === undefined ? outer : { ...outer, joining: undefined };
  const { name } = call;
  const given = call.arguments;
  const at = (i: number): Value => (given[i] === undefined ? undefined : value(given[i], scope));
  const path = given[0] as PathExpression;
  const element = (current: Json): Scope => ({ ...scope, current });
  switch (name) {
    case 'count':
      return nodes(path, scope).length;
    case 'exists':
      return nodes(path, scope).length > 0;
    case 'value': {
      const found = nodes(path, scope);
      return found.length === 1 ? found[0] : undefined;
    }
    case 'match':
    case 'search': {
      const [subject, pattern] = [at(0), at(1)];
      return typeof subject === 'string' && typeof pattern === 'string' && fits(pattern, subject, name === 'match' ? 'whole' : 'part');
    }
    case 'each': {
      const array = at(0);
      return Array.isArray(array) ? eachOf(array, given[1], scope) : undefined;
    }
    case 'any': {
      const list = at(0);
      return Array.isArray(list) && list.some((one) => holds(given[1], element(one)));
    }
    case 'every': {
      const list = at(0);
      return Array.isArray(list) && list.every((one) => holds(given[1], element(one)));
    }
    case 'if':
      return holds(given[0], scope) ? at(1) : at(2);
    case 'coalesce':
      return given.map((_, i) => at(i)).find((one) => !isEmpty(one));
    case 'now':
      return scope.now;
    case 'type_of': {
      const one = at(0);
      if (one === undefined) return 'missing';
      if (one === null) return 'null';
      return Array.isArray(one) ? 'array' : typeof one === 'string' ? 'text' : typeof one;
    }
    default: {
      const meaning = Object.hasOwn(meanings, name) ? meanings[name] : undefined;
      if (meaning === undefined) throw new Error(`the reference has no ${name}`);
      return meaning(...given.map((_, i) => at(i)));
    }
  }
}

function eachOf(list: readonly Json[], inner: Expression, scope: Scope): Json[] {
  const found: Json[] = [];
  for (const one of list) {
    const made = value(inner, { ...scope, current: one });
    if (made !== undefined) found.push(made);
  }
  return found;
}

type Meaning = (...given: Value[]) => Value;
const texts = (count: number, work: (...given: string[]) => Value): Meaning =>
  (...given) => (given.length >= count && given.every((one) => typeof one === 'string') ? work(...(given as string[])) : undefined); // prettier-ignore
const textTest =
  (work: (a: string, b: string) => boolean): Meaning =>
  (a, b) =>
    typeof a === 'string' && typeof b === 'string' && work(a, b);
const list =
  (work: (array: Json[]) => Value): Meaning =>
  (array) =>
    Array.isArray(array) ? work(array) : undefined;
const number =
  (work: (x: number) => number): Meaning =>
  (x) =>
    typeof x === 'number' ? finite(work(x)) : undefined;
const numbersIn = (array: readonly Json[]) => array.filter((one) => typeof one === 'number');
const includes = (array: Value, one: Value): boolean => Array.isArray(array) && one !== undefined && array.some((item) => equal(item, one));
const folded = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().normalize('NFKD').replace(/\p{M}/gu, '');

const meanings: Record<string, Meaning> = {
  length: (one) =>
    typeof one === 'string'
      ? Array.from(one).length
      : Array.isArray(one)
        ? one.length
        : isFields(one)
          ? Object.keys(one).length
          : undefined,
  lower: texts(1, (text) => text.toLowerCase()),
  upper: texts(1, (text) => text.toUpperCase()),
  fold: texts(1, folded),
  trim: texts(1, (text) => text.trim()),
  concat: texts(1, (...parts) => parts.join('')),
  split: texts(2, (text, by) => (by === '' ? Array.from(text) : text.split(by))),
  glue: (array, by) => {
    if (!Array.isArray(array) || typeof by !== 'string') return undefined;
    const found = array.filter((one) => typeof one === 'string');
    return found.length === 0 && array.length > 0 ? undefined : found.join(by);
  },
  starts_with: textTest((a, b) => a.slice(0, b.length) === b),
  ends_with: textTest((a, b) => b.length <= a.length && a.slice(a.length - b.length) === b),
  contains: textTest((a, b) => a.split(b).length > 1 || b === ''),
  replace: texts(3, (text, part, by) => (part === '' ? text : text.split(part).join(by))),
  substring: (text, from, ...rest) => {
    if (typeof text !== 'string' || typeof from !== 'number' || from < 0 || !Number.isInteger(from)) return undefined;
    const [count] = rest;
    if (rest.length > 0 && (typeof count !== 'number' || count < 0 || !Number.isInteger(count))) return undefined;
    return Array.from(text)
      .slice(from, rest.length > 0 ? from + (count as number) : undefined)
      .join('');
  },
  includes,
  includes_all: (array, wanted) => Array.isArray(wanted) && Array.isArray(array) && wanted.every((one) => includes(array, one)),
  sum_of: list((array) => (numbersIn(array).length === 0 ? undefined : sum(numbersIn(array)))),
  avg_of: list((array) => mean(numbersIn(array))),
  median_of: list((array) => {
    const sorted = numbersIn(array).sort((a, b) => a - b);
    if (sorted.length === 0) return undefined;
    const [a, b] = [sorted[Math.ceil(sorted.length / 2) - 1], sorted[Math.floor(sorted.length / 2)]];
    return nearest(units(a) + units(b), 2n);
  }),
  min_of: list((array) =>
    array.reduce<Value>((best, one) => (one !== null && (best === undefined || order(one, best) < 0) ? one : best), undefined),
  ),
  max_of: list((array) =>
    array.reduce<Value>((best, one) => (one !== null && (best === undefined || order(one, best) > 0) ? one : best), undefined),
  ),
  first_of: list((array) => array[0]),
  last_of: list((array) => array[array.length - 1]),
  distinct_of: list((array) => array.filter((one, i) => array.findIndex((other) => equal(other, one)) === i)),
  sorted_of: list((array) => [...array].sort(order)),
  abs: number(Math.abs),
  floor: number(Math.floor),
  ceil: number(Math.ceil),
  sqrt: number(Math.sqrt),
  exp: number(Math.exp),
  ln: number(Math.log),
  pow: (x, y) => (typeof x === 'number' && typeof y === 'number' ? finite(x ** y) : undefined),
  round: (x, ...rest) => {
    const [digits = 0] = rest;
    if (typeof x !== 'number' || typeof digits !== 'number' || (rest.length > 0 && rest[0] === undefined)) return undefined;
    if (!Number.isInteger(digits) || Math.abs(digits) > 100) return undefined;
    return rounded(x, digits);
  },
  instant: (date) => instant(date),
  date_trunc: (unit, date) => truncated(unit, date),
  date_add: (date, n, unit) => (typeof n === 'number' ? added(date, n, unit) : undefined),
  date_diff: (unit, a, b) => between(unit, a, b),
  date_part: (unit, date) => partOf(unit, date),
  number: (one) => {
    if (typeof one === 'number') return one;
    if (typeof one === 'boolean') return one ? 1 : 0;
    if (typeof one !== 'string' || !/^\s*[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?\s*$/.test(one)) return undefined;
    return finite(Number(one));
  },
  text: (one) => (isEmpty(one) ? undefined : typeof one === 'string' ? one : JSON.stringify(one)),
  boolean: (one) =>
    one === true || one === 'true' || one === 1 ? true : one === false || one === 'false' || one === 0 ? false : undefined,
};

export function mean(numbers: readonly number[]): Value {
  const total = numbers.length === 0 ? undefined : sum(numbers);
  return typeof total === 'number' ? finite(total / numbers.length) : undefined;
}

/** Halves away from zero, on the decimal digits that the number is written with. */
function rounded(x: number, digits: number): Value {
  const [, sign, whole, part = '', exponent = '0'] = /^(-?)(\d+)(?:\.(\d+))?(?:e([+-]\d+))?$/.exec(String(x)) as RegExpExecArray;
  // x is `significand` times ten to the `power`.
  const significand = BigInt(whole + part);
  const power = Number(exponent) - part.length;
  const cut = -digits - power;
  if (cut <= 0) return x;
  const unit = 10n ** BigInt(cut);
  const result = (significand + unit / 2n) / unit;
  return finite(Number(`${sign}${result}e${-digits}`));
}
