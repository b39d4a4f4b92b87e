import { Router, type Request } from 'express';
import { transfer } from 'comlink';
import { documentsQuery, readDocuments } from '@zesty-sieve/contract';
import { bodyOf, handle, jsonLimit, jsonOf, part, readBy, sendJson } from '../http/handler.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { PatchKind } from '../storage/bodies.ts';

const patchKinds: Record<string, PatchKind> = {
  'application/json-patch+json': 'json-patch',
  'application/merge-patch+json': 'merge-patch',
};

/** The body's bytes, handed over to another thread without a copy. */
async function handedOver(request: Request): Promise<Uint8Array> {
  const bytes = new Uint8Array(await bodyOf(request, jsonLimit));
  return transfer(bytes, [bytes.buffer]);
}

function ifMatch(request: Request): string | null {
  return request.headers['if-match'] ?? null;
}

export function documentRoutes(hub: Hub): Router {
  const router = Router();
  const all = '/collections/:c/documents';
  const one = '/collections/:c/documents/:id';

  router.get(
    all,
    handle(async (request, response) => {
      const collection = hub.collection(part(request, 'c'));
      const { after, size } = readBy(documentsQuery, request.query);
      const { texts, last } = await hub.storage.call((storage) => storage.page(collection, after, size));
      sendJson(response, `{"documents":[${texts.join(',')}],"hasMore":${last !== null},"last":${last}}`);
    }),
  );

  router.post(
    all,
    handle(async (request, response) => {
      const body = await handedOver(request);
      const { identities, warnings } = await hub.change(part(request, 'c'), async (collection) => {
        const done = unwrap(await hub.storage.call((storage) => storage.insert(collection, body, hub.checkFor(collection))));
        await hub.applied(collection.name, done.puts);
        return done;
      });
      response.status(201).json({ inserted: identities.length, identities, ...(warnings.length > 0 && { warnings }) });
    }),
  );

  router.put(
    all,
    handle(async (request, response) => {
      const body = await handedOver(request);
      const { inserted, replaced } = await hub.change(part(request, 'c'), async (collection) => {
        const done = unwrap(await hub.storage.call((storage) => storage.replace(collection, body, null, hub.checkFor(collection))));
        await hub.applied(collection.name, done.puts);
        return done;
      });
      response.json({ inserted, replaced });
    }),
  );

  router.post(
    `${all}/read`,
    handle(async (request, response) => {
      const collection = hub.collection(part(request, 'c'));
      const identities = readBy(readDocuments, await jsonOf(request)).identities.map(String);
      const { texts, missing } = unwrap(await hub.storage.call((storage) => storage.readMany(collection, identities)));
      sendJson(response, `{"documents":[${texts.join(',')}],"missing":${JSON.stringify(missing)}}`);
    }),
  );

  router.get(
    one,
    handle(async (request, response) => {
      const collection = hub.collection(part(request, 'c'));
      const { text, etag } = unwrap(await hub.storage.call((storage) => storage.read(collection, part(request, 'id'))));
      response.setHeader('ETag', etag);
      if (request.headers['if-none-match'] === etag) response.status(304).end();
      else sendJson(response, text);
    }),
  );

  router.put(
    one,
    handle(async (request, response) => {
      const body = await handedOver(request);
      const only = { identity: part(request, 'id'), ifMatch: ifMatch(request) };
      const { inserted, etag } = await hub.change(part(request, 'c'), async (collection) => {
        const done = unwrap(await hub.storage.call((storage) => storage.replace(collection, body, only, hub.checkFor(collection))));
        await hub.applied(collection.name, done.puts);
        return done;
      });
      response.setHeader('ETag', etag);
      response.status(inserted > 0 ? 201 : 200).json({ identity: only.identity });
    }),
  );

  router.patch(
    one,
    handle(async (request, response) => {
      const kind = patchKinds[(request.headers['content-type'] ?? '').split(';')[0].trim().toLowerCase()];
      if (kind === undefined) throw new ServerProblem('/media-type', `A patch is sent as ${Object.keys(patchKinds).join(' or ')}.`);
      const body = (await bodyOf(request, jsonLimit)).toString();
      const { text, etag } = await hub.change(part(request, 'c'), async (collection) => {
        const done = unwrap(
          await hub.storage.call((storage) =>
            storage.patch(collection, part(request, 'id'), body, kind, ifMatch(request), hub.checkFor(collection)),
          ),
        );
        await hub.applied(collection.name, done.puts);
        return done;
      });
      response.setHeader('ETag', etag);
      sendJson(response, text);
    }),
  );

  router.delete(
    one,
    handle(async (request, response) => {
      await hub.change(part(request, 'c'), async (collection) => {
        const { puts } = unwrap(await hub.storage.call((storage) => storage.remove(collection, part(request, 'id'), ifMatch(request))));
        await hub.applied(collection.name, puts);
      });
      response.status(204).end();
    }),
  );

  return router;
}
