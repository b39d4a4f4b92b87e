import express from 'express';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { handle } from '../src/http/handler.ts';
import { problemHandler } from '../src/http/problemHandler.ts';

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
