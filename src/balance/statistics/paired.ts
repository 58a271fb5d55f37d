import { sampleCorrelation } from 'simple-statistics';
import type { Unit } from '../../design/measures.js';
import type { Design } from '../../design/model.js';
import { type SimulateOptions, type Simulation, simulate } from '../../simulate/simulate.js';
import { unitOf } from '../figures/estimates.js';
import { type ScoringSource, scoringSources } from '../figures/rare-points.js';
import {
  type Estimate,
  neverSeenBound,
  type Rare,
  rareUpTo,
  studentDeviate,
  usualConfidence,
  withRare,
} from './intervals.js';
import type { Quantity } from './quantities.js';

/** Sums of each session, in the order of sessions: `hits[quantity][session]`. */
export class Observed {
  readonly #sums: (Sums | undefined)[] = [];

  /** @param points what each rule and transition that writes to the score added to it in each session, by its name */
  constructor(
    readonly hits: readonly Float64Array[],
    readonly all: readonly Float64Array[],
    readonly points: ReadonlyMap<string, SourcePoints>,
  ) {}

  /** Worked out once, since one setting is paired with many; undefined where there is nothing to measure. */
  sums(quantity: number): Sums | undefined {
    this.#sums[quantity] ??= sumsOf(this.hits[quantity]!, this.all[quantity]!);
    return this.#sums[quantity];
  }
}

interface SourcePoints extends Omit<ScoringSource, 'name'> {
  readonly bySession: Float64Array;
}

/** What was played, and what each session of each player adds to every quantity. */
export interface Observation {
  readonly simulation: Simulation;
  readonly of: ReadonlyMap<string, Observed>;
}

/** @param points by session, of each source of points in their order */
export function observedColumns(
  design: Design,
  hits: readonly Float64Array[],
  all: readonly Float64Array[],
  points: readonly Float64Array[],
): Observed {
  const unit = unitOf(design, 'score');
  const sources = scoringSources(design).map(({ name, source, atStart }, index): [string, SourcePoints] => [
    name,
    { source, atStart: () => atStart() * unit, bySession: points[index]! },
  ]);
  return new Observed(hits, all, new Map(sources));
}

/** Plays sessions and keeps what each adds to every quantity, for each player. */
export function observe(
  design: Design,
  quantities: readonly Quantity[],
  options: SimulateOptions,
): Observation {
  const { first = 0, sessions } = options;
  const found = new Map<string, Observed>();
  const unit = unitOf(design, 'score');
  const sums = new Float64Array(2);
  const columns = (of: readonly unknown[]): Float64Array[] => of.map(() => new Float64Array(sessions));
  const begin = (): Observed =>
    observedColumns(design, columns(quantities), columns(quantities), columns(scoringSources(design)));
  const simulation = simulate(design, {
    ...options,
    onSession: (player, log) => {
      const observed = found.get(player) ?? begin();
      found.set(player, observed);
      const at = log.session - first;
      for (let index = 0; index < quantities.length; index++) {
        quantities[index]!.of(log, sums);
        observed.hits[index]![at] = sums[0]!;
        observed.all[index]![at] = sums[1]!;
      }
      for (const { source, bySession } of observed.points.values())
        bySession[at] = log.points[source]! * unit;
    },
  });
  return { simulation, of: found };
}

/** A quantity under two settings, session by session. */
export interface Paired {
  readonly before: number;
  readonly after: number;
  /** Without bounds where no session differs and nothing says by how much a rarer one might. */
  readonly change: Estimate;
  /** Whether the change is more than chance: its interval leaves out zero. */
  readonly isReal: boolean;
}

/** Two settings of a design, or two designs, played with the same seeds. */
export class Pairing {
  #sides: readonly PointSide[] | undefined;

  /** @param quantities as the later of the two was observed with */
  constructor(
    private readonly before: Observed,
    private readonly after: Observed,
    private readonly quantities: readonly Quantity[],
  ) {}

  /**
   * What a quantity changes by, with the interval of sessions paired by seed (common random numbers; Law, "Simulation modeling and
   * analysis", 2015, chapter 11): the error is that of the differences of what each session adds to the two ratios (linearised, as
   * Cochran 1977). What differs in few sessions or none has the interval of a rare count.
   *
   * @returns undefined where one of the two has nothing to measure
   */
  change(quantity: number, confidence = usualConfidence): Paired | undefined {
    const one = this.before.sums(quantity);
    const other = this.after.sums(quantity);
    if (one === undefined || other === undefined) return undefined;
    const sessions = one.parts.length;
    const value = other.ratio - one.ratio;
    let squares = 0;
    for (let session = 0; session < sessions; session++)
      squares += (other.parts[session]! - one.parts[session]!) ** 2;
    const error = sessions < 2 ? Number.POSITIVE_INFINITY : Math.sqrt(squares / (sessions - 1) / sessions);
    const usual = sessions < 2 ? error : studentDeviate(confidence, sessions - 1) * error;
    // What changes by the same in every session may still change by something else in a rare one.
    const isEven = usual < roundingError * Math.abs(value);
    const reach = isEven ? neverSeenBound(sessions, confidence) * Math.abs(value) : usual;
    const { points, unit } = this.quantities[quantity]!;
    const rare =
      points === undefined
        ? rareDifferences(value, sessions, this.#rareSides(quantity, one, other, unit))
        : this.#rarePoints(value, other, points);
    const isSame = reach === 0 && rare.length === 0;
    const change = isSame
      ? { value, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY }
      : withRare({ value, low: value - reach, high: value + reach }, rare, confidence);
    return { before: one.ratio, after: other.ratio, change, isReal: change.low > 0 || change.high < 0 };
  }

  /** How well the sessions go together, -1 to 1: the nearer to 1, the more the pairing is worth. undefined: nothing varies. */
  correlation(quantity: number): number | undefined {
    const both = [this.before.sums(quantity), this.after.sums(quantity)].map((sums) => [
      ...(sums?.parts ?? []),
    ]);
    const varies = (each: number[]): boolean => each.some((part) => part !== each[0]);
    return both.every(varies) ? sampleCorrelation(both[0]!, both[1]!) : undefined;
  }

  /** Where few sessions differ at all; or few have the quantity in one of the two only, which shifts a mean by much. */
  #rareSides(quantity: number, one: Sums, other: Sums, unit: Unit): Side[] {
    const [was, is] = [this.before.all[quantity]!, this.after.all[quantity]!];
    const [had, has] = [this.before.hits[quantity]!, this.after.hits[quantity]!];
    const mean = other.below / is.length;
    // What each session changes by itself; the ratio that its parts are taken from changes all of them.
    const differences = new Float64Array(was.length);
    for (let session = 0; session < was.length; session++)
      differences[session] =
        (has[session]! - had[session]! - one.ratio * (is[session]! - was[session]!)) / mean;
    const sides = sidesOf(differences, unit === 'share' ? 1 : 0);
    if (sides.length > 0 || unit === 'share') return sides;
    const isFixed = [was, is].every((all) => all.every((count) => count === all[0]));
    if (isFixed && this.quantities[quantity]!.mayLack !== true) return [];
    const inOne = differences.map((each, session) => (was[session] === is[session] ? 0 : each));
    // Those that have it in one only are as a rule those in which it nearly was not: what a session can add at the most.
    return sidesOf(inOne, Math.max(one.largest, other.largest));
  }

  /** What a change of points would be, did those that differ in few sessions do so in more or fewer. */
  #rarePoints(value: number, { ratio, sum, below }: Sums, points: 'all' | number): Rare[] {
    this.#sides ??= pointSides(this.before, this.after);
    return this.#sides.map(({ name, sessions, size, sign }): Rare => {
      const more = (count: number): number => sign * (count - sessions) * size;
      if (points === 'all') return { sessions, at: (count) => value + more(count) / below };
      const isOwn = this.after.points.get(name)?.source === points;
      const share = (count: number): number => {
        const all = Math.max(below + more(count), Number.MIN_VALUE);
        return Math.min(1, Math.max(0, (sum + (isOwn ? more(count) : 0)) / all));
      };
      return { sessions, at: (count) => value - ratio + share(count) };
    });
  }
}

/** Sums of doubles are off by no more than such a part of themselves. */
const roundingError = 1e-9;

/** Sessions in which something differs in one direction. */
interface Side {
  readonly sign: 1 | -1;
  readonly sessions: number;
  /** By how much. */
  readonly size: number;
}

interface PointSide extends Side {
  /** The source of the points. */
  readonly name: string;
}

interface Sums {
  readonly ratio: number;
  /** Of what stands above, and below. */
  readonly sum: number;
  readonly below: number;
  /** What each session's residual adds to the ratio, times the number of sessions; and the largest by its size. */
  readonly parts: Float64Array;
  readonly largest: number;
}

const rareDifferences = (value: number, all: number, sides: readonly Side[]): Rare[] =>
  sides.map(({ sessions, size, sign }) => ({
    sessions,
    at: (count) => value + (sign * (count - sessions) * size) / all,
  }));

/** For each source of points the sessions in which it adds more, and less, where they are few. */
function pointSides(before: Observed, after: Observed): PointSide[] {
  return [...new Set([...before.points.keys(), ...after.points.keys()])].flatMap((name) => {
    const [one, other] = [before.points.get(name), after.points.get(name)];
    const none = new Float64Array((one ?? other)!.bySession.length);
    const [was, is] = [one?.bySession ?? none, other?.bySession ?? none];
    const usual = typicalOf([was, is]) ?? Math.abs((other ?? one)!.atStart());
    const differences = new Float64Array(was.length);
    for (let session = 0; session < was.length; session++)
      differences[session] = is[session]! - was[session]!;
    return sidesOf(differences, usual).map((side) => ({ ...side, name }));
  });
}

/** The size of what is not zero: the root of the mean square, which is what a sum of a random number of them varies by. */
function typicalOf(columns: readonly Float64Array[]): number | undefined {
  let count = 0;
  let sum = 0;
  for (const column of columns)
    for (const each of column) {
      if (each === 0) continue;
      count++;
      sum += each * each;
    }
  return count === 0 ? undefined : Math.sqrt(sum / count);
}

/** Differences up and differences down, where all of them are few. */
function sidesOf(differences: Float64Array, usual: number): Side[] {
  const few = Math.min(rareUpTo, differences.length / 2);
  let different = 0;
  for (let session = 0; session < differences.length && different <= few; session++)
    if (differences[session] !== 0) different++;
  if (different > few) return [];
  const sides = ([1, -1] as const).map((sign) => {
    const own = differences.filter((each) => each * sign > 0);
    return { sign, sessions: own.length, size: typicalOf([own]) };
  });
  return sides.flatMap(({ sign, sessions, size }, index) => {
    const known = size ?? sides[1 - index]!.size ?? usual;
    return known === 0 ? [] : [{ sign, sessions, size: known }];
  });
}

/** A ratio of sums, linearised by session; undefined where there is nothing below. */
function sumsOf(hits: Float64Array, all: Float64Array): Sums | undefined {
  let sum = 0;
  let below = 0;
  for (let session = 0; session < hits.length; session++) {
    sum += hits[session]!;
    below += all[session]!;
  }
  if (below === 0) return undefined;
  const ratio = sum / below;
  const mean = below / hits.length;
  const parts = new Float64Array(hits.length);
  let largest = 0;
  for (let session = 0; session < hits.length; session++) {
    parts[session] = (hits[session]! - ratio * all[session]!) / mean;
    largest = Math.max(largest, Math.abs(parts[session]!));
  }
  return { ratio, sum, below, parts, largest };
}
