import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { opened } from '../../../state/bench/benchSlice.ts';
import { lessonBegun } from '../../../state/lessons.ts';
import type { Lesson } from './lessons.ts';

/** Begins a lesson in a tab of its own: what stands on the Bench stays. */
export function useBeginLesson(): (lesson: Lesson) => void {
  const dispatch = useAppDispatch();
  return ({ id, begins }) => {
    dispatch(opened({ text: begins, view: 'table' }));
    dispatch(lessonBegun(id));
  };
}

export const useLessonState = () => useAppSelector(({ lessons }) => lessons);
