import type { Design } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import type { Search } from '../search/search.js';
import type { UntimedPath } from './passage.js';
import { doubtIn, overdrawn } from './refine.js';
import { type Ground, lostEndings, lostWins, type Trap, trapsOf } from './traps.js';
import type { Fault } from './verdict.js';
import { realise, type Witness } from './witness.js';

/** A level that is over the moment it begins: the live screen, where it leads, and a session that shows it. */
interface OverAtOnce {
  readonly screen: string;
  readonly to: string;
  readonly place: Place;
  readonly witness: Witness;
}

/** What every state of a game was asked for. */
export interface Lasting {
  readonly traps: readonly Trap[];
  readonly lostEndings: readonly Trap[];
  readonly lostWins: readonly Trap[];
  readonly atOnce: readonly OverAtOnce[];
  readonly faults: readonly Fault[];
  /** What of it was not asked of every state, in words: whether ... */
  readonly open: readonly string[];
  /** Whether any of that keeps a game from coming to its end: that a win can be lost for good does not. */
  readonly isGrave: boolean;
}

/** Asks every state what must not be so of any. */
export function lastingIn(ground: Ground): Lasting {
  const open: string[] = [];
  let isGrave = false;
  const orOpen = <Found>(
    found: readonly Found[] | undefined,
    asked: string,
    isGraveIfSo = true,
  ): readonly Found[] => {
    if (found === undefined) {
      open.push(`whether ${asked}`);
      isGrave ||= isGraveIfSo;
    }
    return found ?? [];
  };
  const found = {
    traps: orOpen(trapsOf(ground), 'an ending can always be reached'),
    lostEndings: orOpen(lostEndings(ground), 'a new run can begin after each ending'),
    lostWins: orOpen(lostWins(ground), 'a win can be lost for good before the run ends', false),
    atOnce: orOpen(atOnce(ground), 'a level can be over at once'),
    // A search that went through all there is met them all.
    faults:
      ground.search.doubt() === undefined
        ? []
        : orOpen(ground.refiner.faults(), 'a session can end in a fault'),
  };
  return { ...found, open, isGrave };
}

/** Sessions that begin a level which is over at once; undefined where that was not found out. */
function atOnce({ design, search, refiner }: Ground): readonly OverAtOnce[] | undefined {
  const { shown } = atOnceIn(design, search);
  if (search.doubt() === undefined || shown.length > 0) return shown;
  return refiner.answerWhole<readonly OverAtOnce[]>((of) => {
    const found = atOnceIn(design, of);
    const [first] = found.shown;
    if (first !== undefined) return overdrawn(of, first.witness) ?? { answer: found.shown };
    const [path] = found.unshown;
    return path === undefined ? { answer: [] } : doubtIn(of, path);
  });
}

/** The levels that are over at once by a search: the sessions that show it, and the ways for which there is none. */
function atOnceIn(design: Design, search: Search): { shown: OverAtOnce[]; unshown: UntimedPath[] } {
  const shown: OverAtOnce[] = [];
  const unshown: UntimedPath[] = [];
  for (const { begins, ends, row, edge } of search.notes.atOnce) {
    const begun = design.transitions[begins];
    if (begun === undefined) continue;
    const path = row < 0 ? [] : search.pathOver(row, edge);
    const { to, place } = design.transitions[ends]!;
    const witness = realise(design, search.game, path, { transition: ends });
    if (witness === undefined) unshown.push(path);
    else shown.push({ screen: begun.to, to, place, witness });
  }
  return { shown, unshown };
}
