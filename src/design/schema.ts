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
  value: needed(anyNumber, 'Its value, as expressions use it.'),
  from: key(anyNumber, 'The lowest value that tuning may try. Default: `value`.'),
  to: key(anyNumber, 'The highest value that tuning may try. Default: `value`.'),
  step: key(
    z.number({ error: 'a number above 0' }).positive({ error: 'a number above 0' }),
    'Tuning tries `from`, `from + step` and so on. `value` need not be one of these.',
  ),
});

const counterStart = z.union([anyNumber, z.string(), z.boolean()], {
  error: 'a number up to 2^53, true or false, one of the words, or an expression of dials and counters',
});
export const counterSchema = z.strictObject({
  start: key(
    counterStart,
    'Its value after every fresh start. `true` or `false` makes it a flag. An expression may use dials and the counters above it. A counter with `words` starts with the first word.',
    0,
  ),
  min: key(
    bound,
    'The lowest value. A lower result is set to it, and reports say how often. A payment never goes below it, or below 0 if there is no min.',
  ),
  max: key(
    bound,
    'The highest value. A higher result is set to it, and reports say how often. Icons and bars need it. An expression, such as `hearts`, may use the counters above this one; it is evaluated each time the counter changes.',
  ),
  places: key(whole(0, 6), 'Decimals to keep; the rest is rounded half up.', 0),
  words: key(
    z
      .array(z.string(), { error: 'a list of words, such as [worker, drone]' })
      .min(1, { error: 'at least one word' })
      .max(64, { error: 'at most 64 words' }),
    'The words it can hold, one at a time. Expressions compare it with them: `bee == drone`.',
  ),
  keep: key(
    keepSchema,
    'How long it is kept: a fresh start of this span or a longer one resets it to `start`.',
    'run',
  ),
});

export const timerSchema = z.strictObject({
  countdown: key(computedPeriod, 'Seconds until it fires `NAME.ended`, once.'),
  every: key(
    interval,
    'Seconds between `NAME.ticked`, repeatedly. Two numbers are a random interval on the grid.',
  ),
  after: key(interval, 'Like `countdown`, but two numbers make a random interval.'),
  warn: key(
    z.union([period, z.array(period).min(1, { error: 'at least one' }).max(20, { error: 'at most 20' })], {
      error: 'seconds left, or a list of them, such as [10, 3]',
    }),
    'Seconds left at which a countdown fires `NAME.warned`. Must be less than the countdown.',
  ),
  screens: key(names, 'The screens on which it runs; on others it stands still. Default: the live screens.'),
  keep: key(
    keepSchema,
    'How long it is kept: a fresh start of this span or a longer one restarts it.',
    'level',
  ),
});

export const pieceSchema = z.strictObject({
  is: key(
    roleSchema,
    'Its role, which decides its outcomes: a collectible is `taken` or `missed`, a hazard `avoided` or `hit`, a foe `beaten` or `hit`, a checkpoint or an exit `reached` or `missed`, a prop `passed` or `missed`. Required unless the piece is `like` another.',
  ),
  like: key(
    text('the name of another piece'),
    'Takes all keys and groups of another piece, except those written here.',
  ),
  in: key(
    z.union([z.string(), z.array(z.string())], {
      error: 'one group or a list of groups, which may be empty',
    }),
    'Groups it belongs to, in addition to those of the piece it is `like`; an empty list drops those. A rule on `flower.taken` hears every piece in `flower`, and one on `collectible.taken` hears every collectible.',
  ),
  difficulty: key(
    logits,
    'How hard it is: a simulated player succeeds with probability logistic(skill - difficulty). An expression, such as `-1 + 0.2 * level`, is evaluated for each attempt.',
    0,
  ),
  meets: key(
    meetingSchema,
    'How a simulated player meets it: it `arrives` by itself, is `sought` by the player, or is `never` met. Default: hazards and foes arrive, props are never met, all others are sought.',
  ),
  takes: key(
    computedPeriod,
    'Seconds that one attempt takes a player of pace 1; on a course, the time to reach it.',
    1,
  ),
  lasts: key(
    computedPeriod,
    'Seconds it waits before it is missed. Default: it waits until it is met. An expression is evaluated when the piece appears.',
  ),
  lead: key(delay, 'For a piece that arrives: seconds from its appearance to its arrival.', 2),
  returns: key(
    interval,
    'For a piece that arrives and stays afterwards: seconds until it arrives again, like a fire that keeps burning or a ditch on every lap. A hit blocked by grace also comes again.',
  ),
  again: key(truth, 'Whether a failed attempt has no outcome, so that the player tries again.', false),
  health: key(
    z.union([whole(1, 10_000), z.string()], {
      error: 'a whole number from 1 to 10000, or an expression such as 2 + level',
    }),
    'Strikes it takes before it is beaten. Each strike is an event `NAME.struck`; the last is followed by its success, such as `NAME.beaten`, which removes it. `health.NAME` is the health left of the piece struck last. A piece that arrives comes again one second after a strike, unless `returns` says otherwise.',
  ),
  hits: key(
    whole(1, 100),
    'Successes that a simulated player needs: one after another, or all at once for a piece that arrives.',
    1,
  ),
  ends: key(
    z.union([z.string(), z.array(z.string())], {
      error: 'one outcome or a list of outcomes, which may be empty',
    }),
    'Outcomes that remove it. Default: all of them, except that a checkpoint stays when it is reached, and a hazard on a course stays.',
  ),
  by: key(
    text('an event such as shot.fired or input.fire'),
    'The only event by which simulated players can succeed with it. Each time it happens, they try for the piece that has been there longest, with the probability that skill and difficulty give. A failed try has no outcome. Otherwise nobody seeks the piece: it arrives, or waits, until it ends in failure.',
  ),
  success: key(
    text('the name of an outcome'),
    'Of its own outcomes, the one the player tries for. With a `difficulty`, skill decides whether it happens, and the others share the rest by weight. Default: the success of its role, if it is among them.',
  ),
  outcomes: key(
    mapOf(
      z.union([number(0, 1_000_000), z.string()], {
        error: 'a weight from 0, or an expression such as 1 + level',
      }),
      'outcomes with their weights, such as { above: 1, beside: 2 }',
    ),
    "Its own outcomes instead of its role's two, each with its weight for simulated players. The last one happens when nobody meets it.",
  ),
  data: key(
    mapOf(
      z.union([z.number(), z.string(), z.boolean()], { error: 'a number, a text, or true or false' }),
      'names with numbers, texts or truth values, such as { sprite: bee, speed: 2 }',
    ),
    'Anything your game wants to know about it, such as a picture or a speed. Jocus passes it on unchanged.',
  ),
  needs: key(
    condition,
    'A condition that must hold before anything can happen to it, such as an exit that opens when `left.key == 0`.',
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
  piece: needed(text('the name of a piece'), 'The piece that appears.'),
  every: needed(
    interval,
    'Seconds of live time between two of them. Two numbers are a random interval on the grid. An expression is evaluated each time.',
  ),
  first: key(
    z.union([seconds, z.string()], {
      error: `a number of seconds from 0 to ${longestDuration}, or an expression such as 3 - level / 4`,
    }),
    'Seconds of live time until the first one. Default: one interval.',
  ),
  atOnce: key(spawnCount, 'No more appear while this many are present.'),
  total: key(
    spawnCount,
    'How many appear in one level at most. An expression is evaluated each time one is due.',
  ),
});

const levelValue = z.union([anyNumber, z.string()], {
  error: 'a number, or an expression of level such as 10 + 2 * level',
});

export const levelSchema = z.strictObject({
  name: key(text('a text'), 'Shown as `{level.name}`. Default: `Level 1` and so on.'),
  count: key(
    whole(1, mostLevels),
    'Makes this many levels. `{level}` in the name becomes the number of each; formulas use `level`. Default: as many as a list in `values` has items, or one.',
  ),
  like: key(
    text('the name of another level'),
    'Takes all keys of a level above this one, except those written here.',
  ),
  endless: key(
    truth,
    'Whether the last level repeats without end: its number keeps growing, and its formulas with it.',
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
    'Values that expressions use as `level.NAME`: numbers, or formulas of `level` and dials; for several levels, a list with one per level. Every level must have every value.',
  ),
  place: key(
    counts,
    'Pieces that are there when the level begins, in file order. An expression, such as `4 + level`, is evaluated at that moment.',
  ),
  spawn: key(
    listOf(spawnSchema, 'a list of spawns, such as [{ piece: blossom, every: 1 }]'),
    'Pieces that appear while the level is played.',
  ),
  course: key(
    listOf(
      text('a piece, or several such as 3 x wasp'),
      'a list of pieces in the order in which they are met, such as [blossom, 2 x wasp, hive]',
    ),
    'Pieces that are met in this order. An event is about the next piece of that name ahead; everything before it then counts as passed. A fresh start of a life returns to the last checkpoint reached, or to the start. `course` is how many are behind the player.',
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
  '`met`, the one the event is about; `oldest`, the one there longest; `all`; or a number: the one met last, then those there longest.';

export const effectSchema = z.strictObject({
  add: key(
    amounts,
    'Adds to counters, or seconds to a running timer. All amounts are evaluated before any counter changes.',
  ),
  set: key(amounts, 'Sets counters, or the seconds left on a timer.'),
  spawn: key(
    z.union([z.string(), counts], {
      error: 'a piece, or pieces with how many, such as { blossom: 3 }',
    }),
    'Makes pieces appear.',
  ),
  clear: key(
    z.union([names, someOf], { error: 'pieces or groups, or pieces with how many, such as { crow: 1 }' }),
    `Removes all of these pieces or groups; or some of a piece: ${whichOnes}`,
  ),
  become: key(
    mapOf(
      z.union([z.string(), someOf], {
        error: 'a piece, or a piece with how many, such as { litLantern: 1 }',
      }),
      'pieces with what they become, such as { wasp: sleepyWasp }, or how many do: { lantern: { litLantern: 1 } }',
    ),
    `Turns all of one piece into another; or some: ${whichOnes}`,
  ),
  pay: key(
    amounts,
    'Subtracts from counters. Must be first in its list: if any counter cannot afford its amount, nothing in the list happens.',
  ),
  start: key(names, 'Starts or restarts timers.'),
  stop: key(names, 'Stops timers.'),
  emit: key(
    text('an event of your own, such as comb.full'),
    'Fires an event of your own. It is handled once the present event is finished.',
  ),
  popup: key(
    text('a text such as "+{petal * streak}"'),
    'A text that rises where it happened, with its values at that moment.',
  ),
  grace: key(
    computedSeconds,
    'Seconds of live time during which every `hit` is blocked. A new grace replaces one that is still running, even if it is shorter.',
  ),
  cue: key(
    text('the name of a sound or effect'),
    'The name of a sound or effect; the game receives it and plays it.',
  ),
});
const effects = listOf(effectSchema, 'a list of effects, such as [{ add: { score: 10 } }]');

export const ruleSchema = z.strictObject({
  name: key(text('a text'), 'Its name in reports. Each rule needs a different one.'),
  when: key(
    names,
    'Events it listens for; any one is enough. Without `when`, the rule fires when its `if` becomes true.',
  ),
  if: key(condition, 'A condition that must also hold.'),
  screens: key(names, 'The screens on which it applies. Default: the live screens.'),
  rest: key(
    computedPeriod,
    'Seconds of live time after it fires during which it cannot fire again. An expression is evaluated when it fires, before its effects.',
  ),
  chance: key(number(0, 1), 'The probability that it fires, drawn each time everything else holds.', 1),
  once: key(keepSchema, 'Fires at most once until a fresh start of this span or a longer one.'),
  passes: key(
    mapOf(anyNumber, 'one counter with a step, such as { score: 1000 }'),
    'Instead of `when` and `if`: fires once for each multiple of the step that the counter passes.',
  ),
  do: needed(effects, 'Its effects, in order. Each sees what the ones before it changed.'),
});

export const screenSchema = z.strictObject({
  live: key(
    truth,
    'Whether timers, spawns, meetings, rests and grace run here. On other screens they stand still.',
    false,
  ),
  ending: key(word(['won', 'lost', 'over']), 'Says that a run ends here, and how.'),
  text: key(
    text('a text'),
    'The text on the screen. `{score}`, `{level.name}` or `{nectar * 2}` are replaced by their values.',
  ),
});

export const transitionSchema = z.strictObject({
  from: needed(names, 'The screen it leaves, or a list of them.'),
  to: needed(
    text('the name of a screen'),
    'The screen it goes to. `back` returns to the screen this one was opened from, as if nothing had happened.',
  ),
  when: key(names, 'Events that trigger it; any one is enough.'),
  if: key(
    condition,
    'A condition that must also hold. Without `when`, the transition is taken as soon as it holds.',
  ),
  wait: key(
    computedSeconds,
    'Seconds on this screen before it can be taken. With nothing else given, it is taken then. An expression may use dials and level values.',
  ),
  fresh: key(
    keepSchema,
    'Resets everything kept for this span or a shorter one. `run` also goes to the first level.',
  ),
  level: key(
    z.union([word(['next', 'first']), whole(1, 10_000)], { error: 'next, first or the number of a level' }),
    'The level it goes to, which starts from its beginning.',
  ),
  grace: key(computedSeconds, 'Seconds of live time afterwards during which every `hit` is blocked.'),
  do: key(effects, 'Effects of taking it. They see the values from before `fresh`.'),
});

export const hudSchema = z.strictObject({
  show: key(
    text('the name of a counter or a timer'),
    'The counter or timer to show. Either this or `text` is required.',
  ),
  label: key(text('a text'), 'A word beside it. Default: the name of what it shows.'),
  as: key(
    word(['digits', 'number', 'icons', 'bar', 'clock', 'text']),
    '`digits` with leading zeros, a plain `number`, `icons` full and empty, a `bar`, a `clock` (m:ss), or a `text`. Default: a number for a counter, a clock for a timer.',
  ),
  width: key(whole(1, 16), 'Minimum number of digits, padded with zeros.', 1),
  text: key(text('a text such as "{score} points"'), 'A text with values in it, such as a prompt.'),
  if: key(condition, 'Shown only while this holds.'),
  tenths: key(truth, 'Whether a clock shows tenths of a second.', false),
  input: key(
    text('an input such as input.start'),
    'For a prompt: the input it offers. A game may draw it as a button that sends the input.',
  ),
  at: key(word(hudPlaces), 'The corner or edge where it appears, or the middle.', 'top-left'),
  screens: key(names, 'The screens on which it is shown. Default: the live screens.'),
});

export const listSchema = z.strictObject({
  of: needed(text('the name of a counter'), 'The counter whose values it keeps.'),
  when: needed(names, 'Events at which the current value is added, such as `dark.entered`.'),
  length: key(whole(1, 100), 'How many of the best values to keep.', 10),
});

export const actSchema = z.strictObject({
  every: needed(period, 'Seconds of live time between presses, for a player of pace 1.'),
  if: key(condition, 'A condition that must hold for a press.'),
  takes: key(seconds, 'Seconds by which a press delays what the player is doing.', 0),
});

export const cautionSchema = z.strictObject(
  {
    if: needed(condition, 'The player is careful while this holds, such as lives == 1.'),
    pace: key(number(0.1, 10), 'A factor on `pace` while it is careful: 1.4 is slower, 0.8 is faster.', 1),
    skill: key(number(-20, 20, ' (logits)'), 'Added to `skill` while it is careful.', 0),
  },
  { error: 'keys such as { if: lives == 1, pace: 1.4, skill: 0.5 }' },
);

export const playerSchema = z.strictObject({
  skill: key(
    z.union([number(-20, 20, ' (logits)'), z.string()], {
      error: 'a number from -20 to 20 (logits), or an expression of dials such as talent - 1',
    }),
    'Compared with the difficulty of pieces: an attempt succeeds with probability logistic(skill - difficulty) (Rasch 1960). An expression may use dials.',
    0,
  ),
  pace: key(number(0.01, 100), 'A factor on how long attempts take: 2 is half as fast.', 1),
  runs: key(whole(1, 1000), 'Runs it plays before it leaves.', 1),
  patience: key(period, 'Seconds until it leaves, whatever happens.', 600),
  learning: key(
    number(0, 10, ' (logits)'),
    'Practice from run to run: in run r its skill is higher by this times ln r, so that the odds of success grow as a power of practice (Newell and Rosenbloom 1981).',
    0,
  ),
  paceLearning: key(
    number(0, 2),
    'How much faster practice makes it: in run r its pace is divided by r to this power, the power law of practice (Newell and Rosenbloom 1981).',
    0,
  ),
  practice: key(
    number(0, 10, ' (logits)'),
    'Practice within a run: after n attempts in the run, its skill is higher by this times ln(1 + n), up to the 1,000th attempt. The next run starts without it.',
    0,
  ),
  spread: key(
    number(0, 10, ' (logits)'),
    'How much people of this kind differ in skill: each session is played by a different person, whose skill is drawn from a normal distribution of this standard deviation around `skill`.',
    0,
  ),
  paceSpread: key(
    number(0, 2),
    'How much people of this kind differ in pace: for each session the pace is drawn from a lognormal distribution around `pace`; this is the standard deviation of its logarithm (van der Linden 2006).',
    0,
  ),
  caution: key(
    cautionSchema,
    'When it plays carefully, and what that changes: `{ if: lives == 1, pace: 1.4, skill: 0.5 }` is slower and surer (Wickelgren 1977).',
  ),
  quits: key(
    number(0, 1),
    'The probability that it leaves after a run that ended on a screen with `ending: lost`, even if it has runs left.',
    0,
  ),
  timing: key(
    z.tuple([number(0.1, 10), number(0.1, 10)], {
      error: 'two factors from 0.1 to 10, the smaller first, such as [0.7, 1.5]',
    }),
    'How much attempts vary: each takes its usual time multiplied by a factor drawn uniformly between these two, rounded to the grid. Default: no variation.',
  ),
  thinks: key(period, 'Seconds it looks at a screen that is not live before it sends an input.', 1),
  style: key(
    mapOf(number(0, 100), 'pieces or groups with weights, such as { royalJelly: 3, foxglove: 0 }'),
    'What it seeks first: the heaviest weight, and among equals the piece that has been there longest. It ignores pieces with weight 0. Default: 1 for every piece.',
  ),
  acts: key(
    mapOf(
      z.union([period, actSchema], {
        error: 'seconds from one press to the next, or keys such as { every: 0.5, if: present.gnat > 0 }',
      }),
      'inputs with seconds from one press to the next, such as { input.fire: 0.5 }',
    ),
    'Inputs it presses repeatedly on live screens: seconds of live time between presses, multiplied by its pace. With `if`, it presses only while that holds; `takes` delays what it is doing by as many seconds.',
  ),
  inputs: key(
    mapOf(
      z.union([z.string(), mapOf(whole(0, 100), 'inputs with weights, such as { input.again: 3 }')], {
        error: 'an input such as input.again, or inputs with weights such as { input.again: 3 }',
      }),
      'screens with inputs, such as { dark: input.again }',
    ),
    'What it does on screens that are not live: one input, or inputs with weights. Default: any input the screen listens for.',
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
  name: needed(text('a text'), 'What it shows, in words.'),
  given: key(scene, 'The scene: counters, `level` and `screen`. Default screen: the first live one.'),
  seed: key(whole(0, largestNumber - 1), 'The seed for everything random.', 1),
  spawns: key(truth, 'Whether spawns run.', false),
  do: key(
    listOf(testStepSchema, 'a list of events, such as [input.start, blossom.taken]'),
    'What happens, in order. An event; `3 x blossom.taken` repeats it; `wasp.hit as w1` is a contact that counts once until `end w1`; `wait 2` lets two seconds pass; `{ expect: ... }` checks in between; `{ wait: 30, never: { lives: 0 } }` checks all the while.',
  ),
  expect: key(
    expectation,
    'What must hold at the end: counters, timers (seconds left), pieces and groups (how many are present), `screen`, `level`, `level.VALUE`, `course` (pieces behind), each with a value or a range such as `{ atLeast: 3 }`. Also what the player sees and hears: the `text` of the screen, `hud: { score: "0010", lives: "●●○" }` (`false`: not shown), and the `cues` and `popups` since the last `expect` (an empty list: none).',
  ),
  never: key(expectation, 'What must never hold, all of it together, at any moment.'),
});

export const statisticSchema = word(['mean', 'median', 'p10', 'p25', 'p75', 'p90']);
const measureSchema = word(measureNames);
export const targetSchema = z.strictObject({
  measure: needed(
    measureSchema,
    measureNames.map((name) => `\`${name}\`: ${measureForm(name).is}`).join('; '),
  ),
  of: key(text('the name of a player'), 'Which player it is about. Default: all players.'),
  over: key(text('the name of a player'), 'For `wins`: the player who should score lower.'),
  stat: key(statisticSchema, 'Which statistic, for a measure that differs from run to run.', 'median'),
  screen: key(text('the name of a screen'), 'For `reach` and `ending`.'),
  level: key(whole(1, 64), 'For `reach` and `fail`: the number of a level.'),
  rule: key(text('the name of a rule'), 'For `share`.'),
  counter: key(text('the name of a counter'), 'For `atBound`.'),
  bound: key(word(['min', 'max']), 'For `atBound`: which bound.', 'max'),
  from: key(anyNumber, 'The lowest value allowed; same as `atLeast`.'),
  to: key(anyNumber, 'The highest value allowed; same as `atMost`.'),
  atLeast: key(anyNumber, 'The lowest value allowed.'),
  atMost: key(anyNumber, 'The highest value allowed.'),
});

export const acceptSchema = z.strictObject({
  finding: needed(text('the code of a finding, such as no-loss'), 'The code of the finding to accept.'),
  about: key(text('a text'), 'A word in its message, to accept only some findings of this code.'),
  because: needed(text('a text'), 'Why it is meant to be so.'),
});

/** The whole design file. Its sections are read entry by entry, so that one bad entry does not hide the next. */
export const designSchema = z.strictObject({
  jocus: key(z.literal(1, { error: '1, the version of the format' }), 'The version of the format.', 1),
  title: key(text('a text'), "Its name in reports. Default: the file's name."),
  score: key(
    text('the name of a counter'),
    'The counter that is the score. Default: the one called `score`.',
  ),
  lives: key(
    text('the name of a counter'),
    'The counter that is the lives. Default: the one called `lives`.',
  ),
  grid: key(number(0.001, 60, ' seconds'), 'Random intervals vary in steps of this, in seconds.', 0.1),
  dials: key(
    mapOf(dialSchema, 'dials by name, such as petal: { value: 10 }'),
    'Named numbers that you adjust while tuning.',
  ),
  counters: key(
    mapOf(
      z.union([counterStart, counterSchema], {
        error: 'keys such as { start: 3, max: 5 }, or a start alone',
      }),
      'counters by name, such as score: { start: 0 }',
    ),
    'Named values: score, lives, a flag, a chosen word. `lives: 3` is short for `lives: { start: 3 }`.',
  ),
  timers: key(
    mapOf(timerSchema, 'timers by name, such as daylight: { countdown: 60 }'),
    'Clocks that count down, fire repeatedly, or fire once after a while. Each has one of `countdown`, `every` and `after`.',
  ),
  pieces: key(
    mapOf(pieceSchema, 'pieces by name, such as blossom: { is: collectible }'),
    'Everything that a player can meet: things to collect, hazards, foes, exits.',
  ),
  levels: key(
    z.union([listOf(levelSchema, 'a list of levels'), levelSchema], {
      error: 'a list of levels, or one for all of them, such as { count: 10, values: { quota: 5 + level } }',
    }),
    'Levels in order, with the pieces in them. Default: one empty level.',
  ),
  rules: key(
    listOf(ruleSchema, 'a list of rules'),
    'What happens in the game: on an event, if a condition holds, apply effects.',
  ),
  screens: key(
    mapOf(screenSchema, 'screens by name, such as title: { text: Press start }'),
    'The screens of the game; a session starts on the first. Default: one live screen, `play`.',
  ),
  transitions: key(
    listOf(transitionSchema, 'a list of transitions'),
    'How the game moves from screen to screen. Each transition has at least one of `when`, `if` and `wait`; all that it has must hold.',
  ),
  hud: key(
    listOf(hudSchema, 'a list of HUD items'),
    'What the player sees during play. Each item also has a text for screen readers.',
  ),
  lists: key(
    mapOf(listSchema, 'lists by name, such as top: { of: score, when: dark.entered }'),
    'Best lists: the highest values of a counter, kept between sessions in the storage that the game provides.',
  ),
  players: key(
    mapOf(playerSchema, 'players by name, such as regular: { skill: 0.4 }'),
    'Simulated players. Default: a newcomer, a regular and a veteran.',
  ),
  tests: key(
    listOf(testSchema, 'a list of tests'),
    'Short scripts that check the rules: collect one, read the counter.',
  ),
  accept: key(
    listOf(acceptSchema, 'a list of accepted findings'),
    'Findings of `jocus check` that you accept. One that no longer matches anything is reported.',
  ),
  targets: key(listOf(targetSchema, 'a list of targets'), 'What you want simulated sessions to show.'),
});
