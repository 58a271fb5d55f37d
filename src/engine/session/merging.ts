import type { Expression } from '../../design/language/expression.js';
import { conjunctsOf } from '../../design/language/expression-parts.js';
import type { Design, Effect } from '../../design/model.js';
import type { Merging } from '../program/form.js';

/**
 * How what two sessions have kept of one counter becomes one value, read off the rules: the higher where every write only ever raises it
 * to something (`set: { best: max(best, score) }`, or `set` under `if: score > best`), the lower likewise, the sum of what each has
 * added where it is only added to; else what was written last.
 */
export function mergingOf({ rules, transitions }: Design, counter: string): Merging {
  const kinds = [...rules, ...transitions].flatMap(({ effects, condition }) =>
    effects.flatMap((effect) => writesOf(effect, counter, condition)),
  );
  const [first = 'last'] = kinds;
  return kinds.every((kind) => kind === first) ? first : 'last';
}

function writesOf(effect: Effect, counter: string, condition: Expression | undefined): Merging[] {
  if (effect.kind !== 'add' && effect.kind !== 'set' && effect.kind !== 'pay') return [];
  return effect.writes
    .filter((write) => write.name === counter)
    .map(({ amount }) => (effect.kind === 'set' ? ofSet(amount, counter, condition) : 'sum'));
}

function ofSet(amount: Expression, counter: string, condition: Expression | undefined): Merging {
  const isItself = (part: Expression): boolean => part.kind === 'counter' && part.name === counter;
  if (amount.kind === 'call' && amount.of.some(isItself)) {
    if (amount.name === 'max') return 'highest';
    if (amount.name === 'min') return 'lowest';
  }
  const same = JSON.stringify(amount);
  for (const part of conjunctsOf(condition)) {
    if (part.kind !== 'binary') continue;
    const { operator, left, right } = part;
    const isMore = operator === '>' || operator === '>=';
    const isLess = operator === '<' || operator === '<=';
    if (isItself(right) && JSON.stringify(left) === same && (isMore || isLess))
      return isMore ? 'highest' : 'lowest';
    if (isItself(left) && JSON.stringify(right) === same && (isMore || isLess))
      return isMore ? 'lowest' : 'highest';
  }
  return 'last';
}
