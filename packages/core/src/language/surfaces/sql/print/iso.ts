import type { ComparisonOperator, Expression } from '../../../tree.ts';
import { printExpression } from '../../notation/print.ts';
import { isoCall } from './isoCalls.ts';
import { idiomOf } from './idioms.ts';
import { definedIn, isCertain, isColumn, isNull, textIn } from './known.ts';
import { escaped, like, likePattern } from './likeText.ts';
import { quoted, Unsaid, type ExpressionWriter, type Row } from './writer.ts';

export const operators: Readonly<Record<ComparisonOperator, string>> = {
  '==': '=',
  '!=': '<>',
  '<': '<',
  '<=': '<=',
  '>': '>',
  '>=': '>=',
};

export const isConstant = (value: Expression): boolean => value.kind === 'literal' && value.value !== null;

/** Writes expressions as the SQL that is read here, which means the same; other engines' dialects differ in parts of it. */
export class IsoExpressions implements ExpressionWriter {
  value(expression: Expression, row: Row): string {
    const idiom = idiomOf(expression);
    if (idiom !== undefined)
      return `${idiom.name}(${idiom.given.map((one) => this.value(one, row)).join(idiom.by ?? ', ')}${idiom.end ?? ''})`;
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
        return `-${this.operand(expression.operand, row)}`;
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
        return `${this.operand(expression.left, row)} ${expression.operator} ${this.operand(expression.right, row)}`;
      case 'array':
        return `JSON_ARRAY(${expression.items.map((item) => this.value(item, row)).join(', ')} NULL ON NULL)`;
      case 'object':
        return `JSON_OBJECT(${expression.entries.map(({ name, value: inner }) => `${quoted(name)}: ${this.value(inner, row)}`).join(', ')})`;
      case 'call':
        return this.called(expression, row);
      default:
        return `(${this.condition(expression, row)})`;
    }
  }

  /** An operand of arithmetic or of a comparison: in brackets where it is arithmetic itself. */
  operand(expression: Expression, row: Row): string {
    const text = this.value(expression, row);
    return expression.kind === 'arithmetic' || expression.kind === 'negation' ? `(${text})` : text;
  }

  /** A call that is no test. @throws Unsaid */
  called(call: Expression & { kind: 'call' }, row: Row): string {
    return isoCall(call, row, this);
  }

  condition(expression: Expression, row: Row): string {
    switch (expression.kind) {
      case 'and':
        return this.conjunction(expression.operands, row).join(' AND ');
      case 'or':
        return expression.operands.map((one) => this.grouped(one, row)).join(' OR ');
      case 'not':
        return this.negated(expression.operand, row);
      case 'comparison':
        return this.conjunction([expression], row)[0]!;
      case 'in': {
        const { left, right } = expression;
        if (right.kind !== 'array' || !right.items.every(isConstant)) throw new Unsaid('in with a list that is worked out');
        return `${this.operand(left, row)} IN (${right.items.map((item) => this.value(item, row)).join(', ')})`;
      }
      case 'call':
        return this.test(expression, row);
      case 'path':
        return this.exists(expression, row);
      default:
        return this.value(expression, row);
    }
  }

  grouped(one: Expression, row: Row): string {
    return one.kind === 'and' || one.kind === 'or' ? `(${this.condition(one, row)})` : this.condition(one, row);
  }

  /** Conditions joined by AND: a comparison with what makes it SQL's is that comparison. */
  conjunction(operands: readonly Expression[], row: Row): string[] {
    const parts: string[] = [];
    for (let i = 0; i < operands.length;) {
      const one = operands[i]!;
      const known = definedIn(operands, i, row);
      if (known !== undefined) {
        parts.push(`${this.operand(known.value, row)} IS NOT NULL`);
        i += known.takes;
        continue;
      }
      i++;
      const unlike = this.unlikeIn(one, operands[i], row);
      if (unlike !== undefined) {
        parts.push(unlike);
        i++;
        continue;
      }
      if (one.kind !== 'comparison') {
        parts.push(this.grouped(one, row));
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
        parts.push(this.sides(one, row));
        i = at;
      } else parts.push(this.compared(one, row));
    }
    return parts;
  }

  /** NOT LIKE: a text that a pattern does not fit. */
  unlikeIn(one: Expression, next: Expression | undefined, row: Row): string | undefined {
    const text = textIn(one);
    if (text === undefined || next?.kind !== 'not') return undefined;
    const test = next.operand;
    const of = textIn(test) ?? (test.kind === 'call' ? test.arguments[0] : test.kind === 'comparison' && test.operator === '==' ? test.left : undefined); // prettier-ignore
    if (of === undefined || printExpression(of) !== printExpression(text)) return undefined;
    if (test.kind === 'comparison' && textIn(test) === undefined) {
      const { right } = test;
      if (right.kind !== 'literal' || typeof right.value !== 'string') return undefined;
      return `${this.operand(text, row)} NOT ${like(escaped(right.value), /[%_!]/.test(right.value))}`;
    }
    const written = this.condition(test, row);
    const at = written.lastIndexOf(' LIKE ');
    return at < 0 ? undefined : `${written.slice(0, at)} NOT${written.slice(at)}`;
  }

  /** A comparison as it is written, whatever NULL makes of it. */
  sides({ operator, left, right }: Pick<Expression & { kind: 'comparison' }, 'operator' | 'left' | 'right'>, row: Row): string {
    return `${this.operand(left, row)} ${operators[operator]} ${this.operand(right, row)}`;
  }

  /** Whether a value is a text. */
  isText(value: Expression, row: Row): string {
    return `${this.operand(value, row)} LIKE '%'`;
  }

  compared({ operator, left, right }: Expression & { kind: 'comparison' }, row: Row): string {
    const text = textIn({ kind: 'comparison', operator, left, right, id: left.id });
    if (text !== undefined) return this.isText(text, row);
    const sides = this.sides({ operator, left, right }, row);
    const isSure = isCertain(left, row) || isCertain(right, row);
    if (operator === '!=' && isNull(right) && left.kind === 'path' && !isColumn(left, row)) return `(${this.value(left, row)} IS NOT NULL OR (${this.exists(left, row)}) IS NOT TRUE)`; // prettier-ignore
    if (operator === '==' && isNull(right)) return left.kind === 'path' && !isColumn(left, row) ? `(${this.exists(left, row)} AND ${this.value(left, row)} IS NULL)` : `${this.operand(left, row)} IS NULL`; // prettier-ignore
    switch (operator) {
      case '==':
        return isSure ? sides : `${this.operand(left, row)} IS NOT DISTINCT FROM ${this.operand(right, row)}`;
      case '!=':
        return isCertain(left, row) && isCertain(right, row)
          ? sides
          : `${this.operand(left, row)} IS DISTINCT FROM ${this.operand(right, row)}`;
      case '<=':
      case '>=':
        return isSure ? sides : `(${this.sides({ operator: operator[0] as '<', left, right }, row)} OR ${this.operand(left, row)} IS NOT DISTINCT FROM ${this.operand(right, row)})`; // prettier-ignore
      default:
        return sides;
    }
  }

  /** What does not hold in the notation is false or unknown in SQL. */
  negated(inner: Expression, row: Row): string {
    if (inner.kind === 'and' && inner.operands.length === 2) {
      const known = definedIn(inner.operands, 0, row);
      if (known?.takes === 2) return `${this.operand(known.value, row)} IS NULL`;
    }
    if (inner.kind === 'comparison' && definedIn([inner], 0, row) !== undefined) return `${this.operand(inner.left, row)} IS NULL`;
    return `(${this.condition(inner, row)}) IS NOT TRUE`;
  }

  exists(path: Expression & { kind: 'path' }, row: Row): string {
    // The part that is one value is written as a column, the rest as a path inside it.
    const { segments } = path;
    const single = segments.findIndex(({ descendant, selectors }) => descendant || selectors.length !== 1 || !(selectors[0].kind === 'name' || selectors[0].kind === 'index')); // prettier-ignore
    const rest = single < 0 ? [] : segments.slice(single);
    const base = { ...path, segments: single < 0 ? segments : segments.slice(0, single) };
    if (base.segments.length === 0 && path.root.kind === 'current') throw new Unsaid('a path over all fields of a row');
    if (single < 0) {
      const { place, steps } = row.find(path);
      if (place.existence !== undefined && steps.length === 1 && steps[0] === 0) return place.existence;
      if (place.wasMissing === true && steps.length === 0) return `${place.text(steps)} IS NOT NULL`;
    }
    const inner = printExpression({ ...path, root: { kind: 'whole' }, segments: rest });
    return `JSON_EXISTS(${this.value(base, row)}, ${quoted(inner)})`;
  }

  test(call: Expression & { kind: 'call' }, row: Row): string {
    const [text, part] = call.arguments;
    if (call.name === 'exists' && text?.kind === 'path') return this.exists(text, row);
    const constant = part?.kind === 'literal' && typeof part.value === 'string' ? part.value : undefined;
    const pattern = constant === undefined ? undefined : likePattern(call.name, constant);
    return pattern === undefined ? this.holds(call, row) : this.fits(text!, pattern, row);
  }

  /** A call whose value is itself the condition; only a dialect whose values of JSON are values of SQL can say that. */
  holds(call: Expression & { kind: 'call' }, row: Row): string {
    return this.called(call, row);
  }

  /** Whether a text fits a pattern of LIKE, in which ! stands before a character that means itself. */
  fits(text: Expression, pattern: string, row: Row): string {
    return `${this.operand(text, row)} ${like(pattern, pattern.includes('!'))}`;
  }
}
