import { inverse, Matrix } from 'ml-matrix';
import { UsageError } from '../../design/problems/problem.js';
import { deviateOf, type Estimate, studentDeviate, usualConfidence } from './intervals.js';

/** How often one player succeeded at one piece, and how often it failed. */
export interface Attempts {
  readonly player: number;
  readonly piece: number;
  readonly successes: number;
  readonly failures: number;
  /** The natural logarithm of which run of the session it was; 0 for the first. */
  readonly practice?: number;
  /** Attempts of one session may go together. */
  readonly session?: number;
}

export interface RaschFit {
  /** In logits; undefined where all attempts ended alike, so that nothing bounds it. */
  readonly skills: readonly (Estimate | undefined)[];
  readonly difficulties: readonly (Estimate | undefined)[];
  /** What each player's skill grows by with practice; undefined where there is none. */
  readonly learning: readonly (Estimate | undefined)[];
  readonly steps: number;
}

const mostIterations = 100;
const isDone = 1e-9;

/**
 * Skills and difficulties at once, by maximum likelihood: a success has the chance logistic(skill + learning * practice - difficulty) (Rasch,
 * "Probabilistic models for some intelligence and attainment tests", 1960; learning as a power of practice), its equations solved by Newton's
 * method. The intervals are from the inverse of the observed information (Wald), or by session where attempts of one session go together (Liang and
 * Zeger 1986), whichever is wider. The scale's zero is free: the mean difficulty is held at `anchor`.
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
  const learning = Array<Estimate | undefined>(players).fill(undefined);
  let most = 0;
  for (const group of groupsOf(players, pieces, attempts)) {
    const { estimates, steps, skillOf, pieceOf, learningOf } = fitGroup(group, anchor, confidence);
    for (const [player, index] of skillOf) skills[player] = estimates[index];
    for (const [piece, index] of pieceOf) difficulties[piece] = estimates[skillOf.size + index];
    for (const [player, index] of learningOf)
      learning[player] = estimates[skillOf.size + pieceOf.size + index];
    most = Math.max(most, steps);
  }
  return { skills, difficulties, learning, steps: most };
}

/** Fits players and pieces that bound each other; the estimates are of the players, then of the pieces. */
function fitGroup(
  used: readonly Attempts[],
  anchor: (pieces: readonly number[]) => number,
  confidence: number,
) {
  const skillOf = indices(used.map(({ player }) => player));
  const pieceOf = indices(used.map(({ piece }) => piece));
  const learningOf = indices(playersThatPractise(used));
  const [n, m] = [skillOf.size, pieceOf.size];
  const size = n + m + learningOf.size;
  /** What an attempt's chance depends on: parameters with their weights. */
  const partsOf = ({ player, piece, practice = 0 }: Attempts): readonly (readonly [number, number])[] => {
    const own = [
      [skillOf.get(player)!, 1],
      [n + pieceOf.get(piece)!, -1],
    ] as const;
    const learned = learningOf.get(player);
    return learned === undefined ? own : [...own, [n + m + learned, practice]];
  };
  const rows = used.map((each) => ({ ...each, parts: partsOf(each) }));
  const mean = anchor([...pieceOf.keys()]);
  const values = Array.from({ length: size }, (_, index) => (index < n + m ? mean : 0));
  const slopeOf = ({ parts, successes, failures }: (typeof rows)[0]) => {
    const chance = 1 / (1 + Math.exp(-parts.reduce((sum, [index, by]) => sum + by * values[index]!, 0)));
    const all = successes + failures;
    return { slope: successes - all * chance, weight: all * chance * (1 - chance) };
  };
  let covariance = new Matrix(1, 1);
  let steps = 0;
  for (let change = 1; change > isDone; steps++) {
    if (steps === mostIterations)
      throw new UsageError(
        'The skills and difficulties of this log do not settle: some players nearly always succeed and others nearly never. Give a longer log.',
      );
    const gradient = Array<number>(size).fill(0);
    const information = Matrix.zeros(size, size);
    for (const row of rows) {
      const { slope, weight } = slopeOf(row);
      for (const [one, by] of row.parts) {
        gradient[one]! += by * slope;
        for (const [other, also] of row.parts)
          information.set(one, other, information.get(one, other) + by * also * weight);
      }
    }
    hold(information, n, m);
    covariance = inverse(information);
    const step = covariance.mmul(Matrix.columnVector(gradient));
    change = 0;
    for (let index = 0; index < size; index++) {
      // A step of more than one logit would overshoot.
      const by = Math.max(-1, Math.min(1, step.get(index, 0)));
      values[index]! += by;
      change = Math.max(change, Math.abs(by));
    }
  }
  // What each session adds to the slopes.
  const sessions = new Map<number, number[]>();
  for (const row of rows) {
    const { slope } = slopeOf(row);
    const own = sessions.get(row.session ?? 0) ?? Array<number>(size).fill(0);
    sessions.set(row.session ?? 0, own);
    for (const [index, by] of row.parts) own[index]! += by * slope;
  }
  const bySession = spreadOf([...sessions.values()], covariance);
  const z = deviateOf(confidence);
  const t = sessions.size < 2 ? z : studentDeviate(confidence, sessions.size - 1);
  const estimates = values.map((value, index): Estimate => {
    const byModel = z * Math.sqrt(Math.max(0, covariance.get(index, index)));
    const reach = Math.max(byModel, t * Math.sqrt(bySession[index]!));
    return { value, low: value - reach, high: value + reach };
  });
  return { estimates, steps, skillOf, pieceOf, learningOf };
}

/** The variance of each value by session: the sandwich of the slopes of all sessions between two inverses. */
function spreadOf(slopes: readonly (readonly number[])[], covariance: Matrix): number[] {
  const count = slopes.length;
  if (count < 2) return Array<number>(covariance.rows).fill(0);
  const moved = new Matrix(slopes.map((each) => [...each])).mmul(covariance);
  return Array.from({ length: covariance.rows }, (_, index) => {
    const squares = moved.getColumn(index).reduce((sum, each) => sum + each * each, 0);
    return (squares * count) / (count - 1);
  });
}

/** Players with attempts in runs of different practice. */
function playersThatPractise(attempts: readonly Attempts[]): number[] {
  const first = new Map<number, number>();
  const found: number[] = [];
  for (const { player, practice = 0 } of attempts) {
    const known = first.get(player);
    if (known === undefined) first.set(player, practice);
    else if (known !== practice) found.push(player);
  }
  return found;
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
  const groupOf = Array<number>(size).fill(-1);
  for (let start = 0; start < size; start++) {
    if (groupOf[start]! >= 0) continue;
    const back = reachedFrom(start, behind);
    for (const node of reachedFrom(start, ahead)) if (back.has(node)) groupOf[node] = start;
  }
  const groups = new Map<number, Attempts[]>();
  for (const each of attempts) {
    const own = groupOf[each.player]!;
    if (own !== groupOf[players + each.piece]) continue;
    const group = groups.get(own);
    if (group === undefined) groups.set(own, [each]);
    else group.push(each);
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
