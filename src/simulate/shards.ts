import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { z } from 'zod';
import type { Design, Player } from '../design/model.js';
import { UsageError } from '../design/problems/problem.js';
import { formOf } from '../engine/program/lower/lower.js';
import { groupCount } from '../measure/grouped-values.js';
import { Tally } from '../measure/tally.js';
import { choosePlayers, mostSessions, type Simulation } from './simulate.js';

/** Some of the sessions of a simulation, as plain data that any machine can write and read. */
export interface Part {
  readonly jocus: 'part of a simulation';
  readonly version: 3;
  readonly title: string;
  /** A digest of all that the sessions and their tallies come from. */
  readonly fingerprint: string;
  readonly seed: number;
  /** Sessions of the whole simulation, of each player. */
  readonly of: number;
  readonly first: number;
  readonly sessions: number;
  /** The session before which this part was to end; it was stopped before where it holds fewer. */
  readonly until: number;
  readonly players: readonly { readonly name: string; readonly tally: ReturnType<Tally['toData']> }[];
}

/** A part as text, with a digest of all that it says, so that no digit of it can be lost or changed unseen. */
export const partText = (part: Part): string => JSON.stringify({ ...part, digest: digestOf(part) });

const digestOf = (part: Part): string => bytesToHex(sha256(utf8ToBytes(JSON.stringify(part))));

/** Two designs with the same one play and count the same. */
function fingerprintOf(design: Design, players: readonly Player[]): string {
  const playing = players.map(({ place: _, style, inputs, ...player }) => [
    player,
    [...style],
    [...inputs].map(([screen, weights]) => [screen, [...weights]]),
  ]);
  const text = JSON.stringify([design.fingerprint, design.score, design.lives, playing]);
  return bytesToHex(sha256(utf8ToBytes(text))).slice(0, 16);
}

export function partOf(simulation: Simulation, of: number, until: number = of): Part {
  const { design, seed, first, sessions, players } = simulation;
  return {
    jocus: 'part of a simulation',
    version: 3,
    title: design.title,
    fingerprint: fingerprintOf(
      design,
      players.map(({ player }) => player),
    ),
    seed,
    of,
    first,
    sessions,
    until,
    players: players.map(({ player, tally }) => ({ name: player.name, tally: tally.toData() })),
  };
}

const numbers = z.array(z.number());
const count = z.number().int().min(0).max(Number.MAX_SAFE_INTEGER);
const sessionNumber = count.max(mostSessions);
const partSchema = z.strictObject({
  jocus: z.literal('part of a simulation'),
  version: z.literal(3),
  title: z.string(),
  fingerprint: z.string(),
  seed: count,
  of: sessionNumber.min(1),
  first: sessionNumber,
  sessions: sessionNumber.min(1),
  until: sessionNumber.min(1),
  players: z.array(
    z.strictObject({
      name: z.string(),
      tally: z.strictObject({
        sessions: count,
        runs: z.tuple([count, count]),
        columns: z.array(numbers),
        sums: z.array(numbers),
        spreads: z.array(
          z.strictObject({
            bins: z.array(z.tuple([z.number().int(), count, count, count])),
            sums: numbers.length(8),
            runs: count,
            sessions: count,
            runsSquared: count,
            ends: z.union([z.tuple([]), z.tuple([z.number(), z.number()])]),
          }),
        ),
        scores: z.array(z.array(z.tuple([z.number().int(), count]))).length(groupCount),
      }),
    }),
  ),
});

/**
 * Reads a part.
 *
 * @param file its name, for messages
 * @throws UsageError where the text is none
 */
export function readPart(text: string, file: string): Part {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new UsageError(
      'bad-file',
      `${file} is no JSON; give a file that jocus simulate --out has written.`,
    );
  }
  const given = 'give a file that jocus simulate --out has written';
  const { digest, ...rest } = (typeof value === 'object' && value !== null ? value : {}) as {
    digest?: unknown;
  };
  const read = partSchema.safeParse(rest, { jitless: true });
  if (!read.success) {
    const [issue] = read.error.issues;
    throw new UsageError(
      'bad-file',
      `${file} is no part of a simulation: ${issue!.path.join('.') || 'it'} is not as it should be; ${given}.`,
    );
  }
  const part = read.data;
  if (digest !== digestOf(rest as Part))
    throw new UsageError(
      'bad-file',
      `${file} is not as it was written: its digest does not fit what it holds. Play it again, or ${given}.`,
    );
  const { first, sessions, until, of } = part;
  if (first + sessions > until || until > of)
    throw new UsageError(
      'bad-file',
      `${file} is no part of a simulation: it holds sessions ${first} to ${first + sessions - 1} of ${of}, and ends before ${until}; ${given}.`,
    );
  return part;
}

/**
 * The simulation that parts are parts of, from session 0 on, whatever their order.
 *
 * @param parts with the names of their files
 * @throws UsageError where they belong to different simulations or designs, overlap, or leave sessions out
 */
export function mergeParts(
  design: Design,
  parts: readonly { readonly part: Part; readonly file: string }[],
): Simulation {
  const sorted = [...parts].sort((a, b) => a.part.first - b.part.first);
  const [first] = sorted;
  if (first === undefined)
    throw new UsageError('bad-argument', 'There are no parts to merge; give one file or more.');
  const names = first.part.players.map(({ name }) => name);
  const chosen = choosePlayers(design, names).map(({ player }) => player);
  const fingerprint = fingerprintOf(design, chosen);
  const form = formOf(design);
  const tallies = chosen.map(() => new Tally(form));
  let next = 0;
  for (const { part, file } of sorted) {
    if (part.fingerprint !== fingerprint)
      throw new UsageError(
        'bad-file',
        `${file} was played with another state of the design or its players; play it again with ${design.file}.`,
      );
    if (part.seed !== first.part.seed || part.of !== first.part.of)
      throw new UsageError(
        'bad-file',
        `${file} is of ${part.of} sessions with seed ${part.seed}, ${first.file} of ${first.part.of} with seed ${first.part.seed}; merge parts of one simulation.`,
      );
    if (part.first < next)
      throw new UsageError(
        'bad-file',
        `${file} begins with session ${part.first}, which another part holds already.`,
      );
    if (part.first > next) missing(next, part.first, part.of);
    part.players.forEach(({ tally }, index) => {
      tallies[index]!.merge(readTally(form, tally, file));
    });
    next = part.first + part.sessions;
  }
  return {
    design,
    seed: first.part.seed,
    first: 0,
    sessions: next,
    players: chosen.map((player, index) => ({ player, tally: tallies[index]! })),
  };
}

/** @throws UsageError where sessions of the whole are left out at the end */
export function mustBeWhole({ sessions }: Simulation, of: number): void {
  if (sessions < of) missing(sessions, of, of);
}

function missing(from: number, to: number, of: number): never {
  throw new UsageError(
    'bad-file',
    `Sessions ${from} to ${to - 1} of ${of} are in none of the parts; play them too (--shard, or --resume with the part before).`,
  );
}

function readTally(form: ReturnType<typeof formOf>, data: Part['players'][0]['tally'], file: string): Tally {
  const { columns, sums, spreads } = new Tally(form).toData();
  const fits =
    data.columns.length === columns.length &&
    data.sums.length === sums.length &&
    data.spreads.length === spreads.length &&
    columns.every((column, index) => column.length === data.columns[index]!.length) &&
    sums.every((sum, index) => sum.length === data.sums[index]!.length);
  if (!fits)
    throw new UsageError('bad-file', `${file} has not the columns of this design's tallies; play it again.`);
  return Tally.fromData(form, data);
}

/** The sessions of one shard, when all sessions are divided as evenly as possible: `sessions` of them from `first`. */
export function shardOf(
  of: number,
  shard: number,
  shards: number,
): { readonly first: number; readonly sessions: number } {
  const first = Math.floor((of * (shard - 1)) / shards);
  return { first, sessions: Math.floor((of * shard) / shards) - first };
}
