import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import type { UntimedGame } from '../abstraction/untimed-game.js';
import type { Claim } from './claim.js';
import { passUntil, type TimedStep, type UntimedPath, wayfarer } from './passage.js';
import { confirm } from './witness.js';

/** Clocks that fire while a piece is waited for, at the most. */
const mostFired = 1000;

/**
 * Whether the design's own spawns suffice for a way: its events are sent in their order, each outcome once a piece of its kind is there,
 * and what the way claims is looked for at the end.
 */
export function isReachedBySpawns(
  design: Design,
  game: UntimedGame,
  path: UntimedPath | readonly TimedStep[],
  claim: Claim,
): boolean {
  const { form } = game;
  const way = wayfarer(game, true);
  const { machine } = way;
  machine.begin();
  try {
    for (const { edge } of path) {
      const { kind, index, silent } = edge;
      way.silence(silent);
      if (kind === 'timer' || kind === 'wait') {
        if (!passUntil(machine, kind, index)) return false;
        continue;
      }
      const { kind: what, piece } = form.events[index]!;
      if (kind === 'spawn' || what === 'appeared') continue;
      for (let fired = 0; piece >= 0 && machine.cells[form.cells.present + piece] === 0; fired++) {
        if (fired === mostFired || !machine.peek()) return false;
        machine.fire();
      }
      way.send(index);
    }
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    return false;
  }
  return confirm(design, way.timetable, true, claim) !== undefined;
}
