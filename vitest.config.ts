import { defineConfig } from 'vitest/config';
import type { Reporter } from 'vitest/node';

/** Closes the run with one plain line that any CI can read. */
const countsLast: Reporter = {
  onTestRunEnd(modules, errors) {
    let passed = 0;
    let failed = errors.length;
    for (const module of modules) {
      let failedHere = 0;
      for (const test of module.children.allTests()) {
        const { state } = test.result();
        if (state === 'passed') passed++;
        // What a filter left out has not failed.
        else if (state !== 'skipped') failedHere++;
      }
      // A file that cannot be loaded, or whose setting up fails, has no test that failed.
      failed += failedHere === 0 && !module.ok() ? 1 : failedHere;
    }
    process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
  },
};

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    setupFiles: ['test/support/fixed-seed.ts'],
    // The library is loaded once for all files of a thread, not again for each.
    isolate: false,
    // Tests run most code a few times only: what V8 optimises early it soon throws away. Later releases of Node do not know the flag.
    execArgv: process.versions.node.startsWith('20.') ? ['--interrupt-budget=600000'] : [],
    // The pages that are driven wait more than they compute: as many files at once as there are cores.
    maxWorkers: '100%',
    testTimeout: 180_000,
    hookTimeout: 120_000,
    // Values that are looked for in a page again and again: a second is short on a machine that does much else.
    expect: { poll: { timeout: 30_000 } },
    reporters: ['default', countsLast],
  },
});
