/* Loading into a collection that a view follows, against loading into one that nothing reads: a part of `npm run bench -- --views`. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { call, started } from './server.mjs';

const loaded = 100_000;
const before = 100_000;
const rounds = 3;
const nf = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

const lines = (from, count) =>
  Array.from({ length: count }, (_, i) => {
    const id = from + i;
    return JSON.stringify({ id, hut: `h-${(id * 7) % 120}`, month: `2026-${String((id % 12) + 1).padStart(2, '0')}`, fee: ((id * 37) % 9000) / 100 }); // prettier-ignore
  }).join('\n');

export async function benchViewsLoad() {
  const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-bench-'));
  const { address, child } = await started(['apps/server/dist/main.js'], { ZESTY_SIEVE_DB: join(folder, 'bench.db'), ZESTY_SIEVE_DATABASES: folder }); // prettier-ignore
  const pipeline = (name) => `from ${name}\ngroup by @.hut, @.month measure n = count(), fees = sum(@.fee)`;
  const state = async (name) => (await call(address, 'GET', `/pipelines/${name}`)).materialized.state;
  const freshAfter = async (name) => {
    const began = performance.now();
    while ((await state(name)) !== 'fresh') await new Promise((resolve) => setTimeout(resolve, 10));
    return performance.now() - began;
  };
  const times = { followed: [], alone: [], fresh: [] };
  try {
    for (let round = 0; round < rounds; round++) {
      for (const kind of ['alone', 'followed']) {
        const name = `${kind}${round}`;
        await call(address, 'POST', '/collections', { name });
        await call(address, 'POST', `/collections/${name}/import`, lines(0, before));
        if (kind === 'followed') {
          await call(address, 'PUT', `/pipelines/view${round}`, { pipeline: pipeline(name), view: true, materialized: { refresh: 'on change' } }); // prettier-ignore
          await freshAfter(`view${round}`);
        } else await call(address, 'POST', '/query', { pipeline: pipeline(name) });
        const body = lines(before, loaded);
        const began = performance.now();
        await call(address, 'POST', `/collections/${name}/import`, body);
        times[kind].push(performance.now() - began);
        if (kind === 'followed') times.fresh.push(await freshAfter(`view${round}`));
        // The next is not to be slower for what this one left to do.
        await call(address, 'POST', '/query', { pipeline: pipeline(name) });
      }
    }
    const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
    const ratio = median(times.followed) / median(times.alone);
    process.stdout.write(
      `loading ${nf.format(loaded)} into a collection that a view follows: ${nf.format(median(times.followed))} ms, against ${nf.format(median(times.alone))} ms without: ratio ${ratio.toFixed(2)}  goal ≤ 1.5: ${ratio <= 1.5 ? 'met' : 'missed'}; fresh ${nf.format(median(times.fresh))} ms after that\n`,
    );
  } finally {
    child.kill();
    rmSync(folder, { recursive: true, force: true });
  }
}
