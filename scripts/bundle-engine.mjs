// The engine as one script, which `jocus build` writes into the modules it makes.
import { fileURLToPath } from 'node:url';
import { build } from 'vite';

await build({
  configFile: false,
  logLevel: 'warn',
  build: {
    lib: {
      entry: fileURLToPath(new URL('../dist/engine/index.js', import.meta.url)),
      formats: ['iife'],
      name: 'jocusEngine',
      fileName: () => 'engine.iife.js',
    },
    outDir: fileURLToPath(new URL('../dist', import.meta.url)),
    emptyOutDir: false,
    copyPublicDir: false,
  },
});
