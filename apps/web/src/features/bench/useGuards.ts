import type { GuardLimits } from '@zesty-sieve/contract';
import { useSettingsQuery } from '../../api/runs.ts';
import { useAppSelector } from '../../app/store.ts';

const usual: GuardLimits = { timeMs: 10_000, documentsRead: 1_000_000, memoryBytes: 48 * 1024 * 1024 };

/** The guards that hold for the pipeline on the Bench: its own, and those of the settings where it has none. */
export function useGuards(): GuardLimits {
  const { data: settings } = useSettingsQuery();
  const own = useAppSelector(({ bench }) => bench.guards);
  return { ...usual, ...settings?.guards, ...own };
}
