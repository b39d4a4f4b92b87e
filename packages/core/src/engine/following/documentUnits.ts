import type { Json } from '../../values/json.ts';
import type { Followed } from './followed.ts';
import { runNow, someOf, type Find, type Ran } from './runStages.ts';
import { CannotFollow, type Touched, type UnitRows, type Units } from './units.ts';

const some = '#some';

export const inOrder = (positions: Iterable<number>): number[] => [...positions].sort((a, b) => a - b);

/** What was said of values when the whole was worked out is said still; anything else has to be worked out first. */
export class KnownMisfits {
  private readonly known = new Set<string>();

  learn({ misfits }: Pick<Ran, 'misfits'>): void {
    for (const one of misfits) this.known.add(one);
  }

  /** @throws CannotFollow */
  expect({ misfits }: Pick<Ran, 'misfits'>): void {
    if (misfits.some((one) => !this.known.has(one))) throw new CannotFollow('there are new values that its lines cannot use');
  }
}

/** Where nothing is kept of it, whatever is said will do. */
export class AnyMisfits extends KnownMisfits {
  override expect(): void {
    // What is new is no matter here.
  }
}

/** What stages are run on, and what is known of it. */
export interface Reading {
  readonly find: Find;
  readonly misfits: KnownMisfits;
}

/** Runs stages on some documents of their source alone. @returns rows, and the position of the document of each */
export function runOn(positions: readonly number[], parts: Followed, reading: Reading): Ran {
  const { documents } = reading.find(parts.from.stage.source).store;
  const there = positions.filter((position) => documents[position] !== undefined);
  const ran = runOnDocuments(
    there.map((position) => documents[position]!),
    parts,
    reading,
  );
  // Rows of groups come from many.
  return { ...ran, positions: parts.group === undefined ? ran.positions.map((at) => there[at]!) : [] };
}

/** The same on documents that need not be there any more. */
export function runOnDocuments(documents: readonly Json[], { from, rowWise, group }: Followed, { find, misfits }: Reading): Ran {
  if (documents.length === 0) return { rows: [], positions: [], misfits: [] };
  const few = someOf(some, documents);
  const stages = [{ ...from, stage: { ...from.stage, source: some } }, ...rowWise.slice(1), ...(group === undefined ? [] : [group])];
  const ran = runNow(stages, (name) => (name === some ? few : find(name)));
  misfits.expect(ran);
  return ran;
}

/** Row-wise lines: the rows of the documents that changed are taken out, and put in again. */
export class DocumentUnits implements Units {
  private readonly positions = new Set<number>();
  private readonly parts: Followed;
  private readonly reading: Reading;

  constructor(parts: Followed, reading: Reading, whole: Ran) {
    this.parts = parts;
    this.reading = reading;
    for (const position of whole.positions) this.positions.add(position);
  }

  update({ positions: touched }: Touched): UnitRows {
    const changed = new Map<number, Json[]>([...touched].map((position) => [position, []]));
    const { rows, positions } = runOn(inOrder(touched), this.parts, this.reading);
    rows.forEach((row, at) => changed.get(positions[at]!)!.push(row));
    let isInOrder = true;
    for (const [position, own] of changed) {
      if (this.positions.has(position) === own.length > 0) continue;
      isInOrder = false;
      if (own.length > 0) this.positions.add(position);
      else this.positions.delete(position);
    }
    return { rows: changed, isInOrder };
  }

  order(): number[] {
    return inOrder(this.positions);
  }
}
