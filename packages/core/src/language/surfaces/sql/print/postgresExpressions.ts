import type { Expression } from '../../../tree.ts';
import { idiomOf } from './idioms.ts';
import { IsoExpressions, operators } from './iso.ts';
import { like } from './likeText.ts';
import { quoted, Unsaid, type Row } from './writer.ts';

const ofNumbers: Readonly<Record<string, string>> = { abs: 'abs', floor: 'floor', ceil: 'ceil', exp: 'exp' };
const ofTexts: Readonly<Record<string, string>> = { upper: 'upper', lower: 'lower', replace: 'replace' };

/** Expressions in PostgreSQL's SQL: every value is jsonb, so that its type goes with it, and of a wrong type it is NULL. */
export class PostgresExpressions extends IsoExpressions {
  override value(expression: Expression, row: Row): string {
    const idiom = idiomOf(expression);
    if (idiom !== undefined) return this.idiom(idiom, row);
    switch (expression.kind) {
      case 'literal':
        return expression.value === null ? 'NULL::jsonb' : `${quoted(JSON.stringify(expression.value))}::jsonb`;
      case 'parameter':
        return `to_jsonb(:${expression.name})`;
      case 'negation':
        return `to_jsonb(-${this.number(expression.operand, row)})`;
      case 'arithmetic':
        return this.arithmetic(expression, row);
      case 'object':
        return `jsonb_build_object(${expression.entries.map(({ name, value }) => `${quoted(name)}, ${this.value(value, row)}`).join(', ')})`;
      case 'array':
        return `jsonb_build_array(${expression.items.map((item) => this.value(item, row)).join(', ')})`;
      case 'call':
        return this.call(expression, row);
      case 'path':
        return super.value(expression, row);
      default:
        return `to_jsonb(${this.condition(expression, row)})`;
    }
  }
  override operand(expression: Expression, row: Row): string {
    return this.value(expression, row);
  }

  private idiom({ name, given }: NonNullable<ReturnType<typeof idiomOf>>, row: Row): string {
    const [first, second] = given;
    switch (name) {
      case 'CHAR_LENGTH':
        return `to_jsonb(char_length(${this.text(first!, row)}))`;
      case 'POSITION':
        return `to_jsonb(strpos(${this.text(second!, row)}, ${this.text(first!, row)}))`;
      case 'NULLIF':
        return `NULLIF(${this.value(first!, row)}, ${this.value(second!, row)})`;
      default:
        return `to_jsonb(trunc(${this.number(first!, row)}))`;
    }
  }

  /** A value as a number of PostgreSQL's, NULL where it is none. */
  number(expression: Expression, row: Row): string {
    if (expression.kind === 'literal' && typeof expression.value === 'number') return `${expression.value}::float8`;
    const value = this.value(expression, row);
    return `CASE WHEN jsonb_typeof(${value}) = 'number' THEN (${value})::float8 END`;
  }
  /** A value as a text of PostgreSQL's, NULL where it is none. */
  private text(expression: Expression, row: Row): string {
    if (expression.kind === 'literal' && typeof expression.value === 'string') return quoted(expression.value);
    const value = this.value(expression, row);
    return `CASE WHEN jsonb_typeof(${value}) = 'string' THEN (${value}) #>> '{}' END`;
  }

  private arithmetic({ operator, left, right }: Expression & { kind: 'arithmetic' }, row: Row): string {
    if (operator === '+' && left.kind === 'path' && right.kind === 'literal' && right.value === 1) {
      const { ordinal } = row.find(left).place;
      if (ordinal !== undefined) return ordinal;
    }
    const [a, b] = [this.number(left, row), this.number(right, row)];
    if (operator === '%') return `to_jsonb(mod((${a})::numeric, NULLIF((${b})::numeric, 0)))`;
    return operator === '/' ? `to_jsonb((${a}) / NULLIF(${b}, 0))` : `to_jsonb((${a}) ${operator} (${b}))`;
  }

  override isText(expression: Expression, row: Row): string {
    return `jsonb_typeof(${this.value(expression, row)}) = 'string'`;
  }

  override sides(comparison: Parameters<IsoExpressions['sides']>[0], row: Row): string {
    const { operator, left, right } = comparison;
    const [a, b] = [this.value(left, row), this.value(right, row)];
    const text = `${a} ${operators[operator]} ${b}`;
    if (operator === '==' || operator === '!=') return text;
    const [constant, other] = right.kind === 'literal' ? [right, a] : [left, b];
    if (constant.kind === 'literal')
      return `(jsonb_typeof(${other}) = '${typeof constant.value === 'number' ? 'number' : 'string'}' AND ${text})`;
    return `(jsonb_typeof(${a}) = jsonb_typeof(${b}) AND ${text})`;
  }

  private call(call: Expression & { kind: 'call' }, row: Row): string {
    if (call.name === 'or_null' || call.name === 'if') return super.value(call, row);
    const given = call.arguments;
    const [first, ...rest] = given;
    if (Object.hasOwn(ofNumbers, call.name)) return `to_jsonb(${ofNumbers[call.name]}(${this.number(first!, row)}))`;
    if (Object.hasOwn(ofTexts, call.name)) return `to_jsonb(${ofTexts[call.name]}(${given.map((one) => this.text(one, row)).join(', ')}))`;
    switch (call.name) {
      case 'coalesce':
        return `COALESCE(${given.map((one) => this.value(one, row)).join(', ')})`;
      case 'concat':
        return `to_jsonb(${given.map((one) => `(${this.text(one, row)})`).join(' || ')})`;
      case 'round':
        return `to_jsonb(round((${this.number(first!, row)})::numeric${rest[0]?.kind === 'literal' ? `, ${String(rest[0].value)}` : ''}))`;
      case 'substring': {
        if (rest[0]?.kind !== 'literal' || typeof rest[0].value !== 'number') throw new Unsaid('substring from a place that is worked out');
        const length = rest[1]?.kind === 'literal' ? `, ${String(rest[1].value)}` : '';
        if (rest[1] !== undefined && length === '') throw new Unsaid('substring of a length that is worked out');
        return `to_jsonb(substr(${this.text(first!, row)}, ${rest[0].value + 1}${length}))`;
      }
    }
    throw new Unsaid(`the function ${call.name}`);
  }

  override unlikeIn(): undefined {
    return undefined;
  }

  override fits(text: Expression, pattern: string, row: Row): string {
    return `(${this.text(text, row)}) ${like(pattern, true)}`;
  }

  override holds(call: Expression & { kind: 'call' }): string {
    throw new Unsaid(`the test ${call.name}`);
  }

  override exists(path: Expression & { kind: 'path' }, row: Row): string {
    const { place, steps } = row.find(path);
    if (place.existence !== undefined && steps.length === 1 && steps[0] === 0) return place.existence;
    return place.isColumn(steps) ? 'TRUE' : `${place.json!(steps)} IS NOT NULL`;
  }
}
