// What people write at a rule, an effect, a screen, a transition or an item of the HUD, though it is said of another thing, or in another word.

import { type Advice, looks, words } from './advice.js';

const unless = (): string => 'Write if with not, such as if: not (lives == 0).';

const prompts = (name: string): string =>
  `To lead on from it, write a transition, such as { from: ${name}, to: play, when: input.start }.`;

export const ruleAdvice: Advice = [
  [words('unless'), unless],
  [words('else otherwise elseif'), () => 'Write a second rule with the opposite condition.'],
  [words('cooldown pause'), () => 'Write rest, such as rest: 2.'],
  [
    words('every interval repeat period'),
    () => 'To fire again and again, write a timer, such as beat: { every: 2 }, and when: beat.ticked.',
  ],
  [
    words('after wait delay in'),
    () =>
      'To react later, start a timer, such as do: [{ start: pause }], and write a rule with when: pause.ended.',
  ],
  [words('priority order'), () => 'Rules apply in the order in which they are written.'],
  [words('limit max times only'), () => 'Write once, such as once: run.'],
  [words('level levels'), () => 'Write if, such as if: level == 2.'],
  [words('probability odds random'), () => 'Write chance, such as chance: 0.3.'],
  [words('id title label description'), () => 'Write name.'],
  [words('points value score reward'), () => 'Points are given in do: [{ add: { score: 10 } }].'],
  [
    words('to goto screen_to ending fresh next'),
    () => 'Rules do not change screens; transitions do, such as { from: play, to: over, if: lives == 0 }.',
  ],
  [words('requires needs'), () => 'Write if.'],
];

export const effectAdvice: Advice = [
  [
    words(
      'win gameOver game_over goto go to screen end restart next level nextLevel next_level transition show_screen',
    ),
    () => 'Rules do not change screens; transitions do, such as { from: play, to: over, if: lives == 0 }.',
  ],
  [
    words('wait delay after sleep'),
    () => 'Effects do not wait. Start a timer, such as start: pause, and write a rule for pause.ended.',
  ],
  [words('if when unless condition'), () => 'Put the condition next to do, in the rule: if: lives > 0.'],
  [words('multiply times double divide'), () => 'Use set, such as set: { score: score * 2 }.'],
];

export const screenAdvice: Advice = [
  [
    [...looks, ...words('music sound background width')],
    () => 'Looks and sound belong to the game, which is told of every change of screen.',
  ],
  [
    words('next goto to transitions transition buttons button input inputs keys key when on leads links'),
    prompts,
  ],
  [
    words('restart again retry replay'),
    (name) =>
      `To begin again, write a transition, such as { from: ${name}, to: play, when: input.again, fresh: run }.`,
  ],
  [words('win won victory'), () => 'Write ending: won.'],
  [words('lose lost gameOver game_over dead'), () => 'Write ending: lost.'],
  [words('end final finish'), () => 'Write ending, with won, lost or over.'],
  [words('play playing active running gameplay game'), () => 'Write live: true.'],
  [words('type kind'), () => 'Write live: true for a screen of play, or ending: lost for an end of a run.'],
  [
    words('start initial first begin entry_point'),
    () => 'The screen that is written first is where the game starts.',
  ],
  [
    words('pause paused overlay modal menu'),
    () =>
      'On a screen that is not live, time stands still. A transition with to: back returns from it to where it was opened.',
  ],
  [
    words('hud show'),
    (name) => `What is shown is written under hud, such as { show: score, screens: ${name} }.`,
  ],
  [
    words('rule rules do'),
    (name) => `Rules are written under rules; screens: ${name} limits one to this screen.`,
  ],
  [
    words('timer timers duration wait time seconds after timeout'),
    (name) => `To leave it after a time, write a transition, such as { from: ${name}, to: title, wait: 3 }.`,
  ],
  [
    words('enter onEnter on_enter entry exit onExit on_exit'),
    (name) =>
      `To react, write a rule, such as { when: ${name}.entered, screens: ${name}, do: [{ cue: chime }] }.`,
  ],
  [words('name id'), (name) => `Its name is its key, ${name}.`],
];

export const transitionAdvice: Advice = [
  [words('after delay seconds time timeout'), () => 'Write wait, such as wait: 3.'],
  [words('reset restart new clear_all'), () => 'Write fresh: run.'],
  [words('unless'), unless],
  [words('requires needs require'), () => 'Write if.'],
  [words('input key button press click tap'), () => 'Write when with an input, such as when: input.start.'],
  [
    words('name label title id description'),
    () => 'Transitions have no names; their screens tell them apart.',
  ],
  [words('priority order'), () => 'Transitions are tried in the order in which they are written.'],
  [
    [...looks, ...words('fade duration music sound')],
    () => 'Looks and sound belong to the game, which is told of every change of screen.',
  ],
  [
    words('keep keeps'),
    () => 'Say at each counter how long it is kept, such as keep: session; fresh: run resets the others.',
  ],
  [
    words('chance probability'),
    () => 'Write a rule with chance that sets a counter, and ask for it here with if.',
  ],
];

export const hudAdvice: Advice = [
  [words('digits pad padding zeros leading'), () => 'Write as: digits, width: 4.'],
  [words('prefix suffix unit'), () => 'Write a text in place of show, such as { text: "{score} points" }.'],
  [words('decimals precision'), () => 'Write places at the counter, such as score: { places: 1 }.'],
  [words('max total most maximum'), () => 'Icons and bars go up to the max of the counter.'],
  [words('name title caption'), () => 'Write label.'],
  [
    words('when visible hidden hide visibleIf only'),
    () => 'Write if, such as if: score > 0, or screens, such as screens: play.',
  ],
  [words('x y offset left top right bottom'), () => 'Write at, such as at: top-right.'],
  [words('bar clock'), (_, key) => `Write as: ${key}.`],
  [words('screen on'), () => 'Write screens.'],
  [looks, () => 'Looks belong to the game; the hud says what is shown, and where.'],
];

export const listAdvice: Advice = [
  [words('counter score show measure'), () => 'Write of.', 'of'],
  [words('count size max most top entries keep'), () => 'Write length, such as length: 5.'],
];
