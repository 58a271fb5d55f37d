import type { Design } from '../design/model.js';
import { DesignError, type Place, type Problem } from '../design/problem.js';
import type { Probe } from '../engine/carrier.js';
import type { Form } from '../engine/form.js';
import { formOf } from '../engine/lower.js';
import { Terms } from '../engine/terms.js';
import { type Edge, UntimedGame } from './game.js';
import { reasonFor } from './reason.js';
import { States } from './states.js';
import { realise, type UntimedPath, type Witness } from './witness.js';

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
  readonly place: Place;
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
  const transitions = design.transitions.map(({ from, to, index, place }, at): TransitionVerdict => {
    const common = { from, to, index, place };
    const path = search.pathTo(at);
    if (path !== undefined) {
      const witness = realise(design, game, path, { transition: at });
      if (witness !== undefined) return { ...common, verdict: 'reached', witness, reason: undefined };
      const reason = 'there is a way when time is left out, but no session was found that keeps time';
      return { ...common, verdict: 'undecided', witness: undefined, reason };
    }
    const doubt = search.doubt(mostStates);
    if (doubt !== undefined) return { ...common, verdict: 'undecided', witness: undefined, reason: doubt };
    const reason = reasonFor(game, search.states, at, search.seenEvents, search.preemptedBy.get(at));
    return { ...common, verdict: 'unreachable', witness: undefined, reason };
  });
  const screens = new Set<string>();
  const state = new Float64Array(game.width);
  for (let row = 0; row < search.states.length; row++) {
    search.states.read(row, state);
    screens.add(form.screens[state[0]!]!.name);
  }
  const faults = search.faults.map(({ problem, path }) => ({
    problem,
    witness: realise(design, game, path, { fault: problem.code }),
  }));
  return {
    transitions,
    faults,
    states: search.states.length,
    screens,
    isComplete: search.doubt(mostStates) === undefined,
  };
}

/** A later transition of the same screen that could go at the same moment. */
interface Rival {
  readonly index: number;
  readonly condition: number;
  readonly wait: number;
}

function rivalsOf(form: Form, terms: Terms): Rival[][] {
  const { transitions } = form.design;
  const rivals = form.transitions.map(
    ({ condition, wait }, index): Rival => ({
      index,
      condition: condition === undefined ? -1 : terms.add(condition),
      wait,
    }),
  );
  return form.transitions.map(({ from }, first) =>
    rivals.filter(({ index }) => {
      if (index <= first || form.transitions[index]!.from !== from) return false;
      const { heard, events } = transitions[index]!;
      const own = transitions[first]!;
      return heard.length === 0 ? own.heard.length === 0 : events.some((event) => own.events.includes(event));
    }),
  );
}

/** The event of a timer, or past the last timer of its warning. */
const timerEvent = ({ timers }: Form, index: number): number =>
  index < timers.length ? timers[index]!.event : timers[index - timers.length]!.warnEvent;

class Search {
  readonly game: UntimedGame;
  readonly states: States;
  /** Screens and events that were tried there, as `screen event`. */
  readonly seenEvents = new Set<string>();
  readonly faults: { problem: Problem; path: UntimedPath }[] = [];
  /** For a transition that was ready to go: the earlier one that went first. */
  readonly preemptedBy = new Map<number, number>();
  /** For each transition, the state and the edge that first took it; -1: none. */
  readonly #takenFrom: Int32Array;
  readonly #takenBy: Int32Array;
  readonly #design: Design;
  readonly #terms: Terms;
  #rivals: readonly (readonly Rival[])[];
  #isCut = false;
  #row = -1;
  #edge = -1;

  constructor(design: Design) {
    const form = formOf(design);
    this.#design = design;
    this.#takenFrom = new Int32Array(form.transitions.length).fill(-2);
    this.#takenBy = new Int32Array(form.transitions.length).fill(-1);
    const probe: Probe = {
      rule: () => {},
      transition: (transition) => {
        this.#notePreempted(transition);
        if (this.#takenFrom[transition] !== -2) return;
        this.#takenFrom[transition] = this.#row;
        this.#takenBy[transition] = this.#edge;
      },
      write: () => {},
      cue: () => {},
      popup: () => {},
      appeared: () => {},
      cleared: () => {},
      allCleared: () => {},
    };
    // The machine begins inside the game's constructor, before there is anything to note.
    this.#rivals = form.transitions.map(() => []);
    this.game = new UntimedGame(form, probe);
    this.#terms = new Terms(form, this.game.machine.cells);
    this.#rivals = rivalsOf(form, this.#terms);
    this.states = new States(this.game.width);
  }

  run(mostStates: number, progress: ((states: number) => void) | undefined): void {
    const { game, states } = this;
    const { machine, form } = game;
    const state = new Float64Array(game.width);
    const faulty = new Set<string>();
    game.read(state);
    states.add(state, -1, -1);
    for (let row = 0; row < states.length; row++) {
      if (states.length >= mostStates) {
        this.#isCut = true;
        return;
      }
      if (row % 4096 === 0) progress?.(states.length);
      this.#row = row;
      states.read(row, state);
      game.write(state);
      const screen = machine.cells[form.cells.screen]!;
      for (const edge of game.edges()) {
        this.#edge = edge;
        const { kind, index } = game.edge(edge);
        const event = kind === 'send' ? index : kind === 'timer' ? timerEvent(form, index) : -1;
        if (event >= 0) this.seenEvents.add(`${screen} ${event}`);
        states.read(row, state);
        game.write(state);
        try {
          game.take(game.edge(edge));
        } catch (error) {
          if (!(error instanceof DesignError)) throw error;
          const [problem] = error.problems as [Problem];
          const key = `${problem.code} ${problem.place.line}`;
          if (!faulty.has(key)) this.faults.push({ problem, path: this.#path(row, edge) });
          faulty.add(key);
          continue;
        }
        game.read(state);
        states.add(state, row, edge);
      }
    }
  }

  /** Called while the cells still show what the transition saw. */
  #notePreempted(taken: number): void {
    for (const { index, condition, wait } of this.#rivals[taken]!) {
      if (this.preemptedBy.has(index) || this.game.machine.cells[this.game.form.cells.waited]! < wait)
        continue;
      if (condition < 0 || this.#terms.value(condition) !== 0) this.preemptedBy.set(index, taken);
    }
  }

  /** The way to the first time a transition was taken, or undefined; one taken at the very start has an empty way. */
  pathTo(transition: number): UntimedPath | undefined {
    const row = this.#takenFrom[transition]!;
    if (row === -2) return undefined;
    return row < 0 ? [] : this.#path(row, this.#takenBy[transition]!);
  }

  #path(row: number, edge: number): UntimedPath {
    const { states, game } = this;
    const before = states.pathTo(row).map(({ edge: taken, state }): { edge: Edge; state: Float64Array } => {
      const after = new Float64Array(game.width);
      states.read(state, after);
      return { edge: game.edge(taken), state: after };
    });
    return [...before, { edge: game.edge(edge), state: undefined }];
  }

  /** Why what was not found may still exist; undefined where it cannot. */
  doubt(mostStates: number): string | undefined {
    if (this.#isCut) {
      const unbounded = this.game.cone.counters
        .map((counter) => this.#design.counters[counter]!)
        .filter(({ min, max }) => max - min > 1000)
        .map(({ name }) => name);
      const help =
        unbounded.length === 0 ? '' : `; a min and max for ${unbounded.join(' and ')} would settle it`;
      return `the limit of ${mostStates} states was hit${help}`;
    }
    const { timerRead } = this.game.cone;
    if (timerRead !== undefined)
      return `it depends on the seconds of timer.${timerRead}, and time was left out of the search`;
    if (this.game.narrowedBy !== undefined) return this.game.narrowedBy;
    if (this.faults.length > 0)
      return `some sessions end in a fault first: ${this.faults[0]!.problem.message}`;
    return undefined;
  }
}
