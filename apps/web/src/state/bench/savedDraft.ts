import type { SavedPipeline } from '@zesty-sieve/contract';
import type { Draft } from './benchState.ts';

/** A saved pipeline as it is opened. */
export function savedDraft({
  name,
  pipeline,
  sql,
  note,
  guards,
  parameters,
  chart,
}: SavedPipeline): Pick<Draft, 'sql' | 'note' | 'guards' | 'parameters' | 'chart'> & { text: string; name: string } {
  return { text: pipeline, sql, name, note, guards, parameters: typedParameters(parameters), chart: chart as Draft['chart'] };
}

/** What stands in the inputs for the values that were saved. */
function typedParameters(parameters: Record<string, unknown> | null): Record<string, string> {
  return Object.fromEntries(
    Object.entries(parameters ?? {}).map(([name, value]) => [name, typeof value === 'string' ? value : JSON.stringify(value)]),
  );
}
