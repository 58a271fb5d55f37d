import jstat from 'jstat';
import { inverse, Matrix } from 'ml-matrix';
import { deviateOf, type Estimate } from './intervals.js';
import { hold, type RaschGroup, spreadOf } from './rasch-group.js';
import { posteriorOf, type Sitting, sittingsOf } from './sittings.js';

/** How a group is fitted where each session of a player may be somebody else's. */
export interface PeopleFit {
  /** Of each parameter of the group; undefined where nothing shows that people differ. */
  readonly estimates: readonly Estimate[] | undefined;
  /** By player: the standard deviation of skill from one session to the next. */
  readonly spreads: ReadonlyMap<number, Estimate>;
}

/** Of fewer sessions it is not said how much people differ. */
const fewestSessions = 10;

const mostSteps = 200;
const mostSkillSteps = 6;
/** People are not taken to differ by more than this, in logits. */
const mostSpread = 16;
/** In the logarithm of the likelihood. */
const isDone = 1e-3;

/**
 * Skills, difficulties and how much people differ, by marginal maximum likelihood (Bock and Aitkin, "Marginal maximum likelihood estimation of
 * item parameters", 1981): the skill of whoever plays a session is normal around the player's. Where the sessions of a player tell that people
 * differ, all of it is fitted together, by steps along the outer product of the sessions' slopes (Berndt, Hall, Hall and Hausman 1974), which
 * is the information too. The interval of a standard deviation holds those that the data do not speak against by their likelihood, each with
 * the skill that fits it best.
 *
 * @param start the parameters as fitted for people who are alike
 */
export function fitPeople(group: RaschGroup, start: readonly number[], confidence: number): PeopleFit {
  const sittings = sittingsOf(group);
  const spreadsAt = (values: readonly number[]) =>
    new Map(
      [...group.skillOf].flatMap(([player, skillAt]): [number, Estimate][] => {
        const own = sittings.filter((each) => each.player === player);
        return own.length < fewestSessions
          ? []
          : [[player, spreadOfPeople(own, skillAt, values, confidence)]];
      }),
    );
  const alone = spreadsAt(start);
  const different = [...alone].filter(([, { low }]) => low > 0);
  if (different.length === 0) return { estimates: undefined, spreads: alone };
  const spreadAt = new Map(different.map(([player], nth) => [player, group.size + nth]));
  let values = [...start, ...different.map(([, { value }]) => value)];
  let found = slopesAt(sittings, spreadAt, values);
  for (let step = 0; step < mostSteps; step++) {
    const direction = inverseOf(found.slopes, group).mmul(
      Matrix.columnVector(found.slopes.to2DArray().reduce(added)),
    );
    let length = 1;
    let next = found;
    let moved = values;
    do {
      moved = values.map(
        (value, index) => value + length * Math.max(-1, Math.min(1, direction.get(index, 0))),
      );
      next = slopesAt(sittings, spreadAt, moved);
      length /= 2;
    } while (next.likelihood < found.likelihood && length > 1e-4);
    const gained = next.likelihood - found.likelihood;
    if (gained <= 0) break;
    [values, found] = [moved, next];
    if (gained < isDone) break;
  }
  const covariance = inverseOf(found.slopes, group);
  const bySession = spreadOf(slopesTogether(sittings, found.slopes), covariance);
  const z = deviateOf(confidence);
  const estimates = Array.from({ length: group.size }, (_, index): Estimate => {
    const value = values[index]!;
    const error = Math.sqrt(Math.max(0, covariance.get(index, index), bySession[index]!));
    return { value, low: value - z * error, high: value + z * error };
  });
  return { estimates, spreads: spreadsAt(values) };
}

const added = (one: readonly number[], other: readonly number[]): number[] =>
  one.map((value, index) => value + other[index]!);

/** The logarithm of the likelihood, and its slope by each parameter for each sitting. */
function slopesAt(
  sittings: readonly Sitting[],
  spreadAt: ReadonlyMap<number, number>,
  values: readonly number[],
): { likelihood: number; slopes: Matrix } {
  const slopes = Matrix.zeros(sittings.length, values.length);
  let likelihood = 0;
  sittings.forEach((own, sitting) => {
    const at = spreadAt.get(own.player);
    const { likelihood: ofSitting } = posteriorOf(
      own,
      values,
      at === undefined ? 0 : values[at]!,
      (row, residual, leaning) => {
        for (const [index, by] of row.parts)
          slopes.set(sitting, index, slopes.get(sitting, index) + by * residual);
        if (at !== undefined) slopes.set(sitting, at, slopes.get(sitting, at) + leaning);
      },
    );
    likelihood += ofSitting;
  });
  return { likelihood, slopes };
}

function inverseOf(slopes: Matrix, { pieceOf }: RaschGroup): Matrix {
  const information = slopes.transpose().mmul(slopes);
  // Where few sessions tell of many parameters, some of them would fly off.
  const least = 1e-6 * information.trace();
  for (let index = 0; index < information.rows; index++)
    information.set(index, index, information.get(index, index) + least);
  hold(information, pieceOf);
  return inverse(information);
}

/** Sittings of one session number may share their luck: their slopes together. */
function slopesTogether(sittings: readonly Sitting[], slopes: Matrix): number[][] {
  const found = new Map<number, number[]>();
  sittings.forEach(({ session }, sitting) => {
    const known = found.get(session);
    const own = slopes.getRow(sitting);
    found.set(session, known === undefined ? own : added(known, own));
  });
  return [...found.values()];
}

/** How much people of one player differ, as a standard deviation, with the interval of its likelihood. */
function spreadOfPeople(
  own: readonly Sitting[],
  skillAt: number,
  values: readonly number[],
  confidence: number,
): Estimate {
  const changed = [...values];
  /** With the skill that fits best: by the same steps as all of it. */
  const likelihoodAt = (spread: number): number => {
    let most = Number.NEGATIVE_INFINITY;
    for (let step = 0; step < mostSkillSteps; step++) {
      let [likelihood, slope, information] = [0, 0, 0];
      for (const sitting of own) {
        const { likelihood: ofSitting, residual } = posteriorOf(sitting, changed, spread);
        likelihood += ofSitting;
        slope += residual;
        information += residual * residual;
      }
      most = Math.max(most, likelihood);
      if (slope * slope < 1e-3 * information) break;
      changed[skillAt]! += Math.max(-1, Math.min(1, slope / information));
    }
    return most;
  };
  let end = 0.5;
  while (end < mostSpread && likelihoodAt(end) > likelihoodAt(end / 2)) end *= 2;
  const value = peakBetween(likelihoodAt, 0, end);
  const least = likelihoodAt(value) - jstat.chisquare.inv(confidence, 1) / 2;
  const isIn = (spread: number): boolean => likelihoodAt(spread) >= least;
  while (end < mostSpread && isIn(end)) end *= 2;
  return { value, low: isIn(0) ? 0 : edge(0, value, isIn), high: edge(end, value, isIn) };
}

/** Where a function with one peak is highest, by golden section (Kiefer 1953); the nearer end where it only falls or climbs. */
function peakBetween(of: (at: number) => number, from: number, to: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [from, to];
  let [one, other] = [high - golden * (high - low), low + golden * (high - low)];
  let [atOne, atOther] = [of(one), of(other)];
  while (high - low > 0.01) {
    if (atOne >= atOther) {
      [high, other, atOther] = [other, one, atOne];
      one = high - golden * (high - low);
      atOne = of(one);
    } else {
      [low, one, atOne] = [one, other, atOther];
      other = low + golden * (high - low);
      atOther = of(other);
    }
  }
  return low === from ? from : (low + high) / 2;
}

/** Where what holds inside begins, between a point outside and one inside. */
function edge(outside: number, inside: number, isIn: (value: number) => boolean): number {
  let [out, into] = [outside, inside];
  for (let halving = 0; halving < 8; halving++) {
    const middle = (out + into) / 2;
    if (isIn(middle)) into = middle;
    else out = middle;
  }
  return (out + into) / 2;
}
