import { shareOf, type Come } from '../work.ts';
import { Router } from 'express';
import { checkPipeline, usualSurface } from '@zesty-sieve/core/language';
import { changeRequest, previewRequest, rowsQuery, type ChangeAnswer, type ChangeBody, type ChangeProgress } from '@zesty-sieve/contract';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import { flagFor } from '../http/flagFor.ts';
import { onceOfJson } from '../http/once.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { StoredCollection } from '../storage/stored.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';
import type { Once } from '../threads/messages.ts';

const documentsAtOnce = 1_000;

export function changeRoutes(hub: Hub): Router {
  const router = Router();
  const tracked = new Map<string, ChangeProgress>();
  const sourcesOf = (change: string) => {
    const found = hub.catalog.find(checkPipeline(usualSurface.parse(change), { purpose: 'change' }).source);
    return found === null ? [] : [found];
  };

  router.post(
    '/changes/preview',
    handle(async (request, response) => {
      const asked = readBy(previewRequest, request.body);
      const flag = flagFor(response);
      const preview = await hub.ask(flag, (engine) =>
        engine.previewChange(sourcesOf(asked.change), hub.catalog.names, asked, hub.undoBytes, flag.buffer),
      );
      sendJson(response, unwrap(preview));
    }),
  );

  router.post(
    '/changes',
    handle(async (request, response) => {
      const { track, ...asked } = readBy(changeRequest, request.body);
      const flag = flagFor(response);
      try {
        const onProgress = (progress: ChangeProgress) => track !== undefined && tracked.set(track, progress);
        response.json(await makeChange(hub, { asked, track, once: onceOfJson(request), flag, onProgress }));
      } finally {
        if (track !== undefined) tracked.delete(track);
      }
    }),
  );

  router.get(
    '/changes/progress/:track',
    handle((request, response) => {
      const progress = tracked.get(part(request, 'track'));
      if (progress === undefined) throw new ServerProblem('/not-found', 'No change of that name is under way.');
      response.json(progress);
    }),
  );

  router.get(
    '/changes',
    handle(async (request, response) => {
      const name = request.query.collection;
      const id = typeof name === 'string' ? hub.catalog.collection(name).id : null;
      response.json({ changes: await hub.storage.call((storage) => storage.changes(id)) });
    }),
  );

  router.get(
    '/changes/:id',
    handle(async (request, response) => {
      response.json(unwrap(await hub.storage.call((storage) => storage.change(part(request, 'id')))));
    }),
  );

  router.get(
    '/changes/:id/documents',
    handle(async (request, response) => {
      const { offset, size } = readBy(rowsQuery, request.query);
      response.json(unwrap(await hub.storage.call((storage) => storage.changedDocuments(part(request, 'id'), offset, size))));
    }),
  );

  router.post(
    '/changes/:id/undo',
    handle(async (request, response) => {
      const id = part(request, 'id');
      const { collection: name } = unwrap(await hub.storage.call((storage) => storage.change(id)));
      const { restored } = await hub.commits.commitPuts(name, onceOfJson(request), (storage, _collection, check) =>
        storage.undoChange(id, check),
      );
      response.json({ restored });
    }),
  );

  return router;
}

interface Making {
  readonly asked: ChangeBody;
  readonly track: string | undefined;
  readonly once: Once | undefined;
  readonly flag: CancelFlag;
  readonly onProgress: (progress: ChangeProgress) => unknown;
}

/** Works a change out in the engine, writes it in one transaction, and lets the engine take it over. */
async function makeChange(hub: Hub, { asked, track, once, flag, onProgress }: Making): Promise<ChangeAnswer> {
  const begin = (sources: readonly StoredCollection[]) =>
    hub.ask(flag, (engine) => engine.beginChange(sources, hub.catalog.names, asked, flag.buffer)).then(unwrap);
  const source = checkPipeline(usualSurface.parse(asked.change), { purpose: 'change' }).source;
  // Told as any other error of the text.
  if (source === undefined || hub.catalog.find(source) === null) return (await begin([])) as never;
  let open: string | undefined;
  try {
    const commit = (come: (come: Come) => void) =>
      hub.commits.commit({
        collection: source,
        once,
        store: async (collection) => {
          const { handle, matched, identities } = await begin([collection]);
          open = handle;
          let offset = 0;
          const nextPart = async () => {
            if (flag.isCancelled) throw new ServerProblem('/cancelled', 'The change was cancelled. Nothing was changed.');
            const puts = await hub.engine.call((engine) => engine.changePart(handle, offset, documentsAtOnce));
            offset += puts?.length ?? 0;
            come({ documents: offset, share: shareOf(offset, identities.length) });
            onProgress({ documents: offset, of: identities.length });
            return puts;
          };
          const parameters = asked.parameters === undefined ? null : JSON.stringify(asked.parameters);
          const made = { change: asked.change, parameters, matched, changed: identities.length, identities };
          return unwrap(await hub.storage.call((storage) => storage.makeChange(collection, made, nextPart), { once, isLong: true }));
        },
        follow: (engine, _stored, collection) => engine.applyChange(collection, open ?? ''),
      });
    return await hub.work.during({ kind: 'change', of: source, track, cancel: () => flag.cancel() }, commit);
  } finally {
    const handle = open;
    if (handle !== undefined) await hub.engine.call((engine) => engine.endChange(handle)).catch(() => undefined);
  }
}
