import { constants } from 'node:os';
import type { ExitCode } from './outcome.js';

const signals = ['SIGINT', 'SIGTERM'] as const;

/** Whether somebody asked the process to stop, for work that ends in good order and keeps what is done. A second time ends it at once. */
export class Interruption {
  #signal: (typeof signals)[number] | undefined;
  readonly #hear = (signal: NodeJS.Signals): void => {
    this.#signal = signal as (typeof signals)[number];
    this.release();
  };

  constructor() {
    for (const signal of signals) process.on(signal, this.#hear);
  }

  get aborted(): boolean {
    return this.#signal !== undefined;
  }

  /** What the process ends with: 128 and the number of the signal, as shells have it. */
  exitCode(otherwise: ExitCode): ExitCode {
    return this.#signal === undefined ? otherwise : ((128 + constants.signals[this.#signal]) as ExitCode);
  }

  /** Leaves the signals to the process again. */
  release(): void {
    for (const signal of signals) process.off(signal, this.#hear);
  }
}
