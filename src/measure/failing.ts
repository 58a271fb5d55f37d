import { isForLastLevel } from '../design/language/trigger.js';
import type { Design } from '../design/model.js';

/**
 * Whether a run that ends at a level has failed there unless it is won. Where no ending is won or lost and there are no lives, that is a guess: of
 * a single ending that is not the goal of the last level it is a good one; of several, each may be the one that is wanted.
 */
export function endsByFailing({ screens, transitions, lives }: Design): boolean {
  const endings = screens.filter(({ ending }) => ending !== undefined);
  const [only, ...others] = endings;
  return (
    lives !== undefined ||
    endings.some(({ ending }) => ending !== 'over') ||
    (others.length === 0 && !transitions.some((each) => each.to === only?.name && isForLastLevel(each)))
  );
}
