import type { Value } from '../../design/model.js';
import type { Step } from '../../engine/run/step.js';
import type { Session } from '../../engine/session/design-session.js';
import { number } from '../../formats/written.js';
import { columns, paint, plain, type Terminal, timestamp, wrap } from '../terminal.js';

/** Characters of the rules and transitions of one step before they are wrapped. */
const mostWords = 60;

const value = (held: Value): string => (typeof held === 'number' ? number(held) : String(held));

/** A replayed session as a table: when, what happened, what it set off, and each counter before and after. */
export function showReplay(terminal: Terminal, session: Session, steps: readonly Step[]): string {
  const telling = steps.filter(
    (step) => step.cause === 'event' || step.rules.length + step.writes.length + step.transitions.length > 0,
  );
  const told = telling.map((step) => ({
    step,
    what: step.reception === 'handled' ? plain(step.sequence.join(', ')) : step.reception,
  }));
  const widest = (texts: readonly string[]): number => Math.max(0, ...texts.map((text) => text.length));
  const others =
    Math.min(mostWords, widest(told.map(({ what }) => what))) + widest(telling.map(({ name }) => name));
  const room = Math.max(30, terminal.width - others - 18);
  const rows = told.map(({ step, what }) => [
    timestamp(step.at),
    plain(step.name),
    step.reception === 'handled' ? wrap(what, mostWords) : paint(terminal, 'yellow', what),
    wrap(
      step.writes
        .filter(({ before, after, wanted }) => before !== after || wanted !== after)
        .map(
          ({ counter, before, after, wanted }) =>
            `${counter} ${value(before)} -> ${value(after)}${wanted === after ? '' : ` (held from ${value(wanted)})`}`,
        )
        .join(', '),
      room,
    ),
  ]);
  const counters = Object.entries(session.counters).map(([name, held]) => `${name} ${value(held)}`);
  return [
    `${paint(terminal, 'bold', plain(session.design.title))}  session ${session.session} of seed ${session.seed}\n\n`,
    columns([
      ['time', 'event', 'rules and transitions', 'counters'].map((title) => paint(terminal, 'dim', title)),
      ...rows,
    ]),
    `\n${paint(terminal, 'green', '✓ replayed')}  ${timestamp(session.time)} · screen ${session.screen} · level ${session.level} · ${counters.join(' · ')}\n`,
  ].join('');
}

/** Every write to one counter: when, on what event, from and to, and the rule and line that did it. */
export function showWrites(terminal: Terminal, counter: string, steps: readonly Step[]): string {
  const rows = steps.flatMap((step) =>
    step.writes
      .filter((write) => write.counter === counter)
      .map(({ before, after, wanted, by, place }) => [
        timestamp(step.at),
        plain(step.name),
        `${value(before)} -> ${value(after)}`,
        wanted === after ? '' : paint(terminal, 'yellow', `held from ${value(wanted)}`),
        plain(by),
        place.line === 0 ? '' : `line ${place.line}`,
      ]),
  );
  const head = ['time', 'event', counter, '', 'written by', ''].map((title) => paint(terminal, 'dim', title));
  const count = rows.length === 1 ? '1 write' : `${rows.length} writes`;
  return `${columns([head, ...rows])}\n${count} to ${counter}; a fresh start puts it back without a write.\n`;
}
