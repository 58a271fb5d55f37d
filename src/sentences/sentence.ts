import type { Place } from '../design/problems/problem.js';
import type { Change } from '../design/text/change.js';
import type { Path } from '../design/text/source.js';

/** A word of a sentence that can be changed where it stands. */
export interface Control {
  readonly path: Path;
  readonly value: string | number | boolean;
  /**
   * What may be put in its place: a number, one of `choices`, one of two states (`choices` says the true one first), a name of the design
   * or a new one, an expression, or any text.
   */
  readonly kind: 'number' | 'choice' | 'flag' | 'name' | 'expression' | 'text';
  /** What is offered: all that is valid, for a choice; else what the design has. */
  readonly choices: readonly string[];
  /** What goes with the word when it is emptied; its own path unless it is given. */
  readonly removes?: Path;
  /** For a name of what the design does not have yet: the section in which it is made on the spot. */
  readonly makes?: Made;
}

/** Sections whose entries can be made by naming them; `events` stands for the piece that an event names. */
export type Made = 'screens' | 'counters' | 'timers' | 'pieces' | 'players' | 'events';

/** Fixed words, or one that can be changed. */
export type Word = string | Control;

/** What a sentence does not say yet and can say as well. */
export interface Clause {
  /** In a few words, such as `and a condition`. */
  readonly label: string;
  /** What it means; may be empty. */
  readonly help: string;
  readonly change: Change;
}

/** One plain sentence that says what one entry of a design means. */
export interface Sentence {
  /** Where the entry stands in the design. */
  readonly path: Path;
  /** From 1. */
  readonly line: number;
  /** Columns of that line, from 1: where the entry begins, and where the next one on the same line does. */
  readonly columns: readonly [number, number];
  readonly words: readonly Word[];
  readonly clauses: readonly Clause[];
}

/** A sentence as it reads aloud. */
export const textOf = ({ words }: Sentence): string =>
  words.map((word) => (typeof word === 'string' ? word : String(word.value))).join('');

/** A place in the file; line and column from 1. */
export type Spot = Pick<Place, 'line' | 'column'>;

/** Whether what stands at a place of the file belongs to a sentence: of several entries on one line, to the last that begins before it. */
export const isAbout = ({ line, columns: [from, next] }: Sentence, spot: Spot): boolean =>
  spot.line === line && spot.column >= from && spot.column < next;

/** In the order in which a game is made. */
export const groupNames = [
  'things',
  'rules',
  'counters',
  'hud',
  'levels',
  'time',
  'screens',
  'transitions',
  'players',
  'targets',
  'tests',
] as const;
export type GroupName = (typeof groupNames)[number];

export type SentenceGroups = { readonly [Name in GroupName]: readonly Sentence[] };
