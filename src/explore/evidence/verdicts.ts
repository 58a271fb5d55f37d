import type { Design } from '../../design/model.js';
import { leastDuration } from '../abstraction/ranges.js';
import { isKnownFault } from '../search/first-occurrences.js';
import type { Limits } from '../search/limits.js';
import { Search } from '../search/search.js';
import type { Paces, TimedSearch } from '../timed/timed-search.js';
import type { Sought } from './claim.js';
import { type FirstSessions, shortestPace, witnessOf } from './first-sessions.js';
import { foundIn, KnownSessions, repeatedIn } from './known-sessions.js';
import { partVerdicts } from './part-verdicts.js';
import { preemptedIn, whyNotTaken } from './reason.js';
import {
  type Fault,
  isDecided,
  Judge,
  type PartVerdict,
  type Refiners,
  reached,
  type TransitionVerdict,
} from './verdict.js';
import { realise, shownBySpawns, type Witness } from './witness.js';

/** What can happen and what cannot, with the sessions that end in a fault. */
export interface Verdicts {
  readonly transitions: readonly TransitionVerdict[];
  /** Rules, outcomes, timers, screens and levels. */
  readonly parts: readonly PartVerdict[];
  readonly faults: readonly Fault[];
}

/**
 * What can happen and what cannot, and the sessions that end in a fault, as far as two searches have gone.
 *
 * @param known what was found before they went on: only what that left undecided is asked once more
 * @returns and whether going on may decide more
 */
export function verdictsOn(
  design: Design,
  evidence: Evidence,
  known?: Verdicts,
): { readonly verdicts: Verdicts; readonly wantsMore: boolean } {
  const { search, whole, played, refiners, limits } = evidence;
  const { isOver } = limits;
  const faults = faultsOf(design, [search, whole], played);
  const judge = new Judge(design, search, limits, faults, refiners.ofFlow, (sought) => {
    if (!('transition' in sought)) return undefined;
    const session = played.taken.get(sought.transition);
    return session && witnessOf(design, session, sought.transition);
  });
  const decided = (known?.transitions ?? []).map((each) => (isDecided(each) ? each : undefined));
  const inAnyOrder = design.transitions.map(({ from, to, index, place }, transition): TransitionVerdict => {
    const before = decided[transition];
    if (before !== undefined) return before;
    const ruling = judge.on({ transition }, (closed) => whyNotTaken(closed, transition));
    const preemptedBy = ruling.closed instanceof Search ? preemptedIn(ruling.closed, transition) : undefined;
    return { from, to, index, place, ...ruling, preemptedBy, brings: [] };
  });
  const transitions = settle(design, inAnyOrder, isOver).map((verdict, transition) => {
    if (decided[transition] !== undefined) return verdict;
    const brings = broughtFor(design, search, transition, verdict.witness, played);
    return byPlayers({ ...verdict, brings }, transition, evidence);
  });
  const sessions = new KnownSessions(
    design,
    transitions.flatMap(({ witness }) => witness ?? []),
  );
  const shown = (sought: Sought): Witness | undefined =>
    'transition' in sought ? undefined : sessions.shown(sought);
  const judgeOfAll = new Judge(design, whole, limits, faults, refiners.ofAll, shown);
  const parts = partVerdicts(design, judgeOfAll, transitions, known?.parts ?? []);
  return {
    verdicts: { transitions, parts, faults },
    wantsMore: judge.wantsMore || judgeOfAll.wantsMore,
  };
}

/** What verdicts are judged by. */
export interface Evidence {
  /** Follows what transitions depend on. */
  readonly search: Search;
  /** Follows what rules, outcomes and timers depend on as well. */
  readonly whole: Search;
  readonly played: FirstSessions;
  readonly refiners: { readonly ofFlow: Refiners; readonly ofAll: Refiners };
  /** The search by which no player takes a transition in time; undefined where one may. */
  readonly outOfTime: (transition: number) => TimedSearch | undefined;
  readonly limits: Limits;
}

/** How long each piece that is sought takes the fastest of the design's players, never missing; 0 for all others. */
export function shortestPaces(design: Design): Paces {
  const pace = shortestPace(design);
  return design.pieces.map(({ meets, takes, hits }) =>
    meets === 'sought' ? Math.max(1, Math.round(leastDuration(design, takes) * pace)) * hits : 0,
  );
}

/** The verdicts, those that were open looked for in the sessions that show the others, until no more are found. */
function settle(
  design: Design,
  verdicts: readonly TransitionVerdict[],
  isOver: () => boolean,
): readonly TransitionVerdict[] {
  const settled = [...verdicts];
  for (let grew = true; grew && !isOver(); ) {
    grew = false;
    const known = settled.flatMap(({ witness }) => witness ?? []);
    for (const [transition, verdict] of settled.entries()) {
      if (verdict.verdict !== 'undecided' || isOver()) continue;
      const witness =
        foundIn(design, known, { transition }, isOver) ?? repeatedIn(design, known, transition, isOver);
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
  { taken, isOne }: FirstSessions,
): readonly string[] {
  const brings = witness?.brings ?? [];
  const path = search.pathTo({ transition });
  if (brings.length === 0 || taken.has(transition) || isOne || path === undefined) return [];
  return shownBySpawns(design, search.game, path, { transition }) ? [] : brings;
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

/**
 * A verdict, told as unreachable where no player has the time for it: some order of events takes the transition, and nobody who meets one
 * piece that is sought after another at the shortest pace of the design's players, never missing.
 */
function byPlayers(
  verdict: TransitionVerdict,
  transition: number,
  { played, outOfTime }: Evidence,
): TransitionVerdict {
  // What was played need not be looked for.
  if (verdict.verdict !== 'reached' || played.taken.has(transition)) return verdict;
  const closed = outOfTime(transition);
  if (closed === undefined) return verdict;
  const reason = `a timer ends first for every player, even at pace ${shortestPace(closed.game.form.design)} with no miss`;
  return { ...verdict, verdict: 'unreachable', assumes: 'players', reason, closed };
}
