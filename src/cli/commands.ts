import { fileURLToPath } from 'node:url';
import cliProgress from 'cli-progress';
import { summarize } from '../balance/summary.js';
import type { Design } from '../design/model.js';
import { readRecord, replay, type SessionRecord } from '../engine/record.js';
import type { Step } from '../engine/step.js';
import { exploreDefaults } from '../explore/explore.js';
import { checkToJson } from '../formats/json.js';
import { type Check, check } from '../inspect/check.js';
import { mostSessions, simulate } from '../simulate/simulate.js';
import { readDesignFile, readText } from './files.js';
import { showCheck } from './show-check.js';
import { showReplay } from './show-replay.js';
import { showSimulation } from './show-simulation.js';
import { heading, paint, type Terminal } from './terminal.js';

/** What the process ends with: the design is fine, or it falls short. A call that cannot be used ends with 2. */
export type ExitCode = 0 | 1;
export type Format = 'text' | 'json';

const json = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

export function checkCommand(terminal: Terminal, file: string, format: Format): ExitCode {
  const result = checkWithProgress(terminal, readDesignFile(file));
  terminal.out(format === 'json' ? json(checkToJson(result)) : showCheck(terminal, result));
  return result.passed ? 0 : 1;
}

function checkWithProgress(terminal: Terminal, design: Design): Check {
  return withProgress(terminal, 'states', exploreDefaults.mostStates, (advance) =>
    check(design, { progress: advance }),
  );
}

export interface SimulateCall {
  readonly sessions: number;
  readonly seed: number;
  readonly players: readonly string[] | undefined;
  readonly format: Format;
}

export function simulateCommand(terminal: Terminal, file: string, call: SimulateCall): ExitCode {
  return simulateDesign(terminal, readDesignFile(file), call);
}

function simulateDesign(
  terminal: Terminal,
  design: Design,
  { sessions, seed, players, format }: SimulateCall,
): ExitCode {
  const all = Math.min(sessions, mostSessions) * (players ?? design.players).length;
  const simulation = withProgress(terminal, 'sessions', all, (progress) =>
    simulate(design, { sessions, seed, players, progress }),
  );
  const summary = summarize(simulation);
  terminal.out(format === 'json' ? json(summary) : showSimulation(terminal, design.transitions, summary));
  return summary.targets.some((target) => target.verdict === 'missed') ? 1 : 0;
}

export function replayCommand(
  terminal: Terminal,
  file: string,
  recordFile: string,
  format: Format,
): ExitCode {
  const design = readDesignFile(file);
  const record = readRecord(readText(recordFile, 'a session record in JSON Lines'), recordFile);
  replayRecord(terminal, design, record, format, recordFile);
  return 0;
}

function replayRecord(
  terminal: Terminal,
  design: Design,
  record: SessionRecord,
  format: Format,
  file: string,
): void {
  const steps: Step[] = [];
  const session = replay(design, record, (started) => started.listen((step) => steps.push(step)), {}, file);
  const { time, screen, level, counters } = session;
  terminal.out(
    format === 'json'
      ? json({ design: design.title, steps, end: { at: time, screen, level, counters } })
      : showReplay(terminal, session, steps),
  );
}

const demoFile = fileURLToPath(new URL('../../demo/dusk-on-the-heath.yaml', import.meta.url));
const demoCall: SimulateCall = { sessions: 1000, seed: 1, players: undefined, format: 'text' };

/** Everything on the demo design: the check, a witness replayed, and the simulation. */
export function demoCommand(terminal: Terminal, format: Format): ExitCode {
  const design = { ...readDesignFile(demoFile), file: 'demo/dusk-on-the-heath.yaml' };
  const result = checkWithProgress(terminal, design);
  const witness = result.exploration.transitions.find(
    (each) => each.to === 'dark' && each.witness !== undefined,
  )?.witness;
  const call = { ...demoCall, format };
  if (format === 'json') {
    const simulation = simulate(design, call);
    terminal.out(json({ check: checkToJson(result), simulate: summarize(simulation) }));
    return result.passed ? 0 : 1;
  }
  const chapter = (title: string): void => terminal.out(heading(terminal, paint(terminal, 'cyan', title)));
  chapter('1. jocus check: can every transition be taken, and do the tests of the design hold?');
  terminal.out(`\n${showCheck(terminal, result)}`);
  if (witness?.record !== undefined) {
    chapter('2. jocus replay: the witness of the first transition to dark, played again');
    terminal.out('\n');
    replayRecord(terminal, design, witness.record, 'text', 'witness');
  }
  chapter('3. jocus simulate: three simulated players, a thousand sessions each');
  terminal.out('\n');
  const simulated = simulateDesign(terminal, design, call);
  return result.passed ? simulated : 1;
}

/** Runs long work with a bar on standard error, where that is a terminal. */
function withProgress<Result>(
  terminal: Terminal,
  unit: string,
  all: number,
  work: (advance: (done: number) => void) => Result,
): Result {
  if (!terminal.progress) return work(() => {});
  const bar = new cliProgress.SingleBar(
    {
      format: `{bar} {value} of {total} ${unit}`,
      stream: process.stderr,
      clearOnComplete: true,
      hideCursor: true,
      barsize: 30,
    },
    cliProgress.Presets.shades_classic,
  );
  bar.start(all, 0);
  try {
    return work((done) => bar.update(done));
  } finally {
    bar.stop();
  }
}
