import type { SavedPipeline } from '@zesty-sieve/contract';
import { Engine } from '@zesty-sieve/core';
import { fieldTree, translateSql } from '@zesty-sieve/core/language';
import { lessons } from '../src/features/bench/lessons/lessons.ts';
import { listed } from '../src/features/bench/pipelines/listed.ts';
import { network } from '../../../demo/src/network.ts';

/** The lessons on documents as the demo makes them: what a step shows is what it asks for, and what stood before is not yet. */

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const engine = new Engine(host);
beforeAll(() => {
  for (const { name, count, document } of network(1).filter(({ name: one }) => ['huts', 'bookings', 'reports'].includes(one))) {
    const { store } = engine.define(name, '@.id');
    for (let i = 0; i < Math.min(count, 2_000); i++) store.put(i, document(i) as never);
  }
});
const seen = async (text: string, sql: string | null = null) => {
  const answer = await engine.query({ pipeline: text, pageSize: 100 });
  if (!answer.ok) throw new Error(`${text}: ${answer.problem.message}`);
  return { text, result: answer.value as never, view: 'table' as const, sql };
};

const documentsOf = (result: unknown) => (result as { readonly documents: unknown }).documents;
const known = async () => {
  const tree = fieldTree(await engine.collections.get('huts')!.shape(host.pause));
  return { collections: ['huts'], shapeOf: () => tree, identityOf: () => ['id'] };
};
const existing = (pipeline: string | undefined) => pipeline ?? 'what cannot be said';

test.each(lessons.map((lesson) => [lesson.title, lesson] as const))('%s: each step is done by what it shows, and not before', async (_title, { begins, steps }) => {
  let before = await seen(begins);
  for (const { isDone, shows, showsSql = null, say } of steps) {
    expect([say, isDone(before)]).toEqual([say, false]);
    if (shows !== undefined) {
      before = await seen(shows, showsSql);
      expect([say, isDone(before)]).toEqual([say, true]);
    }
    // In SQL it asks for the same rows.
    if (showsSql !== null) expect((await seen(existing(translateSql(showsSql, await known()).pipeline))).result).toMatchObject({ documents: documentsOf(before.result) });
  }
}); // prettier-ignore

const saved = (name: string, pipeline: string, more: Partial<SavedPipeline> = {}): SavedPipeline => ({ name, pipeline, sql: null, view: false, materialized: null, parameters: null, guards: null, note: null, chart: null, updatedAt: '', ...more }); // prettier-ignore
const all = [
  saved('Busy huts', 'from bookings\ngroup by @.hutId measure n = count()'),
  saved('Late ones', 'from bookings\nwhere @.status == "late"', { note: 'Parties that came late.' }),
  saved('In SQL', 'from huts', { sql: 'SELECT * FROM huts' }),
  saved('Huts', 'from huts'),
];
const names = (search: string, order: 'learnt' | 'used') => listed(all, { search, order, recent: ['Huts'] }).map(({ caption, pipelines }) => [caption, ...pipelines.map(({ name }) => name)]); // prettier-ignore

test('saved pipelines are listed as the job is learnt, or those used last first; each word that is looked for has to be there', () => {
  expect(names('', 'learnt')).toEqual([['look', 'Huts'], ['ask', 'Late ones'], ['group', 'Busy huts'], ['SQL', 'In SQL']]); // prettier-ignore
  expect(names('', 'used')).toEqual([['used last', 'Huts'], ['all others', 'Busy huts', 'Late ones', 'In SQL']]); // prettier-ignore
  expect(names('BOOKINGS late', 'learnt')).toEqual([['ask', 'Late ones']]);
  expect(names('nothing of it', 'learnt')).toEqual([]);
});
