/** A stretch of source text in UTF-16 offsets; `to` is exclusive. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** From a span to the end of another, where that follows. */
export function coverOnwards(first: Span, other: Span): Span {
  return cover(first, other.from > first.from ? other : first);
}

export function cover(first: Span, last: Span): Span {
  return { from: first.from, to: last.to };
}
