import type { Value } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import type { GameForm } from './form.js';
import { fromCell } from './value.js';

/** The refusal of a name that the design does not have. */
export function unknown(kind: string, name: string, known: readonly { name: string }[]): UsageError {
  return new UsageError(
    'unknown-name',
    `The design has no ${kind} "${name}"; it has ${known.map((each) => each.name).join(', ') || 'none'}.`,
  );
}

/**
 * What a counter holds.
 *
 * @throws UsageError where the design has no such counter
 */
export function counterNamed({ counters, cells: at }: GameForm, cells: Float64Array, name: string): Value {
  const index = counters.findIndex((counter) => counter.name === name);
  if (index < 0) throw unknown('counter', name, counters);
  return fromCell(counters[index]!, cells[at.counters + index]!);
}
