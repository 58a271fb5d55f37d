import {
  add,
  and,
  assign,
  binary,
  type Case,
  type Code,
  call,
  constant,
  declare,
  get,
  isAtLeast,
  isEqual,
  isLess,
  isMore,
  isNever,
  type Local,
  local,
  minus,
  never,
  not,
  or,
  plus,
  type Slot,
  select,
  set,
  slot,
  tableAt,
  type Value,
  when,
} from '../../compile/representation.js';
import { clockKinds } from '../clock-kinds.js';
import type { Amount, IntervalForm, SpawnForm, Term } from '../form.js';
import type { Build } from './build.js';
import { nextWarning, setTimer } from './effects.js';
import { amount, duration, oneOf, period } from './expressions.js';
import { isLive, isOneOf } from './screens.js';

/** The clock that is due next. */
export interface Due {
  /** The live time at which it is due, or would be if live time went on. */
  readonly at: Local;
  /** Which it is, as `clockCode` has it, or -1. */
  readonly clock: Local;
}

/**
 * One number for a clock: its kind, one of `clockKinds`, and which of its kind it is: a timer, or past the last one a timer's warning; a spawn
 * of the level; a wait in milliseconds.
 */
export const clockCode = (kind: number, index: number): number => kind + 8 * index;
export const kindOf = (clock: Value): Value => binary('bit and', clock, constant(7));
export const indexOf = (clock: Value): Value => binary('shift right', clock, constant(3));

/** Session time at which what was found is due. */
export const sessionTime = ({ state }: Build, { at }: Due): Value =>
  plus(get(at), minus(state.now, state.live));

/**
 * Finds the clock of the present screen that is due next; of those due at the same moment, timers first, then spawns, then what `others`
 * looks at, then waits.
 */
export function findDue(build: Build, due: Due, spawns: (live: boolean) => Code, others: Code = []): Code {
  const { form, state } = build;
  const alike = new Map<string, { of: number[]; body: Code }>();
  form.screens.forEach(({ timers, live, waits, computedWaits }, screen) => {
    const key = JSON.stringify([timers, live, waits, computedWaits]);
    const known = alike.get(key);
    if (known !== undefined) {
      known.of.push(screen);
      return;
    }
    const body = [
      ...timers.flatMap((timer) => timerDue(build, timer, due)),
      ...spawns(live),
      ...(live ? others : []),
      ...nextWait(build, waits, computedWaits, due),
    ];
    alike.set(key, { of: [screen], body });
  });
  return select(state.screen, [...alike.values()]);
}

/** Looks whether something that is due at a live time is due before what was found so far. */
export const lookAt = (due: Value, code: number, found: Due): Code =>
  when(isLess(due, get(found.at)), [assign(found.at, due), assign(found.clock, code)]);

function timerDue(build: Build, timer: number, found: Due): Code {
  const { form, state } = build;
  const clock = state.clock(timer);
  const isOwn = form.timers[timer]!.clockCell !== form.cells.live;
  const look = (due: Slot, index: number): Code => {
    const code = clockCode(clockKinds.timer, index);
    if (!isOwn) return lookAt(due, code, found);
    const own = local('own');
    return when(not(isNever(due)), [
      declare(own, plus(minus(due, clock), state.live)),
      ...lookAt(get(own), code, found),
    ]);
  };
  const end = look(state.timer(timer), timer);
  if (form.timers[timer]!.warnCell < 0) return end;
  return [...end, ...look(state.warning(timer), form.timers.length + timer)];
}

/** The shortest wait of a screen that is not over yet. */
function nextWait(build: Build, waits: readonly number[], computed: readonly Term[], found: Due): Code {
  const { state } = build;
  if (waits.length + computed.length === 0) return [];
  const entered = local('entered');
  const looks = waits.reduceRight((later: Code, wait) => {
    const over = plus(get(entered), wait);
    return when(isLess(state.waited, wait), lookAt(over, clockCode(clockKinds.wait, wait), found), later);
  }, []);
  const others = computed.flatMap((seconds) => {
    const [wait, over] = [local('wait'), local('over')];
    const code = plus(binary('shift left', get(wait), constant(3)), clockKinds.wait);
    return [
      declare(wait, duration(build, seconds)),
      // One that is shorter than when the screen was entered, where a way led back to it, is over now.
      declare(over, call('max', state.live, plus(get(entered), get(wait)))),
      ...when(and(isLess(state.waited, get(wait)), isLess(get(over), get(found.at))), [
        assign(found.at, get(over)),
        assign(found.clock, code),
      ]),
    ];
  });
  return [declare(entered, plus(minus(state.entered, state.now), state.live)), ...looks, ...others];
}

/** Lets time pass: on live screens live time, and on their screens the clocks of timers that run on chosen ones. */
export function elapse({ form, state }: Build, to: Value): Code {
  const passed = local('passed');
  return [
    declare(passed, minus(to, state.now)),
    ...when(isLive({ form, state }), [add(state.live, get(passed))]),
    ...form.clocks.flatMap((screens, clock) =>
      when(isOneOf(state.screen, screens), [add(slot(form.cells.clocks + clock), get(passed))]),
    ),
    set(state.now, to),
  ];
}

/** A timer is due, or past the last timer its warning: it is set anew, and `then` is what its event sets off. */
export function fireTimer(build: Build, index: Value, then: (event: number) => Code): Code {
  const { form, state } = build;
  const cases = form.timers.flatMap(
    ({ repeats, interval: length, event, warnCell, warnEvent }, timer): Case[] => {
      const next = repeats ? plus(state.timer(timer), period(build, length)) : never;
      const end = { of: [timer], body: [...setTimer(build, timer, next), ...then(event)] };
      if (warnCell < 0) return [end];
      return [
        end,
        { of: [form.timers.length + timer], body: [...nextWarning(build, timer), ...then(warnEvent)] },
      ];
    },
  );
  return select(index, cases);
}

/** More than any spawn makes, as where it is computed, and a small integer on every JavaScript engine. */
export const finite = (many: Amount): number =>
  typeof many === 'number' ? Math.min(many, 2 ** 30) : 2 ** 30;

/** What a level's spawns are, by level and slot. */
function spawnTables(build: Build) {
  const { form } = build;
  const { spawnSlots } = build.state;
  const table = (name: string, pick: (spawn: SpawnForm) => number, none: number) =>
    build.table(name, () =>
      form.levels.flatMap(({ spawns }) =>
        Array.from({ length: spawnSlots }, (_, slot) =>
          spawns[slot] === undefined ? none : pick(spawns[slot]),
        ),
      ),
    );
  return {
    piece: table('spawnPiece', ({ piece }) => piece, 0),
    atOnce: table('spawnAtOnce', ({ atOnce }) => finite(atOnce), 0),
    total: table('spawnTotal', ({ total }) => finite(total), 0),
    least: table('spawnLeast', ({ every }) => every.least, 0),
    step: table('spawnStep', ({ every }) => every.step, 0),
    choices: table('spawnChoices', ({ every }) => (isPlain(every) ? every.choices : 1), 1),
    draw: table('spawnDraw', ({ every }) => every.draw, -1),
  };
}

/** Whether the time from one piece of a spawn to the next can be read off tables. */
const isPlain = ({ least, computed }: IntervalForm): boolean => computed === undefined && least > 0;

/**
 * A spawn of the level is due: it is set anew, and as far as it is bounded its piece appears. `then` follows in any case, before the piece is
 * there, and `appears` once it is.
 */
export function fireSpawn(build: Build, at: Value, then: Code, appears: (piece: Value) => Code): Code {
  const { state } = build;
  const tables = spawnTables(build);
  const [spawn, piece, there, made, due] = ['spawn', 'piece', 'there', 'made', 'due'].map(local) as [
    Local,
    Local,
    Local,
    Local,
    Local,
  ];
  const isShut = local('isShut');
  const shut = shutSpawns(build, { there, made, isShut });
  const isOpen = and(
    isLess(get(there), tableAt(tables.atOnce, get(spawn))),
    ...(shut.length === 0 ? [] : [isEqual(get(isShut), 0)]),
  );
  const present = state.present(get(piece));
  const nth = oneOf(tableAt(tables.draw, get(spawn)), tableAt(tables.choices, get(spawn)));
  return [
    declare(spawn, plus(binary('*', build.levelIndex, constant(state.spawnSlots)), at)),
    declare(piece, tableAt(tables.piece, get(spawn))),
    declare(there, present),
    declare(made, state.spawnMade(at)),
    ...(shut.length === 0 ? [] : [declare(isShut, 0), ...select(get(spawn), shut)]),
    ...when(isOpen, [assign(made, plus(get(made), 1)), set(state.spawnMade(at), get(made))]),
    ...when(
      isAtLeast(get(made), tableAt(tables.total, get(spawn))),
      [set(state.spawnDue(at), never)],
      [
        declare(due, plus(state.spawnDue(at), tableAt(tables.least, get(spawn)))),
        ...otherIntervals(build, spawn, due),
        ...when(isMore(tableAt(tables.choices, get(spawn)), 1), [
          assign(due, plus(get(due), binary('*', tableAt(tables.step, get(spawn)), nth))),
        ]),
        set(state.spawnDue(at), get(due)),
      ],
    ),
    ...then,
    ...when(isOpen, [set(present, plus(get(there), 1)), ...appears(get(piece))]),
  ];
}

/** For each spawn, by level and slot, of which a bound is computed: it is shut while so many are there, or were made. */
function shutSpawns(
  build: Build,
  { there, made, isShut }: { readonly there: Local; readonly made: Local; readonly isShut: Local },
): Case[] {
  return build.form.levels.flatMap(({ spawns }, level) =>
    spawns.flatMap((spawn, slot): Case[] => {
      const isFull = fullBy(build, spawn, get(there), get(made));
      if (isFull.op === 'truth') return [];
      return [{ of: [level * build.state.spawnSlots + slot], body: when(isFull, [assign(isShut, 1)]) }];
    }),
  );
}

/** Whether a spawn is shut by a bound that is computed. */
export const fullBy = (build: Build, { atOnce, total }: SpawnForm, there: Value, made: Value): Value =>
  or(
    ...(typeof atOnce === 'object' ? [isAtLeast(there, amount(build, atOnce))] : []),
    ...(typeof total === 'object' ? [isAtLeast(made, amount(build, total))] : []),
  );

/** Adds the intervals that no table has; their least and their choices are nothing there. */
function otherIntervals(build: Build, spawn: Local, due: Local): Code {
  const cases = build.form.levels.flatMap(({ spawns }, level) =>
    spawns.flatMap(({ every }, slot): Case[] =>
      isPlain(every)
        ? []
        : [
            {
              of: [level * build.state.spawnSlots + slot],
              body: [assign(due, plus(get(due), period(build, every)))],
            },
          ],
    ),
  );
  return select(get(spawn), cases);
}
