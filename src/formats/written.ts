import type { Estimate } from '../balance/statistics/intervals.js';
import type { SimulationSummary } from '../balance/summary.js';
import type { Unit } from '../design/measures.js';

/** What writes numbers, by the fewest and the most decimals: the first to be made takes a twentieth of a second. */
const writers = new Map<string, Intl.NumberFormat>();

function inDecimals(value: number, least: number, most: number): string {
  const key = `${least} ${most}`;
  const writer =
    writers.get(key) ??
    new Intl.NumberFormat('en', {
      minimumFractionDigits: least,
      maximumFractionDigits: most,
      // A number that rounds to nothing has no sign.
      signDisplay: 'negative',
    });
  writers.set(key, writer);
  return writer.format(value);
}

/** Numbers as people read them, the same in a terminal and in every report. */
export const number = (value: number): string => inDecimals(value, 0, 1);

/** Such as "2 of 3 tests", and "1 of 1 test". */
export const someOf = (count: number, all: number, one: string): string =>
  `${count} of ${all} ${one}${all === 1 ? '' : 's'}`;

/** How many tests passed, or that there are none. */
export const testsPassed = (passed: number, all: number): string =>
  all === 0 ? 'no tests' : `${someOf(passed, all, 'test')} passed`;

export const percent = (share: number): string =>
  share > 0 && share < 0.001
    ? '< 0.1 %'
    : share < 1 && share > 0.999
      ? '> 99.9 %'
      : `${(share * 100).toFixed(share === 0 || share === 1 ? 0 : 1)} %`;

/** A value in its unit; a dash where there is none. */
export function inUnit(value: number | null | undefined, unit: Unit): string {
  if (value === null || value === undefined) return '–';
  return unit === 'share' ? percent(value) : `${number(value)}${unit === 'seconds' ? ' s' : ''}`;
}

const mostDecimals = 6;

/** Whether an interval is seen at all: what is left of sums that should come out even is not. */
const isSeen = (reach: number): boolean => reach >= 0.5 * 10 ** -mostDecimals;

/** Decimals that an interval of such a reach leaves any meaning to: one digit of it, two where it begins with a 1. */
function decimalsOf(reach: number): number {
  const power = Math.floor(Math.log10(reach));
  const isOne = reach / 10 ** power < 2;
  return Math.min(mostDecimals, Math.max(0, (isOne ? 1 : 0) - power));
}

/** A value in a fixed number of decimals. */
export const withDecimals = (value: number, decimals: number): string =>
  inDecimals(value, decimals, decimals);

/** A value with how far the true one may be from it, in digits that mean something; the value alone where nothing is known of that. */
export function withReach(value: number, low: number, high: number, unit: Unit): string {
  const reach = Math.max(value - low, high - value);
  if (!Number.isFinite(reach)) return inUnit(value, unit);
  if (unit === 'share' && value >= 0) {
    if (low >= 0 && value - reach < 0 && high < 0.5) return `≤ ${bound(high * 100, Math.ceil)} %`;
    if (value + reach > 1 && low > 0.5) return `≥ ${bound(low * 100, Math.floor)} %`;
    // Of so few, an interval that reaches past nothing or all says more by its ends.
    if (value - reach < 0 || value + reach > 1)
      return `${bound(low * 100, Math.floor)} – ${bound(high * 100, Math.ceil)} %`;
  }
  return plusMinus(value, reach, unit);
}

function plusMinus(value: number, reach: number, unit: Unit): string {
  const { scale, after } = scaleOf(unit);
  if (!isSeen(reach * scale)) return `${number(value * scale)}${after}`;
  const decimals = decimalsOf(reach * scale);
  return `${withDecimals(value * scale, decimals)} ± ${withDecimals(reach * scale, decimals)}${after}`;
}

/** A value with both ends of its interval, in digits that mean something; a dash for an end that is not known. */
export function withInterval(value: number, low: number | null, high: number | null, unit: Unit): string {
  const ends = [low, high].filter((end): end is number => end !== null && Number.isFinite(end));
  const { scale, after } = scaleOf(unit);
  const reach = Math.max(...ends.map((end) => Math.abs(end - value) * scale));
  const decimals = isSeen(reach) ? decimalsOf(reach) : undefined;
  const written = (each: number | null): string => {
    if (each === null || !Number.isFinite(each)) return '–';
    return decimals === undefined ? number(each * scale) : withDecimals(each * scale, decimals);
  };
  return `${written(value)}${after} [${written(low)}, ${written(high)}]`;
}

const scaleOf = (unit: Unit): { readonly scale: number; readonly after: string } => ({
  scale: unit === 'share' ? 100 : 1,
  after: unit === 'share' ? ' %' : unit === 'seconds' ? ' s' : '',
});

/** A change with how far the true one may be from it. */
export function changeWithReach({ value, low, high }: Estimate, unit: Unit): string {
  const reach = Math.max(value - low, high - value);
  if (!Number.isFinite(reach)) return 'the same in every session';
  return `${value > 0 ? '+' : ''}${plusMinus(value, reach, unit)}`;
}

/** A bound in two digits, away from the value; of one near 100, the two digits that are left to it. */
function bound(percentage: number, round: (value: number) => number): string {
  const left = round === Math.floor ? 100 - percentage : percentage;
  if (left <= 0) return number(percentage);
  const decimals = Math.max(0, 1 - Math.floor(Math.log10(left)));
  return withDecimals(round(percentage * 10 ** decimals) / 10 ** decimals, Math.min(mostDecimals, decimals));
}

export const interval = (low: number | null, high: number | null, unit: Unit): string =>
  low === null || high === null ? '' : `${inUnit(low, unit)} to ${inUnit(high, unit)}`;

export const clock = (milliseconds: number): string =>
  `${Math.floor(milliseconds / 60_000)}:${((milliseconds % 60_000) / 1000).toFixed(1).padStart(4, '0')}`;

/** How much of the score is skill, and how surely. */
export function skillWords({ value, low, high }: Estimate): string {
  if (low === 0 && high === 1) return 'These sessions do not show whether skill or luck makes scores differ';
  return `Skill accounts for ${withInterval(value, low, high, 'share')} of the differences between scores, luck for the rest`;
}

/** Who of two players outscores the other, and how surely. */
export function winWords({ of, over, chance, isTied, isLowBest }: SimulationSummary['wins'][0]): string {
  if (isTied) return `${of} and ${over} always score the same`;
  if (isLowBest)
    return `${of} has the lower score in ${withInterval(1 - chance.value, 1 - chance.high, 1 - chance.low, 'share')} of pairings with ${over}`;
  return `${of} outscores ${over} in ${withInterval(chance.value, chance.low, chance.high, 'share')} of pairings`;
}

/** What a target asks for, in words. */
export function wanted({ from, to, unit }: { from: number | null; to: number | null; unit: Unit }): string {
  if (from === null) return `at most ${inUnit(to, unit)}`;
  return to === null ? `at least ${inUnit(from, unit)}` : `${inUnit(from, unit)} to ${inUnit(to, unit)}`;
}
