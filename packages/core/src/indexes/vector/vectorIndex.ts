import { compileValue, type Evaluate } from '../../expressions/compile.ts';
import { makeContext } from '../../expressions/context.ts';
import type { DocumentChange } from '../../storage/residentStore.ts';
import type { DocumentStore } from '../../storage/store.ts';
import type { JsonObject, Value } from '../../values/json.ts';
import type { IndexDefinition } from '../definition.ts';
import type { BuildProgress, BuiltIndex } from '../kind.ts';
import type { KeptRecall } from '../recall.ts';
import { VectorGraph } from './graph.ts';

const context = makeContext({});
/** Vectors that are put in between two pauses of a build. */
const stretch = 50;
/** So many are linked before a walk, where some are not yet: about a tenth of a second. */
const linkedBefore = 64;
const sampled = 1_000;
/** Once so large a share of so many vectors is of no document any more, they are let go of. */
const goneShare = 0.2;
const leastRenewed = 500;
/** Vectors of lengths between these have 24 bits of each of their numbers where it matters. */
const leastHeld = 1e-15;
const greatestHeld = 1e15;

/** The vectors of documents, packed, in a graph by which near ones are found. */
export class VectorIndex implements BuiltIndex {
  readonly definition: IndexDefinition;
  graph: VectorGraph;
  /** The greatest length of a vector: what rounding to 32 bits is measured by. */
  greatest = 0;
  /** Documents whose arrays are no vectors of this length. */
  skipped = 0;
  /** Vectors whose numbers 32 bits do not hold: each is looked at by itself. */
  readonly odd = new Set<number>();
  private readonly read: Evaluate;
  private readonly nodeOf = new Map<number, number>();
  /** By node; -1 where the document has changed since, or gone. */
  private positionOfNode: number[] = [];
  private readonly newGraph: () => VectorGraph;

  constructor(definition: IndexDefinition, dimensions: number) {
    this.definition = definition;
    this.read = compileValue(definition.keys[0]!.expression);
    const { metric, links, buildEffort } = definition.vector!;
    this.newGraph = () => new VectorGraph(dimensions, metric === 'euclidean' ? 'squares' : 'dot', links, buildEffort);
    this.graph = this.newGraph();
  }

  /** All vectors, packed: the best are exact at once. Those without links yet are looked at one by one where an effort is given. */
  static begin(definition: IndexDefinition, { documents }: DocumentStore): VectorIndex {
    const index = new VectorIndex(definition, commonestLength(definition, documents));
    for (let at = 0; at < documents.length; at++) index.put(at, documents[at]);
    return index;
  }

  static *build(definition: IndexDefinition, store: DocumentStore): Generator<BuildProgress, VectorIndex> {
    const index = VectorIndex.begin(definition, store);
    for (let linked = 0; index.goOn(stretch); linked += stretch) yield { phase: 'filling', share: linked / Math.max(1, index.graph.count) };
    return index;
  }

  /** Links some more of the vectors; gives whether there are others. */
  goOn(most = stretch): boolean {
    for (let i = 0; i < most; i++) if (!this.graph.linkNext()) return false;
    return true;
  }

  /** Of documents that have a vector here. */
  get positions(): readonly number[] {
    return [...this.nodeOf.keys()];
  }
  /** The numbers that a document has, as they stand in it. */
  valueOf(document: JsonObject | undefined): number[] {
    return (document && this.read(document, context)) as number[];
  }
  recall?: KeptRecall | undefined;

  get entries(): number {
    return this.nodeOf.size;
  }
  get bytes(): number {
    return this.graph.bytes + this.nodeOf.size * 40 + this.positionOfNode.length * 8;
  }
  violation(): undefined {
    return undefined;
  }
  apply({ position, after }: DocumentChange): void {
    const node = this.nodeOf.get(position);
    if (node !== undefined) {
      this.nodeOf.delete(position);
      this.positionOfNode[node] = -1;
    }
    this.odd.delete(position);
    this.put(position, after);
    // Whoever changes one document links it; what came with many is linked by and by.
    this.goOn(1);
    if (this.graph.count > leastRenewed && this.graph.count * (1 - goneShare) > this.nodeOf.size) this.renew();
  }

  /** Begins anew without the vectors of documents that have changed or gone. */
  private renew(): void {
    const { graph: old } = this;
    this.graph = this.newGraph();
    this.positionOfNode = [];
    for (const [position, node] of this.nodeOf) {
      const kept = this.graph.hold(old.vectorOf(node));
      this.nodeOf.set(position, kept);
      this.positionOfNode[kept] = position;
    }
  }

  private put(position: number, document: JsonObject | undefined): void {
    const value = document && this.read(document, context);
    const packed = this.packed(value);
    if (packed === undefined) {
      if (Array.isArray(value)) this.skipped++;
      if (Array.isArray(value) && value.length === this.graph.dimensions && value.every((one) => typeof one === 'number'))
        this.odd.add(position);
      return;
    }
    const node = this.graph.hold(packed);
    this.nodeOf.set(position, node);
    this.positionOfNode[node] = position;
  }

  /** A vector as it is compared: of length 1 for the cosine; undefined where it is of another length, or has no direction. */
  packed(value: Value): Float32Array | undefined {
    if (!Array.isArray(value) || value.length !== this.graph.dimensions) return undefined;
    let squares = 0;
    for (const one of value) {
      if (typeof one !== 'number') return undefined;
      squares += one * one;
    }
    const length = Math.sqrt(squares);
    if (!(length <= greatestHeld) || (length < leastHeld && length > 0)) return undefined;
    if (this.definition.vector!.metric !== 'cosine') {
      this.greatest = Math.max(this.greatest, length);
      return Float32Array.from(value as number[]);
    }
    if (length === 0) return undefined;
    const packed = new Float32Array(value.length);
    for (let i = 0; i < packed.length; i++) packed[i] = (value[i] as number) / length;
    return packed;
  }

  packedOf(document: JsonObject): Float32Array | undefined {
    return this.packed(this.read(document, context));
  }

  /** How far every node is from a vector, about; and the document of each, -1 where it has none any more. */
  everyDistance(query: Float32Array): { readonly distances: Float32Array; readonly positions: readonly number[] } {
    return { distances: this.graph.everyDistance(query), positions: this.positionOfNode };
  }
  has(position: number): boolean {
    return this.nodeOf.has(position);
  }
  nodeAt(position: number): number | undefined {
    return this.nodeOf.get(position);
  }

  /** Links some of those that have none yet, so that a walk meets them. */
  linkSome(): void {
    this.goOn(linkedBefore);
  }

  /** About the nearest documents that are accepted, as many as the effort or fewer. */
  nearest(query: Float32Array, effort: number, accepts: (position: number) => boolean): number[] {
    const isOf = (node: number): boolean => {
      const position = this.positionOfNode[node]!;
      return position >= 0 && accepts(position);
    };
    return this.graph.nearest(query, effort, isOf).map((node) => this.positionOfNode[node]!);
  }
}

/** The commonest length of vectors, looked at in some of the documents; 1 where there are none. */
function commonestLength({ keys }: IndexDefinition, documents: readonly (JsonObject | undefined)[]): number {
  const read = compileValue(keys[0]!.expression);
  const counts = new Map<number, number>();
  const every = Math.max(1, Math.floor(documents.length / sampled));
  for (let at = 0; at < documents.length; at += every) {
    const document = documents[at];
    const value = document && read(document, context);
    if (Array.isArray(value) && value.length > 0 && typeof value[0] === 'number')
      counts.set(value.length, (counts.get(value.length) ?? 0) + 1);
  }
  const [commonest] = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  return commonest?.[0] ?? 1;
}
