import type { Expression } from '../../../tree.ts';
import { IsoExpressions, operators } from './iso.ts';
import { idiomOf } from './idioms.ts';
import { isNumberKind } from './sqlitePlaces.ts';
import { quoted, Unsaid, type Row } from './writer.ts';

/** Functions of numbers and of texts that SQLite has under a name of its own. */
const ofNumbers: Readonly<Record<string, string>> = { abs: 'abs', floor: 'floor', ceil: 'ceil', round: 'round', sqrt: 'sqrt', pow: 'power', exp: 'exp', ln: 'ln' }; // prettier-ignore
const ofTexts: Readonly<Record<string, string>> = { upper: 'upper', lower: 'lower', replace: 'replace', trim: 'trim' };
/** Where the parts of a date stand in its text. */
const dateParts: Readonly<Record<string, readonly [number, number]>> = { year: [1, 4], month: [6, 2], day: [9, 2], hour: [12, 2], minute: [15, 2] }; // prettier-ignore

/** Expressions in SQLite's SQL: a value of a wrong type is NULL there too, and nothing is converted on the way. */
export class SqliteExpressions extends IsoExpressions {
  override value(expression: Expression, row: Row): string {
    const idiom = idiomOf(expression);
    if (idiom !== undefined) return this.idiom(idiom, row);
    if (expression.kind === 'arithmetic') return this.arithmetic(expression, row);
    if (expression.kind === 'negation') return `-${this.number(expression.operand, row)}`;
    if (expression.kind === 'object') return `json_object(${expression.entries.map(({ name, value }) => `${quoted(name)}, ${this.json(value, row)}`).join(', ')})`; // prettier-ignore
    if (expression.kind === 'array') return `json_array(${expression.items.map((item) => this.json(item, row)).join(', ')})`;
    if (expression.kind === 'call') return this.call(expression, row);
    return super.value(expression, row);
  }

  private idiom({ name, given }: NonNullable<ReturnType<typeof idiomOf>>, row: Row): string {
    const [first, second] = given;
    const value = (one: Expression): string => this.operand(one, row);
    switch (name) {
      case 'CHAR_LENGTH':
        return `CASE WHEN ${this.isText(first!, row)} THEN length(${value(first!)}) END`;
      case 'POSITION':
        return `CASE WHEN ${this.isText(first!, row)} AND ${this.isText(second!, row)} THEN instr(${value(second!)}, ${value(first!)}) END`;
      case 'NULLIF':
        return `nullif(${value(first!)}, ${value(second!)})`;
      default:
        return `CASE WHEN ${this.isNumber(first!, row)} THEN CAST(${value(first!)} AS INTEGER) END`;
    }
  }

  private arithmetic({ operator, left, right }: Expression & { kind: 'arithmetic' }, row: Row): string {
    if (operator === '+' && left.kind === 'path' && right.kind === 'literal' && right.value === 1) {
      const { ordinal } = row.find(left).place;
      if (ordinal !== undefined) return ordinal;
    }
    const [a, b] = [this.number(left, row), this.number(right, row)];
    if (operator === '%') return `mod(${a}, ${b})`;
    return operator === '/' ? `(${a} * 1.0 / ${b})` : `(${a} ${operator} ${b})`;
  }

  /** A value where it is a number, else NULL. */
  private number(expression: Expression, row: Row): string {
    const text = this.operand(expression, row);
    if (expression.kind === 'arithmetic' || (expression.kind === 'literal' && typeof expression.value === 'number')) return text;
    return `CASE WHEN ${this.isNumber(expression, row)} THEN ${text} END`;
  }

  private kind(expression: Expression, row: Row): string {
    if (expression.kind === 'path') {
      const { place, steps } = row.find(expression);
      if (place.kind !== undefined) return place.kind(steps);
    }
    return `typeof(${this.value(expression, row)})`;
  }
  private isNumber(expression: Expression, row: Row): string {
    return isNumberKind(this.kind(expression, row));
  }
  override isText(expression: Expression, row: Row): string {
    return `${this.kind(expression, row)} = 'text'`;
  }

  /** A value inside a constructor, where an array or object is one and not its text. */
  json(expression: Expression, row: Row): string {
    if (expression.kind === 'call' && expression.name === 'or_null') return this.json(expression.arguments[0]!, row);
    if (expression.kind !== 'path') return this.value(expression, row);
    const { place, steps } = row.find(expression);
    return place.json?.(steps) ?? place.text(steps);
  }

  /** What is ordered is of one type; SQLite would order numbers before texts. */
  override sides(comparison: Parameters<IsoExpressions['sides']>[0], row: Row): string {
    const { operator, left, right } = comparison;
    const text = `${this.operand(left, row)} ${operators[operator]} ${this.operand(right, row)}`;
    if (operator === '==' || operator === '!=') return text;
    const [constant, other] = right.kind === 'literal' ? [right, left] : [left, right];
    if (constant.kind === 'literal') return `(${typeof constant.value === 'number' ? this.isNumber(other, row) : this.isText(other, row)} AND ${text})`; // prettier-ignore
    return `((${this.isText(left, row)}) = (${this.isText(right, row)}) AND ${text})`;
  }

  private call(call: Expression & { kind: 'call' }, row: Row): string {
    // What holds conditions is written as it is; only its parts differ.
    if (call.name === 'or_null' || call.name === 'if') return super.value(call, row);
    const given = call.arguments;
    const [first, ...rest] = given;
    const values = given.map((one) => this.operand(one, row));
    if (Object.hasOwn(ofNumbers, call.name)) return `${ofNumbers[call.name]}(${given.map((one) => this.number(one, row)).join(', ')})`;
    if (Object.hasOwn(ofTexts, call.name)) {
      const texts = given.filter((one) => one.kind !== 'literal').map((one) => this.isText(one, row));
      const made = `${ofTexts[call.name]}(${values.join(', ')})`;
      return texts.length === 0 ? made : `CASE WHEN ${texts.join(' AND ')} THEN ${made} END`;
    }
    switch (call.name) {
      case 'coalesce':
        return rest.length === 0 ? values[0]! : `coalesce(${values.join(', ')})`;
      case 'concat': {
        const tests = given.filter((one) => one.kind !== 'literal').map((one) => this.isText(one, row));
        // || binds as -> does, from the left.
        const joined = values.map((value) => (value.includes('->') ? `(${value})` : value)).join(' || ');
        return tests.length === 0 ? `(${joined})` : `CASE WHEN ${tests.join(' AND ')} THEN ${joined} END`;
      }
      case 'now':
        return "strftime('%Y-%m-%dT%H:%M:%fZ', 'now')";
      case 'substring':
        if (rest[0]?.kind !== 'literal' || typeof rest[0].value !== 'number') throw new Unsaid('substring from a place that is worked out');
        return `CASE WHEN ${this.isText(first!, row)} THEN substr(${[values[0], rest[0].value + 1, ...values.slice(2)].join(', ')}) END`;
      case 'date_part': {
        const part = first?.kind === 'literal' ? dateParts[String(first.value)] : undefined;
        if (part === undefined) throw new Unsaid('this part of a date');
        return `CASE WHEN ${values[1]} GLOB '[0-9][0-9][0-9][0-9]-*' THEN CAST(substr(${values[1]}, ${part.join(', ')}) AS INTEGER) END`;
      }
    }
    throw new Unsaid(`the function ${call.name}`);
  }

  override unlikeIn(): undefined {
    return undefined;
  }

  /** GLOB keeps case, as the functions of the notation do. */
  override fits(text: Expression, pattern: string, row: Row): string {
    return `(${this.isText(text, row)} AND ${this.operand(text, row)} GLOB ${quoted(globOf(pattern))})`;
  }

  override holds(call: Expression & { kind: 'call' }): string {
    throw new Unsaid(`the test ${call.name}`);
  }

  override exists(path: Expression & { kind: 'path' }, row: Row): string {
    const { place, steps } = row.find(path);
    if (place.existence !== undefined && steps.length === 1 && steps[0] === 0) return place.existence;
    return place.isColumn(steps) ? '1 = 1' : `${this.kind(path, row)} IS NOT NULL`;
  }
}

const plainly = (text: string): string => text.replace(/[*?[]/g, '[$&]');

/** The pattern of GLOB that says the same as one of LIKE in which ! stands before a character that means itself. */
const globOf = (like: string): string =>
  like.replace(/!(.)|[%_]|[*?[]/gs, (one, escaped: string | undefined) => (escaped !== undefined ? plainly(escaped) : one === '%' ? '*' : one === '_' ? '?' : plainly(one))); // prettier-ignore
