import type { Design } from '../../design/model.js';
import { nearestSetting, turnableDials, withDials } from '../../design/settings.js';
import { type SolveOptions, solve } from './solve.js';
import type { Solved } from './solved.js';

/** What turning a dial by one step does to the runs of a player: exact differences, no estimates. */
export interface Slope {
  readonly dial: string;
  /** The dial is turned from this value to that. */
  readonly from: number;
  readonly to: number;
  /** Change of the mean score; null without one. */
  readonly score: number | null;
  readonly seconds: number;
  readonly endings: { readonly [screen: string]: number };
}

/** Without a step of its own, a dial is turned by this part of its range. */
const usualPart = 1 / 20;

/**
 * What one step of each dial does. Where a design is not worked out whole, with a dial turned or without, that dial is left out.
 *
 * @param solved what `solve` gave for the design as it is
 */
export function slopes(design: Design, solved: Solved, options: Omit<SolveOptions, 'player'> = {}): Slope[] {
  if (solved.open > 0) return [];
  return turnableDials(design).flatMap((dial) => {
    const { name, value, from, to } = dial;
    const step = dial.step ?? (to - from) * usualPart;
    const up = nearestSetting(dial, Math.min(to, value + step));
    const turned = up === value ? nearestSetting(dial, Math.max(from, value - step)) : up;
    if (turned === value) return [];
    const other = solve(withDials(design, { [name]: turned }), { ...options, player: solved.player });
    if (other.open > 0 || solved.seconds === null || other.seconds === null) return [];
    return {
      dial: name,
      from: value,
      to: turned,
      score:
        solved.score === null || other.score === null
          ? null
          : other.score.mean.least - solved.score.mean.least,
      seconds: other.seconds.mean.least - solved.seconds.mean.least,
      endings: Object.fromEntries(
        Object.entries(solved.endings).map(([screen, { least }]) => [
          screen,
          other.endings[screen]!.least - least,
        ]),
      ),
    };
  });
}
