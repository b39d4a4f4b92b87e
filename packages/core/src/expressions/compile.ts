import type { Expression } from '../language/tree.ts';
import type { Json, JsonObject, Value } from '../values/json.ts';
import type { Context } from './context.ts';
import { openDoor } from './door.ts';
import { once } from './once.ts';
import { emitCondition, emitValue, newEmitter } from './emit.ts';
import type { Variables } from './emitter.ts';

/** A condition on a current value, inside a whole row. */
export type Test = (current: Json, whole: Json, context: Context) => boolean;
/** The value of an expression for a row. */
export type Evaluate = (row: Json, context: Context) => Value;
/** What a loop counts: the documents that it looked at, and those that each of its conditions did. */
export interface Tally {
  read: number;
  readonly lookedAt: number[];
}

/** What is gone through: from one place up to another, until `most` have come. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly most: number;
}

/** Where those that fit are put: room that is there is filled faster than a list grows. */
export interface Found {
  /** With room for as many as are wanted of a stretch. */
  readonly rows: Json[];
  /** How many of them have been filled. */
  count: number;
  /** Undefined where nobody asks where they stand. */
  readonly positions: number[] | undefined;
}

export const roomFor = (count: number): Found & { readonly positions: number[] } => ({
  rows: new Array<Json>(count),
  count: 0,
  positions: [],
});

/** The rows that were found, without the room that is left. */
export function settled({ rows, count }: Found): Json[] {
  rows.length = count;
  return rows;
}

/**
 * Goes through a stretch of `documents` (holes passed over) and puts down those that fit. Adds the documents looked at to the tally;
 * gives where it stopped.
 */
export type ScanKernel = (
  documents: readonly (JsonObject | undefined)[],
  stretch: Stretch,
  found: Found,
  tally: Tally,
  context: Context,
) => number;

/** The same over `documents[chosen[i]]`, where the stretch is one of `chosen`. */
export type FetchKernel = (
  documents: readonly (JsonObject | undefined)[],
  stretch: Stretch & { readonly chosen: ArrayLike<number> },
  found: Found,
  tally: Tally,
  context: Context,
) => number;

const noPartners: ReadonlyMap<string, string> = new Map();
const rowVariables: Variables = { current: 'row', whole: 'row', partners: noPartners };

/** Compiles a condition whose `@` and `$` may differ, as in a filter selector. */
export const compileTest = once((condition: Expression): Test => {
  const emitter = newEmitter();
  const holds = emitCondition(emitter, condition, { current: 'current', whole: 'whole', partners: noPartners });
  emitter.line(`return ${holds};`);
  return openDoor(['current', 'whole', 'context'], emitter.body, emitter.data) as Test;
});

/** Compiles a condition on a row. */
export const compileCondition = once((condition: Expression): ((row: Json, context: Context) => boolean) => {
  const emitter = newEmitter();
  emitter.line(`return ${emitCondition(emitter, condition, rowVariables)};`);
  return openDoor(['row', 'context'], emitter.body, emitter.data) as (row: Json, context: Context) => boolean;
});

/** Compiles an expression that gives a row's value. */
export const compileValue = once((expression: Expression): Evaluate => {
  const emitter = newEmitter();
  emitter.line(`return ${emitValue(emitter, expression, rowVariables)};`);
  return openDoor(['row', 'context'], emitter.body, emitter.data) as Evaluate;
});

/** A condition on a row and the partner that it may be joined with. */
export type PairTest = (row: Json, partner: Json, context: Context) => boolean;

/** Compiles a condition in which a name stands for the partner. */
export function compilePair(condition: Expression, name: string): PairTest {
  const emitter = newEmitter();
  const variables: Variables = { current: 'row', whole: 'row', partners: new Map([[name, 'partner']]) };
  emitter.line(`return ${emitCondition(emitter, condition, variables)};`);
  return openDoor(['row', 'partner', 'context'], emitter.body, emitter.data) as PairTest;
}

const each = 'const position = i;';
const scanWith = once((condition: Expression) => compileLoop(condition, each, true) as ScanKernel);
const scanAll = compileLoop(undefined, each, true) as ScanKernel;
const keepWith = once((condition: Expression) => compileLoop(condition, each, false) as ScanKernel);
const keepAll = compileLoop(undefined, each, false) as ScanKernel;
const followWith = once((condition: Expression) => compileLoop(condition, 'const position = chosen[i];', true) as FetchKernel);
const followAll = compileLoop(undefined, 'const position = chosen[i];', true) as FetchKernel;

/**
 * Compiles the loop of a scan with its condition inside, so that no function is called for each document.
 * @param places whether the positions of what is found are wanted too
 */
export function compileScan(condition: Expression | undefined, places: boolean): ScanKernel {
  if (condition === undefined) return places ? scanAll : keepAll;
  return places ? scanWith(condition) : keepWith(condition);
}

/** Compiles the loop that follows positions to their documents. */
export function compileFetch(condition: Expression | undefined): FetchKernel {
  return condition === undefined ? followAll : followWith(condition);
}

function compileLoop(condition: Expression | undefined, position: string, places: boolean): unknown {
  const emitter = newEmitter();
  const parts = condition === undefined ? [] : condition.kind === 'and' ? condition.operands : [condition];
  emitter.line(`const { chosen } = stretch; const { rows${places ? ', positions' : ''} } = found;`);
  // Whole numbers to the compiler too, though a stretch may ask for infinitely many.
  emitter.line('let i = stretch.from | 0; let read = 0; let count = found.count | 0;');
  emitter.line('const to = stretch.to | 0; const full = Math.min(count + stretch.most, rows.length) | 0;');
  // The first condition looks at whatever is read.
  const later = parts.slice(1);
  later.forEach((_, part) => emitter.line(`let looked${part + 1} = 0;`));
  emitter.block('for (; i < to && count < full; i++)', () => {
    emitter.line(position);
    emitter.line('const row = documents[position];');
    // Counting the holes instead, in the branch that is hardly ever taken, makes the loop an eighth longer (measured).
    emitter.line('if (row === undefined) continue;');
    emitter.line('read++;');
    parts.forEach((part, at) => {
      if (at > 0) emitter.line(`looked${at}++;`);
      emitter.line(`if (!(${emitCondition(emitter, part, rowVariables)})) continue;`);
    });
    emitter.line(`rows[count++] = row;${places ? ' positions.push(position);' : ''}`);
  });
  emitter.line('found.count = count; tally.read += read;');
  parts.forEach((_, part) =>
    emitter.line(`tally.lookedAt[${part}] = (tally.lookedAt[${part}] || 0) + ${part === 0 ? 'read' : `looked${part}`};`),
  );
  emitter.line('return i;');
  return openDoor(['documents', 'stretch', 'found', 'tally', 'context'], emitter.body, emitter.data);
}
