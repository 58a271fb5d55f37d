import type { RaschGroup } from './rasch-group.js';

/**
 * Where a sitting's likelihood is looked at: in standard deviations around its peak (Pinheiro and Bates, "Approximations to the
 * log-likelihood function in the nonlinear mixed-effects model", 1995), one apart, which is exact to nine digits for what is nearly normal.
 */
const nodes = [-5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5] as const;
const logOfWidth = -Math.log(2 * Math.PI) / 2;
const peakSteps = 8;
/** Of the sitting that is looked at: how skilled, in standard deviations, and how likely so, at each node. */
const skills = new Float64Array(nodes.length);
const posterior = new Float64Array(nodes.length);

/** The attempts of one session of one player, those with the same chance together. */
export interface Sitting {
  readonly player: number;
  readonly session: number;
  readonly rows: RaschGroup['rows'];
  /** What the rows hold, flat: this is gone through thousands of times. Parts of row n stand from `partsFrom[n]` to `partsFrom[n + 1]`. */
  readonly attempts: Float64Array;
  readonly successes: Float64Array;
  readonly partsFrom: Int32Array;
  readonly parameters: Int32Array;
  readonly amounts: Float64Array;
  /** Room for what is worked out at each look: the ease of each row for whoever is average, and its chance at each node. */
  readonly bases: Float64Array;
  readonly chances: Float64Array;
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
  return [...found.values()].map(({ player, session, rows: own }) => {
    const rows = [...own.values()];
    const parts = rows.map((row) => row.parts);
    const partsFrom = new Int32Array(rows.length + 1);
    parts.forEach(({ length }, nth) => {
      partsFrom[nth + 1] = partsFrom[nth]! + length;
    });
    return {
      player,
      session,
      rows,
      attempts: Float64Array.from(rows, ({ successes, failures }) => successes + failures),
      successes: Float64Array.from(rows, ({ successes }) => successes),
      partsFrom,
      parameters: Int32Array.from(parts.flat(), ([parameter]) => parameter),
      amounts: Float64Array.from(parts.flat(), ([, amount]) => amount),
      bases: new Float64Array(rows.length),
      chances: new Float64Array(rows.length * nodes.length),
      peak: 0,
    };
  });
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
  const { rows, attempts, successes, bases, chances } = sitting;
  findBases(sitting, values);
  const width = findPeak(sitting, spread);
  const many = nodes.length;
  for (let node = 0; node < many; node++) {
    const z = sitting.peak + width * nodes[node]!;
    skills[node] = z;
    posterior[node] = logOfWidth + Math.log(width) - (z * z) / 2;
  }
  for (let nth = 0; nth < rows.length; nth++) {
    const [tries, won, base] = [attempts[nth]!, successes[nth]!, bases[nth]!];
    for (let node = 0; node < many; node++) {
      const x = base + spread * skills[node]!;
      const far = Math.exp(-Math.abs(x));
      // ln logistic(x) and ln logistic(-x), without losing digits far out.
      posterior[node]! -= tries * Math.log(1 + far) + (x < 0 ? -won : tries - won) * x;
      chances[nth * many + node] = x < 0 ? far / (1 + far) : 1 / (1 + far);
    }
  }
  const most = Math.max(...posterior);
  let all = 0;
  for (let node = 0; node < many; node++) {
    posterior[node] = Math.exp(posterior[node]! - most);
    all += posterior[node]!;
  }
  let sum = 0;
  for (let nth = 0; nth < rows.length; nth++) {
    let [residual, leaning] = [0, 0];
    for (let node = 0; node < many; node++) {
      const chance = chances[nth * many + node]!;
      const rest = (posterior[node]! / all) * (successes[nth]! - attempts[nth]! * chance);
      residual += rest;
      leaning += rest * skills[node]!;
    }
    sum += residual;
    told?.(rows[nth]!, residual, leaning);
  }
  return { likelihood: most + Math.log(all), residual: sum };
}

function findBases({ partsFrom, parameters, amounts, bases }: Sitting, values: readonly number[]): void {
  for (let nth = 0; nth < bases.length; nth++) {
    let base = 0;
    for (let part = partsFrom[nth]!; part < partsFrom[nth + 1]!; part++)
      base += amounts[part]! * values[parameters[part]!]!;
    bases[nth] = base;
  }
}

/** Finds where a sitting's likelihood is highest, from where it was last; gives how wide it is there, as a standard deviation. */
function findPeak(sitting: Sitting, spread: number): number {
  const { attempts, successes, bases } = sitting;
  let information = 1;
  for (let step = 0; step < peakSteps; step++) {
    let slope = -sitting.peak;
    information = 1;
    for (let nth = 0; nth < bases.length; nth++) {
      const tries = attempts[nth]!;
      const chance = 1 / (1 + Math.exp(-(bases[nth]! + spread * sitting.peak)));
      slope += spread * (successes[nth]! - tries * chance);
      information += spread * spread * tries * chance * (1 - chance);
    }
    const by = Math.max(-1, Math.min(1, slope / information));
    sitting.peak += by;
    if (Math.abs(by) < 0.01) break;
  }
  return 1 / Math.sqrt(information);
}
