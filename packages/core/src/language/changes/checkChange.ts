import { descend, type FieldTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import type { Finding } from '../diagnostics/diagnostic.ts';
import { printPath } from '../surfaces/notation/print.ts';
import type { Pipeline, PlacedStage } from '../pipeline.ts';
import { stageWords } from '../stages/registry.ts';
import { isChangeStep, type ChangeStep } from '../stages/stage.ts';
import { fieldNames, type PathExpression } from '../tree.ts';

/** The order of a change: from, conditions, then what happens to each document that they keep. */
export function checkChange(pipeline: Pipeline, shape: FieldTree | undefined, identity: readonly string[] | undefined): Finding[] {
  const found: Finding[] = [];
  const { places } = pipeline;
  const on = pipeline.stages.filter(({ off }) => !off);
  const steps = on.filter(
    (placed): placed is PlacedStage & { stage: ChangeStep } => placed.stage !== undefined && isChangeStep(placed.stage),
  );
  const [first] = steps;
  for (const placed of on) {
    const { stage } = placed;
    if (stage === undefined || stage.kind === 'from' || isChangeStep(stage)) continue;
    if (stage.kind !== 'where') found.push(findings.notInChange(placed, stageWords(stage.kind)));
    else if (first !== undefined && placed.from > first.from) found.push(findings.whereAfterStep(placed));
  }
  if (first === undefined) {
    if (on.every(({ stage }) => stage !== undefined)) found.push(findings.noStep(on[on.length - 1] ?? { from: 0, to: 0 }));
    return found;
  }
  for (const { stage, from, to } of steps) {
    const isWhole = stage.kind === 'delete' || stage.kind === 'replace';
    if (isWhole && steps.length > 1) found.push(findings.stepAlone({ from, to }, stageWords(stage.kind)));
    for (const target of targetsOf(stage)) {
      const names = fieldNames(target);
      if (names === undefined) continue;
      if (identity !== undefined && isSame(names, identity)) found.push(findings.identityChanged(places.of(target), printPath(target)));
      else if (stage.kind === 'set' && shape && !shape.open && descend(shape, names) === undefined)
        found.push(findings.newField(places.of(target), printPath(target)));
    }
  }
  if (!on.some(({ stage }) => stage?.kind === 'where')) found.push(findings.changesAll(first));
  return found;
}

/** The paths that a step writes to. */
export function targetsOf(step: ChangeStep): readonly PathExpression[] {
  switch (step.kind) {
    case 'set':
      return step.items.map(({ target }) => target);
    case 'remove':
      return step.paths;
    case 'append':
    case 'take':
      return [step.target];
    default:
      return [];
  }
}

function isSame(names: readonly string[], identity: readonly string[]): boolean {
  return names.length <= identity.length && names.every((name, i) => name === identity[i]);
}
