import type { Design } from '../design/model.js';
import { DesignError, type Problem } from '../design/problem.js';
import { type Probe, watchesNothing } from '../engine/carrier.js';
import { widened } from '../engine/columns.js';
import type { Form } from '../engine/form.js';
import { formOf } from '../engine/lower.js';
import { Terms } from '../engine/terms.js';
import { type Edge, UntimedGame } from './game.js';
import { States } from './states.js';
import type { UntimedPath } from './witness.js';

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

/** The search itself: every state that the design can be in with time left out, nearest first. */
export class Search {
  readonly game: UntimedGame;
  readonly states: States;
  /** Screens and events that were tried there, as `screen event`. */
  readonly seenEvents = new Set<string>();
  readonly faults: { problem: Problem; path: UntimedPath }[] = [];
  /** For a transition that was ready to go: the earlier one that went first. */
  readonly preemptedBy = new Map<number, number>();
  /** Levels that some state is on, from 0. */
  readonly levels = new Set<number>();
  /** Transitions that begin a level which the next transition of the same chain ends, with the way there. */
  readonly atOnce: { readonly begins: number; readonly ends: number; readonly path: UntimedPath }[] = [];
  /** For each transition, the state and the edge that first took it; -1: none. Then the same for rules that fired. */
  readonly #takenFrom: Int32Array;
  readonly #takenBy: Int32Array;
  readonly #firedFrom: Int32Array;
  readonly #firedBy: Int32Array;
  /** Every step from state to state, as pairs. */
  #steps = new Int32Array(1024);
  #stepCount = 0;
  /** The transition taken before in the same chain, or -1. */
  #before = -1;
  readonly #design: Design;
  readonly #terms: Terms;
  #rivals: readonly (readonly Rival[])[];
  /** Whether the limit of states was hit. */
  isCut = false;
  #row = -1;
  #edge = -1;

  constructor(design: Design, followsRules: boolean) {
    const form = formOf(design);
    this.#design = design;
    this.#takenFrom = new Int32Array(form.transitions.length).fill(-2);
    this.#takenBy = new Int32Array(form.transitions.length).fill(-1);
    this.#firedFrom = new Int32Array(form.rules.length).fill(-2);
    this.#firedBy = new Int32Array(form.rules.length).fill(-1);
    const probe: Probe = {
      ...watchesNothing,
      rule: (rule) => {
        if (this.#firedFrom[rule] !== -2) return;
        this.#firedFrom[rule] = this.#row;
        this.#firedBy[rule] = this.#edge;
      },
      transition: (transition) => {
        this.#notePreempted(transition);
        this.#noteAtOnce(form, transition);
        this.#before = transition;
        if (this.#takenFrom[transition] !== -2) return;
        this.#takenFrom[transition] = this.#row;
        this.#takenBy[transition] = this.#edge;
      },
    };
    // The machine begins inside the game's constructor, before there is anything to note.
    this.#rivals = form.transitions.map(() => []);
    this.game = new UntimedGame(form, probe, followsRules);
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
        this.isCut = true;
        return;
      }
      if (row % 4096 === 0) progress?.(states.length);
      this.#row = row;
      states.read(row, state);
      this.levels.add(state[1]!);
      game.write(state);
      const screen = machine.cells[form.cells.screen]!;
      for (const edge of game.edges()) {
        this.#edge = edge;
        this.#before = -1;
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
        const known = states.add(state, row, edge);
        this.#noteStep(row, known < 0 ? states.length - 1 : known);
      }
    }
  }

  #noteStep(from: number, to: number): void {
    if (from === to) return;
    if (this.#stepCount * 2 === this.#steps.length) this.#steps = widened(this.#steps);
    this.#steps[this.#stepCount * 2] = from;
    this.#steps[this.#stepCount++ * 2 + 1] = to;
  }

  /** Whether a level that has just begun ends by a condition before anything happens in it. */
  #noteAtOnce(form: Form, ends: number): void {
    const begins = this.#before;
    if (begins < 0) return;
    const way = form.transitions[begins]!;
    const { from, wait } = form.transitions[ends]!;
    const begun = way.respawns && way.to === from && form.screens[from]!.live;
    const isByItself = form.screens[from]!.conditionTransitions.includes(ends) && wait === 0;
    if (!begun || !isByItself || this.atOnce.some((each) => each.begins === begins)) return;
    this.atOnce.push({ begins, ends, path: this.#row < 0 ? [] : this.#path(this.#row, this.#edge) });
  }

  /** States from which none of a kind can be reached, nearest to the start first. */
  lostTo(isGoal: (state: Float64Array) => boolean): number[] {
    const { states, game } = this;
    const state = new Float64Array(game.width);
    const isSafe = new Uint8Array(states.length);
    const queue: number[] = [];
    for (let row = 0; row < states.length; row++) {
      states.read(row, state);
      if (!isGoal(state)) continue;
      isSafe[row] = 1;
      queue.push(row);
    }
    // Steps into each state, grouped by a counting sort.
    const first = new Int32Array(states.length + 1);
    for (let step = 0; step < this.#stepCount; step++) first[this.#steps[step * 2 + 1]! + 1]!++;
    for (let row = 0; row < states.length; row++) first[row + 1]! += first[row]!;
    const next = first.slice();
    const sources = new Int32Array(this.#stepCount);
    for (let step = 0; step < this.#stepCount; step++)
      sources[next[this.#steps[step * 2 + 1]!]!++] = this.#steps[step * 2]!;
    for (let head = 0; head < queue.length; head++) {
      const row = queue[head]!;
      for (let at = first[row]!; at < first[row + 1]!; at++) {
        const source = sources[at]!;
        if (isSafe[source] === 1) continue;
        isSafe[source] = 1;
        queue.push(source);
      }
    }
    return [...isSafe.keys()].filter((row) => isSafe[row] === 0);
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

  /** The same for the first time a rule fired. */
  pathToRule(rule: number): UntimedPath | undefined {
    const row = this.#firedFrom[rule]!;
    if (row === -2) return undefined;
    return row < 0 ? [] : this.#path(row, this.#firedBy[rule]!);
  }

  #path(row: number, edge: number): UntimedPath {
    return [...this.pathToState(row), { edge: this.game.edge(edge), state: undefined }];
  }

  /** The way to a state, every state on it named. */
  pathToState(row: number): UntimedPath {
    const { states, game } = this;
    return states.pathTo(row).map(({ edge: taken, state }): { edge: Edge; state: Float64Array } => {
      const after = new Float64Array(game.width);
      states.read(state, after);
      return { edge: game.edge(taken), state: after };
    });
  }

  /** Why what was not found may still exist; undefined where it cannot. */
  doubt(mostStates: number): string | undefined {
    if (this.isCut) {
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
