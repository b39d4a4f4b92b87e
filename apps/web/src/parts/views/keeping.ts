import type { MaterializedInfo, PlanAnswer, RefreshPolicy } from '@zesty-sieve/contract';
import { brief } from '../numbers.ts';

/** How the rows of a view are to be had, as one choice of a form. */
export const keepings = {
  none: 'worked out each time that it is read',
  change: 'kept, and brought up with each change',
  demand: 'kept, and made anew when I say so',
  time: 'kept, and made anew every so often',
} as const;
export type Keeping = keyof typeof keepings;

export function keepingOf(policy: RefreshPolicy | undefined): Keeping {
  if (policy === undefined) return 'none';
  return policy === 'on change' ? 'change' : policy === 'on demand' ? 'demand' : 'time';
}

export function policyOf(keeping: Keeping, everySeconds: number): RefreshPolicy | null {
  switch (keeping) {
    case 'none':
      return null;
    case 'change':
      return 'on change';
    case 'demand':
      return 'on demand';
    case 'time':
      return { everySeconds };
  }
}

export const usualSeconds = 300;

/** What each change would take to follow: `about 35 µs for a changed document of bookings, 2.6 ms for one of members`. */
export function followText(costs: PlanAnswer['followCosts'] = []): string {
  const [first, ...more] = costs.map(({ collection, us }) => [collection, brief(us)] as const);
  if (first === undefined) return '';
  return [`about ${first[1]} for a changed document of ${first[0]}`, ...more.map(([name, time]) => `${time} for one of ${name}`)].join(
    ', ',
  );
}

/** Of an age in milliseconds: `4 s`, `12 min`. */
export function ageText(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1_000));
  if (seconds < 90) return `${seconds} s`;
  if (seconds < 5_400) return `${Math.round(seconds / 60)} min`;
  return seconds < 172_800 ? `${Math.round(seconds / 3_600)} h` : `${Math.round(seconds / 86_400)} days`;
}

/** The state of a view in a word or two. */
export function stateText({ state, refreshedAt }: Pick<MaterializedInfo, 'state' | 'refreshedAt'>): string {
  if (refreshedAt === null) return state === 'failed' ? 'could not be made' : 'being made for the first time';
  return { fresh: 'up to date', stale: 'out of date', refreshing: 'being made anew', failed: 'could not be made anew' }[state];
}
