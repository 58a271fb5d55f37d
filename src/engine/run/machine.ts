import { type Carrier, type DrawSource, Host, type MakeCarrier, type Probe } from '../compile/backend.js';
import { Terms } from '../compile/evaluator.js';
import type { EventForm, GameForm, Scene } from '../program/form.js';
import { levelOf, mostPresent } from '../program/form.js';
import { Intervals } from '../program/interval.js';
import type { Reception } from './reception.js';

/** Whether a game or a player can send events of a kind; the others are the design's own to fire. */
export const isOutside = (kind: EventForm['kind']): boolean =>
  kind === 'outcome' || kind === 'appeared' || kind === 'gone' || kind === 'input';

/** Kinds of clocks, in the order in which they fire at the same millisecond. */
export const clockKinds = { timer: 0, spawn: 1, arrival: 2, attempt: 3, expiry: 4, wait: 5 } as const;

/** Sets the time of a timer's next warning, after the timer was set or has warned. */
export function setNextWarning(form: GameForm, cells: Float64Array, index: number): void {
  const { warn, warnCell } = form.timers[index]!;
  if (warnCell < 0) return;
  const due = cells[form.cells.timers + index]!;
  const left = due - cells[form.timers[index]!.clockCell]!;
  const next = warn.find((each) => left > each);
  cells[warnCell] =
    next === undefined || due === Number.POSITIVE_INFINITY ? Number.POSITIVE_INFINITY : due - next;
}

/** The clocks of one screen that stand in cells, in the order in which they fire at the same millisecond. */
interface ScreenClocks {
  /** Where each is due. */
  readonly due: Int32Array;
  /** What it goes by: live time, or the time of chosen screens. */
  readonly by: Int32Array;
  readonly kinds: Uint8Array;
  /** Which of its kind it is; warnings come after all timers. */
  readonly indexes: Int32Array;
}

function clocksOf(form: GameForm, { timers, live }: Scene, spawns: boolean): ScreenClocks {
  const at = form.cells;
  const { timer, spawn } = clockKinds;
  const running = timers.flatMap((index) => {
    const { clockCell, warnCell } = form.timers[index]!;
    const end = { due: at.timers + index, by: clockCell, kind: timer, index };
    return warnCell < 0 ? [end] : [end, { ...end, due: warnCell, index: form.timers.length + index }];
  });
  const slots = live && spawns ? at.spawnMade - at.spawnDue : 0;
  const spawning = Array.from({ length: slots }, (_, index) => ({
    due: at.spawnDue + index,
    by: at.live,
    kind: spawn,
    index,
  }));
  const all = [...running, ...spawning];
  return {
    due: Int32Array.from(all, ({ due }) => due),
    by: Int32Array.from(all, ({ by }) => by),
    kinds: Uint8Array.from(all, ({ kind }) => kind),
    indexes: Int32Array.from(all, ({ index }) => index),
  };
}

/** What every machine of a form looks up, made once: thousands of sessions of one design are replayed in a check. */
interface MachineTables {
  /** By screen and event: 1 where the event, once it has happened, sets something off or may make a condition true. */
  readonly isRun: Uint8Array;
  /** By event: 1 where a game or a player can send it. */
  readonly isOutside: Uint8Array;
  /** By screen, without the design's spawns and with them. */
  readonly clocks: readonly [readonly ScreenClocks[], readonly ScreenClocks[]];
}

const tables = new WeakMap<GameForm, MachineTables>();

function tablesOf(form: GameForm): MachineTables {
  const known = tables.get(form);
  if (known !== undefined) return known;
  const { screens, events } = form;
  const made: MachineTables = {
    isRun: Uint8Array.from(
      screens.flatMap(({ handlers, watchesPresence }) =>
        events.map(({ piece }, event) => Number(handlers.has(event) || (piece >= 0 && watchesPresence))),
      ),
    ),
    isOutside: Uint8Array.from(events, ({ kind }) => Number(isOutside(kind))),
    clocks: [
      screens.map((screen) => clocksOf(form, screen, false)),
      screens.map((screen) => clocksOf(form, screen, true)),
    ],
  };
  tables.set(form, made);
  return made;
}

export interface MachineOptions {
  readonly draws: DrawSource;
  readonly probe?: Probe | undefined;
  readonly makeCarrier: MakeCarrier;
  /** Whether the design's spawns run; true unless said otherwise. */
  readonly spawns?: boolean | undefined;
}

/** A form with its state: events go in, time goes on. Everything that plays a session runs one of these. */
export class Machine {
  readonly cells: Float64Array;
  readonly #carrier: Carrier;
  readonly #host: Host;
  readonly #probe: Probe | undefined;
  readonly #spawns: boolean;
  readonly #clocks: readonly ScreenClocks[];
  /** By screen and event: 1 where the event, once it has happened, sets something off or may make a condition true. */
  readonly #isRun: Uint8Array;
  /** By event: 1 where a game or a player can send it. */
  readonly #isOutside: Uint8Array;
  readonly #terms: Terms;
  readonly #intervals: Intervals;
  /** For each piece, the term of what it needs, or -1. */
  readonly #needs: readonly number[];
  /** For each piece, the terms of what its outcomes weigh. */
  readonly #weights: readonly (readonly number[])[];
  /** The clock that `peek` found: when it is due in session time, its kind, and which of that kind. */
  dueAt = Number.POSITIVE_INFINITY;
  dueKind = -1;
  dueIndex = -1;

  constructor(
    readonly form: GameForm,
    options: MachineOptions,
  ) {
    const { draws, probe, makeCarrier, spawns = true } = options;
    this.cells = new Float64Array(form.cells.size);
    this.#host = new Host(form, draws);
    this.#probe = probe;
    this.#spawns = spawns;
    const { isRun, isOutside, clocks } = tablesOf(form);
    this.#clocks = clocks[spawns ? 1 : 0];
    this.#isRun = isRun;
    this.#isOutside = isOutside;
    this.#terms = new Terms(form, this.cells);
    this.#intervals = new Intervals(form, this.cells, this.#terms, draws);
    this.#weights = form.pieces.map(({ weighted = [] }) =>
      weighted.map(({ weight }) => this.#terms.add(weight)),
    );
    this.#needs = form.pieces.map(({ needs }) => (needs === undefined ? -1 : this.#terms.add(needs)));
    this.#carrier = makeCarrier(this.cells, this.#host, probe);
  }

  /** Puts everything at its first start and enters the first screen. */
  begin(): void {
    this.cells.fill(0);
    this.#carrier.run(-1, this.form.transitions.length - 1);
  }

  /** Lets conditions take effect after cells were set by hand. */
  settle(): void {
    this.#carrier.run(-1, -1);
  }

  /** Puts the pieces and spawn clocks of the present level at their start. */
  respawn(): void {
    this.#carrier.respawn();
  }

  send(event: number): Reception {
    const { cells, form } = this;
    if (this.#isOutside[event] === 0) return 'ignored';
    const { kind, piece, presence, turnedAway } = form.events[event]!;
    const screen = cells[form.cells.screen]!;
    const isRun = this.#isRun[screen * form.events.length + event] === 1;
    if (piece >= 0) {
      if (!form.screens[screen]!.live) return 'ignored';
      if (kind === 'outcome' && !this.canMeet(piece)) return 'ignored';
      const isTurnedAway = turnedAway && cells[form.cells.live]! < cells[form.cells.graceEnds]!;
      const isMet = kind !== 'appeared' && form.cells.courseLength > 0;
      const stays = isMet && this.#meetOnCourse(piece, event, presence < 0 && !isTurnedAway);
      if (isTurnedAway) return 'turned away';
      if (kind === 'outcome') this.#probe?.outcome(event);
      if (!stays) this.#changePresence(piece, presence);
      if (kind === 'appeared' && !this.#spawns) this.#countSpawned(piece);
      if (!isRun) return 'handled';
    } else if (!isRun) return 'ignored';
    this.#carrier.run(event, -1);
    return 'handled';
  }

  /** Whether what a piece needs to be met at all holds now. */
  canMeet(piece: number): boolean {
    const needed = this.#needs[piece]!;
    return needed < 0 || this.#terms.value(needed) !== 0;
  }

  /** The outcome that a draw chooses by weight; the last where nothing weighs anything. */
  weighedOutcome(piece: number, drawn: number): number {
    const { weighted, failure } = this.form.pieces[piece]!;
    const weights = this.#weights[piece]!.map((term) => Math.max(0, this.#terms.value(term)));
    const total = weights.reduce((sum, weight) => sum + weight);
    const at = (drawn * total) / 2 ** 32;
    let sum = 0;
    for (const [index, weight] of weights.entries()) {
      sum += weight;
      if (at < sum) return weighted![index]!.event;
    }
    return failure;
  }

  /**
   * Which piece of the course an event is about: the next of its kind ahead, so that all before it is behind the player; else,
   * where none of its kind stands elsewhere, the first behind. Says whether it stays although its outcome takes others away.
   */
  #meetOnCourse(piece: number, event: number, isGone: boolean): boolean {
    const { cells, form } = this;
    const { course, courseLength, present } = form.cells;
    const first = course + 2;
    const last = first + courseLength;
    let cell = first + cells[course]!;
    while (cell < last && cells[cell] !== piece) cell++;
    if (cell < last) {
      cells[course] = cell - first + 1;
      const { role, staysOnCourse, success } = form.pieces[piece]!;
      if (role === 'checkpoint' && event === success) cells[course + 1] = cells[course]!;
      if (staysOnCourse && form.events[event]!.kind === 'outcome') return true;
      if (isGone) cells[cell] = -1;
      return false;
    }
    if (!isGone) return false;
    const behind = cells.subarray(first, last);
    const count = behind.reduce((sum, each) => sum + (each === piece ? 1 : 0), 0);
    if (count > 0 && count >= cells[present + piece]!) behind[behind.indexOf(piece)] = -1;
    return false;
  }

  /** The place of the course at which the player meets something next; the length of the longest where nothing is left. */
  nextOnCourse(): number {
    const { course, courseLength } = this.form.cells;
    let place = courseLength === 0 ? 0 : this.cells[course]!;
    while (place < courseLength && this.cells[course + 2 + place] === -1) place++;
    return place;
  }

  #changePresence(piece: number, by: number): void {
    const cell = this.form.cells.present + piece;
    const count = Math.max(0, this.cells[cell]! + by);
    if (count > mostPresent) this.#host.tooMany(piece);
    this.cells[cell] = count;
  }

  /** Where a game makes pieces appear itself, each is one of those that the level's spawns would have made, as far as there are any. */
  #countSpawned(piece: number): void {
    const { cells, form } = this;
    const slot = levelOf(form, cells).spawns.findIndex(
      (spawn, index) => spawn.piece === piece && cells[form.cells.spawnMade + index]! < spawn.total,
    );
    if (slot >= 0) cells[form.cells.spawnMade + slot]!++;
  }

  /** Finds the clock that is due next, and says whether there is one. */
  peek(): boolean {
    const { cells, form } = this;
    const at = form.cells;
    const screen = cells[at.screen]!;
    const clocks = this.#clocks[screen]!;
    let due = Number.POSITIVE_INFINITY;
    let kind = -1;
    let index = -1;
    const now = cells[at.now]!;
    for (let clock = 0; clock < clocks.due.length; clock++) {
      const own = cells[clocks.due[clock]!]! + (now - cells[clocks.by[clock]!]!);
      if (own >= due) continue;
      due = own;
      kind = clocks.kinds[clock]!;
      index = clocks.indexes[clock]!;
    }
    const { waits } = form.screens[screen]!;
    for (let next = 0; next < waits.length; next++) {
      const wait = waits[next]!;
      if (wait <= cells[at.waited]!) continue;
      if (cells[at.entered]! + wait < due) {
        due = cells[at.entered]! + wait;
        kind = clockKinds.wait;
        index = wait;
      }
      break;
    }
    this.dueAt = due;
    this.dueKind = kind;
    this.dueIndex = index;
    return kind >= 0;
  }

  /** Lets time pass without firing anything; clocks due on the way must have been fired. */
  elapse(to: number): void {
    const { cells, form } = this;
    const screen = cells[form.cells.screen]!;
    const passed = to - cells[form.cells.now]!;
    if (form.screens[screen]!.live) cells[form.cells.live]! += passed;
    for (let clock = 0; clock < form.clocks.length; clock++) {
      if (form.clocks[clock]!.includes(screen)) cells[form.cells.clocks + clock]! += passed;
    }
    cells[form.cells.now] = to;
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
    const { cells, form } = this;
    if (index >= form.timers.length) {
      const warned = index - form.timers.length;
      setNextWarning(form, cells, warned);
      this.#carrier.run(form.timers[warned]!.warnEvent, -1);
      return;
    }
    const timer = form.timers[index]!;
    const cell = form.cells.timers + index;
    cells[cell] = timer.repeats
      ? cells[cell]! + this.#intervals.next(timer.interval)
      : Number.POSITIVE_INFINITY;
    setNextWarning(form, cells, index);
    this.#carrier.run(timer.event, -1);
  }

  /** So long a wait on this screen is over, whatever the time. */
  fireWait(wait: number): void {
    this.cells[this.form.cells.waited] = wait;
    this.#carrier.run(-1, -1);
  }

  /** One appearance of a spawn of the level, as far as it is bounded, whatever the time. */
  fireSpawn(slot: number): void {
    const { cells, form } = this;
    const at = form.cells;
    const spawn = levelOf(form, cells).spawns[slot]!;
    const appears = cells[at.present + spawn.piece]! < spawn.atOnce;
    if (appears) cells[at.spawnMade + slot]!++;
    const isDone = cells[at.spawnMade + slot]! >= spawn.total;
    cells[at.spawnDue + slot] = isDone
      ? Number.POSITIVE_INFINITY
      : cells[at.spawnDue + slot]! + this.#intervals.next(spawn.every);
    if (!appears) return;
    this.#changePresence(spawn.piece, 1);
    this.#probe?.appeared(spawn.piece);
    const { appeared } = form.pieces[spawn.piece]!;
    if (this.#isRun[cells[at.screen]! * form.events.length + appeared] === 1) this.#carrier.run(appeared, -1);
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
