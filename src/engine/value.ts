import type { Counter, Value } from '../design/model.js';

/** Cells hold whole numbers: decimals scaled up, a flag as 1 or 0, a word by its place in the list. */
export function fromCell({ kind, words, places }: Counter, cell: number): Value {
  if (kind === 'flag') return cell !== 0;
  if (kind === 'words') return words[cell] ?? cell;
  return places === 0 ? cell : cell / 10 ** places;
}

export function toCell({ kind, words, places }: Counter, value: Value): number {
  if (kind === 'flag') return value === true ? 1 : 0;
  if (kind === 'words') return Math.max(0, words.indexOf(String(value)));
  return Math.round(Number(value) * 10 ** places);
}

/** Whether a counter can hold a value from outside. */
export function fits({ kind, words, places, min, max }: Counter, value: unknown): value is Value {
  if (kind === 'flag') return typeof value === 'boolean';
  if (kind === 'words') return words.includes(value as string);
  if (typeof value !== 'number' || !(value >= min && value <= max)) return false;
  return Math.round(value * 10 ** places) / 10 ** places === value;
}
