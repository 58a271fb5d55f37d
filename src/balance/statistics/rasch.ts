import { inverse, Matrix } from 'ml-matrix';
import { UsageError } from '../../design/problems/problem.js';
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

const mostIterations = 100;
const isDone = 1e-9;

/**
 * Skills and difficulties at once, by maximum likelihood: a success has the chance logistic(skill - difficulty) (Rasch, "Probabilistic
 * models for some intelligence and attainment tests", 1960), its equations solved by Newton's method, the intervals from the
 * inverse of the observed information (Wald). The scale's zero is free: the mean difficulty is held at `anchor`.
 *
 * Estimates exist only within a group of which no part did better than the rest in every attempt (Fischer 1981, "On the existence and
 * uniqueness of maximum-likelihood estimates in the Rasch model"): each such group is fitted by itself, and held at the anchor of its
 * own pieces; attempts between groups bound nothing.
 *
 * With few attempts of each player the estimates spread too far (Andersen 1973; with one attempt at each of n pieces by about n / (n - 1)).
 *
 * @param anchor the mean that the difficulties of some pieces are to have
 * @throws UsageError where it does not settle
 */
export function fitRasch(
  players: number,
  pieces: number,
  attempts: readonly Attempts[],
  anchor: (pieces: readonly number[]) => number,
  confidence = usualConfidence,
): RaschFit {
  const skills = Array<Estimate | undefined>(players).fill(undefined);
  const difficulties = Array<Estimate | undefined>(pieces).fill(undefined);
  let most = 0;
  for (const group of groupsOf(players, pieces, attempts)) {
    const { estimates, steps, skillOf, pieceOf } = fitGroup(group, anchor, confidence);
    for (const [player, index] of skillOf) skills[player] = estimates[index];
    for (const [piece, index] of pieceOf) difficulties[piece] = estimates[skillOf.size + index];
    most = Math.max(most, steps);
  }
  return { skills, difficulties, steps: most };
}

/** Fits players and pieces that bound each other; the estimates are of the players, then of the pieces. */
function fitGroup(
  used: readonly Attempts[],
  anchor: (pieces: readonly number[]) => number,
  confidence: number,
) {
  const skillOf = indices(used.map(({ player }) => player));
  const pieceOf = indices(used.map(({ piece }) => piece));
  const [n, m] = [skillOf.size, pieceOf.size];
  const mean = anchor([...pieceOf.keys()]);
  const values = Array<number>(n + m).fill(mean);
  let information = new Matrix(1, 1);
  let steps = 0;
  for (let change = 1; change > isDone; steps++) {
    if (steps === mostIterations)
      throw new UsageError(
        'The skills and difficulties of this log do not settle: some players nearly always succeed and others nearly never. Give a longer log.',
      );
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
  const estimates = values.map((value, index): Estimate => {
    const reach = z * Math.sqrt(Math.max(0, covariance.get(index, index)));
    return { value, low: value - reach, high: value + reach };
  });
  return { estimates, steps, skillOf, pieceOf };
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

/**
 * The attempts within each group of players and pieces that bound each other: those between which there is a way there and back, where a
 * success leads from the player to the piece, and a failure from the piece to the player.
 */
function groupsOf(players: number, pieces: number, attempts: readonly Attempts[]): Attempts[][] {
  const size = players + pieces;
  const [ahead, behind] = [0, 1].map(() => Array.from({ length: size }, (): number[] => [])) as [
    number[][],
    number[][],
  ];
  for (const { player, piece, successes, failures } of attempts) {
    const at = players + piece;
    if (successes > 0) {
      ahead[player]!.push(at);
      behind[at]!.push(player);
    }
    if (failures > 0) {
      ahead[at]!.push(player);
      behind[player]!.push(at);
    }
  }
  const group = Array<number>(size).fill(-1);
  for (let start = 0; start < size; start++) {
    if (group[start]! >= 0) continue;
    const back = reachedFrom(start, behind);
    for (const node of reachedFrom(start, ahead)) if (back.has(node)) group[node] = start;
  }
  const groups = new Map<number, Attempts[]>();
  for (const each of attempts) {
    const own = group[each.player]!;
    if (own !== group[players + each.piece]) continue;
    groups.set(own, [...(groups.get(own) ?? []), each]);
  }
  return [...groups.values()];
}

/** All that edges lead to from a node, itself included. */
function reachedFrom(start: number, edges: readonly (readonly number[])[]): Set<number> {
  const found = new Set([start]);
  for (const node of found) for (const next of edges[node]!) found.add(next);
  return found;
}

const indices = (values: readonly number[]): Map<number, number> =>
  new Map([...new Set(values)].sort((a, b) => a - b).map((value, index) => [value, index]));
