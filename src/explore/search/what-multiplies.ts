import type { Form } from '../../engine/program/form.js';
import type { UntimedGame } from '../abstraction/untimed-game.js';
import type { States } from './states.js';

/** States that are looked at, evenly spread. */
const sampled = 20_000;
/** Values from which on a counter alone makes a search large. */
const many = 1000;

/** The counters and pieces of which states hold most different values, at most three of them, in words; empty where none holds more than one. */
export function whatMultiplies({ domain, form }: UntimedGame, states: States): string {
  const { cells: at } = form;
  const step = Math.max(1, Math.floor(states.length / sampled));
  const found = domain.parts.map(() => new Set<number>());
  const state = new Float64Array(domain.parts.length);
  for (let row = 0; row < states.length; row += step) {
    states.read(row, state);
    for (let part = 0; part < found.length; part++) found[part]!.add(state[part]!);
  }
  const named = domain.parts.flatMap(({ cell }, part) => {
    const name = form.counters[cell - at.counters]?.name ?? form.pieces[cell - at.present]?.name;
    const values = found[part]!.size;
    return name === undefined || values < 2 ? [] : [{ name, values }];
  });
  const most = named.sort((one, other) => other.values - one.values).slice(0, 3);
  return most.map(({ name, values }) => `${name} (${values} values)`).join(', ');
}

/** Whether a counter can hold more values than a search had better keep apart. */
export const isLarge = ({ counters }: Form, counter: number): boolean =>
  counters[counter]!.max - counters[counter]!.min > many;

/** Counters of the search that may hold more values than a search can keep apart. */
export const unboundedIn = ({ cone, domain, form }: UntimedGame): string[] =>
  cone.counters
    .filter((counter) =>
      domain.parts.some(({ cell, size }) => cell === form.cells.counters + counter && size > many),
    )
    .map((counter) => form.counters[counter]!.name);
