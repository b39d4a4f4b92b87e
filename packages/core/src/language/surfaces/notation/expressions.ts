import { findings } from '../../diagnostics/findings.ts';
import { cover } from '../../span.ts';
import type { Token } from './tokens.ts';
import type { ArithmeticOperator, Comparison, ComparisonOperator, Expression, Logical, PathExpression } from '../../tree.ts';
import { parseNumber } from './literals.ts';
import { readPath } from './paths.ts';
import { commaSeparated, depthLimit, type Reader } from './reader.ts';

const comparisonSigns: ReadonlySet<string> = new Set<ComparisonOperator>(['==', '!=', '<', '<=', '>', '>=']);

/** An expression of the notation, or a logical expression of RFC 9535 in the standard dialect. */
export function parseExpression(reader: Reader): Expression {
  return chain(reader, 'or', () => chain(reader, 'and', () => parseNot(reader)));
}

/** A path from its root sign or partner name, which is the current token. */
export function parsePath(reader: Reader): PathExpression {
  return readPath(reader, parseExpression);
}

const chainSigns = { or: '||', and: '&&' } as const;

function chain(reader: Reader, kind: Logical['kind'], operand: () => Expression): Expression {
  const sign = chainSigns[kind];
  const operands = [operand()];
  for (;;) {
    if (reader.isWord(kind)) reader.reject(findings.wordForSign(reader.token, kind, sign));
    if (!reader.takeSign(sign)) break;
    operands.push(operand());
  }
  return operands.length === 1
    ? operands[0]!
    : { kind, operands, ...reader.place(cover(reader.at(operands[0]!), reader.at(operands[operands.length - 1]!))) };
}

function parseNot(reader: Reader): Expression {
  const start = reader.token;
  if (!reader.takeSign('!')) return parseComparison(reader);
  if (reader.isSign('!')) reader.fail('a test, a call or brackets');
  const operand = parsePrimary(reader);
  if (isComparisonSign(reader.token) || reader.isWord('in')) {
    reader.take();
    const right = parseSum(reader);
    reader.reject(findings.notBeforeComparison(start, cover(reader.at(operand), reader.at(right))));
  }
  return { kind: 'not', operand, ...reader.placeFrom(start) };
}

function isComparisonSign(token: Token): boolean {
  return token.kind === 'sign' && comparisonSigns.has(token.text);
}

function parseComparison(reader: Reader): Expression {
  const start = reader.token;
  const left = parseSum(reader);
  const sign = reader.token;
  if (!isComparisonSign(sign) && !(reader.dialect === 'notation' && reader.isWord('in'))) return left;
  const operand = (first: Token, expression: Expression): Expression => {
    // The standard compares literals, paths and calls; its brackets hold conditions only.
    if (reader.dialect === 'standard' && first.text === '(' && first.kind === 'sign') {
      reader.reject(findings.conditionCompared(reader.at(expression), undefined));
    }
    return expression;
  };
  reader.take();
  const rightStart = reader.token;
  const right = operand(
    rightStart,
    reader.within({ kind: 'comparison', left }, () => parseSum(reader)),
  );
  operand(start, left);
  if (isComparisonSign(reader.token) || reader.isWord('in')) reader.reject(findings.chainedComparison(reader.token));
  const place = reader.placeFrom(start);
  return sign.kind === 'name'
    ? { kind: 'in', left, right, ...place }
    : ({ kind: 'comparison', operator: sign.text as ComparisonOperator, left, right, ...place } satisfies Comparison);
}

const sumSigns: readonly ArithmeticOperator[] = ['+', '-'];
const productSigns: readonly ArithmeticOperator[] = ['*', '/', '%'];

function parseSum(reader: Reader): Expression {
  return arithmetic(reader, sumSigns, () => arithmetic(reader, productSigns, () => parseUnary(reader)));
}

function arithmetic(reader: Reader, signs: readonly ArithmeticOperator[], operand: () => Expression): Expression {
  const start = reader.token;
  let left = operand();
  if (reader.dialect === 'standard') return left;
  for (let length = 0; ; length++) {
    const operator = signs.find((sign) => reader.isSign(sign));
    if (operator === undefined) return left;
    // A chain is a tree as deep as it is long.
    if (length === depthLimit) reader.reject(findings.tooDeep(reader.token, depthLimit));
    rejectDashedName(reader, left);
    reader.take();
    const right = operand();
    left = { kind: 'arithmetic', operator, left, right, ...reader.placeFrom(start) };
  }
}

/** `@.first-name` was meant as one name, since a name alone is no value. */
function rejectDashedName(reader: Reader, left: Expression): void {
  if (!reader.isSign('-') || left.kind !== 'path' || left.segments.length === 0 || !reader.adjacent) return;
  const right = reader.next;
  const last = left.segments[left.segments.length - 1]!;
  const selector = last.selectors[0]!;
  if (right.kind !== 'name' || right.from !== reader.token.to || selector.kind !== 'name') return;
  if (['true', 'false', 'null'].includes(right.text) || reader.partners.has(right.text)) return;
  const after = reader.peek(2);
  if (after.kind === 'sign' && after.text === '(') return;
  reader.reject(findings.dashedName({ from: reader.at(last).from, to: right.to }, right.text, `['${selector.name}-${right.text}']`));
}

function parseUnary(reader: Reader): Expression {
  const start = reader.token;
  if (!reader.takeSign('-')) return parsePrimary(reader);
  if (reader.token.kind === 'number' && (reader.dialect === 'notation' || reader.adjacent)) return parseNumber(reader, start);
  if (reader.dialect === 'standard') reader.fail('a number right after the minus');
  const operand = reader.nested(() => parseUnary(reader));
  const place = reader.placeFrom(start);
  // Two ways of writing one number would print as one and read back as the other.
  if (operand.kind === 'literal' && typeof operand.value === 'number' && !isNegative(operand.value)) {
    return { kind: 'literal', value: -operand.value, ...place };
  }
  return { kind: 'negation', operand, ...place };
}

function isNegative(value: number): boolean {
  return value < 0 || Object.is(value, -0);
}

const words: Record<string, null | boolean> = { null: null, true: true, false: false };

function parsePrimary(reader: Reader): Expression {
  reader.want('expression');
  const token = reader.token;
  switch (token.kind) {
    case 'number':
      return parseNumber(reader);
    case 'string':
      reader.take();
      return { kind: 'literal', value: token.value, ...reader.place(token) };
    case 'name':
      return parseNamed(reader, token);
    case 'sign':
      return parseSigned(reader, token);
    default:
      return reader.fail('a path, a value or a condition');
  }
}

function parseNamed(reader: Reader, token: Token): Expression {
  const following = reader.next;
  if (following.kind === 'sign' && following.text === '(' && following.from === token.to) return parseCall(reader);
  if (reader.partners.has(token.text)) return parsePath(reader);
  if (Object.hasOwn(words, token.text)) {
    reader.take();
    return { kind: 'literal', value: words[token.text]!, ...reader.place(token) };
  }
  if (token.text === 'not') reader.reject(findings.wordForSign(token, 'not', '!'));
  return reader.reject(findings.bareName(token, token.text));
}

function parseCall(reader: Reader): Expression {
  const name = reader.take();
  return reader.nested(() => {
    reader.expectSign('(');
    const given: Expression[] = [];
    reader.within({ kind: 'call', name: name.text, given }, () => {
      if (!reader.isSign(')')) commaSeparated(reader, () => given.push(parseExpression(reader)));
    });
    reader.expectSign(')', '“,” or “)”');
    return { kind: 'call', name: name.text, nameId: reader.place(name).id, arguments: given, ...reader.placeFrom(name) };
  });
}

function parseSigned(reader: Reader, token: Token): Expression {
  if (token.text === '@' || token.text === '$') return reader.nested(() => parsePath(reader));
  if (token.text === '(') {
    return reader.nested(() => {
      reader.take();
      const inner = parseExpression(reader);
      reader.expectSign(')');
      return inner;
    });
  }
  if (reader.dialect === 'notation') {
    if (token.text === ':') return parseParameter(reader);
    if (token.text === '[') return reader.nested(() => parseArray(reader));
    if (token.text === '{') return reader.nested(() => parseObject(reader));
  }
  return reader.fail('a path, a value or a condition');
}

function parseParameter(reader: Reader): Expression {
  const start = reader.take();
  if (!reader.adjacent) reader.fail('a parameter’s name right after the colon');
  const { text } = reader.expectName('a parameter’s name');
  return { kind: 'parameter', name: text, ...reader.placeFrom(start) };
}

function parseArray(reader: Reader): Expression {
  const start = reader.take();
  const items = reader.isSign(']') ? [] : reader.within({ kind: 'array' }, () => commaSeparated(reader, () => parseExpression(reader)));
  reader.expectSign(']', '“,” or “]”');
  return { kind: 'array', items, ...reader.placeFrom(start) };
}

function parseObject(reader: Reader): Expression {
  const start = reader.take();
  const entry = () => {
    const token = reader.token;
    const name = token.kind === 'string' ? token.value : token.kind === 'name' ? token.text : reader.fail('a field name');
    reader.take();
    reader.expectSign(':');
    return { name, value: parseExpression(reader) };
  };
  const entries = reader.isSign('}') ? [] : commaSeparated(reader, entry);
  reader.expectSign('}', '“,” or “}”');
  return { kind: 'object', entries, ...reader.placeFrom(start) };
}
