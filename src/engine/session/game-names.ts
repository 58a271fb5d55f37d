import type { Value } from '../../design/model.js';
import type { GameForm } from '../program/form.js';
import type { MakeBackend } from '../run/backend.js';

/** The names of one design, for the compiler: what its counters hold, and what can be sent and shown. */
export interface GameNames {
  readonly counters: { readonly [name: string]: Value };
  readonly screens: string;
  /** Outside events: outcomes of pieces, appearances and inputs. */
  readonly events: string;
  readonly timers: string;
  readonly cues: string;
}

/** What a session needs of a game. */
export interface BuiltGame {
  readonly form: GameForm;
  readonly makeBackend: MakeBackend;
}
