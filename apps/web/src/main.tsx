import '@fontsource-variable/instrument-sans/index.css';
import '@fontsource-variable/jetbrains-mono/index.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app/App.tsx';
import { reloadWhereOutdated } from './app/reloadOnce.ts';

reloadWhereOutdated();

const root = document.getElementById('root');
if (root === null) throw new Error('the page has no root');
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
