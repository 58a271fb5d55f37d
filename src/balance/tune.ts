// The search and what it offers to choose from, in the order in which it goes.

import type { Design, Dial } from '../design/model.js';
import { UsageError } from '../design/problems/problem.js';
import { dialsToTurn, nearestSetting, type Settings, withDials } from '../design/settings.js';
import { draw, placeKey, sessionKey } from '../engine/run/draw.js';
import type { World } from '../players/worlds/world.js';
import { type Plan, playHereTelling } from './plays.js';
import { judgeTargets, type TargetResult } from './targets.js';

export interface TuneOptions {
  /** Sessions of each player at each setting that is tried. */
  readonly sessions: number;
  readonly seed: number;
  /** Dials that may be turned; all with a range unless given. */
  readonly dials?: readonly string[] | undefined;
  /** Where they are played; the meeting model unless it is given. */
  readonly world?: World | undefined;
  readonly progress?: ((tried: number) => void) | undefined;
}

export interface Tried {
  readonly settings: Settings;
  /** How far the targets are from being met: 0 where all values lie within their bounds, 1 for each that is a whole bound away. */
  readonly miss: number;
  /** The same of each target by itself, in their order. */
  readonly misses: readonly number[];
}

/** Two targets that no setting that was tried meets together, though each is met by some. */
export interface Conflict {
  readonly one: string;
  readonly other: string;
  /** How far both are missed in all where that is least, as in `miss`. */
  readonly by: number;
}

export interface Tuned {
  /** What was found, with every dial that could be turned. */
  readonly settings: Settings;
  readonly before: Settings;
  /** Every setting that was tried, in order. */
  readonly tried: readonly Tried[];
  /** Up to three settings that miss least, as different from each other as can be; first the one that was found. */
  readonly choices: readonly Tried[];
  readonly conflicts: readonly Conflict[];
  /** Targets that no setting that was tried meets. */
  readonly unmet: readonly string[];
  /** The targets where the dials stood, and as found: both judged on fresh seeds, with more sessions. */
  readonly standing: readonly TargetResult[];
  readonly found: readonly TargetResult[];
  /** Sessions of each player in that last judgement, and its seed. */
  readonly checkedWith: { readonly sessions: number; readonly seed: number };
  /** Whether every target is met there. */
  readonly isMet: boolean;
}

/** Settings of each dial that are tried with all others left alone. */
const triedAlong = 7;
/** Settings of all dials that are drawn at random for each dial, before the best are searched around. */
const drawnForEach = 8;
/** Of those, how many are searched around. */
const searchedAround = 3;
/** A range is searched down to one part in this. */
const finest = 128;
const mostTried = 400;
/** Settings whose sessions are held at once; enough for many machines to have something to do. */
const playedAtOnce = 16;
/** Settings that are offered to choose from. */
const mostChoices = 3;
/** How many times more sessions the last judgement has. */
const checkFactor = 4;

/**
 * Looks for dial settings with which all targets are met: each dial by itself, then settings drawn over the ranges and a pattern search around the best (Hooke
 * and Jeeves, "Direct search solution of numerical and statistical problems", 1961). Every setting is played with the same
 * seeds. What is found is judged again on seeds that the search has not seen.
 *
 * @throws UsageError where there is nothing to turn or nothing to aim at
 * @example
 * const { settings, isMet } = tune(design, { sessions: 400, seed: 1, dials: ['petal'] });
 * const tuned = isMet ? withDials(design, settings) : design;
 */
export function tune(design: Design, options: TuneOptions): Tuned {
  return playHereTelling(options, (progress) => planOfTuning(design, { ...options, progress }));
}

/** `tune`, whoever plays the sessions: settings that do not wait for each other are asked for at once. */
export function* planOfTuning(design: Design, options: Omit<TuneOptions, 'world'>): Plan<Tuned> {
  const dials = dialsToTurn(design, options.dials);
  if (design.targets.length === 0)
    throw new UsageError(
      'nothing-there',
      'The design has no targets to tune for; write what you want to be true under targets.',
    );
  const before = Object.fromEntries(dials.map(({ name, value }) => [name, value]));
  const search = new TuneSearch(design, dials, options);
  const [start] = (yield* search.at([before])) as [Tried];
  if (start.miss > 0) for (const dial of dials) yield* search.along(dial, start);
  const room = Math.min(drawnForEach * dials.length, search.room);
  yield* search.at(Array.from({ length: room }, (_, index) => search.drawn(index)));
  const best = [...search.tried].sort((a, b) => a.miss - b.miss).slice(0, searchedAround);
  for (const from of start.miss === 0 ? [start] : best) yield* search.around(from);
  const found = yield* search.simplified(search.nearest(before), before);
  const checkedWith = { sessions: options.sessions * checkFactor, seed: freshSeed(options.seed) };
  const judged = yield [found.settings, before].map((settings) => ({
    ...checkedWith,
    design: withDials(design, settings, true),
    players: undefined,
    quantities: undefined,
  }));
  const [results, standing] = judged.map(({ simulation }) => judgeTargets(simulation)) as [
    TargetResult[],
    TargetResult[],
  ];
  return {
    settings: found.settings,
    before,
    tried: search.tried,
    choices: search.choices(found),
    conflicts: found.miss === 0 ? [] : conflictsOf(search.tried, results),
    unmet: results.flatMap((target, index) => (isMetBySome(search.tried, index) ? [] : [nameOf(target)])),
    standing,
    found: results,
    checkedWith,
    isMet: results.every(({ verdict }) => verdict === 'met'),
  };
}

/** Another seed, of which no session has been played. */
const freshSeed = (seed: number): number => (seed + 0x5eed) % 2 ** 53;

class TuneSearch {
  readonly tried: Tried[] = [];
  readonly #known = new Map<string, Tried>();
  readonly #place = placeKey('tune');

  constructor(
    private readonly design: Design,
    private readonly dials: readonly Dial[],
    private readonly options: Omit<TuneOptions, 'world'>,
  ) {}

  /** Settings that may still be tried. */
  get room(): number {
    return Math.max(0, mostTried - this.tried.length);
  }

  /** Plays settings side by side, or remembers them. */
  *at(settings: readonly Settings[]): Plan<Tried[]> {
    const keyOf = (each: Settings): string => JSON.stringify(this.dials.map(({ name }) => each[name]));
    const fresh = new Map(settings.map((each) => [keyOf(each), each]));
    for (const key of this.#known.keys()) fresh.delete(key);
    const { sessions, seed, progress } = this.options;
    const requests = [...fresh.values()].map((each) => ({
      design: withDials(this.design, each, true),
      sessions,
      seed,
      players: undefined,
      quantities: undefined,
    }));
    const judged: TargetResult[][] = [];
    for (let from = 0; from < requests.length; from += playedAtOnce) {
      const played = yield requests.slice(from, from + playedAtOnce);
      judged.push(...played.map(({ simulation }) => judgeTargets(simulation)));
    }
    [...fresh].forEach(([key, each], index) => {
      const misses = judged[index]!.map(missOf);
      const tried = { settings: each, misses, miss: misses.reduce((sum, miss) => sum + miss, 0) };
      this.#known.set(key, tried);
      this.tried.push(tried);
    });
    if (fresh.size > 0) progress?.(this.tried.length);
    return settings.map((each) => this.#known.get(keyOf(each))!);
  }

  /** A setting drawn over the ranges of all dials. */
  drawn(index: number): Settings {
    const key = sessionKey(this.options.seed, index);
    return Object.fromEntries(
      this.dials.map((dial, at) => [
        dial.name,
        nearestSetting(dial, dial.from + ((dial.to - dial.from) * draw(key, this.#place, at)) / 2 ** 32),
      ]),
    );
  }

  /** Turns one dial alone, over its range and then around what is best there. */
  *along(dial: Dial, start: Tried): Plan<void> {
    const settings = Array.from({ length: triedAlong }, (_, at) => {
      const value = dial.from + ((dial.to - dial.from) * at) / (triedAlong - 1);
      return { ...start.settings, [dial.name]: nearestSetting(dial, value) };
    });
    const tried = yield* this.at(settings);
    yield* this.around(
      tried.reduce((best, each) => (each.miss < best.miss ? each : best)),
      [dial],
    );
  }

  /** Steps along each of some dials, as long as that gets nearer; then in smaller steps. */
  *around(start: Tried, dials = this.dials): Plan<void> {
    let best = start;
    for (let part = 4; part <= finest && best.miss > 0 && this.room > 0; part *= 2) {
      for (let isBetter = true; isBetter && best.miss > 0 && this.room > 0; ) {
        isBetter = false;
        for (const dial of dials) {
          const step = Math.max(dial.step ?? 0, (dial.to - dial.from) / part);
          for (const by of [step, -step]) {
            const value = Math.min(dial.to, Math.max(dial.from, best.settings[dial.name]! + by));
            const [next] = (yield* this.at([
              { ...best.settings, [dial.name]: nearestSetting(dial, value) },
            ])) as [Tried];
            if (next.miss < best.miss) {
              best = next;
              isBetter = true;
            }
          }
        }
      }
    }
  }

  /** Of the settings that miss least, the one that turns the fewest dials, and these least. */
  nearest(before: Settings): Tried {
    const turned = ({ settings }: Tried): number =>
      this.dials.filter(({ name }) => settings[name] !== before[name]).length;
    const distance = ({ settings }: Tried): number => this.#distance(settings, before);
    return this.#least().reduce((nearest, each) => {
      const fewer = turned(each) - turned(nearest);
      return fewer < 0 || (fewer === 0 && distance(each) < distance(nearest)) ? each : nearest;
    });
  }

  /** The same with as few dials turned as can be, each to as round a number as can be, and no target missed by more. */
  *simplified(found: Tried, before: Settings): Plan<Tried> {
    let best = found;
    const turnedBy = ({ name, from, to }: Dial): number =>
      Math.abs(best.settings[name]! - before[name]!) / (to - from);
    const turned = (): Dial[] =>
      this.dials.filter((dial) => turnedBy(dial) > 0).sort((a, b) => turnedBy(a) - turnedBy(b));
    for (const { name } of turned()) best = (yield* this.#unlessWorse(best, name, before[name]!)) ?? best;
    for (const dial of turned())
      for (const value of rounder(dial, best.settings[dial.name]!, before[dial.name]!)) {
        const next = yield* this.#unlessWorse(best, dial.name, value);
        if (next === undefined) continue;
        best = next;
        break;
      }
    return best;
  }

  /** With one dial at another value, where that misses no more; else undefined. */
  *#unlessWorse({ settings, miss }: Tried, name: string, value: number): Plan<Tried | undefined> {
    const [next] = (yield* this.at([{ ...settings, [name]: value }])) as [Tried];
    return next.miss > miss ? undefined : next;
  }

  /** Of the settings that miss least, those that lie farthest from each other, the one that was found first. */
  choices(found: Tried): Tried[] {
    const chosen = [found];
    const others = this.#least();
    const apart = ({ settings }: Tried): number =>
      Math.min(...chosen.map((each) => this.#distance(settings, each.settings)));
    while (chosen.length < mostChoices) {
      const [farthest] = [...others].sort((a, b) => apart(b) - apart(a));
      if (farthest === undefined || apart(farthest) === 0) break;
      chosen.push(farthest);
    }
    return chosen;
  }

  #least(): Tried[] {
    const least = Math.min(...this.tried.map(({ miss }) => miss));
    return this.tried.filter(({ miss }) => miss === least);
  }

  /** How far two settings lie apart, each dial by its range. */
  #distance(one: Settings, other: Settings): number {
    return this.dials.reduce(
      (sum, { name, from, to }) => sum + Math.abs(one[name]! - other[name]!) / (to - from),
      0,
    );
  }
}

/** Rounder numbers near a setting, the roundest first; none turns off what was on. */
function rounder(dial: Dial, value: number, before: number): number[] {
  const { from, to } = dial;
  const coarsest = Math.floor(Math.log10(to - from));
  const candidates = Array.from({ length: 4 }, (_, digit) => 10 ** (coarsest - digit)).flatMap((power) =>
    [power, power / 2].map((unit) =>
      nearestSetting(dial, Number((Math.round(value / unit) * unit).toPrecision(12))),
    ),
  );
  const isFine = (each: number): boolean =>
    each >= from && each <= to && each !== value && each !== before && (each !== 0 || value === 0);
  return [...new Set(candidates)].filter(isFine);
}

const isMetBySome = (tried: readonly Tried[], target: number): boolean =>
  tried.some(({ misses }) => misses[target] === 0);
const nameOf = ({ what, of }: TargetResult): string => `${what} of ${of}`;

function conflictsOf(tried: readonly Tried[], targets: readonly TargetResult[]): Conflict[] {
  return targets.flatMap((one, first) =>
    targets.flatMap((other, second): Conflict[] => {
      if (second <= first || !isMetBySome(tried, first) || !isMetBySome(tried, second)) return [];
      const by = Math.min(...tried.map(({ misses }) => misses[first]! + misses[second]!));
      return by === 0 ? [] : [{ one: nameOf(one), other: nameOf(other), by }];
    }),
  );
}

/**
 * How far a target is from being met, its interval and all: 0 where the whole interval lies within the bounds; by the bound's size, or
 * for a share as it is.
 */
function missOf({ value, low, high, from, to, unit }: TargetResult): number {
  if (value === null) return 1;
  const by = (bound: number, distance: number): number =>
    Math.max(0, distance) / (unit === 'share' ? 1 : Math.max(1, Math.abs(bound)));
  const lower = from === null ? 0 : by(from, from - (low ?? value));
  const upper = to === null ? 0 : by(to, (high ?? value) - to);
  return lower + upper;
}
