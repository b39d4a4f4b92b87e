import { printExpression } from '../../language/surfaces/notation/print.ts';
import { partnerName } from '../../language/stages/join.ts';
import type { JoinStage } from '../../language/stages/stage.ts';
import { isSingle, type Expression } from '../../language/tree.ts';
import { costs } from '../cost.ts';
import { conjunctsOf, joined, type Conjunct } from '../conjuncts.ts';
import type { PlannedStage } from '../logical.ts';
import type { JoinMatch, PhysicalStep, UsedFields } from '../physical.ts';
import { withPaths } from '../../language/substitute.ts';
import type { IndexStatistics } from '../statistics.ts';
import type { LayContext } from './layer.ts';

/** Which of the two sides of a join an expression looks at. */
type Side = 'row' | 'partner' | 'both' | 'neither';

interface Keys {
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

/** Lays a join: by hash, or through an index of the partners where that costs less; without an equality, each with each. */
export function layJoin(
  planned: PlannedStage<JoinStage<'join'> | JoinStage<'leftJoin'> | JoinStage<'gatherJoin'>>,
  input: PhysicalStep,
  context: LayContext,
  used: UsedFields,
): PhysicalStep {
  const { stage, id } = planned;
  const partner = partnerName(stage);
  const keys = keysOf(conjunctsOf(stage.condition, id), partner);
  const match: JoinMatch = {
    mode: stage.kind,
    target: stage.target.names,
    partner,
    leftKeys: keys.left,
    rightKeys: keys.right,
    leftIsList: keys.leftIsList,
    rightIsList: keys.rightIsList,
    residual: joined(keys.rest),
    used,
  };
  const ofPartner = joined(keys.ofPartner.map((conjunct) => asCurrent(conjunct, partner)));
  if (planned.partner !== undefined) {
    const view = context.planView(planned.partner);
    const partners: PhysicalStep =
      ofPartner === undefined
        ? view
        : { kind: 'filter', stages: [id], estimatedRows: view.estimatedRows / 3, condition: ofPartner, input: view };
    return { kind: 'hashJoin', stages: [id], estimatedRows: estimated(stage.kind, input.estimatedRows, 1), match, input, partners };
  }
  const source = context.collection(stage.source, { stage: id, source: stage.sourceId });
  const index = servingIndex(source.indexes, match, context);
  const perKey = index === undefined ? 1 : Math.max(1, index.entries / Math.max(1, distinctKeys(index, source.store.count)));
  const estimatedRows = estimated(stage.kind, input.estimatedRows, keys.left.length === 0 ? source.store.count : perKey);
  const hashCost = source.store.count * costs.builtPartner + input.estimatedRows * costs.probedRow;
  const indexCost = input.estimatedRows * (costs.lookup + perKey);
  const usesIndex = index !== undefined && (context.byIndex ?? indexCost < hashCost);
  if (keys.left.length > 0)
    tell(planned, source.name, source.store.count, input.estimatedRows, index, usesIndex, hashCost, indexCost, perKey, context);
  if (usesIndex) {
    const { residual, ...by } = singleKey(match, keys.equalities, index);
    return {
      kind: 'indexJoin',
      stages: [id],
      estimatedRows,
      match: { ...match, ...by, residual },
      collection: source.name,
      index: index.definition.name,
      condition: ofPartner,
      input,
    };
  }
  const partners: PhysicalStep = {
    kind: 'fullScan',
    cost: source.store.count,
    stages: [id],
    estimatedRows: ofPartner === undefined ? source.store.count : source.store.count / 3,
    collection: source.name,
    condition: ofPartner,
    demand: undefined,
  };
  return { kind: 'hashJoin', stages: [id], estimatedRows, match, input, partners };
}

function estimated(kind: JoinStage['kind'], rows: number, perRow: number): number {
  return kind === 'gatherJoin' ? rows : kind === 'leftJoin' ? Math.max(rows, rows * perRow) : rows * perRow;
}

/** Takes the condition of a join apart: equalities between the sides, what is on one side alone, and the rest. */
function keysOf(conjuncts: readonly Conjunct[], partner: string): Keys {
  const keys: Keys = { left: [], right: [], equalities: [], leftIsList: false, rightIsList: false, ofPartner: [], rest: [] };
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
        keys.left.push(pair[0]);
        keys.right.push(ofPartnerAlone(pair[1], partner));
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

function asCurrent(conjunct: Conjunct, partner: string): Conjunct {
  const expression = ofPartnerAlone(conjunct.expression, partner);
  return { ...conjunct, expression, text: printExpression(expression) };
}

/** An index whose first key is what the partners are looked up by. */
function servingIndex(
  indexes: readonly IndexStatistics[],
  match: JoinMatch,
  { indexIsAllowed, isNamed }: LayContext,
): IndexStatistics | undefined {
  const serving = indexes.filter(({ definition, built }) => {
    if (built === undefined || definition.where !== undefined || !indexIsAllowed(definition.name)) return false;
    return keyServed(match, definition.keys[0].text) !== undefined;
  });
  return serving.find(({ definition }) => isNamed(definition.name)) ?? serving[0];
}

/** Which of the keys an index's first key is. An index on an array's elements serves a list on the partner's side. */
function keyServed({ rightKeys, rightIsList }: JoinMatch, text: string): number | undefined {
  const at = rightKeys.findIndex((key) => (rightIsList ? elementsText(key) : printExpression(key)) === text);
  return at < 0 ? undefined : at;
}

/** The key that has an entry for each element of a list: of a path to several its nodes are the elements already. */
function elementsText(list: Expression): string | undefined {
  if (list.kind !== 'path') return undefined;
  return isSingle(list) ? `${printExpression(list)}[*]` : printExpression(list);
}

/**
 * An index gives the partners of one key; the other equalities are tested on each, as they were written. So is the one of an
 * index on elements, which has those of objects too, where a list alone is asked for.
 */
function singleKey(
  match: JoinMatch,
  equalities: readonly Expression[],
  index: IndexStatistics,
): Pick<JoinMatch, 'leftKeys' | 'rightKeys' | 'residual'> {
  const at = keyServed(match, index.definition.keys[0].text) ?? 0;
  const tested = equalities.filter((_, i) => i !== at || match.rightIsList);
  const operands = [...tested, ...(match.residual === undefined ? [] : [match.residual])];
  const [first] = operands;
  const residual: Expression | undefined = operands.length < 2 ? first : { kind: 'and', operands, id: first.id };
  return { leftKeys: [match.leftKeys[at]], rightKeys: [match.rightKeys[at]], residual };
}

/** Different first keys of an index, from a few of its ranges where it is built; about. */
function distinctKeys(index: IndexStatistics, documents: number): number {
  if (index.definition.unique) return index.entries;
  return index.built?.distinctEstimate() ?? documents;
}

const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

function tell(
  { id }: PlannedStage,
  collection: string,
  partners: number,
  rows: number,
  index: IndexStatistics | undefined,
  usesIndex: boolean,
  hashCost: number,
  indexCost: number,
  perKey: number,
  context: LayContext,
): void {
  const rounded = (cost: number) => Math.round(cost * 10) / 10;
  const hash = {
    way: 'hash join' as const,
    collection,
    whatIf: false,
    chosen: !usesIndex,
    reason: usesIndex
      ? `would read all ${whole.format(partners)} partners`
      : `reads the ${whole.format(partners)} partners once, for about ${whole.format(rows)} rows`,
    documentsRead: partners,
    indexEntriesRead: 0,
    cost: rounded(hashCost),
    stages: [id],
  };
  if (index === undefined) {
    context.weighed.push(hash);
    return;
  }
  const looked = {
    way: 'index nested-loop join' as const,
    collection,
    index: index.definition.name,
    keys: [index.definition.keys[0].text],
    whatIf: false,
    chosen: usesIndex,
    reason: usesIndex ? `looks up the partners of about ${whole.format(rows)} rows` : `would look up ${whole.format(rows)} rows one by one`,
    documentsRead: Math.round(rows * perKey),
    indexEntriesRead: Math.round(rows * perKey),
    cost: rounded(indexCost),
    stages: [id],
  };
  context.weighed.push(...(usesIndex ? [looked, hash] : [hash, looked]));
}
