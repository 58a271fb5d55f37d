import type { Form } from '../../engine/program/form.js';
import type { Tally } from '../../measure/tally.js';
import type { Meeting } from '../meeting/meeting.js';
import { SessionDriver } from './session-driver.js';

/** An outside event of a session that somebody played, at a time in milliseconds. */
export interface LoggedEvent {
  readonly event: number;
  readonly at: number;
  readonly isTried: boolean;
}

/** A session that somebody played. */
export interface LoggedSession {
  /** In the order of their times. */
  readonly events: readonly LoggedEvent[];
  /** Milliseconds at which the player left; undefined: nobody says. */
  readonly end: number | undefined;
}

/** What is heard of a session while it is played again. */
export interface Watcher {
  /**
   * Before an event.
   *
   * @param tried attempts of the run that came before it, where it is one
   */
  heard(event: LoggedEvent, now: Moment, tried: number): void;
  /** After it. */
  settled(now: Moment): void;
}

/** Where a session stands. */
export interface Moment {
  readonly session: number;
  /** Runs that have reached an ending, and transitions that were taken. */
  readonly runsEnded: number;
  readonly transitions: number;
  readonly cells: Float64Array;
}

/** Milliseconds that a session of which nobody says when it ended is taken to go on for after its last event. */
const lingering = 10_000;

/** Plays sessions again that were played elsewhere: what the log holds happens, and the clocks of the design in between. */
export class LogPlay extends SessionDriver {
  #session: LoggedSession = { events: [], end: undefined };
  #next = 0;
  #transitions = 0;

  constructor(
    form: Form,
    meeting: Meeting,
    tally: Tally,
    ownsPresence: boolean,
    private readonly watcher: Watcher,
  ) {
    super(form, meeting, tally, undefined, !ownsPresence);
  }

  replay(seed: number, session: number, logged: LoggedSession): void {
    this.#session = logged;
    this.play(seed, session);
  }

  protected override reset(): void {
    this.#next = 0;
  }

  protected override step(): boolean {
    const { events, end } = this.#session;
    const next = events[this.#next];
    this.machine.peek();
    if (next === undefined) {
      // What a timer ends just after the last event has no event of its own.
      const until = end ?? (events.at(-1)?.at ?? 0) + lingering;
      if (!this.isLive || this.machine.dueAt > until) return this.#leave();
      this.machine.fire();
      return true;
    }
    if (this.machine.dueAt <= next.at) this.machine.fire();
    else {
      this.#next++;
      this.machine.elapse(Math.max(next.at, this.machine.cells[this.form.cells.now]!));
      this.watcher.heard(next, this.#now, this.#isAttempt(next) ? this.attempt() : 0);
      this.send(next.event, this.machine.cells[this.form.cells.now]!, false);
      this.watcher.settled(this.#now);
    }
    return true;
  }

  #leave(): false {
    const { end } = this.#session;
    const now = this.machine.cells[this.form.cells.now]!;
    if (end !== undefined && end > now) this.machine.elapse(end);
    return false;
  }

  /** Whoever was logged has left where the log ends. */
  protected override quits(): boolean {
    return false;
  }

  /** Whether skill decided it. */
  #isAttempt({ event, isTried }: LoggedEvent): boolean {
    const { kind, piece } = this.form.events[event]!;
    if (kind !== 'outcome' || !isTried) return false;
    const { weighted, isSkilled } = this.form.pieces[piece]!;
    return weighted === undefined || isSkilled;
  }

  get #now(): Moment {
    return {
      session: this.log.session,
      runsEnded: this.runsEnded,
      transitions: this.#transitions,
      cells: this.machine.cells,
    };
  }

  protected override begins(): void {
    this.#transitions++;
  }

  protected override appeared(): void {}
  protected override gone(): void {}
  protected override cleared(): void {}
  protected override allCleared(): void {}
  protected override liveStep(): boolean {
    return false;
  }
}
