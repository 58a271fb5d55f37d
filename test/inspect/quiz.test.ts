import { describe, expect, test } from 'vitest';
import { changeDesign, check, readDesign } from '../../src/index.js';
import { mendOf } from '../../src/inspect/mend.js';
import { changed } from '../support/designs.js';

/** Ten questions on heath plants, twenty seconds for each, and three hints that make one easier and cheaper. */
const quiz = `title: Which plant is it
score: points
counters:
  points: { min: 0 }
  asked: { min: 0, max: 10 }
  right: { min: 0, max: 10 }
  streak: { min: 0, max: 10 }
  hints: { start: 3, min: 0, max: 3 }
  hinted: { min: 0, max: 1 }
  record: { keep: forever }
timers:
  thinking: { countdown: 20 }
pieces:
  question: { is: prop, meets: sought, takes: 6, outcomes: { right: 60, wrong: 40 }, success: right, difficulty: "hinted == 1 ? -1.5 : 0", ends: [] }
levels:
  - { place: { question: 1 } }
rules:
  - name: right
    when: question.right
    do:
      - add: { streak: 1, right: 1, asked: 1 }
      - add: { points: "(hinted == 1 ? 50 : 100) + floor(timer.thinking) * 5 + (streak >= 3 ? 50 : 0)" }
      - set: { hinted: 0 }
      - { start: thinking }
  - name: wrong
    when: question.wrong
    do: [{ set: { streak: 0, hinted: 0 } }, { add: { asked: 1 } }, { start: thinking }]
  - name: too slow
    when: thinking.ended
    do: [{ set: { streak: 0, hinted: 0 } }, { add: { asked: 1 } }, { start: thinking }]
  - name: hint
    when: input.hint
    if: hints > 0 and hinted == 0
    do: [{ add: { hints: -1, hinted: 1 } }, { cue: rustle }]
screens:
  title: { text: "Best so far: {record}" }
  quiz: { live: true }
  good: { ending: won, text: "{right} of 10, {points} points." }
  bad: { ending: lost, text: "Only {right} of 10. Look again." }
transitions:
  - { from: title, to: quiz, when: input.start, fresh: run }
  - { from: quiz, to: good, if: asked == 10 and right >= 6, do: [{ set: { record: "max(record, points)" } }] }
  - { from: quiz, to: bad, if: asked == 10 and right < 6 }
  - { from: [good, bad], to: quiz, when: input.again, fresh: run }
hud:
  - { show: points }
  - { text: "{asked} of 10, {right} right", label: Question }
  - { show: thinking, as: clock }
  - { show: hints }
  - { show: streak }
  - { show: hinted }
`;
const found = (text: string) => check(readDesign(text)).findings;
const told = (text: string): string[] => found(text).map(({ code, message }) => `${code}: ${message}`);

describe('a quiz', () => {
  test('has no finding as it is', () => {
    expect(told(quiz)).toEqual([]);
  });

  test.each([
    [
      'a number of right answers that neither ending asks for',
      'right < 6',
      'right < 5',
      'left-between: Where asked == 10 and right == 5, neither "quiz -> good" (if right >= 6) nor "quiz -> bad" (if right < 5) is taken.',
    ],
    [
      'a bonus for time left, counted once the clock is started again',
      '      - add: { points',
      '      - { start: thinking }\n      - add: { points',
      'read-after-set: timer.thinking is started just before this reads it, so it always reads all of its time.',
    ],
    [
      'a streak that no wrong answer breaks',
      /set: \{ streak: 0, hinted: 0 \}/g,
      'set: { hinted: 0 }',
      'never-broken: Nothing sets streak back in a run: it counts all successes, not those in a row.',
    ],
    [
      'a record that the way to the end overwrites',
      'max(record, points)',
      'points',
      'best-overwritten: record is always set to points, so a worse run overwrites a better one.',
    ],
  ])('%s is told', (_, from, to, expected) => {
    expect(told(changed(from, to, quiz))).toEqual([expected]);
  });

  test('a record that one of the ways to an ending forgets is told; one of wins alone is not', () => {
    const withWay = (way: string) =>
      changed('  - { from: [good, bad]', `${way}\n  - { from: [good, bad]`, quiz);
    expect(told(withWay('  - { from: quiz, to: good, when: input.stop, if: right >= 6 }'))).toEqual([
      'best-of-some-endings: Record is set on quiz -> good (if asked == 10 and right >= 6), and not on quiz -> good (when input.stop, if right >= 6).',
    ]);
    expect(told(withWay('  - { from: quiz, to: bad, when: input.stop }'))).toEqual([]);
  });

  test('hints that go on when none is left are seen where an answer comes between', () => {
    const [free, ...others] = found(changed('if: hints > 0 and hinted == 0', 'if: hinted == 0', quiz));
    expect(others).toEqual([]);
    expect([free!.code, free!.witness!.slice(0, 4)]).toEqual([
      'unpaid',
      ['input.start', 'input.hint', 'question.right', 'input.hint'],
    ]);
  });

  test('that can no longer be passed is told where it goes on for nothing, not where each answer brings it to its end', () => {
    const untimed = quiz
      .replace(/timers:\n.*\n/, '')
      .replace(/ \+ floor\(timer.thinking\) \* 5/, '')
      .replace(/ {6}- \{ start: thinking \}\n/, '')
      .replaceAll(', { start: thinking }', '')
      .replace(/ {2}- name: too slow\n.*\n.*\n/, '')
      .replace(/.*show: thinking.*\n/, '');
    expect(told(untimed)).toEqual([]);
    const codes = found(changed('wrong: 40', 'wrong: 30, skipped: 10', untimed)).map(({ code }) => code);
    expect(codes).toContain('win-lost-for-good');
  });
});

describe('what two conditions leave out between them', () => {
  const duel = (
    ways: string,
    rules = '',
  ) => `counters: { amber: { max: 9 }, russet: { max: 9 }, calm: { max: 9 } }
timers: { dusk: { countdown: 30 } }
pieces: { nut: { is: collectible }, cone: { is: collectible } }
levels: [{ values: { par: 3 }, spawn: [{ piece: nut, every: 3, atOnce: 2 }, { piece: cone, every: 4, atOnce: 2 }] }]
rules:
  - { when: nut.taken, do: [{ add: { amber: 1 } }] }
  - { when: cone.taken, do: [{ add: { russet: 2 } }] }
${rules}
screens: { loft: { live: true }, one: { ending: over }, two: { ending: over }, none: { ending: over } }
transitions:
${ways}
  - { from: [one, two, none], to: loft, when: input.again, fresh: run }
`;
  const between = (text: string) => found(text).filter(({ code }) => code === 'left-between');
  const ways = `  - { from: loft, to: one, when: dusk.ended, if: amber > russet }
  - { from: loft, to: two, when: dusk.ended, if: amber < russet }
`;

  test('a draw is told, and mended by one click', () => {
    const text = duel(ways);
    const [draw, ...others] = between(text);
    expect(others).toEqual([]);
    expect(draw!.message).toBe(
      'Where amber == russet, neither "loft -> one" (if amber > russet) nor "loft -> two" (if amber < russet) is taken when dusk.ended happens.',
    );
    const mended = changeDesign(text, mendOf(readDesign(text), draw!)!);
    expect(mended).toContain('to: two, when: dusk.ended, if: amber <= russet');
    expect(between(mended)).toEqual([]);
  });

  test.each([
    ['another way for a draw', `${ways}  - { from: loft, to: none, when: dusk.ended, if: amber == russet }`],
    ['a way for all that is left', `${ways}  - { from: loft, to: none, when: dusk.ended }`],
    [
      'ways at different moments',
      ways.replace('when: dusk.ended, if: amber <', 'when: input.stop, if: amber <'),
    ],
    ['what is asked all the time', ways.replaceAll('when: dusk.ended, ', '')],
    [
      'a number to which nothing counts',
      ways.replace('amber > russet', 'russet > 3').replace('amber < russet', 'russet < 3'),
    ],
    [
      'a number of the level to which nothing counts',
      ways.replace('amber > russet', 'russet > level.par').replace('amber < russet', 'russet < level.par'),
    ],
    [
      'numbers that meet',
      ways.replace('amber > russet', 'amber >= 4').replace('amber < russet', 'amber <= 3'),
    ],
  ])('%s leaves nothing out', (_, other) => {
    expect(between(duel(other))).toEqual([]);
  });

  test('of two rules it is told where they write the same counter', () => {
    const rules = (
      second: string,
    ) => `  - { name: up, when: nut.taken, if: russet > 4, do: [{ add: { calm: 1 } }] }
  - { name: down, when: nut.taken, if: russet < 4, do: [{ add: { ${second}: -1 } }] }`;
    expect(between(duel(ways.replace('<', '<='), rules('calm'))).map(({ message }) => message)).toEqual([
      'Where russet == 4, neither "up" (if russet > 4) nor "down" (if russet < 4) fires when nut.taken happens.',
    ]);
    expect(between(duel(ways.replace('<', '<='), rules('amber')))).toEqual([]);
  });
});
