import { parseHTML } from 'linkedom';
import { playElsewhere } from '../../balance/plays.js';
import { reportOn } from '../../balance/report.js';
import { planOfSensitivity, type Sensitivity, sensitivity } from '../../balance/sensitivity.js';
import type { Design } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import { turnableDials } from '../../design/settings.js';
import type { FigureName, ReportFormat } from '../../formats/report/choices.js';
import type { FigureDocument } from '../../formats/report/figure.js';
import { figuresOf } from '../../formats/report/figures.js';
import { reportToHtml } from '../../formats/report/report-html.js';
import { reportToMarkdown } from '../../formats/report/report-markdown.js';
import { readWorld } from '../../node/world-file.js';
import type { World } from '../../players/worlds/world.js';
import { choosePlayers, type Simulation, simulate } from '../../simulate/simulate.js';
import { simulateWith } from '../../simulate/worker-pool.js';
import { Deadline } from '../deadline.js';
import { mustBeOutput, readDesignFile, writeOver } from '../files/files.js';
import type { ExitCode } from '../outcome.js';
import { withProgress } from '../progress.js';
import { plain, type Terminal } from '../terminal.js';
import { onQueue } from './playing/queue.js';
import { judgement } from './playing/simulate-outcome.js';

export interface ReportCall {
  readonly sessions: number;
  readonly seed: number;
  readonly player: readonly string[] | undefined;
  readonly format: ReportFormat;
  readonly out: string | undefined;
  /** The world that is played in, where it is not the meeting model. */
  readonly world: string | undefined;
  /** The address of a queue whose workers play. */
  readonly queue: string | undefined;
  /** How long it may take. */
  readonly seconds: number;
  /** Only what one sheet of paper holds; and whom it is for. */
  readonly brief: boolean | undefined;
  readonly for: string | undefined;
  /** Only this figure, as SVG. */
  readonly figure: FigureName | undefined;
}

/** Sessions of each setting of a dial, at the most. */
const sessionsOfDials = 400;

export async function reportCommand(terminal: Terminal, file: string, call: ReportCall): Promise<ExitCode> {
  const { format, figure, out, seconds, brief: isBrief, for: recipient } = call;
  const deadline = new Deadline(seconds);
  const mustHold = (): void => deadline.mustHold('Ask for fewer --sessions');
  if (out === undefined && format === 'html' && figure === undefined)
    throw new UsageError('bad-argument', 'A report is a page; say where to write it with --out report.html.');
  if ((isBrief || recipient !== undefined) && (format !== 'html' || figure !== undefined))
    throw new UsageError('bad-argument', '--brief and --for are of a page; leave out --format and --figure.');
  mustBeOutput(out, [file]);
  const design = readDesignFile(file);
  // The sessions that are told are played here, whoever plays all others.
  const world = call.world === undefined ? undefined : await readWorld(call.world);
  const showsDials = figure === undefined ? format === 'html' && !isBrief : figure === 'dials';
  const given = { ...call, played: world, showsDials };
  const { simulation, turned } = await playedFor(terminal, design, given, mustHold);
  const report = reportOn(simulation, turned, { isOver: deadline.isOver }, world);
  const text = (): string => {
    if (figure === undefined && format === 'markdown') return reportToMarkdown(report);
    const page = parseHTML('<html><body></body></html>').document as unknown as FigureDocument;
    if (figure === undefined) return reportToHtml(report, page, { isBrief, recipient });
    const found = figuresOf(report, page).find(({ name }) => name === figure);
    if (found === undefined)
      throw new UsageError('bad-argument', `The design has nothing to show in the figure ${figure}.`);
    return `${found.svg}\n`;
  };
  const written = text();
  if (out === undefined) terminal.out(written);
  else {
    writeOver(out, written);
    terminal.out(`Wrote ${plain(out)}.\n`);
  }
  return judgement(report.summary);
}

interface ForReport {
  readonly simulation: Simulation;
  /** Undefined where there is no dial to turn, or nothing that shows it. */
  readonly turned: Sensitivity | undefined;
}

/** All that a report is made of is played here, or by the workers of a queue. */
async function playedFor(
  terminal: Terminal,
  design: Design,
  {
    sessions,
    seed,
    player: players,
    queue,
    world,
    played,
    showsDials,
  }: ReportCall & { readonly played: World | undefined; readonly showsDials: boolean },
  mustHold: () => void,
): Promise<ForReport> {
  const all = sessions * choosePlayers(design, players).length;
  const hasDials = showsDials && turnableDials(design).length > 0;
  const ofDials = { sessions: Math.min(sessions, sessionsOfDials), seed, players, progress: mustHold };
  if (queue !== undefined)
    return onQueue(terminal, queue, { world, mustHold }, async (pool) => ({
      simulation: (await withProgress(terminal, 'sessions', all, (progress) =>
        simulateWith(pool, design, { sessions, seed, players, progress }),
      ))!,
      turned: hasDials
        ? await playElsewhere(planOfSensitivity(design, ofDials), (request) => pool.observe(request))
        : undefined,
    }));
  const simulation = withProgress(
    terminal,
    'sessions',
    all,
    (progress) => simulate(design, { sessions, seed, players, world: played, progress }),
    mustHold,
  );
  return { simulation, turned: hasDials ? sensitivity(design, { ...ofDials, world: played }) : undefined };
}
