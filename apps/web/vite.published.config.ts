import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/** Script that the page of a publication fetches before anything is seen; its chart comes later. */
const mostBytes = 250_000;

const firstPartStaysSmall: Plugin = {
  name: 'first-part-stays-small',
  generateBundle(_options, bundle) {
    const entry = Object.values(bundle).find((part) => part.type === 'chunk' && part.isEntry);
    if (entry?.type !== 'chunk') return;
    const parts = new Set([entry.fileName, ...entry.imports]);
    const bytes = Object.values(bundle).reduce((sum, part) => sum + (part.type === 'chunk' && parts.has(part.fileName) ? part.code.length : 0), 0);
    const told = `the published page fetches ${Math.round(bytes / 1000)} KB of script, and may fetch ${mostBytes / 1000}`;
    if (bytes > mostBytes) this.error(told);
    this.info(told);
  },
}; // prettier-ignore

/** The page of a publication is built apart: what it loads is all that a listener for others gives. */
export default defineConfig({
  plugins: [react(), firstPartStaysSmall],
  publicDir: false,
  build: { outDir: 'dist', emptyOutDir: false, assetsDir: 'published-files', rollupOptions: { input: 'published.html' } },
});
