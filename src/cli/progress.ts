import cliProgress from 'cli-progress';
import type { Terminal } from './terminal.js';

/** Says how far long work has come, and a word about it. */
export type Advance = (done: number, word?: string) => void;

/**
 * Runs long work with a bar on standard error, where that is a terminal: how much is done, how fast, and how long it takes yet.
 *
 * @param mustHold called whenever some of it is done; what it throws ends the work
 */
export function withProgress<Result>(
  terminal: Terminal,
  unit: string,
  all: number,
  work: (advance: Advance) => Result,
  mustHold: () => void = () => {},
): Result {
  if (!terminal.progress) return work(mustHold);
  const began = Date.now();
  const bar = new cliProgress.SingleBar(
    {
      format: `{bar} {value} of {total} ${unit}, {rate}/s, {eta_formatted} left {word}`,
      stream: process.stderr,
      clearOnComplete: true,
      hideCursor: true,
      barsize: 30,
    },
    cliProgress.Presets.shades_classic,
  );
  let last = '';
  bar.start(all, 0, { rate: 0, word: last });
  const advance: Advance = (done, word = last) => {
    mustHold();
    last = word;
    bar.update(done, { rate: Math.round((1000 * done) / Math.max(1, Date.now() - began)), word });
  };
  const stop = (): void => bar.stop();
  let isWaiting = false;
  try {
    const result = work(advance);
    if (result instanceof Promise) {
      isWaiting = true;
      return result.finally(stop) as Result;
    }
    return result;
  } finally {
    if (!isWaiting) stop();
  }
}
