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
