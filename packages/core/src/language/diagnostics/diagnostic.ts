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
  let line = 1;
  for (let i = text.indexOf('\n'); i >= 0 && i < offset; i = text.indexOf('\n', i + 1)) line++;
  return line;
}
