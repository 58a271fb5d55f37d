// One class: all that sessions add up to, and how it is merged and written as data.

import type { Form } from '../engine/program/form.js';
import { ExactSums } from './exact-sums.js';
import { type GroupedData, GroupedValues } from './grouped-values.js';
import { type Fineness, fineness, Histogram, type SpreadData } from './histogram.js';
import {
  boundsOf,
  levelsToldApart,
  livesOf,
  paceParts,
  paceStep,
  runColumns,
  runWidth,
  type SessionLog,
} from './session-log.js';
import { RatioSums, RunShares } from './shares.js';

/** What is kept as a distribution: over runs, but for the last, which is over sessions. Times are in milliseconds. */
const spreadNames = [
  'score',
  'runTime',
  'lives',
  'firstPoint',
  'firstLoss',
  'drySpell',
  'streak',
  'sessionTime',
] as const;

export type SpreadName = (typeof spreadNames)[number];

const ofRuns = [
  { name: 'score', column: runColumns.score, isTime: false },
  { name: 'runTime', column: runColumns.duration, isTime: true },
  { name: 'lives', column: runColumns.lives, isTime: false },
  { name: 'firstPoint', column: runColumns.firstPoint, isTime: true },
  { name: 'firstLoss', column: runColumns.firstLoss, isTime: true },
  { name: 'drySpell', column: runColumns.drySpell, isTime: true },
  { name: 'streak', column: runColumns.streak, isTime: false },
] as const;

const finenessOf = (name: SpreadName): Fineness => {
  const isValue = ofRuns.some((each) => each.name === name && !each.isTime);
  return isValue ? fineness.values : fineness.times;
};

/**
 * What simulated sessions add up to, for one player. It takes as much room for a million sessions as for a thousand, and all of it is
 * sums of whole numbers, so that parts can be played anywhere and merged in any order.
 */
export class Tally {
  sessions = 0;
  runs = 0;
  runsSquared = 0;
  /** How often each rule fired, and in how many sessions it did. */
  readonly fired: Float64Array;
  readonly firedIn: Float64Array;
  /** How often each transition was taken, and in how many sessions it was; the last is the first start. */
  readonly taken: Float64Array;
  readonly takenIn: Float64Array;
  /** What each rule, and past the last rule each transition, added to the score, losses included. */
  readonly points: ExactSums;
  /** What each of them gained in a session, of all that was gained in it. */
  readonly gains: RatioSums;
  readonly spreads: { readonly [Name in SpreadName]: Histogram };
  /** Runs that entered each screen. */
  readonly visits: RunShares;
  /** Runs that ended on each screen; the last entry: that the player left before an ending. */
  readonly endings: RunShares;
  /** Runs that each transition brought to an ending. */
  readonly causes: RunShares;
  /** Runs that reached each level, and runs of which it was the last and that were not won. */
  readonly reached: RunShares;
  readonly failed: RunShares;
  /** Sums over sessions of runs that failed at a level by runs that reached it. */
  readonly failedReached: Float64Array;
  /** How often each level was tried, of the runs that came to it. */
  readonly tries: RatioSums;
  /** Points of each ten seconds of a run, by how many milliseconds of them all runs lasted together. */
  readonly pace = new RatioSums(paceParts);
  /** Runs that came into each of these parts. */
  readonly lasting = new Float64Array(paceParts);
  /** Scores of runs in groups of sessions. */
  readonly scores = new GroupedValues();
  /** Scores of all runs of a session, by how long these lasted in milliseconds. */
  readonly rate = new RatioSums(1);
  /** Milliseconds at each bound of a counter, of those of play. */
  readonly held: RatioSums;
  /** Called with the log of each session that is taken in. */
  onSession: ((log: SessionLog) => void) | undefined;
  readonly #won: readonly boolean[];
  readonly #hasScore: boolean;
  readonly #hasLives: boolean;
  #values: Float64Array = new Float64Array(8);

  constructor(form: Form) {
    const { design, rules, transitions, screens } = form;
    const sources = rules.length + transitions.length;
    this.fired = new Float64Array(rules.length);
    this.firedIn = new Float64Array(rules.length);
    this.taken = new Float64Array(transitions.length);
    this.takenIn = new Float64Array(transitions.length);
    this.points = new ExactSums(sources);
    this.gains = new RatioSums(sources);
    this.spreads = Object.fromEntries(
      spreadNames.map((name) => [name, new Histogram(finenessOf(name))]),
    ) as Record<SpreadName, Histogram>;
    this.visits = new RunShares(screens.length);
    this.endings = new RunShares(screens.length + 1);
    this.causes = new RunShares(transitions.length);
    const levels = levelsToldApart(form);
    this.reached = new RunShares(levels);
    this.failed = new RunShares(levels);
    this.failedReached = new Float64Array(levels);
    this.tries = new RatioSums(levels);
    this.held = new RatioSums(boundsOf(form.design).length);
    this.#won = design.screens.map(({ ending }) => ending === 'won');
    this.#hasScore = form.score >= 0;
    this.#hasLives = livesOf(form.design) >= 0;
  }

  /** Adds a session that was played to its end. */
  count(log: SessionLog): void {
    this.sessions++;
    this.#countEvents(log);
    this.#countPoints(log);
    this.#countRuns(log);
    for (let bound = 0; bound < log.held.length; bound++)
      this.held.add(bound, log.held[bound]!, log.playTime);
    this.onSession?.(log);
  }

  #countEvents({ fired, taken }: SessionLog): void {
    for (let rule = 0; rule < fired.length; rule++) {
      const count = fired[rule]!;
      if (count === 0) continue;
      this.fired[rule]! += count;
      this.firedIn[rule]!++;
    }
    for (let transition = 0; transition < taken.length; transition++) {
      const count = taken[transition]!;
      if (count === 0) continue;
      this.taken[transition]! += count;
      this.takenIn[transition]!++;
    }
  }

  #countPoints({ points }: SessionLog): void {
    if (!this.#hasScore) return;
    let all = 0;
    for (let source = 0; source < points.length; source++) {
      const made = points[source]!;
      if (made === 0) continue;
      this.points.add(source, made);
      if (made > 0) all += made;
    }
    if (all === 0) return;
    for (let source = 0; source < points.length; source++)
      this.gains.add(source, Math.max(0, points[source]!), all);
  }

  #countRuns(log: SessionLog): void {
    const { runs, columns } = log;
    const { visits, endings, causes, reached, failed } = this;
    this.runs += runs;
    this.runsSquared += runs * runs;
    if (runs > this.#values.length) this.#values = new Float64Array(2 * runs);
    const values = this.#values;
    let parts = 0;
    let score = 0;
    let time = 0;
    for (let run = 0; run < runs; run++) {
      const at = run * runWidth;
      score += columns[at + runColumns.score]!;
      time += columns[at + runColumns.duration]!;
      const ending = columns[at + runColumns.ending]!;
      const cause = columns[at + runColumns.cause]!;
      endings.here[ending < 0 ? endings.here.length - 1 : ending]!++;
      if (cause >= 0) causes.here[cause]!++;
      log.countVisited(run, visits.here);
      const level = Math.min(columns[at + runColumns.level]!, reached.here.length - 1);
      for (let passed = 0; passed <= level; passed++) reached.here[passed]!++;
      if (ending < 0 || !this.#won[ending]) failed.here[level]!++;
      parts = Math.max(parts, partsOf(columns[at + runColumns.duration]!));
    }
    for (let level = 0; level < failed.here.length; level++) {
      this.failedReached[level]! += failed.here[level]! * reached.here[level]!;
      if (reached.here[level]! > 0) this.tries.add(level, log.tries[level]!, reached.here[level]!);
    }
    visits.fold(runs);
    endings.fold(runs);
    causes.fold(runs);
    reached.fold(runs);
    failed.fold(runs);
    for (const { name, column, isTime } of ofRuns) {
      if ((name === 'score' && !this.#hasScore) || (name === 'lives' && !this.#hasLives)) continue;
      let count = 0;
      for (let run = 0; run < runs; run++) {
        const value = columns[run * runWidth + column]!;
        // A time of -1 is none; scores and lives may be below zero.
        if (!isTime || value >= 0) values[count++] = value;
      }
      this.spreads[name].add(values, count);
    }
    if (this.#hasScore) {
      this.rate.add(0, score, time);
      for (let run = 0; run < runs; run++)
        this.scores.add(log.session, columns[run * runWidth + runColumns.score]!);
      for (let part = 0; part < parts; part++) {
        const begins = part * paceStep;
        // The last part is as long as the longest run.
        const longest = part === paceParts - 1 ? Number.POSITIVE_INFINITY : paceStep;
        let played = 0;
        for (let run = 0; run < runs; run++) {
          const after = columns[run * runWidth + runColumns.duration]! - begins;
          if (after <= 0) continue;
          played += Math.min(after, longest);
          this.lasting[part]!++;
        }
        this.pace.add(part, log.pace[part]!, played);
      }
    }
    values[0] = log.duration;
    this.spreads.sessionTime.add(values, 1);
  }

  /** Adds what another part of the same simulation came to. */
  merge(other: Tally): void {
    this.sessions += other.sessions;
    this.runs += other.runs;
    this.runsSquared += other.runsSquared;
    const own = this.#columns();
    other.#columns().forEach((column, index) => {
      for (let at = 0; at < column.length; at++) own[index]![at]! += column[at]!;
    });
    const sums = this.#exactSums();
    other.#exactSums().forEach((each, index) => {
      sums[index]!.merge(each);
    });
    for (const name of spreadNames) this.spreads[name].merge(other.spreads[name]);
    this.scores.merge(other.scores);
  }

  /** As plain data, in one form for one content. */
  toData(): TallyData {
    return {
      sessions: this.sessions,
      runs: [this.runs, this.runsSquared],
      columns: this.#columns().map((column) => [...column]),
      sums: this.#exactSums().map(({ high, low }) => [...high, ...low]),
      spreads: spreadNames.map((name) => this.spreads[name].toData()),
      scores: this.scores.toData(),
    };
  }

  /** The tally that `toData` was called on. */
  static fromData(form: Form, data: TallyData): Tally {
    const tally = new Tally(form);
    tally.sessions = data.sessions;
    [tally.runs, tally.runsSquared] = data.runs as [number, number];
    for (const [index, column] of tally.#columns().entries()) column.set(data.columns[index]!);
    for (const [index, { high, low }] of tally.#exactSums().entries()) {
      high.set(data.sums[index]!.slice(0, high.length));
      low.set(data.sums[index]!.slice(high.length));
    }
    spreadNames.forEach((name, index) => {
      tally.spreads[name].merge(Histogram.fromData(data.spreads[index]!, finenessOf(name)));
    });
    tally.scores.merge(GroupedValues.fromData(data.scores));
    return tally;
  }

  #columns(): Float64Array[] {
    const shares = [this.visits, this.endings, this.causes, this.reached, this.failed];
    return [
      this.fired,
      this.firedIn,
      this.taken,
      this.takenIn,
      this.failedReached,
      this.lasting,
      ...shares.flatMap(({ hits, squares, products }) => [hits, squares, products]),
    ];
  }

  #exactSums(): ExactSums[] {
    return [
      this.points,
      ...[this.gains, this.tries, this.pace, this.rate, this.held].flatMap(
        ({ hits, all, hitsSquared, allSquared, products }) => [hits, all, hitsSquared, allSquared, products],
      ),
    ];
  }
}

/** Parts of ten seconds that a run of `duration` milliseconds has reached. */
const partsOf = (duration: number): number => Math.min(paceParts, Math.ceil(duration / paceStep));

export interface TallyData {
  readonly sessions: number;
  readonly runs: readonly number[];
  readonly columns: readonly (readonly number[])[];
  readonly sums: readonly (readonly number[])[];
  readonly spreads: readonly SpreadData[];
  readonly scores: GroupedData;
}
