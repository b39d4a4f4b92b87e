import { jsonSchemaOf, mostPaths, odditiesOf, overlapsOf } from '@zesty-sieve/core';
import type { Shape } from '@zesty-sieve/contract';
import { reply, type Reply } from '../../problem.ts';
import type { StoredCollection } from '../../storage/stored.ts';
import type { JsonText } from '../answers.ts';
import { documentBytes } from '../documentBytes.ts';
import { pause, type EngineRoom } from '../engineRoom.ts';
import { fieldOf } from '../../told/fieldOf.ts';

/** What fields the documents of a collection have, and which of two collections overlap. */
export function shapes(room: EngineRoom) {
  return {
    shape(stored: StoredCollection): Promise<Reply<JsonText>> {
      return reply(async () => {
        const collection = await room.residency.ensure(stored);
        const fields = await collection.shape(pause);
        const oddities = odditiesOf(fields);
        const shape: Shape = {
          collection: stored.name,
          count: collection.store.count,
          memoryBytes: Math.round(documentBytes(collection)),
          fields: fields.map((field, i) => fieldOf(field, oddities[i])),
          hasMore: fields.length >= mostPaths,
        };
        return JSON.stringify(shape);
      });
    },

    jsonSchema(stored: StoredCollection): Promise<Reply<JsonText>> {
      return reply(async () =>
        JSON.stringify(jsonSchemaOf(stored.name, await (await room.residency.ensure(stored)).shape(pause)), null, 2),
      );
    },

    /** Pairs of fields of two collections whose values overlap. */
    overlaps(first: StoredCollection, second: StoredCollection): Promise<Reply<JsonText>> {
      return reply(async () => {
        const sides = await Promise.all(
          [first, second].map(async (stored) => {
            const collection = await room.residency.ensure(stored);
            return { store: collection.store, fields: await collection.shape(pause) };
          }),
        );
        return JSON.stringify(await overlapsOf(sides[0]!, sides[1]!, pause));
      });
    },
  };
}
