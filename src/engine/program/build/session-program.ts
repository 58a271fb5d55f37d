import {
  type Code,
  choose,
  declare,
  type FunctionCode,
  get,
  give,
  isEqual,
  isLess,
  local,
  never,
  type Program,
  run,
  select,
  set,
  slot,
  tell,
  type Value,
  when,
} from '../../compile/representation.js';
import { clockKinds } from '../clock-kinds.js';
import type { Form } from '../form.js';
import { Build, type Listener } from './build.js';
import { chainLocals, handle } from './chain.js';
import {
  clockCode,
  type Due,
  elapse,
  findDue,
  fireSpawn,
  fireTimer,
  indexOf,
  kindOf,
  lookAt,
  sessionTime,
} from './clocks.js';
import { term } from './expressions.js';
import { respawn } from './fresh.js';
import { machineCells } from './machine-cells.js';
import { appearedOf, canMeetFunction, isRun, sendFunction } from './outside.js';
import { liveScreens } from './screens.js';

/** A whole session, told to a probe. */
export const probing: Listener = {
  rule: (rule) => [tell('probe.rule', rule)],
  transition: (taken) => [tell('probe.transition', taken)],
  write: (counter, source, before, after, wanted) => [
    tell('probe.write', counter, source, before, after, wanted),
  ],
  cue: (cue) => [tell('probe.cue', cue)],
  popup: (popup) => [tell('probe.popup', popup)],
  appeared: (piece) => [tell('probe.appeared', piece)],
  gone: (piece, isOldest) => [tell('probe.gone', piece, isOldest ? 1 : 0)],
  cleared: (piece) => [tell('probe.cleared', piece)],
  allCleared: () => [tell('probe.allCleared')],
  outcome: (event) => [tell('probe.outcome', event)],
};

/**
 * The functions that a machine runs a session by, over its cells.
 *
 * @param noted functions of whoever listens, and how many slots they need with those of the machine
 */
export function sessionProgram(
  form: Form,
  listener: Listener,
  noted: { readonly slots: number; readonly functions: ReadonlyMap<string, FunctionCode> } = {
    slots: machineCells(form).size,
    functions: new Map(),
  },
): Program {
  const build = new Build(form, listener);
  const { state } = build;
  const cells = machineCells(form);
  const spawning = isEqual(slot(cells.spawning), 1);
  const functions = new Map<string, FunctionCode>();
  const chain = chainLocals();
  functions.set('handle', {
    parameters: [chain.event, chain.taken],
    body: [declare(chain.steps, 0), ...handle(build, chain, [run('respawn')])],
  });
  functions.set('respawn', { parameters: [], body: respawn(build) });
  functions.set('canMeet', canMeetFunction(build));
  functions.set('send', sendFunction(build, spawning));
  functions.set('find', findFunction(build, cells, spawning));
  const to = local('to');
  functions.set('elapse', { parameters: [to], body: elapse(build, get(to)) });
  const timer = local('timer');
  const handled = (event: number): Code => [run('handle', event, -1)];
  functions.set('fireTimer', { parameters: [timer], body: fireTimer(build, get(timer), handled) });
  functions.set('fireSpawn', spawnFunction(build));
  const wait = local('wait');
  functions.set('fireWait', {
    parameters: [wait],
    body: [set(state.waited, get(wait)), run('handle', -1, -1)],
  });
  const index = local('index');
  const values = form.values.map((value, nth) => ({ of: [nth], body: [give(term(build, value))] }));
  functions.set('value', { parameters: [index], body: [...select(get(index), values), give(0)] });
  for (const [name, code] of [...build.functions, ...noted.functions]) functions.set(name, code);
  return { slots: noted.slots, functions, asked: form.cells.asked };
}

function findFunction(build: Build, cells: ReturnType<typeof machineCells>, spawning: Value): FunctionCode {
  const { state } = build;
  const due: Due = { at: local('at'), clock: local('clock') };
  const spawns = Array.from({ length: build.state.spawnSlots }, (_, nth) =>
    lookAt(state.spawnDue(nth), clockCode(clockKinds.spawn, nth), due),
  ).flat();
  return {
    parameters: [],
    body: [
      declare(due.at, never),
      declare(due.clock, -1),
      ...findDue(build, due, (live) => (live ? when(spawning, spawns) : [])),
      set(slot(cells.dueAt), sessionTime(build, due)),
      set(slot(cells.dueKind), choose(isLess(get(due.clock), 0), -1, kindOf(get(due.clock)))),
      set(slot(cells.dueIndex), indexOf(get(due.clock))),
    ],
  };
}

function spawnFunction(build: Build): FunctionCode {
  const { listener } = build;
  const [at, event] = [local('slot'), local('event')];
  if (build.state.spawnSlots === 0) return { parameters: [at], body: [] };
  const appears = (piece: Value): Code => [
    ...(listener.appeared?.(piece) ?? []),
    declare(event, appearedOf(build, piece)),
    ...when(isRun(build, get(event), liveScreens(build)), [run('handle', get(event), -1)]),
  ];
  return { parameters: [at], body: fireSpawn(build, get(at), [], appears) };
}
