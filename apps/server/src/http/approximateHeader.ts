import type { Approximation } from '@zesty-sieve/core';

/** Says of rows that some which belong to them may lack. */
export const approximateHeader = 'Zesty-Sieve-Approximate';

/** How far they can be relied on: a dictionary of structured fields (RFC 9651). */
export function approximateText({ effort, recall, measuredAt }: Approximation): string {
  return [
    `effort=${effort}`,
    ...(recall === undefined ? [] : [`recall=${recall.toFixed(3)}`]),
    ...(measuredAt === undefined ? [] : [`measured-at="${measuredAt}"`]),
  ].join(', ');
}
