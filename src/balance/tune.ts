import type { Design, Dial } from '../design/model.js';
import { UsageError } from '../design/problems/problem.js';
import { dialsToTurn, nearestSetting, type Settings, withDials } from '../design/settings.js';
import { draw, placeKey, sessionKey } from '../engine/run/draw.js';
import { simulate } from '../simulate/simulate.js';
import { judgeTargets, type TargetResult } from './targets.js';

export interface TuneOptions {
  /** Sessions of each player at each setting that is tried. */
  readonly sessions: number;
  readonly seed: number;
  /** Dials that may be turned; all with a range unless given. */
  readonly dials?: readonly string[] | undefined;
  readonly progress?: ((tried: number) => void) | undefined;
}

export interface Tried {
  readonly settings: Settings;
  /** How far the targets are from being met: 0 where all values lie within their bounds, 1 for each that is a whole bound away. */
  readonly miss: number;
}

export interface Tuned {
  /** What was found, with every dial that could be turned. */
  readonly settings: Settings;
  readonly before: Settings;
  /** Every setting that was tried, in order. */
  readonly tried: readonly Tried[];
  /** The targets where the dials stood, and as found: both judged on fresh seeds, with more sessions. */
  readonly standing: readonly TargetResult[];
  readonly found: readonly TargetResult[];
  /** Sessions of each player in that last judgement, and its seed. */
  readonly checkedWith: { readonly sessions: number; readonly seed: number };
  /** Whether every target is met there. */
  readonly isMet: boolean;
}

/** Settings that are drawn at random for each dial, before the best are searched around. */
const drawnForEach = 12;
/** Of those, how many are searched around. */
const searchedAround = 3;
/** A range is searched down to one part in this. */
const finest = 128;
const mostTried = 400;
/** How many times more sessions the last judgement has. */
const checkFactor = 4;

/**
 * Looks for dial settings with which all targets are met: settings drawn over the ranges, then a pattern search around the best (Hooke
 * and Jeeves, "Direct search solution of numerical and statistical problems", 1961). Every setting is played with the same
 * seeds. What is found is judged again on seeds that the search has not seen.
 *
 * @throws UsageError where there is nothing to turn or nothing to aim at
 */
export function tune(design: Design, options: TuneOptions): Tuned {
  const dials = dialsToTurn(design, options.dials);
  if (design.targets.length === 0)
    throw new UsageError(
      'The design has no targets to tune for; write what you want to be true under targets.',
    );
  const before = Object.fromEntries(dials.map(({ name, value }) => [name, value]));
  const search = new TuneSearch(design, dials, options);
  const start = search.at(before);
  for (let index = 0; index < drawnForEach * dials.length && search.hasRoom; index++)
    search.at(search.drawn(index));
  const best = [...search.tried].sort((a, b) => a.miss - b.miss).slice(0, searchedAround);
  for (const from of start.miss === 0 ? [start] : best) search.around(from);
  const found = search.nearest(before);
  const checkedWith = { sessions: options.sessions * checkFactor, seed: freshSeed(options.seed) };
  const judge = (settings: Settings): TargetResult[] =>
    judgeTargets(
      simulate(withDials(design, settings, true), {
        ...checkedWith,
        progress: () => options.progress?.(search.tried.length),
      }),
    );
  const results = judge(found.settings);
  return {
    settings: found.settings,
    before,
    tried: search.tried,
    standing: judge(before),
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
    private readonly options: TuneOptions,
  ) {}

  get hasRoom(): boolean {
    return this.tried.length < mostTried;
  }

  /** Plays one setting, or remembers it. */
  at(settings: Settings): Tried {
    const key = JSON.stringify(this.dials.map(({ name }) => settings[name]));
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    const { sessions, seed, progress } = this.options;
    const results = judgeTargets(
      simulate(withDials(this.design, settings, true), {
        sessions,
        seed,
        progress: () => progress?.(this.tried.length),
      }),
    );
    const tried = { settings, miss: results.reduce((sum, result) => sum + missOf(result), 0) };
    this.#known.set(key, tried);
    this.tried.push(tried);
    progress?.(this.tried.length);
    return tried;
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

  /** Steps along each dial, as long as that gets nearer; then in smaller steps. */
  around(start: Tried): void {
    let best = start;
    for (let part = 4; part <= finest && best.miss > 0 && this.hasRoom; part *= 2) {
      for (let isBetter = true; isBetter && best.miss > 0 && this.hasRoom; ) {
        isBetter = false;
        for (const dial of this.dials) {
          const step = Math.max(dial.step ?? 0, (dial.to - dial.from) / part);
          for (const by of [step, -step]) {
            const value = Math.min(dial.to, Math.max(dial.from, best.settings[dial.name]! + by));
            const next = this.at({ ...best.settings, [dial.name]: nearestSetting(dial, value) });
            if (next.miss < best.miss) {
              best = next;
              isBetter = true;
            }
          }
        }
      }
    }
  }

  /** Of the settings that miss least, the one that turns the dials least. */
  nearest(before: Settings): Tried {
    const distance = ({ settings }: Tried): number =>
      this.dials.reduce(
        (sum, { name, from, to }) => sum + Math.abs(settings[name]! - before[name]!) / (to - from),
        0,
      );
    const least = Math.min(...this.tried.map(({ miss }) => miss));
    return this.tried
      .filter(({ miss }) => miss === least)
      .reduce((nearest, each) => (distance(each) < distance(nearest) ? each : nearest));
  }
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
