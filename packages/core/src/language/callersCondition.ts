import { parseConditionText } from './surfaces/notation/texts.ts';
import { printExpression } from './surfaces/notation/print.ts';
import type { Expression } from './tree.ts';

/** Tests that a caller's condition may have. */
export const mostTests = 50;
const longestList = 1_000;

/**
 * Whether a condition is one that somebody from elsewhere may give: `&& || !` and brackets over comparisons of listed fields with
 * constants, `in`, `contains`, `starts_with`, and whether a field is there.
 * @param fields paths as in the notation
 * @returns what is wrong with it, naming listed fields alone; undefined where nothing is
 */
export function callersConditionProblem(text: string, fields: readonly string[]): string | undefined {
  const read = parseConditionText(text);
  if ('finding' in read) {
    const at = text.slice(read.finding.from, read.finding.from + 20);
    return at === '' ? 'it ends too early' : `it cannot be read at “${at}”`;
  }
  const listed = new Set(fields.map(canonical));
  const budget = { tests: 0 };
  return problemOf(read.expression, listed, budget) ?? (budget.tests > mostTests ? `it has more than ${mostTests} tests` : undefined);
}

/** A path as it is printed: however it was written. */
function canonical(path: string): string {
  const read = parseConditionText(`exists(${path})`);
  return 'expression' in read && read.expression.kind === 'call' ? printExpression(read.expression.arguments[0]!) : path;
}

function problemOf(condition: Expression, fields: ReadonlySet<string>, budget: { tests: number }): string | undefined {
  switch (condition.kind) {
    case 'and':
    case 'or':
      for (const operand of condition.operands) {
        const found = problemOf(operand, fields, budget);
        if (found !== undefined) return found;
      }
      return undefined;
    case 'not':
      return problemOf(condition.operand, fields, budget);
    default:
      budget.tests++;
      return testProblem(condition, fields);
  }
}

function testProblem(test: Expression, fields: ReadonlySet<string>): string | undefined {
  switch (test.kind) {
    case 'path':
      return fieldProblem(test, fields);
    case 'comparison':
      if (isConstant(test.right)) return fieldProblem(test.left, fields);
      return isConstant(test.left) ? fieldProblem(test.right, fields) : 'a field is compared with a constant';
    case 'in': {
      const { right } = test;
      if (right.kind !== 'array' || !right.items.every(isConstant)) return 'after in stands a list of constants';
      return right.items.length > longestList ? `a list has ${longestList} values at most` : fieldProblem(test.left, fields);
    }
    case 'call':
      if (!Object.hasOwn(callable, test.name)) return `of functions it may use ${Object.keys(callable).join(', ')}`;
      if (!test.arguments.slice(1).every(isConstant)) return `${test.name} takes a field and a constant`;
      return fieldProblem(test.arguments[0]!, fields);
    default:
      return 'it compares fields with constants';
  }
}

const callable = { contains: true, starts_with: true, exists: true };

function fieldProblem(path: Expression, fields: ReadonlySet<string>): string | undefined {
  if (path.kind === 'path' && fields.has(printExpression(path))) return undefined;
  const names = [...fields];
  return names.length === 0 ? 'it may ask about no field' : `it may ask about ${names.join(', ')}`;
}

function isConstant(expression: Expression): boolean {
  return expression.kind === 'literal' || (expression.kind === 'negation' && expression.operand.kind === 'literal');
}
