import cliProgress from 'cli-progress';
import type { Terminal } from './terminal.js';

/** Runs long work with a bar on standard error, where that is a terminal. */
export function withProgress<Result>(
  terminal: Terminal,
  unit: string,
  all: number,
  work: (advance: (done: number) => void) => Result,
): Result {
  if (!terminal.progress) return work(() => {});
  const bar = new cliProgress.SingleBar(
    {
      format: `{bar} {value} of {total} ${unit}`,
      stream: process.stderr,
      clearOnComplete: true,
      hideCursor: true,
      barsize: 30,
    },
    cliProgress.Presets.shades_classic,
  );
  bar.start(all, 0);
  try {
    return work((done) => bar.update(done));
  } finally {
    bar.stop();
  }
}
