import { createReadStream } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { EventStream } from '../http/eventStream.ts';
import { handle } from '../http/handler.ts';
import type { Hub } from '../hub.ts';

/** Proxies and browsers end a connection on which nothing comes for long. */
const heartbeatMs = 20_000;

/** Calls about the server as a whole. */
export function serverRoutes(hub: Hub): Router {
  const router = Router();

  router.get('/events', (_request, response) => {
    const events = new EventStream(response);
    const end = hub.events.listen((event) => events.send(event.kind, event));
    const beat = setInterval(() => events.comment('still here'), heartbeatMs);
    // Whoever listens comes again, and is answered by what is there then.
    const notEnded = hub.events.whenEnded(() => response.end());
    events.send('hello', { id: hub.startId });
    response.on('close', () => {
      clearInterval(beat);
      end();
      notEnded();
    });
  });

  router.get(
    '/backup',
    handle(async (_request, response) => {
      // A directory of ours alone.
      const folder = await mkdtemp(join(tmpdir(), 'zesty-sieve-backup-'));
      try {
        const file = join(folder, 'backup.db');
        await hub.storage.call((storage) => storage.backup(file));
        const day = new Date().toISOString().slice(0, 10);
        // Its length is told before it is sent: what is cut off is seen to be.
        response.setHeader('Content-Length', (await stat(file)).size);
        response.type('application/vnd.sqlite3').setHeader('Content-Disposition', `attachment; filename="zesty-sieve-${day}.db"`);
        await pipeline(createReadStream(file), response);
      } finally {
        await rm(folder, { recursive: true, force: true });
      }
    }),
  );

  return router;
}
