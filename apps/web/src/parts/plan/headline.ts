import type { IndexSuggestion, PlanStep, RunCost } from '@zesty-sieve/contract';
import { bytes, count, counted, percent } from '../numbers.ts';
import { indexesOf, keysText, kindText } from './indexNames.ts';
import { inWorkOrder, linesText } from './steps.ts';

/** What is told of a plan: the thing that costs most, and what would change it. */
export interface Headline {
  readonly costs: string;
  readonly change: string;
}

/** Below this share of the time no step is what a run is slow for. */
const notable = 0.2;
const nearlyAll = 0.99;

/** One sentence on the step that costs most, and one on what would make it cheaper. Estimates where the plan was not run. */
export function headlineOf(plan: PlanStep, suggestions: readonly IndexSuggestion[], cost: RunCost | undefined): Headline {
  const steps = inWorkOrder(plan);
  const total = steps.reduce((sum, { timeMs }) => sum + (timeMs ?? 0), 0);
  const dearest = steps.reduce((most, step) => (weight(step) > weight(most) ? step : most));
  const share = total > 0 ? (dearest.timeMs ?? 0) / total : undefined;
  const lines = `${dearest.lines.length === 1 ? 'line' : 'lines'} ${linesText(dearest.lines)}`;
  const name = `The ${dearest.step}${dearest.collection ? ` of ${dearest.collection}` : ''} on ${lines}`;
  return { costs: `${name} ${costText(dearest, share)}.`, change: changeText(dearest, suggestions, cost) };
}

function weight({ timeMs, documentsRead, estimatedRows }: PlanStep): number {
  return timeMs ?? documentsRead ?? estimatedRows;
}

function costText({ rows, documentsRead, indexEntriesRead, memoryBytes, estimatedRows }: PlanStep, share: number | undefined): string {
  if (rows === null) return `is expected to give ${counted(estimatedRows, 'row')}`;
  const did = documentsRead
    ? `reads ${counted(documentsRead, 'document')} for ${counted(rows, 'row')}`
    : indexEntriesRead
      ? `answers from ${counted(indexEntriesRead, 'index entry', 'index entries')} without reading a document`
      : memoryBytes
        ? `holds ${bytes(memoryBytes)} for ${counted(rows, 'row')}`
        : `gives ${counted(rows, 'row')}`;
  return share !== undefined && share >= notable
    ? `takes ${share >= nearlyAll ? 'nearly all' : percent(share)} of the time: it ${did}`
    : did;
}

function changeText(dearest: PlanStep, [suggestion]: readonly IndexSuggestion[], cost: RunCost | undefined): string {
  if (suggestion !== undefined) {
    const order = suggestion.servesOrder ? ', without a sort' : '';
    const indexes = indexesOf(suggestion);
    const named = `${kindText(indexes).replace(/^./, (first) => first.toUpperCase())} on ${keysText(indexes)}`;
    return `${named} would read about ${counted(suggestion.documentsRead, 'document')}${order}.`;
  }
  if (cost !== undefined && cost.documentsRead <= Math.max(cost.rowsReturned, 1) * 2)
    return 'Hardly anything is read that is not returned.';
  if (dearest.step === 'sort') return 'A limit after the order would let it hold the first rows alone.';
  if (dearest.step === 'full scan') return `No index would read much less: ${count(dearest.rows ?? 0)} rows are wanted of it.`;
  return 'No index would make it cheaper.';
}
