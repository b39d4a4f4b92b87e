import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 1_500 },
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
