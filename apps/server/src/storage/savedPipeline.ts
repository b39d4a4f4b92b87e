import type { SavedPipeline } from '@zesty-sieve/contract';
import type { Row } from './database.ts';

/** As it is stored: whether its rows are kept, and how that stands, is told beside it. */
export type StoredPipeline = Omit<SavedPipeline, 'materialized'>;

export interface PipelineColumns extends Row {
  name: string;
  pipeline: string;
  sql: string | null;
  view: number;
  parameters: string | null;
  guards: string | null;
  note: string | null;
  chart: string | null;
  updatedAt: string;
}

/** A saved pipeline as it is told, from its row. */
export function savedOf(row: PipelineColumns): StoredPipeline {
  return {
    name: row.name,
    pipeline: row.pipeline,
    sql: row.sql,
    view: Boolean(row.view),
    parameters: row.parameters === null ? null : (JSON.parse(row.parameters) as SavedPipeline['parameters']),
    guards: row.guards === null ? null : (JSON.parse(row.guards) as SavedPipeline['guards']),
    note: row.note,
    chart: row.chart === null ? null : (JSON.parse(row.chart) as SavedPipeline['chart']),
    updatedAt: row.updatedAt,
  };
}
