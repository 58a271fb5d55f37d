import { DesignError, type Problem } from '../design/problem.js';

import { fault } from './faults.js';
import type { GameForm } from './form.js';

/** A session at one moment, as plain JSON. */
export interface Snapshot {
  readonly snapshot: 1;
  /** Digests of the design's sections. */
  readonly design: { readonly [section: string]: string };
  readonly seed: number;
  readonly session: number;
  readonly spawns: boolean;
  readonly ignored: number;
  /** Time passed that is less than a millisecond. */
  readonly fraction: number;
  /** Contacts that have counted and have not ended. */
  readonly contacts: readonly string[];
  /** The state; a clock that does not run is `null`. */
  readonly cells: readonly (number | null)[];
}

const isWhole = (value: unknown): boolean => Number.isSafeInteger(value) && (value as number) >= 0;
const isListOf = (value: unknown, fits: (entry: unknown) => boolean): boolean =>
  Array.isArray(value) && value.length <= mostEntries && value.every(fits);
const mostEntries = 100_000;

/** What each key of a snapshot holds. Written by hand, since a schema library weighs more than the whole engine. */
const parts: { readonly [Key in keyof Snapshot]: (value: unknown) => boolean } = {
  snapshot: (value) => value === 1,
  design: (value) =>
    typeof value === 'object' &&
    value !== null &&
    Object.values(value).every((digest) => typeof digest === 'string'),
  seed: isWhole,
  session: isWhole,
  spawns: (value) => typeof value === 'boolean',
  ignored: isWhole,
  fraction: (value) => typeof value === 'number' && value >= 0 && value < 1,
  contacts: (value) => isListOf(value, (key) => typeof key === 'string' && key.length <= 200),
  cells: (value) => isListOf(value, (cell) => cell === null || Number.isFinite(cell)),
};

const place = { file: 'snapshot', line: 0, column: 0 };

export const cellsToJson = (cells: Float64Array): (number | null)[] =>
  [...cells].map((cell) => (cell === Number.POSITIVE_INFINITY ? null : cell));

/**
 * A snapshot that fits a form.
 *
 * @throws DesignError where it is damaged, or the design has changed since it was taken
 */
export function readSnapshot(form: GameForm, value: unknown): Snapshot {
  const fail = (found: Problem): never => {
    throw new DesignError([found]);
  };
  const damaged = (reason: string): never => fail(fault('not-a-snapshot', { reason }, place));
  if (typeof value !== 'object' || value === null) return damaged('it is no object');
  for (const [key, fits] of Object.entries(parts)) {
    if (!Object.hasOwn(value, key)) return damaged(`it has no ${key}`);
    if (!fits((value as { [key: string]: unknown })[key])) return damaged(`its ${key} cannot be read`);
  }
  const snapshot = value as Snapshot;
  const { digests } = form;
  const sections = [...new Set([...Object.keys(digests), ...Object.keys(snapshot.design)])].filter(
    (section) => digests[section] !== snapshot.design[section],
  );
  if (sections.length > 0) fail(fault('design-changed', { sections }, place));
  const reason = faultIn(form, snapshot.cells);
  return reason === undefined ? snapshot : damaged(reason);
}

/** What no session could have in its cells, or undefined. */
function faultIn(form: GameForm, cells: Snapshot['cells']): string | undefined {
  const at = form.cells;
  if (cells.length !== at.size) return `it has ${cells.length} cells instead of ${at.size}`;
  const isIndex = (cell: number | null | undefined, count: number): boolean =>
    isWhole(cell) && (cell as number) < count;
  if (!isIndex(cells[at.screen], form.screens.length)) return 'its screen does not exist';
  if (!isIndex(cells[at.level], form.endless ? 2 ** 53 : form.levels.length))
    return 'its level does not exist';
  if (!isIndex(cells[at.now], 2 ** 53) || !isIndex(cells[at.live], 2 ** 53)) return 'its time is no time';
  for (const { backCell } of form.screens) {
    if (backCell >= 0 && !isIndex(cells[backCell], form.screens.length))
      return 'it leads back to a screen that does not exist';
  }
  for (const [index, { name, min, max }] of form.counters.entries()) {
    const cell = cells[at.counters + index]!;
    if (cell === null || !Number.isInteger(cell) || cell < min || cell > max)
      return `its ${name} is out of range`;
  }
  return undefined;
}
