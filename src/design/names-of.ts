// The names that a design written in TypeScript gives, worked out by the compiler from what is written.

import type { strike } from './health.js';
import type { Design, Role, roles, Value } from './model.js';

/** The names of one design, for the compiler: what its counters hold, and what can be sent and shown. */
export interface GameNames {
  readonly counters: { readonly [name: string]: Value };
  readonly screens: string;
  /** Outside events: outcomes of pieces, appearances and inputs. */
  readonly events: string;
  readonly timers: string;
  readonly cues: string;
}

declare const names: unique symbol;

/** A design whose names the compiler knows, so that a session made from it takes no others. */
export interface NamedDesign<Names extends GameNames = GameNames> extends Design {
  /** For the compiler alone; nothing is there when it runs. */
  readonly [names]?: Names;
}

type Each<Written> = Written extends readonly (infer Item extends string)[] ? Item : Written & string;
type KeyOf<Section> = keyof Section & string;

/** A section of pieces, timers or counters, of which the compiler keeps what is written to the letter. */
export type Section<Short = never> = { readonly [name: string]: object | Short };

/** What a piece has under a key, or the piece that it is like. */
type Of<Pieces, Piece extends keyof Pieces, Key extends string> = Pieces[Piece] extends {
  readonly [Own in Key]: infer Written;
}
  ? Written
  : Pieces[Piece] extends { readonly like: infer Other extends keyof Pieces }
    ? Of<Pieces, Other, Key>
    : never;

/** The groups of a piece, and of those that it is like. */
type GroupsOf<Pieces, Piece extends keyof Pieces> =
  | (Pieces[Piece] extends { readonly in: infer Groups } ? Each<Groups> : never)
  | (Pieces[Piece] extends { readonly like: infer Other extends keyof Pieces }
      ? GroupsOf<Pieces, Other>
      : never);

type OutcomesOf<Pieces, Piece extends keyof Pieces> = [Of<Pieces, Piece, 'outcomes'>] extends [never]
  ?
      | (typeof roles)[Of<Pieces, Piece, 'is'> & Role]['success' | 'failure']
      | ([Of<Pieces, Piece, 'health'>] extends [never] ? never : typeof strike)
  : KeyOf<Of<Pieces, Piece, 'outcomes'>>;

/** What happens to a piece, by some words for it. */
type PieceEvents<
  Pieces,
  Piece extends keyof Pieces,
  Words extends string,
> = `${Words}.${OutcomesOf<Pieces, Piece> | 'appeared' | 'gone'}`;

/** Outcomes of pieces, by the words that rules may use: their own names, their groups and what they are. */
type HeardOf<Pieces> = {
  [Piece in KeyOf<Pieces>]: PieceEvents<
    Pieces,
    Piece,
    Piece | GroupsOf<Pieces, Piece> | (Of<Pieces, Piece, 'is'> & string)
  >;
}[KeyOf<Pieces>];

type TimerEvents<Timers> = {
  [Timer in KeyOf<Timers>]:
    | (Timers[Timer] extends { readonly every: unknown } ? `${Timer}.ticked` : `${Timer}.ended`)
    | (Timers[Timer] extends { readonly warn: unknown } ? `${Timer}.warned` : never);
}[KeyOf<Timers>];

type Input = `input.${string}`;

/** Every event that a rule may name. */
export type EventsOf<Pieces, Timers, Screen extends string, Emitted extends string> =
  | HeardOf<Pieces>
  | TimerEvents<Timers>
  | `${Screen}.entered`
  | Emitted
  | Input;

/** What a counter holds: what it starts with; a word where it has words. */
type Held<Counter> = Counter extends { readonly words: readonly (infer Word extends string)[] }
  ? Word
  : Counter extends boolean | { readonly start: boolean }
    ? boolean
    : Counter extends string | { readonly start: string }
      ? string
      : number;

/** What a session of a design accepts and reports. */
export interface NamesOf<Counters, Timers, Pieces, Screen extends string> extends GameNames {
  readonly counters: { readonly [Counter in KeyOf<Counters>]: Held<Counters[Counter]> };
  readonly screens: Screen;
  readonly events: { [Piece in KeyOf<Pieces>]: PieceEvents<Pieces, Piece, Piece> }[KeyOf<Pieces>] | Input;
  readonly timers: KeyOf<Timers>;
}
