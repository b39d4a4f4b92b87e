import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { SnackbarProvider } from 'notistack';
import { Provider } from 'react-redux';
import { lazy } from 'react';
import { BrowserRouter, Navigate, Route, Routes, useLocation } from 'react-router';
import { databaseHere, screensOf } from '../api/database.ts';
import { AppearanceContext, useAppearance } from './appearance.ts';
import { Frame } from './Frame.tsx';
import { ScreenBoundary } from './ScreenBoundary.tsx';
import { store } from './store.ts';
import { themes } from './theme.ts';

/** Screens come when they are looked at, each with what it alone needs. */
const BenchScreen = lazy(async () => ({ default: (await import('../features/bench/BenchScreen.tsx')).BenchScreen }));
const DataScreen = lazy(async () => ({ default: (await import('../features/data/DataScreen.tsx')).DataScreen }));
const IndexesScreen = lazy(async () => ({ default: (await import('../features/indexes/IndexesScreen.tsx')).IndexesScreen }));
const SearchScreen = lazy(async () => ({ default: (await import('../features/search/SearchScreen.tsx')).SearchScreen }));
const PublishScreen = lazy(async () => ({ default: (await import('../features/publish/PublishScreen.tsx')).PublishScreen }));
const RunsScreen = lazy(async () => ({ default: (await import('../features/runs/RunsScreen.tsx')).RunsScreen }));

/** Whatever is not a screen leads to the Bench, with what was asked there. */
function ToBench() {
  const { search, hash } = useLocation();
  return <Navigate to={{ pathname: '/bench', search, hash }} replace />;
}

export function App() {
  const appearance = useAppearance();
  return (
    <Provider store={store}>
      <AppearanceContext value={appearance}>
        <ThemeProvider theme={themes[appearance.mode]}>
          <CssBaseline />
          <SnackbarProvider maxSnack={3} autoHideDuration={6_000} anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}>
            <ScreenBoundary screen="The page">
              <BrowserRouter basename={screensOf(databaseHere) || '/'}>
                <Routes>
                  <Route element={<Frame />}>
                    <Route path="/bench" element={<BenchScreen />} />
                    <Route path="/data/:collection?" element={<DataScreen />} />
                    <Route path="/indexes/:collection?" element={<IndexesScreen />} />
                    <Route path="/search" element={<SearchScreen />} />
                    <Route path="/publish/:publication?" element={<PublishScreen />} />
                    <Route path="/runs" element={<RunsScreen />} />
                    <Route path="*" element={<ToBench />} />
                  </Route>
                </Routes>
              </BrowserRouter>
            </ScreenBoundary>
          </SnackbarProvider>
        </ThemeProvider>
      </AppearanceContext>
    </Provider>
  );
}
