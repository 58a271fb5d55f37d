import { spans, type Value } from '../../design/model.js';
import type { GameForm } from '../program/form.js';
import { fits, fromCell, toCell } from '../program/value.js';
import type { Step } from '../run/step.js';
import type { StepRecorder } from '../run/step-recorder.js';

/** The part of the web's Storage that a session uses. */
export interface KeepStorage {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
}

/** Whatever reports that another page has written to the storage, such as `window`. */
export interface StorageEvents {
  addEventListener(type: 'storage', listener: (event: { readonly key: string | null }) => void): void;
  removeEventListener(type: 'storage', listener: (event: { readonly key: string | null }) => void): void;
}

export interface KeptOptions {
  /**
   * Where counters that are kept forever live between sessions, such as `localStorage`. What cannot be read there counts as
   * nothing; a storage that throws when written to does not stop the game. Several sessions may share one: what they keep is merged, a
   * list by its best values, a counter by the rule of its writes (docs/language.md).
   */
  readonly storage?: KeepStorage;
  /** Tells when another page has written to that storage, so that the session takes over what is kept there: `window`. */
  readonly storageEvents?: StorageEvents;
  /** Values for counters that are kept forever, as a storage would give them. */
  readonly kept?: { readonly [counter: string]: Value };
}

const foreverSpan = spans.indexOf('forever');

/** What a session keeps forever: counters, and the best values of its lists. */
export class SessionStorage {
  /** What the counters held at the start, for the record. */
  readonly start: { readonly [counter: string]: Value };
  readonly key: string;
  readonly #counters: readonly number[];
  #lists: ReadonlyMap<string, readonly number[]>;
  readonly #storage: KeepStorage | undefined;
  /** By counter: its cell when it was last the same here and in the storage. */
  readonly #shared = new Map<number, number>();
  #isReplaying = false;
  /** Values that were entered in lists and are not in the storage yet. */
  #entered: { readonly list: string; readonly value: number }[] = [];

  constructor(
    private readonly form: GameForm,
    { storage, kept }: KeptOptions,
  ) {
    this.#storage = storage;
    this.key = `jocus ${form.title}`;
    this.#counters = form.counters.flatMap(({ keep }, index) => (keep === foreverSpan ? [index] : []));
    const stored = this.#read();
    this.start = this.#fitting(kept ?? stored);
    this.#lists = this.#listsOf(stored);
  }

  /**
   * The same storage and the same start under a changed design, under which all is played again until `share` is called: what was kept
   * then is in the storage already, and must not go there twice.
   */
  under(form: GameForm): SessionStorage {
    const keeping = new SessionStorage(form, {
      kept: this.start,
      ...(this.#storage && { storage: this.#storage }),
    });
    keeping.#isReplaying = true;
    return keeping;
  }

  /** What the counters hold now is in the storage too: after it was written, played again or restored. */
  share(cells: Float64Array): void {
    this.#isReplaying = false;
    for (const index of this.#counters) this.#shared.set(index, cells[this.form.cells.counters + index]!);
  }

  /** What the storage holds; one that is damaged or forbidden counts as empty. */
  #read(): { readonly [name: string]: unknown } {
    try {
      return { ...JSON.parse(this.#storage?.getItem(this.key) ?? '{}') };
    } catch {
      return {};
    }
  }

  /** Of some values, those that the counters kept forever can hold. */
  #fitting(values: { readonly [name: string]: unknown }): { readonly [counter: string]: Value } {
    return Object.fromEntries(
      this.#counters.flatMap((index): [string, Value][] => {
        const counter = this.form.counters[index]!;
        const value = values[counter.name];
        return fits(counter, value) ? [[counter.name, value]] : [];
      }),
    );
  }

  /** The lists of a storage, with what was entered since. */
  #listsOf(stored: { readonly [name: string]: unknown }): ReadonlyMap<string, readonly number[]> {
    return new Map(
      this.form.lists.map(({ name, length }) => {
        const values: unknown = stored[name];
        const numbers = Array.isArray(values) ? values.filter((value) => Number.isFinite(value)) : [];
        const entered = this.#entered.flatMap(({ list, value }) => (list === name ? [value] : []));
        return [name, [...numbers, ...entered].sort((a, b) => b - a).slice(0, length)];
      }),
    );
  }

  /** The best values of each list, highest first. */
  get lists(): { readonly [name: string]: readonly number[] } {
    return Object.fromEntries([...this.#lists].map(([name, values]) => [name, [...values]]));
  }

  /** Puts the counters that are kept forever to what was kept; says whether there were any. */
  begin(cells: Float64Array): boolean {
    this.put(this.start, cells);
    return Object.keys(this.start).length > 0;
  }

  /** Puts counters to values, as far as they can hold them. All count as shared from now on. */
  put(values: { readonly [counter: string]: Value }, cells: Float64Array, telling?: StepRecorder): void {
    const fitting = this.#fitting(values);
    for (const index of this.#counters) {
      const counter = this.form.counters[index]!;
      const cell = this.form.cells.counters + index;
      const value = fitting[counter.name];
      if (value !== undefined) {
        telling?.kept(index, cells[cell]!, toCell(counter, value));
        cells[cell] = toCell(counter, value);
      }
      this.#shared.set(index, cells[cell]!);
    }
  }

  /** After a step: enters counters into their lists, and writes to the storage what has changed. */
  after({ name, reception, transitions }: Step, cells: Float64Array): void {
    if (this.#isReplaying && this.#storage !== undefined) return;
    if (reception === 'handled' && this.form.lists.length > 0) {
      const happened = [name, ...transitions.map(({ to }) => `${to}.entered`)];
      for (const list of this.form.lists)
        if (list.events.some((event) => happened.includes(event))) this.#enter(list, cells);
    }
    if (this.#storage === undefined) return;
    const isChanged = this.#counters.some(
      (index) => cells[this.form.cells.counters + index] !== this.#shared.get(index),
    );
    if (!isChanged && this.#entered.length === 0) return;
    const stored = this.#read();
    const lists = this.#listsOf(stored);
    const merged = { ...stored, ...this.#merged(stored, cells), ...Object.fromEntries(lists) };
    try {
      this.#storage.setItem(this.key, JSON.stringify(merged));
      this.share(cells);
      this.#lists = lists;
      this.#entered = [];
    } catch {
      // A storage that is full or forbidden: the values live on in this session.
    }
  }

  #enter({ name, counter, length }: GameForm['lists'][0], cells: Float64Array): void {
    const value = Number(fromCell(this.form.counters[counter]!, cells[this.form.cells.counters + counter]!));
    if (this.#storage !== undefined) this.#entered.push({ list: name, value });
    const values = [...this.#lists.get(name)!, value].sort((a, b) => b - a).slice(0, length);
    this.#lists = new Map(this.#lists).set(name, values);
  }

  /** After another page has written to the storage: takes over its lists, and gives the counters that are other ones now. */
  heard(cells: Float64Array): { readonly [counter: string]: Value } {
    const stored = this.#read();
    this.#lists = this.#listsOf(stored);
    const merged = this.#merged(stored, cells);
    return Object.fromEntries(
      this.#counters.flatMap((index): [string, Value][] => {
        const counter = this.form.counters[index]!;
        const value = merged[counter.name]!;
        return toCell(counter, value) === cells[this.form.cells.counters + index]
          ? []
          : [[counter.name, value]];
      }),
    );
  }

  /** The counters, with what other sessions have kept of them. */
  #merged(
    stored: { readonly [name: string]: unknown },
    cells: Float64Array,
  ): { readonly [counter: string]: Value } {
    const kept = this.#fitting(stored);
    return Object.fromEntries(
      this.#counters.map((index) => {
        const counter = this.form.counters[index]!;
        const { name, merges, min, max } = counter;
        const own = cells[this.form.cells.counters + index]!;
        if (kept[name] === undefined) return [name, fromCell(counter, own)];
        const theirs = toCell(counter, kept[name]);
        const added = own - this.#shared.get(index)!;
        const both = { highest: Math.max(own, theirs), lowest: Math.min(own, theirs), sum: theirs + added };
        const last = added === 0 ? theirs : own;
        const cell = merges === undefined || merges === 'last' ? last : both[merges];
        return [name, fromCell(counter, Math.min(max, Math.max(min, cell)))];
      }),
    );
  }
}
