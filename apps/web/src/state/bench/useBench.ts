import { shallowEqual } from 'react-redux';
import { useAppSelector } from '../../app/store.ts';
import type { BenchState } from './benchState.ts';

/** Some of what stands on the Bench: who asks is drawn again when one of these changes, and not for a letter in the text. */
export function useBench<K extends keyof BenchState>(...keys: readonly K[]): Pick<BenchState, K> {
  return useAppSelector(({ bench }) => Object.fromEntries(keys.map((key) => [key, bench[key]])) as Pick<BenchState, K>, shallowEqual);
}

/** Whether the text is another one than that of the last run. */
export function useIsOutdated(): boolean {
  return useAppSelector(({ bench: { whole, text } }) => whole.answer !== null && whole.answer.asked.text !== text);
}
