import { largestNumber } from '../design/limits.js';
import type { Design } from '../design/model.js';
import { widened } from '../engine/program/columns.js';
import type { Form } from '../engine/program/form.js';

/** Columns of one run, by index. Times are milliseconds since the run began; -1: never. */
export const runColumns = {
  score: 0,
  /** How long it lasted. */
  duration: 1,
  /** The ending screen; -1: the player left before. */
  ending: 2,
  /** The transition that led there; -1: none. */
  cause: 3,
  /** The highest level that was reached, from 0. */
  level: 4,
  /** What the counter of lives was at its end. */
  lives: 5,
  firstPoint: 6,
  firstLoss: 7,
  /** The longest time in it without a point. */
  drySpell: 8,
  /** The most successes in a row at meeting pieces. */
  streak: 9,
  /** Milliseconds of session time at which it began. */
  began: 10,
} as const;
export const runWidth = 11;

/** What stands in the columns of a run, one after the other. */
export const rowOf = <Cell>(run: Readonly<Record<keyof typeof runColumns, Cell>>): Cell[] =>
  (Object.keys(runColumns) as (keyof typeof runColumns)[]).map((column) => run[column]);

/** Milliseconds of a run for which points are added up; those later than the last part count in it. */
export const paceStep = 10_000;
export const paceParts = 120;

/** Levels that are counted separately; those beyond count as the last. */
const mostLevels = 64;

/** How many levels of a design are counted separately. */
export const levelsToldApart = ({ endless, levels }: Form): number =>
  endless ? mostLevels : Math.min(mostLevels, levels.length);

/** A bound of a counter that play can sit at. */
export interface Bound {
  readonly counter: number;
  readonly value: number;
}

export const boundsOf = (design: Design): Bound[] =>
  design.counters.flatMap(({ kind, min, max, places }, counter) =>
    kind === 'flag' || kind === 'words'
      ? []
      : [min, max].flatMap((bound) =>
          typeof bound === 'number' && Math.abs(bound) < largestNumber
            ? [{ counter, value: Math.round(bound * 10 ** places) }]
            : [],
        ),
  );

/** The counter of lives, or -1. */
export const livesOf = (design: Design): number =>
  design.counters.findIndex(({ name }) => name === design.lives);

/** Columns that a program counts in. */
export type LogColumn = 'fired' | 'points' | 'taken' | 'pace' | 'held' | 'tries' | 'screensEntered';

/** What happens in the session that is played: filled in by the program that plays it, taken in by the tally when it is over. */
export class SessionLog {
  session = 0;
  /** Milliseconds that it lasted, and of them on live screens while a run was under way. */
  duration = 0;
  playTime = 0;
  /** How often each rule fired. */
  readonly fired: Float64Array;
  /** What each rule, and past the last rule each transition, added to the score. */
  readonly points: Float64Array;
  /** How often each transition was taken; the last is the first start. */
  readonly taken: Float64Array;
  /** Points of all its runs in each part of ten seconds from their start; what comes as one part ends is its own. */
  readonly pace: Float64Array;
  /** Milliseconds of play for which a counter sat at each of `boundsOf`. */
  readonly held: Float64Array;
  /** How often each level was played to an end: the run ended, the level did, or it was started again. */
  readonly tries: Float64Array;
  /** Runs that are over, and their columns, `runWidth` to a run. */
  runs = 0;
  columns: Float64Array = new Float64Array(8 * runWidth);
  /** `words` for each run: bit i of word w stands for screen 32 w + i having been entered. */
  readonly words: number;
  visited: Int32Array;
  /** The same of the run that is played, a whole number of 32 bits each. */
  readonly screensEntered: Float64Array;

  /** @param columns where a program keeps what it counts, instead of in columns of the log's own */
  constructor(form: Form, columns?: (name: LogColumn) => Float64Array) {
    const column = (name: LogColumn, length: number): Float64Array =>
      columns?.(name) ?? new Float64Array(length);
    this.words = Math.ceil(form.screens.length / 32);
    this.fired = column('fired', form.rules.length);
    this.points = column('points', form.rules.length + form.transitions.length);
    this.taken = column('taken', form.transitions.length);
    this.pace = column('pace', paceParts);
    this.held = column('held', boundsOf(form.design).length);
    this.tries = column('tries', levelsToldApart(form));
    this.screensEntered = column('screensEntered', this.words);
    this.visited = new Int32Array(8 * this.words);
  }

  begin(session: number): void {
    this.session = session;
    this.duration = 0;
    this.playTime = 0;
    this.runs = 0;
    this.fired.fill(0);
    this.points.fill(0);
    this.taken.fill(0);
    this.pace.fill(0);
    this.held.fill(0);
    this.tries.fill(0);
  }

  /** What became of a run, in the order of `runColumns`; one by one, since an array for each run is slower. */
  endRun(
    score: number,
    duration: number,
    ending: number,
    cause: number,
    level: number,
    lives: number,
    firstPoint: number,
    firstLoss: number,
    drySpell: number,
    streak: number,
    began: number,
  ): void {
    const { words } = this;
    const at = this.runs * runWidth;
    if (at === this.columns.length) {
      this.columns = widened(this.columns);
      this.visited = widened(this.visited);
    }
    const { columns } = this;
    columns[at + runColumns.score] = score;
    columns[at + runColumns.duration] = duration;
    columns[at + runColumns.ending] = ending;
    columns[at + runColumns.cause] = cause;
    columns[at + runColumns.level] = level;
    columns[at + runColumns.lives] = lives;
    columns[at + runColumns.firstPoint] = firstPoint;
    columns[at + runColumns.firstLoss] = firstLoss;
    columns[at + runColumns.drySpell] = drySpell;
    columns[at + runColumns.streak] = streak;
    columns[at + runColumns.began] = began;
    for (let word = 0; word < words; word++)
      this.visited[this.runs * words + word] = this.screensEntered[word]!;
    this.runs++;
  }

  /** Adds one for each screen that a run entered: bit by bit, since most screens were not. */
  countVisited(run: number, counts: Float64Array): void {
    for (let word = 0; word < this.words; word++)
      for (let bits = this.visited[run * this.words + word]!; bits !== 0; bits &= bits - 1)
        counts[32 * word + 31 - Math.clz32(bits & -bits)]!++;
  }

  /** The session is over. */
  end(duration: number, playTime: number): void {
    this.duration = duration;
    this.playTime = playTime;
  }
}
