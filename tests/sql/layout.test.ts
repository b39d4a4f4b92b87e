import { formatSql, translateSql } from '@zesty-sieve/core';
import { Questions } from './questions.ts';
import { knownOf, world } from './world.ts';

/** Questions written by somebody else: words in either case, other spaces, comments between. Names and texts stay as they are. */
function otherwise(sql: string, random: () => number): string {
  return sql.replace(/'(?:[^']|'')*'|"(?:[^"]|"")*"|\s+|[A-Z][A-Z_]+/g, (part) => {
    if (/^['"]/.test(part)) return part;
    const chance = random();
    if (/^\s/.test(part)) return chance < 0.5 ? ' ' : chance < 0.8 ? '\n   ' : chance < 0.9 ? ' /* why -- not */ ' : ' -- so\n';
    return chance < 0.5 ? part.toLowerCase() : part;
  });
}

test.each([1, 2, 3, 4])('a question means the same in any layout, and one layout is its own: seed %d', async (seed) => {
  const { random, engine, sqlite } = await world(11_000 + seed);
  const known = await knownOf(engine, true);
  const questions = new Questions(random);
  let read = 0;
  for (let n = 0; n < 120; n++) {
    const { ours } = questions.question();
    const written = otherwise(ours, () => random.below(1_000) / 1_000);
    const laid = formatSql(written);
    const [meant, pipeline] = [translateSql(ours, known), translateSql(laid, known)];
    expect({ ours, written, laid, means: pipeline.pipeline }).toEqual({ ours, written, laid, means: meant.pipeline });
    expect({ laid, again: formatSql(laid) }).toEqual({ laid, again: laid });
    if (meant.pipeline !== undefined) read++;
  }
  expect(read).toBeGreaterThan(60);
  await sqlite.close();
});
