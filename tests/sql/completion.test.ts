import { completeSql } from '@zesty-sieve/core';
import { Questions } from './questions.ts';
import { knownOf, world } from './world.ts';

/** Names in a text that stand where one would type them: tables after FROM and JOIN, and what comes after a dot. */
function typedNames(sql: string): { readonly at: number; readonly name: string; readonly after: string }[] {
  const inTexts = new Set<number>();
  for (const { index, 0: text } of sql.matchAll(/'(?:[^']|'')*'/g)) for (let i = 0; i < text.length; i++) inTexts.add(index + i);
  return [...sql.matchAll(/(\b(?:FROM|JOIN) |\.)("(?:[^"]|"")+"|[a-z]\w*)/g)]
    .filter(({ index }) => !inTexts.has(index))
    .map(({ index, 1: after, 2: name }) => ({ at: index + after!.length, name: name!, after: after!.trim() }));
}

test.each([1, 2, 3])('what stands in a question is offered where it is typed: seed %d', async (seed) => {
  const { random, engine, sqlite } = await world(12_000 + seed);
  const known = await knownOf(engine, true);
  const questions = new Questions(random);
  const met = { fields: 0, tables: 0, unknown: 0 };
  for (let n = 0; n < 80; n++) {
    const { ours } = questions.question();
    for (const { at, name, after } of typedNames(ours)) {
      // Nothing of it yet, and its first letter; what comes after stands there already.
      for (const begun of [0, 1]) {
        const text = ours.slice(0, at + begun) + ours.slice(at + name.length);
        const found = completeSql(text, at + begun, known);
        const labels = found?.options.map(({ label }) => label) ?? [];
        if (labels.length === 0) {
          met.unknown++;
          continue;
        }
        expect({ ours, at, begun, labels }).toEqual({ ours, at, begun, labels: expect.arrayContaining([name]) as unknown });
        expect(found!.from).toBe(at);
        met[after === '.' ? 'fields' : 'tables']++;
      }
    }
  }
  expect(met.fields).toBeGreaterThan(100);
  expect(met.tables).toBeGreaterThan(60);
  expect(met.unknown).toBeLessThan((met.fields + met.tables) / 3);
  await sqlite.close();
});
