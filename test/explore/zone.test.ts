import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Zone } from '../../src/explore/timed/zone.js';
import { runs } from '../support/runs.js';

type Move =
  | { readonly kind: 'elapse' }
  | { readonly kind: 'reset'; readonly clock: number }
  | { readonly kind: 'free'; readonly clock: number }
  | { readonly kind: 'atMost'; readonly clock: number; readonly value: number }
  | { readonly kind: 'atLeast'; readonly clock: number; readonly value: number };

const clocks = 3;
const most = 6;
const clock = fc.integer({ min: 1, max: clocks });
const move: fc.Arbitrary<Move> = fc.oneof(
  fc.constant<Move>({ kind: 'elapse' }),
  fc.record({ kind: fc.constantFrom('reset' as const, 'free' as const), clock }),
  fc.record({
    kind: fc.constantFrom('atMost' as const, 'atLeast' as const),
    clock,
    value: fc.integer({ min: 0, max: most }),
  }),
);

/** Every reading of the clocks in whole steps, up to twice the greatest constant, as `1,0,4`. */
function readings(moves: readonly Move[]): Set<string> {
  const limit = 2 * most;
  const range = Array.from({ length: limit + 1 }, (_, value) => value);
  let found = new Set(['0,0,0']);
  const each = (step: (reading: number[]) => number[][]): void => {
    found = new Set([...found].flatMap((reading) => step(reading.split(',').map(Number)).map(String)));
  };
  for (const made of moves) {
    if (made.kind === 'elapse') {
      each((reading) =>
        range
          .map((passed) => reading.map((shown) => shown + passed))
          .filter((after) => after.every((shown) => shown <= limit)),
      );
    } else {
      const index = made.clock - 1;
      each((reading) => {
        if (made.kind === 'reset') return [reading.with(index, 0)];
        if (made.kind === 'free') return range.map((shown) => reading.with(index, shown));
        const fits = made.kind === 'atMost' ? reading[index]! <= made.value : reading[index]! >= made.value;
        return fits ? [reading] : [];
      });
    }
  }
  return found;
}

/** The zone of the same moves, or undefined where nothing is left. */
function zoneOf(moves: readonly Move[]): Zone | undefined {
  const zone = Zone.start(clocks);
  for (const made of moves) {
    if (made.kind === 'elapse') zone.elapse();
    else if (made.kind === 'reset') zone.reset(made.clock);
    else if (made.kind === 'free') zone.free(made.clock);
    else if (!zone[made.kind](made.clock, made.value)) return undefined;
  }
  return zone;
}

const holds = (zone: Zone, reading: readonly number[]): boolean => {
  const probe = zone.copy();
  return reading.every((value, index) => probe.atLeast(index + 1, value) && probe.atMost(index + 1, value));
};

describe('a zone', () => {
  test('holds the readings that moving clocks one step at a time comes to, and no others', () => {
    const reading = fc.array(fc.integer({ min: 0, max: most }), { minLength: clocks, maxLength: clocks });
    fc.assert(
      fc.property(fc.array(move, { maxLength: 7 }), reading, (moves, asked) => {
        const zone = zoneOf(moves);
        const expected = readings(moves);
        expect(zone !== undefined).toBe(expected.size > 0);
        if (zone !== undefined) expect(holds(zone, asked)).toBe(expected.has(asked.join()));
      }),
      runs(400),
    );
  });

  test('loses no reading when it is loosened, and still tells those apart that a constant tells apart', () => {
    const reading = fc.array(fc.integer({ min: 0, max: most }), { minLength: clocks, maxLength: clocks });
    fc.assert(
      fc.property(fc.array(move, { maxLength: 7 }), reading, (moves, asked) => {
        const zone = zoneOf(moves);
        if (zone === undefined) return;
        const loose = zone.copy();
        loose.loosen([0, most, most, most]);
        expect(loose.includes(zone)).toBe(true);
        // Up to the greatest constants, nothing was added.
        expect(holds(loose, asked)).toBe(holds(zone, asked));
      }),
      runs(400),
    );
  });
});
