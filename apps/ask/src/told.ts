import type { PlanStep, Problem } from '@zesty-sieve/contract';
import type { Answer } from './server.ts';

const number = new Intl.NumberFormat('en');
const time = (ms: number): string =>
  ms < 10 ? `${ms.toFixed(1)} ms` : ms < 10_000 ? `${Math.round(ms)} ms` : `${(ms / 1_000).toFixed(1)} s`;
const counted = (n: number, one: string, many: string): string => `${number.format(n)} ${n === 1 ? one : many}`;

/** What a question cost, in a line. */
export function costText({ cost, rowsReturned, runId }: Answer): string {
  if (runId === null) return counted(rowsReturned, 'row', 'rows');
  return `${counted(rowsReturned, 'row', 'rows')}: ${counted(cost.documentsRead, 'document', 'documents')} read in ${time(cost.timeMs)}`;
}

/** The steps of a plan in the order of the work, with what each did. */
export function planText(plan: PlanStep | null): string {
  if (plan === null || plan.step === '') return 'There is no plan: nothing was asked of documents.';
  const lines = (step: PlanStep, depth: number): string[] => [
    ...step.inputs.flatMap((input, i) => lines(input, depth + (i > 0 ? 1 : 0))),
    `${'  '.repeat(depth)}${step.step}: ${step.detail}` +
      ` · ${step.rows === null ? `about ${counted(Math.round(step.estimatedRows), 'row', 'rows')}` : counted(step.rows, 'row', 'rows')}` +
      (step.timeMs === null ? '' : ` · ${step.timeIsEstimated ? 'about ' : ''}${time(step.timeMs)}`),
  ];
  return lines(plan, 0).join('\n');
}

/** A fault with the line of the text that it stands on, and a mark under its place. */
export function problemText({ detail, title, diagnostics = [] }: Problem, asked: string): string {
  if (diagnostics.length === 0) return detail ?? title;
  return diagnostics
    .map(({ message, from, to, mend, line: number }) => {
      const start = asked.lastIndexOf('\n', Math.max(0, from - 1)) + 1;
      const end = asked.indexOf('\n', from);
      const line = asked.slice(start, end < 0 ? asked.length : end);
      const width = Math.max(1, Math.min(to, start + line.length) - from);
      const mark = `${line.slice(0, from - start).replace(/[^\t]/g, ' ')}${'^'.repeat(width)}`;
      return `line ${number}: ${message}\n  ${line}\n  ${mark}${mend === undefined ? '' : `\n  ${mend.label}`}`;
    })
    .join('\n');
}

export const helpText = `A question in SQL or in the notation, whichever its first word is, ended by ; or an empty line.
  show tables;  describe NAME;             what there is
  explain SELECT …;                        how a question would be run
  plan;                                    how the last one was run
  format table|json|ndjson|csv;            how rows are written
  quit;                                    or Ctrl D
Tab completes names. Ctrl C ends a run, or drops what is written.`;
