import type { Keep, Value } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import type { GameForm } from '../program/form.js';
import type { Reception } from './reception.js';

/** One counter written: by which rule or transition, and whether a bound cut the write short. */
export interface Write {
  readonly counter: string;
  readonly before: Value;
  readonly after: Value;
  /** What was asked for; more or less than `after` where `min` or `max` held it. */
  readonly wanted: Value;
  readonly by: string;
  /** Where that stands in the design. */
  readonly place: Place;
}

/** One piece that appeared or went, or all of one name. */
export interface PieceChange {
  readonly piece: string;
  readonly change: 'appeared' | 'gone' | 'cleared';
}

/** Everything that followed from one event, timer, spawn or wait. */
export interface Step {
  /** Milliseconds of session time. */
  readonly at: number;
  readonly cause: 'start' | 'event' | 'timer' | 'spawn' | 'wait' | 'kept' | 'reload';
  /** The event, such as `blossom.taken`; for a wait, `wait 2`; for what another session has kept, `kept`; for a reload, what became of the session. */
  readonly name: string;
  readonly reception: Reception;
  /** Rules that fired and transitions that were taken, in order, by their names. */
  readonly sequence: readonly string[];
  readonly rules: readonly string[];
  readonly writes: readonly Write[];
  readonly transitions: readonly {
    readonly from: string;
    readonly to: string;
    readonly index: number;
    readonly fresh: Keep | undefined;
  }[];
  readonly cues: readonly string[];
  /** What the design itself made appear or cleared away, in order: every piece by itself, or (cleared) all of one name. */
  readonly pieces: readonly PieceChange[];
  /** Texts that rise where it happened, values filled in at that moment. */
  readonly popups: readonly string[];
}

/** What a rule, or past the last rule a transition, is called in reports. */
export function sourceName(form: GameForm, source: number): string {
  if (source < form.rules.length) return form.rules[source]!.name;
  const { from, to } = form.transitions[source - form.rules.length]!;
  return `${form.screens[from]!.name} -> ${form.screens[to]?.name ?? 'back'}`;
}
