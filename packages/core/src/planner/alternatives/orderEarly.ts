import type { NodeId } from '../../language/places.ts';
import type { OrderStage, UnnestStage } from '../../language/stages/stage.ts';
import { demandOf } from '../demand.ts';
import { isStage, type PlannedStage } from '../logical.ts';
import { idsOf } from '../rewrites/above.ts';
import { keysAbove } from '../rewrites/orderUp.ts';
import { passesInOrder, traitsOf } from '../traits.ts';

/** A pipeline with its order before lines that may drop rows: where an index gives it, only as much is read as is wanted. */
export interface EarlyOrder {
  readonly stages: readonly PlannedStage[];
  /** About how many documents give the rows that are wanted. */
  readonly about: number;
  readonly id: NodeId;
  /** The stages that it goes before. */
  readonly passed: readonly NodeId[];
}

/** Of rows that come to a condition, what nothing is known of passes about so many. */
const sharePassing = 1 / 3;

/**
 * Moves an order, of which only the first rows are wanted, up to the conditions that begin a pipeline. That pays where an
 * index gives the order, and costs more where none does: the planner weighs both.
 * @param elements about how many elements an unnest finds in a row
 */
export function orderEarly(
  stages: readonly PlannedStage[],
  countOf: (stage: PlannedStage) => number,
  elements: (stage: UnnestStage) => number,
): EarlyOrder | undefined {
  const start = 1 + stages.slice(1).findIndex(({ stage }) => stage.kind !== 'where');
  const at = stages.findIndex(({ stage }, i) => i >= start && stage.kind === 'order');
  const order = stages[at];
  if (start < 1 || !isStage(order, 'order')) return undefined;
  const between = stages.slice(start, at);
  if (between.every(({ stage }) => stage.kind === 'mark') || !between.every(({ stage }) => passesInOrder(stage))) return undefined;
  const demand = demandOf(stages.slice(at + 1), countOf);
  const keys = between.reduceRight<OrderStage['keys'] | undefined>(
    (moved, { stage }) => moved && keysAbove(moved, stage),
    order.stage.keys,
  );
  if (demand === undefined || keys === undefined) return undefined;
  const rowsPer = between.reduce((rows, one) => {
    if (isStage(one, 'unnest')) return rows * Math.max(0.1, elements(one.stage));
    return traitsOf(one.stage).gives(one.stage) === 'at most one' ? rows * sharePassing : rows;
  }, 1);
  const moved: PlannedStage<OrderStage> = { ...order, stage: { ...order.stage, keys } };
  return {
    stages: [...stages.slice(0, start), moved, ...between, { ...order, stage: { kind: 'mark' } }, ...stages.slice(at + 1)],
    about: Math.max(1, Math.ceil(demand / rowsPer)),
    id: order.id,
    passed: idsOf(between),
  };
}
