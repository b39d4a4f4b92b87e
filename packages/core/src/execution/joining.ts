import { compilePair, compileValue } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import type { JoinMatch } from '../planner/physical.ts';
import { hashKey } from '../values/equality.ts';
import type { Json, Value } from '../values/json.ts';
import type { StepMeter } from './meter.ts';
import { placeAt } from './placing.ts';

/** What a value is found by in a table: itself where it is a plain value, else a text that equal values share. */
export type TableKey = string | number | boolean;

/** Missing and null match nothing. Objects and arrays are found by their hash text, which no plain text is. */
export function tableKey(value: Value): TableKey | undefined {
  if (value === undefined || value === null) return undefined;
  return typeof value === 'object'
    ? `\u0000${hashKey(value)}`
    : typeof value === 'string' && value.startsWith('\u0000')
      ? `\u0000${hashKey(value)}`
      : value;
}

/** The one key of several values; undefined where one of them matches nothing. */
export function combinedKey(values: readonly Value[]): TableKey | undefined {
  let text = '\u0000';
  for (const value of values) {
    if (value === undefined || value === null) return undefined;
    text += `${hashKey(value)}\u0000`;
  }
  return text;
}

/** Reads the keys under which a row stands, or is looked for: one, or each element of a list. */
export function keyReader(keys: JoinMatch['leftKeys'], isList: boolean): (row: Json, context: Context) => readonly TableKey[] {
  const read = keys.map(compileValue);
  const [first] = read;
  if (read.length === 0) return () => everything;
  if (isList) {
    return (row, context) => {
      const list = first(row, context);
      if (!Array.isArray(list)) return nothing;
      const found = new Set<TableKey>();
      for (const item of list) {
        const key = tableKey(item);
        if (key !== undefined) found.add(key);
      }
      return [...found];
    };
  }
  if (read.length === 1) {
    return (row, context) => {
      const key = tableKey(first(row, context));
      return key === undefined ? nothing : [key];
    };
  }
  return (row, context) => {
    const key = combinedKey(read.map((evaluate) => evaluate(row, context)));
    return key === undefined ? nothing : [key];
  };
}

/** Without keys every row stands under the same one. */
const everything: readonly TableKey[] = [true];
const nothing: readonly TableKey[] = [];

/** What a join gives out for a row and its partners, which have been found already; and counts how many there were. */
export class Joiner {
  readonly fits: ((row: Json, partner: Json, context: Context) => boolean) | undefined;
  private readonly place: ReturnType<typeof placeAt>;
  private readonly match: JoinMatch;
  private readonly counts = { none: 0, one: 0, several: 0 };

  constructor(match: JoinMatch, meter: StepMeter) {
    this.match = match;
    this.place = placeAt(match.target, match.used);
    this.fits = match.residual && compilePair(match.residual, match.partner);
    meter.matches = this.counts;
  }

  /** Appends the rows that come of a row. */
  give(row: Json, position: number, partners: readonly Json[], rows: Json[], positions: number[]): void {
    const { mode } = this.match;
    const found = partners.length;
    if (found === 0) this.counts.none++;
    else if (found === 1) this.counts.one++;
    else this.counts.several++;
    if (mode === 'gatherJoin') {
      rows.push(this.place(row, [...partners]));
      positions.push(position);
      return;
    }
    if (found === 0 && mode === 'leftJoin') {
      rows.push(this.place(row, undefined));
      positions.push(position);
    }
    for (let i = 0; i < found; i++) {
      rows.push(this.place(row, partners[i]));
      positions.push(position);
    }
  }
}
