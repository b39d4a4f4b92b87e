import '@fontsource-variable/instrument-sans/index.css';
import '@fontsource-variable/jetbrains-mono/index.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app/App.tsx';
import { reloadWhereOutdated } from './app/reloadOnce.ts';
import { store } from './app/store.ts';
import { tabsRestored } from './state/bench/benchSlice.ts';
import { restoredTabs } from './state/bench/drafts.ts';
import { knowOwnWindow, rememberOwnWindow } from './state/bench/ownWindow.ts';

reloadWhereOutdated();

const root = document.getElementById('root');
if (root === null) throw new Error('the page has no root');
const restore = (): void => void store.dispatch(tabsRestored(restoredTabs()));
const isRemembered = rememberOwnWindow();
if (isRemembered) restore();
void knowOwnWindow().then(() => !isRemembered && restore());
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
