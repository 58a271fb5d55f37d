// A design as TypeScript writes it: the shape of the file, section by section.

import type { Measure } from './measures.js';
import type { Keep, Role, Value } from './model.js';

type Seconds = number;
type Amount = number | string | boolean;
type Condition = string | boolean;
/** Seconds, an expression that gives them, or the least and the most. */
type Timed = Seconds | string | readonly [Seconds | string, Seconds | string];
type OneOrMore<Name> = Name | readonly Name[];
type Amounts<Name extends string> = { readonly [Each in Name]?: Amount };

/** The names that one design gives. */
export interface Names {
  dial: string;
  counter: string;
  timer: string;
  piece: string;
  screen: string;
  player: string;
  /** Events that rules and transitions may name, and those that they emit. */
  event: string;
  emitted: string;
}

/** What a test expects: a value, a range, or what the player sees and hears. */
interface Checks {
  readonly [name: string]:
    | Value
    | readonly string[]
    | { readonly atLeast?: number; readonly atMost?: number }
    | { readonly [item: string]: string | number | false };
}

/** How many of each piece. */
type Counts<Piece extends string> = { readonly [Each in Piece]?: number | string };

export type EffectInput<Name extends Names> =
  | { readonly add: Amounts<Name['counter'] | Name['timer']> }
  | { readonly set: Amounts<Name['counter'] | Name['timer']> }
  | { readonly pay: Amounts<Name['counter']> }
  | { readonly spawn: Name['piece'] | Counts<Name['piece']> }
  | { readonly clear: OneOrMore<string> | Counts<Name['piece']> }
  | { readonly become: { readonly [Each in Name['piece']]?: Name['piece'] | Counts<Name['piece']> } }
  | { readonly start: OneOrMore<Name['timer']> }
  | { readonly stop: OneOrMore<Name['timer']> }
  | { readonly emit: Name['emitted'] }
  | { readonly popup: string }
  | { readonly grace: Seconds | string }
  | { readonly cue: string };

export interface RuleInput<Name extends Names> {
  readonly name?: string;
  readonly when?: OneOrMore<Name['event']>;
  readonly if?: Condition;
  readonly passes?: { readonly [Each in Name['counter']]?: number };
  readonly screens?: OneOrMore<Name['screen']>;
  readonly rest?: Seconds | string;
  readonly chance?: number;
  readonly once?: Keep;
  readonly do: readonly EffectInput<Name>[];
}

export interface TransitionInput<Name extends Names> {
  readonly from: OneOrMore<Name['screen']>;
  readonly to: Name['screen'] | 'back';
  readonly when?: OneOrMore<Name['event']>;
  readonly if?: Condition;
  readonly wait?: Seconds | string;
  readonly fresh?: Keep;
  readonly level?: 'next' | 'first' | number;
  readonly grace?: Seconds | string;
  readonly do?: readonly EffectInput<Name>[];
}

export interface LevelInput<Used extends Names> {
  readonly name?: string;
  readonly count?: number;
  readonly like?: string;
  readonly endless?: boolean;
  readonly values?: { readonly [name: string]: number | string | readonly (number | string)[] };
  readonly place?: Counts<Used['piece']>;
  readonly spawn?: readonly {
    readonly piece: Used['piece'];
    readonly every: Timed;
    readonly first?: Seconds | string;
    readonly atOnce?: number | string;
    readonly total?: number | string;
  }[];
  readonly course?: readonly (Used['piece'] | `${number} x ${Used['piece']}`)[];
}

export interface CounterInput {
  readonly start?: Value;
  readonly min?: number | string;
  readonly max?: number | string;
  readonly places?: number;
  readonly words?: readonly string[];
  readonly keep?: Keep;
}

export interface TimerInput<Screen extends string> {
  readonly countdown?: Seconds | string;
  readonly every?: Timed;
  readonly after?: Timed;
  readonly warn?: Seconds | readonly Seconds[];
  readonly screens?: OneOrMore<Screen>;
  readonly keep?: Keep;
}

export interface PieceInput {
  readonly is?: Role;
  readonly like?: string;
  readonly in?: OneOrMore<string>;
  readonly meets?: 'sought' | 'arrives' | 'never';
  readonly difficulty?: number | string;
  readonly takes?: Seconds | string;
  readonly lasts?: Seconds | string;
  readonly lead?: Timed;
  readonly returns?: Timed;
  readonly needs?: Condition;
  readonly data?: { readonly [name: string]: Value };
  readonly again?: boolean;
  readonly hits?: number;
  readonly health?: number | string;
  readonly ends?: OneOrMore<string>;
  readonly success?: string;
  readonly by?: `${string}.${string}`;
  readonly outcomes?: { readonly [outcome: string]: number | string };
}

/** A design as a value of TypeScript: the same shape as the file. `Name` are the names it gives, `Used` those it may use. */
export interface DesignInput<Name extends Names, Used extends Names = Name> {
  readonly jocus?: 1;
  readonly title?: string;
  readonly score?: Used['counter'];
  readonly lives?: Used['counter'];
  readonly grid?: Seconds;
  readonly dials?: {
    readonly [Each in Name['dial']]: {
      readonly value: number;
      readonly from?: number;
      readonly to?: number;
      readonly step?: number;
    };
  };
  readonly counters?: {
    readonly [Each in Name['counter']]: Value | CounterInput;
  };
  readonly timers?: {
    readonly [Each in Name['timer']]: TimerInput<Used['screen']>;
  };
  readonly pieces?: {
    readonly [Each in Name['piece']]: PieceInput;
  };
  readonly levels?: readonly LevelInput<Used>[] | LevelInput<Used>;
  readonly rules?: readonly RuleInput<Used>[];
  readonly screens?: {
    readonly [Each in Name['screen']]: {
      readonly live?: boolean;
      readonly ending?: 'won' | 'lost' | 'over';
      readonly text?: string;
    };
  };
  readonly transitions?: readonly TransitionInput<Used>[];
  readonly hud?: readonly {
    readonly show?: Used['counter'] | Used['timer'] | `health.${Used['piece']}`;
    readonly text?: string;
    readonly if?: Condition;
    readonly label?: string;
    readonly as?: 'digits' | 'number' | 'icons' | 'bar' | 'clock' | 'text';
    readonly width?: number;
    readonly tenths?: boolean;
    readonly input?: `input.${string}`;
    readonly at?: string;
    readonly screens?: OneOrMore<Used['screen']>;
  }[];
  readonly lists?: {
    readonly [name: string]: {
      readonly of: Used['counter'];
      readonly when: OneOrMore<string>;
      readonly length?: number;
    };
  };
  readonly players?: {
    readonly [Each in Name['player']]: {
      readonly skill?: number | string;
      readonly pace?: number;
      readonly runs?: number;
      readonly patience?: Seconds;
      readonly learning?: number;
      readonly paceLearning?: number;
      readonly practice?: number;
      readonly spread?: number;
      readonly paceSpread?: number;
      readonly caution?: { readonly if: Condition; readonly pace?: number; readonly skill?: number };
      readonly quits?: number;
      readonly timing?: readonly [number, number];
      readonly thinks?: Seconds;
      readonly acts?: {
        readonly [input: `input.${string}`]:
          | Seconds
          | { readonly every: Seconds; readonly if?: Condition; readonly takes?: Seconds };
      };
      readonly style?: { readonly [pieceOrGroup: string]: number };
      readonly inputs?: {
        readonly [Screen in Used['screen']]?: string | { readonly [input: string]: number };
      };
    };
  };
  readonly tests?: readonly {
    readonly name: string;
    readonly given?: { readonly [name: string]: Value };
    readonly seed?: number;
    readonly spawns?: boolean;
    readonly do?: readonly (
      | string
      | { readonly expect: Checks }
      | { readonly wait: Seconds; readonly never: Checks }
    )[];
    readonly expect?: Checks;
    readonly never?: Checks;
  }[];
  readonly accept?: readonly {
    readonly finding: string;
    readonly about?: string;
    readonly because: string;
  }[];
  readonly targets?: readonly {
    readonly measure: Measure;
    readonly of?: Used['player'];
    readonly over?: Used['player'];
    readonly stat?: 'mean' | 'median' | 'p10' | 'p25' | 'p75' | 'p90';
    readonly screen?: Used['screen'];
    readonly level?: number;
    readonly rule?: string;
    readonly counter?: Used['counter'];
    readonly bound?: 'min' | 'max';
    readonly from?: number;
    readonly to?: number;
    readonly atLeast?: number;
    readonly atMost?: number;
  }[];
}
