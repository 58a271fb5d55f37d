import type { KnownSlot } from '../../engine/compile/representation.js';
import type { Form } from '../../engine/program/form.js';
import { Evaluator } from '../../engine/run/evaluator.js';
import type { PlayProgram } from './play-program.js';

/** A piece that waits for the player and can be met. */
export interface Waiting {
  readonly piece: number;
  /** Milliseconds until it is missed. */
  readonly missedIn: number;
  /** Where it stands among those that are sought: what `chosen` is set to. */
  readonly at: number;
}

/** What a player that decides can choose from, read from the memory of its program. */
export class Situation {
  /** By piece, the number of what it needs, or -1. */
  readonly #needs: readonly number[];
  readonly #evaluator: Evaluator;

  constructor(
    private readonly form: Form,
    private readonly made: PlayProgram,
    readonly memory: Float64Array,
  ) {
    this.#evaluator = new Evaluator(form, memory.subarray(0, form.cells.size));
    this.#needs = form.pieces.map(({ needs }) => (needs === undefined ? -1 : this.#evaluator.add(needs)));
  }

  cell({ slot }: KnownSlot): number {
    return this.memory[slot]!;
  }

  get screen(): number {
    return this.memory[this.form.cells.screen]!;
  }

  /** The one there longest first. */
  waiting(): Waiting[] {
    const { sought } = this.made.meeting;
    const live = this.memory[this.form.cells.live]!;
    const waiting: Waiting[] = [];
    for (let at = this.cell(sought.head); at < this.cell(sought.tail); at++) {
      const piece = this.memory[sought.bases.piece + at]!;
      const needs = this.#needs[piece]!;
      if (needs >= 0 && this.#evaluator.value(needs) === 0) continue;
      waiting.push({ piece, missedIn: this.memory[sought.bases.due + at]! - live, at });
    }
    return waiting;
  }

  /** Turns the player to what waits at a place; -1: to nothing. */
  choose(at: number): void {
    this.memory[this.made.meeting.chosen.slot] = at;
  }

  /** Sends an event; -1: none. */
  send(event: number): void {
    this.memory[this.made.decided.slot] = event;
  }
}
