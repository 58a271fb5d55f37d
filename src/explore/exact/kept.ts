import type { Form } from '../../engine/program/form.js';
import type { PlayProgram } from '../../players/drivers/play-program.js';
import type { DueQueue } from '../../players/meeting/due-queue.js';
import type { Meeting } from '../../players/meeting/meeting.js';
import { countersThatMatter } from './mattering.js';

/** Which slots of a session make its state, and from which clock the moments among them count. */
export interface Kept {
  readonly plain: readonly number[];
  readonly moments: readonly { readonly slot: number; readonly clock: number }[];
  /** Live times at which rests and the grace are over. */
  readonly rests: readonly number[];
  /** Slots that are nothing wherever a session goes on from: clocks, and what only counts. */
  readonly zeroed: readonly number[];
  readonly now: number;
  readonly live: number;
  readonly screen: number;
  readonly level: number;
  readonly entered: number;
  readonly attempted: number;
  readonly attemptExpires: number;
  readonly hitsLeft: number;
  readonly thinksUntil: number;
  /** By screen: whether the player thinks there about what to send, and whether it matters how long it has lasted. */
  readonly sits: readonly boolean[];
  readonly waits: readonly boolean[];
  /** By level and spawn: whether it matters how many it has made. */
  readonly countsMade: readonly (readonly boolean[])[];
  readonly spawnMade: number;
  readonly queues: readonly QueueSlots[];
}

interface QueueSlots {
  readonly head: number;
  readonly tail: number;
  readonly first: number;
  readonly firstDue: number;
  readonly due: number;
  readonly piece: number;
}

/** @param isSummed whether the score is summed up beside the states */
export function keptOf(form: Form, model: Meeting, made: PlayProgram, isSummed: boolean): Kept {
  const { cells } = form;
  const { accounting, meeting, turns } = made;
  const matters = countersThatMatter(form);
  const idle = form.counters.flatMap((_, counter) =>
    (counter === form.score ? !isSummed : matters.has(counter)) ? [] : [cells.counters + counter],
  );
  const spawnSlots = cells.spawnMade - cells.spawnDue;
  const rests = [cells.graceEnds, ...form.rules.flatMap(({ restCell }) => (restCell < 0 ? [] : [restCell]))];
  const of = (slots: readonly number[], clock: number) => slots.map((slot) => ({ slot, clock }));
  const moments = [
    ...form.timers.flatMap(({ clockCell, warnCell }, timer) =>
      of([cells.timers + timer, ...(warnCell < 0 ? [] : [warnCell])], clockCell),
    ),
    ...of(
      Array.from({ length: spawnSlots }, (_, slot) => cells.spawnDue + slot),
      cells.live,
    ),
    ...of([...meeting.kinds.moments, ...(spawnSlots > 0 ? [turns.spawnNext.slot] : [])], cells.live),
    ...of([accounting.began], cells.now),
  ];
  const asked = made.areas.find(({ name }) => name === 'asked')!;
  const zeroed = [
    cells.live,
    ...form.clocks.map((_, clock) => cells.clocks + clock),
    ...idle,
    ...accounting.counting,
    ...meeting.kinds.passing,
    made.decided.slot,
    turns.isOver.slot,
    // Nothing sets it where no level spawns anything.
    ...(spawnSlots > 0 ? [] : [turns.spawnNext.slot]),
    ...Array.from({ length: asked.length }, (_, each) => asked.base + each),
  ];
  const queues = [meeting.arriving, meeting.sought].map(queueSlots);
  const { attemptExpires, hitsLeft } = meeting.kinds;
  const others = [
    cells.now,
    cells.entered,
    turns.thinksUntil.slot,
    attemptExpires,
    hitsLeft,
    ...Array.from({ length: spawnSlots }, (_, slot) => cells.spawnMade + slot),
    ...queues.flatMap(({ head, tail, first, firstDue }) => [head, tail, first, firstDue]),
  ];
  const known = new Set([...zeroed, ...rests, ...moments.map(({ slot }) => slot), ...others]);
  const screens = made.accounting.log.screensEntered;
  const all = [
    ...Array.from({ length: cells.asked }, (_, slot) => slot),
    ...made.names.keys(),
    ...Array.from({ length: screens.length }, (_, word) => screens.base + word),
  ];
  const hasWaysBack = form.screens.some(({ backCell }) => backCell >= 0);
  return {
    plain: [...new Set(all)].filter((slot) => !known.has(slot)),
    moments,
    rests,
    zeroed,
    now: cells.now,
    live: cells.live,
    screen: cells.screen,
    level: cells.level,
    entered: cells.entered,
    attempted: meeting.attempted.slot,
    attemptExpires,
    hitsLeft,
    thinksUntil: turns.thinksUntil.slot,
    sits: form.screens.map(({ live }, screen) => !live && model.inputs[screen]!.length > 0),
    waits: form.screens.map(
      ({ waits, computedWaits }) => hasWaysBack || waits.length + computedWaits.length > 0,
    ),
    countsMade: form.levels.map(({ spawns }) =>
      Array.from({ length: spawnSlots }, (_, slot) => {
        const total = spawns[slot]?.total;
        return total !== undefined && total !== Number.POSITIVE_INFINITY;
      }),
    ),
    spawnMade: cells.spawnMade,
    queues,
  };
}

const queueSlots = (queue: DueQueue): QueueSlots => ({
  head: queue.head.slot,
  tail: queue.tail.slot,
  first: queue.first.slot,
  firstDue: queue.firstDue.slot,
  ...queue.bases,
});
