import '@fontsource-variable/instrument-sans/index.css';
import './published.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { PublishedPage } from './PublishedPage.tsx';

const root = document.getElementById('root');
if (root === null) throw new Error('the page has no root');
createRoot(root).render(
  <StrictMode>
    <PublishedPage name={decodeURIComponent(location.pathname.split('/').findLast((part) => part !== '') ?? '')} />
  </StrictMode>,
);
