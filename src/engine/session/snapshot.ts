import { DesignError, type Problem } from '../../design/problems/problem.js';

import { fault } from '../program/faults.js';
import { type GameForm, mostPresent } from '../program/form.js';
import { latestMoment } from '../record/record-line.js';

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
/** Characters of a contact: a piece and an id, at the most. */
const longestKey = 200;

/** What each key of a snapshot holds. Checked by code of its own, since a schema library weighs more than the whole engine. */
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
  contacts: (value) => isListOf(value, (key) => typeof key === 'string' && key.length <= longestKey),
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
  const { screens, pieces, levels } = form;
  if (cells.length !== at.size) return `it has ${cells.length} cells instead of ${at.size}`;
  // Every cell is a whole number, or a clock that does not run.
  if (!cells.every((cell) => cell === null || Number.isSafeInteger(cell)))
    return 'one of its numbers is not whole';
  const mayStandStill = new Set<number>();
  const outside: string[] = [];
  const mustBe = (what: string, cell: number, least: number, most: number): void => {
    const value = cells[cell]!;
    const isFine = value === null ? mayStandStill.has(cell) : value >= least && value <= most;
    if (cell >= 0 && !isFine) outside.push(`its ${what} is out of range`);
  };
  /** Due at a moment that is still to come, by its clock, or not running. */
  const mustBeDue = (what: string, cell: number, clock: number): void => {
    mayStandStill.add(cell);
    mustBe(what, cell, cells[clock]!, latestMoment);
  };
  const now = cells[at.now]!;
  mustBe('time', at.now, 0, latestMoment);
  mustBe('live time', at.live, 0, now);
  mustBe('screen', at.screen, 0, screens.length - 1);
  mustBe('time on the screen', at.entered, 0, now);
  mustBe('wait', at.waited, 0, latestMoment);
  mustBe('level', at.level, 0, form.endless ? Number.MAX_SAFE_INTEGER : levels.length - 1);
  mustBe('grace', at.graceEnds, 0, latestMoment);
  for (const { backCell } of screens) {
    if (backCell < 0) continue;
    mustBe('way back', backCell, 0, screens.length - 1);
    mustBe('time on the screen it leads back to', backCell + 1, 0, now);
    mustBe('wait on the screen it leads back to', backCell + 2, 0, latestMoment);
  }
  form.counters.forEach(({ name, min, max }, index) => {
    mustBe(name, at.counters + index, min, max);
  });
  form.clocks.forEach((_, index) => {
    mustBe('clock', at.clocks + index, 0, now);
  });
  form.timers.forEach(({ name, clockCell, warnCell }, index) => {
    mustBeDue(name, at.timers + index, clockCell);
    mustBeDue(`warning of ${name}`, warnCell, clockCell);
  });
  for (const { name, restCell } of form.rules) mustBe(`rest of ${name}`, restCell, 0, latestMoment);
  pieces.forEach(({ name }, index) => {
    mustBe(`number of ${name}`, at.present + index, 0, mostPresent);
  });
  const { spawns } = levels[Math.min(cells[at.level]!, levels.length - 1)] ?? { spawns: [] };
  for (let slot = 0; slot < at.spawnMade - at.spawnDue; slot++) {
    const spawn = spawns[slot];
    // A slot that the level does not use stands still.
    mayStandStill.add(at.spawnDue + slot);
    mustBe(
      'spawn',
      at.spawnDue + slot,
      spawn === undefined ? 1 : cells[at.live]!,
      spawn === undefined ? 0 : latestMoment,
    );
    mustBe('number of spawned pieces', at.spawnMade + slot, 0, spawn?.most ?? Number.MAX_SAFE_INTEGER);
  }
  for (let place = 0; at.courseLength > 0 && place < 2 + at.courseLength; place++)
    mustBe('course', at.course + place, place < 2 ? 0 : -1, place < 2 ? at.courseLength : pieces.length - 1);
  form.draws.forEach((_, index) => {
    mustBe('number of draws', at.asked + index, 0, Number.MAX_SAFE_INTEGER);
  });
  return outside[0];
}
