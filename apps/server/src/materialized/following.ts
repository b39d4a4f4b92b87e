import { Mutex } from 'async-mutex';
import { followsOf } from '@zesty-sieve/core';
import type { Hub } from '../hub.ts';
import { unwrap } from '../problem.ts';
import type { StoredView } from '../storage/rooms/materialized.ts';
import type { Made } from './makeAnew.ts';
import { definitionOf, isFresh, versionsOf } from './freshness.ts';

/** What following has cost. */
export interface FollowCost {
  readonly changes: number;
  /** Microseconds for each, on the mean. */
  readonly meanUs: number;
}

/**
 * Brings the rows of followed views up after each write, before it is acknowledged: the write has made them stale in its own commit, and
 * the rows and what they are made of then are stored in one transaction.
 */
export class Following {
  private readonly hub: Hub;
  private readonly isRefreshing: (name: string) => boolean;
  /** Those that the engine keeps up. */
  private readonly followed = new Set<string>();
  /** Those that have been taken up again since the engine began, or could not be. */
  private readonly resumed = new Set<string>();
  /** Why some cannot be, as they are. */
  private readonly reasons = new Map<string, string>();
  private readonly turns = new Map<string, Mutex>();
  private readonly spent = new Map<string, { changes: number; us: number }>();
  private readonly told = new Map<string, { readonly text: string; readonly follows: string }>();

  /** Told of a view that follows no longer. */
  private readonly onLost: () => void;

  constructor(hub: Hub, isRefreshing: (name: string) => boolean, onLost: () => void) {
    this.hub = hub;
    this.isRefreshing = isRefreshing;
    this.onLost = onLost;
  }

  /** `each change`, or why rows are worked out afresh. */
  followsOf(name: string): string {
    const { catalog } = this.hub;
    const view = catalog.everyView.get(name);
    if (view === undefined) return 'it is not there';
    const text = definitionOf(catalog, name);
    let known = this.told.get(name);
    if (known?.text !== text) this.told.set(name, (known = { text, follows: followsOf(view, catalog.plainViews, [...catalog.sourceNames]) })); // prettier-ignore
    return known.follows === 'each change' ? (this.reasons.get(name) ?? known.follows) : known.follows;
  }

  costOf(name: string): FollowCost | null {
    const spent = this.spent.get(name);
    return spent === undefined ? null : { changes: spent.changes, meanUs: Math.round(spent.us / spent.changes) };
  }

  /** Whether a view is to follow each change. */
  wants(view: StoredView): boolean {
    return view.refresh === 'on change' && this.followsOf(view.name) !== 'it is not there';
  }

  /** Waits for the rows of a view that are being brought up. */
  settled(name: string): Promise<void> {
    return this.turnOf(name).runExclusive(() => undefined);
  }

  /** The rows have been made anew. */
  async made(view: StoredView, { isFollowed, unfollowed }: Made): Promise<void> {
    this.reasons.delete(view.name);
    if (isFollowed) {
      this.followed.add(view.name);
      // What has changed while they were stored.
      if (!this.isFresh(view.name)) await this.bringUp(view.name);
    } else {
      this.followed.delete(view.name);
      if (unfollowed !== null && this.followsOf(view.name) === 'each change')
        this.reasons.set(view.name, `${unfollowed}: its rows are worked out afresh, in the background`);
    }
  }

  /** Called after each write, while its collection waits: brings up the views that read it, and those that read these. */
  async after(collection: string): Promise<void> {
    if (this.followed.size === 0) return;
    const { catalog } = this.hub;
    for (const { name, refresh } of catalog.keptViews) {
      if (refresh !== 'on change' || !this.followed.has(name) || this.isRefreshing(name)) continue;
      const reads = catalog.sourcesFor(catalog.everyView.get(name)?.pipeline ?? '').some((source) => source.name === collection);
      if (reads) await this.bringUp(name);
    }
  }

  /** Takes following up again, once for each start: the rows were fresh when the server or its engine began anew. */
  async resume({ name, refresh }: StoredView): Promise<void> {
    if (refresh !== 'on change' || this.followed.has(name) || this.resumed.has(name) || this.followsOf(name) !== 'each change') return;
    this.resumed.add(name);
    const { catalog, engine, log } = this.hub;
    await this.turnOf(name).runExclusive(async () => {
      const rows = catalog.find(name);
      if (rows === null || !this.isFresh(name)) return;
      const sources = [...catalog.sourcesFor(catalog.everyView.get(name)?.pipeline ?? ''), rows];
      const reason = unwrap(await engine.call((service) => service.resumeFollowing(sources, name), { isLong: true }));
      if (reason === null) this.followed.add(name);
      else log.info({ view: name, reason }, 'a view is not taken up again: it is made anew at the next change');
    });
    if (this.followed.has(name) && !this.isRefreshing(name)) await this.catchUp(name);
  }

  isFollowed(name: string): boolean {
    return this.followed.has(name);
  }

  /** Brings up a view that is not up to date, whatever the reason. */
  async catchUp(name: string): Promise<void> {
    if (!this.isFresh(name)) await this.bringUp(name);
  }

  private isFresh(name: string): boolean {
    const view = this.hub.catalog.keptViews.find((one) => one.name === name);
    return view !== undefined && isFresh(this.hub.catalog, view);
  }

  /** The engine knows of none any more. */
  forget(): void {
    this.followed.clear();
    this.resumed.clear();
  }

  private bringUp(name: string): Promise<void> {
    return this.turnOf(name).runExclusive(() => this.bringUpNow(name));
  }

  private async bringUpNow(name: string): Promise<void> {
    const { hub } = this;
    const { catalog, commits } = hub;
    const view = catalog.keptViews.find((one) => one.name === name);
    if (view === undefined || !this.followed.has(name)) return;
    const sources = catalog.sourcesFor(catalog.everyView.get(name)?.pipeline ?? '');
    // Whoever is amid a write of another source brings it up after that.
    if (sources.some((source) => commits.isUnderway(source.name))) return;
    const madeOf = { text: definitionOf(catalog, name), versions: versionsOf(catalog, name) };
    const began = performance.now();
    try {
      const puts = await hub.engine.call((engine) => engine.catchUp(name));
      if (typeof puts === 'string') return this.lose(name);
      const refreshedAt = new Date().toISOString();
      await commits.commit({
        collection: name,
        kind: 'pipelines',
        store: async () => {
          const isFresh = unwrap(
            await hub.storage.call((storage) => storage.followView(view.collectionId, { madeOf, at: refreshedAt }, puts)),
          );
          if (isFresh) catalog.takeKept(name, { madeOf, refreshedAt, failure: null });
        },
        follow: (engine, _stored, collection) => engine.applyRows(collection, puts, catalog.find(name)?.version ?? 0),
      });
      const spent = this.spent.get(name) ?? { changes: 0, us: 0 };
      this.spent.set(name, { changes: spent.changes + 1, us: spent.us + (performance.now() - began) * 1_000 });
    } catch (error) {
      hub.log.warn({ err: error, view: name }, 'a view could not follow: it is made anew');
      this.lose(name);
      await hub.engine.call((engine) => engine.endFollowing(name)).catch(() => undefined);
    }
  }

  /** It is stale since the write, and is made anew. */
  private lose(name: string): void {
    this.followed.delete(name);
    this.onLost();
  }

  private turnOf(name: string): Mutex {
    let turn = this.turns.get(name);
    if (turn === undefined) this.turns.set(name, (turn = new Mutex()));
    return turn;
  }
}
