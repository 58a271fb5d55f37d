import { DesignError } from '../../design/problems/problem.js';
import { widened } from '../../engine/program/columns.js';
import { Packing } from '../abstraction/packing.js';
import type { Edge, UntimedGame } from '../abstraction/untimed-game.js';
import type { UntimedPath } from '../evidence/passage.js';
import { States } from '../search/states.js';

/** Steps that are taken, and states that are visited, at the most: what cannot be told with these is not told. */
const mostLabels = 300_000;
const mostStates = 20_000;

/**
 * Sums something up along the ways through a design, time left out, and finds the best for each state: longest or shortest paths by
 * label correction (Bellman 1958, Ford 1956). A step must never make less of more, so that only the best with each state counts.
 */
export abstract class BestWays {
  readonly #states: States;
  readonly #state: Float64Array;
  /** The cells of the state from which steps are taken. */
  readonly #before: Float64Array;
  /** A label is a state with a sum, and what it was come to by: the label before it, -1 for the first, and the edge from there. */
  #labels = 0;
  #rows = new Int32Array(256);
  #sums = new Float64Array(256);
  #parents = new Int32Array(256);
  #edges = new Int32Array(256);
  /** By state, its best label. */
  #best = new Int32Array(256);

  /** @param sign 1: more is better, -1: less is */
  constructor(
    readonly game: UntimedGame,
    protected readonly sign: 1 | -1,
  ) {
    this.#states = new States(new Packing(game.domain), true);
    this.#state = new Float64Array(game.width);
    this.#before = new Float64Array(game.form.cells.size);
  }

  /** The sum at the first start, where the machine stands. */
  protected abstract first(): number;
  /** Takes a step of which the sum before is given, and says what it is after; undefined where it cannot be taken. */
  protected abstract after(edge: Edge, sum: number): number | undefined;
  /** Called with the machine in a state, before steps are taken from there. */
  protected abstract settle(): void;

  /**
   * The best label of every state; 'endless' where it gets better without end; undefined where that takes too many steps to tell.
   *
   * @param enough a sum that cannot be bettered, which ends the search
   */
  find(enough: number): Int32Array | 'endless' | undefined {
    const { game, sign } = this;
    const next = new Float64Array(game.width);
    game.machine.begin();
    game.read(next);
    const first = this.first();
    this.#add(this.#states.numberOf(next), first, -1, -1);
    let isEnough = first === enough;
    for (let from = 0, steps = 0; from < this.#labels && !isEnough; from++) {
      const row = this.#rows[from]!;
      if (this.#best[row] !== from) continue;
      const before = this.#sums[from]!;
      for (const edge of this.#edgesFrom(row)) {
        if (++steps > mostLabels || this.#states.length > mostStates) return undefined;
        const sum = this.#step(edge, before);
        if (sum === undefined) continue;
        game.read(next);
        const states = this.#states.length;
        const to = this.#states.numberOf(next);
        if (to < 0) return undefined;
        const isKnown = this.#states.length === states;
        if (isKnown && sign * sum <= sign * this.sumOf(this.#best[to]!)) continue;
        const label = this.#add(to, sum, from, edge);
        if (isKnown) {
          if (this.#goesRound(label)) return 'endless';
          this.#write(row);
        }
        isEnough ||= sum === enough;
      }
    }
    return this.#best.slice(0, this.#states.length);
  }

  sumOf(label: number): number {
    return this.#sums[label]!;
  }

  /** The screen of a label's state. */
  screenOf(label: number): number {
    this.#states.read(this.#rows[label]!, this.#state);
    return this.#state[0]!;
  }

  pathTo(label: number): UntimedPath {
    const steps: { edge: Edge; state: Float64Array }[] = [];
    for (let at = label; this.#parents[at]! >= 0; at = this.#parents[at]!) {
      const state = new Float64Array(this.game.width);
      this.#states.read(this.#rows[at]!, state);
      steps.push({ edge: this.game.edge(this.#edges[at]!), state });
    }
    return steps.reverse();
  }

  /** Adds a label, the best of its state. */
  #add(row: number, sum: number, parent: number, edge: number): number {
    const label = this.#labels++;
    if (label === this.#rows.length) {
      this.#rows = widened(this.#rows);
      this.#sums = widened(this.#sums);
      this.#parents = widened(this.#parents);
      this.#edges = widened(this.#edges);
    }
    if (row === this.#best.length) this.#best = widened(this.#best);
    this.#rows[label] = row;
    this.#sums[label] = sum;
    this.#parents[label] = parent;
    this.#edges[label] = edge;
    this.#best[row] = label;
    return label;
  }

  #write(row: number): void {
    const { game } = this;
    this.#states.read(row, this.#state);
    game.write(this.#state);
    this.settle();
    this.#before.set(game.machine.cells);
  }

  #edgesFrom(row: number): number[] {
    this.#write(row);
    return [...this.game.clocks(), ...this.game.reports()];
  }

  #step(edge: number, sum: number): number | undefined {
    const { game } = this;
    game.machine.cells.set(this.#before);
    try {
      return this.after(game.edge(edge), sum);
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      return undefined;
    }
  }

  /** Whether a better sum was come to by way of the same state, and that way would better it again, and so without end. */
  #goesRound(label: number): boolean {
    const row = this.#rows[label]!;
    const around: number[] = [label];
    for (let at = this.#parents[label]!; this.#rows[at] !== row; at = this.#parents[at]!) {
      if (this.#parents[at]! < 0) return false;
      around.push(at);
    }
    let sum: number | undefined = this.#sums[label]!;
    let from = row;
    for (const next of around.reverse()) {
      this.#write(from);
      sum = this.#step(this.#edges[next]!, sum);
      if (sum === undefined) return false;
      from = this.#rows[next]!;
    }
    // What the way adds, cuts off or sets is the same each time round: only what it adds betters the sum twice.
    return this.sign * sum > this.sign * this.#sums[label]!;
  }
}
