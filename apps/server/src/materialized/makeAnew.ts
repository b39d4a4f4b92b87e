import type { QueryAnswer } from '@zesty-sieve/contract';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { StoredView } from '../storage/rooms/materialized.ts';
import type { RowPut } from '../storage/stored.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';
import { definitionOf } from './freshness.ts';

const rowsAtOnce = 1_000;
/** A view may take what a question that somebody waits for may not. */
const widest = { timeMs: 3_600_000, documentsRead: Number.MAX_SAFE_INTEGER, memoryBytes: 1024 * 1024 * 1024 };

/** Of what is said of a run, what is true of its rows for as long as they are kept. */
const saidOf = (notes: QueryAnswer['notes']) =>
  notes.filter(({ code }) => code === 'unusable-values').map(({ line, message, count }) => ({ line, message, count }));

export interface RefreshProgress {
  readonly phase: 'computing' | 'storing';
  readonly rows: number;
}

export interface Making {
  readonly flag: CancelFlag;
  readonly onProgress: (progress: RefreshProgress) => void;
  /** Whether the rows are to be kept up with each change from then on. */
  readonly follows: boolean;
}

export interface Made {
  /** Whether the engine keeps up with what changes. */
  readonly isFollowed: boolean;
  /** Why it does not, where it was to. */
  readonly unfollowed: string | null;
}

/** Works the rows of a view out, and puts them in the place of those that it has, in one transaction with what they were made of. */
export async function makeAnew(hub: Hub, { name, collectionId }: StoredView, { flag, onProgress, follows }: Making): Promise<Made> {
  const { catalog } = hub;
  const { pipeline, parameters } = catalog.everyView.get(name)!;
  const sources = catalog.sourcesFor(pipeline);
  const text = definitionOf(catalog, name);
  // Read while nobody writes, so that the engine has all of it: what is written from then on makes the rows stale.
  const versions: Record<string, number> = {};
  for (const source of sources) versions[source.id] = await hub.commits.quietly(source.name, ({ version }) => Promise.resolve(version));
  onProgress({ phase: 'computing', rows: 0 });
  const began = performance.now();
  const asked = { pipeline, parameters: (parameters ?? {}) as never, pageSize: 0, guards: widest, ignoreViews: [name] };
  const sent = { name, names: catalog.sourceNames, asked, follows };
  const { answer, places, unfollowed } = unwrap(await hub.ask(flag, (engine) => engine.makeRows(sources, sent, flag.buffer)));
  const { runId, rowsReturned, notes, approximate } = JSON.parse(answer) as Pick<QueryAnswer, 'runId' | 'rowsReturned' | 'notes' | 'approximate'>; // prettier-ignore
  const ms = performance.now() - began;
  const made = { madeOf: { text, versions }, refreshMs: ms, notes: saidOf(notes), approximate };
  let offset = 0;
  let isOver = false;
  const nextPiece = async (): Promise<readonly RowPut[] | null> => {
    if (flag.isCancelled) throw new ServerProblem('/cancelled', '');
    if (isOver) return null;
    const { rows, done } = unwrap(await hub.engine.call((engine) => engine.rowsToKeep(runId, offset, rowsAtOnce)));
    isOver = done;
    const puts = rows.map((row, at) => ({ position: places?.[offset + at] ?? offset + at, ...row }));
    offset += rowsAtOnce;
    onProgress({ phase: 'storing', rows: Math.min(offset, rowsReturned) });
    return puts;
  };
  await hub.commits.commit({
    collection: name,
    kind: 'pipelines',
    store: async () => unwrap(await hub.storage.call((storage) => storage.storeView(collectionId, made, nextPiece), { isLong: true })),
    follow: (engine, _stored, collection) => engine.forget(collection),
  });
  await catalog.relistAll();
  return { isFollowed: places !== null, unfollowed };
}
