import type { GuardLimits } from '@zesty-sieve/contract';
import type { ChartSettings } from './chartSettings.ts';

/** A pipeline as it is being written. */
export interface Draft {
  /** The pipeline; in the SQL face, what the last SQL that could be read became. */
  text: string;
  /** What is written in the SQL face; null in that of the notation. */
  sql: string | null;
  name: string | null;
  note: string | null;
  savedText: string | null;
  guards: Partial<GuardLimits> | null;
  /** What stands in the inputs of the parameters, by their names. */
  parameters: Record<string, string>;
  cursorLine: number;
  chart: ChartSettings | null;
}

export interface Tab {
  id: string;
  /** As it was left; that of the tab in front is behind what stands on the Bench. */
  draft: Draft;
}

/** Whether nothing was written in a draft but where it begins. */
export function isScratch({ name, text, sql }: Draft): boolean {
  return name === null && (sql ?? '').trim() === '' && /^(from\s+\S*)?$/.test(text.trim());
}
