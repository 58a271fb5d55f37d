import type { CarrierName } from '../../engine/compile/backend.js';
import type { Form } from '../../engine/program/form.js';
import { choose, draw } from '../../engine/run/draw.js';
import { clockKinds } from '../../engine/run/machine.js';
import type { Tally } from '../../measure/tally.js';
import { Gathering } from '../meeting/due-queue.js';
import type { Meeting } from '../meeting/meeting.js';
import { type Sent, Sitting } from './session-driver.js';

/**
 * Plays sessions with a simulated player, on either carrier, and adds them to a tally. This is the plain form of the
 * meeting model; `generated-play.ts` writes the same out for one design and player.
 */
export class Play extends Sitting {
  readonly #arriving = new Gathering();
  readonly #sought = new Gathering();
  /** The piece that the player attends to, or -1, and the live time at which that is over. */
  #attempted = -1;
  #attemptDue = Number.POSITIVE_INFINITY;
  /** The place of the course that the player is on the way to, or -1. */
  #travelsTo = -1;
  /** Whether any piece needs something to be met; if not, the oldest always can be. */
  readonly #hasNeeds: boolean;
  /** Whether the player seeks some pieces more than others. */
  readonly #hasStyle: boolean;
  /** Successes that it still takes. */
  #hitsLeft = 1;
  /** When the piece that is attended to would have been missed. */
  #attemptExpires = Number.POSITIVE_INFINITY;
  readonly #outcomesAsked: number[];
  readonly #leadsAsked: number[];

  constructor(form: Form, meeting: Meeting, tally: Tally, carrier?: CarrierName, sent?: Sent) {
    super(form, meeting, tally, carrier, sent);
    this.#hasNeeds = form.pieces.some(({ needs }) => needs !== undefined);
    this.#hasStyle = meeting.weights.some((weight) => weight !== 1);
    this.#outcomesAsked = form.pieces.map(() => 0);
    this.#leadsAsked = form.pieces.map(() => 0);
  }

  protected override reset(): void {
    this.#outcomesAsked.fill(0);
    this.#leadsAsked.fill(0);
  }

  protected override begins(): void {}

  protected override settled(): void {
    // A fall puts the player back, and what it was on the way to may be gone.
    if (this.#travelsTo >= 0 && this.#pieceAhead() !== this.#attempted) this.#stopAttempt();
    this.#attend();
  }

  /** The piece that the player meets next on the course, at `#travelsTo` where it is on its way already; else -1. */
  #pieceAhead(): number {
    const { course, courseLength } = this.form.cells;
    const place = this.machine.nextOnCourse();
    if (place === courseLength || (this.#travelsTo >= 0 && this.#travelsTo !== place)) return -1;
    return this.machine.cells[course + 2 + place]!;
  }

  protected override liveStep(patience: number): boolean {
    const { machine } = this;
    const { cells } = machine;
    const at = this.form.cells;
    machine.peek();
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
    if (next > patience || next === Number.POSITIVE_INFINITY) return this.giveUp(next, patience);
    if (kind === clockKinds.arrival) this.#arrive(next);
    else if (kind === clockKinds.attempt) this.#finishAttempt(next);
    else if (kind === clockKinds.expiry) this.#expire(next);
    else machine.fire();
    return true;
  }

  /** The event with which meeting a piece ends. */
  #outcome(piece: number): number {
    const drawn = draw(this.key, this.meeting.outcomeDraws[piece]!, this.#outcomesAsked[piece]!++);
    const { success, failure, weighted } = this.form.pieces[piece]!;
    if (weighted !== undefined) return this.machine.weighedOutcome(piece, drawn);
    const { thresholds, player } = this.meeting;
    const run = player.learning === 0 ? 0 : this.runsEnded;
    return drawn < thresholds[run * this.form.pieces.length + piece]! ? success : failure;
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
    if (event === this.form.pieces[piece]!.success && this.#hitsLeft > 1) {
      this.#hitsLeft--;
      this.#attempt(piece);
      return;
    }
    const isAgain = this.meeting.again[piece]!;
    if (event === this.form.pieces[piece]!.failure && (isAgain || this.form.events[event]!.presence === 0)) {
      // Before the event is told, since what follows from it may clear the piece away.
      this.#seekAgain(piece);
      if (isAgain) return;
    }
    this.#meet(piece, event, at);
  }

  /** The player has come to a piece of the course: it meets it, passes it by, or waits until it can be met. */
  #finishTravel(piece: number, at: number): void {
    const { gone, failure } = this.form.pieces[piece]!;
    this.#stopAttempt();
    this.machine.elapse(at);
    if (!this.machine.canMeet(piece)) {
      if (this.meeting.meets[piece] !== 'sought') this.send(gone, at, true);
      return;
    }
    const event = this.#outcomeOfAll(piece);
    if (event !== failure || !this.meeting.again[piece]) this.send(event, at, true);
  }

  /** How a piece that takes several successes at once ends. */
  #outcomeOfAll(piece: number): number {
    const { success } = this.form.pieces[piece]!;
    let event = this.#outcome(piece);
    for (let left = this.meeting.hits[piece]!; left > 1 && event === success; left--)
      event = this.#outcome(piece);
    return event;
  }

  #seekAgain(piece: number): void {
    this.#sought.add(piece, Math.max(this.#attemptExpires, this.machine.cells[this.form.cells.live]!));
  }

  #arrive(at: number): void {
    const piece = this.#arriving.takeDue();
    const { gone } = this.form.pieces[piece]!;
    this.machine.elapse(at);
    this.#meet(piece, this.machine.canMeet(piece) ? this.#outcomeOfAll(piece) : gone, at);
  }

  #expire(at: number): void {
    const piece = this.#sought.takeDue();
    this.#meet(piece, this.form.pieces[piece]!.failure, at, false);
  }

  /** What grace turns away, or what cannot be met, is gone all the same. */
  #meet(piece: number, event: number, at: number, isTried = true): void {
    if (this.send(event, at, true, isTried) !== 'handled') this.send(this.form.pieces[piece]!.gone, at, true);
  }

  /** A player who attends to nothing turns to the piece that it seeks most, and of these to the one that has been there longest. */
  #attend(): void {
    if (this.#attempted >= 0 || !this.isLive) return;
    const chosen = this.#sought.isEmpty ? -1 : this.#choice();
    if (chosen < 0) {
      this.#travel();
      return;
    }
    this.#attemptExpires = this.#sought.dueOf(chosen);
    const piece = this.#sought.take(chosen);
    this.#hitsLeft = this.meeting.hits[piece]!;
    this.#attempt(piece);
  }

  /** Where the piece stands that the player turns to; -1: to none. */
  #choice(): number {
    const { decide, weights } = this.meeting;
    if (decide === undefined && !this.#hasNeeds && !this.#hasStyle) return 0;
    const canMeet = (piece: number): boolean => !this.#hasNeeds || this.machine.canMeet(piece);
    if (decide === undefined) return this.#sought.heaviest((piece) => (canMeet(piece) ? weights[piece]! : 0));
    const live = this.machine.cells[this.form.cells.live]!;
    const names = this.form.pieces.map(({ name }) => name);
    const waiting = this.#sought.all().filter(({ piece }) => canMeet(piece));
    const chosen = decide(
      this.situation(
        waiting.map(({ piece, due }) => ({ piece: names[piece]!, missedIn: due - live })),
        [],
      ),
    );
    if (chosen === undefined) return -1;
    const found = waiting.find(({ piece }) => names[piece] === chosen);
    if (found === undefined)
      throw this.wrongChoice(
        chosen,
        waiting.map(({ piece }) => names[piece]!),
      );
    return found.index;
  }

  /** A player with nothing else to do goes on along the course. */
  #travel(): void {
    const piece = this.#pieceAhead();
    if (piece < 0 || (this.meeting.meets[piece] === 'sought' && !this.machine.canMeet(piece))) return;
    this.#travelsTo = this.machine.nextOnCourse();
    this.#attempt(piece);
  }

  #attempt(piece: number): void {
    this.#attempted = piece;
    this.#attemptDue = this.machine.cells[this.form.cells.live]! + this.meeting.attempts[piece]!;
  }

  protected override appeared(piece: number): void {
    const live = this.machine.cells[this.form.cells.live]!;
    const meets = this.meeting.meets[piece];
    if (meets === 'arrives') {
      const { least, step, choices } = this.meeting.leads[piece]!;
      const chosen =
        choices === 1
          ? 0
          : choose(draw(this.key, this.meeting.leadDraws[piece]!, this.#leadsAsked[piece]!++), choices);
      this.#arriving.add(piece, live + least + step * chosen);
    } else if (meets === 'sought') this.#sought.add(piece, live + this.meeting.lasts[piece]!);
  }

  protected override allCleared(): void {
    this.#arriving.clear();
    this.#sought.clear();
    this.#stopAttempt();
  }

  #stopAttempt(): void {
    this.#attempted = -1;
    this.#travelsTo = -1;
    this.#attemptDue = Number.POSITIVE_INFINITY;
  }

  protected override cleared(piece: number): void {
    this.#arriving.remove(piece);
    this.#sought.remove(piece);
    if (this.#attempted === piece) this.#stopAttempt();
  }
}
