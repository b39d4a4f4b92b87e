import { savePipeline, type SavedPipeline } from '@zesty-sieve/contract';
import { bodyOf } from '../src/features/bench/pipelines/bodyOf.ts';

const plain: SavedPipeline = { name: 'late', pipeline: 'from huts', sql: null, view: false, materialized: null, parameters: null, guards: null, note: null, chart: null, updatedAt: '2026-01-02T00:00:00Z' }; // prettier-ignore

test('a pipeline whose removal is undone has all that was kept of it', () => {
  const kept: SavedPipeline = {
    ...plain,
    sql: 'SELECT * FROM huts',
    view: true,
    materialized: { refresh: { everySeconds: 60 } } as SavedPipeline['materialized'],
    parameters: { least: 3, hut: '7' },
    guards: { timeMs: 1_000 },
    note: 'who came late',
    chart: { kind: 'bars', across: '["a"]', up: '["n"]', by: null },
  };
  const { name, ...body } = bodyOf(kept);
  const { updatedAt: _, ...all } = kept;
  expect({ name, ...savePipeline.parse(body) }).toEqual(all);
  const { name: called, ...least } = bodyOf(plain);
  expect([called, least]).toEqual(['late', { pipeline: 'from huts', view: false }]);
  expect(savePipeline.safeParse(least).success).toBe(true);
});
