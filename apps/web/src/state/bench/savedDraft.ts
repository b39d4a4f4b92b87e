import type { SavedPipeline } from '@zesty-sieve/contract';
import type { Draft } from './benchState.ts';
import { typedFor } from './parameters.ts';

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
  return { text: pipeline, sql, name, note, guards, parameters: typedFor(parameters), chart: chart as Draft['chart'] };
}
