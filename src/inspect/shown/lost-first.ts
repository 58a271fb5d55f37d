import { countersIn } from '../../design/language/expression-parts.js';
import type { Design, Transition } from '../../design/model.js';
import { explore } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { endingOf } from '../played-for.js';
import { lastEvent, writesOf } from '../uses.js';

/** States that are visited to find a session in which both hold. */
const mostStates = 20_000;

/**
 * Ways to lose that stand above a way to win from the same screen, where one event can bring about what both wait for: the last try that reaches the
 * goal is lost. A session shows it, found as that of a third way that waits for both and stands first.
 */
export function lostFirst(design: Design, isOver: () => boolean): Finding[] {
  const { transitions } = design;
  return transitions.flatMap((lost, at) => {
    if (!isAskedAlways(lost) || endingOf(design, lost.to) !== 'lost') return [];
    const won = transitions
      .slice(at + 1)
      .find(
        (each) =>
          each.from === lost.from &&
          isAskedAlways(each) &&
          endingOf(design, each.to) === 'won' &&
          comeTogether(design, lost, each),
      );
    if (won === undefined) return [];
    const both: Transition = {
      ...won,
      index: 1 + Math.max(...transitions.map(({ index }) => index)),
      condition: { kind: 'binary', operator: 'and', left: lost.condition!, right: won.condition! },
    };
    const withBoth = { ...design, looseOf: undefined, transitions: transitions.toSpliced(at, 0, both) };
    const { witness } = explore(withBoth, { mostStates, isOver }).transitions[at]!;
    // Whoever misses the last of all has lost, though it was the last.
    return witness === undefined || isFailure(lastEvent(witness))
      ? []
      : [
          finding(
            'lost-before-won',
            { lost: lost.to, won: won.to, line: won.place.line },
            lost.place,
            witness.steps,
          ),
        ];
  });
}

const isAskedAlways = ({ events, condition, wait }: Transition): boolean =>
  events.length === 0 && condition !== undefined && wait === 0;

const isFailure = (event = ''): boolean => /\.(?:missed|hit|gone)$/.test(event);

/** Whether one event that is no failure writes what either of two waits for. */
function comeTogether({ rules }: Design, one: Transition, other: Transition): boolean {
  const [first, second] = [one, other].map(({ condition }) => {
    const asked = countersIn(condition!);
    const writing = rules.filter(({ effects }) =>
      effects.flatMap(writesOf).some(({ name }) => asked.includes(name)),
    );
    return writing.flatMap(({ events }) => events);
  });
  return first!.some((event) => second!.includes(event) && !isFailure(event));
}
