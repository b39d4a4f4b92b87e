import type { Purpose } from './purpose.ts';
import { append, deletion, remove, replace, set, take } from '../changes/steps.ts';
import { from } from './from.ts';
import { best } from './best.ts';
import { compute } from './compute.ts';
import { group, groupAll } from './group.ts';
import { gatherJoin, join, leftJoin } from './join.ts';
import { denseRank, rank, rowNumber } from './rank.ts';
import { unnest } from './unnest.ts';
import { omit } from './omit.ts';
import { order } from './order.ts';
import { limit, offset } from './rowCount.ts';
import { sample } from './sample.ts';
import { select } from './select.ts';
import { isChangeKind, type Stage, type StageKind } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import type { StageTraits } from './traits.ts';
import { where } from './where.ts';

type Registry = { readonly [K in StageKind]: StageDefinition<Extract<Stage, { kind: K }>> };

/** Every stage of the notation, in the order in which they are offered. */
export const stageRegistry: Registry = {
  from,
  where,
  select,
  omit,
  compute,
  unnest,
  join,
  leftJoin,
  gatherJoin,
  group,
  groupAll,
  rank,
  denseRank,
  rowNumber,
  best,
  order,
  offset,
  limit,
  sample,
  set,
  remove,
  append,
  take,
  replace,
  delete: deletion,
};

/** The definition of a stage's kind, taken for any stage: the registry's type has paired them already. */
export function definitionOf(kind: StageKind): StageDefinition<Stage> {
  return stageRegistry[kind] as unknown as StageDefinition<Stage>;
}

export function traitsOf(kind: StageKind): StageTraits<Stage> {
  return definitionOf(kind).traits;
}

export const stageKinds = Object.keys(stageRegistry) as StageKind[];

/** The kinds that may stand in a pipeline, or in a change. */
export function kindsFor(purpose: Purpose): StageKind[] {
  return stageKinds.filter((kind) =>
    purpose === 'change' ? kind === 'from' || kind === 'where' || isChangeKind(kind) : !isChangeKind(kind),
  );
}

export type { Purpose } from './purpose.ts';

export function stageWords(kind: StageKind): string {
  return definitionOf(kind).words.join(' ');
}
