import type { Design } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import type { Search } from '../search/search.js';
import { doubtIn } from './refine.js';
import { type Ground, lostEndings, lostWins, type Trap, trapsOf } from './traps.js';
import type { Fault } from './verdict.js';
import { realise, type Witness } from './witness.js';

/** A level that is over the moment it begins: the live screen, where it leads, and a session that shows it. */
export interface OverAtOnce {
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
}

/** Asks every state what must not be so of any. */
export function lastingIn(ground: Ground): Lasting {
  const open: string[] = [];
  const orOpen = <Found>(found: readonly Found[] | undefined, asked: string): readonly Found[] => {
    if (found === undefined) open.push(`whether ${asked}`);
    return found ?? [];
  };
  return {
    traps: orOpen(trapsOf(ground), 'an ending can always be reached'),
    lostEndings: orOpen(lostEndings(ground), 'a new run can begin after each ending'),
    lostWins: orOpen(lostWins(ground), 'a win can be lost for good before the run ends'),
    atOnce: orOpen(atOnce(ground), 'a level can be over at once'),
    // A search that went through all its states met them all.
    faults: ground.search.isCut ? orOpen(ground.refiner.faults(), 'a session can end in a fault') : [],
    open,
  };
}

/** Sessions that begin a level which is over at once; undefined where that was not found out. */
function atOnce({ design, search, refiner }: Ground): readonly OverAtOnce[] | undefined {
  const found = atOnceIn(design, search).flatMap(({ witness, ...each }) =>
    witness === undefined ? [] : [{ ...each, witness }],
  );
  if (!search.isCut || found.length > 0) return found;
  return refiner.answerWhole<readonly OverAtOnce[]>((of) => {
    const all = atOnceIn(design, of);
    if (all.length === 0) return { answer: [] };
    const shown = all.flatMap(({ witness, path, ...each }) =>
      witness === undefined ? [] : [{ ...each, witness }],
    );
    if (shown.length === 0) return doubtIn(of, all[0]!.path);
    return refiner.overdrawn(of, shown[0]!.witness) ?? { answer: shown };
  });
}

function atOnceIn(design: Design, search: Search) {
  return search.notes.atOnce.flatMap(({ begins, ends, row, edge }) => {
    const path = row < 0 ? [] : search.pathOver(row, edge);
    const way = design.transitions[ends]!;
    const witness = realise(design, search.game, path, { transition: ends });
    const begun = design.transitions[begins];
    if (begun === undefined) return [];
    return [{ screen: begun.to, to: way.to, place: way.place, witness, path }];
  });
}
