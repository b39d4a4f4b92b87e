import { install, root, run, say } from './steps.mjs';
import { spawnSync } from 'node:child_process';

/** The tests that try generated cases, again and again with new ones: `npm run properties -- --rounds=5`, or `--seed=N` for one again. */
const given = (name) => process.argv.find((argument) => argument.startsWith(`--${name}=`))?.slice(name.length + 3);
install();
const { stdout } = spawnSync('git', ['grep', '-l', 'fast-check', '--', '*.test.ts'], { cwd: root, encoding: 'utf8' });
const files = [...stdout.trim().split('\n'), 'tests/sql'];
for (let round = 0; round < Number(given('rounds') ?? 1); round++) {
  const seed = given('seed') ?? String(Math.floor(Math.random() * 2 ** 31));
  say(`\nSeed ${seed}`);
  run(process.execPath, ['node_modules/jest/bin/jest.js', ...files], {
    env: { ...process.env, ZESTY_SIEVE_SEED: seed, ZESTY_SIEVE_SQL_SEED: seed },
  });
}
