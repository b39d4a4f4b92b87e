import { useEffect } from 'react';
import { api, touched } from '../api/api.ts';
import { documentsChanged } from '../features/bench/state/benchSlice.ts';
import { useAppDispatch } from './store.ts';

interface Told {
  readonly collection?: string;
}

/** Keeps what is shown up to date with what others change on the same server. */
export function useServerEvents(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const source = new EventSource('/api/events');
    const on = (kind: string, work: (told: Told) => void) =>
      source.addEventListener(kind, (event: MessageEvent<string>) => work(JSON.parse(event.data) as Told));
    on('documents', ({ collection }) => {
      if (collection === undefined) return;
      dispatch(api.util.invalidateTags(touched(collection)));
      dispatch(documentsChanged(collection));
    });
    on('indexes', ({ collection }) => dispatch(api.util.invalidateTags([{ type: 'Indexes', id: collection }, 'Advice'])));
    on('collections', () => dispatch(api.util.invalidateTags(['Collections'])));
    on('runs', () => dispatch(api.util.invalidateTags(['Runs'])));
    on('pipelines', () => dispatch(api.util.invalidateTags(['Pipelines'])));
    return () => source.close();
  }, [dispatch]);
}
