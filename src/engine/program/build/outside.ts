import {
  add,
  and,
  ask,
  assign,
  binary,
  type Case,
  type Code,
  call,
  choose,
  constant,
  declare,
  type FunctionCode,
  get,
  give,
  isAtLeast,
  isEqual,
  isLess,
  type Local,
  local,
  not,
  plus,
  run,
  select,
  set,
  type Table,
  tableAt,
  truth,
  type Value,
  when,
} from '../../compile/representation.js';
import { isOutside, receptions } from '../events.js';
import { mostPresent, type SpawnForm } from '../form.js';
import type { Build } from './build.js';
import { finite } from './clocks.js';
import { meetOnCourse } from './course.js';
import { amount, canMeet, term } from './expressions.js';
import { isLive } from './screens.js';

/** Whether an event, once it has happened on a screen, sets something off or may make a condition true. */
const runsOn = ({ form }: Build, screen: number, event: number): boolean => {
  const { handlers, watchesPresence } = form.screens[screen]!;
  return handlers.has(event) || (watchesPresence && form.events[event]!.piece >= 0);
};

/** The same by screen, a bit for each event, 32 to a number. */
function runsTable(build: Build): Table {
  const { screens, events } = build.form;
  const words = wordsOf(build);
  return build.table('runs', () =>
    screens.flatMap((_, screen) =>
      Array.from({ length: words }, (__, word) =>
        Array.from({ length: 32 }, (___, bit) => 32 * word + bit).reduce(
          (bits, event) =>
            event < events.length && runsOn(build, screen, event) ? bits | (1 << (event & 31)) : bits,
          0,
        ),
      ),
    ),
  );
}

const wordsOf = ({ form }: Build): number => Math.ceil(form.events.length / 32);

/** Whether an event, once it has happened on the present screen, sets something off or may make a condition true. */
export function isRun(build: Build, event: Value, screens: readonly number[]): Value {
  if (event.op === 'constant') {
    const runs = screens.map((screen) => runsOn(build, screen, event.value));
    if (runs.every((each) => each)) return truth(true);
    if (runs.every((each) => !each)) return truth(false);
  }
  const words = wordsOf(build);
  const { screen } = build.state;
  const word =
    words === 1
      ? screen
      : plus(binary('*', screen, constant(words)), binary('shift right', event, constant(5)));
  const bit = binary('shift right', tableAt(runsTable(build), word), binary('bit and', event, constant(31)));
  return isEqual(binary('bit and', bit, constant(1)), 1);
}

/** The event of a piece's appearing. */
export const appearedOf = (build: Build, piece: Value): Value =>
  build.ofPiece('appeared', piece, ({ appeared }) => appeared);

/** What follows an event of a piece: it has no meaning here, grace turns it away, or it counts. */
export interface Follows {
  readonly ignored: Code;
  readonly turnedAway: Code;
  readonly counts: Code;
}

const kinds: Readonly<Record<string, number>> = { outcome: 1, appeared: 2, gone: 3 };

/**
 * An event of a piece on a live screen, before any rule hears it: what the piece needs must hold; grace turns a hit away before anything sees
 * it; and an outcome takes its piece away before rules run. Each of `follows` ends with going on elsewhere.
 *
 * @param spawning whether the design's own spawns make pieces appear
 */
export function meet(build: Build, event: Value, piece: Value, spawning: Value, follows: Follows): Code {
  const { form, state, listener } = build;
  const kind = build.ofEvent('kind', event, (each) => kinds[each.kind] ?? 0);
  const presence = build.ofEvent('presence', event, (each) => each.presence);
  const hits = build.ofEvent('isHit', event, ({ turnedAway }) => Number(turnedAway));
  const isOutcome = isEqual(kind, kinds.outcome!);
  const isTurnedAway = and(isEqual(hits, 1), isLess(state.live, state.graceEnds));
  // A game that brings more of a piece than can be there at once is not heard.
  const isFull = and(isEqual(kind, kinds.appeared!), isAtLeast(state.present(piece), mostPresent));
  const unmet = [
    ...when(and(isOutcome, not(canMeet(build, piece))), follows.ignored),
    ...when(isFull, follows.ignored),
  ];
  const counts = (takes: Code): Code => [
    ...when(isTurnedAway, follows.turnedAway),
    ...(listener.outcome === undefined ? [] : when(isOutcome, listener.outcome(event))),
    ...takes,
    ...when(and(isEqual(kind, kinds.appeared!), not(spawning)), countSpawned(build, piece)),
    ...follows.counts,
  ];
  const takes = changePresence(build, piece, presence);
  if (form.cells.courseLength === 0) return [...unmet, ...counts(takes)];
  const stays = local('stays');
  const isGone = and(isLess(presence, 0), not(isTurnedAway));
  const place = when(not(isEqual(kind, kinds.appeared!)), [
    assign(stays, ask(meetOnCourse(build), piece, event, choose(isGone, 1, 0))),
  ]);
  return [...unmet, declare(stays, 0), ...place, ...counts(when(isEqual(get(stays), 0), takes))];
}

/** An event from outside: a press, or what became of a piece. Pieces' events count on live screens only. */
export function sendFunction(build: Build, spawning: Value): FunctionCode {
  const [event, piece, runs] = [local('event'), local('piece'), local('runs')];
  const outside = build.ofEvent('isOutside', get(event), ({ kind }) => Number(isOutside(kind)));
  const screens = build.form.screens.map((_, screen) => screen);
  const ignored = [give(receptions.ignored)];
  const quiet = when(isEqual(get(runs), 0), [give(receptions.handled)]);
  const meets = [
    ...when(not(isLive(build)), ignored),
    ...meet(build, get(event), get(piece), spawning, {
      ignored,
      turnedAway: [give(receptions['turned away'])],
      counts: quiet,
    }),
  ];
  return {
    parameters: [event],
    body: [
      ...when(isEqual(outside, 0), ignored),
      declare(
        piece,
        build.ofEvent('piece', get(event), (each) => each.piece),
      ),
      declare(runs, choose(isRun(build, get(event), screens), 1, 0)),
      ...when(isAtLeast(get(piece), 0), meets, when(isEqual(get(runs), 0), ignored)),
      run('handle', get(event), -1),
      give(receptions.handled),
    ],
  };
}

/** Whether what a piece needs to be met at all holds now; 1 or 0. */
export function canMeetFunction(build: Build): FunctionCode {
  const piece = local('piece');
  return { parameters: [piece], body: [give(choose(canMeet(build, get(piece)), 1, 0))] };
}

/** The outcome of a piece that the next draw of a place chooses by weight, into a variable; the last where nothing weighs anything. */
export function weighed(build: Build, piece: Value, draws: Value, into: Local): Code {
  const cases = build.form.pieces.flatMap(({ weighted, failure }, index): Case[] => {
    if (weighted === undefined) return [];
    const at = local('at');
    const drawn = (...of: readonly Value[]): Value => ({
      op: 'draw',
      place: draws,
      split: { kind: 'weights', of },
    });
    if (weighted.length === 0)
      return [{ of: [index], body: [declare(at, drawn(constant(1))), assign(into, failure)] }];
    const weights = weighted.map(({ weight }) => ({ of: local('weight'), value: term(build, weight) }));
    const upTo = (many: number): Value =>
      weights
        .slice(0, many)
        .map(({ of }) => get(of))
        .reduce((left, right) => plus(left, right));
    const chosen = weighted.reduceRight(
      (otherwise: Value, { event }, nth) => choose(isLess(get(at), upTo(nth + 1)), event, otherwise),
      constant(failure),
    );
    const body = [
      ...weights.map(({ of, value }) => declare(of, call('max', 0, value))),
      declare(
        at,
        binary(
          '/',
          binary('*', drawn(...weights.map(({ of }) => get(of))), upTo(weights.length)),
          constant(2 ** 32),
        ),
      ),
      assign(into, chosen),
    ];
    return [{ of: [index], body }];
  });
  return select(piece, cases);
}

/** One more or less of a piece, never less than none. */
function changePresence({ state }: Build, piece: Value, by: Value): Code {
  if (by.op === 'constant' && by.value === 0) return [];
  return [set(state.present(piece), call('max', 0, plus(state.present(piece), by)))];
}

const madeBound = (build: Build, { total }: SpawnForm): Value | number =>
  typeof total === 'object' ? amount(build, total) : finite(total);

/** Where a game makes pieces appear itself, each is one of those that the level's spawns would have made, as far as there are any. */
function countSpawned(build: Build, piece: Value): Code {
  const { form, state } = build;
  const cases = form.levels.map(({ spawns }, level): Case => {
    const body = spawns.reduceRight(
      (later: Code, spawn, slot) =>
        when(
          and(isEqual(piece, spawn.piece), isLess(state.spawnMade(slot), madeBound(build, spawn))),
          [add(state.spawnMade(slot), 1)],
          later,
        ),
      [],
    );
    return { of: [level], body };
  });
  return select(build.levelIndex, cases);
}
