import { inverse, Matrix } from 'ml-matrix';
import { UsageError } from '../../design/problems/problem.js';
import { deviateOf, type Estimate, studentDeviate, usualConfidence } from './intervals.js';
import { fitPeople } from './people.js';
import { type Attempts, groupFrom, hold, type RaschGroup, spreadOf } from './rasch-group.js';

export interface RaschFit {
  /** In logits; undefined where all attempts ended alike, so that nothing bounds it. */
  readonly skills: readonly (Estimate | undefined)[];
  readonly difficulties: readonly (Estimate | undefined)[];
  /** By player and covariate, what skill grows by with it; undefined where it does not vary. */
  readonly slopes: readonly (readonly (Estimate | undefined)[])[];
  /** How much the people who played as one player differ in skill; undefined where too few sessions tell. */
  readonly spreads: readonly (Estimate | undefined)[];
  readonly steps: number;
}

const mostIterations = 100;
const isDone = 1e-9;

/**
 * Skills and difficulties at once, by maximum likelihood: a success has the chance logistic(skill + slopes * covariates - difficulty) (Rasch,
 * "Probabilistic models for some intelligence and attainment tests", 1960), its equations solved by Newton's method. The intervals are from the
 * inverse of the observed information (Wald), or by session where attempts of one session go together (Liang and
 * Zeger 1986), whichever is wider. The scale's zero is free: the mean difficulty is held at `anchor`.
 *
 * Estimates exist only within a group of which no part did better than the rest in every attempt (Fischer 1981, "On the existence and
 * uniqueness of maximum-likelihood estimates in the Rasch model"): each such group is fitted by itself, and held at the anchor of its
 * own pieces; attempts between groups bound nothing.
 *
 * Where the sessions of a player show that different people played, all of it is fitted again with skills that differ (`fitPeople`).
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
  const spreads = Array<Estimate | undefined>(players).fill(undefined);
  const covariates = attempts.reduce((most, { covariates = [] }) => Math.max(most, covariates.length), 0);
  const slopes = Array.from({ length: players }, () =>
    Array<Estimate | undefined>(covariates).fill(undefined),
  );
  let most = 0;
  for (const used of groupsOf(players, pieces, attempts)) {
    const group = groupFrom(used);
    const { values, estimates: alike, steps } = fitGroup(group, anchor, confidence);
    const people = fitPeople(group, values, confidence);
    const estimates = people.estimates ?? alike;
    for (const [player, index] of group.skillOf) skills[player] = estimates[index];
    for (const [piece, index] of group.pieceOf) difficulties[piece] = estimates[index];
    for (const { player, covariate, index } of group.slopes) slopes[player]![covariate] = estimates[index];
    for (const [player, spread] of people.spreads) spreads[player] = spread;
    most = Math.max(most, steps);
  }
  return { skills, difficulties, slopes, spreads, steps: most };
}

/** Fits a group; an estimate for each of its parameters. */
function fitGroup(
  { rows, skillOf, pieceOf, size }: RaschGroup,
  anchor: (pieces: readonly number[]) => number,
  confidence: number,
) {
  const [n, m] = [skillOf.size, pieceOf.size];
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
        'undetermined',
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
    hold(information, pieceOf);
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
  return { values, estimates, steps };
}

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
