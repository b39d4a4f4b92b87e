import type { ComparisonOperator, Expression } from '../../../tree.ts';
import { printExpression } from '../../notation/print.ts';
import { idiomOf } from './idioms.ts';
import { definedIn, isCertain, isColumn, isNull, textIn } from './known.ts';
import { escaped, like, likeOf, surrounds } from './likeText.ts';
import { collectedIn } from './collected.ts';
import { quoted, Unsaid, type ExpressionWriter, type Row } from './writer.ts';

const operators: Readonly<Record<ComparisonOperator, string>> = { '==': '=', '!=': '<>', '<': '<', '<=': '<=', '>': '>', '>=': '>=' };

const isConstant = (value: Expression): boolean => value.kind === 'literal' && value.value !== null;

/** Writes expressions as the SQL that is read here, which means the same. */
export const isoExpressions: ExpressionWriter = { value, condition };

function value(expression: Expression, row: Row): string {
  const idiom = idiomOf(expression);
  if (idiom !== undefined) return `${idiom.name}(${idiom.given.map((one) => value(one, row)).join(idiom.by ?? ', ')}${idiom.end ?? ''})`;
  switch (expression.kind) {
    case 'literal':
      return typeof expression.value === 'string' ? quoted(expression.value) : expression.value === null ? 'NULL' : String(expression.value).toUpperCase(); // prettier-ignore
    case 'parameter':
      return `:${expression.name}`;
    case 'path': {
      const { place, steps } = row.find(expression);
      return place.text(steps);
    }
    case 'negation':
      return `-${operand(expression.operand, row)}`;
    case 'arithmetic':
      if (
        expression.operator === '+' &&
        expression.left.kind === 'path' &&
        expression.right.kind === 'literal' &&
        expression.right.value === 1
      ) {
        const { ordinal } = row.find(expression.left).place;
        if (ordinal !== undefined) return ordinal;
      }
      return `${operand(expression.left, row)} ${expression.operator} ${operand(expression.right, row)}`;
    case 'array':
      return `JSON_ARRAY(${expression.items.map((item) => value(item, row)).join(', ')} NULL ON NULL)`;
    case 'object':
      return `JSON_OBJECT(${expression.entries.map(({ name, value: inner }) => `${quoted(name)}: ${value(inner, row)}`).join(', ')})`;
    case 'call':
      return called(expression, row);
    default:
      return `(${condition(expression, row)})`;
  }
}

/** An operand of arithmetic or of a comparison: in brackets where it is arithmetic itself. */
function operand(expression: Expression, row: Row): string {
  const text = value(expression, row);
  return expression.kind === 'arithmetic' || expression.kind === 'negation' ? `(${text})` : text;
}

const plain: Readonly<Record<string, string>> = {
  upper: 'UPPER', lower: 'LOWER', replace: 'REPLACE', abs: 'ABS', floor: 'FLOOR', ceil: 'CEIL', round: 'ROUND', sqrt: 'SQRT', pow: 'POWER',
  exp: 'EXP', ln: 'LN', coalesce: 'COALESCE',
}; // prettier-ignore

function called(call: Expression & { kind: 'call' }, row: Row): string {
  const given = call.arguments;
  const all = (): string => given.map((one) => value(one, row)).join(', ');
  if (Object.hasOwn(plain, call.name)) return `${plain[call.name]}(${all()})`;
  switch (call.name) {
    case 'or_null':
      return value(given[0]!, row);
    case 'concat':
      return given.map((one) => operand(one, row)).join(' || ');
    case 'now':
      return 'CURRENT_TIMESTAMP';
    case 'number':
      return `CAST(${value(given[0]!, row)} AS NUMERIC)`;
    case 'text':
      return `CAST(${value(given[0]!, row)} AS TEXT)`;
    case 'boolean':
      return `CAST(${value(given[0]!, row)} AS BOOLEAN)`;
    case 'if': {
      const collected = collectedIn(given, (one) => value(one, row));
      if (collected !== undefined) return collected;
      return `CASE WHEN ${condition(given[0]!, row)} THEN ${value(given[1]!, row)}${isNull(given[2]!) ? '' : ` ELSE ${value(given[2]!, row)}`} END`;
    }
    case 'date_part': {
      const [unit, date] = given;
      if (unit?.kind === 'literal' && unit.value !== 'weekday' && unit.value !== 'week') return `EXTRACT(${String(unit.value).toUpperCase()} FROM ${value(date!, row)})`;
      break;
    }
    case 'trim':
      if (given[1]?.kind === 'literal' && given[1].value === ' ') return `TRIM(${value(given[0]!, row)})`;
      break;
    case 'substring':
      return substring(given, row);
  }
  throw new Unsaid(`the function ${call.name}`);
} // prettier-ignore

function substring([text, from, length]: readonly Expression[], row: Row): string {
  if (from?.kind !== 'literal' || typeof from.value !== 'number') throw new Unsaid('substring from a place that is worked out');
  return `SUBSTRING(${value(text!, row)} FROM ${from.value + 1}${length === undefined ? '' : ` FOR ${value(length, row)}`})`;
}

function condition(expression: Expression, row: Row): string {
  switch (expression.kind) {
    case 'and':
      return conjunction(expression.operands, row).join(' AND ');
    case 'or':
      return expression.operands.map((one) => grouped(one, row)).join(' OR ');
    case 'not':
      return negated(expression.operand, row);
    case 'comparison':
      return conjunction([expression], row)[0]!;
    case 'in': {
      const { left, right } = expression;
      if (right.kind !== 'array' || !right.items.every(isConstant)) throw new Unsaid('in with a list that is worked out');
      return `${operand(left, row)} IN (${right.items.map((item) => value(item, row)).join(', ')})`;
    }
    case 'call':
      return test(expression, row);
    case 'path':
      return exists(expression, row);
    default:
      return value(expression, row);
  }
}

const grouped = (one: Expression, row: Row): string => (one.kind === 'and' || one.kind === 'or' ? `(${condition(one, row)})` : condition(one, row)); // prettier-ignore

/** Conditions joined by AND: a comparison with what makes it SQL's is that comparison. */
function conjunction(operands: readonly Expression[], row: Row): string[] {
  const parts: string[] = [];
  for (let i = 0; i < operands.length;) {
    const one = operands[i]!;
    const known = definedIn(operands, i, row);
    if (known !== undefined) {
      parts.push(`${operand(known.value, row)} IS NOT NULL`);
      i += known.takes;
      continue;
    }
    i++;
    const unlike = unlikeIn(one, operands[i], row);
    if (unlike !== undefined) {
      parts.push(unlike);
      i++;
      continue;
    }
    if (one.kind !== 'comparison') {
      parts.push(grouped(one, row));
      continue;
    }
    const wanted = [one.left, one.right].filter((side) => !isCertain(side, row));
    const guards: Expression[] = [];
    let at = i;
    for (let guard = definedIn(operands, at, row); guard !== undefined && guards.length < 2; guard = definedIn(operands, at, row)) {
      const text = printExpression(guard.value);
      if (!wanted.some((side) => printExpression(side) === text)) break;
      guards.push(guard.value);
      at += guard.takes;
      if (one.operator !== '!=') break;
    }
    const needs = one.operator === '!=' ? wanted.length : one.operator === '==' || one.operator.endsWith('=') ? Math.min(1, wanted.length === 2 ? 1 : 0) : 0; // prettier-ignore
    if (guards.length >= needs && needs > 0) {
      parts.push(`${operand(one.left, row)} ${operators[one.operator]} ${operand(one.right, row)}`);
      i = at;
    } else parts.push(compared(one, row));
  }
  return parts;
}

/** NOT LIKE: a text that a pattern does not fit. */
function unlikeIn(one: Expression, next: Expression | undefined, row: Row): string | undefined {
  const text = textIn(one);
  if (text === undefined || next?.kind !== 'not') return undefined;
  const test = next.operand;
  const of = textIn(test) ?? (test.kind === 'call' ? test.arguments[0] : test.kind === 'comparison' && test.operator === '==' ? test.left : undefined); // prettier-ignore
  if (of === undefined || printExpression(of) !== printExpression(text)) return undefined;
  if (test.kind === 'comparison' && textIn(test) === undefined) {
    const { right } = test;
    if (right.kind !== 'literal' || typeof right.value !== 'string') return undefined;
    return `${operand(text, row)} NOT ${like(escaped(right.value), /[%_!]/.test(right.value))}`;
  }
  const written = condition(test, row);
  const at = written.lastIndexOf(' LIKE ');
  return at < 0 ? undefined : `${written.slice(0, at)} NOT${written.slice(at)}`;
}

function compared({ operator, left, right }: Expression & { kind: 'comparison' }, row: Row): string {
  const text = textIn({ kind: 'comparison', operator, left, right, id: left.id });
  if (text !== undefined) return `${operand(text, row)} LIKE '%'`;
  const sides = `${operand(left, row)} ${operators[operator]} ${operand(right, row)}`;
  const isSure = isCertain(left, row) || isCertain(right, row);
  if (operator === '!=' && isNull(right) && left.kind === 'path' && !isColumn(left, row)) return `(${value(left, row)} IS NOT NULL OR (${exists(left, row)}) IS NOT TRUE)`; // prettier-ignore
  if (operator === '==' && isNull(right)) return left.kind === 'path' && !isColumn(left, row) ? `(${exists(left, row)} AND ${value(left, row)} IS NULL)` : `${operand(left, row)} IS NULL`; // prettier-ignore
  switch (operator) {
    case '==':
      return isSure ? sides : `${operand(left, row)} IS NOT DISTINCT FROM ${operand(right, row)}`;
    case '!=':
      return isCertain(left, row) && isCertain(right, row) ? sides : `${operand(left, row)} IS DISTINCT FROM ${operand(right, row)}`;
    case '<=':
    case '>=':
      return isSure ? sides : `(${operand(left, row)} ${operator[0]} ${operand(right, row)} OR ${operand(left, row)} IS NOT DISTINCT FROM ${operand(right, row)})`; // prettier-ignore
    default:
      return sides;
  }
}

/** What does not hold in the notation is false or unknown in SQL. */
function negated(inner: Expression, row: Row): string {
  if (inner.kind === 'and' && inner.operands.length === 2) {
    const known = definedIn(inner.operands, 0, row);
    if (known?.takes === 2) return `${operand(known.value, row)} IS NULL`;
  }
  if (inner.kind === 'comparison' && definedIn([inner], 0, row) !== undefined) return `${operand(inner.left, row)} IS NULL`;
  return `(${condition(inner, row)}) IS NOT TRUE`;
}

function exists(path: Expression & { kind: 'path' }, row: Row): string {
  // The part that is one value is written as a column, the rest as a path inside it.
  const { segments } = path;
  const single = segments.findIndex(({ descendant, selectors }) => descendant || selectors.length !== 1 || !(selectors[0].kind === 'name' || selectors[0].kind === 'index')); // prettier-ignore
  const rest = single < 0 ? [] : segments.slice(single);
  const base = { ...path, segments: single < 0 ? segments : segments.slice(0, single) };
  if (base.segments.length === 0 && path.root.kind === 'current') throw new Unsaid('a path over all fields of a row');
  if (single < 0) {
    const { place, steps } = row.find(path);
    if (place.existence !== undefined && steps.length === 1 && steps[0] === 0) return place.existence;
  }
  const inner = printExpression({ ...path, root: { kind: 'whole' }, segments: rest });
  return `JSON_EXISTS(${value(base, row)}, ${quoted(inner)})`;
}

function test(call: Expression & { kind: 'call' }, row: Row): string {
  const [text, part] = call.arguments;
  const constant = part?.kind === 'literal' && typeof part.value === 'string' ? part.value : undefined;
  if (call.name === 'exists' && text?.kind === 'path') return exists(text, row);
  if (call.name === 'match' && constant !== undefined) {
    const pattern = likeOf(constant);
    if (pattern !== undefined) return `${operand(text!, row)} ${like(pattern, /!/.test(pattern))}`;
  }
  if (constant !== undefined && Object.hasOwn(surrounds, call.name)) {
    const [before, after] = surrounds[call.name]!;
    return `${operand(text!, row)} ${like(before + escaped(constant) + after, /[%_!]/.test(constant))}`;
  }
  return called(call, row);
}
