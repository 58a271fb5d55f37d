import type { GameForm } from '../program/form.js';
import type { MakeBackend } from '../run/backend.js';

/** What a session needs of a game. */
export interface BuiltGame {
  readonly form: GameForm;
  readonly makeBackend: MakeBackend;
}
