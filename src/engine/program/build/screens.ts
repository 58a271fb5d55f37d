import { and, isAtLeast, isEqual, isLess, or, type Value } from '../../compile/representation.js';
import type { Build } from './build.js';

/**
 * Whether a screen is one of those in ascending order: compared with their numbers, which is faster than a look into a table; those that
 * follow on each other with the first and the last of them.
 */
export function isOneOf(screen: Value, screens: readonly number[]): Value {
  const firsts = screens.filter((each, index) => index === 0 || screens[index - 1] !== each - 1);
  const lasts = screens.filter((each, index) => screens[index + 1] !== each + 1);
  return or(
    ...firsts.map((first, run) =>
      first === lasts[run]
        ? isEqual(screen, first)
        : and(isAtLeast(screen, first), isLess(screen, lasts[run]! + 1)),
    ),
  );
}

/** Screens on which play goes on. */
export const liveScreens = ({ form }: Pick<Build, 'form'>): number[] =>
  form.screens.flatMap((screen, index) => (screen.live ? [index] : []));

/** Whether the present screen is live. */
export const isLive = (of: Pick<Build, 'form' | 'state'>): Value => isOneOf(of.state.screen, liveScreens(of));
