import { UsageError } from '../design/problems/problem.js';

/** The time that one command may take. */
export class Deadline {
  readonly #ends: number;

  constructor(readonly seconds: number) {
    this.#ends = performance.now() + seconds * 1000;
  }

  readonly isOver = (): boolean => performance.now() >= this.#ends;

  /**
   * @param help what makes the work smaller
   * @throws UsageError where the time is over
   */
  mustHold(help: string): void {
    if (this.isOver())
      throw new UsageError(
        'out-of-time',
        `The limit of ${this.seconds} s was reached before this was done, so there is no result. ${help}, or allow more time with --seconds.`,
      );
  }
}
