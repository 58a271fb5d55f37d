import type { Design, Value } from '../../design/model.js';
import type { GameNames, NamedDesign } from '../../design/names-of.js';
import { formOf } from '../program/lower/lower.js';
import { toCell } from '../program/value.js';
import { type BackendName, backendOf } from '../run/backend.js';
import { Game } from './game.js';
import { type GameOptions, GameSession } from './session.js';

export interface SessionOptions extends GameOptions {
  /** Printed code where the page allows it, unless it is given. */
  readonly backend?: BackendName;
}

/** A design as a game; `backend` as in `SessionOptions`. */
export function gameOf<Names extends GameNames = GameNames>(
  design: NamedDesign<Names>,
  backend?: BackendName,
): Game<Names> {
  const form = formOf(design);
  return new Game<Names>(form, backendOf(form, backend, true));
}

/**
 * A running session of a design.
 *
 * @example
 * const session = new Session(readDesign(text));
 * session.send('input.start');
 * session.send('blossom.taken');
 * session.counter('score') // => 10
 */
export class Session<Names extends GameNames = GameNames> extends GameSession<Names> {
  readonly design: Design;

  /**
   * @param forced draws whose values are given, by `asked name`: those of a record
   * @throws UsageError for a seed or session that is not a whole number in its range, or printed code where it is forbidden
   */
  constructor(
    design: NamedDesign<Names>,
    options: SessionOptions = {},
    forced: ReadonlyMap<string, number> = new Map(),
  ) {
    super(gameOf<Names>(design, options.backend), options, forced);
    this.design = design;
  }

  /** Sets the scene for a test of the design: counters, level and screen as given, then conditions take effect. */
  setScene(scene: ReadonlyMap<string, Value>): void {
    const { form, machine } = this;
    const { cells } = machine;
    const at = form.cells;
    this.happen('start', 'given', () => {
      for (const [name, value] of scene) {
        const counter = form.counters.findIndex((each) => each.name === name);
        if (counter >= 0) cells[at.counters + counter] = toCell(form.counters[counter]!, value);
      }
      const level = scene.get('level');
      if (level !== undefined) {
        cells[at.level] = Number(level) - 1;
        machine.respawn();
      }
      const screen = scene.get('screen');
      cells[at.screen] =
        screen === undefined
          ? Math.max(
              0,
              form.screens.findIndex((each) => each.live),
            )
          : form.screens.findIndex((each) => each.name === screen);
      machine.settle();
      return 'handled';
    });
  }
}
