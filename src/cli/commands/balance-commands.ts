import { compare, planOfComparison } from '../../balance/compare.js';
import { fitLog } from '../../balance/fitting/fit.js';
import { type Plan, type Played, playElsewhere } from '../../balance/plays.js';
import {
  curveSettings,
  planOfSensitivity,
  type Sensitivity,
  sensitivity,
  settingsToTry,
} from '../../balance/sensitivity.js';
import { planOfTuning, type Tuned, tune } from '../../balance/tune.js';
import type { Design } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import { readDesign } from '../../design/read.js';
import { type Settings, withDials } from '../../design/settings.js';
import { editDesign } from '../../design/text/write.js';
import { comparisonToMarkdown } from '../../formats/comparison-markdown.js';
import { effectsCsv } from '../../formats/tables/effects-csv.js';
import { readLog } from '../../formats/tables/read-log.js';
import { check } from '../../inspect/check.js';
import { readTextFile } from '../../node/text-file.js';
import { readWorld } from '../../node/world-file.js';
import type { World } from '../../players/worlds/world.js';
import { Deadline } from '../deadline.js';
import { mustTakeDesign, readDesignFile, readText, writeChanged } from '../files/files.js';
import {
  type compareFormats,
  type dialsFormats,
  type ExitCode,
  type Format,
  type failKinds,
  json,
} from '../outcome.js';
import { withProgress } from '../progress.js';
import { showComparison } from '../show/show-comparison.js';
import { showFit } from '../show/show-fit.js';
import { showCurves, showDials } from '../show/show-sensitivity.js';
import { showTuned } from '../show/show-tuned.js';
import { plain, type Terminal } from '../terminal.js';
import { onQueue } from './playing/queue.js';

export interface BalanceCall {
  readonly sessions: number;
  readonly seed: number;
  readonly player?: readonly string[] | undefined;
  readonly format: Format;
  /** How long it may take. */
  readonly seconds: number;
  /** The world that is played in, where it is not the meeting model. */
  readonly world?: string | undefined;
  /** The address of a queue whose workers play. */
  readonly queue?: string | undefined;
}

export interface CompareCall extends Omit<BalanceCall, 'format'> {
  readonly set: Settings | undefined;
  readonly format: (typeof compareFormats)[number];
  /** With what getting worse it ends with 1. */
  readonly failOn?: readonly (typeof failKinds)[number][] | undefined;
}

export interface DialsCall extends Omit<BalanceCall, 'format'> {
  readonly format: (typeof dialsFormats)[number];
  /** Whether to show how each dial works between its least and its most. */
  readonly curves: boolean;
}

export interface TuneCall extends BalanceCall {
  readonly dial: readonly string[] | undefined;
  readonly write: string | undefined;
}

/** What makes simulating shorter. */
const fewer = 'Ask for fewer --sessions';

/** Two files, or one file as it stands and with dials turned. */
export async function compareCommand(
  terminal: Terminal,
  file: string,
  other: string | undefined,
  { set, format, failOn = [], player: players, sessions, seed, seconds, world: named, queue }: CompareCall,
): Promise<ExitCode> {
  const deadline = new Deadline(seconds);
  if (other === undefined && set === undefined)
    throw new UsageError(
      'bad-argument',
      'Give a second design, or turn a dial of this one with --set, such as --set petal=20.',
    );
  const before = readDesignFile(file);
  const after = withDials(other === undefined ? before : readDesignFile(other), set ?? {});
  const { isOver } = deadline;
  const checks = [check(before, { isOver }), check(after, { isOver })] as const;
  const progress = (): void => deadline.mustHold(fewer);
  progress();
  const both = [before, after] as const;
  const comparison =
    queue === undefined
      ? compare(both, checks, { sessions, seed, players, world: await worldOf(named), progress })
      : await planned(terminal, { queue, world: named, mustHold: progress }, () =>
          planOfComparison(both, checks, { sessions, seed, players }),
        );
  const names = [file, other ?? `${file} with ${written(set!)}`] as const;
  terminal.out(
    format === 'json'
      ? json(comparison)
      : format === 'markdown'
        ? comparisonToMarkdown(names, comparison)
        : showComparison(terminal, names, comparison),
  );
  return comparison.worse.some(({ kind }) => failOn.includes('any') || failOn.includes(kind)) ? 1 : 0;
}

/** Runs a plan by the workers of a queue. */
const planned = <Result>(
  terminal: Terminal,
  {
    queue,
    ...call
  }: { readonly queue: string; readonly world: string | undefined; readonly mustHold: () => void },
  plan: () => Plan<Result>,
): Promise<Result> =>
  onQueue(terminal, queue, call, (pool) =>
    playElsewhere(plan(), (request): Promise<Played> => pool.observe(request)),
  );

const worldOf = async (named: string | undefined): Promise<World | undefined> =>
  named === undefined ? undefined : readWorld(named);

const written = (settings: Settings): string =>
  Object.entries(settings)
    .map(([name, value]) => `${name} = ${value}`)
    .join(', ');

export async function dialsCommand(
  terminal: Terminal,
  file: string,
  { format, curves, player: players, sessions, seed, seconds, world: named, queue }: DialsCall,
): Promise<ExitCode> {
  const deadline = new Deadline(seconds);
  const design = readDesignFile(file);
  const settings = curves || format === 'json' ? curveSettings : 2;
  const mustHold = (): void => deadline.mustHold(fewer);
  const world = queue === undefined ? await worldOf(named) : undefined;
  const found = await withProgress(
    terminal,
    'settings',
    settingsToTry(design, settings),
    (progress): Sensitivity | Promise<Sensitivity> =>
      queue === undefined
        ? sensitivity(design, { sessions, seed, players, settings, world, progress })
        : planned(terminal, { queue, world: named, mustHold }, () =>
            planOfSensitivity(design, { sessions, seed, players, settings, progress }),
          ),
    mustHold,
  );
  terminal.out(
    format === 'json'
      ? json(found)
      : format === 'csv'
        ? effectsCsv(found)
        : [showDials(terminal, design, found), ...(curves ? [showCurves(terminal, design, found)] : [])].join(
            '',
          ),
  );
  return 0;
}

export async function tuneCommand(terminal: Terminal, file: string, call: TuneCall): Promise<ExitCode> {
  const { sessions, seed, dial: dials, format, write, seconds, queue } = call;
  const world = queue === undefined ? await worldOf(call.world) : undefined;
  const isItself = mustTakeDesign(write, file);
  const before = readTextFile(file, 'a design in YAML or JSON');
  const design = readDesign(before.text, file);
  const deadline = new Deadline(seconds);
  const mustHold = (): void => deadline.mustHold(fewer);
  const found = await withProgress(
    terminal,
    'settings tried',
    400,
    (progress): Tuned | Promise<Tuned> =>
      queue === undefined
        ? tune(design, { sessions, seed, dials, world, progress })
        : planned(terminal, { queue, world: call.world, mustHold }, () =>
            planOfTuning(design, { sessions, seed, dials, progress }),
          ),
    mustHold,
  );
  terminal.out(format === 'json' ? json(found) : showTuned(terminal, found));
  if (write !== undefined) {
    const now = isItself ? readTextFile(file, 'the design that was tuned') : before;
    const meanwhile = now.text === before.text ? undefined : changesMeanwhile(file, design, now.text);
    const edited = editDesign(now.text, editsOf(design, found.settings));
    writeChanged(write, edited, { isItself, hasMark: now.hasMark });
    if (format === 'text') terminal.out(`Wrote ${plain(write)}.\n`);
    if (meanwhile !== undefined) terminal.err(`${plain(meanwhile)}\n`);
  }
  return found.isMet ? 0 : 1;
}

/**
 * What was changed in a design while its dials were tuned, in words.
 *
 * @throws DesignError where it can no longer be read
 * @throws UsageError where its dials are other ones now
 */
function changesMeanwhile(file: string, before: Design, text: string): string {
  const now = readDesign(text, file);
  const sections = [...new Set([...Object.keys(before.written), ...Object.keys(now.written)])].filter(
    (section) => JSON.stringify(before.written[section]) !== JSON.stringify(now.written[section]),
  );
  if (sections.includes('dials'))
    throw new UsageError(
      'bad-argument',
      `The dials of ${file} were changed while jocus tuned, so nothing is written; run jocus tune again.`,
    );
  const what = sections.length === 0 ? 'only comments or layout' : sections.join(', ');
  const advice =
    sections.length === 0
      ? ''
      : ' The dials were tuned without that change; run jocus tune again to be sure.';
  return `${file} was changed while jocus tuned: ${what}. Those changes are kept.${advice}`;
}

/** Where dials that were turned stand in the file: under `value`, or as the number itself. */
const editsOf = (design: Design, settings: Settings) =>
  design.dials.flatMap(({ name, value }) =>
    settings[name] === undefined || settings[name] === value
      ? []
      : [{ path: ['dials', name, 'value'], value: settings[name] }],
  );

export function fitCommand(
  terminal: Terminal,
  file: string,
  logs: readonly string[],
  { sessions, seed, format, seconds }: BalanceCall,
): ExitCode {
  const deadline = new Deadline(seconds);
  const design = readDesignFile(file);
  const rows = logs.flatMap((log, which) =>
    readLog(readText(log, 'a log of a playtest, in CSV or JSON Lines'), log, which),
  );
  const found = fitLog(design, rows, { sessions, seed, progress: () => deadline.mustHold(fewer) });
  terminal.out(format === 'json' ? json(found) : showFit(terminal, found));
  return 0;
}
