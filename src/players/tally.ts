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
}

export const emptyTally = (form: Form): Tally => ({
  sessions: 0,
  runs: new RunRows(),
  fired: new Float64Array(form.rules.length),
  points: new Float64Array(form.rules.length + form.transitions.length),
  taken: new Float64Array(form.transitions.length),
});

/** One row for each run, in the order in which they were played, kept as columns. */
export class RunRows {
  length = 0;
  session = new Float64Array(1024);
  score = new Float64Array(1024);
  /** Milliseconds of session time. */
  duration = new Float64Array(1024);
  /** The ending screen, or -1 for a run that was abandoned. */
  ending = new Int32Array(1024);
  /** The highest level that was reached, from 0. */
  level = new Int32Array(1024);

  push(session: number, score: number, duration: number, ending: number, level: number): void {
    const row = this.length++;
    if (row === this.session.length) this.#grow();
    this.session[row] = session;
    this.score[row] = score;
    this.duration[row] = duration;
    this.ending[row] = ending;
    this.level[row] = level;
  }

  #grow(): void {
    for (const column of ['session', 'score', 'duration'] as const) {
      const wider = new Float64Array(this[column].length * 2);
      wider.set(this[column]);
      this[column] = wider;
    }
    for (const column of ['ending', 'level'] as const) {
      const wider = new Int32Array(this[column].length * 2);
      wider.set(this[column]);
      this[column] = wider;
    }
  }
}
