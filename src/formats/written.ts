import type { Unit } from '../design/measures.js';

/** Numbers as people read them, the same in a terminal and in every report. */
const grouping = new Intl.NumberFormat('en', { maximumFractionDigits: 1 });

export const number = (value: number): string => grouping.format(value);

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

export const interval = (low: number | null, high: number | null, unit: Unit): string =>
  low === null || high === null ? '' : `${inUnit(low, unit)} to ${inUnit(high, unit)}`;

export const clock = (milliseconds: number): string =>
  `${Math.floor(milliseconds / 60_000)}:${((milliseconds % 60_000) / 1000).toFixed(1).padStart(4, '0')}`;

/** What a target asks for, in words. */
export function wanted({ from, to, unit }: { from: number | null; to: number | null; unit: Unit }): string {
  if (from === null) return `at most ${inUnit(to, unit)}`;
  return to === null ? `at least ${inUnit(from, unit)}` : `${inUnit(from, unit)} to ${inUnit(to, unit)}`;
}
