import { expose } from 'comlink';
import { type Fit, fitLog } from '../../../src/balance/fitting/fit.js';
import { recordPlayed, type Sample, samplesOf } from '../../../src/balance/sample-sessions.js';
import { type Sensitivity, sensitivity } from '../../../src/balance/sensitivity.js';
import { joined } from '../../../src/balance/statistics/precision.js';
import { type SimulationSummary, summarize } from '../../../src/balance/summary.js';
import type { TargetResult } from '../../../src/balance/targets.js';
import { tune } from '../../../src/balance/tune.js';
import type { Design } from '../../../src/design/model.js';
import { DesignError, UsageError } from '../../../src/design/problems/problem.js';
import { type Settings, withDials } from '../../../src/design/settings.js';
import type { SessionRecord } from '../../../src/engine/record/record.js';
import type { Figure } from '../../../src/formats/report/index.js';
import { readLog } from '../../../src/formats/tables/read-log.js';
import { interval, inUnit, wanted } from '../../../src/formats/written.js';
import type { Spot } from '../../../src/sentences/sentence.js';
import { type Simulation, simulate } from '../../../src/simulate/simulate.js';
import type { ExportName } from './exports.js';

export interface TargetView extends Spot {
  readonly what: string;
  readonly of: string;
  readonly verdict: 'met' | 'missed' | 'open';
  readonly value: string;
  readonly interval: string;
  readonly wanted: string;
}

export interface BalanceView {
  /** Of each player. */
  readonly sessions: number;
  readonly isDone: boolean;
  readonly summary: SimulationSummary;
  readonly targets: readonly TargetView[];
  /** None where nobody looks at them. */
  readonly figures: readonly Figure[];
}

interface FittedView {
  readonly name: string;
  readonly attempts: number;
  /** undefined where all attempts ended alike. */
  readonly estimate: number | undefined;
  readonly interval: string;
  readonly design: number | undefined;
}

export interface FitView {
  readonly players: readonly FittedView[];
  readonly pieces: readonly FittedView[];
  readonly likeness: readonly {
    readonly player: string;
    readonly what: string;
    readonly played: string;
    readonly simulated: string;
    readonly verdict: Fit['likeness'][0]['verdict'];
  }[];
  /** Whether the log says which misses were tried. */
  readonly tellsTries: boolean;
}

const seed = 1;
/** Sessions of each player after which the figures are shown: a first sight at once, then finer. */
const looks = [40, 200, 1000, 3000];
/** Sessions that are enough for the targets of the status line, while nobody looks at the figures. */
const glance = 1000;
/** Milliseconds after which no more sessions are begun. */
const patience = 20_000;
const sessionsTried = 300;

/** The design that all is asked about. */
let design: Design;

/** What was played last, to go on with when more of the same is asked for. */
let played:
  | { readonly design: Design; readonly settings: string; readonly simulation: Simulation }
  | undefined;

/** The request that is under way; what was asked for before it is given up. */
let latest = 0;
const breathe = (): Promise<void> => new Promise((done) => setTimeout(done));

/**
 * Plays more and more sessions with dials turned, and tells what they say each time: the same seeds at every setting, so that what
 * differs is the dials' doing.
 *
 * @param isLookedAt whether the figures are in sight, and all sessions are worth their time
 */
async function play(
  settings: Settings,
  isLookedAt: boolean,
  tell: (view: BalanceView) => void,
): Promise<string> {
  const mine = ++latest;
  const ends = performance.now() + patience;
  try {
    const own = design;
    const turned = withDials(own, settings, true);
    const key = JSON.stringify(settings);
    let simulation = played?.design === own && played.settings === key ? played.simulation : undefined;
    const begun = simulation?.sessions ?? 0;
    const due = looks.filter((look) => look > begun && (isLookedAt || look <= glance));
    if (simulation !== undefined) tell(await viewOf(simulation, due.length === 0, isLookedAt));
    for (const look of due) {
      const first = simulation?.sessions ?? 0;
      const more = simulate(turned, { seed, first, sessions: look - first });
      simulation = simulation === undefined ? more : joined(simulation, more);
      await breathe();
      if (mine !== latest) return '';
      played = { design: own, settings: key, simulation };
      const isLast = look === due.at(-1) || performance.now() > ends;
      tell(await viewOf(simulation, isLast, isLookedAt));
      if (isLast) break;
    }
    return '';
  } catch (error) {
    if (error instanceof DesignError || error instanceof UsageError) return error.message;
    throw error;
  }
}

async function viewOf(simulation: Simulation, isDone: boolean, isLookedAt: boolean): Promise<BalanceView> {
  const { design, sessions } = simulation;
  const summary = summarize(simulation);
  const figures = isLookedAt ? (await import('./figures.js')).figuresOf(design, summary) : [];
  return {
    sessions,
    isDone,
    summary,
    targets: summary.targets.map(targetView),
    figures,
  };
}

const targetView = ({
  place,
  what,
  of,
  verdict,
  value,
  low,
  high,
  from,
  to,
  unit,
}: TargetResult): TargetView => ({
  line: place.line,
  column: place.column,
  what,
  of,
  verdict: verdict === 'not yet clear' ? 'open' : verdict,
  value: inUnit(value, unit),
  interval: interval(low, high, unit),
  wanted: wanted({ from, to, unit }),
});

const balance = {
  /** Takes over a design, of which all else is asked from then on. */
  take(taken: Design): void {
    design = taken;
  },
  play,
  /** A typical, a lucky or an unlucky session of a player, to watch. */
  sample(player: string, kind: Sample['kind']): SessionRecord {
    const found = design.players.find(({ name }) => name === player)!;
    const { session } = samplesOf(design, seed, found).find((sample) => sample.kind === kind)!;
    return recordPlayed(design, { seed, session, player });
  },
  /** What each dial does to each target. */
  dialsOnTargets: (): Sensitivity => sensitivity(design, { sessions: sessionsTried, seed }),
  /** What a playtest log says of players and pieces, in words of its values; or why it says nothing. */
  fit(log: string, name: string): FitView | { readonly told: string } {
    try {
      const fit = fitLog(design, readLog(log, name), { sessions: sessionsTried, seed });
      const value = ({ name: of, attempts, estimate, design: designed }: Fit['pieces'][0]): FittedView => ({
        name: of,
        attempts,
        estimate: estimate?.value,
        interval: estimate === undefined ? '' : `${estimate.low.toFixed(2)} to ${estimate.high.toFixed(2)}`,
        design: designed,
      });
      return {
        players: fit.players.map(value),
        pieces: fit.pieces.map(value),
        likeness: fit.likeness.map(({ player, what, unit, played, simulated, verdict }) => ({
          player,
          what,
          played: inUnit(played, unit),
          simulated: inUnit(simulated, unit),
          verdict,
        })),
        tellsTries: fit.tellsTries,
      };
    } catch (error) {
      if (error instanceof DesignError || error instanceof UsageError) return { told: error.message };
      throw error;
    }
  },
  /** The text of an export. */
  async export(name: ExportName): Promise<{ file: string; text: string }> {
    const { exporters } = await import('./exports.js');
    return { file: exporters[name].file, text: await exporters[name].make(design) };
  },
  /** Looks for settings with which all targets are met. */
  tune() {
    const { settings, before, isMet, found, choices } = tune(design, { sessions: sessionsTried, seed });
    const others = choices.slice(1).map((each) => each.settings);
    return { settings, before, isMet, targets: found.map(targetView), others };
  },
};
export type Balance = typeof balance;
expose(balance);
