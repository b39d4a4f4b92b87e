import type { PublishedParameter } from '@zesty-sieve/contract';
import { sourceAskedBy } from '@zesty-sieve/core/language';
import type { Hub } from '../hub.ts';
import type { Open } from './publisher.ts';

/** Parameters of a publication with what is noted of fields in their collection, where the publication says nothing else of them. */
export async function withNotes(hub: Hub, { publication, saved }: Open): Promise<PublishedParameter[]> {
  return Promise.all(
    publication.parameters.map(async (parameter) => {
      if (parameter.fields === undefined || saved === undefined) return parameter;
      const source = sourceAskedBy(saved.pipeline, parameter.name);
      const collection = source === undefined ? null : hub.catalog.find(source);
      if (collection === null) return parameter;
      const notes = new Map((await hub.storage.call((storage) => storage.fieldNotes(collection.id))).map((one) => [one.path, one]));
      const fields = parameter.fields.map((field) => {
        const given = typeof field === 'string' ? { path: field } : field;
        const { note, unit } = notes.get(given.path) ?? {};
        return { ...(note && { note: note.slice(0, 500) }), ...(unit && { unit: unit.slice(0, 40) }), ...given };
      });
      return { ...parameter, fields };
    }),
  );
}
