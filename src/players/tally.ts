import { widened } from '../engine/columns.js';
import type { Form } from '../engine/form.js';

/** What simulated sessions add up to, for one player. Counts are doubles, exact up to 2^53. */
export interface Tally {
  sessions: number;
  readonly runs: RunRows;
  /** How often each rule fired. */
  readonly fired: Float64Array;
  /** What each rule, and past the last rule each transition, added to the score. */
  readonly points: Float64Array;
  /** How often each transition was taken; the last is the first start. */
  readonly taken: Float64Array;
  /** Points of each session, for the targets that ask for shares of them. */
  readonly shares: ShareRows;
}

export function emptyTally(form: Form): Tally {
  const { rules, targets } = form.design;
  const shared = targets.flatMap((target) =>
    target.rule === undefined ? [] : [rules.findIndex((rule) => rule.name === target.rule)],
  );
  return {
    sessions: 0,
    runs: new RunRows(form.screens.length),
    fired: new Float64Array(form.rules.length),
    points: new Float64Array(form.rules.length + form.transitions.length),
    taken: new Float64Array(form.transitions.length),
    shares: new ShareRows([...new Set(shared)], form.rules.length + form.transitions.length),
  };
}

const firstRows = 1024;

/** One row for each run, in the order in which they were played, kept as columns. */
export class RunRows {
  length = 0;
  /** Words of `visited` for each row. */
  readonly words: number;
  session = new Float64Array(firstRows);
  score = new Float64Array(firstRows);
  /** Milliseconds of session time. */
  duration = new Float64Array(firstRows);
  /** The ending screen, or -1 for a run that was abandoned. */
  ending = new Int32Array(firstRows);
  /** The highest level that was reached, from 0. */
  level = new Int32Array(firstRows);
  /** `words` for each row: bit i of word w stands for screen 32 w + i having been entered. */
  visited: Int32Array;

  constructor(screens: number) {
    this.words = Math.ceil(screens / 32);
    this.visited = new Int32Array(firstRows * this.words);
  }

  push(
    session: number,
    score: number,
    duration: number,
    ending: number,
    level: number,
    visited: ArrayLike<number>,
  ): void {
    const row = this.length++;
    if (row === this.session.length) {
      this.session = widened(this.session);
      this.score = widened(this.score);
      this.duration = widened(this.duration);
      this.ending = widened(this.ending);
      this.level = widened(this.level);
      this.visited = widened(this.visited);
    }
    this.session[row] = session;
    this.score[row] = score;
    this.duration[row] = duration;
    this.ending[row] = ending;
    this.level[row] = level;
    for (let word = 0; word < this.words; word++) this.visited[row * this.words + word] = visited[word]!;
  }

  hasVisited(row: number, screen: number): boolean {
    return (this.visited[row * this.words + (screen >> 5)]! & (1 << (screen & 31))) !== 0;
  }
}

/** For each session, the points that some rules made in it, and all points that were made. */
export class ShareRows {
  length = 0;
  /** A row holds one entry for each of `rules`, then one for all points. */
  rows: Float64Array;
  readonly #before: Float64Array;

  constructor(
    readonly rules: readonly number[],
    sources: number,
  ) {
    this.rows = new Float64Array(firstRows * (rules.length + 1));
    this.#before = new Float64Array(sources);
  }

  /** Adds a session, from what the tally of points has grown by since the one before. */
  push(points: Float64Array): void {
    if (this.rules.length === 0) return;
    const width = this.rules.length + 1;
    const start = this.length++ * width;
    if (start === this.rows.length) this.rows = widened(this.rows);
    for (let index = 0; index < this.rules.length; index++) {
      const rule = this.rules[index]!;
      this.rows[start + index] = Math.max(0, points[rule]! - this.#before[rule]!);
    }
    let all = 0;
    for (let source = 0; source < points.length; source++) {
      all += Math.max(0, points[source]! - this.#before[source]!);
      this.#before[source] = points[source]!;
    }
    this.rows[start + width - 1] = all;
  }
}
