import jstat from 'jstat';

/** A value with an interval that holds the true one as often as its confidence says. */
export interface Estimate {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** Of each interval that is told by itself. */
export const usualConfidence = 0.95;

/** The confidence of each of so many intervals that all hold at once as often as one by itself (Bonferroni). */
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

/** A mean over runs, or any ratio of sums, with its interval by session. */
export function ratio(clusters: Clusters, confidence = usualConfidence): Estimate {
  const value = clusters.hits / clusters.all;
  const reach = deviateOf(confidence) * ratioError(clusters);
  return { value, low: value - reach, high: value + reach };
}

/**
 * A share with Wilson's interval (Wilson, "Probable inference, the law of succession, and statistical inference", 1927),
 * at the number of independent trials that would vary as much as these sessions do (Kish, "Survey Sampling", 1965).
 *
 * Only sessions that have something to be a part of say anything: where few runs come to a level, their number is what counts, and not that
 * of all sessions. It is taken as sessions of one size that would weigh as much (Kish): all² by the sum of squares. With few of them Student's
 * deviate stands in the place of the normal one.
 */
export function share(clusters: Clusters, confidence = usualConfidence): Estimate {
  const { hits, all, sessions, allSquared } = clusters;
  const value = hits / all;
  const speaking = Math.min(sessions, (all * all) / allSquared);
  // One session alone says nothing of how they vary.
  if (speaking < 2) return { value, low: 0, high: 1 };
  // Where each has one at the most, how they vary follows from the share itself.
  const isPlain = all === allSquared;
  const few = isPlain ? 1 : ((sessions - 1) / sessions) * (speaking / (speaking - 1));
  const error = ratioError(clusters) * Math.sqrt(few);
  const isInside = value > 0 && value < 1 && error > 0;
  const independent = isInside ? (value * (1 - value)) / error ** 2 : speaking;
  const deviate = isInside && !isPlain ? studentDeviate(confidence, speaking - 1) : deviateOf(confidence);
  return wilsonAt(value, independent, deviate);
}

/** Student's deviate of a two-sided interval; with many degrees of freedom the normal one. */
const studentDeviate = (confidence: number, degrees: number): number =>
  jstat.studentt.inv((1 + confidence) / 2, degrees);

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
  return { value, low: Math.max(0, centre - reach), high: Math.min(1, centre + reach) };
}

/**
 * The upper bound of a chance that was not met in so many sessions (Clopper and Pearson, "The use of confidence or fiducial limits
 * illustrated in the case of the binomial", 1934; about 3 in n).
 *
 * @returns from 0 to 1; 1 for no session
 */
export const neverSeenBound = (sessions: number, confidence = usualConfidence): number =>
  sessions === 0 ? 1 : 1 - (1 - confidence) ** (1 / sessions);

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
