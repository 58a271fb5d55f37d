import { isEqual, or, type Value } from '../../compile/representation.js';
import type { Build } from './build.js';

/** Whether a screen is one of a few: compared with their numbers, which is faster than a look into a table. */
export const isOneOf = (screen: Value, screens: readonly number[]): Value =>
  or(...screens.map((each) => isEqual(screen, each)));

/** Screens on which play goes on. */
export const liveScreens = ({ form }: Pick<Build, 'form'>): number[] =>
  form.screens.flatMap((screen, index) => (screen.live ? [index] : []));

/** Whether the present screen is live. */
export const isLive = (of: Pick<Build, 'form' | 'state'>): Value => isOneOf(of.state.screen, liveScreens(of));
