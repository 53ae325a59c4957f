import react from '@vitejs/plugin-react';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  resolve: { alias: { '@dyepot/core': fileURLToPath(new URL('../core', import.meta.url)) } },
  worker: { format: 'es' },
  build: { outDir: '../../dist/web', emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:4780' } },
});
