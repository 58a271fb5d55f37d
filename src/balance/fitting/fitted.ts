import type { Estimate } from '../statistics/intervals.js';

export interface FitOptions {
  /** Sessions that are simulated of each player with the fitted values, to be compared with those that were played. */
  readonly sessions: number;
  readonly seed: number;
  /** Called now and then; what it throws ends the work. */
  readonly progress?: (() => void) | undefined;
}

export interface FittedValue {
  readonly name: string;
  readonly attempts: number;
  readonly successes: number;
  /** undefined where all attempts ended alike. */
  readonly estimate: Estimate | undefined;
  /** What the design says; undefined for a player that it does not have. */
  readonly design: number | undefined;
}

export interface FittedPlayer extends FittedValue {
  /** What skill grows by with the natural logarithm of the run; undefined where no session has several runs. */
  readonly learning: Estimate | undefined;
}
