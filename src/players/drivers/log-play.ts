import type { Form } from '../../engine/program/form.js';
import type { Tally } from '../../measure/tally.js';
import type { Meeting } from '../meeting/meeting.js';
import { SessionDriver } from './session-driver.js';

/** An outside event of a session that somebody played, at a time in milliseconds. */
export interface LoggedEvent {
  readonly event: number;
  readonly at: number;
}

/** Milliseconds that a session is taken to go on for after its last event. */
const lingering = 10_000;

/** Plays sessions again that were played elsewhere: what the log holds happens, and the clocks of the design in between. */
export class LogPlay extends SessionDriver {
  #events: readonly LoggedEvent[] = [];
  #next = 0;

  constructor(form: Form, meeting: Meeting, tally: Tally, ownsPresence: boolean) {
    super(form, meeting, tally, undefined, !ownsPresence);
  }

  /** @param events in the order of their times */
  replay(seed: number, session: number, events: readonly LoggedEvent[]): void {
    this.#events = events;
    this.play(seed, session);
  }

  protected override reset(): void {
    this.#next = 0;
  }

  protected override step(): boolean {
    const next = this.#events[this.#next];
    this.machine.peek();
    if (next === undefined) {
      // What a timer ends just after the last event has no event of its own.
      const last = this.#events.at(-1)?.at ?? 0;
      if (!this.isLive || this.machine.dueAt > last + lingering) return false;
      this.machine.fire();
      return true;
    }
    if (this.machine.dueAt <= next.at) this.machine.fire();
    else {
      this.#next++;
      this.send(next.event, Math.max(next.at, this.machine.cells[this.form.cells.now]!), false);
    }
    return true;
  }

  protected override begins(): void {}
  protected override appeared(): void {}
  protected override gone(): void {}
  protected override cleared(): void {}
  protected override allCleared(): void {}
  protected override liveStep(): boolean {
    return false;
  }
}
