import type { MaterializedInfo, RefreshPolicy, SavedPipeline } from '@zesty-sieve/contract';
import { namedSources } from '@zesty-sieve/core/language';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { StoredView } from '../storage/rooms/materialized.ts';
import type { StoredCollection } from '../storage/stored.ts';
import type { StoredPipeline } from '../storage/savedPipeline.ts';
import { CancelFlag } from '../threads/cancelFlag.ts';
import { definitionOf, isFresh } from './freshness.ts';
import { inTime } from './inTime.ts';
import { isPassing, passesMs } from './passing.ts';
import { makeAnew } from './makeAnew.ts';
import { listed, type Refreshing, type Told } from './listed.ts';
import { Following } from './following.ts';
import { ViewUses } from './viewUse.ts';

/** Changes come in clusters; so long is waited for the next. */
const settlesMs = 60;

/** The saved pipelines whose rows are kept: told, brought up to date when that is due, and told to the engine. */
export class Materialized {
  private readonly hub: Hub;
  private readonly running = new Map<string, Refreshing>();
  /** What each failed for: it is tried again once that has changed. */
  private readonly failedAt = new Map<string, string>();
  private readonly pausedUntil = new Map<string, number>();
  readonly uses: ViewUses;
  readonly following: Following;
  private readonly timers = new Map<string, NodeJS.Timeout>();
  private told = '';
  private isClosed = false;
  private hasBegun = false;

  constructor(hub: Hub) {
    this.hub = hub;
    this.following = new Following(
      hub,
      (name) => this.running.has(name),
      () => this.lookSoon(),
    );
    this.uses = new ViewUses(async (used) => {
      await hub.storage.call((storage) => storage.addUse(used));
      await hub.catalog.relistAll();
    });
  }

  begin(): void {
    this.hasBegun = true;
    this.hub.events.listen(({ kind }) => void (kind === 'runs' || this.lookSoon()));
    this.uses.begin();
    this.lookSoon();
  }

  async close(): Promise<void> {
    this.isClosed = true;
    for (const timer of this.timers.values()) clearTimeout(timer);
    for (const { flag } of this.running.values()) flag.cancel();
    await Promise.allSettled([...this.running.values()].map(({ done }) => done));
    await this.uses.close();
  }

  /**
   * Tells the engine which views are fresh, where that has changed. Called whenever the catalog has been read, so before the engine
   * learns of the documents of a write: a view never answers for what it does not have.
   */
  tell(): void {
    const views = this.views();
    // Whatever came of a write, and whether or not it was told: what the file says is what is gone by.
    if (views.some((view) => !view.isFresh)) this.lookSoon();
    const told = JSON.stringify(views);
    if (told === this.told) return;
    this.told = told;
    this.hub.engine.call((engine) => engine.setKeptViews(views)).catch(() => (this.told = ''));
  }

  /** The views as an engine is to know them, to whom nothing has been told. */
  toldAnew(): ReturnType<Materialized['views']> {
    const views = this.views();
    this.told = JSON.stringify(views);
    this.following.forget();
    this.lookSoon();
    return views;
  }

  private views() {
    const { catalog } = this.hub;
    return catalog.keptViews.flatMap((view) => {
      const stored = catalog.find(view.name);
      const text = catalog.everyView.get(view.name);
      if (stored === null || text === undefined) return [];
      return [{ name: view.name, view: text, notes: view.notes, approximate: view.approximate, isFresh: isFresh(catalog, view), version: stored.version, refreshedAt: view.refreshedAt, stored }]; // prettier-ignore
    });
  }

  infoOf(name: string, saved: readonly StoredPipeline[]): MaterializedInfo | null {
    const { catalog } = this.hub;
    const [view, rows] = [catalog.keptViews.find((one) => one.name === name), catalog.find(name)];
    if (view === undefined || rows === null) return null;
    const { refresh, refreshedAt, refreshMs, failure } = view;
    const state = this.running.has(name) ? 'refreshing' : isFresh(catalog, view) ? 'fresh' : failure === null ? 'stale' : 'failed';
    return {
      refresh,
      state,
      rows: rows.count,
      bytes: rows.bytes,
      refreshedAt,
      refreshMs,
      follows: this.following.followsOf(name),
      following: this.following.costOf(name),
      readers: saved.filter((one) => one.name !== name && namedSources(one.pipeline).includes(name)).map((one) => one.name),
      ...this.uses.with(view),
      ...(failure !== null && state !== 'fresh' && { failure }),
    };
  }

  withInfo(one: StoredPipeline, saved: readonly StoredPipeline[]): SavedPipeline {
    return { ...one, materialized: this.infoOf(one.name, saved) };
  }

  /** Begins to keep the rows of a view, in the way that is said, or no longer. */
  async keep(name: string, refresh: RefreshPolicy | null): Promise<void> {
    if (refresh === null) return this.drop(name);
    unwrap(await this.hub.storage.call((storage) => storage.keepView(name, refresh)));
    this.failedAt.delete(name);
    await this.hub.catalog.relistAll();
    const view = this.hub.catalog.keptViews.find((one) => one.name === name);
    if (view !== undefined && (view.madeOf === null || refresh !== 'on demand') && !isFresh(this.hub.catalog, view))
      this.refresh(name).catch(() => undefined);
  }

  /** Lets go of the rows of a view. */
  async drop(name: string): Promise<void> {
    const rows = this.hub.catalog.find(name);
    if (rows?.isView !== true) return;
    this.running.get(name)?.flag.cancel();
    await this.running.get(name)?.done.catch(() => undefined);
    unwrap(await this.hub.storage.call((storage) => storage.dropView(name)));
    await this.hub.catalog.relistAll();
    await this.hub.engine.call((engine) => engine.forget(rows));
  }

  /** Makes the rows of a view anew; whoever asks for it while it is under way waits for that. */
  refresh(name: string, onProgress?: Told): Promise<void> {
    let there = this.running.get(name);
    if (there === undefined) {
      const flag = new CancelFlag();
      const listeners = new Set<Told>();
      const done = listed(this.hub, name, flag, listeners, (told) => this.run(name, flag, told)).finally(() => {
        this.running.delete(name);
        this.tell();
        this.hub.events.tell({ kind: 'pipelines' });
      });
      there = { done, flag, listeners };
      this.running.set(name, there);
      this.hub.events.tell({ kind: 'pipelines' });
    }
    if (onProgress !== undefined) there.listeners.add(onProgress);
    return there.done;
  }

  /** Ends the making of a view's rows. @returns whether there was one under way */
  cancel(name: string): boolean {
    const there = this.running.get(name);
    there?.flag.cancel();
    return there !== undefined;
  }

  /** Waits for those that have no rows yet. @throws ServerProblem where they cannot be made in time */
  async ready(sources: readonly StoredCollection[], timeMs: number = this.hub.guards.timeMs): Promise<void> {
    for (const { name, isView } of sources) {
      const view = isView ? this.hub.catalog.keptViews.find((one) => one.name === name) : undefined;
      if (view?.madeOf === null) await inTime(this.refresh(name), name, timeMs);
    }
  }

  private lookSoon(): void {
    if (this.isClosed || !this.hasBegun || this.timers.has('look')) return;
    const timer = setTimeout(() => {
      this.timers.delete('look');
      this.look();
    }, settlesMs);
    this.timers.set('look', timer);
  }

  /** Makes anew what is due. */
  private look(): void {
    const { catalog } = this.hub;
    if (this.isClosed) return;
    for (const view of catalog.keptViews) {
      const { name, refresh } = view;
      if (refresh === 'on demand' || this.running.has(name)) continue;
      if (isFresh(catalog, view)) this.following.resume(view).catch(() => undefined);
      else if (refresh === 'on change' && this.following.isFollowed(name)) void this.following.catchUp(name);
      else {
        const due = refresh === 'on change' ? (view.refreshMs ?? 0) : refresh.everySeconds * 1_000;
        const dueAt = view.refreshedAt === null ? 0 : Date.parse(view.refreshedAt) + due;
        const waits = Math.max(dueAt, this.pausedUntil.get(name) ?? 0) - Date.now();
        if (waits > 0) this.lookAgain(name, waits);
        else if (this.failedAt.get(name) !== this.standingOf(view)) this.refresh(name).catch(() => undefined);
      }
    }
  }

  /** What takes long to make is not made without a pause, and a view that is made every so often waits for its time. */
  private lookAgain(name: string, afterMs: number): void {
    clearTimeout(this.timers.get(name));
    this.timers.set(name, setTimeout(() => void (this.timers.delete(name), this.look()), Math.min(afterMs, 2 ** 31 - 1)).unref());
  }

  /** What a view would be made of now: where that failed, it would fail again. */
  private standingOf({ name }: StoredView, { catalog } = this.hub): string {
    return `${definitionOf(catalog, name)} ${catalog.sourcesFor(catalog.everyView.get(name)?.pipeline ?? '').map(({ id, version }) => `${id} ${version}`).join(' ')}`; // prettier-ignore
  }

  private async run(name: string, flag: CancelFlag, onProgress: Told): Promise<void> {
    const { hub } = this;
    const view = hub.catalog.keptViews.find((one) => one.name === name);
    if (view === undefined) throw new ServerProblem('/not-found', `The rows of ${name} are not kept.`);
    const standing = this.standingOf(view);
    try {
      // What it reads is brought up first, so that it is worth being made of.
      for (const below of hub.catalog.sourcesFor(hub.catalog.everyView.get(name)?.pipeline ?? '')) {
        const kept = hub.catalog.keptViews.find((one) => one.name === below.name);
        if (kept !== undefined && !isFresh(hub.catalog, kept)) await this.refresh(kept.name);
      }
      await this.following.settled(name);
      const made = await makeAnew(hub, view, { flag, onProgress, follows: this.following.wants(view) });
      await this.following.made(view, made);
      this.failedAt.delete(name);
    } catch (error) {
      // Whoever ends it does not want it before something changes.
      if (flag.isCancelled) this.failedAt.set(name, standing);
      if (flag.isCancelled) throw new ServerProblem('/cancelled', `The making of ${name} was cancelled. It has the rows that it had.`);
      if (isPassing(error)) {
        this.pausedUntil.set(name, Date.now() + passesMs);
        this.lookSoon();
        throw error;
      }
      this.failedAt.set(name, standing);
      hub.log.warn({ err: error, view: name }, 'a materialized view could not be made anew');
      const message = (error as ServerProblem).problem.detail ?? (error as ServerProblem).message;
      await hub.storage.call((storage) => storage.failView(view.collectionId, message)).catch(() => undefined);
      await hub.catalog.relistAll();
      throw error;
    }
  }
}
