import { spans } from '../design/model.js';
import type { Form } from '../engine/form.js';
import type { Tally } from './tally.js';

/** Tells where one run ends and the next begins, from the transitions that are taken. */
export class RunWatch {
  /** How many runs of this session have come to an ending. */
  ended = 0;
  #session = 0;
  #isRunning = false;
  #began = 0;
  #level = 0;
  /** Bit i of word w: screen 32 w + i was entered in this run. */
  readonly #visited: Int32Array;
  /** An ending that was entered and whose rules may still add to the score; -1: none. */
  #entered = -1;

  constructor(
    private readonly form: Form,
    private readonly cells: Float64Array,
    private readonly tally: Tally,
  ) {
    this.#visited = new Int32Array(tally.runs.words);
  }

  begin(session: number): void {
    this.ended = 0;
    this.#session = session;
    this.#isRunning = false;
    this.#entered = -1;
  }

  /** Before a transition changes anything. */
  transition(index: number): void {
    const { form, cells } = this;
    const { fresh, to } = form.transitions[index]!;
    if (this.#entered >= 0) this.#finish(this.#entered);
    this.#level = Math.max(this.#level, cells[form.cells.level]!);
    if (to < 0) return;
    const isFirstStart = index === form.transitions.length - 1;
    if (!isFirstStart && fresh >= runSpan) {
      if (this.#isRunning) this.#finish(-1);
      this.#start();
    } else if (!this.#isRunning && form.screens[to]!.live) this.#start();
    this.#visited[to >> 5]! |= 1 << (to & 31);
    if (this.#isRunning && form.screens[to]!.ending) this.#entered = to;
  }

  /** After an event was handled to its end. */
  settled(): void {
    if (this.#entered >= 0) this.#finish(this.#entered);
  }

  /** When the player leaves; a run under way is abandoned. */
  leave(): void {
    if (this.#isRunning) this.#finish(-1);
  }

  #start(): void {
    this.#isRunning = true;
    this.#began = this.cells[this.form.cells.now]!;
    this.#level = 0;
    this.#visited.fill(0);
  }

  #finish(ending: number): void {
    const { cells, form } = this;
    const score = form.score < 0 ? 0 : cells[form.cells.counters + form.score]!;
    const level = Math.max(this.#level, cells[form.cells.level]!);
    this.tally.runs.push(
      this.#session,
      score,
      cells[form.cells.now]! - this.#began,
      ending,
      level,
      this.#visited,
    );
    this.#isRunning = false;
    this.#entered = -1;
    if (ending >= 0) this.ended++;
  }
}

/** The index in `spans` of a run. */
export const runSpan = spans.indexOf('run');
