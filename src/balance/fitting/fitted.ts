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

/** A key of a player, other than its skill, that the log gives a value for. */
export interface FittedHabit {
  /** As it is written in a design; of `caution` what it adds to skill, of `timing` how far attempts go off their usual time either way. */
  readonly key:
    | 'learning'
    | 'practice'
    | 'caution'
    | 'spread'
    | 'pace'
    | 'paceLearning'
    | 'paceSpread'
    | 'timing'
    | 'quits';
  readonly estimate: Estimate;
  /** What the design says; undefined for a player that it does not have. */
  readonly design: number | undefined;
  /** Attempts, sessions or lost runs behind it. */
  readonly of: number;
  readonly unit: 'attempts' | 'sessions' | 'lost runs';
}

export interface FittedPlayer extends FittedValue {
  /** Those that enough of the log gives a value for. */
  readonly habits: readonly FittedHabit[];
}
