import type { CarrierName, Probe } from '../engine/carrier.js';
import { choose, draw, type SessionKey, sessionKey } from '../engine/draw.js';
import type { Form } from '../engine/form.js';
import { carrierOf } from '../engine/generate.js';
import { clockKinds, Machine, type Reception } from '../engine/machine.js';
import { Gathering } from './gathering.js';
import { type Meeting, thinkingTime } from './meeting.js';
import { RunWatch } from './run-watch.js';
import type { Tally } from './tally.js';

/** What a watcher of one session hears: every outside event that the player sends, at its moment. */
export type Sent = (event: number, at: number, beforeWaits: boolean) => void;

/**
 * Plays sessions with a simulated player, on either carrier, and adds them to a tally. This is the plain form of the
 * meeting model; `generated-play.ts` writes the same out for one design and player.
 */
export class Play {
  readonly machine: Machine;
  readonly #form: Form;
  readonly #meeting: Meeting;
  readonly #runs: RunWatch;
  #key: SessionKey = { low: 0, high: 0 };
  readonly #arriving = new Gathering();
  readonly #sought = new Gathering();
  /** The piece that the player attends to, or -1, and the live time at which that is over. */
  #attempted = -1;
  #attemptDue = Number.POSITIVE_INFINITY;
  /** The place of the course that the player is on the way to, or -1. */
  #travelsTo = -1;
  /** Whether any piece needs something to be met; if not, the oldest always can be. */
  readonly #hasNeeds: boolean;
  /** Successes that it still takes. */
  #hitsLeft = 1;
  /** When the piece that is attended to would have been missed. */
  #attemptExpires = Number.POSITIVE_INFINITY;
  /** Session time at which the player, on a screen that is not live, sends an input. */
  #thinksUntil = 0;
  readonly #outcomesAsked: number[];
  readonly #leadsAsked: number[];
  readonly #inputsAsked: number[];

  constructor(
    form: Form,
    meeting: Meeting,
    private readonly tally: Tally,
    carrier?: CarrierName,
    private readonly sent?: Sent,
  ) {
    this.#form = form;
    this.#meeting = meeting;
    this.#hasNeeds = form.pieces.some(({ needs }) => needs !== undefined);
    this.#outcomesAsked = form.pieces.map(() => 0);
    this.#leadsAsked = form.pieces.map(() => 0);
    this.#inputsAsked = form.screens.map(() => 0);
    const probe: Probe = {
      rule: (rule) => {
        tally.fired[rule]!++;
      },
      transition: (transition) => {
        tally.taken[transition]!++;
        this.#runs.transition(transition);
        this.#thinksUntil = this.machine.cells[form.cells.now]! + thinkingTime;
      },
      write: (counter, source, before, after) => {
        if (counter === form.score) tally.points[source]! += after - before;
      },
      cue: () => {},
      popup: () => {},
      appeared: (piece) => this.#appeared(piece),
      cleared: (piece) => this.#cleared(piece),
      allCleared: () => this.#allCleared(),
    };
    const draws = (place: number, asked: number): number => draw(this.#key, form.draws[place]!, asked);
    this.machine = new Machine(form, { draws, probe, makeCarrier: carrierOf(form, carrier, true) });
    this.#runs = new RunWatch(form, this.machine.cells, tally);
  }

  /** Plays one session from the first start until the player leaves. */
  play(seed: number, session: number): void {
    this.#key = sessionKey(seed, session);
    this.#allCleared();
    for (const asked of [this.#outcomesAsked, this.#leadsAsked, this.#inputsAsked]) asked.fill(0);
    this.#runs.begin(session);
    this.machine.begin();
    this.#settled();
    const { patience, runs } = this.#meeting.player;
    while (this.#runs.ended < runs && this.#step(patience)) this.#settled();
    this.#runs.leave();
    this.tally.shares.push(this.tally.points);
    this.tally.sessions++;
  }

  #settled(): void {
    this.#runs.settled();
    // A fall puts the player back, and what it was on the way to may be gone.
    if (this.#travelsTo >= 0 && this.#pieceAhead() !== this.#attempted) this.#stopAttempt();
    this.#attend();
  }

  /** The piece that the player meets next on the course, at `#travelsTo` where it is on its way already; else -1. */
  #pieceAhead(): number {
    const { course, courseLength } = this.#form.cells;
    const place = this.machine.nextOnCourse();
    if (place === courseLength || (this.#travelsTo >= 0 && this.#travelsTo !== place)) return -1;
    return this.machine.cells[course + 2 + place]!;
  }

  /** The next thing that happens; false where nothing can, or not before the player's patience is over. */
  #step(patience: number): boolean {
    const { machine } = this;
    const { cells } = machine;
    const at = this.#form.cells;
    machine.peek();
    if (this.#form.screens[cells[at.screen]!]!.live) {
      const shift = cells[at.now]! - cells[at.live]!;
      const arrival = this.#arriving.due + shift;
      const attempt = this.#attemptDue + shift;
      const expiry = this.#sought.due + shift;
      let next = machine.dueAt;
      let kind = machine.dueKind;
      // A wait of the same moment comes after these three, a timer or a spawn before them.
      if (arrival < next || (arrival === next && kind === clockKinds.wait)) {
        next = arrival;
        kind = clockKinds.arrival;
      }
      if (attempt < next || (attempt === next && kind === clockKinds.wait)) {
        next = attempt;
        kind = clockKinds.attempt;
      }
      if (expiry < next || (expiry === next && kind === clockKinds.wait)) {
        next = expiry;
        kind = clockKinds.expiry;
      }
      if (next > patience || next === Number.POSITIVE_INFINITY) return this.#giveUp(next, patience);
      if (kind === clockKinds.arrival) this.#arrive(next);
      else if (kind === clockKinds.attempt) this.#finishAttempt(next);
      else if (kind === clockKinds.expiry) this.#expire(next);
      else machine.fire();
      return true;
    }
    const inputs = this.#meeting.inputs[cells[at.screen]!]!;
    const thinks = inputs.length === 0 ? Number.POSITIVE_INFINITY : this.#thinksUntil;
    const next = Math.min(machine.dueAt, thinks);
    if (next > patience || next === Number.POSITIVE_INFINITY) return this.#giveUp(next, patience);
    if (machine.dueAt <= thinks) machine.fire();
    else this.#sendInput(inputs, next);
    return true;
  }

  #giveUp(next: number, patience: number): false {
    if (next !== Number.POSITIVE_INFINITY) this.machine.elapse(patience);
    return false;
  }

  #send(event: number, at: number, beforeWaits: boolean): Reception {
    this.machine.elapse(at);
    this.sent?.(event, at, beforeWaits);
    return this.machine.send(event);
  }

  #sendInput(inputs: readonly number[], at: number): void {
    const screen = this.machine.cells[this.#form.cells.screen]!;
    const drawn = draw(this.#key, this.#meeting.inputDraws[screen]!, this.#inputsAsked[screen]!++);
    this.#thinksUntil = at + thinkingTime;
    this.#send(inputs[choose(drawn, inputs.length)]!, at, false);
  }

  /** The event with which meeting a piece ends. */
  #outcome(piece: number): number {
    const drawn = draw(this.#key, this.#meeting.outcomeDraws[piece]!, this.#outcomesAsked[piece]!++);
    const { success, failure, weighted } = this.#form.pieces[piece]!;
    if (weighted !== undefined) return this.machine.weighedOutcome(piece, drawn);
    return drawn < this.#meeting.thresholds[piece]! ? success : failure;
  }

  #finishAttempt(at: number): void {
    const piece = this.#attempted;
    if (this.#travelsTo >= 0) {
      this.#finishTravel(piece, at);
      return;
    }
    this.#stopAttempt();
    this.machine.elapse(at);
    if (!this.machine.canMeet(piece)) {
      this.#seekAgain(piece);
      return;
    }
    const event = this.#outcome(piece);
    if (event === this.#form.pieces[piece]!.success && this.#hitsLeft > 1) {
      this.#hitsLeft--;
      this.#attempt(piece);
      return;
    }
    const isAgain = this.#meeting.again[piece]!;
    if (
      event === this.#form.pieces[piece]!.failure &&
      (isAgain || this.#form.events[event]!.presence === 0)
    ) {
      // Before the event is told, since what follows from it may clear the piece away.
      this.#seekAgain(piece);
      if (isAgain) return;
    }
    this.#meet(piece, event, at);
  }

  /** The player has come to a piece of the course: it meets it, passes it by, or waits until it can be met. */
  #finishTravel(piece: number, at: number): void {
    const { gone, failure } = this.#form.pieces[piece]!;
    this.#stopAttempt();
    this.machine.elapse(at);
    if (!this.machine.canMeet(piece)) {
      if (this.#meeting.meets[piece] !== 'sought') this.#send(gone, at, true);
      return;
    }
    const event = this.#outcomeOfAll(piece);
    if (event !== failure || !this.#meeting.again[piece]) this.#send(event, at, true);
  }

  /** How a piece that takes several successes at once ends. */
  #outcomeOfAll(piece: number): number {
    const { success } = this.#form.pieces[piece]!;
    let event = this.#outcome(piece);
    for (let left = this.#meeting.hits[piece]!; left > 1 && event === success; left--)
      event = this.#outcome(piece);
    return event;
  }

  #seekAgain(piece: number): void {
    this.#sought.add(piece, Math.max(this.#attemptExpires, this.machine.cells[this.#form.cells.live]!));
  }

  #arrive(at: number): void {
    const piece = this.#arriving.takeDue();
    const { gone } = this.#form.pieces[piece]!;
    this.machine.elapse(at);
    this.#meet(piece, this.machine.canMeet(piece) ? this.#outcomeOfAll(piece) : gone, at);
  }

  #expire(at: number): void {
    const piece = this.#sought.takeDue();
    this.#meet(piece, this.#form.pieces[piece]!.failure, at);
  }

  /** What grace turns away, or what cannot be met, is gone all the same. */
  #meet(piece: number, event: number, at: number): void {
    if (this.#send(event, at, true) !== 'handled') this.#send(this.#form.pieces[piece]!.gone, at, true);
  }

  /** A player who attends to nothing turns to the piece that has been there longest. */
  #attend(): void {
    const { cells } = this.machine;
    const at = this.#form.cells;
    if (this.#attempted >= 0 || !this.#form.screens[cells[at.screen]!]!.live) return;
    const oldest = this.#sought.isEmpty
      ? -1
      : this.#hasNeeds
        ? this.#sought.oldest((each) => this.machine.canMeet(each))
        : 0;
    if (oldest < 0) {
      this.#travel();
      return;
    }
    this.#attemptExpires = this.#sought.dueOf(oldest);
    const piece = this.#sought.take(oldest);
    this.#hitsLeft = this.#meeting.hits[piece]!;
    this.#attempt(piece);
  }

  /** A player with nothing else to do goes on along the course. */
  #travel(): void {
    const piece = this.#pieceAhead();
    if (piece < 0 || (this.#meeting.meets[piece] === 'sought' && !this.machine.canMeet(piece))) return;
    this.#travelsTo = this.machine.nextOnCourse();
    this.#attempt(piece);
  }

  #attempt(piece: number): void {
    this.#attempted = piece;
    this.#attemptDue = this.machine.cells[this.#form.cells.live]! + this.#meeting.attempts[piece]!;
  }

  #appeared(piece: number): void {
    const live = this.machine.cells[this.#form.cells.live]!;
    const meets = this.#meeting.meets[piece];
    if (meets === 'arrives') {
      const { least, step, choices } = this.#meeting.leads[piece]!;
      const chosen =
        choices === 1
          ? 0
          : choose(draw(this.#key, this.#meeting.leadDraws[piece]!, this.#leadsAsked[piece]!++), choices);
      this.#arriving.add(piece, live + least + step * chosen);
    } else if (meets === 'sought') this.#sought.add(piece, live + this.#meeting.lasts[piece]!);
  }

  #allCleared(): void {
    this.#arriving.clear();
    this.#sought.clear();
    this.#stopAttempt();
  }

  #stopAttempt(): void {
    this.#attempted = -1;
    this.#travelsTo = -1;
    this.#attemptDue = Number.POSITIVE_INFINITY;
  }

  #cleared(piece: number): void {
    this.#arriving.remove(piece);
    this.#sought.remove(piece);
    if (this.#attempted === piece) this.#stopAttempt();
  }
}
