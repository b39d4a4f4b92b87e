import { shareOf } from '../work.ts';
import { once } from 'node:events';
import { Router, type Request, type Response } from 'express';
import { exportQuery, importOptions, type ImportProgress, type ImportResult } from '@zesty-sieve/contract';
import { asJob, wantsEvents } from '../http/job.ts';
import { flagFor } from '../http/flagFor.ts';
import { bodyOf, contentType, handle, part, readBy } from '../http/handler.ts';
import { onceOf } from '../http/once.ts';
import type { Uploads } from '../http/upload.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { ImportFormat } from '../formats/readerFor.ts';
import type { ScriptHow } from '../storage/exporter.ts';
import type { ImportHow } from '../storage/imports.ts';
import type { StoredCollection } from '../storage/stored.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';
import { withRefusals } from '../uniqueness.ts';

const importFormats: Record<string, ImportFormat> = {
  'application/x-ndjson': 'ndjson',
  'application/jsonl': 'ndjson',
  'application/json': 'json',
  'text/csv': 'csv',
};
export const contentTypes = {
  ndjson: 'application/x-ndjson',
  json: 'application/json',
  csv: 'text/csv; charset=utf-8',
  sql: 'application/sql',
} as const;

/** What stands around the rows of a collection's script. */
function scriptOf({ name, indexes }: StoredCollection, dialect: ScriptHow['dialect']): ScriptHow {
  const ordered = indexes.map((index) => ({
    name: index.name,
    ...(JSON.parse(index.definition) as { keys?: string[]; unique?: boolean; kind?: string }),
  }));
  return {
    name,
    dialect,
    indexes: ordered.map(({ name: called, keys = [], unique = false, kind }) => ({ name: `${name}_${called}`, keys, unique, kind })),
  };
}

const previewLimit = 4 * 1024 * 1024;

/** What a file is, by the headers that it is sent with. */
function formatOf(request: Request): { format: ImportFormat; zipped: boolean } {
  const format = importFormats[contentType(request)];
  if (format === undefined) throw new ServerProblem('/media-type', `A file is sent as ${Object.keys(importFormats).join(', ')}.`);
  const encoding = (request.headers['content-encoding'] ?? 'identity').toLowerCase();
  if (encoding !== 'identity' && encoding !== 'gzip')
    throw new ServerProblem('/media-type', `Content-Encoding is gzip or left out, and this is ${encoding}.`);
  return { format, zipped: encoding === 'gzip' };
}

export function transferRoutes(hub: Hub, uploads: Uploads): Router {
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
      const collection = part(request, 'c');
      // Told before anything is sent for nothing.
      hub.catalog.collection(collection);
      const how = { format, zipped, options, clearsFirst: false, isStrict: false };
      const flag = flagFor(response);
      if (!wantsEvents(request)) {
        const { track } = options;
        try {
          const onProgress = (progress: ImportProgress) => track !== undefined && tracked.set(track, progress);
          response.json(await load({ hub, uploads, request }, collection, how, flag, onProgress));
        } finally {
          if (track !== undefined) tracked.delete(track);
        }
        return;
      }
      await asJob(request, response, (onProgress) => load({ hub, uploads, request }, collection, how, flag, onProgress));
    }),
  );

  router.get(
    '/collections/:c/export',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      const { format, formulas, dialect } = readBy(exportQuery, request.query);
      const how = { format, guardsFormulas: formulas === 'guard', ...(format === 'sql' && { script: scriptOf(collection, dialect) }) };
      const handleOf = unwrap(await hub.storage.call((storage) => storage.beginExport(collection, how)));
      try {
        const nextPiece = async () => unwrap(await hub.storage.call((storage) => storage.nextPiece(handleOf)));
        // Before anything of an answer: where it fails here, that is the answer.
        let piece = await nextPiece();
        // Comes only after all of it (RFC 9110, 6.5): what is cut off has none, and its last chunk is missing.
        const hasTrailers = request.httpVersion !== '1.0';
        if (hasTrailers) response.setHeader('Trailer', 'Zesty-Sieve-Complete');
        response.type(contentTypes[format]).setHeader('Content-Disposition', `attachment; filename="${collection.name}.${format}"`);
        for (; piece !== null; piece = await nextPiece()) {
          await sendPiece(response, piece);
          if (response.destroyed) return;
        }
        if (hasTrailers) response.addTrailers({ 'Zesty-Sieve-Complete': 'yes' });
        response.end();
      } finally {
        await hub.storage.call((storage) => storage.endExport(handleOf)).catch(() => undefined);
      }
    }),
  );

  return router;
}

/** Writes a piece, and waits while the reader is slower than we are; one that reads nothing for long is let go elsewhere. */
export async function sendPiece(response: Response, piece: string): Promise<void> {
  if (response.write(piece) || response.destroyed) return;
  // The one that does not come lets go of the response.
  const over = new AbortController();
  const { signal } = over;
  await Promise.race([once(response, 'drain', { signal }), once(response, 'close', { signal })]).finally(() => over.abort());
}

/** Takes a file to the side as it comes, so that nobody waits for whoever sends it, and loads it then in one go. */
function load(
  { hub, uploads, request }: { readonly hub: Hub; readonly uploads: Uploads; readonly request: Request },
  name: string,
  how: ImportHow,
  flag: CancelFlag,
  onProgress: (progress: ImportProgress) => unknown,
): Promise<ImportResult> {
  const size = Number(request.headers['content-length'] ?? 0);
  const cancel = () => flag.cancel();
  return hub.work.during({ kind: 'load', of: name, track: how.options.track, cancel }, (come) =>
    loaded({ hub, uploads, request }, name, how, flag, (progress) => {
      const { phase, bytes, documents } = progress;
      come({ documents, share: phase === 'receiving' ? shareOf(bytes, size) : null });
      return onProgress(progress);
    }),
  );
}

function loaded(
  { hub, uploads, request }: { readonly hub: Hub; readonly uploads: Uploads; readonly request: Request },
  name: string,
  how: ImportHow,
  flag: CancelFlag,
  onProgress: (progress: ImportProgress) => unknown,
): Promise<ImportResult> {
  const mode = how.options.onDuplicate === 'replace' ? 'replacing' : 'beside';
  const onBytes = (bytes: number) => void onProgress({ phase: 'receiving', bytes, documents: 0, rejected: 0 });
  return uploads.aside(request, onBytes, async (file, digest) => {
    const key = onceOf(request, digest);
    const { result } = await hub.commits.commit({
      collection: name,
      once: key,
      store: (collection) =>
        withRefusals(hub, collection, mode, async (refusals) =>
          unwrap(
            await hub.storage.call((storage) => storage.load(collection, file, { ...how, cancel: flag.buffer }, refusals, onProgress), {
              once: key,
              isLong: true,
            }),
          ),
        ),
      follow: (engine, { firstPosition, nextPosition, replacedPositions }, collection) =>
        engine.refresh(collection, firstPosition, nextPosition, replacedPositions),
    });
    return result;
  });
}
