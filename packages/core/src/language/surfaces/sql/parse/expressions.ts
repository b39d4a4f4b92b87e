import { findings } from '../../../diagnostics/findings.ts';
import type { ArithmeticOperator, ComparisonOperator } from '../../../tree.ts';
import { parseNumber } from '../../notation/literals.ts';
import { commaSeparated, depthLimit } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlReader } from '../sqlReader.ts';
import type { SqlExpression, Step } from '../tree.ts';
import { parseCall, specialForms } from './calls.ts';
import { parseCase } from './choice.ts';

/** A value expression or search condition (ISO/IEC 9075-2, 6.28 and 8.21), OR binding loosest. */
export function parseExpression(reader: SqlReader): SqlExpression {
  return reader.nested(() => chain(reader, 'or', 'OR', () => chain(reader, 'and', 'AND', () => parseNot(reader))));
}

function chain(reader: SqlReader, kind: 'and' | 'or', word: string, operand: () => SqlExpression): SqlExpression {
  const start = reader.token;
  const operands = [operand()];
  while (reader.takeWord(word)) operands.push(operand());
  return operands.length === 1 ? operands[0]! : { kind, operands, ...reader.placeFrom(start) };
}

function parseNot(reader: SqlReader): SqlExpression {
  const start = reader.token;
  if (reader.isWord('NOT')) {
    return reader.nested(() => {
      reader.take();
      return { kind: 'not', operand: parseNot(reader), ...reader.placeFrom(start) };
    });
  }
  return parsePredicate(reader);
}

const comparisons: Readonly<Record<string, ComparisonOperator>> = { '=': '==', '!=': '!=', '<': '<', '<=': '<=', '>': '>', '>=': '>=' };

function parsePredicate(reader: SqlReader): SqlExpression {
  const start = reader.token;
  let left = parseSum(reader);
  for (;;) {
    const sign = reader.token;
    const operator = sign.kind === 'sign' && Object.hasOwn(comparisons, sign.text) ? comparisons[sign.text] : undefined;
    if (operator !== undefined) {
      reader.take();
      if (reader.isWord('ANY') || reader.isWord('ALL') || reader.isWord('SOME'))
        reader.reject(faults.notTaken(reader.token, `${reader.token.text.toUpperCase()} over a subquery`, 'Use IN, or EXISTS with the comparison inside it.')); // prettier-ignore
      left = { kind: 'compare', operator, left, right: parseSum(reader), ...reader.placeFrom(start) };
      if (reader.token.kind === 'sign' && Object.hasOwn(comparisons, reader.token.text)) reader.reject(faults.notTaken(reader.token, 'A chain of comparisons', 'Join two of them with AND.')); // prettier-ignore
    } else if (reader.isWord('IS')) {
      left = parseIs(reader, left, start);
    } else {
      const negated = reader.isWord('NOT') && reader.next.kind === 'name';
      const word = negated ? reader.next : reader.token;
      const rest = word.kind === 'name' && word.quoted === undefined ? tests[word.text.toUpperCase()] : undefined;
      if (rest === undefined) {
        if (negated) {
          reader.take();
          reader.failOf('BETWEEN, IN or LIKE', Object.keys(tests));
        }
        return left;
      }
      if (negated) reader.take();
      reader.take();
      left = { ...rest(reader, left), ...reader.placeFrom(start) };
      if (negated) left = { kind: 'not', operand: left, ...reader.placeFrom(start) };
    }
  }
}

type Placeless<T> = T extends unknown ? Omit<T, 'id'> : never;
type Test = (reader: SqlReader, operand: SqlExpression) => Placeless<SqlExpression>;

const tests: Readonly<Record<string, Test>> = {
  BETWEEN: (reader, operand) => {
    const low = parseSum(reader);
    reader.expectWord('AND');
    return { kind: 'between', operand, low, high: parseSum(reader) };
  },
  IN: (reader, operand) => {
    reader.expectSign('(', '“(” and a list or a subquery');
    if (reader.isWord('SELECT') || reader.isWord('WITH')) {
      const query = reader.nested(() => reader.query());
      reader.expectSign(')');
      return { kind: 'inQuery', operand, query };
    }
    const items = commaSeparated(reader, () => parseExpression(reader));
    reader.expectSign(')', '“,” or “)”');
    return { kind: 'in', operand, items };
  },
  LIKE: (reader, operand) => {
    const pattern = constantText(reader, 'LIKE');
    return { kind: 'like', operand, pattern, escape: reader.takeWord('ESCAPE') ? constantText(reader, 'ESCAPE') : undefined };
  },
  ILIKE: (reader) =>
    reader.reject(faults.notTaken(reader.previous, 'ILIKE', 'Compare in one case: LOWER(x) LIKE ‘…’, with an index on lower(x) if it is asked often.', 'LIKE')), // prettier-ignore
};

function constantText(reader: SqlReader, word: string): string {
  const { token } = reader;
  if (token.kind !== 'string') return reader.fail(`a text in quotes, since ${word} takes a constant here`);
  reader.take();
  return token.value;
}

function parseIs(reader: SqlReader, operand: SqlExpression, start: typeof reader.token): SqlExpression {
  reader.take();
  const negated = reader.takeWord('NOT') !== undefined;
  const done = (test: Placeless<SqlExpression>, turned: boolean): SqlExpression => {
    const made = { ...test, ...reader.placeFrom(start) };
    return turned ? { kind: 'not', operand: made, ...reader.placeFrom(start) } : made;
  };
  if (reader.takeWords('DISTINCT', 'FROM')) return done({ kind: 'same', left: operand, right: parseSum(reader) }, !negated);
  for (const what of ['null', 'true', 'false', 'unknown'] as const) {
    if (reader.takeWord(what.toUpperCase())) return done({ kind: 'is', operand, what }, negated);
  }
  return reader.failOf('NULL, TRUE, FALSE, UNKNOWN or DISTINCT FROM', ['NULL', 'TRUE', 'FALSE', 'UNKNOWN', 'DISTINCT']);
}

/** Sums and `||`, which bind alike (ISO/IEC 9075-2, 6.29 and 6.33). */
export function parseSum(reader: SqlReader): SqlExpression {
  const start = reader.token;
  let left = parseProduct(reader);
  for (let length = 0; ; length++) {
    if (length === depthLimit) reader.reject(findings.tooDeep(reader.token, depthLimit));
    if (reader.takeSign('||')) {
      const right = parseProduct(reader);
      left = { kind: 'concat', parts: left.kind === 'concat' ? [...left.parts, right] : [left, right], ...reader.placeFrom(start) };
      continue;
    }
    const operator = (['+', '-'] as const).find((sign) => reader.takeSign(sign));
    if (operator === undefined) return left;
    left = { kind: 'arithmetic', operator, left, right: parseProduct(reader), ...reader.placeFrom(start) };
  }
}

const products: readonly ArithmeticOperator[] = ['*', '/', '%'];

function parseProduct(reader: SqlReader): SqlExpression {
  const start = reader.token;
  let left = parseUnary(reader);
  for (let length = 0; ; length++) {
    if (length === depthLimit) reader.reject(findings.tooDeep(reader.token, depthLimit));
    const operator = products.find((sign) => reader.takeSign(sign as '*'));
    if (operator === undefined) return left;
    left = { kind: 'arithmetic', operator, left, right: parseUnary(reader), ...reader.placeFrom(start) };
  }
}

function parseUnary(reader: SqlReader): SqlExpression {
  const start = reader.token;
  if (reader.takeSign('+')) return reader.nested(() => parseUnary(reader));
  if (!reader.isSign('-')) return parsePrimary(reader);
  const minus = reader.take();
  if (reader.token.kind === 'number') return parseNumber(reader, minus);
  return reader.nested(() => ({ kind: 'negative', operand: parseUnary(reader), ...reader.placeFrom(start) }));
}

const constants: Readonly<Record<string, null | boolean>> = { NULL: null, TRUE: true, FALSE: false };

function parsePrimary(reader: SqlReader): SqlExpression {
  const { token } = reader;
  switch (token.kind) {
    case 'number':
      return parseNumber(reader);
    case 'string':
      reader.take();
      return { kind: 'literal', value: token.value, ...reader.place(token) };
    case 'name':
      return parseNamed(reader);
    case 'sign':
      if (token.text === '(') return parseBrackets(reader);
      if (token.text === ':') return parseParameter(reader);
  }
  return reader.fail('a column, a value or a condition');
}

function parseNamed(reader: SqlReader): SqlExpression {
  const { token } = reader;
  const word = token.kind === 'name' && token.quoted === undefined ? token.text.toUpperCase() : '';
  if (Object.hasOwn(constants, word)) {
    reader.take();
    return { kind: 'literal', value: constants[word]!, ...reader.place(token) };
  }
  if (word === 'CASE') return parseCase(reader);
  if (word === 'CURRENT_TIMESTAMP' || word === 'CURRENT_DATE') {
    reader.take();
    return { kind: 'call', name: word, arguments: [], ...reader.place(token) };
  }
  if (word === 'EXISTS') {
    reader.take();
    reader.expectSign('(', '“(” and a subquery');
    const query = reader.nested(() => reader.query());
    reader.expectSign(')');
    return { kind: 'exists', query, ...reader.placeFrom(token) };
  }
  if ((word === 'DATE' || word === 'TIMESTAMP') && reader.next.kind === 'string') {
    reader.take();
    return parsePrimary(reader);
  }
  if (reader.atCall() && (reader.isName || Object.hasOwn(specialForms, word))) return reader.nested(() => parseCall(reader));
  return parseColumn(reader);
}

/** `b.party.size`, `b.nights[0].fee`, `"odd name"`: the simplified accessor of ISO/IEC 9075-2:2023, 6.41. */
export function parseColumn(reader: SqlReader): SqlExpression & { kind: 'column' } {
  const start = reader.name('a column, a value or a condition');
  const steps: Step[] = [];
  for (;;) {
    if (reader.isSign('.') && reader.next.kind !== 'sign') {
      reader.take();
      steps.push(reader.expectName('a field’s name').text);
    } else if (reader.isSign('[')) {
      reader.take();
      const { token } = reader;
      if (reader.isSign('*')) reader.reject(faults.notTaken(token, '[*] in a column', 'It gives several values: take them apart with CROSS JOIN UNNEST(…), or ask JSON_EXISTS.')); // prettier-ignore
      if (token.kind !== 'number' || !/^\d+$/.test(token.text)) reader.fail('an element’s place, from 0');
      steps.push(Number(reader.take().text));
      reader.expectSign(']');
    } else {
      return { kind: 'column', first: start.text, steps, ...reader.placeFrom(start) };
    }
  }
}

function parseBrackets(reader: SqlReader): SqlExpression {
  const open = reader.take();
  if (reader.isWord('SELECT') || reader.isWord('WITH'))
    reader.reject(faults.notTaken(open, 'A subquery as a value', 'Join it: LEFT JOIN (SELECT …) AS s ON …, or a member of WITH.'));
  const inner = parseExpression(reader);
  if (reader.isSign(','))
    reader.reject(faults.notTaken(reader.token, 'A row of several values', 'Compare them one by one, joined with AND.'));
  reader.expectSign(')');
  return inner;
}

function parseParameter(reader: SqlReader): SqlExpression {
  const start = reader.take();
  if (!reader.adjacent) reader.fail('a parameter’s name right after the colon');
  const { text } = reader.expectName('a parameter’s name');
  return { kind: 'parameter', name: text, ...reader.placeFrom(start) };
}
