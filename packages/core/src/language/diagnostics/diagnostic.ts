import type { Span } from '../span.ts';

export type Severity = 'error' | 'warning';

/** A replacement of a stretch of the source by other text. */
export interface Edit extends Span {
  readonly insert: string;
}

/** One click that mends what a diagnostic tells of. */
export interface Mend {
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** What is wrong, where, and how to mend it. `code` is stable; offsets are UTF-16; lines count from 1. */
export interface Diagnostic extends Span {
  readonly severity: Severity;
  readonly code: string;
  readonly message: string;
  readonly line: number;
  readonly mend?: Mend;
}

/** A diagnostic before its line is known. */
export type Finding = Omit<Diagnostic, 'line'>;

/** The 1-based line on which an offset lies. */
export function lineAt(text: string, offset: number): number {
  const ends = lineEndsOf(text);
  let [low, high] = [0, ends.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ends[middle]! < offset) low = middle + 1;
    else high = middle;
  }
  return low + 1;
}

/** Where the lines of the text end that was last asked about: of one with thousands, each is asked about. */
let last: { readonly text: string; readonly ends: readonly number[] } = { text: '', ends: [] };
function lineEndsOf(text: string): readonly number[] {
  if (last.text !== text) {
    const ends: number[] = [];
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) ends.push(at);
    last = { text, ends };
  }
  return last.ends;
}
