import { z } from 'zod';
import {
  anyNumber,
  bound,
  computedPeriod,
  condition,
  delay,
  interval,
  keepSchema,
  key,
  logits,
  mapOf,
  names,
  needed,
  number,
  period,
  text,
  truth,
  whole,
  word,
} from './values.js';

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

export const counterStart = z.union([anyNumber, z.string(), z.boolean()], {
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
    'Seconds it waits before it is missed, or leaves as `NAME.gone` where what it `needs` does not hold. Default: it waits until it is met. An expression is evaluated when the piece appears.',
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
    'Outcomes that remove it. Default: all of them, except that a checkpoint stays when it is reached, and a hazard on a course stays. What is sought and stays is used again by simulated players, save a checkpoint.',
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
