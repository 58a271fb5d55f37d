import type { Value } from '../../design/model.js';
import type { CounterInfo } from './form.js';

/** Cells hold whole numbers: decimals scaled up, a flag as 1 or 0, a word by its place in the list. */
export function fromCell({ kind, words, places }: CounterInfo, cell: number): Value {
  if (kind === 'flag') return cell !== 0;
  if (kind === 'words') return words[cell] ?? cell;
  return places === 0 ? cell : cell / 10 ** places;
}

export function toCell({ kind, words, places }: CounterInfo, value: Value): number {
  if (kind === 'flag') return value === true ? 1 : 0;
  if (kind === 'words') return Math.max(0, words.indexOf(String(value)));
  return Math.round(Number(value) * 10 ** places);
}

/** Whether a counter can hold a value from outside. */
export function fits(counter: CounterInfo, value: unknown): value is Value {
  const { kind, words, min, max } = counter;
  if (kind === 'flag') return typeof value === 'boolean';
  if (kind === 'words') return words.includes(value as string);
  if (typeof value !== 'number') return false;
  const cell = toCell(counter, value);
  return cell >= min && cell <= max && fromCell(counter, cell) === value;
}
