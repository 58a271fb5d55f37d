/** A part of a condition that is not followed, by its number, and whether it is taken to hold. */
export interface Guess {
  readonly part: number;
  readonly holds: boolean;
}

/** Guesses of one step that are tried both ways, and ways of one step that are tried, at the most. */
const mostGuesses = 60;
const mostWays = 4096;

/** The guesses of one step after the other: as planned, and past the plan that all holds. */
export class Guesses {
  #planned: readonly Guess[] = [];
  #made: Guess[] = [];
  #ways = 0;

  /** Begins a way in which a step can go; its first is planned by nothing. */
  plan(planned: readonly Guess[]): void {
    this.#ways = planned.length === 0 ? 1 : this.#ways + 1;
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
    return this.#made.length > mostGuesses || this.#ways > mostWays;
  }

  /** A plan for the next way in which the step can go, until there is none: the last guess that was taken to hold does not. */
  get others(): readonly Guess[] | undefined {
    const last = this.#made.slice(0, mostGuesses).findLastIndex(({ holds }) => holds);
    if (last < 0 || this.#ways > mostWays) return undefined;
    return [...this.#made.slice(0, last), { part: this.#made[last]!.part, holds: false }];
  }
}
