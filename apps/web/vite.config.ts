import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/** What every page fetches before anything is seen. */
const mostBytes = 600_000;

/** Fails a build whose first part has grown too large: what is not needed at first sight comes later by itself. */
const firstPartStaysSmall: Plugin = {
  name: 'first-part-stays-small',
  generateBundle(_options, bundle) {
    for (const part of Object.values(bundle)) {
      if (part.type !== 'chunk' || !part.isEntry) continue;
      const told = `${part.fileName} has ${Math.round(part.code.length / 1000)} KB, and may have ${mostBytes / 1000}`;
      if (part.code.length > mostBytes) this.error(`${told}: import what is not needed at once by later() or lazy().`);
      this.info(told);
    }
  },
};

/** Fetches the fonts of every page with its scripts: a font that comes after the first sight moves everything beside a word. */
const fontsComeFirst: Plugin = {
  name: 'fonts-come-first',
  transformIndexHtml: {
    order: 'post',
    handler: (_html, { bundle = {} }) =>
      Object.keys(bundle)
        .filter((name) => /-latin-wght-normal-.*\.woff2$/.test(name))
        .map((name) => ({
          tag: 'link',
          attrs: { rel: 'preload', as: 'font', type: 'font/woff2', crossorigin: true, href: `/${name}` },
          injectTo: 'head-prepend',
        })),
  },
};

export default defineConfig({
  plugins: [react(), firstPartStaysSmall, fontsComeFirst],
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 600 },
  server: {
    host: '127.0.0.1',
    port: 5173,
    proxy: {
      '/api': {
        target: `http://127.0.0.1:${process.env.PORT ?? 4747}`,
        changeOrigin: true,
        headers: { origin: `http://127.0.0.1:${process.env.PORT ?? 4747}` },
      },
    },
  },
});
