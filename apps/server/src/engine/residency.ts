import { Collection, IndexProblem, readDefinition, UniqueViolation, type Engine, type IndexRequest } from '@zesty-sieve/core';
import type { StoredCollection } from '../storage/stored.ts';
import { ServerProblem } from '../problem.ts';
import { DocumentReader, type Databases } from './documentReader.ts';
import { heldBy } from './heldBytes.ts';

/** Parsed documents take about so many times the bytes of their text: a guess before they are there. */
const growth = 4;

export interface LoadProgress {
  readonly collection: string;
  readonly documents: number;
  readonly of: number;
}

/** A collection may be removed while it is being read. */
function goneOr(name: string): (error: Error) => never {
  return (error) => {
    throw error.message.includes('no such table') ? new ServerProblem('/not-found', `There is no collection ${name}.`) : error;
  };
}

/** A collection on its way into memory. */
interface Load {
  done: Promise<void>;
  /** What was committed meanwhile, in its order. */
  readonly missed: ((collection: Collection) => Promise<void> | void)[];
  /** Whether the collection was forgotten meanwhile, so that what has been read is of no use. */
  isStale: boolean;
}

/** An index that is not as it was asked for, and why. */
export interface IndexTrouble {
  readonly index: string;
  readonly reason: string;
}

/** A collection as the file knows it: names can be given to another. */
type Known = Pick<StoredCollection, 'id' | 'name'>;

/**
 * Keeps the collections that are asked about in memory, within a budget; those not used longest leave first. They are
 * known by their number, since a name may have been given to another meanwhile.
 */
export class Residency {
  private readonly loading = new Map<number, Load>();
  /** In the order of last use. */
  private readonly used = new Map<number, Collection>();
  private readonly engine: Engine;
  readonly reader: DocumentReader;
  private budgetBytes: number;
  private readonly pause: () => Promise<void>;
  readonly progress = new Map<string, LoadProgress>();
  /** Indexes that were asked for and cannot be used as they were, by collection. */
  private readonly troubles = new Map<number, readonly IndexTrouble[]>();

  constructor(engine: Engine, databases: Databases, budgetBytes: number, pause: () => Promise<void>) {
    this.engine = engine;
    this.reader = new DocumentReader(databases);
    this.budgetBytes = budgetBytes;
    this.pause = pause;
  }

  /** How much collections may take from now on; those not used longest leave where that is less. */
  setBudget(bytes: number): void {
    this.budgetBytes = bytes;
    this.makeRoom(0);
  }

  /** Sees to it that a collection is in memory, with its indexes. */
  async ensure(stored: StoredCollection): Promise<Collection> {
    const { id, name } = stored;
    for (;;) {
      const resident = this.used.get(id);
      // What has another's name by now is of no use: whoever asks has asked before that.
      // Rows of a view that are older than those that are meant are read anew.
      const isOlder = stored.isView && (resident?.storedVersion ?? 0) < stored.version;
      if (resident !== undefined && !isOlder && this.engine.collections.get(name) === resident) {
        this.touch(id, resident);
        return resident;
      }
      if (resident !== undefined) this.forget({ id, name: resident.name });
      const there = this.loading.get(id);
      if (there !== undefined) {
        await there.done;
        continue;
      }
      const load: Load = { missed: [], isStale: false, done: Promise.resolve() };
      this.loading.set(id, load);
      load.done = this.load(stored, load)
        .catch(goneOr(name))
        .finally(() => {
          this.progress.delete(name);
          if (this.loading.get(id) === load) this.loading.delete(id);
        });
      await load.done;
    }
  }

  /** Sees to it that several collections are in memory at once. */
  async ensureAll(sources: readonly StoredCollection[]): Promise<void> {
    for (const stored of sources) await this.ensure(stored);
    const gone = sources.find(({ id }) => !this.used.has(id));
    if (gone !== undefined) {
      throw new ServerProblem(
        '/collection-too-large',
        `${sources.map(({ name }) => name).join(' and ')} do not fit in memory together. Start the server with a larger ZESTY_SIEVE_MEMORY_MB.`,
      );
    }
  }

  /** Whether collections can be in memory without others having to leave. */
  fits(sources: readonly StoredCollection[]): boolean {
    const needed = sources.filter(({ id }) => !this.used.has(id)).reduce((sum, { bytes }) => sum + bytes * growth, 0);
    return this.heldBytes + needed <= this.budgetBytes;
  }

  resident({ id }: Known): Collection | undefined {
    return this.used.get(id);
  }

  troublesOf(id: number): readonly IndexTrouble[] {
    return this.troubles.get(id) ?? [];
  }

  /**
   * Lets a collection in memory follow what has been committed: now, or, where it is being loaded, when it has been; what is
   * read of it meanwhile may be from before. One that is neither needs nothing: it is read when it is asked about. Where it
   * cannot follow, it leaves, since it is no longer what is stored.
   */
  async follow(known: Known, work: (collection: Collection) => Promise<void> | void): Promise<void> {
    const load = this.loading.get(known.id);
    if (load !== undefined) {
      load.missed.push(work);
      return;
    }
    const collection = this.used.get(known.id);
    if (collection === undefined) return;
    try {
      await work(collection);
    } catch (error) {
      this.forget(known);
      throw error;
    }
  }

  forget({ id, name }: Known): void {
    const load = this.loading.get(id);
    if (load !== undefined) load.isStale = true;
    this.loading.delete(id);
    this.troubles.delete(id);
    const resident = this.used.get(id);
    this.used.delete(id);
    for (const named of new Set([name, resident?.name ?? name]))
      if (resident === undefined || this.engine.collections.get(named) === resident) this.engine.remove(named);
  }

  /** Bytes that collections in memory take, as they are now. */
  get heldBytes(): number {
    return [...this.used.values()].reduce((sum, collection) => sum + heldBy(collection), 0);
  }

  private touch(id: number, collection: Collection): void {
    this.used.delete(id);
    this.used.set(id, collection);
  }

  private async load(stored: StoredCollection, load: Load): Promise<void> {
    const needed = stored.bytes * growth;
    if (needed > this.budgetBytes) {
      const mb = (bytes: number) => Math.ceil(bytes / 1024 / 1024).toLocaleString('en');
      throw new ServerProblem(
        '/collection-too-large',
        `${stored.name} would need about ${mb(needed)} MB in memory, and ${mb(this.budgetBytes)} MB are allowed. Start the server with a larger ZESTY_SIEVE_MEMORY_MB, or keep fewer documents in the collection.`,
      );
    }
    this.makeRoom(needed);
    // Nobody else sees it before it is whole.
    const collection = new Collection(stored.name, stored.identity);
    if (stored.isView) collection.storedVersion = stored.version;
    const told = (documents: number) => void this.progress.set(stored.name, { collection: stored.name, documents, of: stored.count });
    await this.reader.read(stored, { from: 0, to: Infinity }, (position, document) => collection.store.put(position, document), told);
    if (stored.isView) {
      const { documents, count } = collection.store;
      collection.keepsSums = count === (await this.reader.readSums(stored, (position) => documents[position]));
    }
    const troubles: IndexTrouble[] = [];
    for (const { name, definition, recall } of stored.indexes) {
      const reason = await this.buildIndex(collection, JSON.parse(definition) as IndexRequest);
      if (reason !== undefined) troubles.push({ index: name, reason });
      const index = collection.index(name);
      if (index !== undefined && recall !== null) index.recall = recall;
    }
    // What comes while it is being followed is followed too.
    for (let next = load.missed.shift(); next !== undefined && !load.isStale; next = load.missed.shift()) await next(collection);
    if (load.isStale) return;
    this.engine.adopt(collection);
    this.troubles.set(stored.id, troubles);
    this.used.set(stored.id, collection);
    // What takes minutes to build is right from the beginning, and goes on beside the questions.
    void collection.goOn(this.pause, () => this.used.get(stored.id) === collection);
    // The guess may have been too low: then it is others that leave.
    this.makeRoom(0, stored.id);
  }

  /**
   * Builds an index that was asked for once. One that cannot be as it was asked for keeps nobody from the documents.
   * @returns why it is not as it was asked for
   */
  private async buildIndex(collection: Collection, request: IndexRequest): Promise<string | undefined> {
    try {
      await collection.beginIndex(readDefinition(request), this.pause);
      return undefined;
    } catch (error) {
      if (error instanceof IndexProblem) return `It is not used. ${error.message}`;
      if (!(error instanceof UniqueViolation)) throw error;
      await collection.buildIndex(readDefinition({ ...request, unique: false }), this.pause);
      const values = error.values.map((value) => JSON.stringify(value) ?? 'nothing').join(', ');
      return `Several documents have ${values}, so that it is not unique. It is used as one that is not; make the documents different, and build it anew.`;
    }
  }

  private makeRoom(needed: number, spared?: number): void {
    let held = this.heldBytes;
    for (const [id, collection] of this.used) {
      if (held + needed <= this.budgetBytes) return;
      if (id === spared) continue;
      held -= heldBy(collection);
      this.forget({ id, name: collection.name });
    }
  }
}
