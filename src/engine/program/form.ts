// The types of the whole form; what makes them stands in `lower/`.

import type { BinaryOperator, Expression, FunctionName } from '../../design/language/expression.js';
import type { Counter, Design, HudItem, PieceData, Role } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';

/**
 * The intermediate form of a design: names are integers, groups are written out, dials are constants. It is made once
 * by `lower`; what it means is the program that `build/` makes of it.
 */
export interface Form extends GameForm {
  readonly design: Design;
  readonly rules: readonly RuleForm[];
  /** The design's, in file order, then one of our own: the first start. */
  readonly transitions: readonly TransitionForm[];
  readonly screens: readonly ScreenForm[];
  /** What any of the design's players presses on live screens, each with its condition once. */
  readonly acts: readonly ActForm[];
  readonly counters: readonly CounterForm[];
  readonly timers: readonly TimerForm[];
  readonly pieces: readonly PieceForm[];
  readonly levels: readonly LevelForm[];
  readonly events: readonly EventForm[];
  readonly eventIndex: ReadonlyMap<string, number>;
  /** Values that levels give, `[table][level]`. */
  readonly levelTables: readonly (readonly number[])[];
  /** What texts and the HUD show, by the numbers that `TextForm` and `HudForm` have for them. */
  readonly values: readonly Term[];
  /** Lowers one more expression of the same design: a question's. */
  lowerTerm(expression: Expression): Term;
}

/** What a running session needs of a form besides its program: plain data, so that it can be written out ahead of time. */
export interface GameForm {
  readonly title: string;
  /** Digests of the design and of its sections, as in `Design`. */
  readonly fingerprint: string;
  readonly digests: { readonly [section: string]: string };
  readonly cells: Cells;
  readonly counters: readonly CounterInfo[];
  /** The counter that reports call the score, or -1. */
  readonly score: number;
  readonly timers: readonly TimerInfo[];
  /** Clocks of timers that run on chosen screens, by the screens, in the order of their cells. */
  readonly clocks: readonly (readonly number[])[];
  readonly pieces: readonly PieceInfo[];
  readonly levels: readonly LevelInfo[];
  /** Whether the level's number may pass the list; all later ones are like the last. */
  readonly endless: boolean;
  readonly rules: readonly RuleClock[];
  readonly transitions: readonly TransitionInfo[];
  readonly screens: readonly ScreenInfo[];
  readonly events: readonly EventInfo[];
  readonly cues: readonly string[];
  /** Texts of popups. */
  readonly popups: readonly TextForm[];
  readonly hud: readonly HudForm[];
  readonly lists: readonly ListForm[];
  /** Names of the engine's draws; the place that asks is the index. */
  readonly draws: readonly DrawForm[];
}

/** A text in parts: words, values by their number (of the counter at this index, or -1), and the level's name. */
export type TextForm = readonly (
  | string
  | { readonly value: number; readonly counter: number }
  | { readonly levelName: true }
)[];

export interface HudForm {
  readonly show: string | undefined;
  readonly label: string;
  readonly as: HudItem['as'];
  readonly at: string;
  readonly width: number;
  readonly tenths: boolean;
  /** For a prompt, the input that it offers. */
  readonly input: string | undefined;
  /** By index. */
  readonly screens: readonly number[];
  /** The numbers of its condition and of what it shows in `values`; -1: it has none. */
  readonly condition: number;
  readonly value: number;
  readonly text: TextForm;
  /** The counter that it shows, or -1. */
  readonly counter: number;
  /** The full length of a bar, or icons in all; where it is computed, its number in `values`. */
  readonly of: number | { readonly value: number };
}

/** The best values of a counter. */
interface ListForm {
  readonly name: string;
  readonly counter: number;
  /** Names of the events at which the counter's value is entered. */
  readonly events: readonly string[];
  readonly length: number;
}

/** Where each part of the state stands in the cells. Every cell is a double. */
export interface Cells {
  readonly size: number;
  /** Milliseconds of session time. */
  readonly now: number;
  /** Milliseconds spent on live screens. */
  readonly live: number;
  readonly screen: number;
  /** Session time at which the screen was entered. */
  readonly entered: number;
  /** The longest wait on this screen that is over. */
  readonly waited: number;
  /** From 0. */
  readonly level: number;
  /** Live time at which grace is over. */
  readonly graceEnds: number;
  /** First of one cell for each counter. */
  readonly counters: number;
  /** First of one for each timer: the time of its clock at which it is due, Infinity where it does not run. */
  readonly timers: number;
  /** First of one for each piece: how many are present. */
  readonly present: number;
  /** First of one for each spawn of the level: the live time at which it is due. */
  readonly spawnDue: number;
  /** First of one for each spawn of the level: how many it has made. */
  readonly spawnMade: number;
  /**
   * How many pieces of the level's course are behind the player, then to how many a fall goes back, then one cell for each
   * piece of the longest course: which piece stands there, or -1.
   */
  readonly course: number;
  /** Pieces of the longest course. */
  readonly courseLength: number;
  /** First of one for each clock of `clocks`: milliseconds spent on its screens. */
  readonly clocks: number;
  /** First of one for each draw: how often it was asked. */
  readonly asked: number;
}

/** A value, computed without side effects. */
export type Term =
  | { readonly op: 'constant'; readonly value: number }
  /** A dial that code reads where it runs, so that the same code serves all its settings. */
  | { readonly op: 'dial'; readonly dial: number; readonly value: number }
  | { readonly op: 'truth'; readonly value: boolean }
  | { readonly op: 'counter'; readonly counter: number }
  | { readonly op: 'level' | 'lastLevel' | 'course' }
  | { readonly op: 'levelValue'; readonly table: number }
  | { readonly op: 'present' | 'left'; readonly pieces: readonly number[] }
  | { readonly op: 'timer'; readonly timer: number }
  /** Of a search that does not follow what a condition reads: whether it holds is left to a draw. */
  | { readonly op: 'guess'; readonly draw: number }
  | { readonly op: 'negative' | 'not'; readonly of: Term }
  | { readonly op: 'binary'; readonly operator: BinaryOperator; readonly left: Term; readonly right: Term }
  | { readonly op: 'choose'; readonly test: Term; readonly yes: Term; readonly no: Term }
  | { readonly op: 'call'; readonly name: FunctionName; readonly of: readonly Term[] };

/** What is told of a counter, and what it can hold. */
export interface CounterInfo extends Pick<Counter, 'name' | 'kind' | 'words' | 'places'> {
  readonly min: number;
  readonly max: number;
  /** Index in `spans`. */
  readonly keep: number;
  /** For one that is kept forever, how what several sessions have kept becomes one value. */
  readonly merges: Merging | undefined;
}

export interface CounterForm extends CounterInfo {
  readonly start: Term;
  /** Bounds that are computed, in cells, each time the counter is written; `min` and `max` are then the widest that they can be. */
  readonly bounds: { readonly min: Term | undefined; readonly max: Term | undefined };
}

/** A number that is known, or one that is computed. */
export type Amount = number | Term;
/** Milliseconds that are known, or seconds that are computed. */
export type Duration = number | Term;

/** The higher value, the lower, the sum of what each has added, or the one that was written last. */
export type Merging = 'highest' | 'lowest' | 'sum' | 'last';

/** What is told of a timer, and where its clock and its warning stand. */
interface TimerInfo {
  readonly name: string;
  /** The cell of the clock that it runs by: live time, or that of its own screens. */
  readonly clockCell: number;
  readonly event: number;
  /** The cell with the time of its clock at the next warning, Infinity where none is to come; -1: it never warns. */
  readonly warnCell: number;
  readonly warnEvent: number;
}

export interface TimerForm extends TimerInfo {
  readonly repeats: boolean;
  readonly interval: IntervalForm;
  readonly keep: number;
  /** Milliseconds left at which it warns, most first. */
  readonly warn: readonly number[];
}

/**
 * `least + step * k` milliseconds, k drawn evenly from 0 to `choices - 1`; `draw` is -1 where there is no choice. One that is
 * computed takes its least and its choices from terms, in seconds.
 */
export interface IntervalForm {
  readonly least: number;
  readonly step: number;
  readonly choices: number;
  readonly draw: number;
  readonly computed: { readonly seconds: Term; readonly upTo: Term | undefined } | undefined;
}

/** What is told of a piece. */
interface PieceInfo {
  readonly name: string;
  readonly role: Role;
  /** Seconds that it waits for the player, as in `GamePiece`; where they are computed, their number in `values`. */
  readonly lasts: number | { readonly value: number } | undefined;
  readonly data: PieceData;
  readonly place: Place;
  /** Every outcome, the last its failure. */
  readonly outcomes: readonly number[];
}

/** An input that players press on live screens while a condition holds. */
export interface ActForm {
  /** Which it is, by its input and its condition as written. */
  readonly key: string;
  readonly event: number;
  readonly condition: Term | undefined;
}

/** What of meeting a piece is worked out each time; undefined: it is a number. */
export interface ComputedMeeting {
  readonly difficulty: Term | undefined;
  /** In seconds. */
  readonly takes: Term | undefined;
  readonly lasts: Term | undefined;
  readonly lead: IntervalForm['computed'];
  readonly returns: IntervalForm['computed'];
}

export interface PieceForm extends PieceInfo {
  readonly computed: ComputedMeeting;
  readonly appeared: number;
  readonly gone: number;
  /** Without it, no outcome of the piece is taken in. */
  readonly needs: Term | undefined;
  /** The outcome that counts as success, or -1; and the last. */
  readonly success: number;
  /** Whether no outcome takes it off a course. */
  readonly staysOnCourse: boolean;
  readonly failure: number;
  /** The event by which alone players come to its success, or -1. */
  readonly by: number;
  /** Whether skill decides if it comes to its success. */
  readonly isSkilled: boolean;
  /** Outcomes by weight, of those that skill leaves open; undefined where skill decides between success and failure. */
  readonly weighted: readonly { readonly event: number; readonly weight: Term }[] | undefined;
}

/** What is told of a spawn. */
interface SpawnInfo {
  readonly piece: number;
  /** The most that it can make; Infinity where there is no bound. */
  readonly most: number;
}

export interface SpawnForm extends SpawnInfo {
  readonly every: IntervalForm;
  /** Undefined: one interval. */
  readonly first: IntervalForm | undefined;
  /** Infinity where there is no bound. */
  readonly atOnce: Amount;
  readonly total: Amount;
}

/** What is told of a level. */
interface LevelInfo {
  readonly name: string;
  readonly spawns: readonly SpawnInfo[];
  /** Which piece stands where on the course. */
  readonly course: readonly number[];
}

export interface LevelForm extends LevelInfo {
  /** How many of each piece stand there at the start, `[piece]`. */
  readonly placed: readonly Amount[];
  readonly spawns: readonly SpawnForm[];
}

/** What is told of a rule, and where its rest stands. */
interface RuleClock {
  readonly name: string;
  /** The cell with the live time at which its rest is over, or -1. */
  readonly restCell: number;
  readonly place: Place;
}

export interface RuleForm extends RuleClock {
  readonly condition: Term | undefined;
  /** 0: none. */
  readonly rest: Duration;
  /**
   * For a condition rule, the cell that remembers whether its condition was true; for one that counts multiples, the
   * highest that was passed; or -1.
   */
  readonly memoryCell: number;
  /** The cell that is 1 once it has fired as often as it may, or -1; and the fresh start that clears it. */
  readonly onceCell: number;
  readonly onceSpan: number;
  /** A draw below it fires the rule; 2^32: no draw is made. */
  readonly threshold: number;
  /** The place in `draws` that is asked. */
  readonly draw: number;
  readonly passes: { readonly counter: number; readonly step: number } | undefined;
  /** The shortest fresh start that makes it forget, as an index in `spans`. */
  readonly forgets: number;
  readonly effects: readonly EffectForm[];
}

/** What is told of a transition. */
interface TransitionInfo {
  readonly from: number;
  /** -1: back to where the screen was entered from. */
  readonly to: number;
  /** Where it stands in the file's list, as in `Transition`; -1: the first start. */
  readonly index: number;
  /** Index in `spans`, or -1. */
  readonly fresh: number;
  readonly place: Place;
}

/** In the place of a level to go to: it stays the same; it is the next. */
export const sameLevel = -1;
export const nextLevel = -2;

export interface TransitionForm extends TransitionInfo {
  readonly condition: Term | undefined;
  readonly wait: Duration;
  /** The level to go to, from 0; or `sameLevel`, or `nextLevel`. */
  readonly level: number;
  /** True where the pieces and spawn clocks of a level begin anew. */
  readonly respawns: boolean;
  readonly grace: Duration;
  readonly effects: readonly EffectForm[];
}

export interface WriteForm {
  readonly counter: number;
  readonly adds: boolean;
  readonly amount: Term;
  /** Whether the amount may be something else than a whole number. */
  readonly rounds: boolean;
}

export type EffectForm =
  | { readonly op: 'write'; readonly writes: readonly WriteForm[] }
  | { readonly op: 'spawn'; readonly piece: number; readonly count: Term }
  /** Without a count, all that is present. */
  | {
      readonly op: 'clear';
      readonly piece: number;
      readonly count: Term | undefined;
      readonly isOldest: boolean;
    }
  /** Seconds more or less for a timer that runs, or seconds from now for one that may not. */
  | { readonly op: 'timerWrite'; readonly timer: number; readonly adds: boolean; readonly amount: Term }
  | { readonly op: 'timerStart' | 'timerStop'; readonly timer: number }
  | {
      readonly op: 'become';
      readonly from: number;
      readonly to: number;
      readonly count: Term | undefined;
      /** Whether those there longest are meant first, and not the one met last. */
      readonly isOldest: boolean;
    }
  | { readonly op: 'emit'; readonly event: number }
  | { readonly op: 'popup'; readonly popup: number }
  | { readonly op: 'grace'; readonly duration: Duration }
  | { readonly op: 'cue'; readonly cue: number };

/** What one event sets off on one screen. */
export interface Handler {
  readonly rules: readonly number[];
  readonly transitions: readonly number[];
  /** Whether nothing that it can change is read by a condition of the screen, so that none need be looked at again. */
  readonly isQuiet: boolean;
}

/** What is shown of a screen, and what a session asks of it. */
interface ScreenInfo {
  readonly name: string;
  readonly text: TextForm;
  readonly live: boolean;
  /** By event. An event without one sets nothing off here. */
  readonly handlers: { has(event: number): boolean };
  /**
   * For a screen that leads back, the first of three cells about the screen it was entered from: which it is, how long it
   * had lasted, and which of its waits were over; else -1.
   */
  readonly backCell: number;
}

export interface ScreenForm extends ScreenInfo {
  readonly ending: boolean;
  readonly handlers: ReadonlyMap<number, Handler>;
  /** Timers that run here. */
  readonly timers: readonly number[];
  /** The different waits of the transitions from here, shortest first, in milliseconds; and those that are computed, in seconds. */
  readonly waits: readonly number[];
  readonly computedWaits: readonly Term[];
  /** Whether a condition here reads how many pieces are present or still to come. */
  readonly watchesPresence: boolean;
  readonly conditionRules: readonly number[];
  /** Transitions without a `when`. */
  readonly conditionTransitions: readonly number[];
  /** The event of entering it, or -1 where nothing hears it. */
  readonly enteredEvent: number;
}

/** What is told of an event. */
interface EventInfo {
  readonly name: string;
  readonly kind: 'outcome' | 'appeared' | 'gone' | 'timer' | 'entered' | 'input' | 'own';
  /** For an event of the design's own, the first rule or transition that emits it; for a screen's, the first that enters it. */
  readonly origin: Place | undefined;
}

export interface EventForm extends EventInfo {
  /** The piece of an outcome or an appearance, else -1. */
  readonly piece: number;
  /** How the number present changes: 1, 0 or -1. */
  readonly presence: number;
  /** True for a hit, which grace turns away. */
  readonly turnedAway: boolean;
  /** Whether any rule or transition on any screen hears it. */
  readonly isHeard: boolean;
  readonly timer: number;
}

/** A place that asks for random numbers: its name, and the two words that stand for the name in every draw. */
export interface DrawForm {
  readonly name: string;
  readonly low: number;
  readonly high: number;
}

/** Milliseconds that a timer can be away, whatever is added to it: a day. */
export const longestTimer = 86_400_000;
/** Pieces that one effect can spawn. */
export const mostSpawned = 1000;
/** Pieces of one kind that may be present at once. */
export const mostPresent = 10_000;
/** Steps of one chain of rules and transitions. */
export const mostChained = 1000;

/** The level that the session is on; the last of the list for all levels past it. */
export const levelOf = <Level>(
  { levels, cells: at }: { readonly levels: readonly Level[]; readonly cells: Cells },
  cells: Float64Array,
): Level => levels[Math.min(cells[at.level]!, levels.length - 1)]!;
