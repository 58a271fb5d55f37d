import type { Path } from '../design/source.js';

/** A word of a sentence that can be changed where it stands. */
export interface Control {
  readonly path: Path;
  readonly value: string | number | boolean;
  /** What may be put in its place: a number, one of `choices`, a name of the design or a new one, an expression, or any text. */
  readonly kind: 'number' | 'choice' | 'name' | 'expression' | 'text';
  /** What is offered: all that is valid, for a choice; else what the design has. */
  readonly choices: readonly string[];
}

/** Fixed words, or one that can be changed. */
export type Word = string | Control;

/** One plain sentence that says what one entry of a design means. */
export interface Sentence {
  /** Where the entry stands in the design. */
  readonly path: Path;
  /** From 1. */
  readonly line: number;
  readonly words: readonly Word[];
}

export const groupNames = ['things', 'rules', 'counters', 'hud'] as const;
export type GroupName = (typeof groupNames)[number];

export type SentenceGroups = { readonly [Name in GroupName]: readonly Sentence[] };
