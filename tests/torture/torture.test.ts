import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { newTally } from './asking.ts';
import { casesOf, named } from './cases.ts';
import { holding } from './heap.ts';
import { faultOf, round } from './rounds.ts';

test.each(named.map((one) => [one.name, one] as const))('%s', async (_, one) => {
  for (const asked of casesOf(one))
    expect({ asked: asked.lines, fault: await faultOf(asked) }).toEqual({ asked: asked.lines, fault: undefined });
});

/** Days since 1970: what is asked changes from day to day, and is the same all day. */
const today = Math.floor(Date.now() / 86_400_000);

// `npm run torture -- --seed=…` asks the same, for as long as one likes.
test.each([
  ['a seed that stays', 20_260_203],
  ['the seed of the day', today],
])(
  'the same in every way: %s',
  async (_, seed) => {
    const tally = newTally();
    for (let i = 0; i < 38; i++) {
      const found = await round(
        seed * 1_000 + i,
        { sizes: { middle: 0.15, large: 0.01 }, questions: 25, shrinkSeconds: Number(process.env.ZESTY_SIEVE_SHRINK ?? 10) },
        tally,
      );
      if (found !== undefined) throw new Error(`seed ${found.seed}: ${JSON.stringify(found, null, 1)}`);
    }
    // That it asks nothing would pass too.
    expect(tally.compared).toBeGreaterThan(3_000);
    expect(tally.refused).toBeLessThan(tally.questions / 10);
  },
  300_000,
);

test.each(holding.map((asked, i) => [asked, i] as const).filter((_, i) => i % 4 === 0))('%s holds what the heap grows by', (_, i) => {
  const main = join(__dirname, 'dist/main.js');
  const { stdout } = spawnSync(process.execPath, [main, `--heap=${i}`], { encoding: 'utf8' });
  const { told, grown } = JSON.parse(stdout) as { told: number; grown: number };
  expect(told / grown).toBeGreaterThan(0.75);
  expect(told / grown).toBeLessThan(1.25);
});

// What memory does in so short a time says nothing; that everything is asked and answered does.
test('a short soak has no failures', () => {
  const main = join(__dirname, 'dist/main.js');
  const { stdout, stderr } = spawnSync(process.execPath, ['--expose-gc', main, '--soak', '--minutes=0.2', '--seed=7'], {
    encoding: 'utf8',
  });
  expect(stderr).toBe('');
  expect(stdout).toMatch(/ 0 failures/);
}, 60_000);
