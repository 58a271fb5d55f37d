import type { Design } from '../../design/model.js';
import type { EffectForm, Form, Term } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { Evaluator } from '../../engine/run/evaluator.js';
import type { Tally } from '../../measure/tally.js';
import { type Rare, rareUpTo } from '../statistics/intervals.js';

/** A rule or transition that writes to the score. */
export interface ScoringSource {
  readonly name: string;
  /** Where it stands in what is counted by rule and, past the last rule, by transition. */
  readonly source: number;
  /** What it would add with everything as it is at the start, in the smallest step of the score. */
  readonly atStart: () => number;
}

/** All that writes to the score; of several with one name, each has its number. */
export function scoringSources(design: Design): readonly ScoringSource[] {
  const form = formOf(design);
  const sources = sourcesOfForm.get(form) ?? readSources(design, form);
  sourcesOfForm.set(form, sources);
  return sources;
}

/** They are asked for once for each figure and player. */
const sourcesOfForm = new WeakMap<Form, readonly ScoringSource[]>();

function readSources(design: Design, form: Form): ScoringSource[] {
  const { rules, transitions } = form;
  const names = new Map<string, number>();
  // The first start stands last, and writes nothing.
  return [...rules, ...transitions.slice(0, -1)].flatMap(({ effects }, source) => {
    if (!effects.some((effect) => writesScore(effect, form))) return [];
    const name = design.rules[source]?.name ?? 'a transition';
    const nth = (names.get(name) ?? 0) + 1;
    names.set(name, nth);
    let points: number | undefined;
    const atStart = (): number => {
      points ??= pointsAtStart(effects, form);
      return points;
    };
    return [{ name: `${name} ${nth}`, source, atStart }];
  });
}

/** What adds to the score, and did so in few sessions or none. */
interface RarePoints {
  readonly source: number;
  readonly sessions: number;
  /** What it adds in a session in which it comes, in the smallest step of the score. */
  readonly points: number;
}

/** What adds to the score so rarely that no mean knows it well. */
export function rarePoints(design: Design, tally: Tally): RarePoints[] {
  const sessionsOf = [...tally.firedIn, ...tally.takenIn];
  return scoringSources(design).flatMap(({ source, atStart }): RarePoints[] => {
    const sessions = sessionsOf[source]!;
    if (sessions > Math.min(rareUpTo, tally.sessions / 2)) return [];
    const points = sessions > 0 ? tally.points.value(source) / sessions : atStart();
    return points === 0 || !Number.isFinite(points) ? [] : [{ source, sessions, points }];
  });
}

/** A sum of points by something that was counted: what it would be, had the rare come more or less often. */
export const rareInMean = (rare: readonly RarePoints[], value: number, worth: number): Rare[] =>
  rare.map(({ sessions, points }) => ({
    sessions,
    at: (count) => value + (count - sessions) * points * worth,
  }));

/** The points of one source, of all that were gained. */
export const rareInShare = (
  rare: readonly RarePoints[],
  source: number,
  gained: number,
  all: number,
): Rare[] =>
  rare.flatMap((each) => {
    const { sessions, points } = each;
    if (points < 0) return [];
    const at = (count: number): number => {
      const more = (count - sessions) * points;
      return (gained + (each.source === source ? more : 0)) / Math.max(all + more, Number.MIN_VALUE);
    };
    return [{ sessions, at }];
  });

const writesScore = (effect: EffectForm, { score }: Form): boolean =>
  effect.op === 'write' && effect.writes.some(({ counter }) => counter === score);

/** What effects would add to the score with everything as it is at the start. */
function pointsAtStart(effects: readonly EffectForm[], form: Form): number {
  const cells = new Float64Array(form.cells.size);
  const evaluator = new Evaluator(form, cells);
  const value = (of: Term): number => evaluator.value(evaluator.add(of));
  form.counters.forEach(({ start }, counter) => {
    cells[form.cells.counters + counter] = value(start);
  });
  const score = cells[form.cells.counters + form.score]!;
  return effects.reduce((sum, effect) => {
    if (effect.op !== 'write') return sum;
    return effect.writes.reduce((points, { counter, adds, amount }) => {
      if (counter !== form.score) return points;
      return points + (adds ? value(amount) : value(amount) - score);
    }, sum);
  }, 0);
}
