import { Router } from 'express';
import {
  createCollection,
  expectation,
  fieldNote,
  indexDefinition,
  overlapRequest,
  renameCollection,
  type Field,
  type Shape,
} from '@zesty-sieve/contract';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import { onceOf, onceOfJson } from '../http/once.ts';
import { type Hub } from '../hub.ts';
import { infoOf } from '../catalog.ts';
import type { StoredCollection } from '../storage/stored.ts';
import { ServerProblem, unwrap } from '../problem.ts';

export function collectionRoutes(hub: Hub): Router {
  const router = Router();

  router.get(
    '/collections',
    handle((_request, response) => void response.json({ collections: hub.catalog.list() })),
  );

  router.post(
    '/collections',
    handle(async (request, response) => {
      const { name, identity, scratch } = readBy(createCollection, request.body);
      response.status(201).json(await hub.collections.create(name, identity, scratch, onceOfJson(request)));
    }),
  );

  router.get(
    '/collections/:c',
    handle((request, response) => void response.json(infoOf(hub.catalog.collection(part(request, 'c'))))),
  );

  router.patch(
    '/collections/:c',
    handle(async (request, response) => {
      const { name, identity } = readBy(renameCollection, request.body);
      const old = part(request, 'c');
      if (identity !== undefined) await hub.collections.setIdentity(old, identity);
      response.json(
        name === undefined ? infoOf(hub.catalog.collection(old)) : await hub.collections.rename(old, name, onceOfJson(request)),
      );
    }),
  );

  router.delete(
    '/collections/:c/documents',
    handle(async (request, response) => {
      response.json({ removed: await hub.collections.clear(part(request, 'c'), onceOf(request, '')) });
    }),
  );

  router.delete(
    '/collections/:c',
    handle(async (request, response) => {
      await hub.collections.remove(part(request, 'c'), onceOf(request, ''));
      response.status(204).end();
    }),
  );

  router.get(
    '/collections/:c/shape',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      const shape = JSON.parse(unwrap(await hub.engine.call((engine) => engine.shape(collection)))) as Shape;
      const [notes, references] = await hub.storage.call((storage) =>
        Promise.all([
          storage.fieldNotes(collection.id),
          storage.references(collection, hub.catalog.stored, scalarPlaces(shape, collection.identity)),
        ]),
      );
      const noted = new Map(notes.map((note) => [note.path, note]));
      const referring = new Map(references);
      response.json({
        ...shape,
        fields: shape.fields.map((field) => {
          const formats = referring.get(field.path)?.map((found) => ({ format: `identity of ${found.collection}`, share: found.share }));
          return { ...field, ...(formats && { formats: [...formats, ...(field.formats ?? [])] }), ...noted.get(field.path) };
        }),
      });
    }),
  );

  router.put(
    '/collections/:c/fields',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      const note = readBy(fieldNote, request.body);
      unwrap(await hub.storage.call((storage) => storage.setFieldNote(collection.id, note)));
      response.json(note);
    }),
  );

  router.get(
    '/collections/:c/json-schema',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      const text = unwrap(await hub.engine.call((engine) => engine.jsonSchema(collection)));
      response
        .type('application/schema+json')
        .setHeader('Content-Disposition', `attachment; filename="${collection.name}.schema.json"`)
        .send(text);
    }),
  );

  router.get(
    '/collections/:c/expected',
    handle(async (request, response) => {
      const { id } = hub.catalog.collection(part(request, 'c'));
      response.json(await hub.storage.call((storage) => storage.expectation(id)));
    }),
  );

  router.put(
    '/collections/:c/expected',
    handle(async (request, response) => {
      const { id } = hub.catalog.collection(part(request, 'c'));
      const wanted = readBy(expectation, request.body);
      unwrap(await hub.storage.call((storage) => storage.setExpectation(id, wanted)));
      response.json(wanted);
    }),
  );

  router.post(
    '/collections/:c/expected/check',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      response.json(unwrap(await hub.storage.call((storage) => storage.checkExpectation(collection))));
    }),
  );

  router.get(
    '/collections/:c/check',
    handle(async (request, response) => {
      response.json(await hub.checks.state(part(request, 'c')));
    }),
  );

  router.post(
    '/collections/:c/check',
    handle(async (request, response) => {
      response.json(await hub.checks.run(part(request, 'c')));
    }),
  );

  router.delete(
    '/collections/:c/check',
    handle((request, response) => {
      hub.checks.cancel(part(request, 'c'));
      response.status(204).end();
    }),
  );

  router.post(
    '/overlaps',
    handle(async (request, response) => {
      const { first, second } = readBy(overlapRequest, request.body);
      const sides = [hub.catalog.collection(first), hub.catalog.collection(second)] as const;
      sendJson(response, unwrap(await hub.engine.call((engine) => engine.overlaps(...sides))));
    }),
  );

  router.get(
    '/collections/:c/indexes',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      await hub.runLog.settle();
      const [indexes, use, building] = await Promise.all([
        hub.engine.call((engine) => engine.indexes(collection)).then(unwrap),
        hub.storage.call((storage) => storage.indexUse(collection.id)),
        hub.engine.call((engine) => engine.buildsOf(collection.name)),
      ]);
      const used = new Map(use.map((one) => [one.name, one]));
      response.json({
        indexes: indexes.map((one) => ({
          ...one,
          uses: used.get(one.name)?.runs ?? 0,
          lastUsedAt: used.get(one.name)?.lastUsedAt ?? null,
        })),
        building,
      });
    }),
  );

  router.post(
    '/collections/:c/indexes',
    handle(async (request, response) => {
      const definition = readBy(indexDefinition, request.body);
      const once = onceOfJson(request);
      const store = async (collection: StoredCollection) => {
        const building = hub.engine.call((engine) => engine.createIndex(collection, definition));
        // Others see how far it comes from now on.
        hub.events.tell({ kind: 'indexes', collection: collection.name });
        const { definition: text, ...info } = unwrap(await building);
        const stored = { name: info.name, definition: text, createdAt: info.createdAt ?? '', buildMs: info.buildMs };
        try {
          return unwrap(
            await hub.storage.call((storage) => storage.addIndex(collection.id, stored, { ...info, uses: 0, lastUsedAt: null }), {
              once,
              limitMs: hub.writeLimitMs,
            }),
          );
        } catch (error) {
          // What is not stored is not used either.
          await hub.engine.call((engine) => engine.dropIndex(collection, info.name));
          throw error;
        }
      };
      // It goes on when whoever asked goes away: it may take a while, and is of use to others.
      response.status(201).json(await hub.commits.commit({ collection: part(request, 'c'), once, kind: 'indexes', store }));
    }),
  );

  router.delete(
    '/collections/:c/indexes/:name/build',
    handle(async (request, response) => {
      const { name: collection } = hub.catalog.collection(part(request, 'c'));
      const index = part(request, 'name');
      const isEnded = await hub.engine.call((engine) => engine.cancelBuild(collection, index));
      if (!isEnded) throw new ServerProblem('/not-found', `No index ${index} of ${collection} is being built.`);
      response.status(204).end();
    }),
  );

  router.delete(
    '/collections/:c/indexes/:name',
    handle(async (request, response) => {
      const name = part(request, 'name');
      const once = onceOf(request, '');
      await hub.commits.commit({
        collection: part(request, 'c'),
        once,
        kind: 'indexes',
        store: async (collection) => {
          if (!collection.indexes.some((index) => index.name === name)) {
            throw new ServerProblem(
              '/not-found',
              name === 'identity' ? 'The identity index stays with its collection.' : `${collection.name} has no index ${name}.`,
            );
          }
          return unwrap(await hub.storage.call((storage) => storage.removeIndex(collection.id, name), { once }));
        },
        follow: (engine, _stored, collection) => engine.dropIndex(collection, name),
      });
      response.status(204).end();
    }),
  );

  return router;
}

/** The fields that could hold identities of other documents: its own is none of them. */
function scalarPlaces(shape: Shape, identity: string): Pick<Field, 'path' | 'steps'>[] {
  return shape.fields
    .filter(({ path, types }) => path !== identity && (types.text !== undefined || types.number !== undefined))
    .map(({ path, steps }) => ({ path, steps }));
}
