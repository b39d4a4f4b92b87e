import { Router } from 'express';
import { checkPipeline, parsePipeline } from '@zesty-sieve/core/language';
import { changeRequest, previewRequest, rowsQuery, type ChangeAnswer, type ChangeBody, type ChangeProgress } from '@zesty-sieve/contract';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import { CancelFlag, type Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import { whenGone } from './queries.ts';

const documentsAtOnce = 1_000;

export function changeRoutes(hub: Hub): Router {
  const router = Router();
  const tracked = new Map<string, ChangeProgress>();
  const sourcesOf = (change: string) => {
    const found = hub.find(checkPipeline(parsePipeline(change), { purpose: 'change' }).source);
    return found === null ? [] : [found];
  };

  router.post(
    '/changes/preview',
    handle(async (request, response) => {
      const asked = readBy(previewRequest, request.body);
      const flag = new CancelFlag();
      const text = await hub.cancellable(flag, whenGone(response), async () =>
        unwrap(
          await hub.engine.call((engine) => engine.previewChange(sourcesOf(asked.change), hub.names, asked, hub.undoBytes, flag.buffer)),
        ),
      );
      sendJson(response, text);
    }),
  );

  router.post(
    '/changes',
    handle(async (request, response) => {
      const { track, ...asked } = readBy(changeRequest, request.body);
      const flag = new CancelFlag();
      try {
        const onProgress = (progress: ChangeProgress) => track !== undefined && tracked.set(track, progress);
        response.json(await hub.cancellable(flag, whenGone(response), () => makeChange(hub, asked, flag, onProgress)));
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
      const id = typeof name === 'string' ? hub.collection(name).id : null;
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
      const restored = await hub.change(name, async (collection) => {
        const puts = unwrap(await hub.storage.call((storage) => storage.undoChange(id, hub.checkFor(collection))));
        await hub.applied(name, puts);
        return puts.length;
      });
      response.json({ restored });
    }),
  );

  return router;
}

/** Works a change out in the engine, writes it in one transaction, and lets the engine take it over. */
function makeChange(
  hub: Hub,
  asked: ChangeBody,
  flag: CancelFlag,
  onProgress: (progress: ChangeProgress) => unknown,
): Promise<ChangeAnswer> {
  const source = checkPipeline(parsePipeline(asked.change), { purpose: 'change' }).source;
  if (hub.find(source) === null) {
    // Told as any other error of the text.
    return hub.engine.call((engine) => engine.beginChange([], hub.names, asked, flag.buffer)).then((answer) => unwrap(answer) as never);
  }
  return hub.change(source ?? '', async (collection) => {
    const {
      handle: open,
      matched,
      identities,
    } = unwrap(await hub.engine.call((engine) => engine.beginChange([collection], hub.names, asked, flag.buffer)));
    let changeId: string | undefined;
    try {
      const parameters = asked.parameters === undefined ? null : JSON.stringify(asked.parameters);
      const made = { change: asked.change, parameters, matched, changed: identities.length };
      const id = (changeId = unwrap(await hub.storage.call((storage) => storage.beginChange(collection, made))));
      for (let offset = 0; offset < identities.length; offset += documentsAtOnce) {
        if (flag.isCancelled) throw new ServerProblem('/cancelled', 'The change was cancelled. Nothing was changed.');
        const puts = await hub.engine.call((engine) => engine.changePart(open, offset, documentsAtOnce));
        unwrap(await hub.storage.call((storage) => storage.pushChange(puts)));
        onProgress({ documents: offset + puts.length, of: identities.length });
      }
      const { kept } = unwrap(await hub.storage.call((storage) => storage.finishChange()));
      await hub.engine.call((engine) => engine.applyChange(open));
      return { changeId: id, matched, changed: identities.length, identities, kept };
    } finally {
      const begun = changeId;
      if (begun !== undefined) await hub.storage.call((storage) => storage.abandonChange(begun));
      await hub.engine.call((engine) => engine.endChange(open));
    }
  });
}
