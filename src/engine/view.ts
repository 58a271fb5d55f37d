import type { Expression } from '../design/expression.js';
import type { Counter, HudItem, Template } from '../design/model.js';
import type { Form } from './form.js';
import { levelOf } from './form.js';
import { Terms } from './terms.js';
import { fromCell } from './value.js';

/** One thing on the HUD, ready to be drawn. */
export interface HudView {
  /** The counter or timer that it shows; undefined for a text. */
  readonly show: string | undefined;
  readonly label: string;
  readonly as: HudItem['as'];
  readonly at: string;
  /** The counter's value, or a timer's seconds; 0 for a text. */
  readonly value: number;
  /** What to write: digits with their leading zeros, m:ss, icons as full and empty marks, or the text. */
  readonly text: string;
  /** Icons that are full, and icons in all; for a bar, the value and its full length. */
  readonly full: number;
  readonly of: number;
}

/** A template whose expressions are terms. */
type Compiled = readonly (string | { term: number; show: (value: number) => string } | { levelName: true })[];

/** Reads texts and the HUD off the cells of a session. */
export class Views {
  readonly #form: Form;
  readonly #cells: Float64Array;
  readonly #terms: Terms;
  readonly #screens: readonly Compiled[];
  readonly #popups: readonly Compiled[];
  readonly #hud: readonly {
    item: HudItem;
    counter: Counter | undefined;
    condition: number;
    text: Compiled;
    value: number;
    of: number;
  }[];

  constructor(form: Form, cells: Float64Array) {
    const { lowerTerm } = form;
    this.#form = form;
    this.#cells = cells;
    this.#terms = new Terms(form, cells);
    const compile = (template: Template): Compiled =>
      template.map((part) => {
        if (typeof part === 'string') return part;
        if (part.kind === 'levelName') return { levelName: true };
        const counter =
          part.kind === 'counter' ? form.design.counters.find((each) => each.name === part.name) : undefined;
        return { term: this.#terms.add(lowerTerm(part)), show: (value) => showCounter(counter, value) };
      });
    this.#popups = form.popups.map(compile);
    this.#screens = form.design.screens.map((screen) => compile(screen.text));
    this.#hud = form.design.hud.map((item) => {
      const counter = form.design.counters.find((each) => each.name === item.show);
      const timer = form.design.timers.find((each) => each.name === item.show);
      const shown: Expression | undefined =
        counter !== undefined
          ? { kind: 'counter', name: counter.name }
          : timer !== undefined
            ? { kind: 'timer', name: timer.name }
            : undefined;
      return {
        item,
        counter,
        condition: item.condition === undefined ? -1 : this.#terms.add(lowerTerm(item.condition)),
        text: compile(item.text),
        value: shown === undefined ? -1 : this.#terms.add(lowerTerm(shown)),
        of: counter?.max ?? (timer === undefined ? 0 : timer.interval.most / 1000),
      };
    });
  }

  /** The text of a popup, its values filled in. */
  popup(index: number): string {
    return this.#fill(this.#popups[index]!);
  }

  /** The text of the present screen, its values filled in. */
  screenText(): string {
    return this.#fill(this.#screens[this.#cells[this.#form.cells.screen]!]!);
  }

  hud(): HudView[] {
    const screen = this.#form.screens[this.#cells[this.#form.cells.screen]!]!.name;
    return this.#hud
      .filter(
        ({ item, condition }) =>
          item.screens.includes(screen) && (condition < 0 || this.#terms.value(condition) !== 0),
      )
      .map(({ item, counter, text, value, of }) => {
        const found = value < 0 ? 0 : this.#terms.value(value);
        return {
          show: item.show,
          label: item.label ?? item.show ?? '',
          as: item.as,
          at: item.at,
          value: found,
          text: written(item, counter, found, of, () => this.#fill(text)),
          full: Math.max(0, found),
          of,
        };
      });
  }

  #fill(parts: Compiled): string {
    return parts
      .map((part) => {
        if (typeof part === 'string') return part;
        if ('levelName' in part) return levelOf(this.#form, this.#cells).name;
        return part.show(this.#terms.value(part.term));
      })
      .join('');
  }
}

/** A value as a text shows it: words and flags by name, decimals with their places. */
function showCounter(counter: Counter | undefined, value: number): string {
  if (counter === undefined) return String(value);
  if (counter.kind !== 'number') return String(fromCell(counter, value));
  return value.toFixed(counter.places);
}

function written(
  item: HudItem,
  counter: Counter | undefined,
  value: number,
  of: number,
  text: () => string,
): string {
  switch (item.as) {
    case 'digits': {
      const digits = String(Math.abs(Math.trunc(value))).padStart(item.width, '0');
      return value < 0 ? `-${digits}` : digits;
    }
    case 'icons':
      return '●'.repeat(Math.max(0, value)) + '○'.repeat(Math.max(0, of - Math.max(0, value)));
    case 'bar':
      return `${Math.ceil(value)}/${of}`;
    case 'clock': {
      // A countdown shows 0:00 only when it is over.
      const tenths = Math.ceil(value * 10);
      if (item.tenths)
        return `${Math.floor(tenths / 600)}:${((tenths % 600) / 10).toFixed(1).padStart(4, '0')}`;
      const seconds = Math.ceil(value);
      return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
    }
    case 'number':
      return counter === undefined ? String(Math.ceil(value)) : showCounter(counter, value);
    case 'text':
      return text();
  }
}
