import { z } from 'zod';
import { observationToData, type PlayedData } from '../../balance/statistics/observation-data.js';
import { observe } from '../../balance/statistics/paired.js';
import { quantitiesOf } from '../../balance/statistics/quantities.js';
import type { Design } from '../../design/model.js';
import { type Refusal, refusalOf } from '../../design/problems/refusal.js';
import { readDesign } from '../../design/read.js';
import { withDials } from '../../design/settings.js';
import type { World } from '../../players/worlds/world.js';
import { simulate } from '../../simulate/simulate.js';

/** The queue that clients and workers meet at. */
export const queueName = 'jocus';

const whole = z.number().int().min(0).max(Number.MAX_SAFE_INTEGER);

const jobSchema = z.strictObject({
  /** The version of Jocus that asks. */
  version: z.string(),
  /** The whole design, and the name of its file for messages. */
  text: z.string(),
  file: z.string(),
  settings: z.record(z.string(), z.number()),
  isOneOfMany: z.boolean(),
  fingerprint: z.string(),
  /** A world that the workers know by this name; null: the meeting model. */
  world: z.string().nullable(),
  seed: whole,
  first: whole,
  sessions: whole.min(1),
  players: z.array(z.string()),
  /** Quantities, by name, of which it is kept what each session adds to them; null: only tallies are kept. */
  quantities: z.array(z.string()).nullable(),
});

/** Sessions to be played by any worker: all that they depend on, but the code of a world. */
export type QueueJob = z.infer<typeof jobSchema>;

/** What a worker says of a job. */
export type QueueAnswer =
  | PlayedData
  | Refusal
  /** This worker cannot play it, though another might. */
  | { readonly refused: string };

/** Plays a job; `worldNamed` gives a world that this worker knows. */
export async function playJob(
  data: unknown,
  version: string,
  worldNamed: (name: string) => Promise<World | undefined>,
): Promise<QueueAnswer> {
  const read = jobSchema.safeParse(data, { jitless: true });
  if (!read.success) {
    const asked = (data as { version?: unknown } | null)?.version;
    return { refused: `it was asked by Jocus ${String(asked)} in a form that ${version} does not know` };
  }
  const job = read.data;
  if (job.version !== version)
    return {
      refused: `it runs Jocus ${version}, and ${job.version} asks; run the same version on all machines`,
    };
  try {
    const design = designOf(job);
    if (design.fingerprint !== job.fingerprint)
      return {
        refused: 'it reads the design to another meaning; run the same build of Jocus on all machines',
      };
    const world = job.world === null ? undefined : await worldNamed(job.world);
    if (job.world !== null && world === undefined)
      return {
        refused: `it knows no world "${job.world}"; start it with --world ${job.world}=FILE, where FILE is the module of the world on its machine`,
      };
    return play(design, job, world);
  } catch (error) {
    return refusalOf(error);
  }
}

function play(
  design: Design,
  { quantities, seed, first, sessions, players }: QueueJob,
  world: World | undefined,
): PlayedData {
  const options = { seed, first, sessions, players, world };
  if (quantities === null)
    return { tallies: simulate(design, options).players.map(({ tally }) => tally.toData()) };
  const known = quantitiesOf(design);
  const asked = quantities.flatMap((name) => known.find((each) => each.name === name) ?? []);
  return observationToData(observe(design, asked, options));
}

let last: { readonly key: string; readonly design: Design } | undefined;

/** The design of a job, lowered and written out once for the jobs that ask for it one after the other. */
function designOf({ text, file, settings, isOneOfMany }: QueueJob): Design {
  const key = JSON.stringify([text, settings, isOneOfMany]);
  if (last?.key !== key) last = { key, design: withDials(readOnce(text, file), settings, isOneOfMany) };
  return last.design;
}

let read: { readonly text: string; readonly design: Design } | undefined;

function readOnce(text: string, file: string): Design {
  if (read?.text !== text) read = { text, design: readDesign(text, file) };
  return read.design;
}
