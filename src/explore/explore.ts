import type { Design } from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import { formOf } from '../engine/program/lower/lower.js';
import { type FirstSessions, firstSessions, shortestPace, witnessOf } from './evidence/first-sessions.js';
import { foundIn } from './evidence/known-sessions.js';
import { isReachedBySpawns } from './evidence/own-spawns.js';
import { partVerdicts } from './evidence/part-verdicts.js';
import { whyNotTaken } from './evidence/reason.js';
import { lostEndings, lostWins, type Trap, trapsOf } from './evidence/traps.js';
import {
  type Fault,
  Judge,
  type PartVerdict,
  reached,
  type TransitionVerdict,
  zonesFor,
} from './evidence/verdict.js';
import { realise, type Witness } from './evidence/witness.js';
import { type EndingReach, endingsOf, type ScoreRange, scoreRange } from './optimum/extremes.js';
import { isKnownFault } from './search/first-occurrences.js';
import { type Limits, neverOver } from './search/limits.js';
import { Search } from './search/search.js';
import { type Paces, TimedSearch } from './timed/timed-search.js';

export interface ExploreOptions {
  /** States that are visited at the most, by each search. */
  readonly mostStates?: number | undefined;
  /** Whether the time allowed is over; where it is, what was not found yet stays open. Without it there is no such limit. */
  readonly isOver?: (() => boolean) | undefined;
  readonly progress?: ((states: number) => void) | undefined;
}

export const exploreDefaults = { mostStates: 2_000_000 } as const;

export interface Exploration {
  readonly transitions: readonly TransitionVerdict[];
  /** Rules, outcomes, timers, screens and levels. */
  readonly parts: readonly PartVerdict[];
  readonly faults: readonly Fault[];
  /** States visited by the search that follows the flow. */
  readonly states: number;
  readonly traps: readonly Trap[];
  /** Endings from which no fresh start of a run can be reached any more. */
  readonly lostEndings: readonly Trap[];
  /** States of play from which a run cannot be won any more, though right before it could. */
  readonly lostWins: readonly Trap[];
  /** Levels that are over the moment they begin: the live screen, where it leads, and a session that shows it. */
  readonly atOnce: readonly {
    readonly screen: string;
    readonly to: string;
    readonly place: Place;
    readonly witness: Witness;
  }[];
  /** How soon each ending that is reached can come. */
  readonly endings: readonly EndingReach[];
  /** What the score can come to, where that was found out. */
  readonly score: ScoreRange | undefined;
  /** False where a limit was hit, so that what was not found may still exist. */
  readonly isComplete: boolean;
  /** Why what was not found may still exist; undefined where every state was visited. */
  readonly leftOpen: string | undefined;
  /** Whether the limit on states was hit before all was looked for. */
  readonly isCut: boolean;
  /** Whether the time allowed was over before all was looked for. */
  readonly isLate: boolean;
}

/**
 * Visits every state that the design can be in with time left out, nearest first, and says of each transition, rule, outcome,
 * timer, screen and level whether it can happen. What is reached was replayed by the engine in whole milliseconds; what is
 * unreachable was sought in every state of a game that allows at least as much; between the two lies undecided.
 */
export function explore(design: Design, options: ExploreOptions = {}): Exploration {
  const { mostStates = exploreDefaults.mostStates, isOver = neverOver, progress } = options;
  const limits: Limits = { mostStates, isOver };
  const search = new Search(design);
  search.run(limits, progress);
  const whole = new Search(design, { followsAll: true });
  whole.run(limits);
  const paces = shortestPaces(design);
  const played = firstSessions(design, isOver);
  const faults = faultsOf(design, [search, whole], played);
  const judge = new Judge(design, search, limits, faults);
  const inAnyOrder = design.transitions.map(({ from, to, index, place }, transition): TransitionVerdict => {
    const first = search.notes.preemptedBy[transition]!;
    const preemptedBy = first < 0 ? undefined : first;
    const judged = judge.on({ transition }, () => whyNotTaken(search, transition, preemptedBy));
    const isWithTime = search.pathTo({ transition }) !== undefined;
    const shadow = judged.verdict === 'unreachable' && !isWithTime ? preemptedBy : undefined;
    return { from, to, index, place, ...judged, preemptedBy: shadow, brings: [] };
  });
  const settled = settle(design, inAnyOrder, played, isOver).map((verdict, transition) => ({
    ...verdict,
    brings: broughtFor(design, search, transition, verdict.witness, played),
  }));
  const transitions = byPlayers(design, settled, paces, limits, played.taken);
  const leftOpen = search.doubt(mostStates);
  const found = {
    transitions,
    parts: partVerdicts(design, new Judge(design, whole, limits, faults), transitions),
    faults,
    traps: trapsOf(design, search, isOver),
    lostEndings: lostEndings(design, search, isOver),
    lostWins: lostWins(design, search, isOver),
    atOnce: atOnce(design, search),
    endings: endingsOf(design, transitions, paces, isOver),
    score: scoreRange(design, isOver),
    states: search.states.length,
    isComplete: leftOpen === undefined && faults.length === 0,
    leftOpen,
    isCut: search.isCut && !search.isEndless,
  };
  const isLate = isOver();
  return { ...found, isComplete: found.isComplete && !isLate, isLate };
}

/** How long each piece that is sought takes the fastest of the design's players, never missing; 0 for all others. */
function shortestPaces(design: Design): Paces {
  const pace = shortestPace(design);
  return design.pieces.map(({ meets, takes, hits }) =>
    meets === 'sought' ? Math.max(1, Math.round(takes * pace)) * hits : 0,
  );
}

/** The verdicts, those that were open looked for in the sessions that show the others, or that players played, until no more are found. */
function settle(
  design: Design,
  verdicts: readonly TransitionVerdict[],
  { taken }: FirstSessions,
  isOver: () => boolean,
): readonly TransitionVerdict[] {
  const settled = [...verdicts];
  for (let grew = true; grew && !isOver(); ) {
    grew = false;
    const known = settled.flatMap(({ witness }) => witness ?? []);
    for (const [transition, verdict] of settled.entries()) {
      if (verdict.verdict !== 'undecided' || isOver()) continue;
      const session = taken.get(transition);
      const witness =
        foundIn(design, known, { transition }, isOver) ?? (session && witnessOf(design, session, transition));
      if (witness === undefined) continue;
      settled[transition] = { ...verdict, ...reached(witness) };
      grew = true;
    }
  }
  return settled;
}

/** Pieces that a game has to bring for a transition, as far as simulated players and the design's own spawns did not come to it. */
function broughtFor(
  design: Design,
  search: Search,
  transition: number,
  witness: Witness | undefined,
  { taken }: FirstSessions,
): readonly string[] {
  const brings = witness?.brings ?? [];
  const path = search.pathTo({ transition });
  if (brings.length === 0 || taken.has(transition) || path === undefined) return [];
  return isReachedBySpawns(design, search.game, path, { transition }) ? [] : brings;
}

/** What sessions end in, by both searches, of which one looks closer and the other may go further, and in play. */
function faultsOf(design: Design, searches: readonly Search[], played: FirstSessions): Fault[] {
  const faults: Fault[] = [];
  for (const search of searches) {
    for (const { problem, path } of search.faults) {
      if (isKnownFault(faults, problem)) continue;
      faults.push({ problem, witness: realise(design, search.game, path, { fault: problem.code }) });
    }
  }
  for (const fault of played.faults) if (!isKnownFault(faults, fault.problem)) faults.push(fault);
  return faults;
}

function atOnce(design: Design, search: Search): Exploration['atOnce'] {
  return search.notes.atOnce.flatMap(({ begins, ends, row, edge }) => {
    const path = row < 0 ? [] : search.pathOver(row, edge);
    const way = design.transitions[ends]!;
    const witness = realise(design, search.game, path, { transition: ends });
    const begun = design.transitions[begins];
    if (witness === undefined || begun === undefined) return [];
    return [{ screen: begun.to, to: way.to, place: way.place, witness }];
  });
}

/**
 * The verdicts with what no player has the time for told as unreachable: transitions that some order of events takes, and nobody who
 * meets one piece that is sought after another at the shortest pace of the design's players, never missing.
 */
function byPlayers(
  design: Design,
  verdicts: readonly TransitionVerdict[],
  paces: Paces,
  { mostStates, isOver }: Limits,
  taken: FirstSessions['taken'],
): readonly TransitionVerdict[] {
  const form = formOf(design);
  const search = new TimedSearch(design, { paces });
  if (isOver() || !search.hasClocks || paces.every((each) => each === 0)) return verdicts;
  // What was played need not be looked for.
  const open = verdicts.flatMap(({ verdict }, transition) =>
    verdict === 'reached' && !taken.has(transition) ? [transition] : [],
  );
  search.run(
    zonesFor(mostStates),
    isOver,
    open.map((transition) => ({ transition })),
  );
  const { cone, narrowedBy } = search.game;
  if (search.isCut || cone.timerRead !== undefined || narrowedBy !== undefined) return verdicts;
  return verdicts.map((verdict, transition) => {
    const isLate =
      open.includes(transition) &&
      !search.cameTo({ transition }) &&
      search.enters(form.transitions[transition]!.from);
    if (!isLate) return verdict;
    const reason = `a timer ends first for every player, even at pace ${shortestPace(design)} with no miss`;
    return { ...verdict, verdict: 'unreachable', assumes: 'players', reason, closed: search };
  });
}
