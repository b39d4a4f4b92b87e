import type { KeptRun } from '@zesty-sieve/contract';
import { count } from '../../parts/numbers.ts';

const factor = new Intl.NumberFormat('en', { maximumSignificantDigits: 2 });

/** A run's reads held against its pipeline's baseline. */
export function againstBaseline({ cost, baseline, baselineReads: then }: KeptRun): string | undefined {
  if (baseline || then === null) return undefined;
  const now = cost.documentsRead;
  if (now === then) return 'reads as its baseline';
  if (then === 0) return `reads ${count(now)}, its baseline none`;
  return `reads ${factor.format(now / then)} × its baseline`;
}
