import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endOfSession } from '../../../balance/fitting/playtest.js';
import { joined, type Precise, plannedLooks, simulateUntil } from '../../../balance/statistics/precision.js';
import type { Design } from '../../../design/model.js';
import { UsageError } from '../../../design/problems/problem.js';
import { writeRecord } from '../../../engine/record/record.js';
import {
  eventColumnNames,
  runColumnNames,
  runRows,
  sessionColumnNames,
  sessionRow,
} from '../../../formats/tables/rows.js';
import { number, percent } from '../../../formats/written.js';
import { readWorld } from '../../../node/world-file.js';
import { WorldFault } from '../../../players/worlds/world-fault.js';
import { mergeParts, partOf, partText, readPart, shardOf } from '../../../simulate/shards.js';
import {
  checkRange,
  choosePlayers,
  type SimulateOptions,
  type Simulation,
} from '../../../simulate/simulate.js';
import { mustBeOutput, readDesignFile, readText, writeOver } from '../../files/files.js';
import { rowFile } from '../../files/row-files.js';
import { Interruption } from '../../interruption.js';
import type { ExitCode } from '../../outcome.js';
import { withProgress } from '../../progress.js';
import { paint, plain, type Terminal } from '../../terminal.js';
import { exactCommand, exactInstead } from './exact-command.js';
import { here, play } from './play-sessions.js';
import type { SimulateCall } from './simulate-call.js';
import { nothingDone, stoppedAfter, tell, unknownReport } from './simulate-outcome.js';

const usualSessions = 1000;

const usualSeed = 1;

type SeededCall = SimulateCall & { readonly seed: number };

/** Sessions of each player that `--precision` goes up to, unless `--sessions` says otherwise. */
const mostForPrecision = 256_000;

export async function simulateCommand(
  terminal: Terminal,
  file: string,
  call: SimulateCall,
): Promise<ExitCode> {
  mustGoTogether(call);
  mustHaveOutputs(file, call);
  const design = readDesignFile(file);
  const seeded = { ...call, seed: call.seed ?? usualSeed };
  checkRange(call.sessions ?? usualSessions, seeded.seed);
  choosePlayers(design, call.player);
  const interruption = new Interruption(call.seconds);
  try {
    if (call.exact) return exactCommand(terminal, design, call, interruption);
    if (call.precision !== undefined)
      return await simulatePrecisely(terminal, design, seeded, call.precision, interruption);
    const worldHere = call.queue === undefined ? call.world : undefined;
    const isWatched = [worldHere, call.saveRuns, call.saveSessions, call.saveEvents].some(
      (each) => each !== undefined,
    );
    if (isWatched) return await simulateHere(terminal, design, seeded, interruption);
    return await simulatePart(terminal, design, call, interruption);
  } finally {
    interruption.release();
  }
}

/** All sessions, a shard of them, or what a part still lacks. */
async function simulatePart(
  terminal: Terminal,
  design: Design,
  call: SimulateCall,
  interruption: Interruption,
): Promise<ExitCode> {
  const asked = askedFor(design, call);
  const { seed, until, of } = asked;
  const first = asked.before === undefined ? asked.first : asked.before.first + asked.before.sessions;
  const names = call.player ?? asked.before?.players.map(({ player }) => player.name);
  const isDone = first >= until;
  const more = isDone
    ? undefined
    : await play(terminal, design, { ...call, seed, player: names }, interruption, {
        first,
        sessions: until - first,
      });
  const whole =
    more === undefined ? asked.before : asked.before === undefined ? more : joined(asked.before, more);
  if (whole === undefined) return nothingDone(terminal, interruption);
  if (call.out !== undefined) {
    writeOver(call.out, partText(partOf(whole, of, until)));
    terminal.out(
      `Saved ${plain(call.out)}: sessions ${number(whole.first)} to ${number(whole.first + whole.sessions - 1)} of ${number(of)}.\n`,
    );
  }
  const isWhole = whole.first === 0 && whole.sessions === of;
  if (whole.first + whole.sessions < until) {
    const hint =
      call.out === undefined ? '' : ` Go on with --resume ${plain(call.out)} --out ${plain(call.out)}.`;
    terminal.err(stoppedAfter(interruption, whole.sessions, until - whole.first, hint));
  }
  if (!isWhole && call.out !== undefined) return interruption.exitCode(0);
  return interruption.exitCode(tell(terminal, whole, call));
}

/** @throws UsageError where a result would go to a file that is read, or to where another result goes */
function mustHaveOutputs(file: string, call: SimulateCall): void {
  const { out, saveRuns, saveSessions, saveEvents, resume, world } = call;
  const outputs = [out, saveRuns, saveSessions, saveEvents];
  for (const [index, output] of outputs.entries()) {
    // A part that is gone on with may be replaced by the longer one: no session of it is lost.
    const others = [file, world, ...(index === 0 ? [] : [resume]), ...outputs.slice(0, index)];
    mustBeOutput(output, others);
  }
}

/** @throws UsageError for options that say different things */
function mustGoTogether(call: SimulateCall): void {
  const { shard, resume, precision, out, queue } = call;
  if (
    queue !== undefined &&
    (call.workers ?? call.saveRuns ?? call.saveSessions ?? call.saveEvents) !== undefined
  )
    throw new UsageError(
      'bad-argument',
      'The workers of a queue play, and send back sums; leave out --workers, --save-runs, --save-sessions and --save-events, or --queue.',
    );
  const world = queue === undefined ? call.world : undefined;
  const rows = call.saveRuns ?? call.saveSessions ?? call.saveEvents ?? world;
  if (rows !== undefined && (shard ?? resume ?? precision ?? call.workers ?? out) !== undefined)
    throw new UsageError(
      'bad-argument',
      'Rows and worlds are played by one worker from the first session on; leave out --workers, --shard, --resume, --precision and --out.',
    );
  if (precision !== undefined && (shard ?? resume ?? out) !== undefined)
    throw new UsageError(
      'bad-argument',
      '--precision decides itself how many sessions are played; leave out --shard, --resume and --out.',
    );
  if (shard !== undefined && out === undefined)
    throw new UsageError(
      'bad-argument',
      'A shard is merged with the others later; say where to save it with --out part.json.',
    );
  const known = shard === undefined ? (call.sessions ?? call.seed ?? call.player) : shard;
  if (resume !== undefined && known !== undefined)
    throw new UsageError(
      'bad-argument',
      'A part knows its seed, its players and which sessions it is of; leave out --seed, --sessions, --player and --shard with --resume.',
    );
}

/** Which sessions are asked for, and what of them a part holds already. */
function askedFor(
  design: Design,
  { sessions = usualSessions, seed = usualSeed, shard, resume }: SimulateCall,
): { first: number; until: number; of: number; seed: number; before: Simulation | undefined } {
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
      'bad-argument',
      `There are ${sessions} sessions for ${shard.shards} shards, so that some have none.`,
    );
  return { first: own.first, until: own.first + own.sessions, of: sessions, seed, before: undefined };
}

async function simulatePrecisely(
  terminal: Terminal,
  design: Design,
  call: SeededCall,
  precision: number,
  interruption: Interruption,
): Promise<ExitCode> {
  const places = call.sessions ?? call.workers ?? call.queue;
  const mayBeExact = call.format === 'text' && places === undefined;
  const exact = mayBeExact ? exactInstead(terminal, design, call) : undefined;
  if (exact !== undefined) return exact;
  const most = call.sessions ?? mostForPrecision;
  checkRange(most, call.seed);
  const players = choosePlayers(design, call.player).length;
  const looks = plannedLooks(most);
  const found = await withProgress(terminal, 'sessions', most * players, (advance) =>
    simulateUntil(
      precision,
      most,
      (first, sessions) =>
        play(terminal, design, call, interruption, {
          first,
          sessions,
          advance: (done) => advance(first * players + done),
        }),
      (sessions, widest) =>
        advance(
          sessions * players,
          widest === undefined
            ? ''
            : `widest ${percent(widest.reach)}: ${plain(widest.what)} of ${plain(widest.of)}`,
        ),
    ),
  );
  if (found === undefined) return nothingDone(terminal, interruption);
  const code = tell(terminal, found.simulation, call, looks.length);
  if (call.format === 'text') terminal.out(`${precisely(terminal, found, precision)}\n`);
  return interruption.exitCode(found.isReached ? code : 1);
}

function precisely(
  terminal: Terminal,
  { simulation, looks, widest, isReached }: Precise,
  precision: number,
): string {
  const sessions = number(simulation.sessions);
  const planned = `check ${looks.taken} of ${looks.planned} planned; the intervals allow for all of them`;
  const known =
    widest === undefined
      ? ''
      : `; the widest, ${plain(widest.what)} of ${plain(widest.of)}, ± ${percent(widest.reach)}`;
  return isReached
    ? `${paint(terminal, 'green', '✓ precise')}  within ${percent(precision)} after ${sessions} sessions (${planned})${known}`
    : `${paint(terminal, 'redBright', '✗ not precise')}  not within ${percent(precision)} after ${sessions} sessions (${planned})${known}; give more --sessions`;
}

/** Plays in this thread, telling of every run, session or event that is to be saved. */
async function simulateHere(
  terminal: Terminal,
  design: Design,
  call: SeededCall,
  interruption: Interruption,
): Promise<ExitCode> {
  const { sessions = usualSessions } = call;
  const files = [
    rowFile(call.saveRuns, runColumnNames),
    rowFile(call.saveSessions, sessionColumnNames),
    rowFile(call.saveEvents, eventColumnNames),
  ] as const;
  const [runs, ofSessions, events] = files;
  const world = call.world === undefined ? undefined : await readWorld(call.world);
  const unknown = new Map<string, number>();
  const watching: Partial<SimulateOptions> = {
    world,
    onUnknownReport: (event) => unknown.set(event, (unknown.get(event) ?? 0) + 1),
    onSession: (player, log) => {
      runs?.add(runRows(design, player, log));
      ofSessions?.add([sessionRow(design, player, log)]);
      events?.add([{ player, session: log.session, at: log.duration / 1000, event: endOfSession, tried: 1 }]);
    },
    ...(events === undefined
      ? {}
      : {
          onEvent: (player: string, session: number, event: string, at: number, isTried: boolean) =>
            events.add([{ player, session, at: at / 1000, event, tried: isTried ? 1 : 0 }]),
        }),
  };
  try {
    const simulation = await play(terminal, design, call, interruption, {
      sessions,
      workers: here(watching),
    });
    if (simulation === undefined) return nothingDone(terminal, interruption);
    const saved = files.flatMap((file) => (file === undefined ? [] : [file.close()]));
    const code = tell(terminal, simulation, call);
    if (call.format === 'text') for (const line of saved) terminal.out(`${line}\n`);
    for (const [event, times] of unknown) terminal.err(unknownReport(design, event, times));
    if (simulation.sessions < sessions)
      terminal.err(stoppedAfter(interruption, simulation.sessions, sessions));
    return interruption.exitCode(code);
  } catch (error) {
    if (!(error instanceof WorldFault)) throw error;
    const record = join(mkdtempSync(join(tmpdir(), 'jocus-')), 'world-fault.jsonl');
    writeOver(record, writeRecord(error.record));
    throw new UsageError(
      'bad-argument',
      `${error.message}. The session until then is saved; play it again with: jocus replay ${design.file} ${record}`,
    );
  } finally {
    for (const file of files) file?.abandon();
  }
}
