import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  base: './',
  plugins: [react()],
  worker: { format: 'es' },
  build: { outDir: '../dist/workbench', emptyOutDir: true, target: 'es2022' },
  // What the workers need is found at the start: found later, each would load the page anew.
  optimizeDeps: { entries: ['index.html', 'src/workers/*.worker.ts'] },
  server: { fs: { allow: ['..'] } },
});
