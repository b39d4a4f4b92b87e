import { useSnackbar } from 'notistack';
import { useCreateIndexMutation } from '../../api/indexes.ts';
import { isCancelled, problemText } from '../../api/problems.ts';
import { counted } from '../../parts/numbers.ts';
import type { IndexRequestBody } from '@zesty-sieve/contract';

/** Builds indexes of a collection, and tells how it went; what was wrong with the last one asked for. */
export function useBuildIndex(collection: string) {
  const { enqueueSnackbar } = useSnackbar();
  const [create, { error, isLoading, reset }] = useCreateIndexMutation();
  const wasCancelled = isCancelled(error);
  /** @returns whether it is there now */
  const build = async (asked: IndexRequestBody): Promise<boolean> => {
    const made = await create({ collection, ...asked });
    if (made.error === undefined) {
      enqueueSnackbar(`The index ${made.data.name} is built: ${counted(made.data.entries, 'entry', 'entries')}.`);
      return true;
    }
    if (isCancelled(made.error)) enqueueSnackbar(problemText(made.error));
    return false;
  };
  return { build, isBuilding: isLoading, problem: error === undefined || wasCancelled ? undefined : problemText(error), reset };
}
