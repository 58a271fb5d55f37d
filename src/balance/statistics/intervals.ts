import jstat from 'jstat';

/** A value with an interval that holds the true one as often as its confidence says. */
export interface Estimate {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** Of each interval that is reported by itself. */
export const usualConfidence = 0.95;

/** The confidence that each of `count` intervals needs for all of them to hold at once as often as one by itself (Bonferroni). */
export const confidenceOfEach = (count: number): number => 1 - (1 - usualConfidence) / count;

/** The normal deviate of a two-sided interval. */
export const deviateOf = (confidence: number): number => jstat.normal.inv((1 + confidence) / 2, 0, 1);

/**
 * Sums over sessions of a ratio such as "runs that ended here, of all runs". Runs of one session are not independent, so
 * the session is the unit that varies.
 */
export interface Clusters {
  readonly sessions: number;
  /** Sum of what is counted, and of what it is counted out of. */
  readonly hits: number;
  readonly all: number;
  /** Sums of squares and products of the two, over sessions. */
  readonly hitsSquared: number;
  readonly allSquared: number;
  readonly product: number;
}

/** The standard error of a ratio of sums over sessions (linearised: Cochran, "Sampling Techniques", 1977, section 6.3). */
export function ratioError({ sessions, hits, all, hitsSquared, allSquared, product }: Clusters): number {
  if (sessions < 2) return Number.POSITIVE_INFINITY;
  const ratio = hits / all;
  const squares = Math.max(0, hitsSquared - 2 * ratio * product + ratio * ratio * allSquared);
  return Math.sqrt((squares * sessions) / (sessions - 1)) / all;
}

/**
 * A ratio of sums with its interval by session; without bounds where one session alone speaks. Student's deviate is at as many sessions as
 * weigh the same, below the line or above it, whichever are fewer: few may hold nearly all that is counted.
 *
 * @param degrees of freedom of its error, at the most
 */
export function ratio(
  clusters: Clusters,
  confidence = usualConfidence,
  degrees = Math.max(fewestHolding, clusters.hits ** 2 / clusters.hitsSquared || 0),
): Estimate {
  const value = clusters.hits / clusters.all;
  const speaking = speakingSessions(clusters);
  if (speaking < 2) return { value, low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY };
  const reach = studentDeviate(confidence, Math.min(speaking - 1, degrees)) * ratioError(clusters);
  return { value, low: value - reach, high: value + reach };
}

/** Where what is counted may be lost as well as won, a sum near zero says nothing of how many sessions hold it. */
const fewestHolding = 10;

/**
 * The interval of an estimate whose errors lean to one side (Hall, "On the removal of skewness by transformation", 1992).
 *
 * @param error its standard error
 * @param skewness of the estimate; 0: none
 * @param deviate how many errors the interval reaches where there is none
 */
export function skewed(value: number, error: number, skewness: number, deviate: number): Estimate {
  const back = (deviation: number): number =>
    Math.abs(skewness) < 1e-6
      ? deviation
      : anywhere((3 / skewness) * (Math.cbrt(1 + skewness * (deviation - skewness / 6)) - 1));
  return { value, low: value - error * back(deviate), high: value - error * back(-deviate) };
}

/**
 * The bounds of an expected count, from the count that was observed (Garwood, "Fiducial limits for the Poisson distribution", 1936): about 0
 * to 3.7 for none.
 */
function poissonBounds(
  count: number,
  confidence = usualConfidence,
): { readonly low: number; readonly high: number } {
  const rest = (1 - confidence) / 2;
  return {
    low: count === 0 ? 0 : anywhere(jstat.chisquare.inv(rest, 2 * count) / 2),
    high: anywhere(jstat.chisquare.inv(1 - rest, 2 * count + 2) / 2),
  };
}

/** Something that came in so few sessions that its own errors are not normal. */
export interface Rare {
  readonly sessions: number;
  /** What the figure would be, had it occurred in `count` sessions. */
  readonly at: (sessions: number) => number;
}

/** What occurs in no more sessions than this is rare. */
export const rareUpTo = 30;

/**
 * Gives what is rare the interval that a rare count has, in place of its part in a normal one: a jackpot that nobody met may still be there.
 * Errors are put together as Zou and Donner do ("Construction of confidence limits about effect measures", 2008).
 */
export function withRare(
  { value, low, high }: Estimate,
  rare: readonly Rare[],
  confidence = usualConfidence,
): Estimate {
  const parts = rare.map(({ sessions, at }) => {
    const bounds = poissonBounds(sessions, confidence);
    const changes = [bounds.low, bounds.high].map((count) => at(count) - at(sessions));
    const slope = at(sessions + 0.5) - at(Math.max(0, sessions - 0.5));
    const normal = deviateOf(confidence) * Math.sqrt(sessions) * Math.abs(slope);
    return { down: -Math.min(0, ...changes), up: Math.max(0, ...changes), normal };
  });
  const joint = (reach: number, way: 'down' | 'up'): number => {
    const squared = parts.reduce((sum, part) => sum + part[way] ** 2 - part.normal ** 2, reach ** 2);
    return Math.sqrt(Math.max(squared, ...parts.map((part) => part[way] ** 2), 0));
  };
  return { value, low: value - joint(value - low, 'down'), high: value + joint(high - value, 'up') };
}

/**
 * A share with Wilson's interval (Wilson, "Probable inference, the law of succession, and statistical inference", 1927),
 * at the number of independent trials that would vary as much as these sessions do (Kish, "Survey Sampling", 1965).
 *
 * Only sessions that have something to be a part of say anything: where few runs reach a level, their number is what counts, and not that
 * of all sessions. It is taken as sessions of one size that would weigh as much (Kish): all² by the sum of squares. With few of them Student's
 * deviate stands in the place of the normal one.
 */
export function share(clusters: Clusters, confidence = usualConfidence): Estimate {
  const value = clusters.hits / clusters.all;
  const { trials, deviate } = independentTrials(clusters, confidence);
  return wilsonAt(value, trials, deviate);
}

/** How many independent trials would vary as much as a share of these sessions does, and the deviate that goes with them; 0: not known. */
export function independentTrials(
  clusters: Clusters,
  confidence = usualConfidence,
): { readonly trials: number; readonly deviate: number } {
  const { hits, all, sessions, allSquared } = clusters;
  const value = hits / all;
  const speaking = speakingSessions(clusters);
  // Few sessions may hold nearly all of it, or nearly all that it leaves out.
  const others = { hits: all - hits, hitsSquared: allSquared - 2 * clusters.product + clusters.hitsSquared };
  const holding = Math.min(
    ...[clusters, others].map((part) => part.hits ** 2 / part.hitsSquared || speaking),
  );
  // One session alone says nothing of how they vary.
  if (speaking < 2) return { trials: 0, deviate: deviateOf(confidence) };
  // Where each has one at the most, how they vary follows from the share itself.
  const isPlain = all === allSquared;
  const few = isPlain ? 1 : ((sessions - 1) / sessions) * (speaking / (speaking - 1));
  const error = ratioError(clusters) * Math.sqrt(few);
  const isInside = value > 0 && value < 1 && error > 0;
  return {
    trials: isInside ? (value * (1 - value)) / error ** 2 : speaking,
    deviate:
      isInside && !isPlain
        ? studentDeviate(confidence, Math.min(speaking, Math.max(fewestHolding, holding)) - 1)
        : deviateOf(confidence),
  };
}

/** Sessions of one size that would weigh as much as these do (Kish). */
export const speakingSessions = ({
  sessions,
  all,
  allSquared,
}: Pick<Clusters, 'sessions' | 'all' | 'allSquared'>): number => Math.min(sessions, (all * all) / allSquared);

/** Student's deviate of a two-sided interval; with many degrees of freedom the normal one. */
export const studentDeviate = (confidence: number, degrees: number): number =>
  anywhere(jstat.studentt.inv((1 + confidence) / 2, degrees));

/** The upper end of the F distribution with so much below it. */
export const ratioOfVariances = (confidence: number, degrees: number, otherDegrees: number): number =>
  anywhere(jstat.centralF.inv(confidence, degrees, otherDegrees));

/** Engines differ in the last digits of powers, roots and exponentials; these are the digits that all agree on. */
const anywhere = (value: number): number => Number(value.toPrecision(10));

/**
 * Wilson's interval.
 *
 * @param value the share that was found, from 0 to 1
 * @param trials independent ones behind it; need not be whole
 * @example
 * wilson(0, 10).high // => 0.2775
 */
export const wilson = (value: number, trials: number, confidence = usualConfidence): Estimate =>
  wilsonAt(value, trials, deviateOf(confidence));

function wilsonAt(value: number, trials: number, z: number): Estimate {
  if (!(trials > 0)) return { value, low: 0, high: 1 };
  const centre = (value + z ** 2 / (2 * trials)) / (1 + z ** 2 / trials);
  const reach =
    (z / (1 + z ** 2 / trials)) * Math.sqrt((value * (1 - value)) / trials + z ** 2 / (4 * trials ** 2));
  // Where none or all did, what is left of the difference is rounding.
  return {
    value,
    low: value === 0 ? 0 : Math.max(0, centre - reach),
    high: value === 1 ? 1 : Math.min(1, centre + reach),
  };
}

/**
 * The interval of a chance that is known with a standard error. It cannot leave 0 to 1: it is Wilson's, at the number of independent trials that
 * would have this error.
 *
 * @param sessions behind it. Where none of them says anything else than the others, a rarer one still may
 * @param degrees of freedom of the error
 */
export function chanceWith(
  value: number,
  error: number,
  sessions: number,
  degrees: number,
  confidence = usualConfidence,
): Estimate {
  const isInside = value > 0 && value < 1;
  if (isInside && error > 0)
    return wilsonAt(value, (value * (1 - value)) / error ** 2, studentDeviate(confidence, degrees));
  const unseen = neverSeenBound(sessions, confidence);
  return { value, low: Math.max(0, value - unseen), high: Math.min(1, value + unseen) };
}

/** The interval of a chance by its odds, which vary more evenly than itself near 0 and 1. */
export function byOdds(value: number, error: number, deviate: number): Estimate {
  const factor = anywhere(Math.exp((deviate * error) / (value * (1 - value))));
  const chance = (odds: number): number => odds / (1 + odds);
  const odds = value / (1 - value);
  return { value, low: chance(odds / factor), high: chance(odds * factor) };
}

/**
 * The upper bound of a chance of which `sessions` sessions showed nothing (Clopper and Pearson, "The use of confidence or fiducial limits
 * illustrated in the case of the binomial", 1934; about 3 in n).
 *
 * @returns from 0 to 1; 1 for no session
 */
export const neverSeenBound = (sessions: number, confidence = usualConfidence): number =>
  sessions === 0 ? 1 : anywhere(1 - (1 - confidence) ** (1 / sessions));

/**
 * The difference of two independent shares, from the interval of each (Newcombe, "Interval estimation for the difference between
 * independent proportions", 1998, method 10).
 */
export function shareDifference(one: Estimate, other: Estimate): Estimate {
  const value = one.value - other.value;
  return {
    value,
    low: value - Math.hypot(one.value - one.low, other.high - other.value),
    high: value + Math.hypot(one.high - one.value, other.value - other.low),
  };
}
