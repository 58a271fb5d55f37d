import { type FunctionCode, tell } from '../../engine/compile/representation.js';
import { together } from '../../engine/program/build/build.js';
import { machineCells } from '../../engine/program/build/machine-cells.js';
import { sessionProgram } from '../../engine/program/build/session-program.js';
import { cellsOf, Slots } from '../../engine/program/build/slots.js';
import type { Form } from '../../engine/program/form.js';
import { type Backend, functionsOf } from '../../engine/run/backend.js';
import { choose, draw, type SessionKey, sessionKey } from '../../engine/run/draw.js';
import { Machine } from '../../engine/run/machine.js';
import { type Probe, watchesNothing } from '../../engine/run/probe.js';
import type { Reception } from '../../engine/run/reception.js';
import { Accounting } from '../../measure/accounting.js';
import { SessionLog } from '../../measure/session-log.js';
import type { Tally } from '../../measure/tally.js';
import { type Meeting, mostPractised } from '../meeting/meeting.js';
import type { Sent } from './play.js';

/** A session's functions, and those that note how it goes. */
interface NotedBackend extends Backend {
  beginSession(): void;
  settled(): void;
  leave(): void;
}

const programs = new WeakMap<Form, ReturnType<typeof notedProgram>>();

/** The program of a session that keeps account of its runs and reports what appears and goes. */
function notedProgram(form: Form) {
  const slots = new Slots(machineCells(form).size);
  const accounting = new Accounting(form, slots);
  const listener = together(accounting.listener, {
    transition: (taken) => [tell('probe.transition', taken)],
    appeared: (piece) => [tell('probe.appeared', piece)],
    gone: (piece) => [tell('probe.gone', piece)],
    cleared: (piece) => [tell('probe.cleared', piece)],
    allCleared: () => [tell('probe.allCleared')],
  });
  const functions = new Map<string, FunctionCode>([
    ['beginSession', { parameters: [], body: accounting.begin() }],
    ['settled', { parameters: [], body: accounting.settled() }],
    ['leave', { parameters: [], body: accounting.leave() }],
  ]);
  return { program: sessionProgram(form, listener, { slots: slots.size, functions }), accounting };
}

/**
 * Drives sessions of a form for whoever meets its pieces in a way of its own: a world, or a log of what somebody played. What the player does
 * on screens that are not live, how many runs it plays, and what all of it adds up to stand here.
 */
export abstract class SessionDriver {
  readonly machine: Machine;
  protected key: SessionKey = { low: 0, high: 0 };
  /** Of the session that is played, or was played last. */
  readonly log: SessionLog;
  #backend!: NotedBackend;
  readonly #ended: number;
  readonly #lost: number;
  readonly #tried: number;
  #quitsAsked = 0;
  /** Session time at which the player, on a screen that is not live, sends an input. */
  #thinksUntil = 0;
  readonly #inputsAsked: number[];

  constructor(
    protected readonly form: Form,
    protected readonly meeting: Meeting,
    private readonly tally: Tally,
    private readonly sent: Sent | undefined,
    spawns = true,
  ) {
    this.#inputsAsked = form.screens.map(() => 0);
    const { program, accounting } = programs.get(form) ?? notedProgram(form);
    programs.set(form, { program, accounting });
    const probe: Probe = {
      ...watchesNothing,
      transition: (transition) => {
        this.#thinksUntil = this.machine.cells[form.cells.now]! + meeting.player.thinks;
        this.begins(form.transitions[transition]!.fresh);
      },
      appeared: (piece) => this.appeared(piece),
      gone: (piece) => this.gone(piece),
      cleared: (piece) => this.cleared(piece),
      allCleared: () => this.allCleared(),
    };
    const draws = (place: number, asked: number): number => draw(this.key, form.draws[place]!, asked);
    // The log counts in columns of the program's own memory, which is there once the program is.
    const log = {
      endRun: (...run: Parameters<SessionLog['endRun']>) => this.log.endRun(...run),
      end: (duration: number, playTime: number) => this.log.end(duration, playTime),
    };
    this.machine = new Machine(form, {
      draws,
      probe,
      makeBackend: (host) => {
        this.#backend = functionsOf<NotedBackend>(program, undefined)(host, probe, log);
        return this.#backend;
      },
      spawns,
    });
    this.log = new SessionLog(form, (name) => cellsOf(accounting.log[name], this.#backend.cells));
    this.#ended = accounting.ended.slot;
    this.#lost = accounting.lost.slot;
    this.#tried = accounting.tried.slot;
  }

  /** A fresh start of a span (its index; -1: none) begins; pieces that it clears and places are reported next. */
  protected abstract begins(span: number): void;
  protected abstract appeared(piece: number): void;
  protected abstract gone(piece: number): void;
  protected abstract cleared(piece: number): void;
  protected abstract allCleared(): void;
  /** Before each session. */
  protected abstract reset(): void;
  /** The next thing that happens on a live screen; false where nothing can, or not before the player's patience is over. */
  protected abstract liveStep(patience: number): boolean;

  /** Plays one session from the first start until the player leaves. */
  play(seed: number, session: number): void {
    this.key = sessionKey(seed, session);
    this.#inputsAsked.fill(0);
    this.#quitsAsked = 0;
    this.log.begin(session);
    this.#backend.beginSession();
    this.reset();
    this.allCleared();
    this.machine.begin();
    this.settle();
    const { patience, runs } = this.meeting.player;
    while (this.runsEnded < runs && !this.quits() && this.step(patience)) this.settle();
    this.#backend.leave();
    this.tally.count(this.log);
  }

  /** Whether the player leaves after a run that it has just lost. */
  protected quits(): boolean {
    const { cells } = this.#backend;
    const { player, quitThreshold, quitDraw } = this.meeting;
    if (player.quits === 0 || cells[this.#lost] !== 1) return false;
    cells[this.#lost] = 0;
    return draw(this.key, quitDraw, this.#quitsAsked++) < quitThreshold;
  }

  /** After an event, before the next. */
  protected settle(): void {
    this.#backend.settled();
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

  protected send(event: number, at: number, beforeWaits: boolean): Reception {
    this.machine.elapse(at);
    this.sent?.(event, at, beforeWaits, true);
    return this.machine.send(event);
  }

  /** How many attempts of this run came before one that is made now. */
  protected attempt(): number {
    const { cells } = this.#backend;
    const before = cells[this.#tried]!;
    cells[this.#tried] = Math.min(before + 1, mostPractised);
    return before;
  }

  /** Runs that came to an ending. */
  protected get runsEnded(): number {
    return this.#backend.cells[this.#ended]!;
  }

  #sendInput(inputs: readonly number[], at: number): void {
    const screen = this.machine.cells[this.form.cells.screen]!;
    const drawn = draw(this.key, this.meeting.inputDraws[screen]!, this.#inputsAsked[screen]!++);
    this.#thinksUntil = at + this.meeting.player.thinks;
    this.send(inputs[choose(drawn, inputs.length)]!, at, false);
  }
}
