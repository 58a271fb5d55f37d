import type { Design } from '../design/model.js';
import { firstSessions } from './evidence/first-sessions.js';
import { type Lasting, lastingIn } from './evidence/lasting.js';
import { Refiner } from './evidence/refine.js';
import { isDecided } from './evidence/verdict.js';
import { shortestPaces, type Verdicts, verdictsOn } from './evidence/verdicts.js';
import { type EndingReach, endingsOf, type ScoreRange, scoreRange } from './optimum/extremes.js';
import { isKnownFault } from './search/first-occurrences.js';
import { type Limits, neverOver } from './search/limits.js';
import { Search } from './search/search.js';
import { playersClock, TimedRefiner } from './timed/timed-refiner.js';

export interface ExploreOptions {
  /** States that are visited at the most, by each search. */
  readonly mostStates?: number | undefined;
  /** Whether the time allowed is over; where it is, what was not found yet stays open. Without it there is no such limit. */
  readonly isOver?: (() => boolean) | undefined;
  readonly progress?: ((states: number) => void) | undefined;
}

export const exploreDefaults = { mostStates: 2_000_000 } as const;

/** States that are visited before what is still open is asked of searches that follow less; only what these leave open makes it go on. */
const firstLook = 50_000;

/** States past which what rules and outcomes depend on need not be followed any further, once each of them was seen. */
const enough = 10_000;

/** A search is not gone on with where there could be so many times more states than it may visit: it would not come to an end. */
const mostTimesMore = 1_000_000;

/** Why something is open of a search that went through all there is. */
const notFollowed = 'there are too many states to follow each of them to its end';

export interface Exploration extends Verdicts {
  /** States visited by the search that follows the flow. */
  readonly states: number;
  readonly traps: Lasting['traps'];
  /** Endings from which no fresh start of a run can be reached any more. */
  readonly lostEndings: Lasting['lostEndings'];
  /** States of play from which a run cannot be won any more, though right before it could. */
  readonly lostWins: Lasting['lostWins'];
  /** Levels that are over the moment they begin. */
  readonly atOnce: Lasting['atOnce'];
  /** How soon each ending that is reached can come. */
  readonly endings: readonly EndingReach[];
  /** What the score can come to, where that was found out. */
  readonly score: ScoreRange | undefined;
  /** False where something is left open, or a session ends in a fault. */
  readonly isComplete: boolean;
  /** What may still be so although it was not found, and why; undefined where nothing is open. */
  readonly leftOpen: string | undefined;
  /** Whether something that may be an error is left open since the limit on states was hit, where another limit could settle it. */
  readonly isCut: boolean;
  /** Whether the time allowed was over before all was looked for. */
  readonly isLate: boolean;
}

/**
 * Visits every state that the design can be in with time left out, nearest first, and says of each transition, rule, outcome,
 * timer, screen and level whether it can happen. Where there are too many states, searches that follow less are asked. What is reached was replayed by the engine in whole milliseconds; what is
 * unreachable was sought in every state of a game that allows at least as much; between the two lies undecided.
 *
 * @example
 * const { transitions } = explore(design);
 * transitions.filter(({ verdict }) => verdict === 'unreachable');
 */
export function explore(design: Design, options: ExploreOptions = {}): Exploration {
  const { mostStates = exploreDefaults.mostStates, isOver = neverOver, progress } = options;
  const limits: Limits = { mostStates, isOver };
  const search = new Search(design);
  const whole = new Search(design, { followsAll: true, enough });
  const played = firstSessions(design, isOver);
  const paces = shortestPaces(design);
  const refinersOf = (followsAll: boolean) => ({
    untimed: new Refiner(design, followsAll, limits),
    timed: new TimedRefiner(design, { followsAll }, limits),
  });
  const refiners = { ofFlow: refinersOf(false), ofAll: refinersOf(true) };
  const outOfTime = playersClock(design, paces, limits);
  const evidence = { search, whole, played, refiners, outOfTime, limits };
  const run = (most: number, known?: Verdicts) => {
    search.run({ mostStates: most, isOver }, progress);
    whole.run({ mostStates: most, isOver });
    return verdictsOn(design, evidence, known);
  };
  const first = run(Math.min(firstLook, mostStates));
  const ground = { design, search, refiner: refiners.ofFlow.untimed, isOver };
  const { verdicts } =
    first.wantsMore && (search.isCut || whole.isCut) ? run(mostStates, first.verdicts) : first;
  let lasting = lastingIn(ground);
  // What only every state can tell is worth going on for where it could be told.
  const { combinations } = search.states.packing;
  const isFar = combinations > mostTimesMore * mostStates;
  // As where there is no end of states, no limit would do.
  const isBeyond = combinations > mostTimesMore * Math.max(mostStates, exploreDefaults.mostStates);
  if (
    search.isCut &&
    lasting.open.length > 0 &&
    search.states.length < mostStates &&
    !search.isEndless &&
    !isFar
  ) {
    search.run(limits, progress);
    lasting = lastingIn(ground);
  }
  const { transitions } = verdicts;
  const { open, isGrave, faults: others, ...found } = lasting;
  const faults = [
    ...verdicts.faults,
    ...others.filter(({ problem }) => !isKnownFault(verdicts.faults, problem)),
  ];
  const isOpen = ![...transitions, ...verdicts.parts].every(isDecided);
  const doubt =
    isOpen || open.length > 0 ? search.doubt(isFar && search.states.length < mostStates) : undefined;
  // A verdict that is open for another reason, such as a fault, says so itself.
  const asked = [...(isOpen && doubt !== undefined ? ['what is undecided'] : []), ...open];
  const leftOpen = asked.length === 0 ? undefined : `${asked.join(', ')}, since ${doubt ?? notFollowed}`;
  const isLate = isOver();
  return {
    ...verdicts,
    ...found,
    faults,
    endings: endingsOf(design, search, transitions, paces, isOver),
    score: scoreRange(design, limits),
    states: search.states.length,
    isComplete: leftOpen === undefined && faults.length === 0 && !isLate,
    leftOpen,
    isCut: (isOpen || (isGrave && !isBeyond)) && search.isCut && !search.isEndless,
    isLate,
  };
}
