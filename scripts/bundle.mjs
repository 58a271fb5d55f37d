// Two files that are made of many: the engine as one script, which `jocus build` writes into the modules it makes, and the command-line
// tool with all that it needs, which starts in half the time so.
import { fileURLToPath } from 'node:url';
import { build } from 'vite';

const path = (file) => fileURLToPath(new URL(file, import.meta.url));
/** @type {import('vite').InlineConfig} */
const common = { configFile: false, logLevel: 'warn' };

await build({
  ...common,
  build: {
    lib: {
      entry: path('../dist/engine/index.js'),
      formats: ['iife'],
      name: 'jocusEngine',
      fileName: () => 'engine.iife.js',
    },
    outDir: path('../dist'),
    emptyOutDir: false,
    copyPublicDir: false,
  },
});

await build({
  ...common,
  ssr: { noExternal: true },
  build: {
    ssr: true,
    outDir: path('../dist/bin'),
    minify: true,
    // The notices of the packages that it now holds.
    license: { fileName: 'licenses.md' },
    copyPublicDir: false,
    rolldownOptions: {
      // Who uses a queue installs them.
      external: ['bullmq', 'ioredis'],
      input: {
        jocus: path('../dist/cli/main.js'),
        'run-command': path('../dist/cli/program/run-command.js'),
        'simulate-worker': path('../dist/simulate/simulate-worker.js'),
        'queue-thread': path('../dist/node/queue/queue-thread.js'),
      },
      output: { entryFileNames: '[name].js', chunkFileNames: '[name].js' },
    },
  },
});
