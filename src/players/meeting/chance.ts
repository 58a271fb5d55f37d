/**
 * The chance that an attempt succeeds: the Rasch model, logistic(skill - difficulty) (Rasch, "Probabilistic models for some
 * intelligence and attainment tests", 1960).
 *
 * It is worked out with the four operations alone, which every JavaScript engine rounds alike; Math.exp may differ in its
 * last digit from one engine to the next.
 *
 * @param skill in logits
 * @param difficulty in logits
 * @returns from 0 to 1
 */
export const successChance = (skill: number, difficulty: number): number =>
  1 / (1 + exponential(difficulty - skill));

/** Skills and difficulties go so far from 0, in logits, where they are computed. */
export const hardest = 20;

/** A chance as a whole threshold: a draw below it succeeds. Never a certainty, since no Rasch chance is one. */
export const threshold = (chance: number): number =>
  Math.min(2 ** 32 - 1, Math.max(1, Math.round(chance * 2 ** 32)));

/** ln 2 in two parts, the first with trailing zeros, so that a whole multiple of it is exact. */
export const ln2High = 0.6931471803691238;
export const ln2Low = 1.9082149292705877e-10;
/** Of Taylor's series: |rest| is at most 0.35, so that the 18th is below one unit in the last place. */
export const exponentialTerms = 18;

/** e to the power of x for |x| up to 40, within two units in the last place. */
export function exponential(x: number): number {
  const halvings = Math.floor(x / (ln2High + ln2Low) + 0.5);
  const rest = x - halvings * ln2High - halvings * ln2Low;
  let sum = 1;
  for (let term = exponentialTerms; term >= 1; term--) sum = 1 + (rest * sum) / term;
  let power = 1;
  for (let count = Math.abs(halvings); count > 0; count--) power *= 2;
  return halvings < 0 ? sum / power : sum * power;
}

/** The natural logarithm of a whole number from 1, by the four operations alone. */
export function logarithm(value: number): number {
  let doublings = 0;
  let rest = value;
  while (rest >= 2) {
    rest /= 2;
    doublings++;
  }
  // ln x = 2 artanh((x - 1) / (x + 1)), whose series in a ratio of at most a third is exact to a double after 17 terms.
  const ratio = (rest - 1) / (rest + 1);
  let sum = 0;
  for (let term = 17; term >= 0; term--) sum = sum * ratio * ratio + 1 / (2 * term + 1);
  return doublings * ln2High + (doublings * ln2Low + 2 * ratio * sum);
}

/**
 * What a normal variable comes to at a draw, in standard deviations (Wichura, "The percentage points of the normal distribution", algorithm AS
 * 241, 1988, to 16 digits), by operations that every engine rounds alike.
 *
 * @param drawn a whole number from 0 to below 2^32
 */
export function normalDeviate(drawn: number): number {
  const chance = (drawn + 0.5) / 2 ** 32;
  const off = chance - 0.5;
  if (Math.abs(off) <= 0.425) return off * fraction(near, 0.180625 - off * off);
  const far = Math.sqrt(logarithm(1 / Math.min(chance, 1 - chance)));
  const size = far <= 5 ? fraction(tail, far - 1.6) : fraction(farTail, far - 5);
  return off < 0 ? -size : size;
}

type Fraction = readonly [above: readonly number[], below: readonly number[]];

const fraction = ([above, below]: Fraction, x: number): number => series(above, x) / series(below, x);
const series = (terms: readonly number[], x: number): number =>
  terms.reduceRight((sum, term) => sum * x + term, 0);

const near: Fraction = [
  [
    3.3871328727963665, 133.14166789178438, 1971.5909503065513, 13731.69376550946, 45921.95393154987,
    67265.7709270087, 33430.57558358813, 2509.0809287301227,
  ],
  [
    1, 42.31333070160091, 687.1870074920579, 5394.196021424751, 21213.794301586597, 39307.89580009271,
    28729.085735721943, 5226.495278852854,
  ],
];
const tail: Fraction = [
  [
    1.4234371107496835, 4.630337846156546, 5.769497221460691, 3.6478483247632045, 1.2704582524523684,
    0.2417807251774506, 0.022723844989269184, 0.0007745450142783414,
  ],
  [
    1, 2.053191626637759, 1.6763848301838038, 0.6897673349851, 0.14810397642748008, 0.015198666563616457,
    0.0005475938084995345, 1.0507500716444169e-9,
  ],
];
const farTail: Fraction = [
  [
    6.657904643501103, 5.463784911164114, 1.7848265399172913, 0.29656057182850487, 0.026532189526576124,
    0.0012426609473880784, 2.7115555687434876e-5, 2.0103343992922881e-7,
  ],
  [
    1, 0.599832206555888, 0.1369298809227358, 0.014875361290850615, 0.0007868691311456133,
    1.846318317510055e-5, 1.4215117583164459e-7, 2.0442631033899397e-15,
  ],
];
