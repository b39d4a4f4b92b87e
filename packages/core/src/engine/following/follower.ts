import { GuardTripped } from '../../execution/guards.ts';
import type { PlannedStage } from '../../planner/logical.ts';
import type { Json, JsonObject } from '../../values/json.ts';
import type { Collection } from '../collection.ts';
import type { Pause } from '../pause.ts';
import { DocumentUnits, inOrder, KnownMisfits, runOn, type Reading } from './documentUnits.ts';
import { followed, isJoinStage, type Followed } from './followed.ts';
import { GroupUnits, rowsAfter } from './groupUnits.ts';
import { PlacedRows, type Entry, type RowPut } from './placedRows.ts';
import { runPausing, type Find, type Ran } from './runStages.ts';
import { SourceChanges, touchedDocuments } from './touched.ts';
import { CannotFollow, type Touched, type Units } from './units.ts';

/** Beyond so many changed documents at once, rows are worked out afresh. */
const mostAtOnce = 1_000;
/** Rows that are kept in an order of their own, at most; those that stand as their documents do may be any number. */
const mostPlaced = 50_000;

/** The collections that a pipeline which can be followed reads. */
export function sourcesFollowed({ from, rowWise }: Followed): string[] {
  return [...new Set([from.stage.source, ...rowWise.filter(isJoinStage).map(({ stage }) => stage.source)])];
}

/**
 * Keeps the rows of a pipeline up with the documents that it reads: what changes is collected from the collections' feeds, and what
 * it makes of the rows is told when it is asked for. Rows are held in insertion order, as the pipeline gives them.
 */
export class Follower {
  private readonly parts: Followed;
  private readonly find: Find;
  private readonly changes: ReadonlyMap<string, SourceChanges>;
  private rows: FollowedRows | undefined;
  private isOver = false;

  private constructor(parts: Followed, find: Find) {
    this.parts = parts;
    this.find = find;
    this.changes = new Map(sourcesFollowed(parts).map((name) => [name, new SourceChanges(find(name), mostAtOnce)]));
  }

  /**
   * Begins to follow: goes through all documents once. To be called while none of its collections changes.
   * @returns a follower with the rows that the pipeline gives, and their places side by side with them; or why it cannot
   */
  static async begin(
    stages: readonly PlannedStage[],
    find: Find,
    pause: Pause,
    isCancelled: () => boolean,
  ): Promise<{ readonly follower: Follower; readonly places: readonly number[]; readonly rows: readonly Json[] } | string> {
    const parts = followed(stages);
    if (typeof parts === 'string') return parts;
    const follower = new Follower(parts, find);
    try {
      const whole = await runPausing(parts.rowWise, find, pause, isCancelled);
      const grouped = parts.group && (await runPausing([...parts.rowWise, parts.group], find, pause, isCancelled));
      // What follows a group and an order is run on rows that are there, when they are taken up.
      const final = await runPausing(stages, find, pause, isCancelled);
      const misfits = new KnownMisfits();
      for (const one of [whole, grouped, final]) if (one !== undefined) misfits.learn(one);
      follower.rows = followedRows(parts, { find, misfits }, whole, grouped);
      return { follower, places: follower.rows.places(), rows: final.rows };
    } catch (error) {
      follower.end();
      if (error instanceof CannotFollow) return error.message;
      if (error instanceof GuardTripped) return 'to follow it takes more memory than may be taken';
      throw error;
    }
  }

  /** Takes over where the rows stand that are kept already, the same ones in their order. @returns whether they can stand there */
  standAt(places: readonly number[]): boolean {
    return this.rows?.standAt(places) ?? false;
  }

  /** Whether its collections are those that are in memory still. */
  isAliveIn(collections: ReadonlyMap<string, Collection>): boolean {
    return !this.isOver && [...this.changes].every(([name, { collection }]) => collections.get(name) === collection);
  }

  reads(collection: string): boolean {
    return this.changes.has(collection);
  }

  /**
   * What has to be stored so that the rows are those that the pipeline gives now.
   * @throws CannotFollow; it follows no longer then
   */
  catchUp(): readonly RowPut[] {
    if (this.isOver || this.rows === undefined) throw new CannotFollow('it follows no longer');
    try {
      const many = [...this.changes.values()].some(({ areMany }) => areMany);
      if (many) throw new CannotFollow('many documents have changed at once');
      const touched = touchedDocuments(this.parts, this.changes, this.find);
      for (const changes of this.changes.values()) changes.clear();
      return touched.positions.size === 0 ? [] : this.rows.update(touched);
    } catch (error) {
      this.end();
      throw error instanceof CannotFollow ? error : new CannotFollow(String(error));
    }
  }

  end(): void {
    this.isOver = true;
    this.rows = undefined;
    for (const { end } of this.changes.values()) end();
  }
}

interface FollowedRows {
  /** Where the rows that there are now stand. */
  places(): readonly number[];
  standAt(places: readonly number[]): boolean;
  update(touched: Touched): readonly RowPut[];
}

function followedRows(parts: Followed, reading: Reading, whole: Ran, grouped: Ran | undefined): FollowedRows {
  if (grouped !== undefined) {
    const units = new GroupUnits(parts, reading, whole, grouped);
    return new OrderedRows(parts, reading, units, units.all());
  }
  if (parts.order === undefined && standsInPlace(parts, whole)) return new RowsInPlace(parts, reading, whole.positions);
  const units = new Map<number, Json[]>();
  whole.rows.forEach((row, at) => {
    const own = units.get(whole.positions[at]!);
    if (own === undefined) units.set(whole.positions[at]!, [row]);
    else own.push(row);
  });
  return new OrderedRows(parts, reading, new DocumentUnits(parts, reading, whole), units);
}

/** Whether a document has one row at most: by what the lines are, or, of very many rows, by what they gave. */
function standsInPlace({ rowWise }: Followed, { positions }: Ran): boolean {
  const mayBeSeveral = rowWise.some(({ stage: { kind } }) => kind === 'unnest' || kind === 'join' || kind === 'leftJoin');
  return !mayBeSeveral || (positions.length > mostPlaced / 2 && new Set(positions).size === positions.length);
}

/** Rows that stand where their documents do: a row each, at the position of the document. Nothing has to be known of them. */
class RowsInPlace implements FollowedRows {
  private readonly parts: Followed;
  private readonly reading: Reading;
  private readonly first: readonly number[];

  constructor(parts: Followed, reading: Reading, first: readonly number[]) {
    this.parts = parts;
    this.reading = reading;
    this.first = first;
  }

  places(): readonly number[] {
    return this.first;
  }

  standAt(places: readonly number[]): boolean {
    return places.every((place, at) => place === this.first[at]);
  }

  update({ positions: touched }: Touched): RowPut[] {
    const { rows, positions } = runOn(inOrder(touched), this.parts, this.reading);
    const put = new Map<number, Json | undefined>([...touched].map((position) => [position, undefined]));
    rows.forEach((row, at) => {
      if (put.get(positions[at]!) !== undefined) throw new CannotFollow('a document has several rows');
      put.set(positions[at]!, row);
    });
    return [...put].map(([position, row]) => ({ position, row }));
  }
}

/** Rows that stand in an order of their own. */
class OrderedRows implements FollowedRows {
  private readonly parts: Followed;
  private readonly reading: Reading;
  private readonly units: Units;
  private readonly entriesOf = new Map<number, readonly Entry[]>();
  private readonly placed = new PlacedRows();

  constructor(parts: Followed, reading: Reading, units: Units, rowsOf: ReadonlyMap<number, readonly Json[]>) {
    this.parts = parts;
    this.reading = reading;
    this.units = units;
    this.take(rowsOf);
    this.placed.begin(this.inOrder());
  }

  places(): number[] {
    return Array.from({ length: this.placed.length }, (_, at) => at);
  }

  standAt(places: readonly number[]): boolean {
    this.placed.standAt(places);
    return true;
  }

  update(touched: Touched): RowPut[] {
    const { rows, isInOrder } = this.units.update(touched);
    return (isInOrder ? this.inPlace(rows) : undefined) ?? this.anew(rows);
  }

  /** Where each unit has as many rows as before, at the places of those. */
  private inPlace(rowsOf: ReadonlyMap<number, readonly Json[]>): RowPut[] | undefined {
    if (this.parts.order !== undefined) return undefined;
    for (const [unit, rows] of rowsOf) if (rows.length !== (this.entriesOf.get(unit)?.length ?? 0)) return undefined;
    return [...rowsOf].flatMap(([unit, rows]) =>
      rows.map((row, at) => {
        const entry = this.entriesOf.get(unit)![at]!;
        entry.row = row;
        return { position: entry.place!, row };
      }),
    );
  }

  private anew(rowsOf: ReadonlyMap<number, readonly Json[]>): RowPut[] {
    this.take(rowsOf);
    return this.placed.become(this.inOrder());
  }

  private take(rowsOf: ReadonlyMap<number, readonly Json[]>): void {
    for (const [unit, rows] of rowsOf) {
      if (rows.length > 0)
        this.entriesOf.set(unit, rows.map((row) => ({ row, place: undefined }))); // prettier-ignore
      else this.entriesOf.delete(unit);
    }
  }

  private readonly ordered = new WeakMap<Entry, Entry>();

  private inOrder(): readonly Entry[] {
    const entries = this.units.order().flatMap((unit) => this.entriesOf.get(unit) ?? []);
    if (entries.length > mostPlaced) throw new CannotFollow('its rows are too many to be kept in an order of their own');
    const { order, afterOrder } = this.parts;
    if (order === undefined) return entries;
    const { rows, positions } = rowsAfter(this.parts, [order, ...afterOrder], entries.map(({ row }) => row), this.reading); // prettier-ignore
    return positions.map((at, i) => this.finalOf(entries[at]!, rows[i]!));
  }

  /** The row that an entry has become once in order: the same one as long as the entry is. */
  private finalOf(entry: Entry, row: Json): Entry {
    let there = this.ordered.get(entry);
    if (there === undefined) this.ordered.set(entry, (there = { row: row as JsonObject, place: undefined }));
    return there;
  }
}
