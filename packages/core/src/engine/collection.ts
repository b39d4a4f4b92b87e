import { Gate } from '../execution/gate.ts';
import { readDefinition, type IndexDefinition } from '../indexes/definition.ts';
import type { BuildProgress, BuiltIndex, IndexCheck } from '../indexes/kind.ts';
import { builtAtOnce, kindOf } from '../indexes/kinds.ts';
import { buildAtOnce, OrderedIndex } from '../indexes/ordered/orderedIndex.ts';
import { statisticsOf, takeSample, type Sample } from '../planner/statistics.ts';
import type { PlannedSource } from '../planner/source.ts';
import type { FlatField } from '../shape/fieldTree.ts';
import type { Pause } from './pause.ts';
import { ChangeFeed } from './changeFeed.ts';
import { ShapeKeeper } from './shapeKeeper.ts';
import { ResidentStore, type DocumentChange } from '../storage/residentStore.ts';
import type { JsonObject } from '../values/json.ts';

/** A document put at a position, or taken from it. */
export interface Put {
  readonly position: number;
  readonly document: JsonObject | undefined;
}

export const identityIndexName = 'identity';
/** A sample stands until so large a share of the documents has changed. */
const sampleDrift = 0.05;
/** Beyond this share of changed documents an index is built anew rather than changed entry by entry. */
const rebuildShare = 0.2;

/** A collection in memory: its documents, its indexes, its shape. */
export class Collection {
  readonly name: string;
  readonly identityPath: string;
  readonly store = new ResidentStore();
  readonly gate = new Gate();
  /** Whoever keeps something that is made of the documents follows here. */
  readonly changes = new ChangeFeed();
  private readonly indexes = new Map<string, BuiltIndex>();
  /** Of a materialized view: the version of the rows that it holds. */
  storedVersion: number | undefined;
  /** Of one that ends with a group: whether its rows have with them what their sums were before they were rounded. */
  keepsSums = false;
  /** Goes up with every index that comes or goes. */
  indexVersion = 0;
  private identity: OrderedIndex | undefined;
  private sampled: { sample: Sample; version: number } | undefined;
  private readonly shapes = new ShapeKeeper(this.store);

  constructor(name: string, identityPath: string) {
    this.name = name;
    this.identityPath = identityPath;
    this.changes.follow((changes) => {
      for (const { position } of changes) this.shapes.touch(position);
    });
  }

  get indexList(): readonly BuiltIndex[] {
    // Rows that were made have no identity.
    return [...(this.storedVersion === undefined ? [this.identityIndex] : []), ...this.indexes.values()];
  }

  /** Those whose entries stand in the order of their keys. */
  get orderedIndexes(): readonly OrderedIndex[] {
    return this.indexList.filter((index) => index instanceof OrderedIndex);
  }

  /** The index on the identity is always there; it is built when it is first looked at. */
  get identityIndex(): OrderedIndex {
    this.identity ??= buildAtOnce(identityDefinition(this.identityPath), this.store);
    return this.identity;
  }

  /** A document's identity as text, if it has one, and the position of the one that is here under it: 7 and "7" are one. */
  placeOf(document: JsonObject): { identity: string | undefined; position: number | undefined } {
    const value = this.identityIndex.tuplesOf(document).at(0)?.[0];
    if (typeof value !== 'string' && typeof value !== 'number') return { identity: undefined, position: undefined };
    const identity = String(value);
    const asNumber = Number(identity);
    const forms = String(asNumber) === identity ? [identity, asNumber] : [identity];
    const [position] = forms.flatMap((form) => this.identityIndex.positionsOf({ fixed: [form] }));
    return { identity, position };
  }

  index(name: string): BuiltIndex | undefined {
    return name === identityIndexName ? this.identityIndex : this.indexes.get(name);
  }

  /**
   * Builds an index, pausing between steps.
   * @throws UniqueViolation
   */
  async buildIndex(
    definition: IndexDefinition,
    pause: Pause,
    isCancelled: () => boolean = () => false,
    onProgress: (progress: BuildProgress) => void = () => undefined,
  ): Promise<BuiltIndex | undefined> {
    return this.gate.read(async () => {
      const steps = kindOf(definition).build(definition, this.store);
      for (;;) {
        const step = steps.next();
        if (step.done) {
          this.replace(definition.name, step.value);
          this.indexVersion++;
          return step.value;
        }
        onProgress(step.value);
        await pause();
        if (isCancelled()) return undefined;
      }
    });
  }

  /** Takes an index up that is right at once, where there is such a beginning; builds it otherwise. @throws UniqueViolation */
  async beginIndex(definition: IndexDefinition, pause: Pause): Promise<void> {
    const { begin } = kindOf(definition);
    if (begin === undefined) return void (await this.buildIndex(definition, pause));
    await this.gate.read(() => Promise.resolve(this.indexes.set(definition.name, begin(definition, this.store))));
    this.indexVersion++;
  }

  /** Does what is left of indexes that were only begun, pausing between steps, as long as it is wanted. */
  async goOn(pause: Pause, isWanted: () => boolean): Promise<void> {
    while (isWanted() && this.indexList.some((index) => index.goOn?.() === true)) await pause();
  }

  /**
   * Holds every index against the documents, pausing between steps.
   * @returns what was found of each; undefined where it was cancelled
   */
  checkIndexes(
    pause: Pause,
    isCancelled: () => boolean = () => false,
    onProgress: (index: string, share: number) => void = () => undefined,
  ): Promise<IndexCheck[] | undefined> {
    return this.gate.read(async () => {
      const checks: IndexCheck[] = [];
      for (const index of this.indexList) {
        const steps = kindOf(index.definition).check(index, this.store);
        let step = steps.next();
        for (; !step.done; step = steps.next()) {
          onProgress(index.definition.name, step.value);
          await pause();
          if (isCancelled()) return undefined;
        }
        checks.push(step.value);
      }
      return checks;
    });
  }

  /** Builds an index anew from the documents. */
  async rebuild(name: string, pause: Pause): Promise<void> {
    if (name === identityIndexName) {
      await this.gate.write(() => (this.identity = undefined));
      return;
    }
    const index = this.indexes.get(name);
    if (index !== undefined) await this.buildIndex(index.definition, pause);
  }

  /** What was measured of an index is told of the one that takes its place too. */
  private replace(name: string, index: BuiltIndex): void {
    index.recall ??= this.indexes.get(name)?.recall;
    this.indexes.set(name, index);
  }

  dropIndex(name: string): boolean {
    this.indexVersion++;
    return this.indexes.delete(name);
  }

  /** Applies changes that are safe on disk already: all of them between two runs. */
  async apply(puts: readonly Put[]): Promise<void> {
    await this.gate.write(() => this.applyNow(puts));
  }

  /** The same without waiting; for a collection that nobody can see yet. */
  applyNow(puts: readonly Put[]): void {
    const bulk = puts.length > 1_000 && puts.length > this.store.count * rebuildShare;
    const changes: DocumentChange[] = puts.map(({ position, document }) => this.store.put(position, document));
    // The one on the identity is built anew when it is looked at.
    if (bulk) this.identity = undefined;
    else this.follow(this.identity, changes);
    for (const [name, index] of this.indexes) {
      if (bulk) this.replace(name, builtAtOnce(index.definition, this.store));
      else this.follow(index, changes);
    }
    this.changes.tell(changes);
  }

  private follow(index: BuiltIndex | undefined, changes: readonly DocumentChange[]): void {
    for (const change of changes) index?.apply(change);
  }

  sample(): Sample {
    const { version, count } = this.store;
    if (this.sampled === undefined || version - this.sampled.version > count * sampleDrift) {
      this.sampled = { sample: takeSample(this.store), version };
    }
    return this.sampled.sample;
  }

  planned(): PlannedSource {
    return {
      name: this.name,
      identityPath: this.identityPath,
      isView: this.storedVersion !== undefined,
      store: this.store,
      indexes: this.orderedIndexes.map(statisticsOf),
      others: this.indexList.flatMap((index) =>
        index instanceof OrderedIndex ? [] : [{ definition: index.definition, built: index, index, scale: 1 }],
      ),
      sample: () => this.sample(),
    };
  }

  /** The shape of all documents; only the parts that have changed are looked through again. */
  shape(pause: Pause): Promise<FlatField[]> {
    return this.shapes.fields(pause, this.gate);
  }
}

function identityDefinition(path: string): IndexDefinition {
  return readDefinition({ name: identityIndexName, keys: [path] });
}
