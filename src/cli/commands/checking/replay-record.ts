import type { Design } from '../../../design/model.js';
import type { SessionRecord } from '../../../engine/record/record.js';
import { replay } from '../../../engine/record/replay.js';
import type { Step } from '../../../engine/run/step.js';
import type { Session } from '../../../engine/session/design-session.js';
import { Deadline } from '../../deadline.js';
import { type Format, json } from '../../outcome.js';
import { showReplay, showWrites } from '../../show/show-replay.js';
import type { Terminal } from '../../terminal.js';

export interface ReplayCall {
  /** Only the writes of this one. */
  readonly counter?: string | undefined;
  /** How long it may take. */
  readonly seconds?: number;
}

/** Plays a record again and shows it: as a table or JSON, or only the writes of one counter. */
export function replayRecord(
  terminal: Terminal,
  design: Design,
  record: SessionRecord,
  format: Format,
  file: string,
  { counter, seconds = 60 }: ReplayCall = {},
): void {
  const steps: Step[] = [];
  const watch = (started: Session): void => {
    if (started.opening.sequence.length > 0) steps.push(started.opening);
    started.listen((step) => steps.push(step));
  };
  const { isOver } = new Deadline(seconds);
  const session = replay(design, record, watch, { isOver }, file);
  const { time, screen, level, counters } = session;
  if (counter !== undefined) {
    const writes = steps.flatMap(({ at, name, writes: all }) =>
      all.filter((write) => write.counter === counter).map((write) => ({ at, event: name, ...write })),
    );
    terminal.out(
      format === 'json'
        ? json({ design: design.title, counter, writes })
        : showWrites(terminal, counter, steps),
    );
    return;
  }
  terminal.out(
    format === 'json'
      ? json({ design: design.title, steps, end: { at: time, screen, level, counters } })
      : showReplay(terminal, session, steps),
  );
}
