import { z } from 'zod';
import { hudPlaces } from '../model.js';
import { effects } from './rules.js';
import {
  computedSeconds,
  condition,
  keepSchema,
  key,
  names,
  needed,
  text,
  truth,
  whole,
  word,
} from './values.js';

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
