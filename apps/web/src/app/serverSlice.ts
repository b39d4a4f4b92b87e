import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** Whether the server is there; at the beginning it is, since the page came from it. */
export const serverSlice = createSlice({
  name: 'server',
  initialState: { isAway: false },
  reducers: {
    presence: (state, { payload: isThere }: PayloadAction<boolean>) => {
      state.isAway = !isThere;
    },
  },
});
