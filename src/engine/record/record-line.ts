import type { Value } from '../../design/model.js';

/** An outside event at its moment, what another session had kept when it was heard of, or a random number as it was drawn. */
export type RecordLine =
  | { readonly at: number; readonly event: string; readonly beforeWaits?: boolean }
  | { readonly at: number; readonly kept: { readonly [counter: string]: Value } }
  | { readonly draw: string; readonly asked: number; readonly value: number };

/** The outside events of a record, each at its moment. */
export const eventsIn = (lines: readonly RecordLine[]): Extract<RecordLine, { event: string }>[] =>
  lines.flatMap((line) => ('event' in line ? [line] : []));

/** Characters of an event's name, at the most. */
export const longestEvent = 200;
/** Milliseconds of session time, at the most: some thirty years. */
export const latestMoment = 1e12;
