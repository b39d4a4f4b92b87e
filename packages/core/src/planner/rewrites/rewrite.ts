import type { PlannedStage, Rewrite, RewriteRule, RuleName } from '../logical.ts';
import { limitUp } from './limitUp.ts';
import { orderDropped } from './orderDropped.ts';
import { orderUp } from './orderUp.ts';
import { unusedDropped } from './unusedDropped.ts';
import { whereUp } from './whereUp.ts';

/** The rules, in the order in which they are tried; each as often as it finds something to do. */
const rules: readonly (readonly [RuleName, RewriteRule])[] = [
  ['where moved up', whereUp],
  ['unused fields dropped', unusedDropped],
  ['order moved up', orderUp],
  ['order dropped', orderDropped],
  ['limit moved up', limitUp],
];
const most = 200;

/** Rewrites a pipeline into one that gives the same rows in the same order for less work, and tells what was done. */
export function rewrite(
  stages: readonly PlannedStage[],
  without: readonly RuleName[] = [],
): { readonly stages: readonly PlannedStage[]; readonly done: readonly Rewrite[] } {
  let now = stages;
  const done: Rewrite[] = [];
  for (const [rule, apply] of rules) {
    if (without.includes(rule)) continue;
    for (let found = apply(now); found !== undefined && done.length < most; found = apply(now)) {
      now = found.stages;
      done.push({ rule, ...found.told });
    }
  }
  return { stages: now, done };
}
