import type { QueryAnswer } from '@zesty-sieve/contract';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { StoredView } from '../storage/rooms/materialized.ts';
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

/** Works the rows of a view out, and puts them in the place of those that it has, in one transaction with what they were made of. */
export async function makeAnew(
  hub: Hub,
  { name, collectionId }: StoredView,
  flag: CancelFlag,
  onProgress: (progress: RefreshProgress) => void,
): Promise<void> {
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
  const { answer } = await hub.ask(flag, (engine) => engine.query(sources, catalog.sourceNames, asked, flag.buffer));
  const { runId, rowsReturned, notes } = JSON.parse(unwrap(answer)) as Pick<QueryAnswer, 'runId' | 'rowsReturned' | 'notes'>;
  const ms = performance.now() - began;
  const made = { madeOf: { text, versions }, refreshMs: ms, notes: saidOf(notes) };
  let offset = 0;
  let isOver = false;
  const nextPiece = async (): Promise<readonly string[] | null> => {
    if (flag.isCancelled) throw new ServerProblem('/cancelled', '');
    if (isOver) return null;
    const piece = unwrap(
      await hub.engine.call((engine) => engine.rowsPiece(runId, offset, rowsAtOnce, { format: 'ndjson', guardsFormulas: false })),
    );
    isOver = piece.done;
    offset += rowsAtOnce;
    onProgress({ phase: 'storing', rows: Math.min(offset, rowsReturned) });
    return piece.text.split('\n').filter((line) => line !== '');
  };
  await hub.commits.commit({
    collection: name,
    kind: 'pipelines',
    store: async () => unwrap(await hub.storage.call((storage) => storage.storeView(collectionId, made, nextPiece), { isLong: true })),
    follow: (engine, _stored, collection) => engine.forget(collection),
  });
  await catalog.relistAll();
}
