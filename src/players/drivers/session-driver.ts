import { UsageError } from '../../design/problems/problem.js';
import { type CarrierName, type Probe, watchesNothing } from '../../engine/compile/backend.js';
import { carrierOf } from '../../engine/compile/generate.js';
import type { Form } from '../../engine/program/form.js';
import { fromCell } from '../../engine/program/value.js';
import { choose, draw, type SessionKey, sessionKey } from '../../engine/run/draw.js';
import { Machine } from '../../engine/run/machine.js';
import type { Reception } from '../../engine/run/reception.js';
import { RunWatch } from '../../measure/run-watch.js';
import { Sheet } from '../../measure/session-log.js';
import type { Tally } from '../../measure/tally.js';
import type { Meeting } from '../meeting/meeting.js';
import type { Decide, Situation } from './decision-context.js';

/** What a watcher of one session hears: every outside event, at its moment, and whether the player tried what it tells of. */
export type Sent = (event: number, at: number, beforeWaits: boolean, isTried: boolean) => void;

/**
 * A simulated player at the machine, session after session: what it does on screens that are not live, how many runs it
 * plays, and what all of it adds up to. How pieces are met on live screens is for those that extend this.
 */
export abstract class Sitting {
  readonly machine: Machine;
  protected key: SessionKey = { low: 0, high: 0 };
  /** Of the session that is played, or was played last. */
  readonly sheet: Sheet;
  readonly #runs: RunWatch;
  /** Session time at which the player, on a screen that is not live, sends an input. */
  #thinksUntil = 0;
  readonly #inputsAsked: number[];

  constructor(
    protected readonly form: Form,
    protected readonly meeting: Meeting,
    private readonly tally: Tally,
    carrier: CarrierName | undefined,
    private readonly sent: Sent | undefined,
    spawns = true,
  ) {
    this.#inputsAsked = form.screens.map(() => 0);
    const probe: Probe = {
      ...watchesNothing,
      outcome: (event) => {
        this.#runs.outcome(event);
      },
      rule: (rule) => {
        this.#runs.rule(rule);
      },
      transition: (transition) => {
        this.#runs.transition(transition);
        this.#thinksUntil = this.machine.cells[form.cells.now]! + meeting.player.thinks;
        this.begins(form.transitions[transition]!.fresh);
      },
      write: (counter, source, before, after) => {
        this.#runs.write(counter, source, before, after);
      },
      appeared: (piece) => this.appeared(piece),
      cleared: (piece) => this.cleared(piece),
      allCleared: () => this.allCleared(),
    };
    const draws = (place: number, asked: number): number => draw(this.key, form.draws[place]!, asked);
    this.machine = new Machine(form, { draws, probe, makeCarrier: carrierOf(form, carrier, true), spawns });
    this.sheet = new Sheet(form);
    this.#runs = new RunWatch(form, this.machine.cells, this.sheet);
  }

  /** A fresh start of a span (its index; -1: none) begins; pieces that it clears and places are told next. */
  protected abstract begins(span: number): void;
  protected abstract appeared(piece: number): void;
  protected abstract cleared(piece: number): void;
  protected abstract allCleared(): void;
  /** Before each session. */
  protected abstract reset(): void;
  /** After an event was handled to its end. */
  protected abstract settled(): void;
  /** The next thing that happens on a live screen; false where nothing can, or not before the player's patience is over. */
  protected abstract liveStep(patience: number): boolean;

  /** Plays one session from the first start until the player leaves. */
  play(seed: number, session: number): void {
    this.key = sessionKey(seed, session);
    this.#inputsAsked.fill(0);
    this.reset();
    this.allCleared();
    this.#runs.begin(session);
    this.machine.begin();
    this.settle();
    const { patience, runs } = this.meeting.player;
    while (this.#runs.ended < runs && this.step(patience)) this.settle();
    this.#runs.leave();
    this.tally.take(this.sheet);
  }

  /** After an event, before the next. */
  protected settle(): void {
    this.#runs.settled();
    this.settled();
  }

  protected get isLive(): boolean {
    return this.form.screens[this.machine.cells[this.form.cells.screen]!]!.live;
  }

  /** The next thing that happens; false where nothing can, or not before the player's patience is over. */
  protected step(patience: number): boolean {
    if (this.isLive) return this.liveStep(patience);
    const { machine } = this;
    machine.peek();
    const inputs = this.meeting.inputs[machine.cells[this.form.cells.screen]!]!;
    const thinks = inputs.length === 0 ? Number.POSITIVE_INFINITY : this.#thinksUntil;
    const next = Math.min(machine.dueAt, thinks);
    if (next > patience || next === Number.POSITIVE_INFINITY) return this.giveUp(next, patience);
    if (machine.dueAt <= thinks) machine.fire();
    else this.#sendInput(inputs, next);
    return true;
  }

  protected giveUp(next: number, patience: number): false {
    if (next !== Number.POSITIVE_INFINITY) this.machine.elapse(patience);
    return false;
  }

  protected send(event: number, at: number, beforeWaits: boolean, isTried = true): Reception {
    this.machine.elapse(at);
    this.sent?.(event, at, beforeWaits, isTried);
    return this.machine.send(event);
  }

  /** The input that a function chooses. */
  #decided(decide: Decide, inputs: readonly number[], at: number): number | undefined {
    const names = inputs.map((event) => this.form.events[event]!.name);
    this.machine.elapse(at);
    const chosen = decide(this.situation([], names));
    if (chosen === undefined) return undefined;
    const index = names.indexOf(chosen);
    if (index < 0) throw this.wrongChoice(chosen, names);
    return inputs[index]!;
  }

  protected situation(waiting: Situation['waiting'], inputs: readonly string[]): Situation {
    const { form, machine } = this;
    const { cells } = machine;
    return {
      screen: form.design.screens[cells[form.cells.screen]!]!.name,
      isLive: this.isLive,
      time: cells[form.cells.now]!,
      runsEnded: this.runsEnded,
      level: cells[form.cells.level]! + 1,
      counters: Object.fromEntries(
        form.counters.map((counter, index) => [
          counter.name,
          fromCell(counter, cells[form.cells.counters + index]!),
        ]),
      ),
      waiting,
      inputs,
    };
  }

  protected wrongChoice(chosen: string, names: readonly string[]): UsageError {
    const { name } = this.meeting.player;
    const allowed = names.length === 0 ? 'nothing' : [...new Set(names)].join(', ');
    return new UsageError(
      `The player ${name} chose "${chosen}"; there is ${allowed} to choose. Return one of these, or undefined to wait.`,
    );
  }

  /** Runs that came to an ending. */
  protected get runsEnded(): number {
    return this.#runs.ended;
  }

  #sendInput(inputs: readonly number[], at: number): void {
    const screen = this.machine.cells[this.form.cells.screen]!;
    const drawn = draw(this.key, this.meeting.inputDraws[screen]!, this.#inputsAsked[screen]!++);
    this.#thinksUntil = at + this.meeting.player.thinks;
    const { decide } = this.meeting;
    const event =
      decide === undefined ? inputs[choose(drawn, inputs.length)]! : this.#decided(decide, inputs, at);
    if (event === undefined) this.machine.elapse(at);
    else this.send(event, at, false);
  }
}
