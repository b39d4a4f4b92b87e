import { pathText } from './surfaces/notation/print.ts';
import type { PlacedStage } from './pipeline.ts';
import { traitsOf } from './stages/registry.ts';
import type { Stage } from './stages/stage.ts';
import { uniqueFields, type Chain, type Made } from './stages/traits.ts';

/** A line that had a part in a field: what it made of what. */
export interface LifeStep {
  readonly line: number;
  /** The field as it is called after the line. */
  readonly field: string;
  readonly made: string;
  /** What it was made from, as it was called before the line. */
  readonly from: readonly string[];
}

export interface FieldLife {
  /** The last line first. */
  readonly steps: readonly LifeStep[];
  /** Fields of collections where it begins, each with the collection's name. */
  readonly sources: readonly string[];
}

/** Follows a field of the output back through the lines to the fields that it comes from. */
export function fieldLife(stages: readonly PlacedStage[], names: readonly string[]): FieldLife {
  const on = stages.filter(({ off, stage }) => !off && stage !== undefined);
  const steps: LifeStep[] = [];
  const sources = new Set<string>();
  let wanted: readonly Chain[] = [names];
  for (const { stage, line } of [...on].reverse()) {
    if (stage === undefined) continue;
    const next: Chain[] = [];
    for (const field of wanted) {
      const made = madeBy(stage, field);
      if (made === undefined) {
        next.push(field);
        continue;
      }
      steps.push({ line, field: pathText(field), made: made.text, from: [...made.from.map((one) => pathText(one)), ...made.sources] });
      for (const source of made.sources) sources.add(source);
      next.push(...made.from);
    }
    wanted = uniqueFields(next);
    if (stage.kind === 'from') for (const field of wanted) sources.add(`${stage.source} ${pathText(field)}`);
  }
  return { steps, sources: [...sources] };
}

/** What a stage made of a field; undefined where it passes it on as it was. */
export function madeBy(stage: Stage, field: Chain): Made | undefined {
  return traitsOf(stage.kind).made(stage, field);
}
