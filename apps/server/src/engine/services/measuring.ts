import type { QueryRequest } from '@zesty-sieve/core';
import { reply, type Reply } from '../../problem.ts';
import type { StoredCollection } from '../../storage/stored.ts';
import { valueOf } from '../answers.ts';
import { cancelledBy } from '../cancelling.ts';
import type { EngineRoom } from '../engineRoom.ts';
import { measure, measurePair, type MeasureRequest, type Measured, type MeasuredPair } from '../measure.ts';

/** Questions run several times by turns, with what differs and without. */
export function measuring(room: EngineRoom) {
  return {
    measurePair(
      sources: readonly StoredCollection[],
      first: Omit<QueryRequest, 'pageSize'>,
      second: Omit<QueryRequest, 'pageSize'>,
      times: number,
      cancel: SharedArrayBuffer,
    ): Promise<Reply<MeasuredPair>> {
      return reply(async () => {
        await room.residency.ensureAll(sources);
        const query = (request: QueryRequest) => room.engine.query(request, cancelledBy(cancel)).then(valueOf);
        return measurePair(query, { ...first, pageSize: 0 }, { ...second, pageSize: 0 }, times);
      });
    },

    measure(sources: readonly StoredCollection[], request: MeasureRequest, cancel: SharedArrayBuffer): Promise<Reply<Measured>> {
      return reply(async () => {
        await room.residency.ensureAll(sources);
        return measure((query) => room.engine.query(query, cancelledBy(cancel)).then(valueOf), request);
      });
    },
  };
}
