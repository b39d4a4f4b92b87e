import { printedLoops } from '../execution/segments/printLoop.ts';
import { worded } from '../language/wording.ts';
import type { PhysicalStep } from '../planner/physical.ts';
import type { Planned } from '../planner/planned.ts';
import type { Reading } from './reading.ts';
import { describers, type DefinitionOf, type Describe } from './stepWords.ts';

/** The loops of a plan with the lines that each works for, as JavaScript to be read. */
export function loopsText({ physical: plan, parameters = {} }: Planned, reading: Reading, definitionOf: DefinitionOf): string {
  const words = { definitionOf, say: reading, linesOf: (stages: PhysicalStep['stages']) => reading.linesOf(stages), parameters };
  const told = (step: PhysicalStep): string => {
    const { step: name, detail } = (describers[step.kind] as unknown as Describe<PhysicalStep>)(step, words);
    return `// ${placed(reading.linesOf(step.stages))}: ${name}, ${detail}`;
  };
  // The element of an array that is taken apart on the way has a name that nobody can write.
  const loops = printedLoops(plan, ({ text }) => worded(text, reading).replaceAll('\u0000', ''));
  if (loops.length === 0) return `// Nothing is done row by row, so that there is no loop to generate.\n${told(plan.root)}\n`;
  return loops.map(({ steps, text }, i) => [`// Loop ${i + 1} of ${loops.length}`, ...steps.map(told), text, ''].join('\n')).join('\n');
}

function placed(lines: readonly number[]): string {
  return lines.length === 1 ? `line ${lines[0]}` : `lines ${lines.join(', ')}`;
}
