import { sampleCorrelation } from 'simple-statistics';
import type { Unit } from '../../design/measures.js';
import type { Design } from '../../design/model.js';
import { runColumns, runWidth, type SessionLog } from '../../measure/session-log.js';
import { type SimulateOptions, type Simulation, simulate } from '../../simulate/simulate.js';
import { unitOf } from '../measured.js';
import { deviateOf, type Estimate, usualConfidence } from './intervals.js';

/** What is compared: a ratio of sums over sessions, in words and in a unit. */
export interface Quantity {
  readonly name: string;
  readonly unit: Unit;
  /** What a session adds to the sum above, and to the one below. */
  readonly of: (log: SessionLog) => readonly [number, number];
}

/** Sums of each session, in the order of sessions: `hits[quantity][session]`. */
export interface Observed {
  readonly hits: readonly Float64Array[];
  readonly all: readonly Float64Array[];
}

type Column = keyof typeof runColumns;

/** The sum of a column over the runs that have it, and how many do. */
const column =
  (name: Column, unit: number, hasNegative: boolean) =>
  ({ runs, columns }: SessionLog): readonly [number, number] => {
    let sum = 0;
    let count = 0;
    for (let run = 0; run < runs; run++) {
      const value = columns[run * runWidth + runColumns[name]]!;
      if (value < 0 && !hasNegative) continue;
      sum += value * unit;
      count++;
    }
    return [sum, count];
  };

const runsWith =
  (holds: (log: SessionLog, run: number) => boolean) =>
  (log: SessionLog): readonly [number, number] => {
    let count = 0;
    for (let run = 0; run < log.runs; run++) if (holds(log, run)) count++;
    return [count, log.runs];
  };

/** What two settings of a design, or two designs with the same names, are compared by. */
export function quantitiesOf(design: Design): Quantity[] {
  const { screens, levels, rules } = design;
  const read = ({ columns }: SessionLog, run: number, name: Column): number =>
    columns[run * runWidth + runColumns[name]]!;
  return [
    ...(design.score === undefined
      ? []
      : [
          { name: 'mean score', unit: 'points', of: column('score', unitOf(design, 'score'), true) } as const,
        ]),
    { name: 'mean length of a run', unit: 'seconds', of: column('duration', 0.001, false) },
    ...screens.flatMap(({ name, ending }, screen): Quantity[] =>
      ending === undefined
        ? []
        : [
            {
              name: `runs that end on ${name}`,
              unit: 'share',
              of: runsWith((log, run) => read(log, run, 'ending') === screen),
            },
          ],
    ),
    ...levels.slice(1).map(
      (_, index): Quantity => ({
        name: `runs that reach level ${index + 2}`,
        unit: 'share',
        of: runsWith((log, run) => read(log, run, 'level') >= index + 1),
      }),
    ),
    ...(design.lives === undefined
      ? []
      : [
          {
            name: 'mean lives left',
            unit: 'count',
            of: column('lives', unitOf(design, 'lives'), true),
          } as const,
        ]),
    ...(design.score === undefined
      ? []
      : [
          {
            name: 'mean time to the first point',
            unit: 'seconds',
            of: column('firstPoint', 0.001, false),
          } as const,
          {
            name: 'mean longest time without a point',
            unit: 'seconds',
            of: column('drySpell', 0.001, false),
          } as const,
        ]),
    { name: 'mean longest streak', unit: 'count', of: column('streak', 1, false) },
    ...rules.flatMap(({ name, effects }, rule): Quantity[] =>
      effects.some(
        (effect) => 'writes' in effect && effect.writes.some((write) => write.name === design.score),
      )
        ? [
            {
              name: `points from "${name}"`,
              unit: 'share',
              of: ({ points }) => [
                Math.max(0, points[rule]!),
                points.reduce((sum, each) => sum + Math.max(0, each), 0),
              ],
            },
          ]
        : [],
    ),
  ];
}

/** What was played, and what each session of each player adds to every quantity. */
export interface Observation {
  readonly simulation: Simulation;
  readonly of: ReadonlyMap<string, Observed>;
}

/** Plays sessions and keeps what each adds to every quantity, for each player. */
export function observe(
  design: Design,
  quantities: readonly Quantity[],
  options: SimulateOptions,
): Observation {
  const found = new Map<string, Observed>();
  const { first = 0, sessions } = options;
  const columns = (): Float64Array[] => quantities.map(() => new Float64Array(sessions));
  const simulation = simulate(design, {
    ...options,
    onSession: (player, log) => {
      const observed = found.get(player) ?? { hits: columns(), all: columns() };
      found.set(player, observed);
      for (const [index, { of }] of quantities.entries()) {
        const [hits, all] = of(log);
        observed.hits[index]![log.session - first] = hits;
        observed.all[index]![log.session - first] = all;
      }
    },
  });
  return { simulation, of: found };
}

/** A quantity under two settings, session by session. */
export interface Paired {
  readonly before: number;
  readonly after: number;
  readonly change: Estimate;
  /** How well the sessions go together, -1 to 1: the nearer to 1, the more the pairing is worth. undefined: nothing varies. */
  readonly correlation: number | undefined;
  /** Whether the change is more than noise: its interval leaves out zero. */
  readonly isReal: boolean;
}

/**
 * What a quantity changes by, with the interval of sessions paired by seed (common random numbers; Law, "Simulation modeling and
 * analysis", 2015, chapter 11): the error is that of the differences of what each session adds to the two ratios (linearised, as
 * Cochran 1977).
 *
 * @returns undefined where one of the two has nothing to measure
 */
export function paired(
  before: Observed,
  after: Observed,
  quantity: number,
  confidence = usualConfidence,
): Paired | undefined {
  const one = parts(before.hits[quantity]!, before.all[quantity]!);
  const other = parts(after.hits[quantity]!, after.all[quantity]!);
  if (one === undefined || other === undefined) return undefined;
  const sessions = one.parts.length;
  const value = other.ratio - one.ratio;
  let squares = 0;
  for (let session = 0; session < sessions; session++)
    squares += (other.parts[session]! - one.parts[session]!) ** 2;
  const error = sessions < 2 ? Number.POSITIVE_INFINITY : Math.sqrt(squares / (sessions - 1) / sessions);
  const reach = deviateOf(confidence) * error;
  const varies = (each: Float64Array): boolean => each.some((part) => part !== each[0]);
  const isVarying = sessions > 1 && varies(one.parts) && varies(other.parts);
  return {
    before: one.ratio,
    after: other.ratio,
    change: { value, low: value - reach, high: value + reach },
    isReal: Math.abs(value) > reach,
    correlation: isVarying ? sampleCorrelation([...one.parts], [...other.parts]) : undefined,
  };
}

/** A ratio, and what each session's residual adds to it, times the number of sessions. */
function parts(
  hits: Float64Array,
  all: Float64Array,
): { readonly ratio: number; readonly parts: Float64Array } | undefined {
  let sum = 0;
  let below = 0;
  for (let session = 0; session < hits.length; session++) {
    sum += hits[session]!;
    below += all[session]!;
  }
  if (below === 0) return undefined;
  const ratio = sum / below;
  const mean = below / hits.length;
  return { ratio, parts: hits.map((hit, session) => (hit - ratio * all[session]!) / mean) };
}
