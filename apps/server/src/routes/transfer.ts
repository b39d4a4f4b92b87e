import { once } from 'node:events';
import { Router, type Request, type Response } from 'express';
import * as Comlink from 'comlink';
import { exportQuery, importOptions, type ImportOptions, type ImportProgress, type ImportResult } from '@zesty-sieve/contract';
import { EventStream } from '../http/eventStream.ts';
import { bodyOf, handle, part, readBy } from '../http/handler.ts';
import { problemFrom } from '../http/problemHandler.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { ImportFormat } from '../storage/importer.ts';
import type { StoredCollection } from '../storage/stored.ts';
import { withRefusals } from '../uniqueness.ts';

const importFormats: Record<string, ImportFormat> = {
  'application/x-ndjson': 'ndjson',
  'application/jsonl': 'ndjson',
  'application/json': 'json',
  'text/csv': 'csv',
};
export const contentTypes = { ndjson: 'application/x-ndjson', json: 'application/json', csv: 'text/csv; charset=utf-8' } as const;

const previewLimit = 4 * 1024 * 1024;

/** What a file is, by the headers that it is sent with. */
function formatOf(request: Request): { format: ImportFormat; zipped: boolean } {
  const format = importFormats[(request.headers['content-type'] ?? '').split(';')[0].trim().toLowerCase()];
  if (format === undefined) throw new ServerProblem('/media-type', `A file is sent as ${Object.keys(importFormats).join(', ')}.`);
  const encoding = (request.headers['content-encoding'] ?? 'identity').toLowerCase();
  if (encoding !== 'identity' && encoding !== 'gzip')
    throw new ServerProblem('/media-type', `Content-Encoding is gzip or left out, and this is ${encoding}.`);
  return { format, zipped: encoding === 'gzip' };
}

export function transferRoutes(hub: Hub): Router {
  const router = Router();
  // A browser reads nothing of an answer before its file is sent, so it asks beside.
  const tracked = new Map<string, ImportProgress>();

  router.get(
    '/imports/:track',
    handle((request, response) => {
      const progress = tracked.get(part(request, 'track'));
      if (progress === undefined) throw new ServerProblem('/not-found', 'No import of that name is under way.');
      response.json(progress);
    }),
  );

  router.post(
    '/imports/preview',
    handle(async (request, response) => {
      const { format, zipped } = formatOf(request);
      const options = readBy(importOptions, request.query);
      const bytes = await bodyOf(request, previewLimit);
      // Whoever sends only the beginning of a file says so.
      const isWhole = request.query.part !== 'beginning';
      response.json(unwrap(await hub.storage.call((storage) => storage.previewImport(bytes, isWhole, zipped, format, options))));
    }),
  );

  router.post(
    '/collections/:c/import',
    handle(async (request, response) => {
      const options = readBy(importOptions, request.query);
      const { format, zipped } = formatOf(request);
      if (!(request.headers.accept ?? '').includes('text/event-stream')) {
        const { track } = options;
        try {
          response.json(
            await load(hub, request, format, zipped, options, (progress) => track !== undefined && tracked.set(track, progress)),
          );
        } finally {
          if (track !== undefined) tracked.delete(track);
        }
        return;
      }
      const events = new EventStream(response);
      try {
        events.send('done', await load(hub, request, format, zipped, options, (progress) => events.progress(progress)));
      } catch (error) {
        events.send('problem', problemFrom(error));
      }
      response.end();
    }),
  );

  router.get(
    '/collections/:c/export',
    handle(async (request, response) => {
      const collection = hub.collection(part(request, 'c'));
      const { format } = readBy(exportQuery, request.query);
      const handleOf = await hub.storage.call((storage) => storage.beginExport(collection, format));
      response.type(contentTypes[format]).setHeader('Content-Disposition', `attachment; filename="${collection.name}.${format}"`);
      try {
        for (;;) {
          const piece = await hub.storage.call((storage) => storage.nextPiece(handleOf));
          if (piece === null || response.destroyed) break;
          await sendPiece(response, piece);
        }
      } finally {
        await hub.storage.call((storage) => storage.endExport(handleOf));
      }
      response.end();
    }),
  );

  return router;
}

/** Writes a piece, and waits while the reader is slower than we are. */
export async function sendPiece(response: Response, piece: string): Promise<void> {
  if (response.write(piece) || response.destroyed) return;
  // The one that does not come lets go of the response.
  const over = new AbortController();
  const { signal } = over;
  await Promise.race([once(response, 'drain', { signal }), once(response, 'close', { signal })]).finally(() => over.abort());
}

async function load(
  hub: Hub,
  request: Request,
  format: ImportFormat,
  zipped: boolean,
  options: ImportOptions,
  onProgress: (progress: ImportProgress) => unknown,
): Promise<ImportResult> {
  const mode = options.onDuplicate === 'replace' ? 'replacing' : 'beside';
  return hub.change(part(request, 'c'), (collection) =>
    withRefusals(hub, collection, mode, async (refusals) => {
      const open = unwrap(await hub.storage.call((storage) => storage.beginImport(collection, format, zipped, options, refusals)));
      try {
        for await (const piece of request as AsyncIterable<Buffer>) {
          const bytes = new Uint8Array(piece);
          onProgress(unwrap(await hub.storage.call((storage) => storage.pushImport(open, Comlink.transfer(bytes, [bytes.buffer])))));
        }
        if (!request.complete) throw new ServerProblem('/malformed', 'The file was not sent to its end. Nothing was stored.');
        const { result, firstPosition, nextPosition, replacedPositions } = unwrap(
          await hub.storage.call((storage) => storage.finishImport(open)),
        );
        await tellEngine(hub, collection, firstPosition, nextPosition, replacedPositions);
        return result;
      } finally {
        await hub.storage.call((storage) => storage.abandonImport(open));
      }
    }),
  );
}

async function tellEngine(hub: Hub, collection: StoredCollection, from: number, to: number, replaced: readonly number[]): Promise<void> {
  await hub.engine.call((engine) => engine.refresh(collection, from, to, replaced));
}
