// What people write at a counter, a timer, a piece or a level, though it is said of another thing, or in another word.

import { type Role, roles } from '../../model.js';
import { type Advice, looks, reactions, words } from './advice.js';

/** The events of a piece's success and failure, such as `wasp.hit`; of one whose role is none, those that most have. */
const successOf = (name: string, role: string | undefined): string =>
  `${name}.${isRole(role) ? roles[role].success : 'taken'}`;
const failureOf = (name: string, role: string | undefined): string =>
  `${name}.${isRole(role) ? roles[role].failure : 'hit'}`;
const isRole = (role: string | undefined): role is Role => Object.hasOwn(roles, role ?? '');

const moves = words('velocity x y position movement path direction');

export const designAdvice: Advice = [
  [words('name game'), () => 'Write title.'],
  [
    words('description author authors version date license meta notes note comment about id'),
    () => 'Write a comment, which begins with #.',
  ],
  [
    words('controls inputs input keys buttons'),
    () => 'Inputs need no list: write them where they are heard, such as when: input.start.',
  ],
  [
    words('sounds sound music assets images sprites graphics art theme fonts world map camera physics'),
    () =>
      'Looks, sound and the world belong to the game; a rule hands it a cue, such as do: [{ cue: chime }].',
  ],
  [
    words('settings config options constants parameters params tuning balance_values'),
    () => 'Write numbers that you want to tune under dials, such as petal: { value: 10, from: 5, to: 20 }.',
  ],
  [
    words('difficulty'),
    () => 'Write difficulty at each piece, such as wasp: { is: hazard, difficulty: 0.5 }.',
  ],
  [
    words('time clock timelimit timeLimit time_limit duration'),
    () => 'Write timers, such as dusk: { countdown: 60 }.',
  ],
  [
    words('goal win won winning winCondition win_condition victory objective'),
    () =>
      'Write a transition to a screen with ending: won, such as { from: play, to: won, if: score >= 100 }.',
  ],
  [
    words('lose lost losing loseCondition lose_condition gameOver game_over gameover'),
    () =>
      'Write a transition to a screen with ending: lost, such as { from: play, to: over, if: lives == 0 }.',
  ],
  [
    words('start startScreen start_screen initial initialScreen first begin'),
    () => 'The screen that is written first is where the game starts.',
  ],
  [
    words(
      'achievements bonuses bonus combos combo multiplier multipliers powerups power_ups upgrades inventory',
    ),
    () => 'Write a counter for it, and rules that change it.',
  ],
  [
    words('highscore highscores high_score high_scores leaderboard best hiscore'),
    () =>
      'For the best score write a counter with keep: forever; for a table of them, lists, such as top: { of: score, when: over.entered }.',
  ],
  [
    words('waves wave spawns spawn spawning spawners'),
    () => 'Write spawns in a level, such as levels: [{ spawn: [{ piece: wasp, every: 4 }] }].',
  ],
  [
    words('shop store'),
    () =>
      'Write a screen for it, and rules that pay, such as { when: input.buy, screens: shop, do: [{ pay: { score: 50 } }, { add: { lives: 1 } }] }.',
  ],
  [words('state flags'), () => 'Write counters.'],
  [words('stages stage rounds round maps'), () => 'Write levels.'],
  [
    words('groups group tags'),
    () => 'Write in at each piece, such as rose: { is: collectible, in: flower }.',
  ],
  [
    words('seed sessions runs repetitions'),
    () => 'That is said to the command, such as jocus simulate --sessions 1000 --seed 7.',
  ],
  [words('ending endings end'), () => 'Write ending at a screen, such as over: { ending: lost }.'],
  [words('tutorial pause menu intro credits help'), () => 'Write it as one of the screens.'],
  [words('outcomes'), () => 'Write outcomes at a piece.'],
  [words('checks check expect assert asserts spec specs'), () => 'Write tests.'],
];

export const pieceAdvice: Advice = [
  [
    words('value points score worth reward bonus'),
    (name, _, role) =>
      `Points are given by a rule, such as { when: ${successOf(name, role)}, do: [{ add: { score: 10 } }] }.`,
  ],
  [
    words('damage hurts cost penalty harm lives life'),
    (name, _, role) =>
      `Damage is done by a rule, such as { when: ${failureOf(name, role)}, do: [{ add: { lives: -1 } }] }.`,
  ],
  [
    [...looks, ...moves, ...words('speed sound shape width')],
    () =>
      'Looks, sound and movement belong to the game. To hand the game a value, use data, such as data: { speed: 3 }.',
  ],
  [
    words('count amount number total many quantity level levels unique'),
    (name) => `Say how many in a level, such as place: { ${name}: 6 }.`,
  ],
  [
    words('every interval spawn spawns appears rate respawn respawns frequency'),
    (name) => `Say when it appears in a level, such as spawn: [{ piece: ${name}, every: 4 }].`,
  ],
  [
    words('max limit atOnce at_once first delay start'),
    (name) =>
      `Say it where the piece appears, in a level, such as spawn: [{ piece: ${name}, every: 4, first: 2, atOnce: 3 }].`,
  ],
  [
    words('chance probability weight odds rarity rare'),
    (name) =>
      `Say how often it appears in a level, such as spawn: [{ piece: ${name}, every: [2, 8] }], and how often a player succeeds with difficulty.`,
  ],
  [
    words('arrives arriving approaches comes moving seeks'),
    () => 'Write meets: arrives, or meets: sought where the player goes to it.',
  ],
  [words('sought'), () => 'Write meets: sought.'],
  [
    words('timeout lifetime duration expires expire despawn ttl stays seconds time vanishes'),
    () => 'Write lasts, such as lasts: 3.',
  ],
  [words('hp hitpoints hit_points strength boss'), () => 'Write health, such as health: 5.'],
  [words('skill hard hardness easy'), () => 'Write difficulty, such as difficulty: 0.5.'],
  [words('tag tags group groups category class'), () => 'Write in, such as in: flower.'],
  [
    words('cooldown rest pause'),
    () => 'Write returns where it is to arrive again, or rest in the rule that hears it.',
  ],
  [
    words('requires require required condition if only opens unlocks locked unless'),
    () => 'Write needs, such as needs: score >= 100.',
  ],
  [words('name label title id'), (name) => `Its name is its key, ${name}.`],
  [
    words('screen screens'),
    () => 'Pieces are met on the live screens; a level says which of them there are.',
  ],
  [
    [...reactions, ...words('when on onTaken onHit on_taken on_hit add set')],
    (name, _, role) =>
      `To react to it, write a rule, such as { when: ${successOf(name, role)}, do: [{ add: { score: 10 } }] }.`,
  ],
];

export const counterAdvice: Advice = [
  [
    words('goal target win quota needed'),
    (name) => `Put the goal in a transition, such as { from: play, to: won, if: ${name} >= 10 }.`,
  ],
  [
    [...reactions, ...words('lose gameOver game_over onZero on_zero')],
    (name) =>
      `To react to its value, write a transition, such as { from: play, to: over, if: ${name} == 0 }, or a rule.`,
  ],
  [
    [...looks, ...words('label title show display icon as at')],
    (name) => `To show it, add it to the hud, such as { show: ${name}, label: Points }.`,
  ],
  [
    words('unit format prefix suffix'),
    (name) => `To show it with words, add a text to the hud, such as { text: "{${name}} points" }.`,
  ],
  [words('digits padding'), (name) => `Write it in the hud: { show: ${name}, as: digits, width: 4 }.`],
  [
    words('type'),
    () => 'A number needs no type; write start: false for a flag, or words: [worker, drone] for words.',
  ],
  [words('from'), () => 'Write min.'],
  [words('to'), () => 'Write max.'],
  [words('range bounds'), () => 'Write min and max, such as { min: 0, max: 10 }.'],
  [
    words('reset resets resetOn reset_on per each'),
    () => 'Write keep, with how long it lasts: life, level, run, session or forever.',
  ],
  [words('save saved persistent permanent global'), () => 'Write keep: forever.'],
  [words('decimals precision step round rounding float'), () => 'Write places, such as places: 1.'],
  [
    words('increment decrement increase decrease add subtract gain points by'),
    (name) => `To change it, write a rule, such as { when: berry.taken, do: [{ add: { ${name}: 10 } }] }.`,
  ],
  [
    words('formula equals expression computed calculation of is'),
    (name) =>
      `A counter holds what rules write. To show a result, add a text to the hud, such as { text: "{${name} * 2}" }.`,
  ],
  [words('name id'), (name) => `Its name is its key, ${name}.`],
  [words('description comment note'), () => 'Write a comment, which begins with #.'],
];

export const timerAdvice: Advice = [
  [
    [...reactions, ...words('lose win goto to')],
    (name) =>
      `To react when it ends, write a transition, such as { from: play, to: over, when: ${name}.ended }, or a rule.`,
  ],
  [
    [...looks, ...words('label show display icon as at')],
    (name) => `To show it, add it to the hud, such as { show: ${name}, as: clock }.`,
  ],
  [
    words('restart reset resets start startOn start_on starts begins begin running active autostart when on'),
    (name) =>
      `It runs from the start, and a rule starts it again, such as { when: berry.taken, do: [{ start: ${name} }] }. Where its end should count only after that, let the rule set a flag as well, and ask for the flag.`,
  ],
  [
    words('stop stops stopOn pause paused pauses'),
    (name) => `A rule stops it, such as { when: berry.taken, do: [{ stop: ${name} }] }.`,
  ],
  [
    words('add bonus extend'),
    (name) => `A rule adds seconds, such as { when: berry.taken, do: [{ add: { ${name}: 5 } }] }.`,
  ],
  [words('limit max'), () => 'Write countdown.'],
  [words('loop loops repeats'), () => 'Write every.'],
  [
    words('counts direction up down mode'),
    (name) =>
      `countdown runs down to 0 and fires ${name}.ended once; every fires ${name}.ticked again and again.`,
  ],
  [words('unit units'), () => 'Times are in seconds.'],
  [words('warning alarm'), () => 'Write warn.'],
  [words('name id'), (name) => `Its name is its key, ${name}.`],
];

export const levelAdvice: Advice = [
  [
    words('quota goal target time duration speed difficulty lives score bonus limit seconds'),
    (_, key) =>
      `Put the numbers of a level under values, such as values: { ${key}: 10 }; rules read them as level.${key}.`,
  ],
  [
    words('start set counters'),
    () =>
      'To set counters when a level begins, write a rule, such as { when: play.entered, if: level == 2, do: [{ set: { lives: 3 } }] }.',
  ],
  [
    words('if when next to ends end'),
    () =>
      'A transition with level: next ends a level, such as { from: play, to: play, if: score >= 100, level: next }.',
  ],
  [
    words('timer timers countdown'),
    () =>
      'Timers are written under timers, such as dusk: { countdown: 30 }. Each level starts them again; countdown: level.seconds reads a value of the level.',
  ],
  [
    words('rule rules'),
    () => 'Rules are written under rules, and apply to all levels; if: level == 2 limits one to a level.',
  ],
  [
    words('screen screens'),
    () => 'Every level is played on the live screens; levels have none of their own.',
  ],
  [words('id title label'), () => 'Write name.'],
  [words('number index'), () => 'Levels are numbered in the order in which they are written.'],
  [
    words('description text intro message'),
    () => 'Texts are written at screens and may name the level, such as text: "{level.name}".',
  ],
  [
    words('spawnRate spawn_rate rate waves wave every'),
    () => 'Write spawn, such as spawn: [{ piece: wasp, every: 4 }].',
  ],
  [words('repeat repeats infinite'), () => 'Write endless: true.'],
  [
    [...looks, ...words('music background sound')],
    () => 'The looks and the sound of a level belong to the game.',
  ],
];

export const spawnAdvice: Advice = [
  [words('what is type kind of name item thing object enemy'), () => 'Write piece.', 'piece'],
  [words('interval rate seconds time period delay after'), () => 'Write every, such as every: 4.', 'every'],
  [words('start begins at from begin'), () => 'Write first, such as first: 2.'],
  [words('max limit most present alive'), () => 'Write atOnce, such as atOnce: 3.'],
  [words('count amount number times many'), () => 'Write total, such as total: 10.'],
  [
    words('chance probability random'),
    () => 'For a random interval, write two numbers, such as every: [2, 6].',
  ],
  [words('x y position where lane'), () => 'Where it appears is up to the game.'],
];

export const dialAdvice: Advice = [
  [words('default start initial current'), () => 'Write value.', 'value'],
  [words('min minimum least lowest'), () => 'Write from.'],
  [words('max maximum most highest'), () => 'Write to.'],
  [words('increment by'), () => 'Write step.'],
  [words('range between'), () => 'Write from and to, such as { value: 10, from: 5, to: 20 }.'],
];
