import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';
import { Tally } from '../../measure/tally.js';
import { Play } from '../../players/drivers/play.js';
import { type Meeting, meetingOf } from '../../players/meeting/meeting.js';
import type { Fault } from './verdict.js';
import { inWords } from './witness.js';

/** Sessions of each of the design's players. */
const sessionsOfEach = 12;
const seed = 1;

/**
 * What the first sessions of the design's own players end in: a search that leaves counters out may pass over numbers that grow too
 * large, and a session that anybody can play is a witness whatever the search says.
 */
export function faultsInPlay(design: Design, form: Form, isOver: () => boolean): Fault[] {
  return design.players.flatMap((player): Fault[] => {
    const meeting = meetingOf(form, player);
    const play = new Play(form, meeting, new Tally(form));
    let session = 0;
    try {
      for (; session < sessionsOfEach && !isOver(); session++) play.play(seed, session);
      return [];
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      const steps = stepsTo(form, meeting, session);
      return [{ problem: error.problems[0]!, witness: { steps, record: undefined } }];
    }
  });
}

/** What happens in a session that ends in a fault, played once more by one who tells. */
function stepsTo(form: Form, meeting: Meeting, session: number): string[] {
  const events: { event: string; at: number }[] = [];
  const play = new Play(form, meeting, new Tally(form), undefined, (event, at) =>
    events.push({ event: form.events[event]!.name, at }),
  );
  try {
    play.play(seed, session);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
  }
  return inWords(events, play.now);
}
