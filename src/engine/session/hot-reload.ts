import type { GameNames } from '../../design/names-of.js';
import { Game } from './game.js';
import type { GameOptions, GameSession, Reload } from './session.js';

/** A game under development: its running sessions go on under a changed design. */
export class HotGame<Names extends GameNames = GameNames> extends Game<Names> {
  /** Sessions that somebody may still use. */
  #sessions: WeakRef<GameSession<Names>>[] = [];
  #next: HotGame<Names> | undefined;

  /** Starts a session under the newest design. */
  override start(options: GameOptions = {}): GameSession<Names> {
    if (this.#next !== undefined) return this.#next.start(options);
    const session = super.start(options);
    this.#sessions = this.#sessions.filter((each) => each.deref() !== undefined);
    this.#sessions.push(new WeakRef(session));
    return session;
  }

  /** Every running session goes on under another design, and so does whatever starts later; see `GameSession.reload`. */
  replaceBy(next: HotGame<Names>): Reload[] {
    this.#next = next;
    next.#sessions.push(...this.#sessions.splice(0));
    return next.#sessions.flatMap((each) => each.deref()?.reload(next) ?? []);
  }
}
