import type { SavedPipeline } from '@zesty-sieve/contract';

/** A saved pipeline as it is saved again: with all that was kept of it. */
export function bodyOf({ name, pipeline, sql, view, materialized, note, guards, parameters, chart }: SavedPipeline) {
  return {
    name,
    pipeline,
    view,
    ...(sql !== null && { sql }),
    ...(materialized !== null && { materialized: { refresh: materialized.refresh } }),
    ...(note !== null && { note }),
    ...(guards !== null && { guards }),
    ...(parameters !== null && { parameters }),
    ...(chart !== null && { chart }),
  };
}
