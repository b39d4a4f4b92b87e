import { walk, type Expression } from './tree.ts';

/** Whether an expression gives the same value for all rows: it looks at none. */
export function isConstant(expression: Expression): boolean {
  let constant = true;
  walk(expression, (node) => {
    if (node.kind === 'path') constant = false;
  });
  return constant;
}
