import { z } from 'zod';
import { longestDuration } from './duration.js';

/** Counters, and the numbers written in a design, stay within the whole numbers that a double holds exactly. */
export const largestNumber = 2 ** 53;

const number = (from: number, to: number, unit = '') => {
  const error = `a number from ${from} to ${to}${unit}`;
  return z.number({ error }).min(from, { error }).max(to, { error });
};
const whole = (from: number, to: number) => {
  const error = `a whole number from ${from} to ${to}`;
  return z.number({ error }).int({ error }).min(from, { error }).max(to, { error });
};
const text = (what: string) => z.string({ error: what });
const word = <const Words extends readonly [string, ...string[]]>(words: Words) =>
  z.enum(words, { error: `one of ${words.join(', ')}` });
const truth = z.boolean({ error: 'true or false' });
const listOf = <Entry extends z.ZodType>(entry: Entry, what: string) => z.array(entry, { error: what });
const mapOf = <Entry extends z.ZodType>(entry: Entry, what: string) =>
  z.record(z.string(), entry, { error: what });

const seconds = number(0, longestDuration, ' seconds');
const period = number(0.001, longestDuration, ' seconds');
const computedPeriod = z.union([period, z.string()], {
  error: `a number of seconds from 0.001 to ${longestDuration}, or an expression such as 3 - level / 4`,
});
const interval = z.union([period, z.string(), z.tuple([computedPeriod, computedPeriod])], {
  error: `a number of seconds from 0.001 to ${longestDuration}, an expression such as 3 - level / 4, or two of them: [least, most]`,
});
const delay = z.union([seconds, z.tuple([seconds, seconds])], {
  error: `a number of seconds from 0 to ${longestDuration}, or two of them: [least, most]`,
});
const anyNumber = number(-largestNumber, largestNumber);
const amount = z.union([anyNumber, z.string(), z.boolean()], {
  error: 'a number up to 2^53, true or false, or an expression such as petal * streak',
});
const condition = z.union([z.string(), z.boolean()], { error: 'a condition such as lives == 0' });
const names = z.union([z.string(), z.array(z.string()).min(1)], { error: 'one name or a list of names' });
const amounts = mapOf(amount, 'counters with their amounts, such as { score: 10 }');

export const keepSchema = word(['life', 'level', 'run', 'session', 'forever']);
export const roleSchema = word(['collectible', 'hazard', 'foe', 'checkpoint', 'exit', 'prop']);
export const meetingSchema = word(['sought', 'arrives', 'never']);

export const dialSchema = z.strictObject({
  value: anyNumber,
  from: anyNumber.optional(),
  to: anyNumber.optional(),
});

export const counterSchema = z.strictObject({
  start: z
    .union([anyNumber, z.string(), z.boolean()], {
      error: 'a number up to 2^53, true or false, one of the words, or an expression of dials and counters',
    })
    .optional(),
  min: anyNumber.optional(),
  max: anyNumber.optional(),
  places: whole(0, 6).optional(),
  words: z
    .array(z.string(), { error: 'a list of words, such as [worker, drone]' })
    .min(1, { error: 'at least one word' })
    .max(64, { error: 'at most 64 words' })
    .optional(),
  keep: keepSchema.optional(),
});

export const timerSchema = z.strictObject({
  countdown: computedPeriod.optional(),
  every: interval.optional(),
  after: interval.optional(),
  warn: z
    .union([period, z.array(period).min(1).max(20)], {
      error: 'seconds left, or a list of them, such as [10, 3]',
    })
    .optional(),
  screens: names.optional(),
  keep: keepSchema.optional(),
});

export const pieceSchema = z.strictObject({
  is: roleSchema.optional(),
  like: text('the name of another piece').optional(),
  in: names.optional(),
  difficulty: number(-20, 20, ' (logits)').optional(),
  meets: meetingSchema.optional(),
  takes: period.optional(),
  lasts: period.optional(),
  lead: delay.optional(),
  again: truth.optional(),
  hits: whole(1, 100).optional(),
  ends: names.optional(),
  outcomes: mapOf(
    z.union([number(0, 1_000_000), z.string()], {
      error: 'a weight from 0, or an expression such as 1 + level',
    }),
    'outcomes with their weights, such as { above: 1, beside: 2 }',
  ).optional(),
  needs: condition.optional(),
});

const spawnCount = whole(1, 10_000);
export const spawnSchema = z.strictObject({
  piece: text('the name of a piece'),
  every: interval,
  first: z
    .union([seconds, z.string()], {
      error: `a number of seconds from 0 to ${longestDuration}, or an expression such as 3 - level / 4`,
    })
    .optional(),
  atOnce: spawnCount.optional(),
  total: spawnCount.optional(),
});

export const levelSchema = z.strictObject({
  name: text('a text').optional(),
  like: text('the name of another level').optional(),
  endless: truth.optional(),
  values: mapOf(
    z.union([anyNumber, z.string()], { error: 'a number, or an expression of level such as 10 + 2 * level' }),
    'names with numbers, such as { quota: 10 }',
  ).optional(),
  place: mapOf(whole(0, 1000), 'pieces with how many, such as { blossom: 12 }').optional(),
  spawn: listOf(spawnSchema, 'a list of spawns, such as [{ piece: blossom, every: 1 }]').optional(),
  course: listOf(
    text('a piece, or several such as 3 x wasp'),
    'a list of pieces in the order in which they are met, such as [blossom, 2 x wasp, hive]',
  ).optional(),
});

export const effectSchema = z.strictObject({
  add: amounts.optional(),
  set: amounts.optional(),
  spawn: z
    .union(
      [
        z.string(),
        mapOf(
          z.union([whole(0, 1000), z.string()], {
            error: 'a whole number from 0 to 1000, or an expression such as 1 + level',
          }),
          '',
        ),
      ],
      {
        error: 'a piece, or pieces with how many, such as { blossom: 3 }',
      },
    )
    .optional(),
  clear: names.optional(),
  become: mapOf(z.string(), 'pieces with what they become, such as { wasp: sleepyWasp }').optional(),
  pay: amounts.optional(),
  start: names.optional(),
  stop: names.optional(),
  emit: text('an event of your own, such as comb.full').optional(),
  popup: text('a text such as "+{petal * streak}"').optional(),
  grace: seconds.optional(),
  cue: text('the name of a sound or effect').optional(),
});
const effects = listOf(effectSchema, 'a list of effects, such as [{ add: { score: 10 } }]');

export const ruleSchema = z.strictObject({
  name: text('a text').optional(),
  when: names.optional(),
  if: condition.optional(),
  screens: names.optional(),
  rest: period.optional(),
  chance: number(0, 1).optional(),
  once: keepSchema.optional(),
  passes: mapOf(anyNumber, 'one counter with a step, such as { score: 1000 }').optional(),
  do: effects,
});

export const screenSchema = z.strictObject({
  live: truth.optional(),
  ending: word(['won', 'lost', 'over']).optional(),
  text: text('a text').optional(),
});

export const transitionSchema = z.strictObject({
  from: names,
  to: text('the name of a screen'),
  when: names.optional(),
  if: condition.optional(),
  wait: seconds.optional(),
  fresh: keepSchema.optional(),
  level: z
    .union([word(['next', 'first']), whole(1, 10_000)], { error: 'next, first or the number of a level' })
    .optional(),
  grace: seconds.optional(),
  do: effects.optional(),
});

export const hudSchema = z.strictObject({
  show: text('the name of a counter or a timer').optional(),
  label: text('a text').optional(),
  as: word(['digits', 'number', 'icons', 'bar', 'clock', 'text']).optional(),
  width: whole(1, 16).optional(),
  text: text('a text such as "{score} points"').optional(),
  if: condition.optional(),
  tenths: truth.optional(),
  at: word([
    'top-left',
    'top',
    'top-right',
    'left',
    'right',
    'bottom-left',
    'bottom',
    'bottom-right',
  ]).optional(),
  screens: names.optional(),
});

export const listSchema = z.strictObject({
  of: text('the name of a counter'),
  when: names,
  length: whole(1, 100).optional(),
});

export const playerSchema = z.strictObject({
  skill: number(-20, 20, ' (logits)').optional(),
  pace: number(0.01, 100).optional(),
  runs: whole(1, 1000).optional(),
  patience: period.optional(),
});

const expectation = mapOf(
  z.union([z.number(), z.string(), z.boolean()], { error: 'a number, true or false, or a word' }),
  'counters with their values, such as { score: 10 }',
);
export const testStepSchema = z.union([z.string(), z.strictObject({ expect: expectation })], {
  error: 'an event such as blossom.taken, 3 x blossom.taken, wait 2, or { expect: { score: 10 } }',
});
export const testSchema = z.strictObject({
  name: text('a text'),
  given: expectation.optional(),
  seed: whole(0, largestNumber - 1).optional(),
  spawns: truth.optional(),
  do: listOf(testStepSchema, 'a list of events, such as [input.start, blossom.taken]').optional(),
  expect: expectation.optional(),
});

export const statisticSchema = word(['mean', 'median', 'p10', 'p90']);
export const measureSchema = word(['score', 'reach', 'ending', 'share']);
export const targetSchema = z.strictObject({
  measure: measureSchema,
  of: text('the name of a player').optional(),
  stat: statisticSchema.optional(),
  screen: text('the name of a screen').optional(),
  rule: text('the name of a rule').optional(),
  from: anyNumber.optional(),
  to: anyNumber.optional(),
  atLeast: anyNumber.optional(),
  atMost: anyNumber.optional(),
});

/** The whole design file. Its sections are read entry by entry, so that one bad entry does not hide the next. */
export const designSchema = z.strictObject({
  jocus: z.literal(1, { error: '1, the version of the format' }).optional(),
  title: text('a text').optional(),
  score: text('the name of a counter').optional(),
  grid: number(0.001, 60, ' seconds').optional(),
  dials: mapOf(dialSchema, 'dials by name, such as petal: { value: 10 }').optional(),
  counters: mapOf(counterSchema, 'counters by name, such as score: { start: 0 }').optional(),
  timers: mapOf(timerSchema, 'timers by name, such as daylight: { countdown: 60 }').optional(),
  pieces: mapOf(pieceSchema, 'pieces by name, such as blossom: { is: collectible }').optional(),
  levels: listOf(levelSchema, 'a list of levels').optional(),
  rules: listOf(ruleSchema, 'a list of rules').optional(),
  screens: mapOf(screenSchema, 'screens by name, such as title: { text: Press start }').optional(),
  transitions: listOf(transitionSchema, 'a list of transitions').optional(),
  hud: listOf(hudSchema, 'a list of HUD items').optional(),
  lists: mapOf(listSchema, 'lists by name, such as top: { of: score, when: dark.entered }').optional(),
  players: mapOf(playerSchema, 'players by name, such as regular: { skill: 0.4 }').optional(),
  tests: listOf(testSchema, 'a list of tests').optional(),
  targets: listOf(targetSchema, 'a list of targets').optional(),
});
