import { createHash } from 'node:crypto';
import { putPublication, type Publication, type PutPublication } from '@zesty-sieve/contract';
import { collectionsRead, viewsRead } from '@zesty-sieve/core/language';
import { definitionOf } from '../materialized/freshness.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { StoredPipeline } from '../storage/savedPipeline.ts';
import type { StoredKey, StoredPublication } from '../storage/rooms/publications.ts';
import { AnswerCache, type Served } from './answerCache.ts';
import { checkPublication, goesByTime } from './checkPublication.ts';
import { compute, type Asked } from './compute.ts';
import { Figures, keptDays } from './figures.ts';
import { keyFor, makeKey } from './keys.ts';
import { keyOf, ofPipeline, sourcesGoByTime } from './questions.ts';
import { Slots } from './slots.ts';

const usual = { maxRows: 1_000, atOnce: 4, cacheBytes: 64 * 1024 * 1024 };

/** A saved pipeline that is answered for others, as it stands now. */
export interface Open {
  readonly publication: StoredPublication;
  readonly saved: StoredPipeline | undefined;
  /** Tells this publication of this pipeline from what either was or will be. */
  readonly edition: string;
  /** What its rows are made of; undefined where they go by the time too, so that no state of that tells them. */
  readonly reads: { readonly sources: readonly string[]; readonly views: string } | undefined;
}

/** Publications: kept, answered, counted. */
export class Publisher {
  private readonly hub: Hub;
  private publications = new Map<string, StoredPublication>();
  private saved = new Map<string, StoredPipeline>();
  private keys: readonly StoredKey[] = [];
  private opened = new Map<string, Open>();
  private isStale = true;
  private readonly slots = new Map<string, Slots>();
  readonly cache = new AnswerCache(usual.cacheBytes);
  readonly figures: Figures;

  constructor(hub: Hub) {
    this.hub = hub;
    this.figures = new Figures((...told) => hub.storage.call((storage) => storage.keepFigures(...told)));
    hub.events.listen(({ kind }) => void (kind === 'pipelines' && (this.isStale = true)));
  }

  async begin(): Promise<void> {
    await this.reload();
    const since = new Date(Date.now() - keptDays * 86_400_000).toISOString();
    const [stored, all] = await this.hub.storage.call((storage) =>
      Promise.all([storage.publicationFigures(since), storage.publications()]),
    );
    this.figures.begin(
      stored,
      all.map(({ name, lastFailure }) => [name, lastFailure] as const),
    );
  }

  close(): Promise<void> {
    return this.figures.flush();
  }

  private async reload(): Promise<void> {
    this.isStale = false;
    const [publications, saved, keys] = await this.hub.storage.call((storage) =>
      Promise.all([storage.publications(), storage.pipelines(), storage.publicationKeys()]),
    );
    this.publications = new Map(publications.map(({ lastFailure: _, ...one }) => [one.name, one]));
    this.saved = new Map(saved.map((one) => [one.name, one]));
    this.keys = keys;
    this.opened = new Map([...this.publications.values()].map((one) => [one.name, this.open(one)]));
  }

  private open(publication: StoredPublication): Open {
    const saved = this.saved.get(publication.pipeline);
    const told = JSON.stringify([publication, saved?.pipeline, saved?.parameters, saved?.updatedAt]);
    const edition = createHash('sha256').update(told).digest('base64url').slice(0, 22);
    return { publication, saved, edition, reads: saved && this.readsOf(saved.pipeline) };
  }

  private readsOf(pipeline: string): Open['reads'] {
    const { catalog } = this.hub;
    const sources = collectionsRead(pipeline, catalog.plainViews);
    if (goesByTime(pipeline) || sources.length === 0) return undefined;
    const views = [...viewsRead(pipeline, catalog.plainViews)].sort().map((name) => [name, definitionOf(catalog, name)]);
    if (sourcesGoByTime(catalog, pipeline)) return undefined;
    return { sources, views: createHash('sha256').update(JSON.stringify(views)).digest('base64url') };
  }

  /** What is published under a name. @throws ServerProblem where nothing is */
  async find(name: string): Promise<Open> {
    if (this.isStale) await this.reload();
    const found = this.opened.get(name);
    if (found === undefined) throw new ServerProblem('/not-found', `Nothing is published as ${name}.`);
    return found;
  }

  async all(): Promise<readonly Open[]> {
    if (this.isStale) await this.reload();
    return [...this.opened.values()];
  }

  /** Those that a caller may know of: the open ones, and that of his key. */
  async knownTo(authorization: string | undefined): Promise<readonly Open[]> {
    const all = await this.all();
    const key = keyFor(authorization, this.keys);
    return all.filter(({ publication }) => publication.access === 'open' || publication.name === key?.publication);
  }

  /** @throws ServerProblem where a key is wanted, and another or none is given */
  admit({ publication }: Open, authorization: string | undefined): void {
    if (publication.access === 'open') return;
    const key = keyFor(authorization, this.keys);
    if (key?.publication !== publication.name)
      throw new ServerProblem(
        '/key',
        authorization === undefined ? 'A key is wanted: Authorization: Bearer …' : 'The key is none of those that open this.',
      );
    this.figures.keyUsed(key.id);
  }

  /** The versions of what a pipeline reads now, and what its views say; undefined while something of it is being written, or where it goes by the time. */
  stateOf({ reads }: Open): string | undefined {
    const { catalog, commits } = this.hub;
    if (reads === undefined) return undefined;
    let state = reads.views;
    for (const name of reads.sources) {
      const source = catalog.find(name);
      if (source === null || commits.isUnderway(name)) return undefined;
      state += ` ${source.id}:${source.version}`;
    }
    return state;
  }

  /** Answers, from what is kept where that is right. @throws ServerProblem */
  async answer(open: Open, asked: Asked, now: string | undefined): Promise<Served> {
    const { publication, saved, edition } = open;
    if (saved === undefined) throw new ServerProblem('/pipeline', `the pipeline ${publication.pipeline} is no longer saved.`);
    const key = keyOf(publication.name, edition, asked);
    const state = () => this.stateOf(open);
    const work = () =>
      this.slotsOf(publication.name).within(publication.guards.atOnce ?? usual.atOnce, () =>
        compute(this.hub, publication, saved, asked, state).catch(ofPipeline),
      );
    const { cache } = publication;
    if (cache === null) return this.cache.shared(`${key} uncached ${this.uncached++}`, work);
    if (!('until' in cache)) return this.cache.forTime(key, cache, work);
    return now === undefined ? this.cache.shared(`${key} amid ${this.uncached++}`, work) : this.cache.untilChange(key, now, work);
  }
  private uncached = 0;

  /** The tag of what is answered in a state, known without working it out (RFC 9110, 8.8.3). */
  tagFor({ publication, edition }: Open, asked: Asked, state: string): string {
    const text = `${keyOf(publication.name, edition, asked)}\n${state}`;
    return `"${createHash('sha256').update(text).digest('base64url').slice(0, 27)}"`;
  }

  private slotsOf(name: string): Slots {
    let slots = this.slots.get(name);
    if (slots === undefined) this.slots.set(name, (slots = new Slots()));
    return slots;
  }

  async put(name: string, body: PutPublication): Promise<Publication> {
    const { title, parameters, cache, guards, maxRows, access, origins, columns, pipeline } = putPublication.parse(body);
    await this.reload();
    const saved = this.saved.get(pipeline);
    if (saved === undefined) throw new ServerProblem('/not-found', `There is no saved pipeline ${pipeline}.`);
    const publication: StoredPublication = {
      name,
      pipeline,
      title: title ?? null,
      parameters: parameters ?? [],
      cache: cache ?? null,
      guards: { atOnce: usual.atOnce, ...guards },
      maxRows: maxRows ?? usual.maxRows,
      access: access ?? 'open',
      origins: origins ?? [],
      columns: columns ?? null,
      updatedAt: new Date().toISOString(),
    };
    checkPublication(publication, saved, this.hub.catalog.sourceNames);
    unwrap(await this.hub.storage.call((storage) => storage.savePublication(publication)));
    await this.changed();
    return this.told(await this.find(name));
  }

  async remove(name: string): Promise<void> {
    if (!unwrap(await this.hub.storage.call((storage) => storage.removePublication(name))))
      throw new ServerProblem('/not-found', `Nothing is published as ${name}.`);
    this.figures.forget(name);
    await this.changed();
  }

  private async changed(): Promise<void> {
    await this.reload();
    this.hub.events.tell({ kind: 'pipelines' });
  }

  told({ publication, saved }: Open): Publication {
    let problem: string | null = null;
    try {
      if (saved === undefined) throw new ServerProblem('/pipeline', `The pipeline ${publication.pipeline} is no longer saved.`);
      checkPublication(publication, saved, this.hub.catalog.sourceNames);
    } catch (error) {
      problem = (error as Error).message;
    }
    return { ...publication, problem, ...this.figures.of(publication.name) };
  }

  async keysOf(name: string) {
    await this.find(name);
    return this.keys
      .filter((one) => one.publication === name)
      .map(({ id, name: called, createdAt, lastUsedAt }) => ({
        id,
        name: called,
        createdAt,
        lastUsedAt: this.figures.lastUsed(id) ?? lastUsedAt,
      }));
  }

  async addKey(name: string, called: string) {
    await this.find(name);
    const { key, stored } = makeKey(name, called);
    unwrap(await this.hub.storage.call((storage) => storage.addPublicationKey(stored)));
    await this.reload();
    return { id: stored.id, name: called, key };
  }

  async removeKey(name: string, id: string): Promise<void> {
    await this.find(name);
    if (!unwrap(await this.hub.storage.call((storage) => storage.removePublicationKey(name, id))))
      throw new ServerProblem('/not-found', 'There is no such key.');
    await this.reload();
  }

  /** The publications of a saved pipeline. */
  async of(pipeline: string): Promise<string[]> {
    return (await this.all()).filter(({ publication }) => publication.pipeline === pipeline).map(({ publication }) => publication.name);
  }
}
