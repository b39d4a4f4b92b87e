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

/** Says when kept rows were made that an answer rests on, where what they were made of has changed since: RFC 3339. */
export const asOfHeader = 'Zesty-Sieve-As-Of';

interface ReadSource {
  readonly state: 'fresh' | 'stale';
  readonly refreshedAt: string | null;
}

/** Of the oldest of the stale ones; undefined where there are none. */
export function asOf(sources: readonly ReadSource[]): string | undefined {
  const stale = sources.flatMap(({ state, refreshedAt }) => (state === 'stale' && refreshedAt !== null ? [refreshedAt] : []));
  return stale.sort()[0];
}
