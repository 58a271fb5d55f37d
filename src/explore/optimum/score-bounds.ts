import { largestNumber } from '../../design/limits.js';
import type { Value } from '../../engine/compile/representation.js';
import type { Form } from '../../engine/program/form.js';
import { isTimerLeft, rangeOf } from '../../engine/program/ranges.js';
import { watchesNothing } from '../../engine/run/probe.js';
import { type Edge, UntimedGame } from '../abstraction/untimed-game.js';
import type { UntimedPath } from '../evidence/passage.js';
import { timedTimers } from '../timed/clocks.js';
import { BestWays } from './best-ways.js';

/** The design with what adds to a counter followed, and not the counter itself. */
export const sumGame = (form: Form, counter: number): UntimedGame =>
  new UntimedGame(form, watchesNothing, { summed: [counter] });

/** Whether the sums of a game come out right, and are worth their while. */
export function canSum({ form, cone, narrowedBy }: UntimedGame, counter: number): boolean {
  return (
    !cone.counters.includes(counter) &&
    // Courses are followed by the machine itself, which takes its time.
    !cone.readsCourse &&
    cone.timerRead === undefined &&
    narrowedBy === undefined &&
    timedTimers(form, cone.summedTimers).length === cone.summedTimers.length &&
    cone.summedValues.every((value) => slopeOf(value, form) >= 0)
  );
}

/** How far a sum goes, and a way there; without one where it goes round and round until it comes to its bound. */
export interface Furthest {
  readonly value: number;
  readonly path: UntimedPath | undefined;
}

/**
 * Searches the most, or the least, that a counter can come to which nothing reads but what adds to it. The seconds that a timer may
 * have left are taken at their best, so that a session may come to less, never to more.
 */
export class SumSearch extends BestWays {
  readonly #cell: number;
  readonly #timers: readonly { readonly timer: number; readonly most: number }[];

  /**
   * @param game one of `sumGame` that `canSum`
   * @param sign 1: the most, -1: the least
   */
  constructor(
    game: UntimedGame,
    private readonly counter: number,
    sign: 1 | -1,
  ) {
    super(game, sign);
    this.#cell = game.form.cells.counters + counter;
    this.#timers = timedTimers(game.form, game.cone.summedTimers);
  }

  /** 'endless' where there is no furthest; undefined where it takes too many steps to tell. */
  furthest(): Furthest | 'endless' | undefined {
    const { min, max } = this.game.form.counters[this.counter]!;
    const bound = this.sign > 0 ? max : min;
    const labels = this.find(bound);
    if (labels === undefined) return undefined;
    if (labels === 'endless')
      return Math.abs(bound) < largestNumber ? { value: bound, path: undefined } : 'endless';
    const best = labels.reduce((best, label) =>
      this.sign * this.sumOf(label) > this.sign * this.sumOf(best) ? label : best,
    );
    return { value: this.sumOf(best), path: this.pathTo(best) };
  }

  protected override first(): number {
    return this.game.machine.cells[this.#cell]!;
  }

  protected override settle(): void {
    const { form, machine } = this.game;
    const { cells } = machine;
    for (const { timer, most } of this.#timers) {
      const cell = form.cells.timers + timer;
      const left = this.sign > 0 ? most : 0;
      if (cells[cell] !== Number.POSITIVE_INFINITY)
        cells[cell] = cells[form.timers[timer]!.clockCell]! + left;
    }
  }

  protected override after(edge: Edge, sum: number): number | undefined {
    const { cells } = this.game.machine;
    cells[this.#cell] = sum;
    return this.game.step(edge) ? cells[this.#cell]! : undefined;
  }
}

/** How a value goes with the seconds of timers: 1 up, 0 not at all, -1 down; not a number: either way, or not plainly any. */
function slopeOf(value: Value, form: Form): number {
  if (isTimerLeft(value, form)) return 1;
  switch (value.op) {
    case 'negative':
      return -slopeOf(value.of, form);
    case 'binary': {
      const [left, right] = [slopeOf(value.left, form), slopeOf(value.right, form)];
      if (left === 0 && right === 0) return 0;
      if (value.operator === '+') return both(left, right);
      if (value.operator === '-') return both(left, -right);
      if (value.operator === '*' && left === 0) return right * signOf(value.left, form);
      if (value.operator === '*' && right === 0) return left * signOf(value.right, form);
      if (value.operator === '/' && right === 0) return left * signOf(value.right, form);
      return Number.NaN;
    }
    case 'call': {
      const slopes = value.of.map((part) => slopeOf(part, form));
      if (slopes.every((slope) => slope === 0)) return 0;
      return keepsOrder.includes(value.name) ? slopes.reduce(both) : Number.NaN;
    }
    case 'not':
      return slopeOf(value.of, form) === 0 ? 0 : Number.NaN;
    case 'choose': {
      const [test, yes, no] = [value.test, value.yes, value.no].map((part) => slopeOf(part, form));
      return test === 0 && yes === 0 && no === 0 ? 0 : Number.NaN;
    }
    default:
      return 0;
  }
}

const both = (one: number, other: number): number => {
  if (one === 0 || other === 0) return one + other;
  return one === other ? one : Number.NaN;
};

const signOf = (value: Value, form: Form): number => {
  const [least, most] = rangeOf(value, form);
  return least >= 0 ? 1 : most <= 0 ? -1 : Number.NaN;
};

/** Functions that never give less for more. */
const keepsOrder: readonly string[] = ['min', 'max', 'floor', 'ceil', 'round'];
