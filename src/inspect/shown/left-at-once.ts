import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import type { SessionRecord } from '../../engine/record/record.js';
import { replay } from '../../engine/record/replay.js';
import type { Step } from '../../engine/run/step.js';
import type { Session } from '../../engine/session/design-session.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { isInput, isLive } from '../uses.js';

/**
 * Presses on a screen that stands still that lead into play and, in the same moment, out of it again, as the shortest session shows: an offer to go
 * on that does not put back what the run was lost for. Of a fresh start that is told as a level that is over at once.
 */
export function leftAtOnce(design: Design, { transitions }: Exploration, isOver: () => boolean): Finding[] {
  return design.transitions.flatMap(({ from, to, index, events, fresh, effects, place }) => {
    const witness = transitions.find((each) => each.place === place && each.from === from)?.witness;
    const isPress = events.length > 0 && events.every(isInput) && fresh === undefined && effects.length > 0;
    if (!isPress || isLive(design, from) || !isLive(design, to) || witness?.record === undefined) return [];
    const taken = lastStepOf(design, witness.record, isOver)?.transitions ?? [];
    const at = taken.findIndex((each) => each.from === from && each.index === index);
    const next = at < 0 ? undefined : taken[at + 1];
    return next?.from === to && next.to !== from
      ? [
          finding(
            'left-at-once',
            { from, to, next: next.to, when: events.join(' or ') },
            place,
            witness.steps,
          ),
        ]
      : [];
  });
}

function lastStepOf(design: Design, record: SessionRecord, isOver: () => boolean): Step | undefined {
  let last: Step | undefined;
  const watch = (session: Session): void => {
    session.listen((step) => {
      last = step;
    });
  };
  try {
    replay(design, record, watch, { isOver });
    return last;
  } catch (error) {
    // Where the time allowed is over, nothing is told.
    if (!(error instanceof DesignError)) throw error;
    return undefined;
  }
}
