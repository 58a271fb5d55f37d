import type { Terms } from '../compile/evaluator.js';
import { choose } from '../run/draw.js';
import { type GameForm, type IntervalForm, longestTimer } from './form.js';

/** Computed seconds as whole milliseconds: at least one, at most a day; what is no number is one. */
export const inMilliseconds = (seconds: number): number =>
  Math.min(longestTimer, Math.max(1, Math.round(seconds * 1000) || 1));

/** One of the moments of a computed range, by a draw; a range that is backwards has one. */
export const inRange = (least: number, most: number, step: number, drawn: number): number =>
  least + step * choose(drawn, Math.floor((Math.max(most, least) - least) / step) + 1);

/** How long timers run and spawns pause, worked out over the cells of a session. */
export class Intervals {
  /** For an interval that is computed, the terms of its ends; the second is -1 where there is no choice. */
  readonly #computed = new Map<IntervalForm, readonly [number, number]>();

  constructor(
    form: GameForm,
    private readonly cells: Float64Array,
    private readonly terms: Terms,
    private readonly draw: (draw: number, asked: number) => number,
  ) {
    const spawned = form.levels.flatMap(({ spawns }) => spawns.flatMap(({ every, first }) => [every, first]));
    for (const interval of [...form.timers.map((timer) => timer.interval), ...spawned]) {
      if (interval?.computed === undefined) continue;
      const { seconds, upTo } = interval.computed;
      this.#computed.set(interval, [terms.add(seconds), upTo === undefined ? -1 : terms.add(upTo)]);
    }
    this.#firstAsked = form.cells.asked;
  }

  readonly #firstAsked: number;

  /** Milliseconds; asks for a draw where there is a choice. */
  next(interval: IntervalForm): number {
    const { least, step, choices, draw, computed } = interval;
    if (computed === undefined) return draw < 0 ? least : least + step * choose(this.#drawn(draw), choices);
    const [seconds, upTo] = this.#computed.get(interval)!;
    const first = inMilliseconds(this.terms.value(seconds));
    if (upTo < 0) return first;
    return inRange(first, inMilliseconds(this.terms.value(upTo)), step, this.#drawn(draw));
  }

  #drawn(draw: number): number {
    return this.draw(draw, this.cells[this.#firstAsked + draw]!++);
  }
}
