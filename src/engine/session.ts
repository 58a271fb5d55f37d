import type { Design, Expectation, Value } from '../design/model.js';
import { UsageError } from '../design/problem.js';
import { type CarrierName, type DrawSource, keyedDraws, type Probe } from './carrier.js';
import { sessionKey } from './draw.js';
import type { Form } from './form.js';
import { type KeepStorage, keptLists, keptValues, storageKey } from './keep.js';
import { formOf } from './lower.js';
import { clockKinds, Machine, type Reception } from './machine.js';
import type { RecordLine } from './record.js';
import { type SessionEvents, tell } from './session-events.js';
import { cellsToJson, readSnapshot, type Snapshot } from './snapshot.js';
import { type Step, sourceName, type Write } from './step.js';
import { fromCell, toCell } from './value.js';
import { type HudView, Views } from './view.js';

export interface SessionOptions {
  /** A whole number from 0 to 2^53 - 1; 1 unless it is given. */
  readonly seed?: number;
  /** Which session of the seed, from 0; 0 unless it is given. */
  readonly session?: number;
  /** Whether the design's spawns make pieces appear; false where a game reports its own. True unless it is given. */
  readonly spawns?: boolean;
  /** Generated code where the page allows it, unless it is given. */
  readonly carrier?: CarrierName;
  /** Whether what is sent and drawn is kept for a record; true unless it is given. */
  readonly record?: boolean;
  /**
   * Where counters that are kept forever live between sessions, such as `localStorage`. What cannot be read there counts as
   * nothing; a storage that throws when written to is not asked again.
   */
  readonly storage?: KeepStorage;
  /** Values for counters that are kept forever, as a storage would give them. */
  readonly kept?: { readonly [counter: string]: Value };
}

interface OpenStep {
  sequence: string[];
  rules: string[];
  writes: Write[];
  transitions: { from: string; to: string; index: number }[];
  cues: string[];
  popups: string[];
}

const emptyStep = (): OpenStep => ({
  sequence: [],
  rules: [],
  writes: [],
  transitions: [],
  cues: [],
  popups: [],
});

/**
 * A running session of a design: the game sends what happened and lets time pass; the session says what it means.
 *
 * @example
 * const session = new Session(readDesign(text));
 * session.send('input.start');
 * session.send('blossom.taken');
 * session.counter('score') // => 10
 */
export class Session {
  readonly design: Design;
  readonly seed: number;
  readonly session: number;
  readonly spawns: boolean;
  /** Outside events so far that meant nothing on the screen they came on. */
  ignored = 0;
  readonly #form: Form;
  readonly #machine: Machine;
  readonly #views: Views;
  readonly #listeners = new Set<(step: Step) => void>();
  readonly #recorded: RecordLine[] = [];
  /** The cells before the step under way, to which a fault goes back. */
  readonly #before: Float64Array;
  readonly #records: boolean;
  readonly #storage: KeepStorage | undefined;
  /** The counters that are kept forever, and what they held when they were last written to the storage. */
  readonly #kept: readonly number[];
  #written = '';
  /** What they held at the start, for the record. */
  readonly kept: { readonly [counter: string]: Value };
  readonly #lists: Map<string, number[]>;
  /** Contacts that have counted and have not ended, as `piece id`. */
  readonly #contacts = new Set<string>();
  #open: OpenStep = emptyStep();
  /** Time passed that is less than a millisecond. */
  #fraction = 0;
  /** Whether it went on from a snapshot. */
  #isBroken = false;

  /**
   * @param forced draws whose values are given, by `asked name`: those of a record
   * @throws UsageError for a seed or session that is not a whole number in its range
   */
  constructor(design: Design, options: SessionOptions = {}, forced: ReadonlyMap<string, number> = new Map()) {
    const { seed = 1, session = 0, spawns = true, carrier, record = true, storage } = options;
    checkWhole('seed', seed);
    checkWhole('session', session);
    const form = formOf(design);
    this.design = design;
    this.seed = seed;
    this.session = session;
    this.spawns = spawns;
    this.#form = form;
    this.#records = record;
    this.#storage = storage;
    this.#kept = design.counters.flatMap(({ keep }, index) => (keep === 'forever' ? [index] : []));
    this.kept = keptValues(design, options);
    this.#lists = keptLists(design, options);
    const keyed = keyedDraws(form, sessionKey(seed, session));
    const recording: DrawSource = (draw, asked) => {
      const { name } = form.draws[draw]!;
      const value = forced.get(`${asked} ${name}`) ?? keyed(draw, asked);
      if (this.#records) this.#recorded.push({ draw: name, asked, value });
      return value;
    };
    this.#machine = new Machine(form, { draws: recording, probe: this.#probe(), carrier, spawns });
    this.#before = new Float64Array(form.cells.size);
    this.#views = new Views(form, this.#machine.cells);
    this.#happen('start', 'start', () => {
      this.#machine.begin();
      this.#takeKept();
      return 'handled';
    });
    this.#written = JSON.stringify(this.#keptNow());
  }

  #takeKept(): void {
    const entries = Object.entries(this.kept);
    for (const [name, value] of entries) {
      const index = this.design.counters.findIndex((counter) => counter.name === name);
      this.#machine.cells[this.#form.cells.counters + index] = toCell(this.design.counters[index]!, value);
    }
    if (entries.length > 0) this.#machine.settle();
  }

  #keptNow(): { readonly [name: string]: Value | readonly number[] } {
    const first = this.#form.cells.counters;
    const counters = this.#kept.map((index) => {
      const counter = this.design.counters[index]!;
      return [counter.name, fromCell(counter, this.#cell(first + index))];
    });
    return Object.fromEntries([...counters, ...this.#lists]);
  }

  /** Writes what is kept forever, once it has changed. A storage that is full or forbidden must not stop the game. */
  #keep(): void {
    if (this.#storage === undefined || this.#kept.length + this.#lists.size === 0) return;
    const text = JSON.stringify(this.#keptNow());
    if (text === this.#written) return;
    this.#written = text;
    try {
      this.#storage.setItem(storageKey(this.design), text);
    } catch {
      // The value lives on in this session.
    }
  }

  /** The session as it is now, as plain JSON. */
  snapshot(): Snapshot {
    const { seed, session, spawns, ignored } = this;
    const cells = cellsToJson(this.#machine.cells);
    return {
      snapshot: 1,
      design: this.design.digests,
      seed,
      session,
      spawns,
      ignored,
      fraction: this.#fraction,
      contacts: [...this.#contacts],
      cells,
    };
  }

  /**
   * Goes on from a snapshot of a session with the same seed. The record of this session ends here.
   *
   * @throws DesignError where the snapshot is damaged or from another design; the session is then as it was
   * @throws UsageError where it is of another session
   */
  restore(value: unknown): void {
    const snapshot = readSnapshot(this.#form, value);
    if (snapshot.seed !== this.seed || snapshot.session !== this.session || snapshot.spawns !== this.spawns) {
      throw new UsageError(
        `The snapshot is of session ${snapshot.session} of seed ${snapshot.seed}; start one with those.`,
      );
    }
    snapshot.cells.forEach((cell, index) => {
      this.#machine.cells[index] = cell ?? Number.POSITIVE_INFINITY;
    });
    this.ignored = snapshot.ignored;
    this.#fraction = snapshot.fraction;
    this.#contacts.clear();
    for (const key of snapshot.contacts) this.#contacts.add(key);
    this.#isBroken = true;
  }

  /** Hears one kind of thing from now on; returns what ends the listening. */
  on<Kind extends keyof SessionEvents>(
    kind: Kind,
    listener: (told: SessionEvents[Kind]) => void,
  ): () => void {
    return this.listen((step) => {
      for (const told of tell(step, kind)) listener(told as SessionEvents[Kind]);
    });
  }

  /** Milliseconds of session time. */
  get time(): number {
    return this.#cell(this.#form.cells.now);
  }

  get screen(): string {
    return this.#form.screens[this.#cell(this.#form.cells.screen)]!.name;
  }

  /** Whether timers, spawns and meetings run on the present screen. */
  get isLive(): boolean {
    return this.#form.screens[this.#cell(this.#form.cells.screen)]!.live;
  }

  /** The number of the level, from 1. */
  get level(): number {
    return this.#cell(this.#form.cells.level) + 1;
  }

  /** The text of the present screen, its values filled in. It may hold any characters; it is never markup. */
  get text(): string {
    return this.#views.screenText();
  }

  get hud(): HudView[] {
    return this.#views.hud();
  }

  /** Every counter by its name. */
  get counters(): { readonly [name: string]: Value } {
    const first = this.#form.cells.counters;
    return Object.fromEntries(
      this.design.counters.map((counter, index) => [
        counter.name,
        fromCell(counter, this.#cell(first + index)),
      ]),
    );
  }

  /** The best values of each list, highest first. */
  get lists(): { readonly [name: string]: readonly number[] } {
    return Object.fromEntries([...this.#lists].map(([name, values]) => [name, [...values]]));
  }

  /** How many of each piece are present. */
  get present(): { readonly [piece: string]: number } {
    return Object.fromEntries(
      this.#form.pieces.map(({ name }, index) => [name, this.#cell(this.#form.cells.present + index)]),
    );
  }

  /** @throws UsageError where the design has no such counter */
  counter(name: string): Value {
    const index = this.#form.counters.findIndex((counter) => counter.name === name);
    if (index < 0) throw unknown('counter', name, this.#form.counters);
    return fromCell(this.design.counters[index]!, this.#cell(this.#form.cells.counters + index));
  }

  /**
   * Seconds until a timer fires; 0 where it does not run.
   *
   * @throws UsageError where the design has no such timer
   */
  timer(name: string): number {
    const index = this.#form.timers.findIndex((timer) => timer.name === name);
    if (index < 0) throw unknown('timer', name, this.#form.timers);
    const due = this.#cell(this.#form.cells.timers + index);
    return due === Number.POSITIVE_INFINITY ? 0 : (due - this.#cell(this.#form.cells.live)) / 1000;
  }

  /** Every outside event that the design knows, in a fixed order: the outcomes of its pieces, then inputs. */
  get outsideEvents(): string[] {
    const { events } = this.#form;
    return (['outcome', 'input'] as const).flatMap((kind) =>
      events.filter((each) => each.kind === kind).map((each) => each.name),
    );
  }

  /** The outside events that can happen now: inputs that something hears here, and the outcomes of what is present. */
  get possible(): string[] {
    const { events, eventIndex } = this.#form;
    const screen = this.#form.screens[this.#cell(this.#form.cells.screen)]!;
    const inputs = events.filter(
      ({ kind, name }) => kind === 'input' && screen.handlers.has(eventIndex.get(name)!),
    );
    const { present } = this;
    const met = screen.live
      ? this.design.pieces.filter((piece, index) => present[piece.name]! > 0 && this.#machine.canMeet(index))
      : [];
    return [
      ...inputs.map((event) => event.name),
      ...met.flatMap((piece) => piece.outcomes.map(({ name }) => `${piece.name}.${name}`)),
    ];
  }

  /**
   * Tells the session that something happened. An event that the design does not know, or that means nothing on this
   * screen, is ignored and counted.
   *
   * @param contact the game's own id of the piece, for an outcome that lasts many frames: it counts once until `endContact`,
   * and again after a fresh start that puts the pieces back. What grace turned away has not counted yet.
   * @throws DesignError where the rules set each other off without end or a counter grows past 2^53; the session is then
   * as it was before
   */
  send(name: string, contact?: string | number): Reception {
    if (contact === undefined) return this.#send(name, false);
    const key = `${name.split('.', 1)[0]} ${contact}`;
    if (this.#contacts.has(key)) return 'repeated';
    this.#contacts.add(key);
    let reception: Reception = 'ignored';
    try {
      reception = this.#send(name, false);
    } finally {
      if (reception !== 'handled') this.#contacts.delete(key);
    }
    return reception;
  }

  /** The game no longer touches the piece with this id, so that the next touch counts. */
  endContact(contact: string | number): void {
    for (const key of this.#contacts) if (key.endsWith(` ${contact}`)) this.#contacts.delete(key);
  }

  #send(name: string, beforeWaits: boolean): Reception {
    const event = this.#form.eventIndex.get(name);
    const reception = this.#happen('event', name, () =>
      event === undefined ? 'ignored' : this.#machine.send(event),
    );
    if (this.#records)
      this.#recorded.push(
        beforeWaits ? { at: this.time, event: name, beforeWaits } : { at: this.time, event: name },
      );
    if (reception === 'ignored') this.ignored++;
    return reception;
  }

  /**
   * Lets time pass, firing timers, spawns and waits at their very millisecond, however long it is: ten minutes in a hidden
   * tab are played through.
   *
   * @param milliseconds 0 or more; parts of a millisecond add up from call to call
   * @throws UsageError for a time that is negative, not finite, or longer than a day
   * @throws DesignError as `send`
   */
  advance(milliseconds: number): void {
    if (!(milliseconds >= 0 && milliseconds <= longestAdvance)) {
      throw new UsageError(
        `Time passes by 0 to ${longestAdvance} milliseconds a call, not by ${milliseconds}.`,
      );
    }
    const passed = milliseconds + this.#fraction;
    const whole = Math.floor(passed);
    this.advanceTo(this.time + whole);
    this.#fraction = passed - whole;
  }

  /** Lets time pass to a moment of session time; with `beforeWaits`, waits over at that very moment are still to come. */
  advanceTo(to: number, beforeWaits = false): void {
    const machine = this.#machine;
    while (machine.isDue(to, beforeWaits)) {
      const cause =
        machine.dueKind === clockKinds.timer
          ? 'timer'
          : machine.dueKind === clockKinds.spawn
            ? 'spawn'
            : 'wait';
      this.#happen(cause, machine.dueName, () => {
        machine.fire();
        return 'handled';
      });
    }
    machine.elapse(Math.max(to, this.time));
  }

  /** Sends an event at a moment of session time, as a simulated player does; see `advanceTo`. */
  sendAt(name: string, at: number, beforeWaits: boolean): Reception {
    this.advanceTo(at, beforeWaits);
    return this.#send(name, beforeWaits);
  }

  /** Hears everything that happens from now on, step by step; returns what ends the listening. */
  listen(listener: (step: Step) => void): () => void {
    this.#listeners.add(listener);
    return () => {
      this.#listeners.delete(listener);
    };
  }

  /**
   * What was sent and drawn so far, in order.
   *
   * @throws UsageError where nothing was kept, or the session went on from a snapshot
   */
  get recorded(): readonly RecordLine[] {
    if (!this.#records) throw new UsageError('This session keeps no record; start it with record: true.');
    if (this.#isBroken)
      throw new UsageError('This session went on from a snapshot, so its record has no beginning.');
    return this.#recorded;
  }

  /** Sets the scene for a test of the design: counters, level and screen as given, then conditions take effect. */
  setScene(scene: Expectation): void {
    const { cells } = this.#machine;
    const at = this.#form.cells;
    this.#happen('start', 'given', () => {
      for (const [name, value] of scene) {
        const counter = this.#form.counters.findIndex((each) => each.name === name);
        if (counter >= 0) cells[at.counters + counter] = toCell(this.design.counters[counter]!, value);
      }
      const level = scene.get('level');
      if (level !== undefined) {
        cells[at.level] = Number(level) - 1;
        this.#machine.respawn();
      }
      const screen = scene.get('screen');
      cells[at.screen] =
        screen === undefined
          ? Math.max(
              0,
              this.#form.screens.findIndex((each) => each.live),
            )
          : this.#form.screens.findIndex((each) => each.name === screen);
      this.#machine.settle();
      return 'handled';
    });
  }

  #cell(index: number): number {
    return this.#machine.cells[index]!;
  }

  #happen(cause: Step['cause'], name: string, happen: () => Reception): Reception {
    const { cells } = this.#machine;
    this.#before.set(cells);
    const open = emptyStep();
    this.#open = open;
    let reception: Reception;
    try {
      reception = happen();
    } catch (error) {
      cells.set(this.#before);
      throw error;
    }
    const step: Step = { at: this.time, cause, name, reception, ...open };
    this.#enterLists(step);
    this.#keep();
    // Listeners hear of it once it is over, so that one that sends or throws does so between events.
    for (const listener of [...this.#listeners]) listener(step);
    return reception;
  }

  /** Enters counters into their best lists, at the events that ask for it. */
  #enterLists({ name, reception, transitions }: Step): void {
    if (this.#lists.size === 0 || reception !== 'handled') return;
    const happened = [name, ...transitions.map(({ to }) => `${to}.entered`)];
    for (const { name: list, of, events, length } of this.design.lists) {
      if (!events.some((event) => happened.includes(event))) continue;
      const values = [...this.#lists.get(list)!, Number(this.counter(of))];
      this.#lists.set(list, values.sort((a, b) => b - a).slice(0, length));
    }
  }

  #probe(): Probe {
    const form = this.#form;
    return {
      rule: (rule) => {
        this.#open.rules.push(form.rules[rule]!.name);
        this.#open.sequence.push(form.rules[rule]!.name);
      },
      transition: (index) => {
        const { from, to } = form.transitions[index]!;
        const transition = form.design.transitions[index];
        if (transition === undefined) return;
        this.#open.sequence.push(sourceName(form, form.rules.length + index));
        this.#open.transitions.push({
          from: form.screens[from]!.name,
          to: form.screens[to < 0 ? this.#cell(form.screens[from]!.backCell) : to]!.name,
          index: transition.index,
        });
      },
      write: (counter, source, before, after, wanted) => {
        const value = (cell: number): Value => fromCell(form.design.counters[counter]!, cell);
        this.#open.writes.push({
          counter: form.counters[counter]!.name,
          before: value(before),
          after: value(after),
          wanted: value(wanted),
          by: sourceName(form, source),
          place: (form.rules[source] ?? form.transitions[source - form.rules.length]!).place,
        });
      },
      cue: (cue) => this.#open.cues.push(form.cues[cue]!),
      popup: (popup) => this.#open.popups.push(this.#views.popup(popup)),
      appeared: () => {},
      cleared: () => {},
      allCleared: () => this.#contacts.clear(),
    };
  }
}

/** A day. */
const longestAdvance = 86_400_000;

function checkWhole(what: string, value: number): void {
  if (!Number.isSafeInteger(value) || value < 0) {
    throw new UsageError(`A ${what} is a whole number from 0 to 2^53 - 1, not ${value}.`);
  }
}

function unknown(kind: string, name: string, known: readonly { name: string }[]): UsageError {
  return new UsageError(
    `The design has no ${kind} "${name}"; it has ${known.map((each) => each.name).join(', ') || 'none'}.`,
  );
}
