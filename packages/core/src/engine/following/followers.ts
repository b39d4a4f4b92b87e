import { textOf } from '../../planner/views/canonical.ts';
import type { PlannedStage } from '../../planner/logical.ts';
import type { Json } from '../../values/json.ts';
import { wholeSumsOf } from '../../values/wholeSums.ts';
import type { Collection } from '../collection.ts';
import { existing } from '../existing.ts';
import { heldStill } from '../heldStill.ts';
import type { Pause } from '../pause.ts';
import { followed } from './followed.ts';
import { Follower, sourcesFollowed } from './follower.ts';
import type { RowPut } from './placedRows.ts';
import { CannotFollow } from './units.ts';

type StagesOf = (view: string) => readonly PlannedStage[] | undefined;

/** The materialized views whose rows are kept up with each change. */
export class Followers {
  private readonly known = new Map<string, { readonly follower: Follower; readonly text: string }>();
  private readonly collections: ReadonlyMap<string, Collection>;
  private readonly stagesOf: StagesOf;
  private readonly pause: Pause;

  constructor(collections: ReadonlyMap<string, Collection>, stagesOf: StagesOf, pause: Pause) {
    this.collections = collections;
    this.stagesOf = stagesOf;
    this.pause = pause;
  }

  /** What the documents are that a view's rows would be made of: another text once any has changed. */
  stateOf(view: string): string {
    const parts = followed(this.stagesOf(view) ?? []);
    if (typeof parts === 'string') return parts;
    return sourcesFollowed(parts).map((name) => `${name} ${this.collections.get(name)?.store.version}`).join(' '); // prettier-ignore
  }

  /**
   * Begins to follow, upon rows that have just been worked out.
   * Where `stateOf` tells something else afterwards than it did before they were, it follows others.
   * @returns the places of the rows, or why they cannot be followed
   */
  async begin(view: string, isCancelled: () => boolean): Promise<readonly number[] | string> {
    const begun = await this.begun(view, isCancelled);
    return typeof begun === 'string' ? begun : begun.places;
  }

  /**
   * Takes following up again over rows that were kept before, as after a restart: they are to be in memory.
   * @returns why not, where they are not those that the pipeline gives
   */
  async resume(view: string, isCancelled: () => boolean): Promise<string | undefined> {
    const kept = this.collections.get(view);
    if (kept === undefined) return 'its rows are not in memory';
    const begun = await this.begun(view, isCancelled);
    if (typeof begun === 'string') return begun;
    const isSame = await heldStill([kept], () => standsAs(begun, kept, this.pause));
    if (isSame && this.collections.get(view) === kept) return undefined;
    this.end(view);
    return 'its rows are others';
  }

  private async begun(
    view: string,
    isCancelled: () => boolean,
  ): Promise<Exclude<Awaited<ReturnType<typeof Follower.begin>>, string> | string> {
    this.end(view);
    const stages = this.stagesOf(view);
    const parts = stages === undefined ? 'it cannot be read' : followed(stages);
    if (stages === undefined || typeof parts === 'string') return String(parts);
    const there = sourcesFollowed(parts).map((name) => this.collections.get(name));
    if (there.includes(undefined)) return 'what it reads is not in memory';
    const begun = await heldStill(there.map(existing), () => Follower.begin(stages, this.find, this.pause, isCancelled));
    if (typeof begun === 'string') return begun;
    this.known.set(view, { follower: begun.follower, text: spelled(stages) });
    return begun;
  }

  /** What has to be stored so that a view's rows are those that its pipeline gives now. @throws CannotFollow */
  catchUp(view: string): readonly RowPut[] {
    const there = this.known.get(view);
    const stages = this.stagesOf(view);
    if (there === undefined) throw new CannotFollow('it is not followed');
    try {
      if (!there.follower.isAliveIn(this.collections)) throw new CannotFollow('what it reads has left memory');
      if (stages === undefined || spelled(stages) !== there.text) throw new CannotFollow('it says something else now');
      return there.follower.catchUp();
    } catch (error) {
      this.end(view);
      throw error;
    }
  }

  /** A collection has left memory: who reads it cannot follow any more, and holds on to nothing of it. */
  endReaders(collection: string): void {
    for (const [name, { follower }] of [...this.known]) if (follower.reads(collection)) this.end(name);
  }

  end(view: string): void {
    this.known.get(view)?.follower.end();
    this.known.delete(view);
  }

  /** Those of views that are there no longer go. */
  keepOnly(views: ReadonlySet<string>): void {
    for (const name of [...this.known.keys()]) if (!views.has(name)) this.end(name);
  }

  private readonly find = (name: string): Collection => existing(this.collections.get(name));
}

const spelled = (stages: readonly PlannedStage[]): string => stages.map(textOf).join('\n');

/** Rows are held against each other so many at a time. */
const rowsAtOnce = 2_000;

async function standsAs(
  { follower, rows }: { readonly follower: Follower; readonly rows: readonly Json[] },
  { store, keepsSums }: Collection,
  pause: Pause,
): Promise<boolean> {
  if (store.count !== rows.length) return false;
  const places: number[] = [];
  for (const [place, document] of store.documents.entries()) {
    if (document === undefined) continue;
    const row = rows[places.length]!;
    if (JSON.stringify(document) !== JSON.stringify(row)) return false;
    if (!keepsSums && wholeSumsOf(row) !== undefined) return false;
    places.push(place);
    if (places.length % rowsAtOnce === 0) await pause();
  }
  return follower.standAt(places);
}
