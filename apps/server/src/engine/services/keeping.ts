import type { WhatIfAnswer } from '@zesty-sieve/contract';
import type { FollowsTold, QueryRequest } from '@zesty-sieve/core';
import { reply, type Reply } from '../../problem.ts';
import type { StoredCollection } from '../../storage/stored.ts';
import type { AskedBefore } from '../../told/askedBefore.ts';
import { servedByWhatIf } from '../advising.ts';
import { valueOf } from '../answers.ts';
import { cancelledBy } from '../cancelling.ts';
import { pause, type EngineRoom } from '../engineRoom.ts';

/** Lines whose rows might be kept. */
export type MayBeKept = Pick<QueryRequest, 'pipeline' | 'parameters' | 'guards'>;

/** What keeping rows would take, and be of use for. */
export function keeping(room: EngineRoom) {
  return {
    follows(sources: readonly StoredCollection[], names: readonly string[], request: MayBeKept): Promise<Reply<FollowsTold>> {
      return reply(async () => {
        await room.ready(sources, names, request.pipeline);
        return room.engine.keeping.follows(request);
      });
    },

    whatIfKept(
      sources: readonly StoredCollection[],
      names: readonly string[],
      view: MayBeKept,
      asked: readonly AskedBefore[],
      cancel: SharedArrayBuffer,
    ): Promise<Reply<WhatIfAnswer['views'][number]>> {
      return reply(async () => {
        const { engine } = room;
        await room.ready(sources, names, view.pipeline, cancel);
        const { follows, followCosts } = await engine.keeping.follows(view);
        const { imagined: ifKept, ms: madeMs } = valueOf(await engine.keeping.imagine(view, cancelledBy(cancel)));
        const serves = await servedByWhatIf(engine, { ifKept }, asked, pause);
        return { rows: ifKept.rows.store.count, madeMs, follows, followCosts: [...followCosts], serves };
      });
    },
  };
}
