import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Engine, type JsonObject } from '@zesty-sieve/core';
import { network } from '../src/network.ts';

/** The guide's pipelines run on the demo, and its figures are those that come out. */

const folder = join(__dirname, '../../docs/guide');
const fence = /```(pipeline|change)([^\n]*)\n([^`]*)```/g;
const blocks = readdirSync(folder).flatMap((file) =>
  [...readFileSync(join(folder, file), 'utf8').matchAll(fence)].map(([, kind = '', info = '', text = '']) => ({ file, kind, info, text })),
);
const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-11-30T12:00:00Z') });

beforeAll(() => {
  // Those that it asks about alone: they are many documents.
  for (const { name, count, document } of network(1).filter((one) => blocks.some(({ text }) => text.includes(one.name)))) {
    const { store } = engine.define(name, '@.id');
    for (let i = 0; i < count; i++) store.put(i, document(i) as JsonObject);
  }
});

test('there is a guide', () => expect(blocks.length).toBeGreaterThan(6));

test.each(blocks.filter(({ kind }) => kind === 'pipeline').map((block) => [block.file, block.text, block.info]))(
  '%s: %s',
  async (_, text, info) => {
    const [, rows, read] = /rows=(\d+) read=(\d+)/.exec(info) ?? [];
    const answer = await engine.query({ pipeline: text, pageSize: 0 });
    expect(answer.ok ? [answer.value.rowsReturned, answer.value.cost.documentsRead] : answer.problem.message).toEqual([
      Number(rows),
      Number(read),
    ]);
  },
);

test.each(blocks.filter(({ kind }) => kind === 'change').map(({ text }) => [text]))('a change that mends something: %s', async (change) => {
  const answer = await engine.previewChange({ change }, () => false);
  expect(answer.ok ? answer.value.changed > 0 : answer.problem.message).toBe(true);
});
