import { closeSync, openSync, writeSync } from 'node:fs';
import { resolve } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { joined, type Precise, plannedLooks, simulateUntil } from '../balance/precision.js';
import { type SimulationSummary, summarize } from '../balance/summary.js';
import type { Design } from '../design/model.js';
import { UsageError } from '../design/problem.js';
import { targetsToJunit } from '../formats/junit.js';
import {
  eventColumnNames,
  type Row,
  rowsToText,
  runColumnNames,
  runRows,
  sessionColumnNames,
  sessionRow,
} from '../formats/rows.js';
import { number, percent } from '../formats/written.js';
import { nodeCrew, usualWorkers } from '../node/crew.js';
import { fieldWorld } from '../players/field-world.js';
import type { World } from '../players/world.js';
import { type Crew, playChunk, simulateWith } from '../simulate/crew.js';
import { mergeParts, mustBeWhole, partOf, readPart, shardOf } from '../simulate/parts.js';
import {
  checkRange,
  choosePlayers,
  type SimulateOptions,
  type Simulation,
  simulate,
} from '../simulate/simulate.js';
import { readDesignFile, readText, writeOver } from './files.js';
import { type ExitCode, json, type SimulateFormat } from './outcome.js';
import { type Advance, withProgress } from './progress.js';
import { showSimulation } from './show-simulation.js';
import { paint, plain, type Terminal } from './terminal.js';

export interface SimulateCall {
  /** undefined: the usual number, or as many as the precision takes. */
  readonly sessions: number | undefined;
  readonly seed: number;
  readonly player: readonly string[] | undefined;
  readonly format: SimulateFormat;
  readonly world: string | undefined;
  readonly workers: number | undefined;
  /** Half the width that intervals may have, 0 to 1. */
  readonly precision: number | undefined;
  readonly shard: Shard | undefined;
  /** Where to save what was played. */
  readonly out: string | undefined;
  /** A part to go on from. */
  readonly resume: string | undefined;
  readonly saveRuns: string | undefined;
  readonly saveSessions: string | undefined;
  readonly saveEvents: string | undefined;
}

export interface Shard {
  readonly shard: number;
  readonly shards: number;
}

const usualSessions = 1000;
/** Sessions of each player that `--precision` goes up to, unless `--sessions` says otherwise. */
const mostForPrecision = 256_000;
/** Fewer sessions than this are not worth a second worker. */
const sessionsForEach = 3000;

export async function simulateCommand(
  terminal: Terminal,
  file: string,
  call: SimulateCall,
): Promise<ExitCode> {
  const design = readDesignFile(file);
  mustGoTogether(call);
  if (call.precision !== undefined) return simulatePrecisely(terminal, design, call, call.precision);
  const isWatched = [call.world, call.saveRuns, call.saveSessions, call.saveEvents].some(
    (each) => each !== undefined,
  );
  if (isWatched) return simulateHere(terminal, design, call);
  const asked = askedFor(design, call);
  const { seed, until, of } = asked;
  const first = asked.before === undefined ? asked.first : asked.before.first + asked.before.sessions;
  const names = call.player ?? asked.before?.players.map(({ player }) => player.name);
  const isDone = first >= until;
  const more = isDone
    ? undefined
    : await play(terminal, design, { ...call, seed, player: names }, first, until - first);
  const whole =
    more === undefined ? asked.before : asked.before === undefined ? more : joined(asked.before, more);
  if (whole === undefined) {
    terminal.err('Stopped before any sessions were done; nothing is saved.\n');
    return 1;
  }
  if (call.out !== undefined) {
    writeOver(call.out, JSON.stringify(partOf(whole, of, until)));
    terminal.out(
      `Saved ${call.out}: sessions ${number(whole.first)} to ${number(whole.first + whole.sessions - 1)} of ${number(of)}.\n`,
    );
  }
  const isWhole = whole.first === 0 && whole.sessions === of;
  if (whole.first + whole.sessions < until) {
    const hint = call.out === undefined ? '' : ` Go on with --resume ${call.out} --out ${call.out}.`;
    terminal.err(
      `Stopped after ${number(whole.sessions)} of ${number(until - whole.first)} sessions.${hint}\n`,
    );
  }
  if (!isWhole && call.out !== undefined) return 0;
  return tell(terminal, whole, call);
}

/** @throws UsageError for options that say different things */
function mustGoTogether(call: SimulateCall): void {
  const { shard, resume, precision, out } = call;
  const rows = call.saveRuns ?? call.saveSessions ?? call.saveEvents ?? call.world;
  if (rows !== undefined && (shard ?? resume ?? precision ?? call.workers ?? out) !== undefined)
    throw new UsageError(
      'Rows and worlds are played by one worker from the first session on; leave out --workers, --shard, --resume, --precision and --out.',
    );
  if (precision !== undefined && (shard ?? resume ?? out) !== undefined)
    throw new UsageError(
      '--precision decides itself how many sessions are played; leave out --shard, --resume and --out.',
    );
  if (shard !== undefined && out === undefined)
    throw new UsageError(
      'A shard is merged with the others later; say where to save it with --out part.json.',
    );
  if (shard !== undefined && resume !== undefined)
    throw new UsageError('A part knows which sessions it is of; leave out --shard with --resume.');
}

/** Which sessions are asked for, and what of them a part holds already. */
function askedFor(
  design: Design,
  { sessions = usualSessions, seed, shard, resume }: SimulateCall,
): { first: number; until: number; of: number; seed: number; before: Simulation | undefined } {
  checkRange(sessions, seed);
  if (resume !== undefined) {
    const part = readPart(readText(resume, 'a part of a simulation'), resume);
    const shifted = mergeParts(design, [{ part: { ...part, first: 0 }, file: resume }]);
    const before = { ...shifted, first: part.first };
    return { first: part.first, until: part.until, of: part.of, seed: part.seed, before };
  }
  if (shard === undefined) return { first: 0, until: sessions, of: sessions, seed, before: undefined };
  const own = shardOf(sessions, shard.shard, shard.shards);
  if (own.sessions === 0)
    throw new UsageError(
      `There are ${sessions} sessions for ${shard.shards} shards, so that some have none.`,
    );
  return { first: own.first, until: own.first + own.sessions, of: sessions, seed, before: undefined };
}

/** Plays sessions, by workers where there are many; a first Ctrl-C keeps what is done. */
async function play(
  terminal: Terminal,
  design: Design,
  call: Pick<SimulateCall, 'seed' | 'player' | 'workers'>,
  first: number,
  sessions: number,
  advance?: Advance,
): Promise<Simulation | undefined> {
  const players = choosePlayers(design, call.player).length;
  const wanted = call.workers ?? Math.min(usualWorkers(), Math.floor((sessions * players) / sessionsForEach));
  const crew = wanted <= 1 ? here : nodeCrew(wanted, new URL('./simulate-worker.js', import.meta.url));
  const signal = { aborted: false };
  const stop = (): void => {
    signal.aborted = true;
  };
  process.once('SIGINT', stop);
  try {
    const options = { seed: call.seed, players: call.player, first, sessions, signal };
    if (advance !== undefined) return await simulateWith(crew, design, { ...options, progress: advance });
    return await withProgress(terminal, 'sessions', sessions * players, (progress) =>
      simulateWith(crew, design, { ...options, progress }),
    );
  } finally {
    process.removeListener('SIGINT', stop);
    await crew.leave();
  }
}

/** This thread, which looks up now and then, so that it hears Ctrl-C. */
const here: Crew & { leave(): Promise<void> } = {
  workers: 1,
  async play(design, chunk) {
    await setImmediate();
    return playChunk(design, chunk);
  },
  async leave() {},
};

async function simulatePrecisely(
  terminal: Terminal,
  design: Design,
  call: SimulateCall,
  precision: number,
): Promise<ExitCode> {
  const most = call.sessions ?? mostForPrecision;
  checkRange(most, call.seed);
  const players = choosePlayers(design, call.player).length;
  const looks = plannedLooks(most);
  const found = await withProgress(terminal, 'sessions', most * players, (advance) =>
    simulateUntil(
      precision,
      most,
      (first, sessions) =>
        play(terminal, design, call, first, sessions, (done) => advance(first * players + done)),
      (sessions, widest) =>
        advance(
          sessions * players,
          widest === undefined
            ? ''
            : `widest ${percent(widest.reach)}: ${plain(widest.what)} of ${plain(widest.of)}`,
        ),
    ),
  );
  if (found === undefined) return 1;
  const code = tell(terminal, found.simulation, call, looks.length);
  if (call.format === 'text') terminal.out(`${precisely(terminal, found, precision)}\n`);
  return found.isReached ? code : 1;
}

function precisely(
  terminal: Terminal,
  { simulation, looks, widest, isReached }: Precise,
  precision: number,
): string {
  const sessions = number(simulation.sessions);
  const planned = `look ${looks.taken} of ${looks.planned} planned, which share the 5 % of error among them`;
  const known =
    widest === undefined
      ? ''
      : `; the widest, ${plain(widest.what)} of ${plain(widest.of)}, ± ${percent(widest.reach)}`;
  return isReached
    ? `${paint(terminal, 'green', '✓ precise')}  within ${percent(precision)} after ${sessions} sessions (${planned})${known}`
    : `${paint(terminal, 'redBright', '✗ not precise')}  not within ${percent(precision)} after ${sessions} sessions (${planned})${known}; give more --sessions`;
}

/** Plays in this thread, telling of every run, session or event that is to be saved. */
async function simulateHere(terminal: Terminal, design: Design, call: SimulateCall): Promise<ExitCode> {
  const { sessions = usualSessions, seed, player: players } = call;
  const files = [
    rowFile(call.saveRuns, runColumnNames),
    rowFile(call.saveSessions, sessionColumnNames),
    rowFile(call.saveEvents, eventColumnNames),
  ] as const;
  const [runs, ofSessions, events] = files;
  const world = call.world === undefined ? undefined : await readWorld(call.world);
  const options: SimulateOptions = {
    sessions,
    seed,
    players,
    world,
    onSession: (player, sheet) => {
      runs?.add(runRows(design, player, sheet));
      ofSessions?.add([sessionRow(design, player, sheet)]);
    },
    ...(events === undefined
      ? {}
      : {
          onEvent: (player: string, session: number, event: string, at: number, isTried: boolean) =>
            events.add([{ player, session, at: at / 1000, event, tried: isTried ? 1 : 0 }]),
        }),
  };
  const all = sessions * choosePlayers(design, players).length;
  const simulation = withProgress(terminal, 'sessions', all, (progress) =>
    simulate(design, { ...options, progress }),
  );
  const saved = files.flatMap((file) => (file === undefined ? [] : [file.close()]));
  const code = tell(terminal, simulation, call);
  if (call.format === 'text') for (const line of saved) terminal.out(`${line}\n`);
  return code;
}

/** Rows written at once. */
const batch = 1000;

interface RowFile {
  add(rows: readonly Row[]): void;
  /** Writes what is left, and says what was written. */
  close(): string;
}

/** @throws UsageError where it cannot be written, or its name tells no format */
function rowFile(file: string | undefined, columns: readonly string[]): RowFile | undefined {
  if (file === undefined) return undefined;
  const format = /\.csv$/i.test(file) ? 'csv' : /\.(jsonl|ndjson)$/i.test(file) ? 'jsonl' : undefined;
  if (format === undefined)
    throw new UsageError(`${file} tells no format; let it end in .csv or in .jsonl (JSON Lines).`);
  writeOver(file, '');
  const descriptor = openSync(file, 'w');
  let waiting: Row[] = [];
  let written = 0;
  const flush = (): void => {
    writeSync(descriptor, rowsToText(waiting, columns, format, written === 0));
    written += waiting.length;
    waiting = [];
  };
  return {
    add(rows) {
      waiting.push(...rows);
      if (waiting.length >= batch) flush();
    },
    close() {
      if (waiting.length > 0 || written === 0) flush();
      closeSync(descriptor);
      return `Saved ${file}: ${number(written)} rows.`;
    },
  };
}

/** Merges parts of one simulation and tells what they come to. */
export function mergeCommand(
  terminal: Terminal,
  file: string,
  partFiles: readonly string[],
  { format, out }: Pick<SimulateCall, 'format' | 'out'>,
): ExitCode {
  const design = readDesignFile(file);
  const parts = partFiles.map((each) => ({
    part: readPart(readText(each, 'a part of a simulation'), each),
    file: each,
  }));
  const whole = mergeParts(design, parts);
  const { of } = parts[0]!.part;
  mustBeWhole(whole, of);
  if (out !== undefined) {
    writeOver(out, JSON.stringify(partOf(whole, of)));
    terminal.out(`Saved ${out}: all ${number(of)} sessions.\n`);
  }
  return tell(terminal, whole, { format, world: undefined });
}

function tell(
  terminal: Terminal,
  simulation: Simulation,
  { format, world }: Pick<SimulateCall, 'format' | 'world'>,
  looks = 1,
): ExitCode {
  const summary = summarize(simulation, looks);
  switch (format) {
    case 'text':
      terminal.out(showSimulation(terminal, summary, world));
      break;
    case 'json':
      terminal.out(json(summary));
      break;
    case 'junit':
      terminal.out(targetsToJunit(summary.design, summary.targets));
  }
  return judgement(summary);
}

export const judgement = ({ targets }: SimulationSummary): ExitCode =>
  targets.some((target) => target.verdict === 'missed') ? 1 : 0;

/**
 * The world that ships, or the default export of a module.
 *
 * @throws UsageError where there is no such module, or it exports no world
 */
async function readWorld(name: string): Promise<World> {
  if (name === 'field') return fieldWorld;
  const expected = 'give field, or a module whose default export is a World';
  const module = await import(pathToFileURL(resolve(name)).href).catch((error: Error) => {
    const [reason] = error.message.split(' imported from ');
    throw new UsageError(`The world ${name} cannot be loaded: ${reason}; ${expected}.`);
  });
  const world = module.default as Partial<World> | undefined;
  const isWorld = typeof world?.open === 'function' && Number.isInteger(world.step) && world.step! >= 1;
  if (!isWorld) {
    throw new UsageError(
      `${name} exports no world: it needs a step in whole milliseconds and a function open; ${expected}.`,
    );
  }
  return world as World;
}
