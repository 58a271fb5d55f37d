import { machineCells } from '../program/build/machine-cells.js';
import { clockKinds } from '../program/clock-kinds.js';
import { receptions } from '../program/events.js';
import { type GameForm, levelOf } from '../program/form.js';
import type { Backend, MakeBackend } from './backend.js';
import type { DrawSource } from './draw.js';
import { Host } from './host.js';
import type { Probe } from './probe.js';
import type { Reception } from './reception.js';

export interface MachineOptions {
  readonly draws: DrawSource;
  readonly probe?: Probe | undefined;
  readonly makeBackend: MakeBackend;
  /** Whether the design's spawns run; true unless said otherwise. */
  readonly spawns?: boolean | undefined;
}

const receptionNames = Object.keys(receptions) as (keyof typeof receptions & Reception)[];

/** A form with its state: events go in, time goes on. Everything that plays a session runs one of these. */
export class Machine {
  readonly cells: Float64Array;
  readonly #backend: Backend;
  readonly #found: ReturnType<typeof machineCells>;

  constructor(
    readonly form: GameForm,
    { draws, probe, makeBackend, spawns = true }: MachineOptions,
  ) {
    this.#backend = makeBackend(new Host(form, draws), probe);
    this.#found = machineCells(form);
    this.cells = this.#backend.cells.subarray(0, form.cells.size);
    this.#backend.cells[this.#found.spawning] = spawns ? 1 : 0;
  }

  /** Puts everything at its first start and enters the first screen. */
  begin(): void {
    this.cells.fill(0);
    this.#backend.handle(-1, this.form.transitions.length - 1);
  }

  /** Lets conditions take effect after cells were set from outside. */
  settle(): void {
    this.#backend.handle(-1, -1);
  }

  /** Puts the pieces and spawn clocks of the present level at their start. */
  respawn(): void {
    this.#backend.respawn();
  }

  send(event: number): Reception {
    return receptionNames[this.#backend.send(event)]!;
  }

  /** Whether what a piece needs to be met at all holds now. */
  canMeet(piece: number): boolean {
    return this.#backend.canMeet(piece) !== 0;
  }

  /** One of the form's values that texts and the HUD show; truth values are 1 and 0. */
  value(index: number): number {
    return Number(this.#backend.value(index));
  }

  /** The clock that `peek` found: when it is due in session time, its kind, and which of that kind. */
  get dueAt(): number {
    return this.#backend.cells[this.#found.dueAt]!;
  }
  get dueKind(): number {
    return this.#backend.cells[this.#found.dueKind]!;
  }
  get dueIndex(): number {
    return this.#backend.cells[this.#found.dueIndex]!;
  }

  /** Finds the clock that is due next, and says whether there is one. */
  peek(): boolean {
    this.#backend.find();
    return this.dueKind >= 0;
  }

  /** Lets time pass without firing anything; clocks due on the way must have been fired. */
  elapse(to: number): void {
    this.#backend.elapse(to);
  }

  /** Lets time pass to the clock that `peek` found, and fires it. */
  fire(): void {
    this.elapse(this.dueAt);
    if (this.dueKind === clockKinds.timer) this.fireTimer(this.dueIndex);
    else if (this.dueKind === clockKinds.spawn) this.fireSpawn(this.dueIndex);
    else this.fireWait(this.dueIndex);
  }

  /** A timer's event, or past the last timer its warning, whatever the time. */
  fireTimer(index: number): void {
    this.#backend.fireTimer(index);
  }

  /** So long a wait on this screen is over, whatever the time. */
  fireWait(wait: number): void {
    this.#backend.fireWait(wait);
  }

  /** One appearance of a spawn of the level, as far as it is bounded, whatever the time. */
  fireSpawn(slot: number): void {
    this.#backend.fireSpawn(slot);
  }

  /** Whether a clock is due up to a moment of session time; waits that are over at that very moment may still be to come. */
  isDue(to: number, beforeWaits = false): boolean {
    if (!this.peek()) return false;
    return this.dueAt < to || (this.dueAt === to && !(beforeWaits && this.dueKind === clockKinds.wait));
  }

  /** What the clock that `peek` found stands for, in words. */
  get dueName(): string {
    const { form, cells } = this;
    if (this.dueKind === clockKinds.timer) {
      const { length } = form.timers;
      const timer = form.timers[this.dueIndex % length]!;
      return form.events[this.dueIndex < length ? timer.event : timer.warnEvent]!.name;
    }
    if (this.dueKind === clockKinds.wait) return `wait ${this.dueIndex / 1000}`;
    const spawn = levelOf(form, cells).spawns[this.dueIndex]!;
    return `${form.pieces[spawn.piece]!.name}.appeared`;
  }
}
