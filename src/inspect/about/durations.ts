import { longestDuration } from '../../design/language/duration.js';
import { visitExpression } from '../../design/language/expression-parts.js';
import type { Computed, ComputedInterval, Design, Interval } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import { atLevel, isMoreAt, onLevel, rangeIn } from '../../explore/abstraction/ranges.js';
import { deedsOf } from '../deeds.js';
import { type Finding, finding } from '../finding.js';
import { endingOf } from '../played-for.js';
import { addedBy, type Uses, writtenRules } from '../uses.js';

/** A length of time that a design gives. */
interface Duration {
  /** What it is the length of, to begin a sentence. */
  readonly what: string;
  readonly of: Interval | ComputedInterval | Computed;
  /** Whether it may be nothing at all. */
  readonly mayBeNothing: boolean;
  /** Milliseconds that it is surely shorter than, where somebody plays. */
  readonly implausible: number;
  /** Where it is written. */
  readonly path: readonly (string | number)[];
  readonly place: Place;
  /** The level that it belongs to. */
  readonly level?: number;
}

/** Findings about lengths of time that are nothing, so long that milliseconds were meant, given to each level, or paid for being used up. */
export const aboutDurations = (design: Design, uses: Uses): Finding[] => [
  ...durationsOf(design).flatMap((each) => [...tooShort(design, each), ...inMilliseconds(design, each)]),
  ...timersOfEachLevel(design),
  ...slownessPays(design, uses),
];

/** Countdowns to a loss that begin again with each of several levels, where nobody said so. */
function timersOfEachLevel(design: Design): Finding[] {
  const goesOn = design.transitions.some(({ level, fresh }) => level === 'next' && fresh === 'level');
  const isSeveral = design.levels.length > 1 || design.levels.some(({ endless }) => endless);
  if (!goesOn || !isSeveral) return [];
  const written = (design.written.timers ?? {}) as { readonly [name: string]: { readonly keep?: unknown } };
  return design.timers.flatMap(({ name, kind, event, interval, place }) => {
    const at = design.transitions.flatMap(({ to, events }) =>
      events.includes(event) ? [endingOf(design, to)] : [],
    );
    // What goes on after its end goes on to another level, with all of the time again.
    const ends = at.includes('lost') && !at.includes(undefined);
    if (kind !== 'countdown' || !ends || written[name]?.keep !== undefined || !('least' in interval))
      return [];
    return [finding('timer-each-level', { timer: name, seconds: interval.least / 1000 }, place)];
  });
}

/** Of what takes a moment, and of what may take as long as a level. */
const moment = 100_000;
const stretch = 1_000_000;

function durationsOf(design: Design): Duration[] {
  const { timers, pieces, levels, transitions } = design;
  const known = (of: Duration['of'] | undefined, rest: Omit<Duration, 'of'>): Duration[] =>
    of === undefined ? [] : [{ of, ...rest }];
  return [
    ...timers.map(({ name, kind, interval, place }) => ({
      what: `The timer ${name}`,
      of: interval,
      mayBeNothing: false,
      implausible: stretch,
      path: ['timers', name, kind],
      place,
    })),
    ...pieces.flatMap(({ name, meets, lasts, takes, lead, returns, place }) => {
      const own = { implausible: stretch, mayBeNothing: true, place };
      const at = (key: string) => ['pieces', name, key];
      return [
        ...known(lasts, { ...own, what: `How long ${name} waits`, mayBeNothing: false, path: at('lasts') }),
        ...known(takes, {
          ...own,
          what: `How long it takes to meet ${name}`,
          mayBeNothing: false,
          implausible: moment,
          path: at('takes'),
        }),
        ...known(meets === 'arrives' ? lead : undefined, {
          ...own,
          what: `The lead of ${name}`,
          implausible: moment,
          path: at('lead'),
        }),
        ...known(returns, { ...own, what: `How long ${name} stays away`, path: at('returns') }),
      ];
    }),
    ...levels.flatMap(({ spawns }, level) =>
      spawns.flatMap(({ piece, every, first, place }, index) => {
        const own = { implausible: stretch, place, level };
        const at = (key: string) => ['levels', level, 'spawn', index, key];
        return [
          ...known(every, {
            ...own,
            what: `The interval of ${piece}`,
            mayBeNothing: false,
            path: at('every'),
          }),
          ...known(first, {
            ...own,
            what: `How long the first ${piece} takes to appear`,
            mayBeNothing: true,
            path: at('first'),
          }),
        ];
      }),
    ),
    ...writtenRules(design).flatMap(({ name, rest, effects, place }, rule) => {
      const own = { mayBeNothing: true, implausible: moment, place };
      return [
        ...known(rest, { ...own, what: `The rest of the rule ${name}`, path: ['rules', rule, 'rest'] }),
        ...effects.flatMap((effect, index) =>
          effect.kind === 'grace'
            ? known(effect.duration, {
                ...own,
                what: `The grace of the rule ${name}`,
                path: ['rules', rule, 'do', index, 'grace'],
              })
            : [],
        ),
      ];
    }),
    ...transitions.flatMap(({ from, to, wait, grace, index, place }, each) => {
      // What leads from several screens is written once.
      if (transitions[each - 1]?.index === index) return [];
      const own = { mayBeNothing: true, place };
      const at = (key: string) => ['transitions', index, key];
      return [
        ...known(wait, {
          ...own,
          what: `The wait of ${from} -> ${to}`,
          implausible: stretch,
          path: at('wait'),
        }),
        ...known(grace, {
          ...own,
          what: `The grace of ${from} -> ${to}`,
          implausible: moment,
          path: at('grace'),
        }),
      ];
    }),
  ];
}

/** A length of time that comes down to nothing, by levels, dials and counters with a min and a max; what else it may read has no bound to speak of. */
function tooShort(design: Design, { what, of, mayBeNothing, level, place }: Duration): Finding[] {
  const computed = typeof of === 'object' && 'seconds' in of ? of.seconds : of;
  if (mayBeNothing || typeof computed === 'number' || 'least' in computed) return [];
  const isEndless = level !== undefined && design.levels[level]!.endless;
  const numbers = isEndless ? Array.from({ length: levelsTried }, (_, later) => level + 1 + later) : [];
  const written = level === undefined ? computed : onLevel(design, computed, level);
  for (const seconds of [written, ...numbers.map((nth) => atLevel(design, computed, nth))]) {
    let isKnown = true;
    visitExpression(seconds, (part) => {
      if (['present', 'left', 'timer', 'course'].includes(part.kind)) isKnown = false;
    });
    const [least] = rangeIn(design, seconds);
    // A counter without a bound on the side that counts says nothing.
    const isBounded = least > -longestDuration;
    if (isKnown && isBounded && least <= 0)
      return [finding('interval-too-short', { what, seconds: least }, place)];
  }
  return [];
}

/** Levels of a design without a last one that somebody may come to. */
const levelsTried = 50;

/**
 * A length of time that nobody sits through, and that as milliseconds would be one. Whole minutes are left alone, unless they are round
 * numbers of milliseconds as well.
 */
function inMilliseconds({ written }: Design, { what, of, implausible, path, place }: Duration): Finding[] {
  const length = typeof of === 'number' ? of : 'least' in of ? of.least : 0;
  const isWholeMinutes = length % 60_000 === 0 && length % 500_000 !== 0;
  if (length < implausible || (implausible === stretch && isWholeMinutes)) return [];
  const seconds = length / 1000;
  const held = path.reduce<unknown>(
    (inside, step) => (inside as { readonly [step: string]: unknown } | undefined)?.[step],
    written,
  );
  // What a piece takes over from another is told of that one.
  if (path[0] === 'pieces' && held === undefined) return [];
  return [finding('in-milliseconds', { what, seconds, path: held === seconds ? path : undefined }, place)];
}

/** Points for a success that are the more the less time is left on a countdown. */
function slownessPays(design: Design, { score }: Uses): Finding[] {
  const successes = new Set(
    design.pieces.flatMap(({ name, success }) => (success === undefined ? [] : [`${name}.${success}`])),
  );
  return deedsOf(design).flatMap(({ name, events, effects, place }) => {
    const points = addedBy(effects).find((write) => write.name === score)?.amount;
    if (points === undefined || !events.some((event) => successes.has(event))) return [];
    const timer = design.timers.find(
      ({ name: timed, kind, interval }) =>
        kind === 'countdown' &&
        'least' in interval &&
        isMoreAt(design, points, { kind: 'timer', name: timed }, 0, interval.least / 1000),
    );
    return timer === undefined
      ? []
      : [finding('slowness-pays', { rule: name, timer: timer.name, score: score! }, place)];
  });
}
