import { type Keep, spans, type Value } from '../../design/model.js';
import type { GameForm } from '../program/form.js';
import { fromCell } from '../program/value.js';
import type { Views } from '../session/view.js';
import type { Probe } from './probe.js';
import { type PieceChange, type Step, sourceName, type Write } from './step.js';

/** What follows from one event, gathered while it happens. */
interface OpenStep {
  sequence: string[];
  rules: string[];
  writes: Write[];
  transitions: { from: string; to: string; index: number; fresh: Keep | undefined }[];
  pieces: PieceChange[];
  cues: string[];
  popups: string[];
}

/** Watches the engine and turns what it does into the steps that listeners hear, names and values put back in. */
export class StepRecorder implements Probe {
  #open: OpenStep = emptyStep();

  constructor(
    private readonly form: GameForm,
    private readonly cells: () => Float64Array,
    private readonly views: () => Views,
    /** Called when all pieces are gone. */
    private readonly endContacts: () => void,
  ) {}

  /** Starts the next step. */
  begin(): void {
    this.#open = emptyStep();
  }

  /** What was gathered since `begin`. */
  end(): Pick<Step, keyof OpenStep> {
    return this.#open;
  }

  /** A step has its event from the session. */
  outcome(): void {}

  rule(rule: number): void {
    this.#open.rules.push(this.form.rules[rule]!.name);
    this.#open.sequence.push(this.form.rules[rule]!.name);
  }

  transition(way: number): void {
    const { form } = this;
    const { from, to, index, fresh } = form.transitions[way]!;
    if (index < 0) return;
    this.#open.sequence.push(sourceName(form, form.rules.length + way));
    const target = to < 0 ? this.cells()[form.screens[from]!.backCell]! : to;
    this.#open.transitions.push({
      from: form.screens[from]!.name,
      to: form.screens[target]!.name,
      index,
      fresh: spans[fresh],
    });
  }

  write(counter: number, source: number, before: number, after: number, wanted: number): void {
    const { form } = this;
    const value = (cell: number): Value => fromCell(form.counters[counter]!, cell);
    this.#open.writes.push({
      counter: form.counters[counter]!.name,
      before: value(before),
      after: value(after),
      wanted: value(wanted),
      by: sourceName(form, source),
      place: (form.rules[source] ?? form.transitions[source - form.rules.length]!).place,
    });
  }

  /** Another session has kept another value. */
  kept(counter: number, before: number, after: number): void {
    const value = (cell: number): Value => fromCell(this.form.counters[counter]!, cell);
    this.#open.writes.push({
      counter: this.form.counters[counter]!.name,
      before: value(before),
      after: value(after),
      wanted: value(after),
      by: 'another session',
      place: { file: 'storage', line: 0, column: 0 },
    });
  }

  cue(cue: number): void {
    this.#open.cues.push(this.form.cues[cue]!);
  }

  popup(popup: number): void {
    this.#open.popups.push(this.views().popup(popup));
  }

  appeared(piece: number): void {
    this.#open.pieces.push({ piece: this.form.pieces[piece]!.name, change: 'appeared' });
  }

  gone(piece: number): void {
    this.#open.pieces.push({ piece: this.form.pieces[piece]!.name, change: 'gone' });
  }

  cleared(piece: number): void {
    this.#open.pieces.push({ piece: this.form.pieces[piece]!.name, change: 'cleared' });
  }

  allCleared(): void {
    for (const { name } of this.form.pieces) this.#open.pieces.push({ piece: name, change: 'cleared' });
    this.endContacts();
  }
}

const emptyStep = (): OpenStep => ({
  sequence: [],
  rules: [],
  writes: [],
  transitions: [],
  pieces: [],
  cues: [],
  popups: [],
});
