import type { Value } from '../../design/model.js';
import { unknownName } from '../../design/problems/problem.js';
import type { GameForm } from './form.js';
import { fromCell } from './value.js';

/**
 * What a counter holds.
 *
 * @throws UsageError where the design has no such counter
 */
export function counterNamed({ counters, cells: at }: GameForm, cells: Float64Array, name: string): Value {
  const index = counters.findIndex((counter) => counter.name === name);
  if (index < 0) throw unknownName('counter', name, counters);
  return fromCell(counters[index]!, cells[at.counters + index]!);
}
