import type { Form } from '../../engine/program/form.js';
import { levelsToldApart } from '../../measure/session-log.js';
import type { EndedRun, SteppedPlay } from './stepped-play.js';

/** What the runs of sessions add up to, each as far as it is likely: expected numbers for one session. */
export class RunSums {
  /** Runs that are over. */
  runs = 0;
  /** By score and by milliseconds, runs that ended so. */
  readonly scores = new Map<number, number>();
  readonly durations = new Map<number, number>();
  /** By screen, and last those that the player left. */
  readonly endings: Float64Array;
  readonly causes: Float64Array;
  /** By level, from 0: runs that came to it, and that ended there without a win. */
  readonly reached: Float64Array;
  readonly failed: Float64Array;
  /** Runs that entered a screen. */
  readonly entered: Float64Array;
  /** What was counted of all sessions, those that are still going on with it. */
  readonly fired: Float64Array;
  readonly points: Float64Array;
  readonly #won: readonly boolean[];

  constructor(form: Form) {
    const { screens, transitions, rules, design } = form;
    const levels = levelsToldApart(form);
    this.endings = new Float64Array(screens.length + 1);
    this.causes = new Float64Array(transitions.length);
    this.reached = new Float64Array(levels);
    this.failed = new Float64Array(levels);
    this.entered = new Float64Array(screens.length);
    this.fired = new Float64Array(rules.length);
    this.points = new Float64Array(rules.length + transitions.length);
    this.#won = design.screens.map(({ ending }) => ending === 'won');
  }

  /** What a turn noted, that is gone with some chance. */
  count({ fired, points }: SteppedPlay['log'], chance: number): void {
    addAll(this.fired, fired, chance);
    addAll(this.points, points, chance);
  }

  /**
   * A run that ended in a turn.
   *
   * @param scores how likely each score was before the turn; `chance` in all
   * @param ofWay how likely the turn goes so
   */
  countRun(run: EndedRun, scores: ReadonlyMap<number, number>, ofWay: number, chance: number): void {
    const all = ofWay * chance;
    this.runs += all;
    if (run.isAdded)
      for (const [before, each] of scores) addTo(this.scores, before + run.score, each * ofWay);
    else addTo(this.scores, run.score, all);
    addTo(this.durations, run.duration, all);
    this.endings[run.ending < 0 ? this.endings.length - 1 : run.ending]! += all;
    if (run.cause >= 0) this.causes[run.cause]! += all;
    const level = Math.min(run.level, this.reached.length - 1);
    for (let passed = 0; passed <= level; passed++) this.reached[passed]! += all;
    if (run.ending < 0 || !this.#won[run.ending]) this.failed[level]! += all;
    for (const screen of run.screens) this.entered[screen]! += all;
  }

  /** Adds what another sum adds up to, as far as it is likely. */
  add(other: RunSums, chance: number): void {
    this.runs += other.runs * chance;
    for (const name of ['scores', 'durations'] as const)
      for (const [value, each] of other[name]) addTo(this[name], value, each * chance);
    for (const name of columnNames) addAll(this[name], other[name], chance);
  }
}

const columnNames = ['endings', 'causes', 'reached', 'failed', 'entered', 'fired', 'points'] as const;

function addTo(sums: Map<number, number>, value: number, chance: number): void {
  sums.set(value, (sums.get(value) ?? 0) + chance);
}

function addAll(sums: Float64Array, values: Float64Array, chance: number): void {
  for (let at = 0; at < sums.length; at++) if (values[at] !== 0) sums[at]! += values[at]! * chance;
}
