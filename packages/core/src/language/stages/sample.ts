import { findings } from '../diagnostics/findings.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { isConstant } from '../constant.ts';
import { isRowCount } from './rowCount.ts';
import type { SampleStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { none, nothing } from './traits.ts';

export const sample: StageDefinition<SampleStage> = {
  words: ['sample'],
  doc: 'Takes N rows at random; with a seed, the same ones each time.',
  example: 'sample 100 seed 7',
  parse: (reader) => {
    const count = parseExpression(reader);
    return { kind: 'sample', count, seed: reader.takeWord('seed') ? parseExpression(reader) : undefined };
  },
  print: ({ count, seed }) => `sample ${printExpression(count)}${seed === undefined ? '' : ` seed ${printExpression(seed)}`}`,
  expressions: ({ count, seed }) => (seed === undefined ? [count] : [count, seed]),
  traits: {
    gives: () => 'at most one',
    decidedBy: 'rows',
    order: 'kept',
    looksAtOrder: () => true,
    keepsOnly: none,
    worksOnParts: true,
    writes: nothing,
    source: none,
    made: none,
  },
  check: ({ count, seed }, scope) => {
    for (const number of seed === undefined ? [count] : [count, seed]) {
      if (!isConstant(number)) scope.report(findings.notConstant(scope.at(number), 'sample'));
    }
    if (count.kind === 'literal' && !isRowCount(count.value)) scope.report(findings.notAWholeNumber(scope.at(count), 'sample'));
  },
  effect: (_stage, before) => before,
};
