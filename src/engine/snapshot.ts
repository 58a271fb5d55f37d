import { z } from 'zod';
import { DesignError, type Problem, problem } from '../design/problem.js';
import type { Form } from './form.js';

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

const whole = z
  .number()
  .int()
  .min(0)
  .max(2 ** 53 - 1);
const snapshotSchema = z.strictObject({
  snapshot: z.literal(1),
  design: z.record(z.string(), z.string()),
  seed: whole,
  session: whole,
  spawns: z.boolean(),
  ignored: whole,
  fraction: z.number().min(0).max(1),
  contacts: z.array(z.string().max(200)).max(100_000),
  cells: z.array(z.number().nullable()).max(100_000),
});

const place = { file: 'snapshot', line: 0, column: 0 };

export const cellsToJson = (cells: Float64Array): (number | null)[] =>
  [...cells].map((cell) => (cell === Number.POSITIVE_INFINITY ? null : cell));

/**
 * A snapshot that fits a form.
 *
 * @throws DesignError where it is damaged, or the design has changed since it was taken
 */
export function readSnapshot(form: Form, value: unknown): Snapshot {
  const fail = (found: Problem): never => {
    throw new DesignError([found]);
  };
  const damaged = (reason: string): never => fail(problem('not-a-snapshot', { reason }, place));
  const result = snapshotSchema.safeParse(value, { jitless: true });
  if (!result.success) {
    const [issue] = result.error.issues;
    return damaged(`${issue?.path.join('.') || 'the whole'}: ${issue?.message}`);
  }
  const snapshot = result.data as Snapshot;
  const { digests } = form.design;
  const sections = [...new Set([...Object.keys(digests), ...Object.keys(snapshot.design)])].filter(
    (section) => digests[section] !== snapshot.design[section],
  );
  if (sections.length > 0) fail(problem('design-changed', { sections }, place));
  const reason = faultIn(form, snapshot.cells);
  return reason === undefined ? snapshot : damaged(reason);
}

/** What no session could have in its cells, or undefined. */
function faultIn(form: Form, cells: Snapshot['cells']): string | undefined {
  const at = form.cells;
  if (cells.length !== at.size) return `it has ${cells.length} cells instead of ${at.size}`;
  const isIndex = (cell: number | null | undefined, count: number): boolean =>
    cell !== null && cell !== undefined && Number.isInteger(cell) && cell >= 0 && cell < count;
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
