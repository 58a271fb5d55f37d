import { z } from 'zod';
import { hudSchema, listSchema, screenSchema, transitionSchema } from './flow.js';
import { acceptSchema, targetSchema, testSchema } from './judging.js';
import { levelSchema } from './levels.js';
import { playerSchema } from './players.js';
import { ruleSchema } from './rules.js';
import { counterSchema, counterStart, dialSchema, pieceSchema, timerSchema } from './things.js';
import { key, listOf, mapOf, number, text } from './values.js';

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
    z.union(
      [listOf(levelSchema, 'a list of levels, such as [{ name: Meadow, place: { berry: 3 } }]'), levelSchema],
      {
        error:
          'a list of levels, or one for all of them, such as { count: 10, values: { quota: 5 + level } }',
      },
    ),
    'Levels in order, with the pieces in them. Default: one empty level.',
  ),
  rules: key(
    listOf(ruleSchema, 'a list of rules, such as [{ when: berry.taken, do: [{ add: { score: 10 } }] }]'),
    'What happens in the game: on an event, if a condition holds, apply effects.',
  ),
  screens: key(
    mapOf(screenSchema, 'screens by name, such as title: { text: Press start }'),
    'The screens of the game; a session starts on the first. Default: one live screen, `play`.',
  ),
  transitions: key(
    listOf(transitionSchema, 'a list of transitions, such as [{ from: title, to: play, when: input.start }]'),
    'How the game moves from screen to screen. Each transition has at least one of `when`, `if` and `wait`; all that it has must hold.',
  ),
  hud: key(
    listOf(hudSchema, 'a list of HUD items, such as [{ show: score }]'),
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
    listOf(
      testSchema,
      'a list of tests, such as [{ name: one berry, do: [berry.taken], expect: { score: 10 } }]',
    ),
    'Short scripts that check the rules: collect one, read the counter.',
  ),
  accept: key(
    listOf(
      acceptSchema,
      'a list of accepted findings, such as [{ finding: no-loss, because: it is meant for small children }]',
    ),
    'Findings of `jocus check` that you accept. One that no longer matches anything is reported.',
  ),
  targets: key(
    listOf(targetSchema, 'a list of targets, such as [{ measure: score, from: 100, to: 300 }]'),
    'What you want simulated sessions to show.',
  ),
});
