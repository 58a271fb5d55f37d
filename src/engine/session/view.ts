import type { CounterInfo, GameForm, HudForm, TextForm } from '../program/form.js';
import { levelOf } from '../program/form.js';
import { fromCell } from '../program/value.js';

/** One thing on the HUD, ready to be drawn. It is never changed: what shows something else is another object. */
export interface HudView {
  /** The counter or timer that it shows; undefined for a text. */
  readonly show: string | undefined;
  readonly label: string;
  readonly as: HudForm['as'];
  readonly at: string;
  /** The counter's value, or a timer's seconds; 0 for a text. */
  readonly value: number;
  /** What to write: digits with their leading zeros, m:ss, icons as full and empty marks, or the text. */
  readonly text: string;
  /** The same for those who listen instead of looking: "Lives: 2 of 5". */
  readonly spoken: string;
  /** For a prompt, the input that it offers: a game may draw it as a button that sends it. */
  readonly input: string | undefined;
  /** Icons that are full, and icons in all; for a bar, the value and its full length. */
  readonly full: number;
  readonly of: number;
}

/** One thing on the HUD, with what it was last drawn from. */
interface HudSlot {
  readonly form: HudForm;
  readonly counter: CounterInfo | undefined;
  /** What was read for the view below: the value, then those of the text, then the most that it can be. */
  readonly read: Float64Array;
  view: HudView | undefined;
}

/** Reads texts and the HUD off the cells of a session. What nothing has changed for is not made again. */
export class Views {
  readonly #slots: readonly HudSlot[];
  #shown: readonly HudView[] = [];

  constructor(
    private readonly form: GameForm,
    private readonly cells: Float64Array,
    /** Works out one of the form's values. */
    private readonly value: (index: number) => number,
  ) {
    this.#slots = form.hud.map((item) => ({
      form: item,
      counter: form.counters[item.counter],
      read: new Float64Array(item.text.length + 2),
      view: undefined,
    }));
  }

  /** The text of a popup, its values filled in. */
  popup(index: number): string {
    return this.#fill(this.form.popups[index]!);
  }

  /** The text of the present screen, its values filled in. */
  screenText(): string {
    return this.#fill(this.form.screens[this.cells[this.form.cells.screen]!]!.text);
  }

  /** The same array as before where nothing on the HUD has changed, and the same object for what has not. */
  hud(): readonly HudView[] {
    const screen = this.cells[this.form.cells.screen]!;
    const views: HudView[] = [];
    for (const slot of this.#slots) {
      if (!slot.form.screens.includes(screen)) continue;
      if (slot.form.condition >= 0 && this.value(slot.form.condition) === 0) continue;
      if (this.#read(slot) || slot.view === undefined) slot.view = this.#view(slot);
      views.push(slot.view);
    }
    const isSame =
      views.length === this.#shown.length && views.every((view, index) => view === this.#shown[index]);
    if (!isSame) this.#shown = views;
    return this.#shown;
  }

  /** Reads what an item is drawn from, and says whether anything is another value than it was. */
  #read({ form: { value, text, of }, read }: HudSlot): boolean {
    let hasChanged = false;
    const note = (index: number, found: number): void => {
      if (read[index] === found) return;
      read[index] = found;
      hasChanged = true;
    };
    note(0, value < 0 ? 0 : this.value(value));
    text.forEach((part, index) => {
      if (typeof part === 'string') return;
      note(index + 1, 'levelName' in part ? this.cells[this.form.cells.level]! : this.value(part.value));
    });
    note(text.length + 1, typeof of === 'number' ? of : Math.max(0, this.value(of.value)));
    return hasChanged;
  }

  #view({ form, counter, read }: HudSlot): HudView {
    const { show, label, as, at, input } = form;
    const of = read.at(-1)!;
    const value = read[0]!;
    const full = Math.max(0, value);
    const shown = written({ ...form, of }, counter, value, () => this.#fill(form.text));
    const told =
      as === 'icons' || as === 'bar' ? `${as === 'bar' ? Math.ceil(value) : full} of ${of}` : shown;
    return {
      show,
      label,
      input,
      as,
      at,
      value,
      text: shown,
      spoken: label === '' ? told : `${label}: ${told}`,
      full,
      of,
    };
  }

  #fill(parts: TextForm): string {
    return parts
      .map((part) => {
        if (typeof part === 'string') return part;
        if ('levelName' in part) return levelOf(this.form, this.cells).name;
        return showCounter(this.form.counters[part.counter], this.value(part.value));
      })
      .join('');
  }
}

/** A value as a text shows it: words and flags by name, decimals with their places. */
function showCounter(counter: CounterInfo | undefined, value: number): string {
  if (counter === undefined) return String(value);
  if (counter.kind !== 'number') return String(fromCell(counter, value));
  return value.toFixed(counter.places);
}

function written(
  { as, width, of, tenths }: Omit<HudForm, 'of'> & { readonly of: number },
  counter: CounterInfo | undefined,
  value: number,
  text: () => string,
): string {
  switch (as) {
    case 'digits': {
      const digits = String(Math.abs(Math.trunc(value))).padStart(width, '0');
      return value < 0 ? `-${digits}` : digits;
    }
    case 'icons':
      return '●'.repeat(Math.max(0, value)) + '○'.repeat(Math.max(0, of - Math.max(0, value)));
    case 'bar':
      return `${Math.ceil(value)}/${of}`;
    case 'clock': {
      // A countdown shows 0:00 only when it is over.
      const left = Math.ceil(value * 10);
      if (tenths) return `${Math.floor(left / 600)}:${((left % 600) / 10).toFixed(1).padStart(4, '0')}`;
      const seconds = Math.ceil(value);
      return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
    }
    case 'number':
      return counter === undefined ? String(Math.ceil(value)) : showCounter(counter, value);
    case 'text':
      return text();
  }
}
