import { Matrix } from 'ml-matrix';

/** How often one player succeeded at one piece, and how often it failed. */
export interface Attempts {
  readonly player: number;
  readonly piece: number;
  readonly successes: number;
  readonly failures: number;
  /** What else skill depends on, each with a slope of the player's own, such as the natural logarithm of the run; none unless given. */
  readonly covariates?: readonly number[];
  /** Attempts of one session may go together. */
  readonly session?: number;
}

/** Players and pieces that bound each other. */
export interface RaschGroup {
  readonly rows: readonly (Attempts & {
    /** What the chance depends on: parameters with their weights. */
    readonly parts: readonly (readonly [index: number, by: number])[];
  })[];
  /** Where the parameters of players and pieces stand. */
  readonly skillOf: ReadonlyMap<number, number>;
  readonly pieceOf: ReadonlyMap<number, number>;
  readonly slopes: readonly { readonly player: number; readonly covariate: number; readonly index: number }[];
  /** Parameters in all. */
  readonly size: number;
}

/** The parameters of a group, and what each attempt's chance depends on. */
export function groupFrom(used: readonly Attempts[]): RaschGroup {
  const skillOf = indices(
    used.map(({ player }) => player),
    0,
  );
  const pieceOf = indices(
    used.map(({ piece }) => piece),
    skillOf.size,
  );
  const first = skillOf.size + pieceOf.size;
  const slopes = slopesIn(used).map((slope, nth) => ({ ...slope, index: first + nth }));
  const rows = used.map((each) => ({
    ...each,
    parts: [
      [skillOf.get(each.player)!, 1],
      [pieceOf.get(each.piece)!, -1],
      ...slopes
        .filter(({ player }) => player === each.player)
        .map(({ covariate, index }) => [index, each.covariates![covariate]!] as const),
    ] as const,
  }));
  return { rows, skillOf, pieceOf, slopes, size: first + slopes.length };
}

/** Players with the covariates that vary over their attempts. */
function slopesIn(attempts: readonly Attempts[]): { player: number; covariate: number }[] {
  const first = new Map<number, readonly number[]>();
  const found = new Map<string, { player: number; covariate: number }>();
  for (const { player, covariates = [] } of attempts) {
    const known = first.get(player);
    if (known === undefined) first.set(player, covariates);
    else
      covariates.forEach((value, covariate) => {
        if (value !== known[covariate]) found.set(`${player} ${covariate}`, { player, covariate });
      });
  }
  return [...found.values()].sort((a, b) => a.player - b.player || a.covariate - b.covariate);
}

/** Keeps the sum of the difficulties where it is: a step that moves all of them alike changes no chance. */
export function hold(information: Matrix, pieceOf: RaschGroup['pieceOf']): void {
  const weight = holding * information.trace();
  for (const row of pieceOf.values())
    for (const column of pieceOf.values())
      information.set(row, column, information.get(row, column) + weight);
}

/** So many times the information in all there is: the sum then has no error to speak of. */
const holding = 1e4;

/** The variance of each value by session: the sandwich of the slopes of all sessions between two inverses. */
export function spreadOf(slopes: readonly (readonly number[])[], covariance: Matrix): number[] {
  const count = slopes.length;
  if (count < 2) return Array<number>(covariance.rows).fill(0);
  const moved = new Matrix(slopes.map((each) => [...each])).mmul(covariance);
  return Array.from({ length: covariance.rows }, (_, index) => {
    const squares = moved.getColumn(index).reduce((sum, each) => sum + each * each, 0);
    return (squares * count) / (count - 1);
  });
}

const indices = (values: readonly number[], first: number): Map<number, number> =>
  new Map([...new Set(values)].sort((a, b) => a - b).map((value, index) => [value, first + index]));
