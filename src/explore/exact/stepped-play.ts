import { UsageError } from '../../design/problems/problem.js';
import { cellsOf } from '../../engine/program/build/slots.js';
import type { Form } from '../../engine/program/form.js';
import { type BackendName, functionsOf } from '../../engine/run/backend.js';
import { Host } from '../../engine/run/host.js';
import { runColumns, runWidth } from '../../measure/session-log.js';
import { givenOf, putGiven } from '../../players/drivers/given.js';
import { playProgram } from '../../players/drivers/play-program.js';
import { Situation } from '../../players/drivers/situation.js';
import type { Meeting } from '../../players/meeting/meeting.js';
import { abilitiesOf } from '../../players/meeting/meeting-program.js';
import type { Forks } from './forks.js';
import { type Kept, keptOf } from './kept.js';
import { isSummedUp } from './mattering.js';

/** Far above any score, so that what is added to a score from here is told from a score that starts afresh. */
const far = 2 ** 40;

const tooManyPieces = 'So many pieces are there at once that what happens next cannot be followed exactly.';

/** Room of a row for all but the pieces that are there. */
const mostSlots = 2 ** 11;

/** What is decided, where it is no piece: to turn to nothing, or, as `firstInput - event`, to send an event. */
export const turnsToNothing = -1;
export const firstInput = -2;

/** A run that is over, as a turn tells it. */
export interface EndedRun {
  /** What was added to the score since the turn began; or the score itself. */
  readonly score: number;
  readonly isAdded: boolean;
  readonly duration: number;
  /** -1: the player left. */
  readonly ending: number;
  readonly cause: number;
  readonly level: number;
  readonly screens: readonly number[];
}

interface SteppedOptions {
  /** Runs after which a session is over. */
  readonly mostRuns: number;
  readonly backend: BackendName | undefined;
  /** Whether every decision of the player's is a fork too; else it does as its style has it. */
  readonly decides?: boolean;
}

interface Functions {
  readonly cells: Float64Array;
  begin(): void;
  turn(mostRuns: number, patience: number, thinks: number): number;
}

/**
 * The sessions of a player one turn at a time, from any state that a session can be in and through every way that its draws can fall.
 * A state is read as a row of numbers in which all moments count from the present, and what decides nothing is left out: two that have the
 * same row, at the same session time, go on alike.
 */
export class SteppedPlay {
  readonly #functions: Functions;
  readonly #cells: Float64Array;
  readonly row = new Float64Array(2 ** 13);
  /** Whether the score is summed up beside the rows. */
  readonly isSummed: boolean;
  readonly ended: EndedRun[] = [];
  /** What rules did in the turn. */
  readonly log: { readonly fired: Float64Array; readonly points: Float64Array };
  readonly #screensEntered: Float64Array;
  readonly #situation: Situation;
  readonly #score: number;
  readonly #kept: Kept;
  readonly #isOver: number;
  readonly #isRunning: number;
  readonly #began: number;
  #beganBefore = 0;
  readonly #counted: readonly Float64Array[];

  constructor(
    private readonly form: Form,
    private readonly meeting: Meeting,
    forks: Forks,
    private readonly options: SteppedOptions,
  ) {
    const { backend, decides = false } = options;
    const can = {
      ...abilitiesOf(meeting),
      decide: decides,
      told: false,
      steps: true,
    };
    const given = givenOf(meeting);
    const made = playProgram(form, meeting, can, given.inputEvents.length);
    const host = Object.assign(new Host(form, () => forks.draw()), {
      splits: (kind: number, ...of: readonly number[]) => forks.split(kind, ...of),
    });
    const log = {
      endRun: (...run: readonly number[]) => this.#endRun(run),
      end: () => {},
    };
    // What there is to choose is read in the memory of the program, which is there once the program is.
    const player = { turn: () => this.#turnTo(forks), decide: () => this.#sendOne(forks) };
    this.#functions = functionsOf<Functions>(made.program, backend)(host, undefined, log, player);
    this.#cells = this.#functions.cells;
    this.#situation = new Situation(form, made, this.#cells);
    putGiven(made.areas, given, this.#cells);
    const { screensEntered, ...counted } = made.accounting.log;
    this.log = { fired: cellsOf(counted.fired, this.#cells), points: cellsOf(counted.points, this.#cells) };
    this.#counted = Object.values(counted).map((area) => cellsOf(area, this.#cells));
    this.#screensEntered = cellsOf(screensEntered, this.#cells);
    this.#score = form.score < 0 ? -1 : form.cells.counters + form.score;
    this.isSummed = form.score >= 0 && isSummedUp(form, form.score);
    this.#isOver = made.turns.isOver.slot;
    this.#isRunning = made.accounting.isRunning.slot;
    this.#began = made.accounting.began;
    this.patience = meeting.player.patience;
    this.#kept = keptOf(form, meeting, made, this.isSummed);
  }

  get now(): number {
    return this.#cells[this.form.cells.now]!;
  }

  get isOver(): boolean {
    return this.#cells[this.#isOver] === 1;
  }

  /** Whether the score was put to a value of its own in the turn, and not only added to. */
  get isScoreSet(): boolean {
    return this.isSummed && this.#cells[this.#score]! < far / 2;
  }

  /** What was added to the score in the turn, or what it was put to. */
  get score(): number {
    if (!this.isSummed) return 0;
    const score = this.#cells[this.#score]!;
    return score < far / 2 ? score : score - far;
  }

  /** The state before anything has happened, as a row; its length. */
  begin(): number {
    this.#cells.fill(0, 0, this.form.cells.size);
    this.#functions.begin();
    return this.read();
  }

  /** Milliseconds of session time after which the player leaves. */
  patience: number;

  /** Whether a run began in the turn, with everything that it keeps for itself where it starts. */
  get isStart(): boolean {
    const m = this.#cells;
    // A session of one run has no second one that could go on alike.
    if (this.options.mostRuns === 1) return false;
    const hasBegun = m[this.#isRunning] === 1 && m[this.#began] !== this.#beganBefore;
    return hasBegun && (this.isScoreSet || !this.isSummed);
  }

  /** Plays one turn. What it told before is forgotten. */
  turn(): void {
    this.ended.length = 0;
    for (const column of this.#counted) column.fill(0);
    this.#beganBefore = this.#cells[this.#isRunning] === 1 ? this.#cells[this.#began]! : -1;
    this.#functions.turn(this.options.mostRuns, this.patience, this.meeting.player.thinks);
  }

  /** The player may turn to each piece that waits, or to none. */
  #turnTo(forks: Forks): void {
    const waiting = this.#situation.waiting();
    const different = waiting.filter(
      ({ piece, missedIn }, index) =>
        !waiting.slice(0, index).some((each) => each.piece === piece && each.missedIn === missedIn),
    );
    const options = [...different.map(({ piece }) => piece), turnsToNothing];
    const chosen = different.length === 0 ? 0 : forks.decide(options);
    this.#situation.choose(different[chosen]?.at ?? -1);
  }

  /** The player may send each event that its screen hears. */
  #sendOne(forks: Forks): void {
    const events = [...new Set(this.meeting.inputs[this.#situation.screen]!)];
    const chosen = events.length === 1 ? 0 : forks.decide(events.map((event) => firstInput - event));
    this.#situation.send(events[chosen]!);
  }

  #endRun(run: readonly number[]): void {
    const told = this.#score < 0 ? 0 : run[runColumns.score]!;
    const isAdded = this.isSummed && told >= far / 2;
    const screens = this.form.screens.flatMap((_, screen) =>
      (this.#screensEntered[screen >> 5]! & (1 << (screen & 31))) === 0 ? [] : [screen],
    );
    if (run.length !== runWidth) throw new RangeError('A run is told by other columns.');
    this.ended.push({
      score: isAdded ? told - far : told,
      isAdded,
      duration: run[runColumns.duration]!,
      ending: run[runColumns.ending]!,
      cause: run[runColumns.cause]!,
      level: run[runColumns.level]!,
      screens,
    });
  }

  /** The present state as a row; its length. */
  read(): number {
    const m = this.#cells;
    const { row } = this;
    const kept = this.#kept;
    let length = 0;
    for (const slot of kept.plain) row[length++] = m[slot]!;
    for (const { slot, clock } of kept.moments) row[length++] = m[slot]! - m[clock]!;
    // A rest or a grace that is over is over, however long ago.
    for (const slot of kept.rests) row[length++] = Math.max(0, m[slot]! - m[kept.live]!);
    const isAttending = m[kept.attempted]! >= 0;
    row[length++] = isAttending ? m[kept.attemptExpires]! - m[kept.live]! : 0;
    row[length++] = isAttending ? m[kept.hitsLeft]! : 0;
    const screen = m[kept.screen]!;
    row[length++] = kept.sits[screen]! ? m[kept.thinksUntil]! - m[kept.now]! : 0;
    row[length++] = kept.waits[screen]! ? m[kept.entered]! - m[kept.now]! : 0;
    const counts = kept.countsMade[Math.min(m[kept.level]!, kept.countsMade.length - 1)]!;
    for (let at = 0; at < counts.length; at++) row[length++] = counts[at]! ? m[kept.spawnMade + at]! : 0;
    for (const { head, tail, first, firstDue, due, piece } of kept.queues) {
      const from = m[head]!;
      const until = m[tail]!;
      row[length++] = until - from;
      row[length++] = m[firstDue] === Number.POSITIVE_INFINITY ? 0 : m[first]! - from;
      if (length + 2 * (until - from) > row.length - mostSlots)
        throw new UsageError('bad-argument', tooManyPieces);
      for (let each = from; each < until; each++) {
        row[length++] = m[piece + each]!;
        row[length++] = m[due + each]! - m[kept.live]!;
      }
    }
    return length;
  }

  /** Puts a state in place that a row was read of, at a moment of session time. */
  restore(rows: Float64Array, begin: number, now: number): void {
    const m = this.#cells;
    const kept = this.#kept;
    let at = begin;
    // The clocks of play begin at nothing: rows count from them.
    for (const slot of kept.zeroed) m[slot] = 0;
    m[kept.now] = now;
    for (const slot of kept.plain) m[slot] = rows[at++]!;
    for (const { slot, clock } of kept.moments) m[slot] = rows[at++]! + m[clock]!;
    for (const slot of kept.rests) m[slot] = rows[at++]!;
    m[kept.attemptExpires] = rows[at++]!;
    m[kept.hitsLeft] = rows[at++]!;
    m[kept.thinksUntil] = now + rows[at++]!;
    m[kept.entered] = now + rows[at++]!;
    for (let slot = 0; slot < kept.countsMade[0]!.length; slot++) m[kept.spawnMade + slot] = rows[at++]!;
    for (const { head, tail, first, firstDue, due, piece } of kept.queues) {
      const many = rows[at++]!;
      m[head] = 0;
      m[tail] = many;
      m[first] = rows[at++]!;
      for (let each = 0; each < many; each++) {
        m[piece + each] = rows[at++]!;
        m[due + each] = rows[at++]!;
      }
      m[firstDue] = many === 0 ? Number.POSITIVE_INFINITY : m[due + m[first]!]!;
    }
    if (this.isSummed) m[this.#score] = far;
  }
}
