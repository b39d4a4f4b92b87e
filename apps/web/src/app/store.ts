import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from '../api/api.ts';
import { benchSlice } from '../features/bench/state/benchSlice.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, bench: benchSlice.reducer },
  // Results are large and made by the server; looking through them for odd values at every action would cost more than it tells.
  middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
