/** A value with the interval that holds the true one in 95 of 100 simulations. */
export interface Estimate {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** The normal deviate of a two-sided 95 % interval, written out so that it is the same on every engine. */
const z = 1.959963984540054;

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

export function clustersOf(hits: ArrayLike<number>, all: ArrayLike<number>): Clusters {
  const sums = { sessions: hits.length, hits: 0, all: 0, hitsSquared: 0, allSquared: 0, product: 0 };
  for (let session = 0; session < hits.length; session++) {
    const hit = hits[session]!;
    const of = all[session]!;
    sums.hits += hit;
    sums.all += of;
    sums.hitsSquared += hit * hit;
    sums.allSquared += of * of;
    sums.product += hit * of;
  }
  return sums;
}

/** The standard error of a ratio of sums over sessions (linearised: Cochran, "Sampling Techniques", 1977, section 6.3). */
function ratioError({ sessions, hits, all, hitsSquared, allSquared, product }: Clusters): number {
  if (sessions < 2) return Number.POSITIVE_INFINITY;
  const ratio = hits / all;
  const squares = Math.max(0, hitsSquared - 2 * ratio * product + ratio * ratio * allSquared);
  return Math.sqrt((squares * sessions) / (sessions - 1)) / all;
}

/** A mean over runs, or any ratio of sums, with its interval by session. */
export function ratio(clusters: Clusters): Estimate {
  const value = clusters.hits / clusters.all;
  const reach = z * ratioError(clusters);
  return { value, low: value - reach, high: value + reach };
}

/**
 * A share with Wilson's interval (Wilson, "Probable inference, the law of succession, and statistical inference", 1927),
 * at the number of independent trials that would vary as much as these sessions do (Kish, "Survey Sampling", 1965).
 */
export function share(clusters: Clusters): Estimate {
  const { hits, all, sessions } = clusters;
  const value = hits / all;
  const error = ratioError(clusters);
  const independent = value > 0 && value < 1 && error > 0 ? (value * (1 - value)) / error ** 2 : sessions;
  if (!(independent > 0)) return { value, low: 0, high: 1 };
  const centre = (value + z ** 2 / (2 * independent)) / (1 + z ** 2 / independent);
  const reach =
    (z / (1 + z ** 2 / independent)) *
    Math.sqrt((value * (1 - value)) / independent + z ** 2 / (4 * independent ** 2));
  return { value, low: Math.max(0, centre - reach), high: Math.min(1, centre + reach) };
}
