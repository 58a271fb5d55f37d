import type { Value } from '../design/model.js';
import type { MakeCarrier } from './carrier.js';
import type { GameForm } from './form.js';
import { type GameOptions, GameSession } from './session.js';

/** The names of one design, for the compiler: what its counters hold, and what can be sent and shown. */
export interface GameNames {
  readonly counters: { readonly [name: string]: Value };
  readonly screens: string;
  /** Outside events: outcomes of pieces, appearances and inputs. */
  readonly events: string;
  readonly timers: string;
  readonly cues: string;
}

/** A design that is ready to be played, read now or written out ahead of time by `jocus build`. */
export class Game<Names extends GameNames = GameNames> {
  constructor(
    readonly form: GameForm,
    readonly makeCarrier: MakeCarrier,
  ) {}

  /**
   * A session from its first start.
   *
   * @throws UsageError for a seed or session that is not a whole number in its range
   */
  start(options: GameOptions = {}): GameSession<Names> {
    return new GameSession<Names>(this, options);
  }
}
