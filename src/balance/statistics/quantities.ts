import type { Unit } from '../../design/measures.js';
import type { Design } from '../../design/model.js';
import { runColumns, runWidth, type SessionLog } from '../../measure/session-log.js';
import { unitOf } from '../figures/estimates.js';

/** What is compared: a ratio of sums over sessions, in words and in a unit. */
export interface Quantity {
  readonly name: string;
  readonly unit: Unit;
  /** Puts what a session adds to the sum above, and to the one below, into two numbers: a pair for each is slower. */
  readonly of: (log: SessionLog, into: Float64Array) => void;
  /** Of points: all of them, or those of a rule, by its place in the list. */
  readonly points?: 'all' | number;
  /** Whether a run may be without it. */
  readonly mayLack?: true;
}

type Column = keyof typeof runColumns;

/** The sum of a column over the runs that have it, and how many do. */
const column =
  (name: Column, unit: number, hasNegative: boolean) =>
  ({ runs, columns }: SessionLog, into: Float64Array): void => {
    let sum = 0;
    let count = 0;
    for (let run = 0; run < runs; run++) {
      const value = columns[run * runWidth + runColumns[name]]!;
      if (value < 0 && !hasNegative) continue;
      sum += value * unit;
      count++;
    }
    into[0] = sum;
    into[1] = count;
  };

const runsWith =
  (holds: (log: SessionLog, run: number) => boolean) =>
  (log: SessionLog, into: Float64Array): void => {
    let count = 0;
    for (let run = 0; run < log.runs; run++) if (holds(log, run)) count++;
    into[0] = count;
    into[1] = log.runs;
  };

/** What was gained, whatever was lost again. */
function gainsOf(points: Float64Array): number {
  let sum = 0;
  for (let source = 0; source < points.length; source++) if (points[source]! > 0) sum += points[source]!;
  return sum;
}

/** What two settings of a design, or two designs with the same names, are compared by. */
export function quantitiesOf(design: Design): Quantity[] {
  const { screens, levels, rules } = design;
  const read = ({ columns }: SessionLog, run: number, name: Column): number =>
    columns[run * runWidth + runColumns[name]]!;
  return [
    ...(design.score === undefined
      ? []
      : [
          {
            name: 'mean score',
            unit: 'points',
            of: column('score', unitOf(design, 'score'), true),
            points: 'all',
          } as const,
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
            mayLack: true,
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
              of: ({ points }, into) => {
                into[0] = Math.max(0, points[rule]!);
                into[1] = gainsOf(points);
              },
              points: rule,
            },
          ]
        : [],
    ),
  ];
}
