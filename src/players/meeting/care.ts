import type { Player } from '../../design/model.js';
import type { Form } from '../../engine/program/form.js';
import { Evaluator } from '../../engine/run/evaluator.js';

/** Tells of a session, by its cells, whether the player takes care as it stands. */
export function careIn(form: Form, cells: Float64Array, caution: Player['caution']): () => boolean {
  if (caution === undefined) return () => false;
  const evaluator = new Evaluator(form, cells);
  const condition = evaluator.add(form.lowerTerm(caution.condition));
  return () => evaluator.value(condition) === 1;
}
