import { DesignError } from '../../design/problems/problem.js';
import { Packing } from '../abstraction/packing.js';
import type { Edge, UntimedGame } from '../abstraction/untimed-game.js';
import type { UntimedPath } from '../evidence/witness.js';
import { States } from '../search/states.js';

/** Steps that are taken, and states that are visited, at the most: what cannot be told with these is not told. */
const mostLabels = 300_000;
const mostStates = 20_000;

/** A state with a sum, and what it was come to by: the label before it, none for the first, and the edge from there. */
export interface Label {
  readonly row: number;
  readonly sum: number;
  readonly before: Label | undefined;
  readonly edge: number;
}

/**
 * Sums something up along the ways through a design, time left out, and finds the best for each state: longest or shortest paths by
 * label correction (Bellman 1958, Ford 1956). A step must never make less of more, so that only the best with each state counts.
 */
export abstract class BestWays {
  readonly #states: States;
  readonly #state: Float64Array;
  /** The cells of the state from which steps are taken. */
  readonly #before: Float64Array;

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
   * The best of every state; 'endless' where it gets better without end; undefined where that takes too many steps to tell.
   *
   * @param enough a sum that cannot be bettered, which ends the search
   */
  find(enough: number): readonly Label[] | 'endless' | undefined {
    const { game, sign } = this;
    const next = new Float64Array(game.width);
    game.machine.begin();
    game.read(next);
    const start: Label = { row: this.#states.numberOf(next), sum: this.first(), before: undefined, edge: -1 };
    const best = new Map([[start.row, start]]);
    const waiting = [start];
    let isEnough = start.sum === enough;
    for (let at = 0, steps = 0; at < waiting.length && !isEnough; at++) {
      const from = waiting[at]!;
      if (best.get(from.row) !== from) continue;
      for (const edge of this.#edgesFrom(from.row)) {
        if (++steps > mostLabels || this.#states.length > mostStates) return undefined;
        const sum = this.#step(edge, from.sum);
        if (sum === undefined) continue;
        game.read(next);
        const row = this.#states.numberOf(next);
        if (row < 0) return undefined;
        const known = best.get(row);
        if (known !== undefined && sign * sum <= sign * known.sum) continue;
        const label: Label = { row, sum, before: from, edge };
        if (known !== undefined) {
          if (this.#goesRound(label)) return 'endless';
          this.#write(from.row);
        }
        best.set(row, label);
        waiting.push(label);
        isEnough ||= sum === enough;
      }
    }
    return [...best.values()];
  }

  /** The screen of a label's state. */
  screenOf({ row }: Label): number {
    this.#states.read(row, this.#state);
    return this.#state[0]!;
  }

  pathTo(label: Label): UntimedPath {
    const steps: { edge: Edge; state: Float64Array }[] = [];
    for (let at = label; at.before !== undefined; at = at.before) {
      const state = new Float64Array(this.game.width);
      this.#states.read(at.row, state);
      steps.push({ edge: this.game.edge(at.edge), state });
    }
    return steps.reverse();
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
  #goesRound(label: Label): boolean {
    const around: Label[] = [label];
    for (let at = label.before; at!.row !== label.row; at = at!.before) {
      if (at!.before === undefined) return false;
      around.unshift(at!);
    }
    let sum: number | undefined = label.sum;
    let from = label.row;
    for (const { row, edge } of around) {
      this.#write(from);
      sum = this.#step(edge, sum);
      if (sum === undefined) return false;
      from = row;
    }
    // What the way adds, cuts off or sets is the same each time round: only what it adds betters the sum twice.
    return this.sign * sum > this.sign * label.sum;
  }
}
