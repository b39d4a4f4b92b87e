import { once } from '../expressions/once.ts';
import { conditionParametersIn } from '../language/conditionParameters.ts';
import { expressionsOf } from '../language/checkPipeline.ts';
import type { Stage } from '../language/stages/stage.ts';
import { walk, type Expression } from '../language/tree.ts';
import type { Prepared } from './prepared.ts';
import { stagesOn } from './readPipeline.ts';

/** The parameters that a pipeline asks for, by name: values, and conditions. */
export interface Asks {
  readonly values: readonly string[];
  readonly conditions: readonly string[];
}

/** The stages whose parameters a question is asked with: its own, and those of sources that its text brings. */
export function stagesAsked({ stages, reading }: Prepared): Stage[] {
  return [...stagesOn({ stages: [], sources: reading.asked.sources }), ...stages.map(({ stage }) => stage)];
}

/** What a pipeline asks for, looked for once: it may be asked thousands of times a second. */
export const asksOf = once((prepared: Prepared): Asks => {
  const stages = stagesAsked(prepared);
  const conditions = new Set<Expression>(stages.flatMap(conditionParametersIn));
  const asked = { values: new Set<string>(), conditions: new Set<string>() };
  for (const expression of stages.flatMap(expressionsOf))
    walk(expression, (node) => {
      if (node.kind === 'parameter') asked[conditions.has(node) ? 'conditions' : 'values'].add(node.name);
    });
  return { values: [...asked.values], conditions: [...asked.conditions] };
});
