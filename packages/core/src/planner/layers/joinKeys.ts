import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Expression } from '../../language/tree.ts';
import { withPaths } from '../../language/substitute.ts';
import type { Conjunct } from '../conjuncts.ts';

/** Which of the two sides of a join an expression looks at. */
type Side = 'row' | 'partner' | 'both' | 'neither';

/** What the condition of a join asks of each side. */
export interface JoinKeys {
  readonly left: Expression[];
  readonly right: Expression[];
  /** The equality that each pair of keys came from, as it is tested on a pair. */
  readonly equalities: Expression[];
  readonly leftIsList: boolean;
  readonly rightIsList: boolean;
  /** Conjuncts on the partner alone, on the row alone or on both. */
  readonly ofPartner: Conjunct[];
  readonly rest: Conjunct[];
}

/** Takes the condition of a join apart: equalities between the sides, what is on one side alone, and the rest. */
export function joinKeys(conjuncts: readonly Conjunct[], partner: string): JoinKeys {
  const keys: JoinKeys = { left: [], right: [], equalities: [], leftIsList: false, rightIsList: false, ofPartner: [], rest: [] };
  let isList = false;
  for (const conjunct of conjuncts) {
    const { expression } = conjunct;
    if (expression.kind === 'comparison' && expression.operator === '==') {
      const [a, b] = [sideOf(expression.left, partner), sideOf(expression.right, partner)];
      const pair =
        a === 'row' && b === 'partner'
          ? [expression.left, expression.right]
          : a === 'partner' && b === 'row'
            ? [expression.right, expression.left]
            : undefined;
      if (pair !== undefined && !isList) {
        keys.left.push(pair[0]!);
        keys.right.push(ofPartnerAlone(pair[1]!, partner));
        keys.equalities.push(neverEmpty(expression, partner));
        continue;
      }
    }
    if (expression.kind === 'in' && keys.left.length === 0) {
      const [a, b] = [sideOf(expression.left, partner), sideOf(expression.right, partner)];
      if (a === 'partner' && b === 'row') {
        keys.left.push(expression.right);
        keys.right.push(ofPartnerAlone(expression.left, partner));
        keys.equalities.push(expression);
        Object.assign(keys, { leftIsList: true });
        isList = true;
        continue;
      }
      if (a === 'row' && b === 'partner') {
        keys.left.push(expression.left);
        keys.right.push(ofPartnerAlone(expression.right, partner));
        keys.equalities.push(expression);
        Object.assign(keys, { rightIsList: true });
        isList = true;
        continue;
      }
    }
    if (sideOf(expression, partner) === 'partner') keys.ofPartner.push(conjunct);
    else keys.rest.push(withoutEmptyKeys(conjunct, partner));
  }
  return keys;
}

/** Missing and null match nothing: equalities that are tested on pairs keep to that as well, wherever they stand. */
function withoutEmptyKeys(conjunct: Conjunct, partner: string): Conjunct {
  return { ...conjunct, expression: neverEmpty(conjunct.expression, partner) };
}

function neverEmpty(expression: Expression, partner: string): Expression {
  const { id } = expression;
  if (expression.kind === 'and' || expression.kind === 'or')
    return { ...expression, operands: expression.operands.map((operand) => neverEmpty(operand, partner)) };
  const isMatch = (expression.kind === 'comparison' && expression.operator === '==') || expression.kind === 'in';
  if (!isMatch) return expression;
  const sides = [sideOf(expression.left, partner), sideOf(expression.right, partner)];
  if (!sides.includes('partner') || !sides.includes('row')) return expression;
  const literal = { kind: 'literal', value: null, id } as const;
  const isNull: Expression = { kind: 'comparison', operator: '==', left: expression.left, right: literal, id };
  const isMissing: Expression = {
    kind: 'comparison',
    operator: '==',
    left: { kind: 'call', name: 'type_of', nameId: id, arguments: [expression.left], id },
    right: { ...literal, value: 'missing' },
    id,
  };
  return {
    kind: 'and',
    operands: [expression, { kind: 'not', operand: { kind: 'or', operands: [isNull, isMissing], id }, id }],
    id,
  };
}

function sideOf(expression: Expression, partner: string): Side {
  let row = false;
  let other = false;
  withPaths(expression, (path, { inFilter }) => {
    if (path.root.kind === 'partner' && path.root.name === partner) other = true;
    // In a filter, and in what each, any or every do, `@` is an element.
    else if (path.root.kind === 'whole' || !inFilter) row = true;
    return undefined;
  });
  return row ? (other ? 'both' : 'row') : other ? 'partner' : 'neither';
}

/** The same with the partner as the current row; inside a filter, where `@` is an element, as the whole row. */
function ofPartnerAlone(expression: Expression, partner: string): Expression {
  return withPaths(expression, (path, { inFilter }) => {
    if (path.root.kind !== 'partner' || path.root.name !== partner) return undefined;
    const inside = withPaths({ ...path, root: { kind: 'current' } }, (nested, { inFilter: deeper }) =>
      deeper && nested.root.kind === 'partner' ? { ...nested, root: { kind: 'whole' } } : undefined,
    );
    return inFilter && inside.kind === 'path' ? { ...inside, root: { kind: 'whole' } } : inside;
  });
}

export function asCurrent(conjunct: Conjunct, partner: string): Conjunct {
  const expression = ofPartnerAlone(conjunct.expression, partner);
  return { ...conjunct, expression, text: printExpression(expression) };
}
