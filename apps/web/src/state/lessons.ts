import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { keptName } from '../api/database.ts';

/** How far somebody is with the lessons; the browser keeps it. */
export interface LessonState {
  /** The lesson that is under way. */
  readonly id: string | null;
  readonly step: number;
  /** Those that were gone through. */
  readonly done: readonly string[];
  /** Whether the ways to begin were told of once. */
  readonly isWelcomed: boolean;
}

const place = keptName('zesty-sieve-lessons');
const beginning: LessonState = { id: null, step: 0, done: [], isWelcomed: false };

function restored(): LessonState {
  try {
    return { ...beginning, ...(JSON.parse(localStorage.getItem(place) ?? '{}') as Partial<LessonState>) };
  } catch {
    return beginning;
  }
}

export function keepLessons(state: LessonState): void {
  try {
    localStorage.setItem(place, JSON.stringify(state));
  } catch {
    // A browser that keeps nothing begins the lesson anew with the page.
  }
}

export const lessonSlice = createSlice({
  name: 'lessons',
  initialState: restored,
  reducers: {
    lessonBegun: (state, { payload: id }: PayloadAction<string>) => ({ ...state, id, step: 0, isWelcomed: true }),
    stepDone: (state, { payload: steps }: PayloadAction<number>) => {
      const { id } = state;
      const step = state.step + 1;
      return { ...state, step, done: id !== null && step === steps && !state.done.includes(id) ? [...state.done, id] : state.done };
    },
    lessonEnded: (state) => ({ ...state, id: null, step: 0 }),
    welcomed: (state) => ({ ...state, isWelcomed: true }),
  },
});
export const { lessonBegun, stepDone, lessonEnded, welcomed } = lessonSlice.actions;
