import type { Expression } from '../../src/design/language/expression.js';
import type { ComputedInterval, Interval } from '../../src/design/model.js';
import { UsageError } from '../../src/design/problems/problem.js';
import { clockKinds } from '../../src/engine/program/clock-kinds.js';
import type { Form } from '../../src/engine/program/form.js';
import { fromCell } from '../../src/engine/program/value.js';
import { backendOf } from '../../src/engine/run/backend.js';
import { choose, draw, type SessionKey, sessionKey } from '../../src/engine/run/draw.js';
import { Evaluator } from '../../src/engine/run/evaluator.js';
import { Machine } from '../../src/engine/run/machine.js';
import { type Probe, watchesNothing } from '../../src/engine/run/probe.js';
import type { Reception } from '../../src/engine/run/reception.js';
import { SessionLog } from '../../src/measure/session-log.js';
import type { Tally } from '../../src/measure/tally.js';
import type { Decide, DecisionContext } from '../../src/players/drivers/decision-context.js';
import type { Sent } from '../../src/players/drivers/play.js';
import {
  exponential,
  logarithm,
  normalDeviate,
  successChance,
  threshold,
} from '../../src/players/meeting/chance.js';
import type { Meeting } from '../../src/players/meeting/meeting.js';
import { RunNotes } from './plain-run-notes.js';

/**
 * A simulated player at the machine, session after session: what it does on screens that are not live, how many runs it
 * plays, and what all of it adds up to. How pieces are met on live screens is for those that extend this.
 */
abstract class Sitting {
  readonly machine: Machine;
  protected key: SessionKey = { low: 0, high: 0 };
  /** Of the session that is played, or was played last. */
  readonly log: SessionLog;
  protected readonly runNotes: RunNotes;
  /** Session time at which the player, on a screen that is not live, sends an input. */
  #thinksUntil = 0;
  readonly #inputsAsked: number[];
  /** Whether the player leaves, after a run that it has lost. */
  protected isLeaving = false;
  #quitsAsked = 0;

  constructor(
    protected readonly form: Form,
    protected readonly meeting: Meeting,
    private readonly tally: Tally,
    private readonly sent: Sent | undefined,
    spawns = true,
  ) {
    this.#inputsAsked = form.screens.map(() => 0);
    const probe: Probe = {
      ...watchesNothing,
      outcome: (event) => {
        this.runNotes.outcome(event);
        this.met(event);
      },
      rule: (rule) => {
        this.runNotes.rule(rule);
        this.fires(rule);
      },
      transition: (transition) => {
        this.runNotes.transition(transition);
        this.#thinksUntil = this.machine.cells[form.cells.now]! + meeting.player.thinks;
        this.begins(form.transitions[transition]!.fresh);
      },
      write: (counter, source, before, after) => {
        this.runNotes.write(counter, source, before, after);
      },
      appeared: (piece) => this.appeared(piece),
      gone: (piece, isOldest) => this.gone(piece, isOldest === 1),
      cleared: (piece) => this.cleared(piece),
      allCleared: () => this.allCleared(),
    };
    const draws = (place: number, asked: number): number => draw(this.key, form.draws[place]!, asked);
    this.machine = new Machine(form, { draws, probe, makeBackend: backendOf(form, undefined, true), spawns });
    this.log = new SessionLog(form);
    this.runNotes = new RunNotes(form, this.machine.cells, this.log);
  }

  /** A fresh start of a span (its index; -1: none) begins; pieces that it clears and places are told next. */
  protected abstract begins(span: number): void;
  protected abstract appeared(piece: number): void;
  protected abstract fires(rule: number): void;
  /** An outcome counts; no rule has heard it yet. */
  protected abstract met(event: number): void;
  protected abstract gone(piece: number, isOldest: boolean): void;
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
    this.#quitsAsked = 0;
    this.isLeaving = false;
    this.reset();
    this.allCleared();
    this.runNotes.begin(session);
    this.machine.begin();
    this.settle();
    const { patience, runs } = this.meeting.player;
    while (this.runNotes.ended < runs && !this.isLeaving && this.step(patience)) this.settle();
    this.runNotes.leave();
    this.tally.count(this.log);
  }

  /** After an event, before the next. */
  protected settle(): void {
    this.noted();
    if (this.runNotes.ended < this.meeting.player.runs && !this.isLeaving) this.settled();
  }

  protected noted(): void {
    this.runNotes.settled();
    const { runs, quits } = this.meeting.player;
    if (!this.runNotes.lost || this.runNotes.ended >= runs) return;
    this.runNotes.lost = false;
    if (quits > 0 && draw(this.key, this.meeting.quitDraw, this.#quitsAsked++) < Math.round(quits * 2 ** 32))
      this.isLeaving = true;
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
    const chosen = decide(this.context([], names));
    if (chosen === undefined) return undefined;
    const index = names.indexOf(chosen);
    if (index < 0) throw this.wrongChoice(chosen, names);
    return inputs[index]!;
  }

  protected context(waiting: DecisionContext['waiting'], inputs: readonly string[]): DecisionContext {
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
      'bad-world',
      `The player ${name} chose "${chosen}"; there is ${allowed} to choose. Return one of these, or undefined to wait.`,
    );
  }

  /** Runs that came to an ending. */
  protected get runsEnded(): number {
    return this.runNotes.ended;
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

/**
 * Pieces that are on their way to the player, or wait for it, in the order in which they appeared, each due at some live
 * time (Infinity: never). Which is due first is kept at hand.
 */
class Waiting {
  readonly #pieces: number[] = [];
  readonly #dues: number[] = [];
  #count = 0;
  #first = -1;
  /** When the first is due; of those due together, the piece that the file names first, then the one there longest. */
  due = Number.POSITIVE_INFINITY;

  get isEmpty(): boolean {
    return this.#count === 0;
  }

  add(piece: number, due: number): void {
    this.#pieces[this.#count] = piece;
    this.#dues[this.#count] = due;
    if (this.#isBefore(this.#count, this.#first)) this.#setFirst(this.#count);
    this.#count++;
  }

  /** Takes out the piece that is due first. */
  takeDue(): number {
    return this.take(this.#first);
  }

  /** Where the one stands that weighs most, and of these has been there longest; -1: none weighs anything. */
  heaviest(weigh: (piece: number) => number): number {
    let most = 0;
    let found = -1;
    for (let index = 0; index < this.#count; index++) {
      const weight = weigh(this.#pieces[index]!);
      if (weight <= most) continue;
      most = weight;
      found = index;
    }
    return found;
  }

  /** All of them, the one there longest first. */
  all(): { readonly index: number; readonly piece: number; readonly due: number }[] {
    return Array.from({ length: this.#count }, (_, index) => ({
      index,
      piece: this.#pieces[index]!,
      due: this.#dues[index]!,
    }));
  }

  dueOf(index: number): number {
    return this.#dues[index]!;
  }

  remove(piece: number): void {
    for (let index = this.#count - 1; index >= 0; index--) {
      if (this.#pieces[index] === piece) this.take(index);
    }
  }

  clear(): void {
    this.#count = 0;
    this.#setFirst(-1);
  }

  take(index: number): number {
    const piece = this.#pieces[index]!;
    this.#count--;
    for (let at = index; at < this.#count; at++) {
      this.#pieces[at] = this.#pieces[at + 1]!;
      this.#dues[at] = this.#dues[at + 1]!;
    }
    if (index < this.#first) this.#first--;
    else if (index === this.#first) {
      let first = -1;
      for (let at = 0; at < this.#count; at++) if (this.#isBefore(at, first)) first = at;
      this.#setFirst(first);
    }
    return piece;
  }

  #setFirst(index: number): void {
    this.#first = index;
    this.due = index < 0 ? Number.POSITIVE_INFINITY : this.#dues[index]!;
  }

  #isBefore(index: number, other: number): boolean {
    const due = this.#dues[index]!;
    if (due === Number.POSITIVE_INFINITY) return false;
    if (other < 0) return true;
    return (
      due < this.#dues[other]! || (due === this.#dues[other] && this.#pieces[index]! < this.#pieces[other]!)
    );
  }
}

/**
 * The meeting model read plainly, one thing after the other, around a session that is told step by step: the judge of the program that plays
 * thousands of sessions.
 */
export class PlainPlayer extends Sitting {
  readonly #arriving = new Waiting();
  readonly #sought = new Waiting();
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
  readonly #weights: Evaluator;
  readonly #weighed: readonly (readonly number[])[];
  /** What is computed of each piece, as it is at the moment. */
  readonly #computed: readonly {
    readonly difficulty: () => number;
    readonly takes: () => number;
    readonly lasts: () => number;
    readonly lead: readonly [() => number, (() => number) | undefined];
    readonly returns: readonly [() => number, (() => number) | undefined];
  }[];
  /** By act, the number of its condition, or -1; and the live time at which it is due. */
  readonly #acts: readonly number[];
  readonly #actDue: number[];
  /** By piece, tries that an event has given at it. */
  readonly #tries: number[];
  /** The number of the condition under which the player takes care, or -1. */
  readonly #careful: number;
  readonly #outcomesAsked: number[];
  readonly #leadsAsked: number[];
  readonly #timesAsked: number[];

  constructor(form: Form, meeting: Meeting, tally: Tally, sent?: Sent) {
    super(form, meeting, tally, sent);
    this.#weights = new Evaluator(form, this.machine.cells);
    this.#weighed = form.pieces.map(({ weighted = [] }) =>
      weighted.map(({ weight }) => this.#weights.add(weight)),
    );
    this.#hasNeeds = form.pieces.some(({ needs }) => needs !== undefined);
    const now = (of: Expression | number | undefined): (() => number) => {
      if (typeof of !== 'object') return () => Number.NaN;
      const index = this.#weights.add(form.lowerTerm(of));
      return () => this.#weights.value(index);
    };
    const ends = (of: Interval | ComputedInterval | undefined) =>
      [
        now(of !== undefined && 'seconds' in of ? of.seconds : undefined),
        of !== undefined && 'seconds' in of && of.upTo !== undefined ? now(of.upTo) : undefined,
      ] as const;
    this.#computed = form.design.pieces.map(({ difficulty, takes, lasts, lead, returns }) => ({
      difficulty: now(difficulty),
      takes: now(takes),
      lasts: now(lasts),
      lead: ends(lead),
      returns: ends(returns),
    }));
    this.#acts = form.acts.map(({ condition }) =>
      condition === undefined ? -1 : this.#weights.add(condition),
    );
    this.#actDue = form.acts.map(() => Number.POSITIVE_INFINITY);
    this.#tries = form.pieces.map(() => 0);
    const { caution } = meeting.player;
    this.#careful = caution === undefined ? -1 : this.#weights.add(form.lowerTerm(caution.condition));
    this.#hasStyle = meeting.weights.some((weight) => weight !== 1);
    this.#outcomesAsked = form.pieces.map(() => 0);
    this.#leadsAsked = form.pieces.map(() => 0);
    this.#timesAsked = form.pieces.map(() => 0);
  }

  protected override reset(): void {
    this.#outcomesAsked.fill(0);
    this.#leadsAsked.fill(0);
    this.#timesAsked.fill(0);
    const { player, paceDraw, actBase } = this.meeting;
    // Nothing has begun that the player could take care of.
    const own = player.pace * exponential(player.paceSpread * normalDeviate(draw(this.key, paceDraw, 0)));
    actBase.forEach((every, act) => {
      this.#actDue[act] = every > 0 ? Math.max(1, Math.round(every * own)) : Number.POSITIVE_INFINITY;
    });
  }

  protected override fires(rule: number): void {
    for (const effect of this.form.rules[rule]!.effects) if (effect.op === 'emit') this.#give(effect.event);
  }

  /** An event gives a try at each piece that is met by it. */
  #give(event: number): void {
    this.form.pieces.forEach(({ by }, piece) => {
      if (by === event) this.#tries[piece]!++;
    });
  }

  /** Takes the first try that is still to be made; false where there is none. */
  #try(): boolean {
    if (!this.isLive) {
      this.#tries.fill(0);
      return false;
    }
    const piece = this.#tries.findIndex((tries) => tries > 0);
    if (piece < 0) return false;
    this.#tries[piece]!--;
    const { present, now } = this.form.cells;
    const { cells } = this.machine;
    if (cells[present + piece] === 0 || !this.machine.canMeet(piece)) return true;
    const event = this.#outcome(piece);
    if (event === this.form.pieces[piece]!.failure) return true;
    const queue = this.meeting.meets[piece] === 'arrives' ? this.#arriving : this.#sought;
    const first = queue.all().find((each) => each.piece === piece);
    if (first !== undefined && this.form.events[event]!.presence !== 0) queue.take(first.index);
    this.#meet(piece, event, cells[now]!);
    this.noted();
    return true;
  }

  #act(act: number, at: number): void {
    this.machine.elapse(at);
    this.#actDue[act]! += Math.max(1, Math.round(this.meeting.actBase[act]! * this.#pace()));
    const { event } = this.form.acts[act]!;
    const screen = this.form.screens[this.machine.cells[this.form.cells.screen]!]!;
    const condition = this.#acts[act]!;
    if (!screen.handlers.has(event)) return;
    if (condition >= 0 && this.#weights.value(condition) === 0) return;
    if (this.#attempted >= 0) this.#attemptDue += this.meeting.actTakes[act]!;
    this.#give(event);
    this.send(event, at, true);
  }

  protected override begins(): void {}

  protected override settled(): void {
    this.#stayed = -1;
    this.#left = -1;
    while (this.#try()) if (this.isLeaving || this.runsEnded >= this.meeting.player.runs) return;
    this.#stayed = -1;
    this.#left = -1;
    // A fall puts the player back, and what it was on the way to may be gone.
    if (this.#travelsTo >= 0 && this.#pieceAhead() !== this.#attempted) this.#stopAttempt();
    this.#attend();
  }

  /** The place of the course at which the player meets something next; the length of the longest where nothing is left. */
  #nextOnCourse(): number {
    const { course, courseLength } = this.form.cells;
    const { cells } = this.machine;
    let place = courseLength === 0 ? 0 : cells[course]!;
    while (place < courseLength && cells[course + 2 + place] === -1) place++;
    return place;
  }

  /** The piece that the player meets next on the course, at `#travelsTo` where it is on its way already; else -1. */
  #pieceAhead(): number {
    const { course, courseLength } = this.form.cells;
    const place = this.#nextOnCourse();
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
    let act = -1;
    this.#actDue.forEach((due, index) => {
      const moment = due + shift;
      if (moment > next || (moment === next && (act >= 0 || kind !== clockKinds.wait))) return;
      next = moment;
      act = index;
    });
    if (next > patience || next === Number.POSITIVE_INFINITY) return this.giveUp(next, patience);
    if (act >= 0) this.#act(act, next);
    else if (kind === clockKinds.arrival) this.#arrive(next);
    else if (kind === clockKinds.attempt) this.#finishAttempt(next);
    else if (kind === clockKinds.expiry) this.#expire(next);
    else machine.fire();
    return true;
  }

  /** The event with which meeting a piece ends. */
  #outcome(piece: number): number {
    const drawn = draw(this.key, this.meeting.outcomeDraws[piece]!, this.#outcomesAsked[piece]!++);
    const { success, failure, weighted, isSkilled } = this.form.pieces[piece]!;
    if (weighted !== undefined && !isSkilled) return this.#weighedOutcome(piece, drawn);
    const { skills, player } = this.meeting;
    const middle = skills[player.learning === 0 ? 0 : this.runsEnded]!;
    const { spread, practice, caution } = player;
    let skill =
      spread === 0 ? middle : middle + spread * normalDeviate(draw(this.key, this.meeting.personDraw, 0));
    if (practice !== 0) skill += practice * logarithm(Math.min(this.runNotes.tried, 1000) + 1);
    this.runNotes.tried++;
    if (caution !== undefined && this.#isCareful()) skill += caution.skill;
    const { difficulty } = this.form.design.pieces[piece]!;
    const asked = typeof difficulty === 'number' ? difficulty : this.#computed[piece]!.difficulty();
    const held = Number.isNaN(asked) ? 0 : Math.min(20, Math.max(-20, asked));
    if (drawn < threshold(successChance(skill, held))) return success;
    if (weighted === undefined) return failure;
    // What skill leaves open is weighed with a draw of its own.
    const again = draw(this.key, this.meeting.outcomeDraws[piece]!, this.#outcomesAsked[piece]!++);
    return this.#weighedOutcome(piece, again);
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
    // One that may be tried again is missed once it has waited for as long as it does.
    const isOver = isAgain && this.#attemptExpires <= this.machine.cells[this.form.cells.live]!;
    const fails = event === this.form.pieces[piece]!.failure && !isOver;
    if (fails && (isAgain || this.form.events[event]!.presence === 0)) {
      // Before the event is told, since what follows from it may clear the piece away.
      this.#seekAgain(piece);
      if (isAgain) return;
    }
    const { hasHealth, role } = this.form.design.pieces[piece]!;
    const isStruck = hasHealth && event === this.form.pieces[piece]!.success;
    const isUsed =
      role !== 'checkpoint' &&
      event !== this.form.pieces[piece]!.failure &&
      this.form.events[event]!.presence === 0 &&
      this.#attemptExpires > this.machine.cells[this.form.cells.live]!;
    if (isStruck || isUsed) this.#seekAgain(piece);
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

  /** The piece that was met and stays, while what follows is handled; else -1. */
  #stayed = -1;
  /** The piece that was met and is still there, though nobody seeks it any more; else -1. */
  #left = -1;

  protected override met(event: number): void {
    const { piece, presence } = this.form.events[event]!;
    if (presence === 0 && this.#stayed !== piece && this.form.pieces[piece]!.by < 0) this.#left = piece;
  }

  #seekAgain(piece: number): void {
    this.#stayed = piece;
    this.#sought.add(piece, Math.max(this.#attemptExpires, this.machine.cells[this.form.cells.live]!));
  }

  #arrive(at: number): void {
    const piece = this.#arriving.takeDue();
    const { gone, by, failure } = this.form.pieces[piece]!;
    this.machine.elapse(at);
    const met = (): number => (by >= 0 ? failure : this.#outcomeOfAll(piece));
    const returns = this.form.design.pieces[piece]!.returns !== undefined;
    const event = this.machine.canMeet(piece) ? met() : gone;
    if (!returns || (event !== gone && this.form.events[event]!.presence !== 0)) {
      this.#meet(piece, event, at);
      return;
    }
    // Before the event is told, since what follows from it may clear the piece away.
    this.#comeAgain(piece);
    if (event !== gone) this.send(event, at, true);
  }

  #comeAgain(piece: number): void {
    const returns = this.form.design.pieces[piece]!.returns!;
    this.#stayed = piece;
    const time = this.#drawnTime(piece, returns, this.#computed[piece]!.returns);
    this.#arriving.add(piece, this.machine.cells[this.form.cells.live]! + Math.max(1, time));
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
      this.context(
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
    this.#travelsTo = this.#nextOnCourse();
    this.#attempt(piece);
  }

  #attempt(piece: number): void {
    this.#attempted = piece;
    const { takes } = this.form.design.pieces[piece]!;
    const milliseconds = typeof takes === 'number' ? takes : this.#held(this.#computed[piece]!.takes());
    const { timing } = this.meeting.player;
    const pace = this.#pace();
    const times = (factor: number): number => Math.max(1, Math.round(milliseconds * pace * factor));
    let time = times(timing.least);
    if (timing.least !== 1 || timing.most !== 1) {
      const steps = Math.floor((times(timing.most) - time) / timing.grid) + 1;
      const drawn = draw(this.key, this.meeting.timingDraws[piece]!, this.#timesAsked[piece]!++);
      time += timing.grid * Math.floor((drawn * steps) / 2 ** 32);
    }
    this.#attemptDue = this.machine.cells[this.form.cells.live]! + time;
  }

  /** A factor on the time of what the player begins now, careful or not. */
  #pace(): number {
    const { pace, paceLearning, paceSpread, caution } = this.meeting.player;
    let own = paceLearning === 0 ? pace : pace * exponential(-paceLearning * logarithm(this.runsEnded + 1));
    if (paceSpread > 0)
      own *= exponential(paceSpread * normalDeviate(draw(this.key, this.meeting.paceDraw, 0)));
    return caution !== undefined && this.#isCareful() ? own * caution.pace : own;
  }

  #isCareful(): boolean {
    return this.#weights.value(this.#careful) !== 0;
  }

  protected override appeared(piece: number): void {
    const live = this.machine.cells[this.form.cells.live]!;
    const meets = this.meeting.meets[piece];
    if (meets === 'arrives') {
      const { lead } = this.form.design.pieces[piece]!;
      this.#arriving.add(piece, live + this.#drawnTime(piece, lead, this.#computed[piece]!.lead));
    } else if (meets === 'sought') {
      const { lasts } = this.form.design.pieces[piece]!;
      const time = typeof lasts === 'object' ? this.#held(this.#computed[piece]!.lasts()) : lasts;
      this.#sought.add(piece, live + (time ?? Number.POSITIVE_INFINITY));
    }
  }

  /** Milliseconds of an interval, drawn at the place of the piece's lead. */
  #drawnTime(
    piece: number,
    interval: Interval | ComputedInterval,
    [seconds, upTo]: readonly [() => number, (() => number) | undefined],
  ): number {
    const isComputed = 'seconds' in interval;
    const least = isComputed ? this.#held(seconds()) : interval.least;
    const most = !isComputed
      ? interval.most
      : upTo === undefined
        ? least
        : Math.max(least, this.#held(upTo()));
    // One moment of a computed range is drawn all the same.
    const draws = isComputed ? upTo !== undefined : most > least;
    const choices = Math.floor((most - least) / interval.grid) + 1;
    const chosen = draws
      ? choose(draw(this.key, this.meeting.leadDraws[piece]!, this.#leadsAsked[piece]!++), choices)
      : 0;
    return least + interval.grid * chosen;
  }

  /** Computed seconds as whole milliseconds, from one to a day. */
  #held(seconds: number): number {
    const milliseconds = Math.round(seconds * 1000);
    return Number.isNaN(milliseconds) ? 1 : Math.min(86_400_000, Math.max(1, milliseconds));
  }

  /** The one that was met and is still there; of those that wait, the one that was met last and stays, else the one there longest. */
  protected override gone(piece: number, isOldest: boolean): void {
    if (this.#left === piece && !isOldest) {
      this.#left = -1;
      return;
    }
    if (this.meeting.meets[piece] === 'never') return;
    const meets = this.meeting.meets[piece];
    const queue = meets === 'arrives' ? this.#arriving : this.#sought;
    const there = queue.all().filter((each) => each.piece === piece);
    const waits = meets === 'sought' || this.form.design.pieces[piece]!.returns !== undefined;
    const one = waits && this.#stayed === piece && !isOldest ? there.at(-1) : there[0];
    if (one !== undefined) queue.take(one.index);
    else if (meets === 'sought' && this.#attempted === piece) this.#stopAttempt();
    else if (this.#left === piece) this.#left = -1;
  }

  protected override allCleared(): void {
    this.#tries.fill(0);
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

  /** The outcome that a draw chooses by weight; the last where nothing weighs anything. */
  #weighedOutcome(piece: number, drawn: number): number {
    const { weighted, failure } = this.form.pieces[piece]!;
    const weights = this.#weighed[piece]!.map((term) => Math.max(0, this.#weights.value(term)));
    const at = (drawn * weights.reduce((sum, weight) => sum + weight, 0)) / 2 ** 32;
    let sum = 0;
    for (const [index, weight] of weights.entries()) {
      sum += weight;
      if (at < sum) return weighted![index]!.event;
    }
    return failure;
  }
}
