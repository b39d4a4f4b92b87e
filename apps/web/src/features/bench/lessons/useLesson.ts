import { useAppDispatch, useAppSelector, useAppStore } from '../../../app/store.ts';
import { opened } from '../../../state/bench/benchSlice.ts';
import { lessonBegun, lessonMoved } from '../../../state/lessons.ts';
import type { Lesson } from './lessons.ts';

/** Begins a lesson in a tab of its own: what stands on the Bench stays. */
export function useBeginLesson(): (lesson: Lesson) => void {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  return ({ id, begins }) => {
    dispatch(opened({ text: begins, view: 'table' }));
    dispatch(lessonBegun({ id, tab: store.getState().bench.tab }));
  };
}

/** Writes what a step is about into the lesson's tab; from another one, into a new tab. */
export function useShowStep(): (shown: { readonly text: string; readonly sql: string | null }) => void {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  return (shown) => {
    const { bench, lessons } = store.getState();
    dispatch(opened({ ...shown, inPlace: bench.tab === lessons.tab }));
    dispatch(lessonMoved(store.getState().bench.tab));
  };
}

export const useLessonState = () => useAppSelector(({ lessons }) => lessons);
