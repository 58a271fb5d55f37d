import { z } from 'zod';
import { counts } from './levels.js';
import {
  amounts,
  anyNumber,
  computedPeriod,
  computedSeconds,
  condition,
  keepSchema,
  key,
  listOf,
  mapOf,
  names,
  needed,
  number,
  text,
  whole,
} from './values.js';

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

export const effects = listOf(effectSchema, 'a list of effects, such as [{ add: { score: 10 } }]');

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
