import {
  asValue,
  type Code,
  call,
  type FunctionCode,
  type Slot,
  slot,
  slotAt,
  type Table,
  tableAt,
  type Value,
} from '../../compile/representation.js';
import type { EventForm, Form, PieceForm } from '../form.js';

/** What is to be done beside the design's own, for whoever listens; nothing where it is left out. */
export interface Listener {
  /** A rule fires. */
  rule?(rule: number): Code;
  /** Before a transition changes anything. */
  transition?(taken: Value): Code;
  /** A counter was written. `source` is a rule, or past the last rule a transition. */
  write?(counter: number, source: number, before: Value, after: Value, wanted: Value): Code;
  cue?(cue: number): Code;
  popup?(popup: number): Code;
  /** One more of a piece is there. */
  appeared?(piece: Value): Code;
  /** One less of a piece is there: the one met last, or where the oldest is meant the one there longest. */
  gone?(piece: number, isOldest: boolean): Code;
  /** None of a piece is there any more. */
  cleared?(piece: number): Code;
  /** All pieces are gone, and those of the level's start are still to appear. */
  allCleared?(): Code;
  /** The spawn clocks of the level have been set anew. */
  clocksSet?(): Code;
  /** An outcome counts; no rule has heard it yet. */
  outcome?(event: Value): Code;
}

/** Each of them is told, in this order. */
export function together(...listeners: readonly Listener[]): Listener {
  const each =
    <Name extends keyof Listener>(name: Name) =>
    (...told: Parameters<NonNullable<Listener[Name]>>): Code =>
      listeners.flatMap(
        (listener) => (listener[name] as ((...of: typeof told) => Code) | undefined)?.(...told) ?? [],
      );
  const names = [...new Set(listeners.flatMap((listener) => Object.keys(listener)))] as (keyof Listener)[];
  return Object.fromEntries(names.map((name) => [name, each(name)]));
}

/** What every part of a program is built from: the form, where its state stands, and who listens. */
export class Build {
  readonly state: State;
  /** Functions that some part has asked for, by name. */
  readonly functions = new Map<string, FunctionCode>();
  readonly #tables = new Map<string, Table>();

  constructor(
    readonly form: Form,
    readonly listener: Listener,
  ) {
    this.state = new State(form);
  }

  /** Numbers by index, the same table wherever one of its name is asked for. */
  table(name: string, values: () => readonly number[]): Table {
    const known = this.#tables.get(name);
    if (known !== undefined) return known;
    const made = { name, values: values() };
    this.#tables.set(name, made);
    return made;
  }

  /** Which level of the list, where the number may pass it. */
  get levelIndex(): Value {
    const { level } = this.state;
    return this.form.endless ? call('min', level, this.form.levels.length - 1) : level;
  }

  /** What is so of an event, or of a piece, by a table of its name. */
  ofEvent(name: string, event: Value, pick: (event: EventForm) => number): Value {
    return tableAt(
      this.table(name, () => this.form.events.map(pick)),
      event,
    );
  }
  ofPiece(name: string, piece: Value, pick: (piece: PieceForm, index: number) => number): Value {
    return tableAt(
      this.table(name, () => this.form.pieces.map(pick)),
      piece,
    );
  }

  /** A function that other parts call, built when it is first asked for. */
  once(name: string, build: () => FunctionCode): string {
    if (!this.functions.has(name)) this.functions.set(name, build());
    return name;
  }
}

/** Where each part of the state stands. */
export class State {
  readonly now: Slot;
  readonly live: Slot;
  readonly screen: Slot;
  readonly entered: Slot;
  readonly waited: Slot;
  readonly level: Slot;
  readonly graceEnds: Slot;
  /** How many pieces of the course are behind the player, and to how many a fall goes back. */
  readonly coursePassed: Slot;
  readonly courseCheckpoint: Slot;

  constructor(private readonly form: Form) {
    const { cells } = form;
    this.now = slot(cells.now);
    this.live = slot(cells.live);
    this.screen = slot(cells.screen);
    this.entered = slot(cells.entered);
    this.waited = slot(cells.waited);
    this.level = slot(cells.level);
    this.graceEnds = slot(cells.graceEnds);
    this.coursePassed = slot(cells.course);
    this.courseCheckpoint = slot(cells.course + 1);
  }

  counter(counter: number): Slot {
    return slot(this.form.cells.counters + counter);
  }

  /** When a timer is due, by its clock. */
  timer(timer: number): Slot {
    return slot(this.form.cells.timers + timer);
  }

  /** The time by which a timer runs. */
  clock(timer: number): Slot {
    return slot(this.form.timers[timer]!.clockCell);
  }

  /** When a timer warns next, by its clock. */
  warning(timer: number): Slot {
    return slot(this.form.timers[timer]!.warnCell);
  }

  present(piece: number | Value): Slot {
    return slotAt(this.form.cells.present, this.form.pieces.length, asValue(piece));
  }

  spawnDue(at: number | Value): Slot {
    return slotAt(this.form.cells.spawnDue, this.spawnSlots, asValue(at));
  }

  spawnMade(at: number | Value): Slot {
    return slotAt(this.form.cells.spawnMade, this.spawnSlots, asValue(at));
  }

  /** What stands at a place of the course. */
  courseAt(place: Value): Slot {
    return slotAt(this.form.cells.course + 2, this.form.cells.courseLength, place);
  }

  rest(rule: number): Slot {
    return slot(this.form.rules[rule]!.restCell);
  }

  memory(rule: number): Slot {
    return slot(this.form.rules[rule]!.memoryCell);
  }

  once(rule: number): Slot {
    return slot(this.form.rules[rule]!.onceCell);
  }

  /** Of a screen that leads back: which it was entered from, how long that had lasted, and which of its waits were over. */
  back(screen: number, part: 0 | 1 | 2): Slot {
    return slot(this.form.screens[screen]!.backCell + part);
  }

  /** Spawn clocks that a level can have, at the most. */
  get spawnSlots(): number {
    return this.form.cells.spawnMade - this.form.cells.spawnDue;
  }
}
