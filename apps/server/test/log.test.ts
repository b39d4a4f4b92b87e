import express from 'express';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { handle } from '../src/http/handler.ts';
import { problemHandler } from '../src/http/problemHandler.ts';
import { TestServer } from './server.ts';

test('a failure that is ours leaves in the log what was asked and where it broke', async () => {
  const lines: string[] = [];
  const log = pino({ level: 'warn' }, { write: (line: string) => void lines.push(line) });
  const app = express();
  app.use(express.json());
  app.post(
    '/api/query',
    handle(() => Promise.reject(new Error('nobody thought of that'))),
  );
  app.use(problemHandler(log));
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  const response = await fetch(`http://127.0.0.1:${port}/api/query?x=1`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ pipeline: 'from huts' }),
  });
  expect(await response.json()).toMatchObject({ status: 500, detail: 'The server failed at this; its log says more.' });
  expect(JSON.parse(lines[0])).toMatchObject({
    method: 'POST',
    url: '/api/query?x=1',
    asked: '{"pipeline":"from huts"}',
    err: { message: 'nobody thought of that', stack: expect.stringContaining('log.test.ts') as string },
  });
  server.close();
});

test('a server that is stopped while it is asked says nothing of it: who asked is gone, and nothing was wrong', async () => {
  const server = await new TestServer().start();
  await server.call('POST', '/collections', { name: 'huts' });
  const lines = Array.from({ length: 8_000 }, (_, i) => JSON.stringify({ id: `h-${i}`, size: i % 12 })).join('\n');
  await server.call('POST', '/collections/huts/import', lines, { 'content-type': 'application/x-ndjson' });
  let isOver = false;
  let answered = 0;
  const asking = async (ask: () => Promise<unknown>) => {
    while (!isOver)
      await ask().then(
        () => answered++,
        () => (isOver = true),
      );
  };
  const asks = [
    () => server.call('POST', '/query', { pipeline: 'from huts\ngroup by @.size measure n = count()' }),
    () => server.call('GET', '/collections/huts/documents?size=200'),
    () => server.call('GET', '/runs'),
    () => server.call('GET', '/advice'),
    () => server.call('GET', '/collections/huts/shape'),
    () => server.call('POST', '/collections/huts/documents', { size: 3 }),
    () => server.call('GET', '/collections/huts/export'),
    () => server.call('GET', '/collections'),
  ];
  const all = asks.map(asking);
  while (answered < 100) await new Promise((resolve) => setTimeout(resolve, 20));
  await server.kill('SIGTERM');
  await Promise.all(all);
  expect(server.said).toBe('');
  await server.remove();
}, 60_000);
