import { findings } from '../language/diagnostics/findings.ts';
import { ParseFailure, Reader } from '../language/surfaces/notation/reader.ts';
import { parsePath } from '../language/surfaces/notation/expressions.ts';
import { Places } from '../language/places.ts';
import { isSingle, type Call, type Expression, type PathExpression } from '../language/tree.ts';
import { describe, tokenize } from '../language/surfaces/notation/tokens.ts';

/** An invalid JSONPath query. `position` is a UTF-16 offset into the query. */
export class JsonPathError extends Error {
  readonly position: number;
  constructor(message: string, position: number) {
    super(`${message} (at position ${position})`);
    this.name = 'JsonPathError';
    this.position = position;
  }
}

/** What is no query by the rules of types (2.4.3), at a node. */
class IllTyped extends Error {
  readonly node: Expression;
  constructor(message: string, node: Expression) {
    super(message);
    this.node = node;
  }
}

/**
 * Parses a JSONPath query by RFC 9535 to the letter, well-typedness (2.4.3) included.
 * @throws JsonPathError where the query is invalid
 */
export function parseQuery(query: string): PathExpression {
  const places = new Places();
  try {
    if (/^[ \t\r\n]|[ \t\r\n]$/.test(query)) throw new JsonPathError('A query neither begins nor ends with white space', 0);
    const tokens = tokenize(query, 0, query.length);
    const comment = tokens.find((token) => token.kind === 'comment');
    if (comment) throw new JsonPathError('A query holds no comments', comment.from);
    const reader = new Reader(tokens, 'standard', places);
    if (!reader.isSign('$')) reader.fail('“$”');
    const path = parsePath(reader);
    if (reader.token.kind !== 'end') {
      reader.reject(findings.expected(reader.token, 'the end of the query', describe(reader.token)));
    }
    checkFilters(path);
    return path;
  } catch (error) {
    if (error instanceof ParseFailure) throw new JsonPathError(error.finding.message, error.finding.from);
    if (error instanceof IllTyped) throw new JsonPathError(error.message, places.of(error.node).from);
    throw error;
  }
}

function checkFilters(path: PathExpression): void {
  for (const { selectors } of path.segments) {
    for (const selector of selectors) if (selector.kind === 'filter') checkLogical(selector.condition);
  }
}

function refuse(expression: Expression, message: string): never {
  throw new IllTyped(message, expression);
}

function checkLogical(expression: Expression): void {
  switch (expression.kind) {
    case 'and':
    case 'or':
      expression.operands.forEach(checkLogical);
      return;
    case 'not':
      checkLogical(expression.operand);
      return;
    case 'comparison':
      checkComparable(expression.left);
      checkComparable(expression.right);
      return;
    case 'path':
      checkFilters(expression);
      return;
    case 'call':
      if (checkCall(expression) === 'value') refuse(expression, `What ${expression.name} gives is compared with something`);
      return;
    default:
      refuse(expression, 'A value alone is no test');
  }
}

function checkComparable(expression: Expression): void {
  switch (expression.kind) {
    case 'literal':
      return;
    case 'path':
      if (!isSingle(expression)) refuse(expression, 'A path that is compared selects one node at most');
      return;
    case 'call':
      if (checkCall(expression) !== 'value') refuse(expression, `What ${expression.name} gives is not compared`);
      return;
    default:
      refuse(expression, 'Only literals, paths and function calls are compared');
  }
}

/** The functions of RFC 9535, 2.4.4 to 2.4.8, and nothing else. */
const standardFunctions: Record<string, { arguments: readonly ('value' | 'nodes')[]; result: 'value' | 'logical' }> = {
  length: { arguments: ['value'], result: 'value' },
  count: { arguments: ['nodes'], result: 'value' },
  value: { arguments: ['nodes'], result: 'value' },
  match: { arguments: ['value', 'value'], result: 'logical' },
  search: { arguments: ['value', 'value'], result: 'logical' },
};

function checkCall(call: Call): 'value' | 'logical' {
  if (!Object.hasOwn(standardFunctions, call.name)) refuse(call, `The standard has no function ${call.name}`);
  const signature = standardFunctions[call.name]!;
  if (call.arguments.length !== signature.arguments.length) {
    refuse(call, `${call.name} takes ${signature.arguments.length} argument(s)`);
  }
  signature.arguments.forEach((wanted, i) => {
    const argument = call.arguments[i]!;
    if (wanted === 'value') {
      checkComparable(argument);
    } else {
      if (argument.kind !== 'path') refuse(argument, `${call.name} takes a path`);
      checkFilters(argument);
    }
  });
  return signature.result;
}
