import type { GameNames } from '../../design/names-of.js';
import type { GameForm } from '../program/form.js';
import type { MakeBackend } from '../run/backend.js';
import { type GameOptions, GameSession } from './session.js';

/** A design that is ready to be played, read now or written out ahead of time by `jocus build`. */
export class Game<Names extends GameNames = GameNames> {
  constructor(
    readonly form: GameForm,
    readonly makeBackend: MakeBackend,
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
