// The whole format in one place, section by section in the order of a file, as the JSON Schema and the reference page have it.

import { z } from 'zod';
import { longestDuration } from './language/duration.js';
import { mostLevels } from './language/level-name.js';
import { largestNumber } from './limits.js';
import { measureForm, measureNames } from './measures.js';
import { hudPlaces } from './model.js';

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

/** A key with what it means, and what holds where it is left out, for editors and the reference. */
const key = <Schema extends z.ZodType>(schema: Schema, description: string, fallback?: unknown) =>
  schema.optional().meta({ description, ...(fallback === undefined ? {} : { default: fallback }) });
/** The same for a key that must be there. */
const needed = <Schema extends z.ZodType>(schema: Schema, description: string) =>
  schema.meta({ description });

const seconds = number(0, longestDuration, ' seconds');
const period = number(0.001, longestDuration, ' seconds');
const computedSeconds = z.union([seconds, z.string()], {
  error: `a number of seconds from 0 to ${longestDuration}, or an expression such as 1 + level / 2`,
});
const computedPeriod = z.union([period, z.string()], {
  error: `a number of seconds from 0.001 to ${longestDuration}, or an expression such as 3 - level / 4`,
});
const interval = z.union([period, z.string(), z.tuple([computedSeconds, computedSeconds])], {
  error: `a number of seconds from 0.001 to ${longestDuration}, an expression such as 3 - level / 4, or two of them: [least, most]`,
});
const delay = z.union([seconds, z.string(), z.tuple([computedSeconds, computedSeconds])], {
  error: `a number of seconds from 0 to ${longestDuration}, an expression such as 3 - level / 4, or two of them: [least, most]`,
});
const anyNumberError = 'a number up to 2^53 either way';
const anyNumber = z
  .number({ error: anyNumberError })
  .min(-largestNumber, { error: anyNumberError })
  .max(largestNumber, { error: anyNumberError });
const logits = z.union([number(-20, 20, ' (logits)'), z.string()], {
  error: 'a number from -20 to 20 (logits), or an expression such as -1 + 0.2 * level',
});
const amount = z.union([anyNumber, z.string(), z.boolean()], {
  error: 'a number up to 2^53, true or false, or an expression such as petal * streak',
});
const condition = z.union([z.string(), z.boolean()], { error: 'a condition such as lives == 0' });
const namesError = 'one name or a list of names';
const bound = z.union([anyNumber, z.string()], {
  error: 'a number up to 2^53 either way, or an expression such as 3 + hearts',
});
const names = z.union([z.string(), z.array(z.string()).min(1, { error: `${namesError}, at least one` })], {
  error: namesError,
});
const amounts = mapOf(amount, 'counters with their amounts, such as { score: 10 }');

const keepSchema = word(['life', 'level', 'run', 'session', 'forever']);
const roleSchema = word(['collectible', 'hazard', 'foe', 'checkpoint', 'exit', 'prop']);
export const meetingSchema = word(['sought', 'arrives', 'never']);

export const dialSchema = z.strictObject({
  value: needed(anyNumber, 'What expressions read.'),
  from: key(anyNumber, 'The least that tuning may set it to; its value where nothing else is said.'),
  to: key(anyNumber, 'The most that tuning may set it to; its value where nothing else is said.'),
  step: key(
    z.number({ error: 'a number above 0' }).positive({ error: 'a number above 0' }),
    'Tuning sets it to its `from`, and to so much more each time: `step: 0.5`. Its value need not be one of these.',
  ),
});

const counterStart = z.union([anyNumber, z.string(), z.boolean()], {
  error: 'a number up to 2^53, true or false, one of the words, or an expression of dials and counters',
});
export const counterSchema = z.strictObject({
  start: key(
    counterStart,
    'What it holds after every fresh start. `true` or `false` makes it a flag; an expression may read dials and the counters above it. A counter of words starts with the first of them.',
    0,
  ),
  min: key(
    bound,
    'What is written below it is held at it, and told as such. A payment never goes below it, nor below 0 where there is none.',
  ),
  max: key(
    bound,
    'What is written above it is held at it, and told as such. Icons and bars need it. An expression, such as `hearts`, may read the counters above this one, and holds when the counter is written.',
  ),
  places: key(whole(0, 6), 'Decimals that it keeps; all else is rounded half up.', 0),
  words: key(
    z
      .array(z.string(), { error: 'a list of words, such as [worker, drone]' })
      .min(1, { error: 'at least one word' })
      .max(64, { error: 'at most 64 words' }),
    'The words that it can hold, one at a time. Expressions compare it with them: `bee == drone`.',
  ),
  keep: key(keepSchema, 'A fresh start of this span, or a longer one, puts it back to its start.', 'run'),
});

export const timerSchema = z.strictObject({
  countdown: key(computedPeriod, 'Fires `NAME.ended` once, so many seconds after it was started.'),
  every: key(interval, 'Fires `NAME.ticked` again and again. Two numbers are a random interval on the grid.'),
  after: key(interval, 'As `countdown`, where a random interval is allowed.'),
  warn: key(
    z.union([period, z.array(period).min(1, { error: 'at least one' }).max(20, { error: 'at most 20' })], {
      error: 'seconds left, or a list of them, such as [10, 3]',
    }),
    'Seconds left at which a countdown fires `NAME.warned`; less than the countdown.',
  ),
  screens: key(
    names,
    'The screens on which it runs; on all others it stands still. The live ones unless it is given.',
  ),
  keep: key(keepSchema, 'A fresh start of this span, or a longer one, starts it anew.', 'level'),
});

export const pieceSchema = z.strictObject({
  is: key(
    roleSchema,
    'Its role, which gives its outcomes: a collectible is `taken` or `missed`, a hazard `avoided` or `hit`, a foe `beaten` or `hit`, a checkpoint or an exit `reached` or `missed`, a prop `passed` or `missed`. Needed, unless the piece is `like` another.',
  ),
  like: key(
    text('the name of another piece'),
    'Copies the keys and groups of another piece, but for those written here.',
  ),
  in: key(
    z.union([z.string(), z.array(z.string())], {
      error: 'one group or a list of groups, which may be empty',
    }),
    'Groups that it belongs to, beside those of the piece that it is like; an empty list leaves these. A rule on `flower.taken` hears every piece in `flower`, and one on `collectible.taken` every collectible.',
  ),
  difficulty: key(
    logits,
    'How hard meeting it is: a simulated player succeeds with the chance logistic(skill - difficulty). An expression, such as `-1 + 0.2 * level`, is worked out each time.',
    0,
  ),
  meets: key(
    meetingSchema,
    'How a simulated player meets it: it `arrives` by itself, is `sought`, or neither. Hazards and foes arrive, props do neither, all others are sought.',
  ),
  takes: key(
    computedPeriod,
    'Seconds that one attempt takes a player of pace 1, or the way to it on a course.',
    1,
  ),
  lasts: key(
    computedPeriod,
    'Seconds that it waits to be met before it is missed; without it, until it is met. An expression is worked out when it appears.',
  ),
  lead: key(delay, 'Seconds from its appearance to its arrival, for a piece that arrives.', 2),
  returns: key(
    interval,
    'For a piece that arrives and is not taken away by how that ends: seconds until it arrives again, such as a fire that burns on, or a ditch that is passed again and again. What grace turns away comes again as well.',
  ),
  again: key(truth, 'Whether a failed attempt is no outcome at all, so that the player tries again.', false),
  health: key(
    z.union([whole(1, 10_000), z.string()], {
      error: 'a whole number from 1 to 10000, or an expression such as 2 + level',
    }),
    'Strikes that it takes, counted for the one that was struck last: each is an event `NAME.struck`, and the last is followed by its success, such as `NAME.beaten`, which takes it away. `health.NAME` is what it has left. One that arrives comes again a second after a strike, unless `returns` says otherwise.',
  ),
  hits: key(
    whole(1, 100),
    'Successes that it takes a simulated player: one after another, or all at once for a piece that arrives.',
    1,
  ),
  ends: key(
    z.union([z.string(), z.array(z.string())], {
      error: 'one outcome or a list of outcomes, which may be empty',
    }),
    'Outcomes that take it away. All of them unless it is given; but a checkpoint stays where it is reached, and a hazard on a course stays.',
  ),
  by: key(
    text('an event such as shot.fired or input.fire'),
    'The event by which alone simulated players come to its success: each time it happens, they try for the one there longest, with the chance that skill and difficulty give. What fails is no outcome, and nobody seeks it otherwise: it arrives, or waits, until it comes to its failure.',
  ),
  success: key(
    text('the name of an outcome'),
    'Of its own outcomes, the one that the player tries for: with a `difficulty`, skill decides whether it comes to that, and the others share the rest by weight. The outcome of its role, where it has that, unless it is given.',
  ),
  outcomes: key(
    mapOf(
      z.union([number(0, 1_000_000), z.string()], {
        error: 'a weight from 0, or an expression such as 1 + level',
      }),
      'outcomes with their weights, such as { above: 1, beside: 2 }',
    ),
    "Outcomes of its own in the place of its role's two, each with its weight for simulated players. The last is what becomes of it when nobody comes.",
  ),
  data: key(
    mapOf(
      z.union([z.number(), z.string(), z.boolean()], { error: 'a number, a text, or true or false' }),
      'names with numbers, texts or truth values, such as { sprite: bee, speed: 2 }',
    ),
    'What the game wants to know of it, such as a picture or a speed. It is handed over as it is and means nothing here.',
  ),
  needs: key(
    condition,
    'A condition without which nothing can happen to it, such as an exit that opens when `left.key == 0`.',
  ),
});

/** Pieces with how many of each. */
const counts = mapOf(
  z.union([whole(0, 1000), z.string()], {
    error: 'a whole number from 0 to 1000, or an expression such as 1 + level',
  }),
  'pieces with how many, such as { blossom: 12 }',
);

const spawnCount = z.union([whole(1, 10_000), z.string()], {
  error: 'a whole number from 1 to 10000, or an expression such as 2 + level',
});
export const spawnSchema = z.strictObject({
  piece: needed(text('the name of a piece'), 'What appears.'),
  every: needed(
    interval,
    'Seconds of live time from one to the next. Two numbers are a random interval on the grid; an expression is worked out each time.',
  ),
  first: key(
    z.union([seconds, z.string()], {
      error: `a number of seconds from 0 to ${longestDuration}, or an expression such as 3 - level / 4`,
    }),
    'Seconds of live time until the first; one interval unless it is given.',
  ),
  atOnce: key(spawnCount, 'While so many are present, none appears.'),
  total: key(
    spawnCount,
    'So many appear in one level and no more. An expression is worked out each time one is due.',
  ),
});

const levelValue = z.union([anyNumber, z.string()], {
  error: 'a number, or an expression of level such as 10 + 2 * level',
});

export const levelSchema = z.strictObject({
  name: key(text('a text'), 'Shown as `{level.name}`; `Level 1` and so on unless it is given.'),
  count: key(
    whole(1, mostLevels),
    'So many levels, one after the other. `{level}` in their name is the number of each, and formulas read it as `level`. Without it, as many as a list of values has, or one.',
  ),
  like: key(text('the name of another level'), 'A level above this one, whose keys it has but for its own.'),
  endless: key(
    truth,
    'Whether the last level goes on without end: its number grows, and its formulas with it.',
    false,
  ),
  values: key(
    mapOf(
      z.union([levelValue, z.array(levelValue).min(1, { error: 'at least one value' })], {
        error:
          'a number, an expression of level such as 10 + 2 * level, or a list of them, one for each level',
      }),
      'names with numbers, such as { quota: 10 }',
    ),
    'What expressions read as `level.NAME`: numbers, or formulas of `level` and dials; for several levels a list, one for each. Every level must give each.',
  ),
  place: key(
    counts,
    'Pieces that stand there at the start, in the order of the file. An expression, such as `4 + level`, is worked out when the level begins.',
  ),
  spawn: key(
    listOf(spawnSchema, 'a list of spawns, such as [{ piece: blossom, every: 1 }]'),
    'What appears while it is played.',
  ),
  course: key(
    listOf(
      text('a piece, or several such as 3 x wasp'),
      'a list of pieces in the order in which they are met, such as [blossom, 2 x wasp, hive]',
    ),
    'Pieces that are met in this order. What is reported of a piece is meant for the next of its kind ahead; all before it is then behind. A fresh start of a life goes back to the last checkpoint that was reached, or to the start. `course` tells how many are behind.',
  ),
});

/** The same, or which of them are meant. */
const someOf = mapOf(
  z.union([whole(0, 1000), z.string()], {
    error: 'met, oldest, all, a whole number from 0 to 1000, or an expression such as 1 + level',
  }),
  'pieces with how many, such as { crow: 1 }',
);
const whichOnes =
  '`met`, the one that the event of the rule tells of; `oldest`, the one there longest; `all`; or a number: the one met last, then those there longest.';

export const effectSchema = z.strictObject({
  add: key(
    amounts,
    'Adds to counters; to a timer that runs, seconds. Every amount is worked out before any counter is written.',
  ),
  set: key(amounts, 'Sets counters; a timer to so many seconds from now.'),
  spawn: key(
    z.union([z.string(), counts], {
      error: 'a piece, or pieces with how many, such as { blossom: 3 }',
    }),
    'Makes pieces appear.',
  ),
  clear: key(
    z.union([names, someOf], { error: 'pieces or groups, or pieces with how many, such as { crow: 1 }' }),
    `Takes away all that is present of these pieces or groups; or some of a piece: ${whichOnes}`,
  ),
  become: key(
    mapOf(
      z.union([z.string(), someOf], {
        error: 'a piece, or a piece with how many, such as { litLantern: 1 }',
      }),
      'pieces with what they become, such as { wasp: sleepyWasp }, or how many do: { lantern: { litLantern: 1 } }',
    ),
    `Turns all that is present of one piece into another; or some: ${whichOnes}`,
  ),
  pay: key(
    amounts,
    'Takes from counters. It stands first in its list: where one cannot afford its amount, nothing of the list happens.',
  ),
  start: key(names, 'Starts timers anew.'),
  stop: key(names, 'Stops timers.'),
  emit: key(
    text('an event of your own, such as comb.full'),
    'Fires an event of your own, handled after this one is handled to its end.',
  ),
  popup: key(
    text('a text such as "+{petal * streak}"'),
    'A text that rises where it happened, its values filled in at that moment.',
  ),
  grace: key(
    computedSeconds,
    'Seconds of live time in which every `hit` is turned away. A later grace takes the place of one that still runs, if it is shorter too.',
  ),
  cue: key(text('the name of a sound or effect'), 'Handed to the game, which plays it.'),
});
const effects = listOf(effectSchema, 'a list of effects, such as [{ add: { score: 10 } }]');

export const ruleSchema = z.strictObject({
  name: key(text('a text'), 'What reports call it; no two rules share one.'),
  when: key(
    names,
    'Events that it hears, any of them. Without it the rule fires when its `if` becomes true.',
  ),
  if: key(condition, 'A condition that must hold as well.'),
  screens: key(names, 'The screens on which it holds; the live ones unless it is given.'),
  rest: key(
    computedPeriod,
    'Seconds of live time in which it stays silent after it fired. An expression is worked out when it fires, before its effects.',
  ),
  chance: key(number(0, 1), 'Asked each time all else holds.', 1),
  once: key(keepSchema, 'It fires at most once until a fresh start of this span or a longer one.'),
  passes: key(
    mapOf(anyNumber, 'one counter with a step, such as { score: 1000 }'),
    'In the place of `when` and `if`: it fires once for each multiple of the step that the counter passes.',
  ),
  do: needed(effects, 'Its effects, in order, each seeing what those before it did.'),
});

export const screenSchema = z.strictObject({
  live: key(
    truth,
    'Whether timers, spawns, meetings, rests and grace run here. On other screens they stand still.',
    false,
  ),
  ending: key(word(['won', 'lost', 'over']), 'That a run ends here, and how.'),
  text: key(text('a text'), 'What is shown, with values in it: `{score}`, `{level.name}`, `{nectar * 2}`.'),
});

export const transitionSchema = z.strictObject({
  from: needed(names, 'The screen that it leaves, or a list of them.'),
  to: needed(
    text('the name of a screen'),
    'The screen that it leads to; `back` returns to where this one was entered from, as if nothing had happened.',
  ),
  when: key(names, 'Events that set it off, any of them.'),
  if: key(condition, 'A condition that must hold as well. Without a `when` it goes as soon as it holds.'),
  wait: key(
    computedSeconds,
    'Not before so many seconds on this screen. Alone, it goes then. An expression may read dials and what belongs to the level.',
  ),
  fresh: key(
    keepSchema,
    'Puts back what is kept for this span or a shorter one. `run` also goes to the first level.',
  ),
  level: key(
    z.union([word(['next', 'first']), whole(1, 10_000)], { error: 'next, first or the number of a level' }),
    'The level that it leads to, which begins anew.',
  ),
  grace: key(computedSeconds, 'Seconds of live time after it in which every `hit` is turned away.'),
  do: key(effects, 'Effects on the way, seeing the old values.'),
});

export const hudSchema = z.strictObject({
  show: key(
    text('the name of a counter or a timer'),
    'The counter or timer that it shows. It, or `text`, must be there.',
  ),
  label: key(text('a text'), 'A word beside it; the name of what it shows unless it is given.'),
  as: key(
    word(['digits', 'number', 'icons', 'bar', 'clock', 'text']),
    '`digits` with leading zeros, a plain `number`, `icons` full and empty, a `bar`, a `clock` (m:ss), or a `text`. A counter is a number, a timer a clock, unless it is given.',
  ),
  width: key(whole(1, 16), 'Digits at the least, filled with zeros.', 1),
  text: key(text('a text such as "{score} points"'), 'A text with values in it, such as a prompt.'),
  if: key(condition, 'It is shown only while this holds.'),
  tenths: key(truth, 'Whether a clock shows tenths of a second.', false),
  input: key(
    text('an input such as input.start'),
    'For a text that is a prompt: the input it offers. A game may draw it as a button that sends it.',
  ),
  at: key(word(hudPlaces), 'The corner or edge where it stands, or the middle.', 'top-left'),
  screens: key(names, 'The screens on which it is shown; the live ones unless it is given.'),
});

export const listSchema = z.strictObject({
  of: needed(text('the name of a counter'), 'The counter whose values it holds.'),
  when: needed(names, 'Events at which the value is entered, such as `dark.entered`.'),
  length: key(whole(1, 100), 'How many of the best values it keeps.', 10),
});

export const actSchema = z.strictObject({
  every: needed(period, 'Seconds of live time from one press to the next, for a player of pace 1.'),
  if: key(condition, 'A condition that must hold for a press.'),
  takes: key(seconds, 'Seconds by which a press puts off what the player attends to.', 0),
});

export const cautionSchema = z.strictObject(
  {
    if: needed(condition, 'The player is careful while this holds, such as lives == 1.'),
    pace: key(number(0.1, 10), 'A factor on its pace meanwhile: 1.4 takes longer, 0.8 hurries.', 1),
    skill: key(number(-20, 20, ' (logits)'), 'What is added to its skill meanwhile.', 0),
  },
  { error: 'keys such as { if: lives == 1, pace: 1.4, skill: 0.5 }' },
);

export const playerSchema = z.strictObject({
  skill: key(
    z.union([number(-20, 20, ' (logits)'), z.string()], {
      error: 'a number from -20 to 20 (logits), or an expression of dials such as talent - 1',
    }),
    'Against the difficulty of pieces: a success has the chance logistic(skill - difficulty) (Rasch 1960). An expression may read dials.',
    0,
  ),
  pace: key(number(0.01, 100), 'A factor on the time that attempts take.', 1),
  runs: key(whole(1, 1000), 'Runs that it plays before it leaves.', 1),
  patience: key(period, 'Seconds until it leaves, whatever happens.', 600),
  learning: key(
    number(0, 10, ' (logits)'),
    'What practice adds: in its run r, its skill is higher by this times ln r, so that the odds of a success grow as a power of practice (Newell and Rosenbloom 1981).',
    0,
  ),
  paceLearning: key(
    number(0, 2),
    'How much faster practice makes it: in its run r, its pace is divided by r to the power of this, the power law of practice (Newell and Rosenbloom 1981).',
    0,
  ),
  practice: key(
    number(0, 10, ' (logits)'),
    'What practice within a run adds: after n attempts in the run, its skill is higher by this times ln (1 + n), up to the 1,000th. The next run begins without it.',
    0,
  ),
  spread: key(
    number(0, 10, ' (logits)'),
    'How much people of this kind differ in skill: each session is played by somebody else, whose skill is drawn from a normal distribution of this standard deviation around `skill`.',
    0,
  ),
  paceSpread: key(
    number(0, 2),
    'How much people of this kind differ in pace: the pace of whoever plays a session is drawn from a lognormal distribution around `pace`, with this standard deviation of its logarithm (van der Linden 2006).',
    0,
  ),
  caution: key(
    cautionSchema,
    'When it plays with care, and what that changes, such as { if: lives == 1, pace: 1.4, skill: 0.5 }: slower and surer (Wickelgren 1977).',
  ),
  quits: key(
    number(0, 1),
    'The chance that it leaves after a run that ended on a screen with `ending: lost`, though it has runs left.',
    0,
  ),
  timing: key(
    z.tuple([number(0.1, 10), number(0.1, 10)], {
      error: 'two factors from 0.1 to 10, the smaller first, such as [0.7, 1.5]',
    }),
    'How much attempts vary: each takes its usual time times a factor drawn evenly between these two, on the grid of the design. Without it all take the same.',
  ),
  thinks: key(period, 'Seconds that it looks at a screen that is not live before it sends an input.', 1),
  style: key(
    mapOf(number(0, 100), 'pieces or groups with weights, such as { royalJelly: 3, foxglove: 0 }'),
    'What it seeks first, the heaviest before others, and of these the one there longest; what weighs 0 it leaves alone. 1 unless it is given.',
  ),
  acts: key(
    mapOf(
      z.union([period, actSchema], {
        error: 'seconds from one press to the next, or keys such as { every: 0.5, if: present.gnat > 0 }',
      }),
      'inputs with seconds from one press to the next, such as { input.fire: 0.5 }',
    ),
    'What it presses on live screens, again and again: every so many seconds of live time, times its pace. A key with `if` is pressed only while that holds, and `takes` seconds put off what it is attending to.',
  ),
  inputs: key(
    mapOf(
      z.union([z.string(), mapOf(whole(0, 100), 'inputs with weights, such as { input.again: 3 }')], {
        error: 'an input such as input.again, or inputs with weights such as { input.again: 3 }',
      }),
      'screens with inputs, such as { dark: input.again }',
    ),
    'What it does on screens that are not live: one input, or inputs with how often each. Any that is heard, unless it is given.',
  ),
});

const plainValue = z.union([z.number(), z.string(), z.boolean()], {
  error: 'a number, true or false, or a word',
});
const scene = mapOf(plainValue, 'counters with their values, such as { score: 10 }');
const expectedValue = z.union(
  [
    plainValue,
    z.array(z.string()),
    z.strictObject({ atLeast: z.number().optional(), atMost: z.number().optional() }),
    mapOf(z.union([z.string(), z.number(), z.literal(false)], { error: 'a text, or false' }), 'HUD items'),
  ],
  { error: 'a value, a range such as { atLeast: 3 }, or what is shown' },
);
const expectation = mapOf(expectedValue, 'counters with their values, such as { score: 10 }');
const testStepSchema = z.union(
  [
    z.string(),
    z.strictObject({ expect: expectation }),
    z.strictObject({ wait: seconds, never: expectation }),
  ],
  {
    error:
      'an event such as blossom.taken, 3 x blossom.taken, wait 2, { expect: { score: 10 } }, or { wait: 30, never: { lives: 0 } }',
  },
);
export const testSchema = z.strictObject({
  name: needed(text('a text'), 'What it shows.'),
  given: key(scene, 'The scene: counters, `level` and `screen`. Without a screen, it is the first live one.'),
  seed: key(whole(0, largestNumber - 1), 'Fixes chance.', 1),
  spawns: key(truth, 'Whether spawns run.', false),
  do: key(
    listOf(testStepSchema, 'a list of events, such as [input.start, blossom.taken]'),
    'What happens, in order: events, `3 x` before one repeats it, `wasp.hit as w1` touches one piece, which counts once until `end w1`, `wait 2` lets seconds pass, `{ expect: ... }` looks in between, and `{ wait: 30, never: { lives: 0 } }` all the while.',
  ),
  expect: key(
    expectation,
    'What must then be so: counters, timers (seconds left), pieces and groups (how many are present), `screen`, `level`, `level.VALUE`, `course` (pieces behind), each with a value or a range such as `{ atLeast: 3 }`. And what the player sees and hears: `text` of the screen, `hud: { score: "0010", lives: "●●○" }` (`false`: not shown), `cues` and `popups` since the last `expect`, of which an empty list means none.',
  ),
  never: key(expectation, 'What must at no moment be so, all of it together.'),
});

export const statisticSchema = word(['mean', 'median', 'p10', 'p25', 'p75', 'p90']);
const measureSchema = word(measureNames);
export const targetSchema = z.strictObject({
  measure: needed(
    measureSchema,
    measureNames.map((name) => `\`${name}\`: ${measureForm(name).is}`).join('; '),
  ),
  of: key(text('the name of a player'), 'Of which player; of all unless it is given.'),
  over: key(text('the name of a player'), 'For `wins`: the player that is to score lower.'),
  stat: key(statisticSchema, 'Which statistic, where a measure differs from run to run.', 'median'),
  screen: key(text('the name of a screen'), 'For `reach` and `ending`.'),
  level: key(whole(1, 64), 'For `reach` and `fail`: the number of a level.'),
  rule: key(text('the name of a rule'), 'For `share`.'),
  counter: key(text('the name of a counter'), 'For `atBound`.'),
  bound: key(word(['min', 'max']), 'For `atBound`: which bound.', 'max'),
  from: key(anyNumber, 'Not less than this; `atLeast` is the same.'),
  to: key(anyNumber, 'Not more than this; `atMost` is the same.'),
  atLeast: key(anyNumber, 'Not less than this.'),
  atMost: key(anyNumber, 'Not more than this.'),
});

export const acceptSchema = z.strictObject({
  finding: needed(
    text('the code of a finding, such as no-loss'),
    'The code of the finding that is meant to be so.',
  ),
  about: key(text('a text'), 'A word of its message, where only some of them are meant.'),
  because: needed(text('a text'), 'Why.'),
});

/** The whole design file. Its sections are read entry by entry, so that one bad entry does not hide the next. */
export const designSchema = z.strictObject({
  jocus: key(z.literal(1, { error: '1, the version of the format' }), 'The version of the format.', 1),
  title: key(text('a text'), "Shown in reports; the file's name unless it is given."),
  score: key(
    text('the name of a counter'),
    'The counter that reports call the score; the one called `score` unless it is given.',
  ),
  lives: key(
    text('the name of a counter'),
    'The counter that reports call the lives; the one called `lives` unless it is given.',
  ),
  grid: key(number(0.001, 60, ' seconds'), 'Seconds on which random intervals fall.', 0.1),
  dials: key(
    mapOf(dialSchema, 'dials by name, such as petal: { value: 10 }'),
    'Named numbers that you turn while tuning.',
  ),
  counters: key(
    mapOf(
      z.union([counterStart, counterSchema], {
        error: 'keys such as { start: 3, max: 5 }, or a start alone',
      }),
      'counters by name, such as score: { start: 0 }',
    ),
    'Named values: score, lives, a flag, a word that was chosen. `lives: 3` is short for `lives: { start: 3 }`.',
  ),
  timers: key(
    mapOf(timerSchema, 'timers by name, such as daylight: { countdown: 60 }'),
    'Clocks that fire once, again and again, or count down. Each has one of `countdown`, `every` and `after`.',
  ),
  pieces: key(
    mapOf(pieceSchema, 'pieces by name, such as blossom: { is: collectible }'),
    'Everything that a player can meet.',
  ),
  levels: key(
    z.union([listOf(levelSchema, 'a list of levels'), levelSchema], {
      error: 'a list of levels, or one for all of them, such as { count: 10, values: { quota: 5 + level } }',
    }),
    'Levels in order, with what stands in them and what appears. Without any there is one, which is empty.',
  ),
  rules: key(listOf(ruleSchema, 'a list of rules'), 'On an event, if a condition holds, do effects.'),
  screens: key(
    mapOf(screenSchema, 'screens by name, such as title: { text: Press start }'),
    'The states of the flow; the first is where a session starts. Without any there is one live screen, `play`.',
  ),
  transitions: key(
    listOf(transitionSchema, 'a list of transitions'),
    'Ways from one screen to another. All of `when`, `if` and `wait` that one has must hold; it has at least one of them.',
  ),
  hud: key(
    listOf(hudSchema, 'a list of HUD items'),
    'What is shown while it is played. Each item is also told in words for those who listen.',
  ),
  lists: key(
    mapOf(listSchema, 'lists by name, such as top: { of: score, when: dark.entered }'),
    'The best values of a counter, kept between sessions by the storage that a game hands in.',
  ),
  players: key(
    mapOf(playerSchema, 'players by name, such as regular: { skill: 0.4 }'),
    'Simulated players. Without any there are three: a newcomer, a regular and a veteran.',
  ),
  tests: key(
    listOf(testSchema, 'a list of tests'),
    'Small scripted checks: touch it once, read the counter.',
  ),
  accept: key(
    listOf(acceptSchema, 'a list of accepted findings'),
    'Findings of `jocus check` that are meant to be so. One that accepts nothing any more is told.',
  ),
  targets: key(
    listOf(targetSchema, 'a list of targets'),
    'What you want to be true of the simulated sessions.',
  ),
});
