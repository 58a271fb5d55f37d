import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  base: './',
  plugins: [react()],
  worker: { format: 'es' },
  build: { outDir: '../dist/workbench', emptyOutDir: true, target: 'es2022' },
  server: { fs: { allow: ['..'] } },
});
