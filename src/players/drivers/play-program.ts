// One function: the loop that a whole session is, and what stands around it.

import {
  and,
  assign,
  type Case,
  type Code,
  constant,
  declare,
  type FunctionCode,
  get,
  give,
  isAtLeast,
  isEqual,
  isLess,
  isMore,
  type KnownSlot,
  label,
  leave,
  local,
  loop,
  never,
  not,
  or,
  type Program,
  plus,
  repeat,
  type Slot,
  select,
  set,
  tell,
  type Value,
  when,
} from '../../engine/compile/representation.js';
import { Build, type Listener } from '../../engine/program/build/build.js';
import { chainLocals, handle } from '../../engine/program/build/chain.js';
import {
  clockCode,
  elapse,
  findDue,
  fireSpawn,
  fireTimer,
  indexOf,
  kindOf,
  lookAt,
  sessionTime,
} from '../../engine/program/build/clocks.js';
import { oneOf } from '../../engine/program/build/expressions.js';
import { appearedOf, isRun } from '../../engine/program/build/outside.js';
import { isLive, liveScreens } from '../../engine/program/build/screens.js';
import { type Area, areaAt, Slots } from '../../engine/program/build/slots.js';
import { clockKinds } from '../../engine/program/clock-kinds.js';
import type { Form } from '../../engine/program/form.js';
import { Accounting } from '../../measure/accounting.js';
import type { Meeting } from '../meeting/meeting.js';
import { type Abilities, MeetingProgram, meetingDraws, unheard } from '../meeting/meeting-program.js';

/** Past the kinds of clocks: the player does something on a screen that is not live. */
const inputKind = clockKinds.wait + 1;
/** The player presses something on a live screen. */
const actKind = inputKind + 1;

/** Spawn clocks of which the first is looked for one by one; more are looked for by a loop. */
const fewSpawns = 16;

/**
 * A whole session of a simulated player, from its first start until it leaves: the function `play`; or where it goes by turns, `begin`, and
 * `turn` until `isOver`.
 */
export interface PlayProgram {
  readonly program: Program;
  readonly accounting: Accounting;
  readonly meeting: MeetingProgram;
  readonly inputs: Inputs;
  /** All slots that stand one after the other, and the names of all others. */
  readonly areas: readonly Area[];
  readonly names: ReadonlyMap<number, string>;
  /** The event that the host's function chose to send, or -1. */
  readonly decided: KnownSlot;
  /** Of a session that goes by turns, what comes first in the next one, and whether there is none. */
  readonly turns: Turns;
}

/**
 * What is handled first in a turn: an event (-1: none), after a transition (-1: none). Beside it, where it stands what the player of a session
 * and its spawns are up to.
 */
interface Turns {
  readonly event: KnownSlot;
  readonly taken: KnownSlot;
  readonly isOver: KnownSlot;
  /** Session time at which the player sends an input on a screen that is not live. */
  readonly thinksUntil: KnownSlot;
  /** Live time at which the level's first spawn is due. */
  readonly spawnNext: KnownSlot;
}

/** What the player may send on each screen: `events` from `first[screen]` on, `many[screen]` of them. */
interface Inputs {
  readonly first: Area;
  readonly many: Area;
  readonly events: Area;
}

/**
 * The meeting model and what is noted of a session, built around the program of a form.
 *
 * @param mostInputs events that may be offered on all screens together
 */
export function playProgram(form: Form, model: Meeting, can: Abilities, mostInputs: number): PlayProgram {
  const { cells } = form;
  const slots = new Slots(cells.size);
  nameCells(form, slots);
  const accounting = new Accounting(form, slots);
  const meeting = new MeetingProgram(form, slots, model, can, accounting);
  const thinksUntil = slots.one('thinksUntil');
  const spawnNext = slots.one('spawnNext');
  const spawnAt = slots.one('spawnAt');
  const decided = slots.one('decided');
  const turns: Turns = {
    event: slots.one('turnEvent'),
    taken: slots.one('turnTaken'),
    isOver: slots.one('isOver'),
    thinksUntil,
    spawnNext,
  };
  const screens = form.screens.length;
  const inputs: Inputs = {
    first: slots.area('inputFirst', screens, true),
    many: slots.area('inputMany', screens, true),
    events: slots.area('inputEvents', mostInputs, true),
  };
  const asked = slots.area('asked', meetingDraws(form).count);
  const [mostRuns, patience, thinks] = [local('mostRuns'), local('patience'), local('thinks')];
  const { listener: noted } = accounting;
  const listener: Listener = {
    ...noted,
    rule: (rule) => [...noted.rule!(rule), ...meeting.fires(rule)],
    transition: (taken) => [
      ...noted.transition!(taken),
      set(thinksUntil, plus(build.state.now, get(thinks))),
    ],
    appeared: (piece) => meeting.appear(piece),
    gone: (piece, isOldest) => meeting.gone(piece, isOldest),
    cleared: (piece) => meeting.clear(piece),
    allCleared: () => meeting.clearAll(),
    clocksSet: () => findSpawn(build, spawnNext, spawnAt),
  };
  const build: Build = new Build(form, listener);
  meeting.build = build;
  const { state } = build;
  const chain = chainLocals();
  const then = local('then');
  const [playing, due] = [label('playing'), { at: local('at'), clock: local('clock') }];
  const goOn = (event: Value | number): Code => [assign(chain.event, event), repeat(playing)];
  const isSitting = and(not(isLive(build)), isMore(inputs.many.at(state.screen), 0));
  const nth = oneOf(plus(constant(meetingDraws(form).input), state.screen), inputs.many.at(state.screen));
  const chosen = plus(inputs.first.at(state.screen), nth);
  const sends = (event: Value): Code =>
    can.told ? [tell('player.sent', event, 0, 1), ...goOn(event)] : goOn(event);
  const acts: Code = [
    set(thinksUntil, plus(state.now, get(thinks))),
    set(decided, inputs.events.at(chosen)),
    ...(can.decide ? [tell('player.decide')] : []),
    ...when(isLess(decided, 0), goOn(unheard)),
    ...sends(decided),
  ];
  const cases: Case[] = [
    { of: [clockKinds.timer], body: fireTimer(build, indexOf(get(due.clock)), goOn) },
    { of: [clockKinds.spawn], body: spawns(build, meeting, spawnNext, spawnAt, goOn) },
    { of: [clockKinds.arrival], body: meeting.arrive(chain.event, playing) },
    { of: [clockKinds.attempt], body: meeting.finishAttempt(chain.event, playing) },
    { of: [clockKinds.expiry], body: meeting.expire(chain.event, playing) },
    { of: [clockKinds.wait], body: [set(state.waited, indexOf(get(due.clock))), ...goOn(-1)] },
    { of: [inputKind], body: acts },
    ...(form.acts.length === 0
      ? []
      : [
          {
            of: [actKind],
            body: select(
              indexOf(get(due.clock)),
              form.acts.map((_, act) => ({ of: [act], body: meeting.act(act, chain.event, playing) })),
            ),
          },
        ]),
  ];
  const others: Code = [
    ...lookAt(meeting.arriving.firstDue, clockKinds.arrival, due),
    ...lookAt(meeting.attemptDue, clockKinds.attempt, due),
    ...lookAt(meeting.sought.firstDue, clockKinds.expiry, due),
    ...meeting.actDue.flatMap((at, act) => lookAt(at, clockCode(actKind, act), due)),
  ];
  const spawnsDue = (live: boolean): Code =>
    live && build.state.spawnSlots > 0 ? lookAt(spawnNext, clockKinds.spawn, due) : [];
  const begins: Code = [...accounting.begin(), ...meeting.begin(), set(thinksUntil, 0)];
  const turn: Code = [
    ...when(not(isEqual(get(chain.event), unheard)), [
      assign(chain.steps, 0),
      ...handle(build, chain),
      ...accounting.settled(),
      ...when(isAtLeast(accounting.ended, get(mostRuns)), [leave(playing)]),
      ...(can.quit
        ? when(isEqual(accounting.lost, 1), [
            set(accounting.lost, 0),
            ...when(meeting.quits, [leave(playing)]),
          ])
        : []),
    ]),
    ...meeting.attend(chain.event, playing),
    declare(due.at, never),
    declare(due.clock, -1),
    ...findDue(build, due, spawnsDue, others),
    declare(then, sessionTime(build, due)),
    ...when(and(isSitting, or(isLess(get(due.clock), 0), isLess(thinksUntil, get(then)))), [
      assign(then, thinksUntil),
      assign(due.clock, inputKind),
    ]),
    ...when(isLess(get(due.clock), 0), [leave(playing)]),
    ...when(isMore(get(then), get(patience)), [...elapse(build, get(patience)), leave(playing)]),
    ...elapse(build, get(then)),
    assign(chain.event, unheard),
    ...select(kindOf(get(due.clock)), cases),
  ];
  const functions = new Map<string, FunctionCode>();
  const parameters = [mostRuns, patience, thinks];
  const firstTaken = form.transitions.length - 1;
  const starts = (event: Value | number, taken: Value | number): Code => [
    declare(chain.event, event),
    declare(chain.taken, taken),
    declare(chain.steps, 0),
  ];
  if (can.steps) {
    const isDone = local('isDone');
    const stops = when(isEqual(get(isDone), 1), [
      set(turns.event, get(chain.event)),
      set(turns.taken, get(chain.taken)),
      give(0),
    ]);
    functions.set('begin', {
      parameters: [],
      body: [...begins, set(turns.event, -1), set(turns.taken, firstTaken), set(turns.isOver, 0)],
    });
    functions.set('turn', {
      parameters,
      body: [
        ...starts(turns.event, turns.taken),
        declare(isDone, 0),
        loop(playing, [...stops, assign(isDone, 1), ...turn]),
        ...accounting.leave(),
        set(turns.isOver, 1),
        give(0),
      ],
    });
  } else {
    const body = [...begins, ...starts(-1, firstTaken), loop(playing, turn), ...accounting.leave()];
    functions.set('play', { parameters, body });
  }
  for (const [name, code] of build.functions) functions.set(name, code);
  const program = { slots: slots.size, functions, asked: asked.base, tellsSplits: can.steps };
  return { program, accounting, meeting, inputs, areas: slots.areas, names: slots.names, decided, turns };
}

/** Names for the cells of a form; those that are looked up by index stand in areas. */
function nameCells(form: Form, slots: Slots): void {
  const { cells, pieces, counters, timers } = form;
  const named: [number, string][] = [
    ...(['now', 'live', 'screen', 'entered', 'waited', 'level', 'graceEnds'] as const).map(
      (name): [number, string] => [cells[name], name],
    ),
    ...counters.map((_, counter): [number, string] => [cells.counters + counter, `counter${counter}`]),
    ...timers.map((_, timer): [number, string] => [cells.timers + timer, `timer${timer}`]),
    ...form.clocks.map((_, clock): [number, string] => [cells.clocks + clock, `clock${clock}`]),
    ...timers.flatMap(({ warnCell }, timer): [number, string][] =>
      warnCell < 0 ? [] : [[warnCell, `warning${timer}`]],
    ),
    ...form.screens.flatMap(({ backCell }, screen) =>
      backCell < 0
        ? []
        : [0, 1, 2].map((part): [number, string] => [backCell + part, `back${screen}_${part}`]),
    ),
    ...form.rules.flatMap(({ restCell, memoryCell, onceCell }, rule) =>
      (
        [
          [restCell, 'rest'],
          [memoryCell, 'memory'],
          [onceCell, 'once'],
        ] as const
      ).flatMap(([cell, name]): [number, string][] => (cell < 0 ? [] : [[cell, `${name}${rule}`]])),
    ),
  ];
  for (const [cell, name] of named) slots.names.set(cell, name);
  const many = cells.spawnMade - cells.spawnDue;
  slots.areas.push(
    areaAt('present', cells.present, pieces.length),
    areaAt('spawnDue', cells.spawnDue, many),
    areaAt('spawnMade', cells.spawnMade, many),
    areaAt('course', cells.course, cells.courseLength === 0 ? 0 : cells.courseLength + 2),
  );
}

/** The spawn of the level that is due first. */
function findSpawn(build: Build, next: Slot, at: Slot): Code {
  const { state } = build;
  const { spawnSlots } = state;
  if (spawnSlots === 0) return [];
  const look = (slot: Value): Code =>
    when(isLess(state.spawnDue(slot), next), [set(next, state.spawnDue(slot)), set(at, slot)]);
  const nth = local('nth');
  const others: Code =
    spawnSlots > fewSpawns
      ? [{ op: 'count', local: nth, from: constant(1), to: constant(spawnSlots), body: look(get(nth)) }]
      : Array.from({ length: spawnSlots - 1 }, (_, index) => look(constant(index + 1))).flat();
  return [set(next, state.spawnDue(0)), set(at, 0), ...others];
}

function spawns(
  build: Build,
  meeting: MeetingProgram,
  next: Slot,
  at: Slot,
  goOn: (event: Value) => Code,
): Code {
  const { form } = build;
  if (build.state.spawnSlots === 0) return [];
  const live = liveScreens(build);
  const anyHeard = form.pieces.some((each) => !isNever(isRun(build, constant(each.appeared), live)));
  const tells = (piece: Value): Code => {
    const appeared = appearedOf(build, piece);
    return anyHeard ? when(isRun(build, appeared, live), goOn(appeared)) : [];
  };
  return fireSpawn(build, at, findSpawn(build, next, at), (piece) => [
    ...meeting.appear(piece),
    ...tells(piece),
  ]);
}

const isNever = (value: Value): boolean => value.op === 'truth' && !value.value;
