/** A stretch of source text in UTF-16 offsets; `to` is exclusive. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

export function cover(first: Span, last: Span): Span {
  return { from: first.from, to: last.to };
}
