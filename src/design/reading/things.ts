import type { Scope } from '../language/parse-expression.js';
import type { Design, Screen } from '../model.js';
import type { Path } from '../text/source.js';
import { listed, type Reading } from './reading.js';

/** What is read before rules and transitions, and what they may name. */
export interface Things extends Pick<Design, 'counters' | 'timers' | 'pieces' | 'levels'> {
  readonly scope: Scope;
}

/** The screens that a list names, those that there are. */
export function screenNames(
  reading: Reading,
  written: string | readonly string[],
  screens: readonly Screen[],
  path: Path,
): string[] {
  const names = screens.map((screen) => screen.name);
  return listed(written, path).flatMap(({ name, path: at }) =>
    reading.known(name, 'screen', names, at) ? [name] : [],
  );
}
