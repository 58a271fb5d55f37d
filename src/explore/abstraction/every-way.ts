import { DesignError } from '../../design/problems/problem.js';
import type { Guess } from './guesses.js';
import { type Kept, readBy } from './loosen.js';
import type { Edge, UntimedGame } from './untimed-game.js';

/** What answers hang on that a game does not follow, as it comes up. */
export interface Doubts extends Kept {
  readonly counters: Set<number>;
  readonly pieces: Set<number>;
}

export const noDoubts = (): Doubts => ({ counters: new Set(), pieces: new Set() });

export function addDoubts({ counters, pieces }: Kept, to: Doubts): void {
  for (const counter of counters) to.counters.add(counter);
  for (const piece of pieces) to.pieces.add(piece);
}

/**
 * Lets one thing happen in every way in which guesses can come out.
 *
 * @param prepare puts the machine into the state before each
 * @param tell told after each whether it happened at all, and the fault in which it ended
 */
export function stepEveryWay(
  game: UntimedGame,
  edge: Edge,
  prepare: () => void,
  tell: (happened: boolean, fault: DesignError | undefined) => void,
): void {
  for (
    let guesses: readonly Guess[] | undefined = edge.guesses;
    guesses !== undefined;
    guesses = game.guesses.others
  ) {
    prepare();
    let happened = true;
    let fault: DesignError | undefined;
    try {
      happened = game.step(guesses.length === 0 ? edge : { ...edge, guesses });
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      fault = error;
    }
    tell(happened, fault);
  }
}

/**
 * Whether something comes of a step that is offered in a state.
 *
 * @param isSo asked of the machine after the step, where it happened and ended in no fault
 * @param doubts where it is given, it has to come of it whatever is guessed, and nobody may be needed for it of whom it is not counted
 * whether he is there; what it hangs on is put down there
 */
export function comesOf(
  game: UntimedGame,
  edge: Edge,
  prepare: () => void,
  isSo: () => boolean,
  doubts: Doubts | undefined,
): boolean {
  let [some, all] = [false, edge.kind !== 'settle'];
  const guessed = new Set<number>();
  stepEveryWay(game, edge, prepare, (happened, fault) => {
    const comes = happened && fault === undefined && isSo();
    some ||= comes;
    all &&= comes;
    for (const { part } of game.guesses.made) guessed.add(part);
  });
  if (!some || doubts === undefined) return some;
  prepare();
  const piece = game.pieceOf(edge);
  const isCounted = !game.loose.uncounted.has(piece);
  if (all && isCounted) return true;
  addDoubts(readBy(game.loose, guessed), doubts);
  if (!isCounted) doubts.pieces.add(piece);
  return false;
}
