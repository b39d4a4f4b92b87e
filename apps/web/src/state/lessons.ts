import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { z } from 'zod';
import { keptName } from '../api/database.ts';
import { tabClosed } from './bench/benchSlice.ts';
import { keepText, keptJson } from './kept.ts';

/** How far somebody is with the lessons; the browser keeps it. */
const lessonState = z.object({
  /** The lesson that is under way. */
  id: z.string().nullable().catch(null),
  /** The tab that it is gone through in: what stands in others is not written over. */
  tab: z.string().nullable().catch(null),
  step: z.int().min(0).catch(0),
  /** Those that were gone through. */
  done: z.array(z.string()).catch([]),
  /** Whether the ways to begin were told of once. */
  isWelcomed: z.boolean().catch(false),
});
export type LessonState = Readonly<z.infer<typeof lessonState>>;

const place = keptName('zesty-sieve-lessons');

const restored = (): LessonState => lessonState.safeParse(keptJson(place)).data ?? lessonState.parse({});
export const keepLessons = (state: LessonState): void => keepText(place, JSON.stringify(state));

export const lessonSlice = createSlice({
  name: 'lessons',
  initialState: restored,
  reducers: {
    lessonBegun: (state, { payload: { id, tab } }: PayloadAction<{ id: string; tab: string }>) => ({
      ...state,
      id,
      tab,
      step: 0,
      isWelcomed: true,
    }),
    lessonMoved: (state, { payload: tab }: PayloadAction<string>) => ({ ...state, tab }),
    stepDone: (state, { payload: steps }: PayloadAction<number>) => {
      const { id } = state;
      const step = state.step + 1;
      return { ...state, step, done: id !== null && step === steps && !state.done.includes(id) ? [...state.done, id] : state.done };
    },
    lessonEnded: (state) => ({ ...state, id: null, tab: null, step: 0 }),
    welcomed: (state) => ({ ...state, isWelcomed: true }),
  },
  // Another tab may come to be called as one that is gone was.
  extraReducers: (builder) => {
    builder.addCase(tabClosed, (state, { payload }) => (payload === state.tab ? { ...state, tab: null } : state));
  },
});
export const { lessonBegun, lessonMoved, stepDone, lessonEnded, welcomed } = lessonSlice.actions;
