/* Published answers from what is kept, against a bare Express handler that sends the same bytes: `npm run bench -- --published`. */
import { mkdtempSync, rmSync } from 'node:fs';
import http from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { call, root, started } from './server.mjs';

const connections = 64;
const seconds = 4;
const rounds = 5;
const folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-bench-'));

/** Requests a second, over so many connections that are kept. */
async function rate(address, times = seconds) {
  const agent = new http.Agent({ keepAlive: true, maxSockets: connections });
  let done = 0;
  const until = performance.now() + times * 1_000;
  const one = () =>
    new Promise((resolve, reject) => {
      http
        .get(address, { agent }, (response) => {
          if (response.statusCode !== 200) reject(new Error(`${response.statusCode}`));
          response.resume();
          response.on('end', () => (done++, resolve()));
        })
        .on('error', reject);
    });
  const began = performance.now();
  await Promise.all(
    Array.from({ length: connections }, async () => {
      while (performance.now() < until) await one();
    }),
  );
  const taken = (performance.now() - began) / 1_000;
  agent.destroy();
  return done / taken;
}

const ours = await started(['apps/server/dist/main.js'], { ZESTY_SIEVE_DB: join(folder, 'bench.db'), ZESTY_SIEVE_DATABASES: folder });
await call(ours.address, 'POST', '/collections', { name: 'huts' });
await call(
  ours.address,
  'POST',
  '/collections/huts/documents',
  Array.from({ length: 120 }, (_, id) => ({ id, name: `Hut ${id}`, region: 'Low Tarn', bunks: id % 40 })),
);
await call(ours.address, 'PUT', '/pipelines/huts', { pipeline: 'from huts\nwhere @.bunks >= :least\norder by @.name' });
await call(ours.address, 'PUT', '/publications/changing', {
  pipeline: 'huts',
  parameters: [{ name: 'least', kind: 'number' }],
  cache: { until: 'change' },
});
await call(ours.address, 'PUT', '/publications/timed', {
  pipeline: 'huts',
  parameters: [{ name: 'least', kind: 'number' }],
  cache: { freshSeconds: 3_600 },
});
const body = await (await fetch(`${ours.address}/api/published/timed?least=3`)).text();
const bare = await started([
  '--input-type=module',
  '-e',
  `
  import express from ${JSON.stringify(join(root, 'node_modules/express/index.js'))};
  const body = Buffer.from(${JSON.stringify(body)});
  const app = express();
  app.get('/bare', (_request, response) => { response.setHeader('Content-Type', 'application/json; charset=utf-8'); response.setHeader('Content-Length', body.length); response.end(body); });
  const server = app.listen(0, '127.0.0.1', () => console.log('http://127.0.0.1:' + server.address().port));
`,
]);
try {
  process.stdout.write(`${body.length.toLocaleString('en')} bytes, ${connections} connections\n`);
  const addresses = {
    bare: `${bare.address}/bare`,
    changing: `${ours.address}/api/published/changing?least=3`,
    timed: `${ours.address}/api/published/timed?least=3`,
  };
  for (const address of Object.values(addresses)) await rate(address, 1);
  const rates = { bare: [], changing: [], timed: [] };
  // By turns, so that whatever else the machine does meets all of them.
  for (let round = 0; round < rounds; round++)
    for (const [name, address] of Object.entries(addresses)) rates[name].push(await rate(address));
  const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
  const whole = (value) => Math.round(value).toLocaleString('en');
  for (const [name, words] of [
    ['changing', 'kept until something changes'],
    ['timed', 'kept for a time'],
  ]) {
    const ratio = median(rates[name]) / median(rates.bare);
    process.stdout.write(
      `${words}: ${whole(median(rates[name]))} a second, against ${whole(median(rates.bare))} of a bare Express handler: ratio ${ratio.toFixed(2)}  goal ≥ 0.6: ${ratio >= 0.6 ? 'met' : 'missed'}\n`,
    );
  }
} finally {
  ours.child.kill();
  bare.child.kill();
  rmSync(folder, { recursive: true, force: true });
}
