import { Router } from 'express';
import { expectation, fieldNote, overlapRequest, type Field, type Shape } from '@zesty-sieve/contract';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import type { Hub } from '../hub.ts';
import { unwrap } from '../problem.ts';

/** What documents look like, what is said of it, and what is expected. */
export function shapeRoutes(hub: Hub): Router {
  const router = Router();

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

  router.post(
    '/overlaps',
    handle(async (request, response) => {
      const { first, second } = readBy(overlapRequest, request.body);
      const sides = [hub.catalog.collection(first), hub.catalog.collection(second)] as const;
      sendJson(response, unwrap(await hub.engine.call((engine) => engine.overlaps(...sides))));
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
