import { hasNameForm } from '../design/language/names.js';
import { UsageError } from '../design/problems/problem.js';

/** When a game is over. */
export const endsWhen = ['time', 'lives', 'all'] as const;

/** What is asked before there is a design: what is taken, what hurts, and when it is over. */
export interface Answers {
  readonly take: string;
  /** Empty: nothing. */
  readonly hurts: string;
  readonly ends: (typeof endsWhen)[number];
}

const names = ['score', 'lives', 'clock', 'title', 'field', 'over', 'done', 'level', 'course'];

/**
 * A design that can be played at once, from three answers: a title, a field, an ending, a HUD, and tests that a restart puts everything
 * back.
 *
 * @throws UsageError where a name cannot be used, or nothing ever ends the game
 */
export function designFrom({ take, hurts, ends }: Answers): string {
  for (const name of hurts === '' ? [take] : [take, hurts]) {
    if (!hasNameForm(name))
      throw new UsageError(
        'bad-argument',
        `"${name}" is no name: write one word, a letter first, such as acorn.`,
      );
    if (names.includes(name))
      throw new UsageError('bad-argument', `The game has a ${name} already: choose another word.`);
  }
  if (take === hurts)
    throw new UsageError('bad-argument', `What is taken and what hurts cannot both be called ${take}.`);
  if (ends === 'lives' && hurts === '')
    throw new UsageError('bad-argument', 'Something must hurt, or the lives never run out: say what.');
  const hasLives = hurts !== '';
  const [isTimed, isCleared] = [ends === 'time', ends === 'all'];
  const hits = `3 x ${hurts}.hit`.replace(/^3 x (.*)$/, 'wait 1, $1, wait 1, $1, wait 1, $1');
  const isLost = hasLives || isTimed;
  const line = (isThere: boolean, text: string): string => (isThere ? `${text}\n` : '');
  const way = isLost ? 'over' : 'done';
  const toEnd = hasLives ? hits : isTimed ? 'wait 30' : `9 x ${take}.taken`;
  return `title: ${take.slice(0, 1).toUpperCase()}${take.slice(1)}

counters:
  score: { start: 0, min: 0, keep: run }
${line(hasLives, '  lives: { start: 3, min: 0, max: 3, keep: run }')}
${isTimed ? 'timers:\n  clock: { countdown: 30, keep: run }\n\n' : ''}pieces:
  ${take}: { is: collectible, takes: 1${isCleared ? '' : ', lasts: 4'} }
${line(hasLives, `  ${hurts}: { is: hazard, lead: [1, 2] }`)}
levels:
  - ${isCleared ? `place: { ${take}: 10 }` : `spawn:\n      - { piece: ${take}, every: [0.5, 1.5], atOnce: 5 }`}
${isCleared && hasLives ? '    spawn:\n' : ''}${line(hasLives, `      - { piece: ${hurts}, every: [3, 5], first: 3, atOnce: 3 }`)}
rules:
  - name: take
    when: ${take}.taken
    do: [{ add: { score: 10 } }, { cue: chime }]
${hasLives ? `  - name: hurt\n    when: ${hurts}.hit\n    do: [{ add: { lives: -1 } }, { grace: 1 }, { cue: ouch }]\n` : ''}
screens:
  title: { text: "Press start" }
  field: { live: true }
${line(isLost, '  over:  { ending: lost, text: "It is over. You scored {score}." }')}${line(isCleared, '  done:  { ending: won, text: "All taken. You scored {score}." }')}
transitions:
  - { from: title, to: field, when: input.start, fresh: run }
${line(hasLives, '  - { from: field, to: over, if: lives == 0 }')}${line(isTimed, '  - { from: field, to: over, when: clock.ended }')}${line(isCleared, `  - { from: field, to: done, if: left.${take} == 0 }`)}${line(isLost, '  - { from: over, to: field, when: input.again, fresh: run }')}${line(isCleared, '  - { from: done, to: field, when: input.again, fresh: run }')}
hud:
  - { show: score, label: Score, as: digits, width: 4, at: top-left }
${line(hasLives, '  - { show: lives, label: Lives, as: icons, at: top-right }')}${line(isTimed, '  - { show: clock, label: Time, as: clock, at: top }')}
tests:
  - name: one is worth ten
    do: [input.start, ${take}.taken]
    expect: { score: 10 }
  - name: starting again puts everything back
    do: [input.start, ${take}.taken, ${toEnd}, { expect: { screen: ${way} } }, input.again]
    expect: { screen: field, score: 0${hasLives ? ', lives: 3' : ''}${isTimed ? ', clock: 30' : ''} }
${isLost ? '' : '\naccept:\n  - { finding: no-loss, because: nothing can be lost in this game }\n'}`.replace(
    /\n{3,}/g,
    '\n\n',
  );
}
