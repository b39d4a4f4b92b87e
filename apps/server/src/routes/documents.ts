import { Router, type Request } from 'express';
import { documentsQuery, readDocuments } from '@zesty-sieve/contract';
import { bodyOf, contentType, expectJson, handle, jsonLimit, jsonOf, part, readBy, sendJson } from '../http/handler.ts';
import { onceOf } from '../http/once.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { PatchKind } from '../storage/bodies.ts';
import { handOver, type Once } from '../threads/messages.ts';

const patchKinds: Record<string, PatchKind> = {
  'application/json-patch+json': 'json-patch',
  'application/merge-patch+json': 'merge-patch',
};

/** The body's bytes, handed over to another thread without a copy, and what makes its write one that is made once. */
async function handedOver(request: Request): Promise<{ body: Uint8Array; once: Once | undefined }> {
  expectJson(request);
  const bytes = new Uint8Array(await bodyOf(request, jsonLimit));
  const once = onceOf(request, bytes);
  return { body: handOver(bytes), once };
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
      const collection = hub.catalog.collection(part(request, 'c'));
      const { after, size } = readBy(documentsQuery, request.query);
      const { texts, last } = await hub.storage.call((storage) => storage.page(collection, after, size));
      sendJson(response, `{"documents":[${texts.join(',')}],"hasMore":${last !== null},"last":${last}}`);
    }),
  );

  router.post(
    all,
    handle(async (request, response) => {
      const { body, once } = await handedOver(request);
      const { identities, warnings } = await hub.commits.commitPuts(part(request, 'c'), once, (storage, collection, check) =>
        storage.insert(collection, body, check),
      );
      response.status(201).json({ inserted: identities.length, identities, ...(warnings.length > 0 && { warnings }) });
    }),
  );

  router.put(
    all,
    handle(async (request, response) => {
      const { body, once } = await handedOver(request);
      const { inserted, replaced } = await hub.commits.commitPuts(part(request, 'c'), once, (storage, collection, check) =>
        storage.replace(collection, body, null, check),
      );
      response.json({ inserted, replaced });
    }),
  );

  router.post(
    `${all}/read`,
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      const identities = readBy(readDocuments, await jsonOf(request)).identities.map(String);
      const { texts, missing } = unwrap(await hub.storage.call((storage) => storage.readMany(collection, identities)));
      sendJson(response, `{"documents":[${texts.join(',')}],"missing":${JSON.stringify(missing)}}`);
    }),
  );

  router.get(
    one,
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      const { text, etag } = unwrap(await hub.storage.call((storage) => storage.read(collection, part(request, 'id'))));
      response.setHeader('ETag', etag);
      if (request.headers['if-none-match'] === etag) response.status(304).end();
      else sendJson(response, text);
    }),
  );

  router.put(
    one,
    handle(async (request, response) => {
      const { body, once } = await handedOver(request);
      const only = { identity: part(request, 'id'), ifMatch: ifMatch(request) };
      const { inserted, etag } = await hub.commits.commitPuts(part(request, 'c'), once, (storage, collection, check) =>
        storage.replace(collection, body, only, check),
      );
      response.setHeader('ETag', etag);
      response.status(inserted > 0 ? 201 : 200).json({ identity: only.identity });
    }),
  );

  router.patch(
    one,
    handle(async (request, response) => {
      const kind = patchKinds[contentType(request)];
      if (kind === undefined) throw new ServerProblem('/media-type', `A patch is sent as ${Object.keys(patchKinds).join(' or ')}.`);
      const body = (await bodyOf(request, jsonLimit)).toString();
      const once = onceOf(request, body);
      const { text, etag } = await hub.commits.commitPuts(part(request, 'c'), once, (storage, collection, check) =>
        storage.patch(collection, part(request, 'id'), { body, kind }, ifMatch(request), check),
      );
      response.setHeader('ETag', etag);
      sendJson(response, text);
    }),
  );

  router.delete(
    one,
    handle(async (request, response) => {
      await hub.commits.commitPuts(part(request, 'c'), onceOf(request, ''), (storage, collection) =>
        storage.remove(collection, part(request, 'id'), ifMatch(request)),
      );
      response.status(204).end();
    }),
  );

  return router;
}
