import { expose } from 'comlink';
import { joined } from '../../../src/balance/statistics/precision.js';
import { turnableDials } from '../../../src/design/settings.js';
import type { Figure } from '../../../src/formats/report/index.js';
import { interval, inUnit, wanted } from '../../../src/formats/written.js';
import {
  type Design,
  DesignError,
  type Fit,
  fitLog,
  readDesign,
  readLog,
  recordPlayed,
  type Sample,
  type Sensitivity,
  type SessionRecord,
  type Settings,
  type Simulation,
  type SimulationSummary,
  samplesOf,
  sensitivity,
  simulate,
  summarize,
  type TargetResult,
  tune,
  UsageError,
  withDials,
} from '../../../src/index.js';
import type { ExportName } from './exports.js';

export interface TargetView {
  readonly line: number;
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

export interface DialView {
  readonly name: string;
  readonly value: number;
  readonly from: number;
  readonly to: number;
  readonly step: number | undefined;
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

/** The design of a text; read once while its dials are turned. */
let last: { readonly text: string; readonly design: Design } | undefined;
function designOf(text: string): Design {
  if (last?.text !== text) last = { text, design: readDesign(text, 'design') };
  return last.design;
}

/** What was played last, to go on with when more of the same is asked for. */
let played: { readonly text: string; readonly settings: string; readonly simulation: Simulation } | undefined;

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
  text: string,
  settings: Settings,
  isLookedAt: boolean,
  tell: (view: BalanceView) => void,
): Promise<string> {
  const mine = ++latest;
  const ends = performance.now() + patience;
  try {
    const design = withDials(designOf(text), settings, true);
    const key = JSON.stringify(settings);
    let simulation = played?.text === text && played.settings === key ? played.simulation : undefined;
    const begun = simulation?.sessions ?? 0;
    const due = looks.filter((look) => look > begun && (isLookedAt || look <= glance));
    if (simulation !== undefined) tell(await viewOf(simulation, due.length === 0, isLookedAt));
    for (const look of due) {
      const first = simulation?.sessions ?? 0;
      const more = simulate(design, { seed, first, sessions: look - first });
      simulation = simulation === undefined ? more : joined(simulation, more);
      await breathe();
      if (mine !== latest) return '';
      played = { text, settings: key, simulation };
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
  what,
  of,
  verdict: verdict === 'not yet clear' ? 'open' : verdict,
  value: inUnit(value, unit),
  interval: interval(low, high, unit),
  wanted: wanted({ from, to, unit }),
});

const balance = {
  play,
  /** The dials that have a range; none where the design cannot be read. */
  dials(text: string): DialView[] {
    try {
      return turnableDials(designOf(text)).map(({ name, value, from, to, step }) => ({
        name,
        value,
        from,
        to,
        step,
      }));
    } catch (error) {
      if (error instanceof DesignError || error instanceof UsageError) return [];
      throw error;
    }
  },
  /** A typical, a lucky or an unlucky session of a player, to watch. */
  sample(text: string, player: string, kind: Sample['kind']): SessionRecord {
    const design = designOf(text);
    const found = design.players.find(({ name }) => name === player)!;
    const { session } = samplesOf(design, seed, found).find((sample) => sample.kind === kind)!;
    return recordPlayed(design, { seed, session, player });
  },
  /** What each dial does to each target. */
  dialsOnTargets: (text: string): Sensitivity =>
    sensitivity(designOf(text), { sessions: sessionsTried, seed }),
  /** What a playtest log says of players and pieces, in words of its values; or why it says nothing. */
  fit(text: string, log: string, name: string): FitView | { readonly told: string } {
    try {
      const fit = fitLog(designOf(text), readLog(log, name), { sessions: sessionsTried, seed });
      const value = ({ name: of, attempts, estimate, design }: Fit['pieces'][0]): FittedView => ({
        name: of,
        attempts,
        estimate: estimate?.value,
        interval: estimate === undefined ? '' : `${estimate.low.toFixed(2)} to ${estimate.high.toFixed(2)}`,
        design,
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
  async export(text: string, name: ExportName): Promise<{ file: string; text: string }> {
    const [{ exporters }, { document }] = await Promise.all([import('./exports.js'), import('./figures.js')]);
    return { file: exporters[name].file, text: await exporters[name].make(text, document) };
  },
  /** Looks for settings with which all targets are met. */
  tune(text: string) {
    const { settings, before, isMet, found, choices } = tune(designOf(text), {
      sessions: sessionsTried,
      seed,
    });
    const others = choices.slice(1).map((each) => each.settings);
    return { settings, before, isMet, targets: found.map(targetView), others };
  },
};
export type Balance = typeof balance;
expose(balance);
