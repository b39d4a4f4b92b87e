import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { api } from '../api/base.ts';
import { keepTabs } from '../state/bench/drafts.ts';
import { benchSlice } from '../state/bench/benchSlice.ts';
import { keepLessons, lessonSlice } from '../state/lessons.ts';
import { serverSlice } from './serverSlice.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, bench: benchSlice.reducer, server: serverSlice.reducer, lessons: lessonSlice.reducer },
  // Results are large and made by the server; looking through them for odd values at every action would cost more than it tells.
  middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
});

/** Nothing is kept over what is still to be restored. */
const mayKeep = ({ loaded, isRestored }: RootState['bench']): boolean => loaded > 0 && isRestored;

/** What is being written survives a reload. */
const keepPauseMs = 250;
let keeping: ReturnType<typeof setTimeout> | undefined;
let kept = store.getState().bench;
let keptLessons = store.getState().lessons;
store.subscribe(() => {
  const { bench, lessons } = store.getState();
  if (lessons !== keptLessons) keepLessons((keptLessons = lessons));
  if (bench === kept || !mayKeep(bench)) return;
  kept = bench;
  clearTimeout(keeping);
  keeping = setTimeout(() => keepTabs(store.getState().bench), keepPauseMs);
});
window.addEventListener('pagehide', () => mayKeep(store.getState().bench) && keepTabs(store.getState().bench));

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
export const useAppStore = useStore.withTypes<typeof store>();
