import { constants } from 'node:os';
import { Deadline } from './deadline.js';
import type { ExitCode } from './outcome.js';

const signals = ['SIGINT', 'SIGTERM'] as const;

/**
 * Whether somebody asked the process to stop, or its time is over, for work that ends in good order and keeps what is done. Asked a second
 * time, the process ends at once.
 */
export class Interruption {
  #signal: (typeof signals)[number] | undefined;
  readonly #hear = (signal: NodeJS.Signals): void => {
    this.#signal = signal as (typeof signals)[number];
    this.release();
  };

  readonly #deadline: Deadline;

  constructor(seconds: number) {
    this.#deadline = new Deadline(seconds);
    for (const signal of signals) process.on(signal, this.#hear);
  }

  get aborted(): boolean {
    return this.#signal !== undefined || this.#deadline.isOver();
  }

  /** Why it stopped, in words; undefined where it did not. */
  get reason(): string | undefined {
    if (this.#signal !== undefined) return `by ${this.#signal}`;
    return this.#deadline.isOver() ? `at the limit of ${this.#deadline.seconds} s (--seconds)` : undefined;
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
