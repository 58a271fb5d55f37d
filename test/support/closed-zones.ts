import type { Design } from '../../src/design/model.js';
import { formOf } from '../../src/engine/program/lower/lower.js';
import type { Paces, TimedSearch } from '../../src/explore/timed/timed-search.js';
import type { Zone } from '../../src/explore/timed/zone.js';
import { cellsOf, farOff, readingOf } from './closed-set.js';
import { smallEvents } from './plain-explorer.js';
import type { Reference } from './reference.js';

/** What each clock shows; not a number: nothing asks for it. */
type Readings = number[];

/** Readings of a zone, one clock after the other, as often at an end of what is left as between. */
function readingsOf(zone: Zone, pick: (below: number) => number): Readings {
  const readings = [0];
  for (let clock = 1; clock < zone.size; clock++) {
    const low = Math.max(...readings.map((other, at) => other - zone.bound(at, clock)));
    const most = Math.min(...readings.map((other, at) => other + zone.bound(clock, at)));
    const high = Math.min(most, low + 4000);
    readings.push([low, high, low + pick(high - low + 1)][pick(3)]!);
  }
  return readings;
}

const holds = (zone: Zone, readings: Readings): boolean =>
  readings.every((one, i) => readings.every((other, j) => !(one - other > zone.bound(i, j) && i !== j)));

/**
 * Steps that lead out of what a search by zones has found, in words: a state and readings of its zones are drawn, the slow reading is
 * put there, time goes by, something is sent or a clock comes due, and what that leads to is looked for in the zones. For designs
 * whose timers run for fixed times on live screens, and in which nothing is left to chance.
 *
 * @param paces those that the search was given
 * @returns the steps that lead out, and how many were tried
 */
export function leaksIn(
  design: Design,
  search: TimedSearch,
  paces: Paces | undefined,
  seed: number,
  tries: number,
): { readonly leaks: string[]; readonly tried: number } {
  const form = formOf(design);
  const { game, timers, screenClock, attention } = search;
  const events = smallEvents(design);
  let noise = seed + 1;
  const pick = (below: number): number => {
    noise = (Math.imul(noise, 1_103_515_245) + 12_345) >>> 0;
    return Math.floor((noise / 2 ** 32) * below);
  };
  const state = new Float64Array(game.width);
  const zonesOf = new Map<string, Zone[]>();
  for (let node = 0; node < search.zones; node++) {
    const zone = search.node(node, state).copy();
    // What happens and changes nothing leaves the readings as they are after a while.
    if (design.screens[state[0]!]!.live) zone.elapse();
    const key = state.join();
    zonesOf.set(key, [...(zonesOf.get(key) ?? []), zone]);
  }
  const leaks: string[] = [];
  let tried = 0;
  for (let at = 0; at < tries; at++) {
    const zone = search.node(pick(search.zones), state);
    game.write(state);
    const cells = game.machine.cells.slice();
    const readings = readingsOf(zone, pick);
    const reading = readingOf(design, form, cells, seed);
    const { isLive } = reading;
    const running = timers.filter(
      ({ timer }) => reading.timers.get(design.timers[timer]!.name) !== Number.POSITIVE_INFINITY,
    );
    for (const { timer, clock, most } of running)
      reading.timers.set(design.timers[timer]!.name, most - readings[clock]!);
    if (isLive && screenClock > 0) reading.entered = -readings[screenClock]!;
    placeHolds(design, search, reading, readings, pick);
    const waits = design.transitions.flatMap(({ from, wait }) =>
      from === reading.screen && reading.length(wait) > reading.waited ? [reading.length(wait)] : [],
    );
    const left = [
      ...running.map(({ clock, most }) => most - readings[clock]!),
      ...(screenClock > 0 && waits.length > 0 ? [Math.min(...waits) - readings[screenClock]!] : []),
    ];
    const next = isLive ? Math.min(...left, farOff) : 0;
    if (next < 0 || Number.isNaN(next)) continue;
    const before = { grace: reading.graceEnds, rests: new Map(reading.rests) };
    const isClock = pick(3) === 0;
    const event = isClock ? undefined : events[pick(events.length)]!;
    if (event?.startsWith('red.') && reading.present.get('red') === 0) continue;
    const passes = isClock ? next : isLive && next > 0 ? pick(Math.min(next, 6000)) : 0;
    if (passes === farOff || (event !== undefined && isLive && next === 0)) continue;
    const pace = event === 'red.taken' && isLive ? (paces?.[0] ?? 0) : 0;
    if (pace > 0 && readings[attention]! + passes < pace) continue;
    try {
      if (!isLive && isClock) {
        if (waits.length === 0) continue;
        reading.entered = -Math.min(...waits);
      }
      reading.advance(reading.now + passes);
      if (event !== undefined && reading.send(event) !== 'handled') continue;
    } catch (error) {
      if (/endless-chain|no-next-level|number-too-large|too-many-pieces/.test(String(error))) continue;
      throw error;
    }
    const begun = beginsLevel(design, reading.log);
    game.read(state, cellsOf(reading, design, form, cells));
    if (begun === undefined || (reading.log.length === 0 && !isClock)) continue;
    const after = readings.map((each) => each + passes);
    after[0] = 0;
    for (const { timer, clock, most } of timers) {
      const { name } = design.timers[timer]!;
      const due = reading.timers.get(name)!;
      after[clock] = due === Number.POSITIVE_INFINITY ? Number.NaN : most - (due - reading.clock(name));
    }
    if (screenClock > 0) after[screenClock] = reading.isLive ? reading.now - reading.entered : Number.NaN;
    for (const { rule, clock, duration } of search.holds) {
      const ends = rule < 0 ? reading.graceEnds : reading.rests.get(design.rules[rule]!);
      const was = rule < 0 ? before.grace : before.rests.get(design.rules[rule]!);
      if (ends !== was) after[clock] = (ends ?? 0) - reading.live === duration ? 0 : duration;
    }
    if (attention > 0 && (pace > 0 || begun)) after[attention] = 0;
    tried++;
    // A grace that the search takes to be over, since a shorter one was given meanwhile, allows more than one that is not.
    const over = after.slice();
    for (const { rule, clock, duration } of search.holds)
      if (rule < 0) over[clock] = Math.max(over[clock]!, duration);
    const zones = zonesOf.get(state.join()) ?? [];
    if (!zones.some((each) => holds(each, after) || holds(each, over)))
      leaks.push(
        `${event ?? 'a clock'} after ${passes} ms at ${readings} of ${design.screens[cells[form.cells.screen]!]!.name} leads to ${after} of state ${state}: ${reading.log.join(', ')}`,
      );
  }
  return { leaks, tried };
}

/** Puts rests and graces where the clocks have them; those that no clock follows may be over or not. */
function placeHolds(
  design: Design,
  search: TimedSearch,
  reading: Reference,
  readings: Readings,
  pick: (below: number) => number,
): void {
  const followed = new Set(search.holds.map(({ rule }) => rule));
  design.rules.forEach((rule, index) => {
    if (rule.rest !== 0 && !followed.has(index) && pick(3) === 0) reading.rests.set(rule, farOff);
  });
  if (!followed.has(-1) && pick(3) === 0) reading.graceEnds = farOff;
  for (const { rule, clock, duration } of search.holds) {
    const left = duration - readings[clock]!;
    if (left <= 0) continue;
    if (rule >= 0) reading.rests.set(design.rules[rule]!, left);
    else reading.graceEnds = Math.max(reading.graceEnds, left);
  }
}

/** Whether a transition in the log begins a level anew; undefined where the log does not tell which was taken. */
function beginsLevel(design: Design, log: readonly string[]): boolean | undefined {
  const form = formOf(design);
  const begins = log.flatMap((line) => {
    const ways = design.transitions.flatMap(({ from, to }, at) =>
      `${from} -> ${to}` === line ? [form.transitions[at]!.respawns] : [],
    );
    return ways.length === 0 ? [] : [ways.every((each) => each === ways[0]) ? ways[0] : undefined];
  });
  return begins.includes(undefined) ? undefined : begins.includes(true);
}
