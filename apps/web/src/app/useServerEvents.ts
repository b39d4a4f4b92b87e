import { useEffect } from 'react';
import { api, everything, touched } from '../api/base.ts';
import { listenToServer } from '../api/serverEvents.ts';
import { workApi } from '../api/work.ts';
import { documentsChanged } from '../state/bench/benchSlice.ts';
import { serverSlice } from './serverSlice.ts';
import { useAppDispatch, useAppStore } from './store.ts';

/** Keeps what is shown up to date with what others change on the same server, and notices when it is away. */
export function useServerEvents(): void {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  useEffect(
    () =>
      listenToServer((told) => {
        if (told.kind === 'presence') {
          const isBack = told.isThere && store.getState().server.isAway;
          dispatch(serverSlice.actions.presence(told.isThere));
          // What happened meanwhile was told to nobody.
          if (isBack) dispatch(api.util.invalidateTags([...everything]));
          return;
        }
        const { collection } = told.data;
        switch (told.name) {
          case 'documents':
            if (collection === undefined) return;
            dispatch(api.util.invalidateTags(touched(collection)));
            dispatch(documentsChanged(collection));
            return;
          case 'indexes':
            dispatch(api.util.invalidateTags([{ type: 'Indexes', id: collection ?? '' }, 'Advice']));
            return;
          case 'collections':
            dispatch(api.util.invalidateTags(['Collections']));
            return;
          case 'runs':
            dispatch(api.util.invalidateTags(['Runs']));
            return;
          case 'work':
            // What is told is put there at once: what is asked for may wait behind much else while the server is busy.
            void dispatch(workApi.util.upsertQueryData('work', undefined, told.data.work ?? []));
            return;
          case 'pipelines':
            dispatch(api.util.invalidateTags(['Pipelines', 'Publications', 'Advice']));
        }
      }),
    [dispatch, store],
  );
}
