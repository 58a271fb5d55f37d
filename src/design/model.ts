// The types of the whole definition, section by section.

import type { Expression } from './language/expression.js';
import type { Measure } from './measures.js';
import type { Place } from './problems/problem.js';

/** How long something lasts before a fresh start puts it back, shortest first. */
export const spans = ['life', 'level', 'run', 'session', 'forever'] as const;
export type Keep = (typeof spans)[number];

export type Role = 'collectible' | 'hazard' | 'foe' | 'checkpoint' | 'exit' | 'prop';

interface RoleTraits {
  readonly meets: 'sought' | 'arrives' | 'never';
  readonly success: string;
  readonly failure: string;
  /** Outcomes that leave the piece where it is. */
  readonly stays: readonly string[];
}

/** How a simulated player meets the pieces of a role, and how that can end. */
export const roles = {
  collectible: { meets: 'sought', success: 'taken', failure: 'missed', stays: [] },
  hazard: { meets: 'arrives', success: 'avoided', failure: 'hit', stays: [] },
  foe: { meets: 'arrives', success: 'beaten', failure: 'hit', stays: [] },
  checkpoint: { meets: 'sought', success: 'reached', failure: 'missed', stays: ['reached'] },
  exit: { meets: 'sought', success: 'reached', failure: 'missed', stays: [] },
  prop: { meets: 'never', success: 'passed', failure: 'missed', stays: [] },
} as const satisfies { readonly [Name in Role]: RoleTraits };

export const traitsOf = (role: Role): RoleTraits => roles[role];

/** The time between two happenings, in whole milliseconds; a range is drawn from the design's grid. */
export interface Interval {
  readonly least: number;
  readonly most: number;
  readonly grid: number;
}

/** The same, worked out each time: seconds, rounded to the millisecond, at least one and at most a day. */
export interface ComputedInterval {
  readonly seconds: Expression;
  /** The longest of a range; undefined: no choice. */
  readonly upTo: Expression | undefined;
  readonly grid: number;
}

interface Named {
  readonly name: string;
  readonly place: Place;
}

export interface Dial extends Named {
  readonly value: number;
  readonly from: number;
  readonly to: number;
  /** What its settings lie apart, from `from` on; undefined: as fine as tuning likes. */
  readonly step: number | undefined;
}

/** A number as it stands; or an expression, worked out each time it is asked for. */
export type Computed = number | Expression;

/** What a counter holds, as a designer writes it. */
export type Value = number | string | boolean;

export interface Counter extends Named {
  readonly kind: 'number' | 'flag' | 'words';
  /** The words that it can hold; empty for a number or a flag. */
  readonly words: readonly string[];
  /** Decimals that a number keeps. */
  readonly places: number;
  /** Worked out at every fresh start, counters in the order of the file. */
  readonly start: Expression;
  /** -2^53 where the design gives none; an expression reads counters above this one. */
  readonly min: Computed;
  /** 2^53 where the design gives none; an expression reads counters above this one. */
  readonly max: Computed;
  readonly keep: Keep;
}

export interface Timer extends Named {
  readonly kind: 'countdown' | 'every' | 'after';
  readonly interval: Interval | ComputedInterval;
  /** On which it runs; on all others it stands still. */
  readonly screens: readonly string[];
  readonly keep: Keep;
  /** Milliseconds left at which a countdown fires `name.warned`, most first. */
  readonly warn: readonly number[];
  /** The event it fires: `name.ended`, or `name.ticked` for one that repeats. */
  readonly event: string;
}

interface Outcome {
  readonly name: string;
  /** How likely a simulated player is to end so, against the other outcomes; undefined: skill decides. */
  readonly weight: Expression | undefined;
}

/** What a design says of a piece for the game alone. */
export type PieceData = Readonly<Record<string, Value>>;

export interface Piece extends Named {
  readonly role: Role;
  /** Every name that a rule may use for it: its own, its groups', its role's. */
  readonly answersTo: readonly string[];
  readonly meets: 'sought' | 'arrives' | 'never';
  /** In logits, on the scale of the players' skill; held from -20 to 20 where it is computed. */
  readonly difficulty: Computed;
  /** Milliseconds that one attempt takes a player of pace 1; an expression gives seconds. */
  readonly takes: Computed;
  /** Milliseconds that it waits for the player; undefined: until it is met. An expression gives seconds. */
  readonly lasts: Computed | undefined;
  /** From its appearance to its arrival. */
  readonly lead: Interval | ComputedInterval;
  /** From one arrival to the next, where it stays; undefined: it does not come again. */
  readonly returns: Interval | ComputedInterval | undefined;
  /** Whether it takes several strikes, each an outcome of its own that leaves it there. */
  readonly hasHealth: boolean;
  /** Successes that it takes before the first outcome. */
  readonly hits: number;
  /** Whether a failed attempt is no outcome, and the player may try again until it expires. */
  readonly again: boolean;
  /** How meeting it can end; the last is what becomes of it when nobody comes. */
  readonly outcomes: readonly Outcome[];
  /** The event, an input or one of the design's own, that players must cause for its success; undefined: they meet it. */
  readonly by: string | undefined;
  /** The outcome that counts as success; undefined: none of its own does. */
  readonly success: string | undefined;
  /** Whether skill decides its success; else the weights of its outcomes do. */
  readonly isSkilled: boolean;
  /** Outcomes that take it away. */
  readonly ends: readonly string[];
  /** Whether it stays where it is on a course, whatever its outcome: a hazard that names no `ends`. */
  readonly staysOnCourse: boolean;
  /** Without it, nothing can happen to the piece. */
  readonly needs: Expression | undefined;
  /** What the game wants to know of it. */
  readonly data: PieceData;
}

export interface Spawn {
  readonly piece: string;
  readonly every: Interval | ComputedInterval;
  /** Live time until the first; undefined: one interval. */
  readonly first: Interval | ComputedInterval | undefined;
  readonly atOnce: Computed | undefined;
  readonly total: Computed | undefined;
  readonly place: Place;
}

export interface Level {
  readonly name: string;
  /** Numbers, or formulas of the level's own number. */
  readonly values: ReadonlyMap<string, Expression>;
  /** Whether levels go on from here without end, all like this one but for its formulas. */
  readonly endless: boolean;
  readonly placed: readonly { readonly piece: string; readonly count: Computed }[];
  readonly spawns: readonly Spawn[];
  /** Pieces in the order in which they are met. */
  readonly course: readonly string[];
  readonly place: Place;
}

/** A counter, or a timer in seconds, and the amount for it. */
export interface AmountWrite {
  readonly name: string;
  readonly amount: Expression;
}

/** Which of several pieces are meant first: the one that was met last, and of a rule's event only that; or the one there longest. */
export type Which = 'last' | 'met' | 'oldest';

export type Effect =
  | {
      readonly kind: 'add' | 'set';
      readonly writes: readonly AmountWrite[];
      readonly timers: readonly AmountWrite[];
    }
  /** Always the first of its list: where a counter cannot afford its amount, nothing of the list happens. */
  | { readonly kind: 'pay'; readonly writes: readonly AmountWrite[] }
  /** Each count is rounded, and held from 0 to 1,000. */
  | { readonly kind: 'spawn'; readonly pieces: readonly { piece: string; count: Expression }[] }
  /** All of some pieces that are present, and a number of others. */
  | {
      readonly kind: 'clear';
      readonly pieces: readonly string[];
      readonly some: readonly { piece: string; count: Expression; which: Which }[];
    }
  /** Without a count, all that is present. */
  | {
      readonly kind: 'become';
      readonly changes: readonly {
        from: string;
        to: string;
        count: Expression | undefined;
        which: Which;
      }[];
    }
  | { readonly kind: 'start' | 'stop'; readonly timers: readonly string[] }
  | { readonly kind: 'emit'; readonly name: string }
  | { readonly kind: 'popup'; readonly text: Template }
  /** Milliseconds, or an expression of seconds. */
  | { readonly kind: 'grace'; readonly duration: Computed }
  | { readonly kind: 'cue'; readonly cue: string };

export interface Rule {
  /** Its name, or what it is about where it has none. */
  readonly name: string;
  /** The `when` as written, for reports. */
  readonly heard: readonly string[];
  /** The events that it hears, groups written out; empty for a condition rule. */
  readonly events: readonly string[];
  readonly condition: Expression | undefined;
  readonly screens: readonly string[];
  /** Milliseconds of live time in which it stays silent after it fired; 0: none. An expression gives seconds. */
  readonly rest: Computed;
  /** From 0 to 1, asked each time all else holds. */
  readonly chance: number;
  /** It fires at most once until a fresh start of this span; undefined: any number of times. */
  readonly once: Keep | undefined;
  /** It fires once for each multiple of a step that a counter passes; then it hears no event and has no condition. */
  readonly passes: { readonly counter: string; readonly step: number } | undefined;
  readonly effects: readonly Effect[];
  /** The piece whose health it keeps; undefined for a rule that is written. */
  readonly healthOf: string | undefined;
  readonly place: Place;
}

/** A text with values in it: plain parts, expressions, and the level's name. */
export type Template = readonly (string | Expression | { readonly kind: 'levelName' })[];

export interface Screen extends Named {
  readonly live: boolean;
  readonly ending: 'won' | 'lost' | 'over' | undefined;
  readonly text: Template;
}

export interface Transition {
  readonly from: string;
  /** A screen, or `back`: the screen that `from` was entered from. */
  readonly to: string;
  /** Where it stands in the file's list, from 0; transitions from several screens share it. */
  readonly index: number;
  readonly heard: readonly string[];
  readonly events: readonly string[];
  readonly condition: Expression | undefined;
  /** Milliseconds on the screen before it may go; 0: none. An expression gives seconds, and reads dials and what belongs to the level. */
  readonly wait: Computed;
  readonly fresh: Keep | undefined;
  readonly level: 'next' | 'first' | number | undefined;
  /** Milliseconds; 0: none. An expression gives seconds. */
  readonly grace: Computed;
  readonly effects: readonly Effect[];
  readonly place: Place;
}

/** Where an item of the HUD can stand on the screen, row by row. */
export const hudPlaces = [
  'top-left',
  'top',
  'top-right',
  'left',
  'middle',
  'right',
  'bottom-left',
  'bottom',
  'bottom-right',
] as const;

export interface HudItem {
  readonly show: string | undefined;
  readonly label: string | undefined;
  readonly as: 'digits' | 'number' | 'icons' | 'bar' | 'clock' | 'text';
  readonly width: number;
  readonly text: Template;
  readonly at: string;
  /** Shown only while it holds. */
  readonly condition: Expression | undefined;
  /** Whether a clock shows tenths of a second. */
  readonly tenths: boolean;
  /** For a prompt, the input that it offers. */
  readonly input: string | undefined;
  readonly screens: readonly string[];
  readonly place: Place;
}

/** The best values of a counter, kept between sessions. */
export interface BestList extends Named {
  readonly of: string;
  /** The events at which the counter's value is entered. */
  readonly events: readonly string[];
  readonly length: number;
}

/** An input that a player presses on live screens, again and again. */
export interface Act {
  readonly input: string;
  /** Milliseconds of live time from one press to the next, for a player of pace 1. */
  readonly every: number;
  readonly condition: Expression | undefined;
  /** Milliseconds by which a press puts off what the player attends to. */
  readonly takes: number;
}

/** While a condition holds, a player takes other time and has another chance to succeed. */
interface Caution {
  readonly condition: Expression;
  /** A factor on the time of attempts and from one press to the next. */
  readonly pace: number;
  /** Added to its skill, in logits. */
  readonly skill: number;
}

export interface Player extends Named {
  /** In logits; an expression reads nothing but dials. */
  readonly skill: Computed;
  /** A factor on the time that attempts take. */
  readonly pace: number;
  readonly runs: number;
  /** Milliseconds until it leaves, whatever happens. */
  readonly patience: number;
  /** What skill grows by from run to run: in its run r, skill is higher by this times the natural logarithm of r. */
  readonly learning: number;
  /** What it becomes faster by: in its run r, its pace is divided by r to this power. */
  readonly paceLearning: number;
  /** What skill grows by within a run: after n attempts, it is higher by this times the natural logarithm of 1 + n. */
  readonly practice: number;
  /** How much the skill of people who play like this differs from one to the next, in logits: the standard deviation. */
  readonly spread: number;
  /** The same of the natural logarithm of their pace. */
  readonly paceSpread: number;
  readonly caution: Caution | undefined;
  /** The chance that it leaves after a run that is lost. */
  readonly quits: number;
  /** Factors on the time of an attempt; each attempt draws a time between them, on a grid given in milliseconds. */
  readonly timing: { readonly least: number; readonly most: number; readonly grid: number };
  /** Milliseconds that it looks at a screen that is not live before it sends an input. */
  readonly thinks: number;
  /** Pieces with how much it seeks them, the most first; 0: it leaves them alone. 1 for those that are not named. */
  readonly style: ReadonlyMap<string, number>;
  /** What it presses on live screens. */
  readonly acts: readonly Act[];
  /** For screens, inputs with how often each is chosen; any of those heard as often where a screen is not named. */
  readonly inputs: ReadonlyMap<string, ReadonlyMap<string, number>>;
}

/** Something that a test looks at. */
export type Check = {
  /** As the test names it, such as `score`, `level.quota`, `hud.lives` or `cues`. */
  readonly what: string;
} & (
  | { readonly kind: 'value' | 'levelValue'; readonly name: string; readonly expected: Value | ValueRange }
  /** The text of the screen. */
  | { readonly kind: 'text'; readonly expected: string }
  /** What a HUD item shows, by what it shows or by its label; false: it is not there. */
  | { readonly kind: 'hud'; readonly name: string; readonly expected: string | false }
  /** All of these since the last time that was looked; none of any where there are none. */
  | { readonly kind: 'cues' | 'popups'; readonly expected: readonly string[] }
);

interface ValueRange {
  readonly atLeast: number;
  readonly atMost: number;
}

export type TestStep =
  | {
      readonly kind: 'send';
      readonly name: string;
      readonly times: number;
      /** The id of the piece that is touched, so that it counts once until that ends; undefined: none. */
      readonly contact: string | undefined;
    }
  | { readonly kind: 'end'; readonly contact: string }
  | { readonly kind: 'wait'; readonly duration: number }
  | { readonly kind: 'expect'; readonly checks: readonly Check[] }
  /** So long, in milliseconds, at no moment all of it holds. */
  | { readonly kind: 'never'; readonly duration: number; readonly checks: readonly Check[] };

export interface DesignTest {
  readonly name: string;
  readonly given: ReadonlyMap<string, Value>;
  readonly seed: number;
  readonly spawns: boolean;
  readonly steps: readonly TestStep[];
  /** What at no moment of it may hold, all of it together; none: nothing is forbidden. */
  readonly never: readonly Check[];
  readonly place: Place;
}

export interface Target {
  readonly measure: Measure;
  /** A player's name; undefined: every player. */
  readonly of: string | undefined;
  /** The player that is to be beaten. */
  readonly over: string | undefined;
  readonly stat: 'mean' | 'median' | 'p10' | 'p25' | 'p75' | 'p90';
  readonly screen: string | undefined;
  /** The number of a level, from 1. */
  readonly level: number | undefined;
  readonly rule: string | undefined;
  readonly counter: string | undefined;
  readonly bound: 'min' | 'max';
  readonly from: number;
  readonly to: number;
  readonly place: Place;
}

/** A finding that the designer means to be so. */
export interface Acceptance {
  readonly finding: string;
  /** A word of its message; undefined: all of the code. */
  readonly about: string | undefined;
  readonly because: string;
  readonly place: Place;
}

/** A checked design: every name in it exists and every value is in its range. */
export interface Design {
  readonly file: string;
  readonly title: string;
  /** The counter that reports call the score; undefined where the design has none. */
  readonly score: string | undefined;
  /** The counter that reports call the lives; undefined where the design has none. */
  readonly lives: string | undefined;
  readonly dials: readonly Dial[];
  /** The design that it is a setting of, one of many: code that is written for it serves the others too. */
  readonly looseOf: Design | undefined;
  readonly counters: readonly Counter[];
  readonly timers: readonly Timer[];
  readonly pieces: readonly Piece[];
  readonly levels: readonly Level[];
  readonly rules: readonly Rule[];
  readonly screens: readonly Screen[];
  readonly transitions: readonly Transition[];
  readonly hud: readonly HudItem[];
  readonly lists: readonly BestList[];
  readonly players: readonly Player[];
  readonly tests: readonly DesignTest[];
  readonly targets: readonly Target[];
  readonly accepted: readonly Acceptance[];
  /** Every event that can happen, concrete: outcomes, appearances, timers, entered screens, inputs. */
  readonly events: readonly string[];
  /** A digest of the definitions that give a session its meaning; comments and layout do not count. */
  readonly fingerprint: string;
  /** The same for each section by itself, so that what has changed can be named. */
  readonly digests: { readonly [section: string]: string };
  /** The sections as they were written, as plain data. */
  readonly written: { readonly [section: string]: unknown };
}
