import { parseValueText } from '../surfaces/notation/texts.ts';
import { printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import type { BestStage } from '../stages/stage.ts';

/** One ranking as it is typed; an empty weight is 1. */
export interface ScoreRow {
  readonly score: string;
  readonly weight: string;
}
/** Which rows are kept, by what, and how: what is empty is left to what is usual. */
export interface BestForm {
  readonly count: string;
  readonly scores: readonly ScoreRow[];
  readonly name: string;
  readonly depth: string;
  readonly effort: string;
}

const typed = (value: BestStage['depth']): string => (value === undefined ? '' : printExpression(value));

export function readBest({ count, scores, target, depth, effort }: BestStage): BestForm {
  return {
    count: printExpression(count),
    scores: scores.map(({ expression, weight }) => ({ score: printExpression(expression), weight: typed(weight) })),
    name: target === undefined ? '' : printGivenName(target.names),
    depth: typed(depth),
    effort: typed(effort),
  };
}

/** The stage's text; undefined where a part cannot be read, or no score is left. */
export function writeBest({ count, scores, name, depth, effort }: BestForm): string | undefined {
  const numbers = [count, ...scores.map(({ weight }) => weight), depth, effort].filter((one) => one !== '');
  const all = [...numbers, ...scores.map(({ score }) => score)];
  if (scores.length === 0 || count === '' || all.some((one) => !('expression' in parseValueText(one)))) return undefined;
  const by = scores.map(({ score, weight }) => `${score}${weight === '' ? '' : ` weight ${weight}`}`).join(', ');
  const after = (word: string, value: string): string => (value === '' ? '' : ` ${word} ${value}`);
  return `best ${count} by ${by}${after('as', name)}${after('depth', depth)}${after('effort', effort)}`;
}
