import type { Design, Dial } from '../design/model.js';
import { dialsToTurn, nearestSetting, type Settings, turnableDials, withDials } from '../design/settings.js';
import type { World } from '../players/worlds/world.js';
import { choosePlayers } from '../simulate/simulate.js';
import { type Plan, type Played, type PlayRequest, playHereTelling } from './plays.js';
import { confidenceOfEach } from './statistics/intervals.js';
import { type Observation, type Observed, Pairing } from './statistics/paired.js';
import { type Quantity, quantitiesOf } from './statistics/quantities.js';
import { judgeTargets, type TargetResult } from './targets.js';

export interface SensitivityOptions {
  /** Sessions of each player, at each setting. */
  readonly sessions: number;
  readonly seed: number;
  readonly players?: readonly string[] | undefined;
  /** Settings that each dial is tried at, besides where it stands: its least and most, or more between them. */
  readonly settings?: number | undefined;
  /** Where they are played; the meeting model unless it is given. */
  readonly world?: World | undefined;
  readonly progress?: ((done: number) => void) | undefined;
}

/** A setting of one dial, all others as they stand. */
export interface CurvePoint {
  readonly setting: number;
  readonly value: number;
  /** Half the width of the interval of its change from where the dial stands; 0 there, and where no session differs. */
  readonly reach: number;
}

export interface Effect {
  readonly dial: string;
  readonly player: string;
  readonly what: string;
  readonly unit: Quantity['unit'];
  /** From the dial's least setting to its most. */
  readonly points: readonly CurvePoint[];
  /** What turning it from its least to its most changes, with its interval. */
  readonly change: { readonly value: number; readonly low: number; readonly high: number };
  /** The change by what the quantity is where the dials stand; of a share, the change itself. */
  readonly size: number;
  readonly correlation: number | undefined;
  readonly isReal: boolean;
}

export interface TargetCurve {
  readonly dial: string;
  readonly what: string;
  readonly of: string;
  readonly points: readonly {
    readonly setting: number;
    readonly value: number | null;
    readonly verdict: TargetResult['verdict'];
  }[];
}

export interface Sensitivity {
  readonly sessions: number;
  readonly seed: number;
  /** The largest first. */
  readonly effects: readonly Effect[];
  readonly targets: readonly TargetCurve[];
}

/** Settings that each dial is tried at for a curve. */
export const curveSettings = 5;

/** Settings over a dial's range, as even as can be, with where it stands among them. */
function settingsOf(dial: Dial, count: number): number[] {
  const { value, from, to, step } = dial;
  const isWhole = step !== undefined || [value, from, to].every(Number.isInteger);
  const even = Array.from({ length: count }, (_, at) => from + ((to - from) * at) / (count - 1));
  const settings = isWhole ? even.map((setting) => nearestSetting(dial, setting)) : even;
  return [...new Set([...settings, value])].sort((a, b) => a - b);
}

/**
 * What each dial does to each quantity and target of each player: every setting is played with the same seeds, so that what differs is
 * the dial's doing.
 *
 * @throws UsageError where the design has no dial with a range
 * @example
 * const { effects } = sensitivity(design, { sessions: 1000, seed: 1 });
 * effects[0]; // the largest: which dial does what to which figure of which player
 */
export function sensitivity(design: Design, options: SensitivityOptions): Sensitivity {
  return playHereTelling(options, (progress) => planOfSensitivity(design, { ...options, progress }));
}

/** `sensitivity`, whoever plays the sessions: all settings of a dial are asked for at once. */
export function* planOfSensitivity(
  design: Design,
  options: Omit<SensitivityOptions, 'world'>,
): Plan<Sensitivity> {
  const { sessions, seed, progress, settings: count = curveSettings } = options;
  const dials = dialsToTurn(design);
  const names = choosePlayers(design, options.players).map(({ player }) => player.name);
  const quantities = quantitiesOf(design);
  const request = (settings: Settings): PlayRequest => ({
    design: withDials(design, settings, true),
    sessions,
    seed,
    players: names,
    quantities,
  });
  const [standing] = (yield [request({})]) as [Played];
  let done = 0;
  const confidence = confidenceOfEach(dials.length * names.length * quantities.length);
  const effects: Effect[] = [];
  const targets: TargetCurve[] = [];
  for (const dial of dials) {
    const settings = settingsOf(dial, count);
    const others = settings.filter((setting) => setting !== dial.value);
    const turned = yield others.map((setting) => request({ [dial.name]: setting }));
    done += settings.length;
    progress?.(done);
    const tried = settings.map((setting) => {
      const played = setting === dial.value ? standing : turned[others.indexOf(setting)]!;
      return { setting, played, judged: judgeTargets(played.simulation) };
    });
    targets.push(
      ...tried[0]!.judged.map(({ what, of }, index) => ({
        dial: dial.name,
        what,
        of,
        points: tried.map(({ setting, judged }) => ({
          setting,
          value: judged[index]!.value,
          verdict: judged[index]!.verdict,
        })),
      })),
    );
    for (const player of names)
      effects.push(...effectsOf(dial.name, player, quantities, standing, tried, confidence));
  }
  return { sessions, seed, effects: effects.sort((a, b) => b.size - a.size), targets };
}

/** Simulations that it takes. */
export const settingsToTry = (design: Design, count = curveSettings): number =>
  turnableDials(design).reduce((sum, dial) => sum + settingsOf(dial, count).length, 0);

function effectsOf(
  dial: string,
  player: string,
  quantities: readonly Quantity[],
  standing: Observation,
  tried: readonly { readonly setting: number; readonly played: Observation }[],
  confidence: number,
): Effect[] {
  const of = ({ played }: { readonly played: Observation }): Observed => played.of.get(player)!;
  const here = standing.of.get(player)!;
  const whole = new Pairing(of(tried[0]!), of(tried.at(-1)!), quantities);
  const pairings = tried.map((turned) => new Pairing(here, of(turned), quantities));
  return quantities.flatMap(({ name, unit }, quantity): Effect[] => {
    const found = whole.change(quantity, confidence);
    if (found === undefined) return [];
    const stands = here.sums(quantity)?.ratio;
    const points = tried.flatMap(({ setting, played }, index): CurvePoint[] => {
      const value = of({ played }).sums(quantity)?.ratio;
      if (value === undefined || stands === undefined) return [];
      const pairing = played === standing ? undefined : pairings[index]!;
      // Worked out where it is asked for: a table of all dials shows no curves.
      return [
        {
          setting,
          value,
          get reach() {
            return pairing === undefined ? 0 : reachOf(pairing, quantity, confidence);
          },
        },
      ];
    });
    const base = stands ?? found.before;
    const scale = unit === 'share' || base === 0 ? 1 : Math.abs(base);
    const { change, isReal } = found;
    const size = isReal ? Math.abs(change.value) / scale : 0;
    return [
      {
        dial,
        player,
        what: name,
        unit,
        points,
        change,
        size,
        get correlation() {
          return whole.correlation(quantity);
        },
        isReal,
      },
    ];
  });
}

function reachOf(pairing: Pairing, quantity: number, confidence: number): number {
  const { low, high } = pairing.change(quantity, confidence)!.change;
  const reach = (high - low) / 2;
  return Number.isFinite(reach) ? reach : 0;
}
