import type { RaschGroup } from './rasch-group.js';

/**
 * Where a sitting's likelihood is looked at: in standard deviations around its peak (Pinheiro and Bates, "Approximations to the
 * log-likelihood function in the nonlinear mixed-effects model", 1995), one apart, which is exact to nine digits for what is nearly normal.
 */
const nodes = [-5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5] as const;
const logOfWidth = -Math.log(2 * Math.PI) / 2;
const peakSteps = 8;

/** The attempts of one session of one player, those with the same chance together. */
export interface Sitting {
  readonly player: number;
  readonly session: number;
  readonly rows: RaschGroup['rows'];
  /** How skilled whoever played it most likely was, in standard deviations: where the last search for it ended. */
  peak: number;
}

export function sittingsOf({ rows }: RaschGroup): Sitting[] {
  const found = new Map<
    string,
    { player: number; session: number; rows: Map<string, RaschGroup['rows'][0]> }
  >();
  for (const row of rows) {
    const { player, session = 0, successes, failures } = row;
    const key = `${player} ${session}`;
    const own = found.get(key) ?? { player, session, rows: new Map() };
    found.set(key, own);
    const alike = JSON.stringify(row.parts);
    const known = own.rows.get(alike);
    own.rows.set(
      alike,
      known === undefined
        ? row
        : { ...known, successes: known.successes + successes, failures: known.failures + failures },
    );
  }
  return [...found.values()].map(({ player, session, rows }) => ({
    player,
    session,
    rows: [...rows.values()],
    peak: 0,
  }));
}

/**
 * How likely what was played in a sitting is, and by how much more was taken than was to be expected of whoever played.
 *
 * @param told receives the likelihood of each row, and how far it leans to the more skilled
 */
export function posteriorOf(
  sitting: Sitting,
  values: readonly number[],
  spread: number,
  told?: (row: RaschGroup['rows'][0], residual: number, leaning: number) => void,
): { likelihood: number; residual: number } {
  const { rows } = sitting;
  const bases = rows.map(({ parts }) => parts.reduce((sum, [index, by]) => sum + by * values[index]!, 0));
  const width = findPeak(sitting, bases, spread);
  const skills = nodes.map((node) => sitting.peak + width * node);
  const logs = skills.map((z) => logOfWidth + Math.log(width) - (z * z) / 2);
  const many = skills.length;
  const chances = new Float64Array(rows.length * many);
  rows.forEach(({ successes, failures }, nth) => {
    for (let node = 0; node < many; node++) {
      const x = bases[nth]! + spread * skills[node]!;
      const far = Math.exp(-Math.abs(x));
      // ln logistic(x) and ln logistic(-x), without losing digits far out.
      logs[node]! -= (successes + failures) * Math.log(1 + far) + (x < 0 ? -successes : failures) * x;
      chances[nth * many + node] = x < 0 ? far / (1 + far) : 1 / (1 + far);
    }
  });
  const most = Math.max(...logs);
  const posterior = logs.map((log) => Math.exp(log - most));
  const all = posterior.reduce((sum, part) => sum + part, 0);
  let sum = 0;
  rows.forEach((row, nth) => {
    const { successes, failures } = row;
    let [residual, leaning] = [0, 0];
    for (let node = 0; node < many; node++) {
      const chance = chances[nth * many + node]!;
      const rest = (posterior[node]! / all) * (successes - (successes + failures) * chance);
      residual += rest;
      leaning += rest * skills[node]!;
    }
    sum += residual;
    told?.(row, residual, leaning);
  });
  return { likelihood: most + Math.log(all), residual: sum };
}

/** Finds where a sitting's likelihood is highest, from where it was last; gives how wide it is there, as a standard deviation. */
function findPeak(sitting: Sitting, bases: readonly number[], spread: number): number {
  let information = 1;
  for (let step = 0; step < peakSteps; step++) {
    let slope = -sitting.peak;
    information = 1;
    sitting.rows.forEach(({ successes, failures }, nth) => {
      const all = successes + failures;
      const chance = 1 / (1 + Math.exp(-(bases[nth]! + spread * sitting.peak)));
      slope += spread * (successes - all * chance);
      information += spread * spread * all * chance * (1 - chance);
    });
    const by = Math.max(-1, Math.min(1, slope / information));
    sitting.peak += by;
    if (Math.abs(by) < 0.01) break;
  }
  return 1 / Math.sqrt(information);
}
