import type { Expression } from './language/expression.js';
import { largestNumber } from './limits.js';
import type { Computed, Counter, Effect, Piece, Rule, Screen } from './model.js';
import type { Place } from './problems/problem.js';
import type { Path } from './text/source.js';

/** The outcome of a strike at a piece that takes several. */
export const strike = 'struck';

/** What the counter of a piece's health is called, before the name of the piece. */
export const healthPrefix = 'health.';
const counterOf = (piece: string): string => `${healthPrefix}${piece}`;

/** A piece whose health is still to be read. */
interface WithHealth {
  readonly name: string;
  readonly health: { readonly value: number | string; readonly path: Path } | undefined;
  readonly place: Place;
}

/** A counter for each piece with a health of its own: what the one that was struck last has left. */
export const healthCounters = (pieces: readonly WithHealth[]) =>
  pieces.flatMap(({ name, health, place }) =>
    health === undefined
      ? []
      : [
          {
            name: counterOf(name),
            kind: 'number' as const,
            words: [],
            places: 0,
            start: health.value,
            min: 0,
            max: largestNumber,
            keep: 'level' as const,
            place,
            path: health.path,
          },
        ],
  );

/** A health is never more than what it starts from. */
export const withMost = (counters: readonly Counter[]): Counter[] =>
  counters.map((counter) => {
    if (!counter.name.startsWith(healthPrefix)) return counter;
    const { start } = counter;
    const max: Computed = start.kind === 'number' ? start.value : start;
    return { ...counter, max };
  });

/**
 * What strikes do: each takes one; the last takes the piece away and is followed by its being beaten, taken or avoided; and the next to come
 * has its full health. They stand before all other rules, which hear of a strike once it has been counted.
 */
export function healthRules(
  pieces: readonly Piece[],
  counters: readonly Counter[],
  screens: readonly Screen[],
): Rule[] {
  const live = screens.filter((screen) => screen.live).map((screen) => screen.name);
  return pieces.flatMap((piece): Rule[] => {
    const health = counters.find(({ name }) => name === counterOf(piece.name));
    if (health === undefined) return [];
    const left: Expression = { kind: 'counter', name: health.name };
    const number = (value: number): Expression => ({ kind: 'number', value });
    const common = {
      screens: live,
      rest: 0,
      chance: 1,
      once: undefined,
      passes: undefined,
      healthOf: piece.name,
      place: piece.place,
    };
    const on = (event: string) => ({ heard: [`${piece.name}.${event}`], events: [`${piece.name}.${event}`] });
    const write = (kind: 'add' | 'set', amount: Expression): Effect => ({
      kind,
      writes: [{ name: health.name, amount }],
      timers: [],
    });
    const one = { piece: piece.name, count: number(1), which: 'met' } as const;
    return [
      {
        ...common,
        ...on(strike),
        name: `strike at ${piece.name}`,
        condition: undefined,
        effects: [write('add', number(-1))],
      },
      {
        ...common,
        ...on(strike),
        name: `last strike at ${piece.name}`,
        condition: { kind: 'binary', operator: '<=', left, right: number(0) },
        effects: [
          { kind: 'clear', pieces: [], some: [one] },
          write('set', health.start),
          { kind: 'emit', name: `${piece.name}.${piece.outcomes[1]!.name}` },
        ],
      },
      {
        ...common,
        ...on('appeared'),
        name: `${piece.name} at its full health`,
        condition: {
          kind: 'binary',
          operator: '==',
          left: { kind: 'present', name: piece.name },
          right: number(1),
        },
        effects: [write('set', health.start)],
      },
    ];
  });
}
