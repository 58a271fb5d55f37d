import { z } from 'zod';
import { largestNumber } from '../limits.js';
import { measureForm, measureNames } from '../measures.js';
import { anyNumber, key, listOf, mapOf, needed, seconds, text, truth, whole, word } from './values.js';

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
