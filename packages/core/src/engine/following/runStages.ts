import type { Context } from '../../expressions/context.ts';
import { Run } from '../../execution/run.ts';
import { plan } from '../../planner/plan.ts';
import type { PlannedStage } from '../../planner/logical.ts';
import type { Json } from '../../values/json.ts';
import { Collection } from '../collection.ts';
import { existing } from '../existing.ts';
import type { Pause } from '../pause.ts';
import { sliceMs } from '../requests.ts';

/** What a view's making may take, nobody having asked for it by the minute. */
const widest = { timeMs: 3_600_000, documentsRead: Number.MAX_SAFE_INTEGER, memoryBytes: 1024 * 1024 * 1024 };
/** Nothing that is followed looks at the time. */
const noTime = '1970-01-01T00:00:00.000Z';

export type Find = (collection: string) => Collection;

/** Rows, and the position of the document that each comes from. */
export interface Ran {
  readonly rows: readonly Json[];
  readonly positions: readonly number[];
  /** Which values could not be used, by what could not use them and their type: something is to be said of those. */
  readonly misfits: readonly string[];
}

function begun(stages: readonly PlannedStage[], find: Find, isCancelled: () => boolean): Run {
  const planned = plan(stages, (name) => ({ kind: 'collection', source: find(name).planned() }), { parameters: {}, now: noTime });
  return new Run(planned.physical, {
    parameters: {},
    now: noTime,
    guards: widest,
    isCancelled,
    keepsSums: true,
    storeOf: (name) => find(name).store,
    indexOf: (name, index) => existing(find(name).index(index)),
  });
}

export const misfitsOf = ({ misfits }: Context): string[] => misfits.list().map(({ site, kind }) => `${site.id} ${kind}`);

const ran = (run: Run): Ran => ({
  rows: run.rows,
  positions: run.positions,
  misfits: run.context.misfits.list().map(({ site, kind }) => `${site.id} ${kind}`),
});

/** Runs stages to their end at once: for a few documents. */
export function runNow(stages: readonly PlannedStage[], find: Find): Ran {
  const run = begun(stages, find, () => false);
  while (!run.work(Infinity));
  return ran(run);
}

/** The same with pauses, for whole collections. @throws RunCancelled */
export async function runPausing(stages: readonly PlannedStage[], find: Find, pause: Pause, isCancelled: () => boolean): Promise<Ran> {
  const run = begun(stages, find, isCancelled);
  try {
    while (!run.work(sliceMs)) await pause();
  } catch (error) {
    run.close();
    throw error;
  }
  return ran(run);
}

/** A collection of a few documents or rows that no other knows. */
export function someOf(name: string, documents: readonly Json[]): Collection {
  const collection = new Collection(name, '@["#"]');
  // As the rows of a view have none: it is not looked up by identity.
  collection.storedVersion = 0;
  documents.forEach((document, at) => collection.store.put(at, document as never));
  return collection;
}
