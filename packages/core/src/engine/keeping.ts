import { LRUCache } from 'lru-cache';
import type { RowList } from '../execution/rowList.ts';
import { textOf } from '../planner/views/canonical.ts';
import type { JsonObject } from '../values/json.ts';
import { wholeSumsOf } from '../values/wholeSums.ts';
import { Collection } from './collection.ts';
import { existing } from './existing.ts';
import { followCosts, type FollowCost } from './following/followCosts.ts';
import { followsText } from './following/follows.ts';
import { imagined as name, type ImaginedView } from './ifKept.ts';
import type { Pause } from './pause.ts';
import type { Preparer } from './preparer.ts';
import { answered, refused, type Answer, type PlanRequest, type QueryRequest } from './requests.ts';
import type { Result } from './result.ts';

/** A pipeline whose rows may be kept. */
type ToKeep = Pick<PlanRequest, 'pipeline' | 'parameters' | 'surface'>;

interface Running {
  readonly work: (request: QueryRequest, isCancelled: () => boolean) => Promise<Answer<Result>>;
  readonly rowsOf: (runId: string) => RowList | undefined;
}

/** Whether a pipeline's rows, were they kept, could follow each change, and what that would take. */
export interface FollowsTold {
  /** `each change`, or why not. */
  readonly follows: string;
  /** For one changed document of each collection; empty where they do not follow. */
  readonly followCosts: readonly FollowCost[];
}

/** Rows that were worked out, and the milliseconds that it took. */
export interface Imagined {
  readonly imagined: ImaginedView;
  readonly ms: number;
}

/** Pipelines whose costs are remembered. */
const remembered = 100;

/** What keeping the rows of a pipeline would take, and be of use for. */
export class Keeping {
  private readonly preparer: Preparer;
  private readonly pause: Pause;
  private readonly running: Running;
  private readonly costs = new LRUCache<string, readonly FollowCost[]>({ max: remembered });

  constructor(preparer: Preparer, pause: Pause, running: Running) {
    this.preparer = preparer;
    this.pause = pause;
    this.running = running;
  }

  /** Its collections are to be in memory. */
  async follows(request: ToKeep): Promise<FollowsTold> {
    const kept = this.keptOf(request);
    const follows = followsText(kept);
    const prepared = this.preparer.prepare(request);
    if (kept === undefined || follows !== 'each change' || !prepared.ok) return { follows, followCosts: [] };
    const { collections } = this.preparer;
    const find = (name: string) => existing(collections.get(name));
    // Measured anew where there are twice as many documents, or half.
    const sizes = this.preparer.sourcesOf(prepared.value).map((name) => `${name} ${Math.clz32(collections.get(name)?.store.count ?? 0)}`);
    const key = [...sizes, ...kept.stages.map(textOf)].join('\n');
    let costs = this.costs.get(key);
    if (costs === undefined) {
      costs = await this.preparer.reading(prepared.value, () => followCosts(kept.stages, find, this.pause));
      this.costs.set(key, costs);
    }
    return { follows, followCosts: costs };
  }

  /** Works the rows of a pipeline out, as if they were kept: what is planned with them tells what they would be of use for. */
  async imagine(request: ToKeep & Pick<QueryRequest, 'guards'>, isCancelled: () => boolean): Promise<Answer<Imagined>> {
    const kept = this.keptOf(request);
    const done = await this.running.work({ ...request, pageSize: 0 }, isCancelled);
    if (!done.ok) return done;
    const found = this.running.rowsOf(done.value.runId);
    if (kept === undefined || found === undefined)
      return refused({ kind: 'gone', message: 'The rows of these lines are no longer there. Try it again.' });
    const rows = new Collection(name, '@["#"]');
    // As rows of a view have none: they are not looked up by identity.
    rows.storedVersion = 0;
    let haveSums = true;
    found.slice(0, found.length).forEach((row, at) => {
      rows.store.put(at, row as JsonObject);
      haveSums &&= wholeSumsOf(row) !== undefined;
    });
    rows.keepsSums = haveSums;
    return answered({ imagined: { stages: kept.stages, rows }, ms: done.value.cost.timeMs });
  }

  private keptOf({ pipeline, parameters, surface }: ToKeep) {
    return this.preparer.asKept({ pipeline, parameters, ...(surface && { surface }) });
  }
}
