import { DesignError } from '../../design/problems/problem.js';
import { canPrint } from '../../engine/run/backend.js';
import { mix } from '../../engine/run/draw.js';
import { Evaluator } from '../../engine/run/evaluator.js';
import { Host } from '../../engine/run/host.js';
import { comesOf, type Doubts, stepEveryWay } from '../abstraction/every-way.js';
import type { Edge, UntimedGame } from '../abstraction/untimed-game.js';
import { inMilliseconds } from '../abstraction/waits.js';
import { competingTransitions } from './competing-transitions.js';
import { ExpandText } from './expand-text.js';
import { type Notes, unseen } from './first-occurrences.js';
import type { States } from './states.js';

/** Takes the search from states to those that come next. */
export interface Expander {
  edge(index: number): Edge;
  /**
   * Adds what follows from the states from one number up to another by clocks, or by what is reported.
   *
   * @returns the first state that was not looked at: there was no more room, or `most` states were there
   */
  expand(from: number, to: number, isClocks: boolean, most: number): number;
  /** Events that were possible on a screen. */
  seenOn(screen: number): ReadonlySet<number>;
  /**
   * Whether a step of any kind leads from a state to a packed one that is marked.
   *
   * @param doubts where they are given, the step has to do so whatever is not followed; what it hangs on is put down there
   */
  leads(row: number, isMarked: (key: Int32Array) => boolean, doubts?: Doubts): boolean;
}

/** Edges that code is written for; with more, it would be too long to gain by it. */
const mostWritten = 4000;
/** Characters of code past which it runs unoptimised, and each fault in it takes as long as it is large. */
const longestText = 250_000;

/** Printed code where it is allowed and the design fits it, else the machine itself. */
export function expanderOf(
  game: UntimedGame,
  states: States,
  notes: Notes,
  canWrite: boolean,
): Expander | undefined {
  if (!canWrite || game.cone.readsCourse || !canPrint()) return undefined;
  const text = new ExpandText(game, states);
  if (text.edges.length > mostWritten) return undefined;
  const body = text.whole();
  if (body.length > longestText) return undefined;
  states.countEdges(text.edges.length);
  notes.offeredFrom = new Int32Array(text.edges.length).fill(unseen);
  const { offeredFrom } = notes;
  const own = {
    takenFrom: notes.takenFrom,
    takenBy: notes.takenBy,
    firedFrom: notes.firedFrom,
    firedBy: notes.firedBy,
    preemptedBy: notes.preemptedBy,
    offeredFrom,
    leftFrom: notes.leftFrom,
    leftBy: notes.leftBy,
    twice: notes.twice.bind(notes),
    fault: (row: number, edge: number, error: unknown): void => {
      if (!(error instanceof DesignError)) throw error;
      notes.fault(error.problems[0]!, row, edge);
    },
  };
  const host = new Host(game.form, (draw) => game.draws(draw, []));
  const make = new Function('states', 'notes', 'host', 'mix', body);
  const made = make(states, own, host, mix) as {
    expand: Expander['expand'];
    leads(row: number, isMarked: (key: Int32Array) => boolean, key: Int32Array): boolean;
  };
  const key = new Int32Array(states.packing.words);
  return {
    edge: (index) => text.edges[index]!,
    expand: made.expand,
    seenOn: (screen) => {
      const edges = [...text.edges.keys()].slice(text.first[screen * 2], text.first[screen * 2 + 2]);
      const seen = edges.filter((edge) => offeredFrom[edge] !== unseen);
      return new Set(seen.map((edge) => game.eventOf(text.edges[edge]!.kind, text.edges[edge]!.index)));
    },
    leads: (row, isMarked) => made.leads(row, isMarked, key),
  };
}

/** States that the machine goes on from in one call. */
const rowsAtOnce = 2000;

/** The same by the engine's machine: a state is written into it, one thing happens, and the state is read again. */
export class MachineExpander implements Expander {
  /** The state and the edge that it is at, for whoever watches the machine; -1 before the first. */
  row = -1;
  at = -1;
  /** The transition taken before in the same chain, or -1. */
  #before = -1;
  /** Events that were possible, by screen; and those of the screen of the state that is gone on from. */
  readonly #seen = new Map<number, Set<number>>();
  #seenHere = new Set<number>();
  readonly #state: Float64Array;
  /** The cells of the machine in the state that is gone on from. */
  readonly #cells: Float64Array;
  readonly #terms: Evaluator;
  readonly #rivals: readonly (readonly {
    readonly index: number;
    readonly condition: number;
    /** How long it waits, in milliseconds. */
    readonly wait: () => number;
  }[])[];

  constructor(
    private readonly game: UntimedGame,
    private readonly states: States,
    private readonly notes: Notes,
  ) {
    const { form, machine } = game;
    this.#state = new Float64Array(game.width);
    this.#cells = new Float64Array(machine.cells.length);
    this.#terms = new Evaluator(form, machine.cells);
    this.#rivals = form.transitions.map((_, taken) =>
      competingTransitions(form, taken).map(({ index, condition, wait }) => ({
        index,
        wait: inMilliseconds(this.#terms, wait),
        condition: condition === undefined ? -1 : this.#terms.add(condition),
      })),
    );
  }

  edge(index: number): Edge {
    return this.game.edge(index);
  }

  /** The level that the machine is on. */
  get level(): number {
    return this.game.machine.cells[this.game.form.cells.level]!;
  }

  expand(from: number, to: number, isClocks: boolean, most: number): number {
    const { game, states, notes } = this;
    // Whoever asks looks at the clock between two calls.
    const last = Math.min(to, from + rowsAtOnce);
    const tell = (happened: boolean, fault: DesignError | undefined): void => {
      const { row, at: edge } = this;
      const taken = game.withGuesses(edge);
      if (taken !== edge) notes.rename(row, edge, taken);
      if (!happened) return;
      this.#see(row, taken);
      if (fault !== undefined) {
        notes.fault(fault.problems[0]!, row, taken);
        return;
      }
      game.read(this.#state);
      states.add(this.#state, row, taken);
    };
    for (this.row = from; this.row < last && this.row < states.length; this.row++) {
      if (states.length >= most) break;
      for (const edge of this.#edges(this.row, isClocks)) {
        this.at = edge;
        stepEveryWay(game, game.edge(edge), this.#begin, tell);
      }
    }
    return this.row;
  }

  seenOn(screen: number): ReadonlySet<number> {
    return this.#seen.get(screen) ?? new Set();
  }

  #see(row: number, edge: number): void {
    this.notes.offer(edge, row);
    const { kind, index } = this.game.edge(edge);
    this.#seenHere.add(this.game.eventOf(kind, index));
  }

  leads(row: number, isMarked: (key: Int32Array) => boolean, doubts?: Doubts): boolean {
    const { game, states } = this;
    const key = new Int32Array(states.packing.words);
    const isLedTo = (): boolean => {
      game.read(this.#state);
      return states.packing.pack(this.#state, key) < 0 && isMarked(key);
    };
    for (const isClocks of [true, false])
      for (const edge of this.#edges(row, isClocks))
        if (comesOf(game, game.edge(edge), this.#begin, isLedTo, doubts)) return true;
    return false;
  }

  /** Puts the machine into a state, and tells what can happen there. */
  #edges(row: number, isClocks: boolean): number[] {
    const { game } = this;
    this.states.read(row, this.#state);
    game.write(this.#state);
    this.#cells.set(game.machine.cells);
    const screen = this.#state[0]!;
    this.#seenHere = this.#seen.get(screen) ?? new Set();
    this.#seen.set(screen, this.#seenHere);
    return isClocks ? game.clocks() : game.reports();
  }

  /** Puts the machine into that state again, before a chain. */
  readonly #begin = (): void => {
    this.#before = -1;
    this.game.machine.cells.set(this.#cells);
  };

  /** Called while the cells still show what the transition saw. */
  noteTransition(taken: number): void {
    const { notes, game } = this;
    const waited = game.machine.cells[game.form.cells.waited]!;
    for (const { index, condition, wait } of this.#rivals[taken]!) {
      if (notes.preemptedBy[index]! >= 0 || waited < wait()) continue;
      if (condition < 0 || this.#terms.value(condition) !== 0) notes.preemptedBy[index] = taken;
    }
    if (this.#before >= 0) notes.twice(this.#before, taken, this.row, this.at);
    this.#before = taken;
  }
}
