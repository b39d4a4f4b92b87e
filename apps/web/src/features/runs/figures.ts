import type { KeptRun, KeptRunDetail } from '@zesty-sieve/contract';
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

type IndexSet = KeptRunDetail['indexSet'];

/** How the indexes that there were at two runs differ, of the collections that both of them asked. */
export function indexesText(first: IndexSet, second: IndexSet): string {
  const more = (one: IndexSet, other: IndexSet) =>
    Object.entries(one).flatMap(([collection, names]) =>
      names.filter((name) => other[collection]?.includes(name) === false).map((name) => `${name} of ${collection}`),
    );
  const [gone, added] = [more(first, second), more(second, first)];
  if (added.length + gone.length === 0) return 'There were the same indexes at both.';
  const told = (which: string, names: readonly string[]) =>
    names.length === 0 ? [] : [`At the ${which} there was also ${names.join(', ')}.`];
  return [...told('second', added), ...told('first', gone)].join(' ');
}
