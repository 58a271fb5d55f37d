// One class: what a session does with events and time hangs on the same private state. What it shows of that state stands in `session-
// state.ts`.

import type { Value } from '../../design/model.js';
import type { GameNames } from '../../design/names-of.js';
import { DesignError, UsageError } from '../../design/problems/problem.js';
import { clockKinds } from '../program/clock-kinds.js';
import { fault } from '../program/faults.js';
import type { RecordLine } from '../record/record-line.js';
import { differences, playAgain } from '../record/reload.js';
import { type DrawSource, keyedDraws, sessionKey } from '../run/draw.js';
import { Machine } from '../run/machine.js';
import type { Reception } from '../run/reception.js';
import type { Step } from '../run/step.js';
import { StepRecorder } from '../run/step-recorder.js';
import type { BuiltGame } from './built-game.js';
import { Listeners } from './listeners.js';
import {
  checkWhole,
  firedBetween,
  mustBeContact,
  mustBeEvent,
  mustBeMoment,
  passedTime,
} from './session-checks.js';
import { type SessionEvents, sessionEvents, tell } from './session-events.js';
import { SessionState } from './session-state.js';
import { cellsToJson, readSnapshot, type Snapshot } from './snapshot.js';
import { type KeptOptions, SessionStorage } from './storage.js';
import { Views } from './view.js';

export interface GameOptions extends KeptOptions {
  /** A whole number from 0 to 2^53 - 1; 1 unless it is given. */
  readonly seed?: number;
  /** Which session of the seed, from 0; 0 unless it is given. */
  readonly session?: number;
  /** Whether the design's spawns make pieces appear; false where a game reports its own. True unless it is given. */
  readonly spawns?: boolean;
  /** Whether what is sent and drawn is kept for a record; true unless it is given. */
  readonly record?: boolean;
  /**
   * Whether the time that the host allows is over, asked now and then while session time passes; the session stops there with a fault.
   * Without it, a day of session time is played through however long that takes.
   */
  readonly isOver?: () => boolean;
}

/** What became of a session whose design was changed while it ran. */
export interface Reload {
  /** Whether it goes on under the new design; where not, it goes on under the old one. */
  readonly replaced: boolean;
  /** What was done and what does not fit, in words. */
  readonly told: string;
}

/** A running session of a game: the game sends what happened and lets time pass; the session says what it means. */
export class GameSession<Names extends GameNames = GameNames> extends SessionState<Names> {
  readonly seed: number;
  readonly session: number;
  readonly spawns: boolean;
  /** Outside events so far that meant nothing on the screen they came on. */
  ignored = 0;
  /** What counters that are kept forever held at the start. */
  readonly kept: { readonly [counter: string]: Value };
  #game!: BuiltGame;
  #eventIndex!: ReadonlyMap<string, number>;
  #telling!: StepRecorder;
  #keeping!: SessionStorage;
  /** The cells before the step under way, to which a fault goes back. */
  #before!: Float64Array;
  readonly #options: GameOptions;
  readonly #forced: ReadonlyMap<string, number>;
  readonly #listeners = new Listeners();
  #recorded: RecordLine[] = [];
  #opening!: Step;
  /** Contacts that have counted and have not ended, as `piece id`. */
  readonly #contacts = new Set<string>();
  /** Time passed that is less than a millisecond. */
  #fraction = 0;
  /** Whether it went on from a snapshot. */
  #isBroken = false;

  /**
   * @param forced draws whose values are given, by `asked name`: those of a record
   * @throws UsageError for a seed or session that is not a whole number in its range
   */
  constructor(game: BuiltGame, options: GameOptions = {}, forced: ReadonlyMap<string, number> = new Map()) {
    super();
    const { seed = 1, session = 0, spawns = true } = options;
    checkWhole('seed', seed);
    checkWhole('session', session);
    this.seed = seed;
    this.session = session;
    this.spawns = spawns;
    this.#options = options;
    this.#forced = forced;
    this.#begin(game, new SessionStorage(game.form, options));
    this.kept = this.#keeping.start;
    this.#hearStorage();
  }

  /** Takes over what other pages keep, as long as anybody uses this session. */
  #hearStorage(): void {
    const { storageEvents } = this.#options;
    // What is referred to weakly stays until the call that did so is over: thousands of sessions, where one call plays them.
    if (storageEvents === undefined) return;
    const here = new WeakRef(this);
    const hear = ({ key }: { readonly key: string | null }): void => {
      const session = here.deref();
      if (session === undefined) storageEvents.removeEventListener('storage', hear);
      // Without a key, all of the storage was cleared.
      else if (key === null || key === session.#keeping.key) session.#takeHeard();
    };
    storageEvents.addEventListener('storage', hear);
  }

  #takeHeard(): void {
    const values = this.#keeping.heard(this.machine.cells);
    if (Object.keys(values).length > 0) this.takeKept(values, this.time);
  }

  /**
   * Puts counters that are kept forever to what another session has kept, at a moment of session time; values that they cannot hold
   * are passed over. A storage whose events are heard does this by itself.
   */
  takeKept(values: { readonly [counter: string]: Value }, at: number): void {
    mustBeMoment(at);
    this.#whenTold(() => {
      this.#advanceTo(at);
      return this.happen(
        'kept',
        'kept',
        () => {
          this.#keeping.put(values, this.machine.cells, this.#telling);
          this.machine.settle();
          return 'handled';
        },
        () => {
          if (this.#options.record !== false) this.#recorded.push({ at: this.time, kept: values });
        },
      );
    });
  }

  #begin(game: BuiltGame, keeping: SessionStorage): void {
    const { form, makeBackend } = game;
    this.#game = game;
    const { seed, session, spawns } = this;
    const keyed = keyedDraws(form, sessionKey(seed, session));
    const draws: DrawSource = (draw, asked) => {
      const { name } = form.draws[draw]!;
      const value = this.#forced.get(`${asked} ${name}`) ?? keyed(draw, asked);
      if (this.#options.record !== false) this.#recorded.push({ draw: name, asked, value });
      return value;
    };
    const cells = (): Float64Array => this.machine.cells;
    this.form = form;
    this.#eventIndex = new Map(form.events.map((event, index) => [event.name, index]));
    this.#keeping = keeping;
    this.#recorded = [];
    this.ignored = 0;
    this.#telling = new StepRecorder(
      form,
      cells,
      () => this.views,
      () => this.#contacts.clear(),
    );
    this.machine = new Machine(form, { draws, probe: this.#telling, makeBackend, spawns });
    this.#before = new Float64Array(form.cells.size);
    this.views = new Views(form, this.machine.cells, (index) => this.machine.value(index));
    this.happen('start', 'start', () => {
      this.machine.begin();
      if (keeping.begin(this.machine.cells)) this.machine.settle();
      return 'handled';
    });
  }

  /**
   * Goes on under a changed design: everything that was sent so far is played again, at its moments, under the new
   * definitions. What they make of it may differ, which is reported. A session that keeps no record, or went on from a
   * snapshot, begins afresh; one in which the new rules set each other off without end goes on as it was.
   */
  reload(game: BuiltGame): Reload {
    this.#mustStand('reloaded');
    return this.#listeners.call(() => this.#reload(game));
  }

  #reload(game: BuiltGame): Reload {
    const { seed, session, spawns, kept } = this;
    const options = { seed, session, spawns, kept };
    const isReplayable = this.#options.record !== false && !this.#isBroken;
    const lines = isReplayable ? this.#recorded : [];
    const time = isReplayable ? this.time : 0;
    const before = playAgain(new GameSession(this.#game, options), lines, time);
    let after: Reception[];
    try {
      after = playAgain(new GameSession(game, options), lines, time);
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      const faults = error.problems.map((each) => each.message);
      return { replaced: false, told: `The session goes on under the old design: ${faults.join(' ')}` };
    }
    this.#listeners.unheard(() => {
      this.#isBroken = false;
      this.#begin(game, this.#keeping.under(game.form));
      playAgain(this, lines, time);
      this.#keeping.share(this.machine.cells);
    });
    const told = isReplayable
      ? differences(lines, before, after)
      : 'The session keeps no record of its beginning, so it began afresh.';
    this.happen('reload', told, () => 'handled');
    return { replaced: true, told };
  }

  /** The session as it is now, as plain JSON. */
  snapshot(): Snapshot {
    const { seed, session, spawns, ignored } = this;
    return {
      snapshot: 1,
      design: this.form.digests,
      seed,
      session,
      spawns,
      ignored,
      fraction: this.#fraction,
      contacts: [...this.#contacts],
      cells: cellsToJson(this.machine.cells),
    };
  }

  /**
   * Goes on from a snapshot of a session with the same seed. The record of this session ends here.
   *
   * @throws DesignError where the snapshot is damaged or from another design; the session is then as it was
   * @throws UsageError where it is of another session, or a listener calls it while it hears a step
   */
  restore(value: unknown): void {
    this.#mustStand('restored');
    const snapshot = readSnapshot(this.form, value);
    if (snapshot.seed !== this.seed || snapshot.session !== this.session || snapshot.spawns !== this.spawns) {
      throw new UsageError(
        'wrong-moment',
        `The snapshot is of session ${snapshot.session} of seed ${snapshot.seed}; start one with those.`,
      );
    }
    snapshot.cells.forEach((cell, index) => {
      this.machine.cells[index] = cell ?? Number.POSITIVE_INFINITY;
    });
    this.ignored = snapshot.ignored;
    this.#fraction = snapshot.fraction;
    this.#contacts.clear();
    for (const key of snapshot.contacts) this.#contacts.add(key);
    this.#keeping.share(this.machine.cells);
    this.#isBroken = true;
  }

  /**
   * Hears one kind of thing from now on; returns what ends the listening. See `listen`.
   *
   * @throws UsageError for a kind that there is not, or a listener that is no function
   */
  on<Kind extends keyof SessionEvents<Names>>(
    kind: Kind,
    listener: (told: SessionEvents<Names>[Kind]) => void,
  ): () => void {
    if (!sessionEvents.includes(kind))
      throw new UsageError(
        'bad-argument',
        `A session has no event "${String(kind)}"; its events are ${sessionEvents.join(', ')}.`,
      );
    if (typeof listener !== 'function') return this.listen(listener);
    return this.listen((step) => {
      for (const told of tell(step, kind)) listener(told as SessionEvents<Names>[Kind]);
    });
  }

  /** The best values of each list, highest first. */
  get lists(): { readonly [name: string]: readonly number[] } {
    return this.#keeping.lists;
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
  send(name: Names['events'], contact?: string | number): Reception {
    mustBeEvent(name);
    mustBeContact(contact);
    return this.#whenTold(() => this.#sendOnce(name, contact));
  }

  /** Does something now; or, where a listener asks for it, once all listeners have heard the step. */
  #whenTold(work: () => Reception): Reception {
    if (!this.#listeners.isTelling) return this.#listeners.call(work);
    this.#listeners.later(work);
    return 'queued';
  }

  #sendOnce(name: string, contact: string | number | undefined): Reception {
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
    for (const key of this.#contacts)
      if (key.slice(key.indexOf(' ') + 1) === String(contact)) this.#contacts.delete(key);
  }

  #send(name: string, beforeWaits: boolean): Reception {
    // An event comes after the clocks that are due at its moment.
    this.#advanceTo(this.time, beforeWaits);
    const event = this.#eventIndex.get(name);
    return this.happen(
      'event',
      name,
      () => (event === undefined ? 'ignored' : this.machine.send(event)),
      (reception) => {
        if (this.#options.record !== false)
          this.#recorded.push(
            beforeWaits ? { at: this.time, event: name, beforeWaits } : { at: this.time, event: name },
          );
        if (reception === 'ignored') this.ignored++;
      },
    );
  }

  /**
   * Lets time pass, firing timers, spawns and waits at their very millisecond, however long it is: ten minutes in a hidden
   * tab are played through.
   *
   * @param milliseconds parts of a millisecond add up from call to call. A little below 0, as the first frame of a page can be, counts as 0
   * @throws UsageError for a time that is below -1000, not finite, or longer than a day
   * @throws DesignError as `send`
   */
  advance(milliseconds: number): void {
    const more = passedTime(milliseconds);
    this.#whenTold(() => {
      const passed = more + this.#fraction;
      const whole = Math.floor(passed);
      this.#advanceTo(this.time + whole);
      this.#fraction = passed - whole;
      return 'handled';
    });
  }

  /**
   * Lets time pass to a moment of session time, in whole milliseconds; with `beforeWaits`, waits over at that very moment are still to
   * come. A moment that has gone by changes nothing.
   *
   * @throws UsageError for a time that is no moment of a session
   * @throws DesignError as `send`
   */
  advanceTo(to: number, beforeWaits = false): void {
    mustBeMoment(to);
    this.#whenTold(() => {
      this.#advanceTo(to, beforeWaits);
      return 'handled';
    });
  }

  #advanceTo(to: number, beforeWaits = false): void {
    const machine = this.machine;
    const { isOver } = this.#options;
    for (let fired = 1; machine.isDue(to, beforeWaits); fired++) {
      if (fired % firedBetween === 0 && isOver?.() === true)
        throw new DesignError([
          fault('time-over', { at: this.time }, { file: this.title, line: 0, column: 0 }),
        ]);
      const cause =
        machine.dueKind === clockKinds.timer
          ? 'timer'
          : machine.dueKind === clockKinds.spawn
            ? 'spawn'
            : 'wait';
      // What listeners ask for comes at this very moment, before time goes on.
      this.#listeners.settled(() =>
        this.happen(cause, machine.dueName, () => {
          machine.fire();
          return 'handled';
        }),
      );
    }
    machine.elapse(Math.max(to, this.time));
  }

  /** Sends an event at a moment of session time, as a simulated player does; see `advanceTo`. */
  sendAt(name: string, at: number, beforeWaits: boolean): Reception {
    mustBeEvent(name);
    mustBeMoment(at);
    return this.#whenTold(() => {
      this.#advanceTo(at, beforeWaits);
      return this.#send(name, beforeWaits);
    });
  }

  /** What followed from the start itself, which was over before anyone could listen. */
  get opening(): Step {
    return this.#opening;
  }

  /**
   * Hears everything that happens from now on, step by step; returns what ends the listening. A listener may send and let time pass: that
   * is queued, and happens once all have heard the step. What a listener throws reaches whoever called the session, once
   * the others have heard the step and the call is done; the session is whole then.
   *
   * @throws UsageError where it is no function
   */
  listen(listener: (step: Step) => void): () => void {
    return this.#listeners.add(listener);
  }

  /**
   * What was sent and drawn so far, in order.
   *
   * @throws UsageError where nothing was kept, or the session went on from a snapshot
   */
  get recorded(): readonly RecordLine[] {
    if (this.#options.record === false)
      throw new UsageError('wrong-moment', 'This session keeps no record; start it with record: true.');
    if (this.#isBroken)
      throw new UsageError(
        'wrong-moment',
        'This session went on from a snapshot, so its record has no beginning.',
      );
    return this.#recorded;
  }

  /** @param before called once it has happened and before listeners hear of it */
  protected happen(
    cause: Step['cause'],
    name: string,
    happen: () => Reception,
    before?: (reception: Reception) => void,
  ): Reception {
    const { cells } = this.machine;
    this.#before.set(cells);
    this.#telling.begin();
    let reception: Reception;
    try {
      reception = happen();
    } catch (error) {
      cells.set(this.#before);
      throw error;
    }
    const step: Step = { at: this.time, cause, name, reception, ...this.#telling.end() };
    this.#keeping.after(step, cells);
    before?.(reception);
    if (cause === 'start') this.#opening = step;
    // A spawn at its bound makes nothing appear, so that there is nothing to hear.
    const isEmpty = cause === 'spawn' && step.pieces.length + step.sequence.length === 0;
    if (!isEmpty) this.#listeners.tell(step);
    return reception;
  }

  /** @throws UsageError while listeners hear a step */
  #mustStand(what: string): void {
    if (this.#listeners.isTelling)
      throw new UsageError(
        'wrong-moment',
        `A session cannot be ${what} while a listener hears a step; do it after the call that led there.`,
      );
  }
}
