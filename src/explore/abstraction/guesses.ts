/** A part of a condition that is not followed, by its number, and whether it is taken to hold. */
export interface Guess {
  readonly part: number;
  readonly holds: boolean;
}

/** Guesses in one step that are tried both ways. */
const mostGuesses = 12;

/** The guesses of one step after the other: as planned, and past the plan that all holds. */
export class Guesses {
  #planned: readonly Guess[] = [];
  #made: Guess[] = [];

  /** Begins a step. */
  plan(planned: readonly Guess[]): void {
    this.#planned = planned;
    this.#made = [];
  }

  /** The next guess of the step, 1 or 0. */
  make(part: number): number {
    const at = this.#made.length;
    const holds = this.#planned[at]?.holds ?? at < mostGuesses;
    this.#made.push({ part, holds });
    return holds ? 1 : 0;
  }

  /** Those that the step has made so far. */
  get made(): readonly Guess[] {
    return this.#made;
  }

  /** Whether the step asked for so many that not all of them are tried both ways. */
  get isTooMany(): boolean {
    return this.#made.length > mostGuesses;
  }

  /** A plan for the next way in which the step can go, until there is none: the last guess that was taken to hold does not. */
  get others(): readonly Guess[] | undefined {
    const last = this.#made.slice(0, mostGuesses).findLastIndex(({ holds }) => holds);
    if (last < 0) return undefined;
    return [...this.#made.slice(0, last), { part: this.#made[last]!.part, holds: false }];
  }
}
