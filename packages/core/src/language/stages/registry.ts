import { from } from './from.ts';
import { compute } from './compute.ts';
import { omit } from './omit.ts';
import { order } from './order.ts';
import { limit, offset } from './rowCount.ts';
import { sample } from './sample.ts';
import { select } from './select.ts';
import type { Stage, StageDefinition, StageKind } from './stage.ts';
import { where } from './where.ts';

type Registry = { readonly [K in StageKind]: StageDefinition<Extract<Stage, { kind: K }>> };

/** Every stage of the notation, in the order in which they are offered. */
export const stageRegistry: Registry = { from, where, select, omit, compute, order, offset, limit, sample };

/** The definition of a stage's kind, taken for any stage: the registry's type has paired them already. */
export function definitionOf(kind: StageKind): StageDefinition<Stage> {
  return stageRegistry[kind] as unknown as StageDefinition<Stage>;
}

export const stageKinds = Object.keys(stageRegistry) as StageKind[];

export function stageWords(kind: StageKind): string {
  return definitionOf(kind).words.join(' ');
}
