import { isSingle, walk, type Expression } from '../language/tree.ts';

const fewestAtFirst = 64;
/** How many times as many go through at once where a condition is a few comparisons. */
const moreWhereQuick = 8;

/** Whether a condition takes about as long for each document: values at single paths against literals and parameters. */
function isQuick(condition: Expression): boolean {
  let quick = true;
  walk(condition, (node) => {
    switch (node.kind) {
      case 'path':
        quick &&= isSingle(node);
        break;
      case 'comparison':
        quick &&= node.left.kind === 'literal' || node.right.kind === 'literal';
        break;
      case 'in':
        quick &&= node.right.kind === 'parameter' || node.right.kind === 'array';
        break;
      case 'call':
        quick = false;
        break;
    }
  });
  return quick;
}

/** How many documents at most a scan tests before others get their turn. */
export function mostAtOnce(condition: Expression | undefined, usual: number): number {
  return condition !== undefined && isQuick(condition) ? usual * moreWhereQuick : usual;
}

/**
 * How many documents a scan goes through at a time: few at first, so that a run that ends soon reads little. By counts alone, and not by a
 * clock: what a run holds at most is the same each time.
 */
export class ScanPace {
  size: number;
  private readonly most: number;

  constructor(most: number) {
    this.most = most;
    this.size = Math.min(fewestAtFirst, most);
  }

  /** Is told when a part has been gone through. */
  passed(): void {
    this.size = Math.min(this.size * 2, this.most);
  }
}
