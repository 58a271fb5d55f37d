import { defineConfig } from 'vite';
import { jocus } from '../../dist/node/vite.js';

export default defineConfig({
  root: import.meta.dirname,
  base: './',
  plugins: [jocus()],
  build: { outDir: 'dist', emptyOutDir: true },
  server: { fs: { allow: ['../..'] } },
});
