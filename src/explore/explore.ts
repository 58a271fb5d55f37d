import type { Design } from '../design/model.js';
import type { Place, Problem } from '../design/problem.js';
import { formOf } from '../engine/lower.js';
import { fromCell } from '../engine/value.js';
import type { UntimedGame } from './game.js';
import { reasonFor } from './reason.js';
import { Search } from './search.js';
import { TimedSearch } from './timed.js';
import { realise, type Witness } from './witness.js';

export interface ExploreOptions {
  /** States that are visited at the most. */
  readonly mostStates?: number | undefined;
  readonly progress?: ((states: number) => void) | undefined;
}

export const exploreDefaults = { mostStates: 500_000 } as const;

export type Verdict = 'reached' | 'unreachable' | 'undecided';

export interface TransitionVerdict {
  readonly from: string;
  readonly to: string;
  /** Where it stands in the file's list, from 0. */
  readonly index: number;
  readonly verdict: Verdict;
  /** For a reached one: a session, replayed by the engine, whose last step takes it. */
  readonly witness: Witness | undefined;
  /** For the others: why. */
  readonly reason: string | undefined;
  /** For an unreachable one that was ready to go: the earlier transition that went first. */
  readonly preemptedBy: number | undefined;
  readonly place: Place;
}

export interface RuleVerdict {
  readonly name: string;
  readonly verdict: Verdict;
  readonly witness: Witness | undefined;
  readonly reason: string | undefined;
  readonly place: Place;
}

/** A state from which no ending can be reached, shown by a session that leads there. */
export interface Trap {
  readonly screen: string;
  /** What the counters and pieces that count are there, in words. */
  readonly values: string;
  readonly witness: Witness;
}

/** A chain without end, a number past 2^53 and the like, met on the way. */
export interface Fault {
  readonly problem: Problem;
  readonly witness: Witness | undefined;
}

export interface Exploration {
  readonly transitions: readonly TransitionVerdict[];
  readonly faults: readonly Fault[];
  /** States visited. */
  readonly states: number;
  readonly rules: readonly RuleVerdict[];
  readonly traps: readonly Trap[];
  /** Levels that are over the moment they begin: the live screen, where it leads, and a session that shows it. */
  readonly atOnce: readonly {
    readonly screen: string;
    readonly to: string;
    readonly place: Place;
    readonly witness: Witness;
  }[];
  /**
   * Transitions, by index, that some order of events takes but none of the design's players ever does, however skilled and lucky:
   * time runs out first.
   */
  readonly outOfTime: readonly number[];
  /** Levels that some state is on, from 0. */
  readonly levels: ReadonlySet<number>;
  /** Screens on which some visited state is, the first start's among them. */
  readonly screens: ReadonlySet<string>;
  /** False where a limit was hit, so that what was not found may still exist. */
  readonly isComplete: boolean;
}

/** What the verdicts assume, in words. */
export const assumption = 'any order of events that a real game could report, and any time between them';

/**
 * Visits every state that the design can be in with time left out, nearest first, and says of each transition whether it
 * can be taken. What is reached was replayed by the engine in whole milliseconds; what is unreachable was sought in every
 * state of a game that allows at least as much; between the two lies undecided.
 */
export function explore(design: Design, options: ExploreOptions = {}): Exploration {
  const { mostStates = exploreDefaults.mostStates, progress } = options;
  const form = formOf(design);
  const search = new Search(design);
  search.run(mostStates, progress);
  const { game } = search;
  let timed: TimedSearch | undefined;
  /** The verdict on a transition that there is a way to when time is left out, but that was not shown to be real. */
  const withTime = (at: number): Pick<TransitionVerdict, 'verdict' | 'witness' | 'reason'> => {
    if (timed === undefined) {
      timed = new TimedSearch(design);
      timed.run(zonesFor(mostStates));
    }
    const isSure = !timed.isCut && search.doubt(mostStates) === undefined;
    if (!timed.wasTaken(at) && timed.hasClocks && isSure) {
      const reason =
        'there is a way only when time is left out; when the timers keep time, it is never taken';
      return { verdict: 'unreachable', witness: undefined, reason };
    }
    const path = timed.wasTaken(at) ? timed.pathTo(at) : undefined;
    const witness = path && realise(design, timed.game, path, { transition: at });
    if (witness !== undefined) return { verdict: 'reached', witness, reason: undefined };
    const reason = 'there is a way when time is left out, but no session was found that keeps time';
    return { verdict: 'undecided', witness: undefined, reason };
  };
  const transitions = design.transitions.map(({ from, to, index, place }, at): TransitionVerdict => {
    const common = { from, to, index, place, preemptedBy: undefined };
    const path = search.pathTo(at);
    if (path !== undefined) {
      const witness = realise(design, game, path, { transition: at });
      if (witness !== undefined) return { ...common, verdict: 'reached', witness, reason: undefined };
      return { ...common, ...withTime(at) };
    }
    const doubt = search.doubt(mostStates);
    if (doubt !== undefined) return { ...common, verdict: 'undecided', witness: undefined, reason: doubt };
    const first = search.notes.preemptedBy[at]!;
    const preemptedBy = first < 0 ? undefined : first;
    const seen = search.seenOn(form.transitions[at]!.from);
    const reason = reasonFor(game, search.states, at, seen, preemptedBy);
    return { ...common, verdict: 'unreachable', witness: undefined, reason, preemptedBy };
  });
  const screens = new Set<string>();
  const levels = new Set<number>();
  const state = new Float64Array(game.width);
  for (let row = 0; row < search.states.length; row++) {
    search.states.read(row, state);
    levels.add(state[1]!);
    const { name } = form.screens[state[0]!]!;
    const leadingIn = transitions.filter(({ to }) => to === name);
    // What only a search without time comes to is not entered.
    const isOnlyUntimed = leadingIn.length > 0 && leadingIn.every(({ verdict }) => verdict === 'unreachable');
    if (!isOnlyUntimed || state[0] === 0) screens.add(name);
  }
  const faults = search.faults.map(({ problem, path }) => ({
    problem,
    witness: realise(design, game, path, { fault: problem.code }),
  }));
  return {
    transitions,
    rules: ruleVerdicts(design, search, mostStates),
    traps: trapsOf(design, search),
    atOnce: search.notes.atOnce.flatMap(({ begins, ends, row, edge }) => {
      const path = row < 0 ? [] : search.pathOver(row, edge);
      const way = design.transitions[ends]!;
      const witness = realise(design, game, path, { transition: ends });
      const begun = design.transitions[begins];
      if (witness === undefined || begun === undefined) return [];
      return [{ screen: begun.to, to: way.to, place: way.place, witness }];
    }),
    faults,
    outOfTime: outOfTime(design, transitions, zonesFor(mostStates)),
    levels,
    states: search.states.length,
    screens,
    isComplete: search.doubt(mostStates) === undefined,
  };
}

/** Whether each rule can fire, from a search that follows what all rules read. */
function ruleVerdicts(design: Design, flow: Search, mostStates: number): RuleVerdict[] {
  const open = design.rules.some((_, rule) => flow.pathToRule(rule) === undefined);
  const search = open ? new Search(design, { followsAll: true }) : flow;
  const most = Math.min(mostStates, mostStatesForRules);
  if (open) search.run(most, undefined);
  const doubt = search.doubt(most);
  return design.rules.map(({ name, heard, place }, rule): RuleVerdict => {
    const path = search.pathToRule(rule);
    const none = { name, place, witness: undefined };
    if (path === undefined) {
      if (doubt !== undefined) return { ...none, verdict: 'undecided', reason: doubt };
      const reason =
        heard.length === 0
          ? 'its condition never becomes true'
          : `${heard.join(', ')} never finds all it asks for`;
      return { ...none, verdict: 'unreachable', reason };
    }
    const witness = realise(design, search.game, path, { rule: name });
    if (witness !== undefined) return { name, place, witness, verdict: 'reached', reason: undefined };
    const reason = 'there is a way when time is left out, but no session was found that keeps time';
    return { ...none, verdict: 'undecided', reason };
  });
}

/** Rules ask more of a search than the flow does, and matter less. */
const mostStatesForRules = 50_000;

/** Sessions that lead to where no ending can be reached, one for each screen. */
function trapsOf(design: Design, search: Search): Trap[] {
  const { game, states } = search;
  const { form } = game;
  const hasEnding = design.screens.some(({ ending }) => ending !== undefined);
  if (!hasEnding || search.isCut || game.narrowedBy !== undefined) return [];
  const lost = search.lostTo((state) => form.screens[state[0]!]!.ending);
  const traps = new Map<number, Trap>();
  const state = new Float64Array(game.width);
  let tries = 0;
  for (const row of lost ?? []) {
    states.read(row, state);
    const screen = state[0]!;
    if (traps.has(screen) || !form.screens[screen]!.live || tries++ > mostTrapTries) continue;
    const witness = realise(design, game, search.pathToState(row), { arrives: true });
    game.write(state);
    if (witness !== undefined)
      traps.set(screen, { screen: form.screens[screen]!.name, values: valuesIn(game), witness });
  }
  return [...traps.values()];
}

const mostTrapTries = 50;

/** What counts in the state that the machine is in: counters, and how many pieces are present. */
function valuesIn({ cone, form, machine }: UntimedGame): string {
  const at = form.cells;
  const counters = cone.counters.map((counter) => {
    const { name } = form.counters[counter]!;
    return `${name} ${fromCell(form.counters[counter]!, machine.cells[at.counters + counter]!)}`;
  });
  const pieces = cone.pieces.map(
    (piece) => `${machine.cells[at.present + piece]} ${form.pieces[piece]!.name} present`,
  );
  const all = [...counters, ...pieces];
  return all.length === 0 ? 'whatever it holds' : all.join(', ');
}

/** Zones cost more than states: each is compared with others, and its bounds are kept tight. */
const zonesFor = (mostStates: number): number => Math.min(20_000, 2 * mostStates);

/**
 * Transitions that are reached by some order of events, and by no player who meets one piece that is sought after another at
 * the shortest pace of the design's players, never missing.
 */
function outOfTime(design: Design, verdicts: readonly TransitionVerdict[], most: number): number[] {
  const form = formOf(design);
  const pace = Math.min(...design.players.map((player) => player.pace));
  const paces = design.pieces.map(({ meets, takes, hits }) =>
    meets === 'sought' ? Math.max(1, Math.round(takes * pace)) * hits : 0,
  );
  const search = new TimedSearch(design, paces);
  if (!search.hasClocks || paces.every((each) => each === 0)) return [];
  search.run(most);
  const { cone, narrowedBy } = search.game;
  if (search.isCut || cone.timerRead !== undefined || narrowedBy !== undefined) return [];
  return verdicts.flatMap(({ verdict }, at) => {
    const isLate = verdict === 'reached' && !search.wasTaken(at) && search.enters(form.transitions[at]!.from);
    return isLate ? [at] : [];
  });
}
