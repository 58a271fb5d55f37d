import { spans, type Value } from '../design/model.js';
import type { GameForm } from './form.js';
import type { Step } from './step.js';
import { fits, fromCell, toCell } from './value.js';

/** The part of the web's Storage that a session uses. */
export interface KeepStorage {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
}

export interface KeptOptions {
  /**
   * Where counters that are kept forever live between sessions, such as `localStorage`. What cannot be read there counts as
   * nothing; a storage that throws when written to does not stop the game.
   */
  readonly storage?: KeepStorage;
  /** Values for counters that are kept forever, as a storage would give them. */
  readonly kept?: { readonly [counter: string]: Value };
}

const foreverSpan = spans.indexOf('forever');

/** What a session keeps forever: counters, and the best values of its lists. */
export class Keeping {
  /** What the counters held at the start, for the record. */
  readonly start: { readonly [counter: string]: Value };
  readonly #counters: readonly number[];
  readonly #lists: Map<string, number[]>;
  readonly #storage: KeepStorage | undefined;
  readonly #key: string;
  /** What was last written to the storage. */
  #written = '';

  constructor(
    private readonly form: GameForm,
    options: KeptOptions,
  ) {
    this.#storage = options.storage;
    this.#key = `jocus ${form.title}`;
    this.#counters = form.counters.flatMap(({ keep }, index) => (keep === foreverSpan ? [index] : []));
    const stored = this.#read(options);
    this.start = Object.fromEntries(
      this.#counters.flatMap((index): [string, Value][] => {
        const counter = form.counters[index]!;
        const value = stored[counter.name];
        return fits(counter, value) ? [[counter.name, value]] : [];
      }),
    );
    this.#lists = new Map(
      form.lists.map(({ name, length }) => {
        const values: unknown = stored[name];
        const numbers = Array.isArray(values) ? values.filter((value) => Number.isFinite(value)) : [];
        return [name, numbers.sort((a, b) => b - a).slice(0, length)];
      }),
    );
  }

  /** The same storage and the same start under a changed design. */
  under(form: GameForm): Keeping {
    return new Keeping(form, { kept: this.start, ...(this.#storage && { storage: this.#storage }) });
  }

  /** What a storage, or a record, holds; one that is damaged or forbidden counts as empty. */
  #read({ storage, kept }: KeptOptions): { readonly [name: string]: unknown } {
    if (kept !== undefined || storage === undefined) return { ...kept };
    try {
      return { ...JSON.parse(storage.getItem(this.#key) ?? '{}') };
    } catch {
      return {};
    }
  }

  /** The best values of each list, highest first. */
  get lists(): { readonly [name: string]: readonly number[] } {
    return Object.fromEntries([...this.#lists].map(([name, values]) => [name, [...values]]));
  }

  /** Puts the counters that are kept forever to what was kept; says whether there were any. */
  take(cells: Float64Array): boolean {
    for (const index of this.#counters) {
      const counter = this.form.counters[index]!;
      const value = this.start[counter.name];
      if (value !== undefined) cells[this.form.cells.counters + index] = toCell(counter, value);
    }
    this.#written = JSON.stringify(this.#now(cells));
    return Object.keys(this.start).length > 0;
  }

  /** After a step: enters counters into their lists, and writes to the storage what has changed. */
  after({ name, reception, transitions }: Step, cells: Float64Array): void {
    if (this.#lists.size > 0 && reception === 'handled') {
      const happened = [name, ...transitions.map(({ to }) => `${to}.entered`)];
      for (const list of this.form.lists) {
        if (list.events.some((event) => happened.includes(event))) this.#enter(list, cells);
      }
    }
    if (this.#storage === undefined || this.#counters.length + this.#lists.size === 0) return;
    const text = JSON.stringify(this.#now(cells));
    if (text === this.#written) return;
    this.#written = text;
    try {
      this.#storage.setItem(this.#key, text);
    } catch {
      // A storage that is full or forbidden: the value lives on in this session.
    }
  }

  #enter({ name, counter, length }: GameForm['lists'][0], cells: Float64Array): void {
    const value = Number(fromCell(this.form.counters[counter]!, cells[this.form.cells.counters + counter]!));
    const values = [...this.#lists.get(name)!, value];
    this.#lists.set(name, values.sort((a, b) => b - a).slice(0, length));
  }

  #now(cells: Float64Array): { readonly [name: string]: Value | readonly number[] } {
    const counters = this.#counters.map((index) => {
      const counter = this.form.counters[index]!;
      return [counter.name, fromCell(counter, cells[this.form.cells.counters + index]!)];
    });
    return Object.fromEntries([...counters, ...this.#lists]);
  }
}
