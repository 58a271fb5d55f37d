import { inverse, Matrix } from 'ml-matrix';
import { deviateOf, type Estimate, usualConfidence } from './intervals.js';

/** How often one player succeeded at one piece, and how often it failed. */
export interface Attempts {
  readonly player: number;
  readonly piece: number;
  readonly successes: number;
  readonly failures: number;
}

export interface RaschFit {
  /** In logits; undefined where all attempts ended alike, so that nothing bounds it. */
  readonly skills: readonly (Estimate | undefined)[];
  readonly difficulties: readonly (Estimate | undefined)[];
  readonly steps: number;
}

const mostSteps = 100;
const isDone = 1e-9;

/**
 * Skills and difficulties at once, by maximum likelihood: a success has the chance logistic(skill - difficulty) (Rasch, "Probabilistic
 * models for some intelligence and attainment tests", 1960), its equations solved by Newton's method, the intervals from the
 * inverse of the observed information (Wald). The scale's zero is free: the mean difficulty is held at `anchor`.
 *
 * With few attempts of each player the estimates spread too far (Andersen 1973; with one attempt at each of n pieces by about n / (n - 1)).
 *
 * @param anchor the mean that the difficulties are to have, of those that can be estimated
 * @throws RangeError where it does not settle
 */
export function fitRasch(
  players: number,
  pieces: number,
  attempts: readonly Attempts[],
  anchor: (pieces: readonly number[]) => number,
  confidence = usualConfidence,
): RaschFit {
  const used = withoutExtremes(attempts);
  const skillOf = indices(used.map(({ player }) => player));
  const pieceOf = indices(used.map(({ piece }) => piece));
  const [n, m] = [skillOf.size, pieceOf.size];
  if (n === 0 || m === 0)
    return { skills: Array(players).fill(undefined), difficulties: Array(pieces).fill(undefined), steps: 0 };
  const mean = anchor([...pieceOf.keys()]);
  const values = [...Array<number>(n).fill(mean), ...Array<number>(m).fill(mean)];
  let information = new Matrix(1, 1);
  let steps = 0;
  for (let change = 1; change > isDone; steps++) {
    if (steps === mostSteps) throw new RangeError('The estimates of skills and difficulties do not settle.');
    const gradient = Array<number>(n + m).fill(0);
    information = Matrix.zeros(n + m, n + m);
    for (const { player, piece, successes, failures } of used) {
      const [p, q] = [skillOf.get(player)!, n + pieceOf.get(piece)!];
      const chance = 1 / (1 + Math.exp(values[q]! - values[p]!));
      const all = successes + failures;
      const slope = successes - all * chance;
      const weight = all * chance * (1 - chance);
      gradient[p]! += slope;
      gradient[q]! -= slope;
      information.set(p, p, information.get(p, p) + weight);
      information.set(q, q, information.get(q, q) + weight);
      information.set(p, q, information.get(p, q) - weight);
      information.set(q, p, information.get(q, p) - weight);
    }
    hold(information, n, m);
    const step = inverse(information).mmul(Matrix.columnVector(gradient));
    change = 0;
    for (let index = 0; index < n + m; index++) {
      // A step of more than one logit would overshoot.
      const by = Math.max(-1, Math.min(1, step.get(index, 0)));
      values[index]! += by;
      change = Math.max(change, Math.abs(by));
    }
  }
  const covariance = inverse(information);
  const z = deviateOf(confidence);
  const estimate = (index: number): Estimate => {
    const reach = z * Math.sqrt(Math.max(0, covariance.get(index, index)));
    const value = values[index]!;
    return { value, low: value - reach, high: value + reach };
  };
  const at = (map: ReadonlyMap<number, number>, offset: number) => (_: unknown, index: number) => {
    const found = map.get(index);
    return found === undefined ? undefined : estimate(offset + found);
  };
  return {
    skills: Array.from({ length: players }, at(skillOf, 0)),
    difficulties: Array.from({ length: pieces }, at(pieceOf, n)),
    steps,
  };
}

/** Keeps the sum of the difficulties where it is: a step that moves all of them alike changes no chance. */
function hold(information: Matrix, n: number, m: number): void {
  const weight = holding * information.trace();
  for (let row = 0; row < m; row++)
    for (let column = 0; column < m; column++)
      information.set(n + row, n + column, information.get(n + row, n + column) + weight);
}

/** So many times the information in all there is: the sum then has no error to speak of. */
const holding = 1e4;

/** Without players and pieces of whom all attempts ended alike: nothing bounds their values. */
function withoutExtremes(attempts: readonly Attempts[]): Attempts[] {
  let kept = attempts.filter(({ successes, failures }) => successes + failures > 0);
  for (;;) {
    const sums = (key: 'player' | 'piece'): Map<number, [number, number]> => {
      const found = new Map<number, [number, number]>();
      for (const each of kept) {
        const [successes, failures] = found.get(each[key]) ?? [0, 0];
        found.set(each[key], [successes + each.successes, failures + each.failures]);
      }
      return found;
    };
    const [players, pieces] = [sums('player'), sums('piece')];
    const isMixed = (found: [number, number] | undefined): boolean => found![0] > 0 && found![1] > 0;
    const rest = kept.filter(
      ({ player, piece }) => isMixed(players.get(player)) && isMixed(pieces.get(piece)),
    );
    if (rest.length === kept.length) return kept;
    kept = rest;
  }
}

const indices = (values: readonly number[]): Map<number, number> =>
  new Map([...new Set(values)].sort((a, b) => a - b).map((value, index) => [value, index]));
