import type { NodeId } from '../../language/places.ts';
import type { Expression } from '../../language/tree.ts';
import { partnerName } from '../../language/stages/join.ts';
import type { JoinStage } from '../../language/stages/stage.ts';
import { conjunctsOf, joined } from '../conjuncts.ts';
import { costs } from '../cost.ts';
import type { PlannedStage } from '../logical.ts';
import type { JoinMatch, PhysicalStep, UsedFields } from '../physical.ts';
import type { PlannedSource } from '../source.ts';
import { distinctKeys, servingIndex, singleKey } from './joinIndex.ts';
import { asCurrent, joinKeys } from './joinKeys.ts';
import { tellJoin } from './joinTold.ts';
import type { LayContext } from './layer.ts';

/** Reads all that rows may be joined with. */
function partnerScan({ name, isView, store }: PlannedSource, id: NodeId, condition: Expression | undefined): PhysicalStep {
  const estimatedRows = condition === undefined ? store.count : store.count / 3;
  return {
    kind: 'fullScan',
    ofView: isView,
    cost: store.count,
    stages: [id],
    estimatedRows,
    collection: name,
    condition,
    demand: undefined,
  };
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
  const keys = joinKeys(conjunctsOf(stage.condition, id), partner);
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
    const partners = ofView(context.planView(planned.partner), id, ofPartner);
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
    context.weighed.push(
      ...tellJoin({ id, collection: source.name, partners: source.store.count, rows: input.estimatedRows, index, perKey, usesIndex, hashCost, indexCost }), // prettier-ignore
    );
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
  const partners = partnerScan(source, id, ofPartner);
  return { kind: 'hashJoin', stages: [id], estimatedRows, match, input, partners };
}

/** The rows of a view that are partners at all. */
function ofView(view: PhysicalStep, id: NodeId, condition: Expression | undefined): PhysicalStep {
  if (condition === undefined) return view;
  return { kind: 'filter', stages: [id], estimatedRows: view.estimatedRows / 3, condition, input: view };
}

function estimated(kind: JoinStage['kind'], rows: number, perRow: number): number {
  return kind === 'gatherJoin' ? rows : kind === 'leftJoin' ? Math.max(rows, rows * perRow) : rows * perRow;
}
