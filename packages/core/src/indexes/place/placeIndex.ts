import { around } from 'geokdbush';
import KDBush from 'kdbush';
import { compileValue, type Evaluate } from '../../expressions/compile.ts';
import { makeContext } from '../../expressions/context.ts';
import { distance, positionOf } from '../../expressions/meanings/place.ts';
import type { DocumentChange } from '../../storage/residentStore.ts';
import type { DocumentStore } from '../../storage/store.ts';
import type { JsonObject } from '../../values/json.ts';
import type { IndexDefinition } from '../definition.ts';
import type { BuildProgress, BuiltIndex } from '../kind.ts';

/** Longitude and latitude in degrees. */
export type Point = readonly [longitude: number, latitude: number];

const context = makeContext({});
const stretch = 2_000;
/** The tree stands until so many have changed, and so large a share; then it is grown anew when it is next asked. */
const mostChanged = 1_000;
const changedShare = 0.2;
/** Half of the sphere's circumference: no two places are further apart. */
const furthest = 20_016_000;

/** A longitude between -180 and 180 degrees, as the tree takes the globe to be. */
const onGlobe = (longitude: number): number => ((((longitude + 180) % 360) + 360) % 360) - 180;

/** Where documents are: a k-d tree over the sphere, and beside it those that have changed since it was grown. */
export class PlaceIndex implements BuiltIndex {
  readonly definition: IndexDefinition;
  private readonly read: Evaluate;
  /** By position; NaN where there is no place. */
  private longitudes = new Float64Array(0);
  private latitudes = new Float64Array(0);
  private count = 0;
  private tree: KDBush | undefined;
  /** The positions of the tree's points, by their numbers there. */
  private grown: Uint32Array = new Uint32Array(0);
  /** Positions that are not as the tree has them. */
  private readonly changed = new Set<number>();

  constructor(definition: IndexDefinition) {
    this.definition = definition;
    this.read = compileValue(definition.keys[0]!.expression);
  }

  static *build(definition: IndexDefinition, { documents }: DocumentStore): Generator<BuildProgress, PlaceIndex> {
    const index = new PlaceIndex(definition);
    for (let from = 0; from < documents.length; from += stretch) {
      for (let at = from; at < Math.min(documents.length, from + stretch); at++) index.put(at, documents[at]);
      yield { phase: 'reading', share: from / documents.length };
    }
    index.grow();
    return index;
  }

  get entries(): number {
    return this.count;
  }
  get bytes(): number {
    return this.longitudes.byteLength * 2 + this.grown.byteLength + (this.tree?.data.byteLength ?? 0) + this.changed.size * 40;
  }
  violation(): undefined {
    return undefined;
  }
  apply({ position, after }: DocumentChange): void {
    this.put(position, after);
    this.changed.add(position);
  }

  private put(position: number, document: JsonObject | undefined): void {
    if (position >= this.longitudes.length) this.lengthen(Math.max(position + 1, Math.ceil(this.longitudes.length * 1.5), 64));
    const point = document === undefined ? undefined : positionOf(this.read(document, context));
    if (this.has(position)) this.count--;
    if (point !== undefined) this.count++;
    this.longitudes[position] = point?.[0] ?? NaN;
    this.latitudes[position] = point?.[1] ?? NaN;
  }
  private lengthen(to: number): void {
    const [longitudes, latitudes] = [new Float64Array(to).fill(NaN), new Float64Array(to).fill(NaN)];
    longitudes.set(this.longitudes);
    latitudes.set(this.latitudes);
    [this.longitudes, this.latitudes] = [longitudes, latitudes];
  }
  private has(position: number): boolean {
    return position < this.longitudes.length && !Number.isNaN(this.longitudes[position]!);
  }

  private grow(): void {
    const positions: number[] = [];
    for (let position = 0; position < this.longitudes.length; position++) if (this.has(position)) positions.push(position);
    this.grown = Uint32Array.from(positions);
    this.changed.clear();
    if (positions.length === 0) {
      this.tree = undefined;
      return;
    }
    const tree = new KDBush(positions.length);
    for (const position of positions) tree.add(onGlobe(this.longitudes[position]!), this.latitudes[position]!);
    this.tree = tree.finish();
  }
  private current(): KDBush | undefined {
    if (this.changed.size > mostChanged && this.changed.size > this.count * changedShare) this.grow();
    return this.tree;
  }

  /** Metres from a place to the one of a document: the same number as the function gives. */
  distanceTo(position: number, from: Point): number | undefined {
    if (!this.has(position)) return undefined;
    return distance([this.longitudes[position]!, this.latitudes[position]!], [...from]);
  }

  /** Positions by the tree, nearest first, up to so many; the library's order, which may differ from ours in the last digits. */
  private nearest(from: Point, most: number, metres: number): number[] {
    const tree = this.current();
    if (tree === undefined) return [];
    const isStanding = (id: number): boolean => !this.changed.has(this.grown[id]!);
    // A little further than asked: its sphere is not quite ours.
    const kilometres = metres >= furthest ? Infinity : (metres * 1.000_01 + 1) / 1_000;
    return around(tree, onGlobe(from[0]), from[1], most, kilometres, isStanding).map((id) => this.grown[id]!);
  }
  private get beside(): readonly number[] {
    return [...this.changed].filter((position) => this.has(position));
  }

  /** The positions of documents that are nearer than so many metres, or just as far where that counts. */
  within(from: Point, metres: number, isInclusive: boolean): number[] {
    return [...this.nearest(from, Infinity, metres), ...this.beside].filter((position) => {
      const apart = this.distanceTo(position, from)!;
      return apart < metres || (isInclusive && apart === metres);
    });
  }

  /** All documents with a place, nearest first, ties by position; each with its distance. Looks at no more than are asked for. */
  *nearestFirst(from: Point, looked: (count: number) => void): Generator<readonly [position: number, metres: number]> {
    const given = new Set<number>();
    for (let most = 64; ; most *= 4) {
      const inTree = this.nearest(from, most, Infinity);
      const isAll = inTree.length < most;
      const ordered = [...inTree, ...this.beside]
        .filter((position) => !given.has(position))
        .map((position) => [position, this.distanceTo(position, from)!] as const)
        .sort((a, b) => a[1] - b[1] || a[0] - b[0]);
      looked(ordered.length);
      // What is about as far as the last that was asked for may tie with one that is still to come.
      const sure = isAll ? Infinity : this.distanceTo(inTree[most - 1]!, from)! * (1 - 1e-9) - 1e-6;
      for (const one of ordered) {
        if (one[1] >= sure) break;
        given.add(one[0]);
        yield one;
      }
      if (isAll) return;
    }
  }
}
