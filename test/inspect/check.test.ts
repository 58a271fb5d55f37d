import { describe, expect, test } from 'vitest';
import { check, readDesign } from '../../src/index.js';
import { changed, demo, demoText, withoutEnd } from '../support/designs.js';

const findings = (text: string) =>
  check(readDesign(text, 'x.yaml')).findings.map(({ code, severity, place, message }) => ({
    code,
    severity,
    line: place.line,
    message,
  }));
const lineOf = (passage: string): number =>
  demoText.split('\n').findIndex((line) => line.includes(passage)) + 1;

describe('findings', () => {
  test('the demo has none', () => {
    expect(check(demo())).toMatchObject({ findings: [], passed: true });
  });

  test.each(['min(best, best)', 'min(best, score)', 'max(best, best)', 'best'])(
    'a best that is set to %s is read, and told or not',
    (amount) => {
      const found = findings(`counters: { score: {}, best: { keep: forever } }
pieces: { nut: { is: collectible } }
rules:
  - { when: nut.taken, do: [{ add: { score: 1 } }, { set: { best: "${amount}" } }] }
`);
      expect(found.some(({ code }) => code === 'best-stuck')).toBe(amount === 'min(best, score)');
    },
  );

  test('a level asks less than the one before, also where reaching it ends the run as neither won nor lost', () => {
    const text = `counters: { score: { start: 0 } }
pieces: { nut: { is: collectible } }
levels: [{ values: { goal: 50 }, place: { nut: 9 } }, { values: { goal: 30 }, place: { nut: 9 } }]
rules: [{ when: nut.taken, do: [{ add: { score: 10 } }] }]
screens: { wood: { live: true }, home: { ending: over } }
transitions:
  - { from: wood, to: home, if: score >= level.goal }
  - { from: home, to: wood, when: input.again, fresh: run, level: next }
`;
    const asks = (of: string) => findings(of).some(({ code }) => code === 'level-asks-less');
    expect([asks(text), asks(text.replace('goal: 30', 'goal: 70'))]).toEqual([true, false]);
  });

  test('goals of endless levels do not make digits too few', () => {
    const text = `counters: { score: { start: 0 } }
pieces: { nut: { is: collectible } }
levels: [{ endless: true, values: { goal: 50 * level }, spawn: [{ piece: nut, every: 1 }] }]
rules: [{ when: nut.taken, do: [{ add: { score: 10 } }] }]
screens: { wood: { live: true }, rest: {}, home: { ending: over } }
transitions:
  - { from: wood, to: rest, if: score >= level.goal }
  - { from: rest, to: wood, wait: 1, fresh: level, level: next }
  - { from: wood, to: home, when: input.leave }
  - { from: home, to: wood, when: input.again, fresh: run }
hud: [{ show: score, as: digits, width: 5 }]
`;
    const tooWide = (of: string) => findings(of).filter(({ code }) => code === 'too-wide');
    expect(tooWide(text)).toEqual([]);
    expect(tooWide(text.replace('50 * level', '100000'))).toMatchObject([{ severity: 'warning' }]);
  });

  test('an ending that both ways out were taken from', () => {
    const found = findings(changed(/ {2}- \{ from: dark,.*\n/g, ''));
    expect(found).toMatchObject([
      { code: 'no-way-back', severity: 'error', line: lineOf('dark:      { ending: lost') },
    ]);
    expect(found[0]!.message).toContain('From the ending dark no fresh start can be reached');
  });

  test('an ending whose only way out goes round in a circle', () => {
    const text = changed(/ {2}- \{ from: dark,.*\n/g, '')
      .replace('transitions:\n', 'transitions:\n  - { from: dark, to: help, when: input.help }\n')
      .replace(/ {2}- \{ from: help,.*\n/, '');
    expect(findings(text).map(({ code }) => code)).toEqual(['dead-end', 'no-way-back']);
  });

  test('a quota above the max: the transitions, and the screens behind them once', () => {
    const found = findings(changed('quota: 12', 'quota: 61'));
    expect(found.filter(({ code }) => code === 'transition-unreachable').map(({ line }) => line)).toEqual([
      lineOf('to: nightfall, if'),
      lineOf('to: cleared,'),
    ]);
    expect(found.filter(({ code }) => code === 'screen-unreachable').map(({ line }) => line)).toEqual([
      lineOf('cleared:   { text'),
      lineOf('nightfall: { ending'),
    ]);
    expect(found).toHaveLength(4);
    expect(found.every(({ severity }) => severity === 'error')).toBe(true);
  });

  test('a screen that nothing leads to', () => {
    const found = findings(
      changed('  help:      {', '  attic: { text: "Nobody comes here." }\n  help:      {'),
    );
    expect(found).toMatchObject([{ code: 'screen-unreachable', line: lineOf('  help:      {') }]);
    expect(found[0]!.message).toContain('no transition leads to it');
  });

  test('a failed test fails the check without a finding', () => {
    expect(check(readDesign(changed('score: 30, streak: 3', 'score: 31, streak: 3')))).toMatchObject({
      findings: [],
      passed: false,
    });
  });

  test('what is missing at first is a hint, not an error', () => {
    const text =
      '{ counters: { score: {} }, pieces: { blossom: { is: collectible } }, rules: [{ when: input.go, do: [{ add: { score: 1 } }] }] }';
    const result = check(readDesign(text));
    expect(result.passed).toBe(true);
    expect(result.findings.map(({ code, severity }) => `${severity} ${code}`).sort()).toEqual([
      'hint no-screens',
      'hint nothing-appears',
      'hint nothing-on-the-hud',
      'hint piece-unheard',
    ]);
  });

  describe('what is taken and given', () => {
    const bakery = (
      bake: string,
      counters = '',
    ) => `counters: { score: {}, flour: { start: 5, min: 0 }${counters} }
timers: { oven: { every: 6 } }
pieces: { order: { is: collectible } }
levels: [{ spawn: [{ piece: order, every: 3 }] }]
rules:
  - { when: order.taken, do: [{ add: { flour: 1 } }] }
  - { name: bake, when: oven.ticked, ${bake} }
screens: { shop: { live: true }, shut: { ending: lost, text: Shut } }
transitions:
  - { from: shop, to: shut, if: flour >= 90 }
  - { from: shut, to: shop, when: input.again, fresh: run }
`;
    const of = (text: string, code: string) =>
      check(readDesign(text)).findings.filter((each) => each.code === code);

    test('a price that a clock takes until there is none, shown by so much time', () => {
      const text = bakery('do: [{ add: { flour: -2, score: 1 } }]').replace('flour >= 90', 'score >= 90');
      expect(of(text, 'unpaid')).toEqual([
        expect.objectContaining({
          message: '"bake" takes 2 from flour when only 1 is left, and gives score all the same.',
          witness: ['wait 18'],
        }),
      ]);
      for (const asked of ['if: flour >= 2, ', 'if: flour > 1 and score < 5, '])
        expect(
          of(text.replace('when: oven.ticked, ', `when: oven.ticked, ${asked}`), 'unpaid'),
          asked,
        ).toEqual([]);
    });

    test('nothing is said of what a run is lost for, nor of what gives nothing', () => {
      expect(of(bakery('do: [{ add: { flour: -2, score: 1 } }]'), 'unpaid')).toEqual([]);
      const gone = bakery('do: [{ add: { flour: -2 } }, { cue: ding }]').replace(
        'flour >= 90',
        'score >= 90',
      );
      expect(of(gone, 'unpaid')).toEqual([]);
    });
  });

  test('words are named in what is said of them', () => {
    const text = `counters: { score: {}, gate: { words: [low, high], start: low } }
pieces: { barge: { is: collectible, needs: gate == high } }
levels: [{ place: { barge: 1 } }]
rules: [{ when: barge.taken, do: [{ add: { score: 1 } }] }]
screens: { lock: { live: true }, home: { ending: won, text: Home } }
transitions:
  - { from: lock, to: home, if: gate == high }
  - { from: home, to: lock, when: input.again, fresh: run }
`;
    const messages = check(readDesign(text)).findings.map(({ message }) => message);
    expect(messages).toContain(
      'lock -> home can never be taken: on lock, "gate == high" never holds (the nearest it comes: gate low).',
    );
  });

  test('a piece that is gone though its rule cannot be paid is told, as often as it takes; one that stays, or says so, is not', () => {
    const quay = (lantern: string, more = '') => `counters: { score: {}, oil: { start: 2, min: 0, max: 5 } }
pieces: { flask: { is: collectible }, lantern: { is: exit${lantern} } }
levels: [{ place: { flask: 3, lantern: 4 } }]
rules:
  - { when: flask.taken, do: [{ add: { oil: 1 } }] }
  - { name: light, when: lantern.reached, do: [{ pay: { oil: 1 } }, { add: { score: 10 } }] }${more}
screens: { pier: { live: true } }
`;
    const found = (text: string) =>
      check(readDesign(text)).findings.filter(({ code }) => code === 'taken-for-nothing');
    expect(found(quay(''))).toEqual([
      expect.objectContaining({
        message:
          'Where oil is 0, lantern.reached takes the lantern away and nothing comes of it: the rule "light" cannot be paid.',
        witness: ['3 x lantern.reached'],
      }),
    ]);
    for (const other of [
      quay(', ends: []'),
      quay(', needs: oil > 0'),
      quay('', '\n  - { when: lantern.reached, if: oil == 0, do: [{ popup: No oil }] }'),
    ])
      expect(found(other), other).toEqual([]);
  });

  test('what misses take from, and a loss waits for, looks like the lives', () => {
    const text = `counters: { score: {}, trust: { start: 3, min: 0 } }
pieces: { order: { is: collectible } }
levels: [{ spawn: [{ piece: order, every: 3, atOnce: 2 }] }]
rules:
  - { when: order.taken, do: [{ add: { score: 1 } }] }
  - { when: order.missed, do: [{ add: { trust: -1 } }] }
screens: { shop: { live: true }, shut: { ending: lost, text: Shut } }
transitions:
  - { from: shop, to: shut, if: trust == 0 }
  - { from: shut, to: shop, when: input.again, fresh: run }
hud: [{ show: score }, { show: trust }]
`;
    expect(check(readDesign(text)).findings.map(({ message }) => message)).toEqual([
      'Misses take from trust, and it decides when the run is lost, but reports do not know it as the lives.',
    ]);
  });

  test('a foe with health that appears again and again without a bound is no fault', () => {
    const design = readDesign(`counters: { score: 0, lives: { start: 3, min: 0 } }
pieces: { goat: { is: foe, health: 3 } }
levels: [{ spawn: [{ piece: goat, every: 8 }] }]
rules:
  - { when: goat.hit, do: [{ add: { lives: -1 } }] }
  - { when: goat.beaten, do: [{ add: { score: 20 } }] }
screens: { hill: { live: true }, done: { ending: lost, text: Done } }
transitions:
  - { from: hill, to: done, if: lives == 0 }
  - { from: done, to: hill, when: input.go, fresh: run }
hud: [{ show: score }, { show: lives }]
`);
    expect(check(design)).toMatchObject({ findings: [], passed: true });
  });

  test('a fault carries its witness', () => {
    const text =
      '{ counters: { a: { start: 9 } }, rules: [{ name: square, when: input.go, do: [{ set: { a: a * a } }] }], screens: { heath: { live: true }, over: { ending: lost } }, transitions: [{ from: heath, to: over, if: a < 0 }, { from: over, to: heath, when: input.again, fresh: run }], hud: [{ show: a }] }';
    const checked = check(readDesign(text));
    const found = checked.findings;
    const fault = found.find(({ code }) => code === 'number-too-large')!;
    expect(fault.witness).toEqual(['5 x input.go']);
    expect(fault.message).toContain('square');
    // Sessions that end in a fault are not proof of anything, and the fault is what to fix.
    expect(checked.exploration.transitions[0]).toMatchObject({
      verdict: 'undecided',
      reason: expect.stringMatching(/^some sessions end in a fault first: .*[^.]$/),
    });
    expect(found.map(({ code }) => code)).not.toContain('transition-unreachable');
    expect(found.map(({ code }) => code)).not.toContain('transition-undecided');
  });

  test('a transition for the last level that stands too late is to be moved', () => {
    const text =
      'levels: [{ name: Reed }, { name: Weir }]\nscreens: { punt: { live: true }, moored: { ending: won } }\ntransitions:\n  - { from: punt, to: punt, when: input.pole, fresh: level, level: next }\n  - { from: punt, to: moored, when: input.pole, if: level.last }\n  - { from: moored, to: punt, when: input.again, fresh: run }';
    const fault = check(readDesign(text)).findings.find(({ code }) => code === 'no-next-level')!;
    expect(fault.remedy).toBe(
      'Move punt -> moored (line 5) before it: of those that apply, the first is taken.',
    );
  });

  test.each([
    ['present.reed == 0', 'Use left instead of present'],
    ['cut == 3', 'Reset what the condition reads, such as by fresh: run on the transition to punt'],
  ])('a level over at once by %s says what already holds', (condition, remedy) => {
    const text = `
counters: { cut: { start: 0, keep: session } }
pieces: { reed: { is: collectible } }
levels: [{ spawn: [{ piece: reed, every: 2, total: 3 }] }]
rules: [{ when: reed.taken, do: [{ add: { cut: 1 } }] }]
screens: { quay: {}, punt: { live: true }, moored: { ending: won } }
transitions:
  - { from: quay, to: punt, when: input.start, fresh: run }
  - { from: punt, to: moored, if: ${condition} }
  - { from: moored, to: punt, when: input.again, fresh: run }`;
    const found = check(readDesign(text)).findings.find(({ code }) => code === 'over-at-once')!;
    expect(found.message).toBe(`punt goes on to moored the moment it begins: ${condition} already holds.`);
    expect(found.remedy).toContain(remedy);
  });
});

describe('counters that play builds up', () => {
  const orchard = (counters: string, rules: string) => `counters: { score: {}, ${counters} }
timers: { night: { countdown: 20 } }
pieces: { bale: { is: collectible, lasts: 4 } }
levels: [{ spawn: [{ piece: bale, every: 2, atOnce: 2 }] }]
rules:
  - { name: fetch, when: bale.taken, do: [{ add: { score: 5 } }] }
${rules}
screens: { row: { live: true }, cold: { ending: lost, text: "{score}" } }
transitions:
  - { from: row, to: cold, when: night.ended }
  - { from: cold, to: row, when: input.again, fresh: run }
`;
  const told = (code: string, text: string) =>
    findings(text).flatMap((each) => (each.code === code ? [each.message] : []));

  test('a streak that outlives the run is told, and a purse that does so is not', () => {
    const streak = (lost: string) =>
      orchard(
        'chain: { start: 0, keep: session }',
        `  - { when: bale.taken, do: [{ add: { chain: 1 } }, { add: { score: chain } }] }\n  - { when: bale.missed, do: [${lost}] }`,
      );
    expect(told('outlives-the-run', streak('{ set: { chain: 0 } }'))).toEqual([
      'chain is kept for a session, so fresh: run does not reset it.',
    ]);
    expect(told('outlives-the-run', streak('{ pay: { chain: 1 } }'))).toEqual([]);
  });

  test('a best that is noted before the same rule adds to the score is told', () => {
    const closing = (effects: string) =>
      orchard(
        'best: { start: 0, keep: forever }',
        `  - { name: closing, when: cold.entered, screens: cold, do: [${effects}] }`,
      );
    const [note, bonus] = ['{ set: { best: "max(best, score)" } }', '{ add: { score: 20 } }'];
    expect(told('best-before-bonus', closing(`${note}, ${bonus}`))).toEqual([
      '"closing" sets best before it adds to score.',
    ]);
    expect(told('best-before-bonus', closing(`${bonus}, ${note}`))).toEqual([]);
  });

  test('a hit that adds to what the run is lost for want of is told, whatever it is called', () => {
    const warmth = (loses: string) =>
      orchard(
        'warmth: { start: 60, min: 0, max: 100 }, dark: { start: 0, min: 0, max: 9 }',
        '  - { when: bale.missed, do: [{ add: { warmth: -6 } }, { set: { score: 0 } }] }\n  - { when: sleet.hit, do: [{ add: { warmth: 20, dark: 1 } }, { set: { score: 0 } }] }',
      )
        .replace('pieces: {', 'pieces: { sleet: { is: hazard },')
        .replace('when: night.ended', loses);
    expect(told('harm-that-helps', warmth('if: warmth == 0 and score >= 0'))).toEqual([
      'sleet.hit adds to warmth, though it is the hit of a hazard.',
    ]);
    expect(told('harm-that-helps', warmth('if: dark == 9'))).toEqual([]);
  });

  test('what is paid for a counter at its max is told, unless play is over then', () => {
    const kiln = (over: string) =>
      orchard(
        'clay: { start: 6, min: 0, max: 9 }, cracked: { start: 0, min: 0, max: 3 }',
        '  - { name: torn, when: bale.missed, do: [{ pay: { clay: 2 } }, { add: { cracked: 1 } }] }',
      ).replace('when: night.ended', over);
    const paid = '"torn" takes clay even when cracked is at its max of 3, and gives nothing then.';
    expect(told('pays-for-nothing', kiln('if: cracked == 2'))).toEqual([]);
    expect(told('pays-for-nothing', kiln('if: cracked >= 3 or score > 90'))).toEqual([]);
    expect(told('pays-for-nothing', kiln('if: cracked == 3 and score > 90'))).toEqual([paid]);
    expect(told('pays-for-nothing', kiln('when: night.ended'))).toEqual([paid]);
    const glaze = (asked: string) =>
      orchard(
        'clay: { start: 6, min: 0, max: 9 }, glazed: { start: false }, colour: { words: [red, blue], start: red }',
        `  - { name: glaze, when: input.glaze, ${asked}do: [{ pay: { clay: 2 } }, { set: { glazed: true, colour: blue } }] }`,
      );
    expect(told('pays-for-nothing', glaze(''))).toEqual([
      '"glaze" takes clay even when glazed is true already and colour is blue already, and gives nothing then.',
    ]);
    expect(told('pays-for-nothing', glaze('if: not glazed, '))).toEqual([]);
  });

  test('a record to which what beats it is added is told, and one that it replaces is not', () => {
    const record = (effect: string) =>
      orchard(
        'chain: { start: 0, min: 0 }, longest: { start: 0 }',
        `  - { when: bale.taken, do: [{ add: { chain: 1 } }] }\n  - { name: record, if: chain > longest, do: [{ ${effect}: { longest: chain } }] }`,
      );
    expect(told('best-adds-up', record('add'))).toEqual([
      '"record" waits until chain is more than longest, and then adds it to longest instead of keeping it.',
    ]);
    expect(told('best-adds-up', record('set'))).toEqual([]);
  });

  test('a comparison that a bound decides is told with the stricter one, wherever it stands', () => {
    const asks = (condition: string) =>
      orchard(
        'sacks: { start: 2, min: 0, max: 6 }',
        `  - { name: use, when: bale.taken, if: ${condition}, do: [{ pay: { sacks: 1 } }] }`,
      );
    for (const [condition, message] of [
      ['sacks >= 0', 'use asks for sacks >= 0, which always holds: the min of sacks is 0.'],
      ['score > 3 and sacks <= 6', 'use asks for sacks <= 6, which always holds: the max of sacks is 6.'],
      ['sacks != 7', 'use asks for sacks != 7, which always holds.'],
    ])
      expect(told('part-always-holds', asks(condition!)), condition).toEqual([message]);
    for (const condition of ['sacks > 0', 'sacks < 6', 'score >= 0'])
      expect(told('part-always-holds', asks(condition)), condition).toEqual([]);
  });

  test('a side of a choice that is never taken is told, with what leaves it out', () => {
    const pays = (amount: string) =>
      orchard(
        'chain: { start: 0, min: 0, max: 20 }',
        `  - { name: pay, when: bale.taken, do: [{ add: { chain: 1 } }, { add: { score: "${amount}" } }] }`,
      );
    for (const [amount, message] of [
      ['chain >= 30 ? 2 : 1', '"pay" never chooses 2: "chain >= 30" never holds.'],
      ['2 * (chain >= 0 ? 2 : 1)', '"pay" never chooses 1: "chain >= 0" always holds.'],
      [
        'chain > 5 ? (chain == 5 ? 3 : 2) : 1',
        '"pay" never chooses 3: "chain == 5" is asked only where "chain > 5" holds.',
      ],
      [
        'chain < 9 or score == 0 ? 1 : chain < 9 ? 2 : 3',
        '"pay" never chooses 2: "chain < 9" is asked only where "chain < 9" does not hold.',
      ],
      [
        'chain > 5 and score > 9 ? (chain >= 5 ? 3 : 2) : 1',
        '"pay" never chooses 2: "chain >= 5" is asked only where "chain > 5" holds.',
      ],
    ])
      expect(told('choice-never-taken', pays(amount!)), amount).toEqual([message]);
    for (const amount of [
      'chain >= 10 ? 3 : chain >= 5 ? 2 : 1',
      'chain >= 5 ? (chain == 5 ? 3 : 2) : 1',
      'chain > 5 and score > 9 ? 3 : chain > 5 ? 2 : 1',
      'chain < 5 or score > 9 ? (chain < 5 ? 3 : 2) : 1',
      'chain > 5 ? 3 : score > 5 ? 2 : 1',
      'level.last ? 2 : 1',
    ])
      expect(told('choice-never-taken', pays(amount)), amount).toEqual([]);
  });

  test('a number that is stepped over is told with the session, and what may come back or is thought of is not', () => {
    const grove = (sap: string, goal: string, rules = '') =>
      `counters: { score: {}, sap: { start: 0, ${sap} }, lives: { start: 4 } }
pieces: { bud: { is: collectible, lasts: 6 }, bloom: { is: collectible, lasts: 3 }, crow: { is: hazard } }
levels: [{ values: { goal: 20 }, spawn: [{ piece: bud, every: 2, atOnce: 2 }, { piece: bloom, every: 5, atOnce: 1 }, { piece: crow, every: 6 }] }]
rules:
  - { when: bud.taken, do: [{ add: { score: 1, sap: 2 } }] }
  - { when: bloom.taken, do: [{ add: { score: 3, sap: 5 } }] }
  - { when: crow.hit, do: [{ add: { lives: -3 } }, { grace: 1 }] }
${rules}
screens: { grove: { live: true }, full: { ending: won, text: Full }, dry: { ending: lost, text: Dry } }
transitions:
${goal}
  - { from: grove, to: dry, if: lives <= 0 }
  - { from: [full, dry], to: grove, when: input.again, fresh: run }
`;
    const passed = (text: string) =>
      check(readDesign(text), { mostStates: 2000 }).findings.flatMap(({ code, message, witness }) =>
        code === 'passed-by' ? [`${message} ${witness?.join(', ')}`] : [],
      );
    const exactly = '  - { from: grove, to: full, if: sap == level.goal and score > 2 }';
    expect(passed(grove('min: 0', exactly))).toEqual([
      'grove -> full asks for sap == level.goal, and sap can go past it, from 17 to 22. bud.taken, 4 x bloom.taken',
    ]);
    const bonus = '  - { name: bonus, if: sap == 6, do: [{ add: { lives: 1 } }] }';
    expect(passed(grove('min: 0', '', bonus))).toEqual([
      'bonus asks for sap == 6, and sap can go past it, from 2 to 7. bud.taken, bloom.taken',
    ]);
    const gone = grove(
      'min: 0',
      '  - { from: grove, to: dry, if: lives == 0 }',
      '  - { when: crow.avoided, do: [{ add: { lives: 1 } }] }',
    ).replace(/.*lives <= 0.*\n/, '');
    expect(passed(gone)).toEqual([
      'grove -> dry asks for lives == 0, and lives can go past it, from 1 to -2. crow.hit, wait 1, crow.hit',
    ]);
    for (const other of [
      grove('min: 0, max: 20', exactly),
      grove('min: 0', exactly, '  - { when: crow.avoided, do: [{ add: { sap: -1 } }] }'),
      grove('min: 0', `${exactly}\n  - { from: grove, to: dry, if: sap > level.goal }`),
      grove('min: 0', exactly).replace('sap: 2', 'sap: 4').replace('sap: 5', 'sap: 4'),
    ])
      expect(passed(other)).toEqual([]);
  });

  test('a choice by values of levels is told on the level where they are the wrong way round', () => {
    const graded = (second: string) => `
counters: { score: {}, grade: { words: [low, mid, high], start: low } }
pieces: { bale: { is: collectible } }
levels:
  - { name: Field, values: { fair: 20, good: 40 }, spawn: [{ piece: bale, every: 2 }] }
  - { name: Slope, values: { ${second} }, spawn: [{ piece: bale, every: 2 }] }
rules:
  - { when: bale.taken, do: [{ add: { score: "level >= 2 ? 2 : 1" } }] }
  - { name: mark, if: score > 3, do: [{ set: { grade: "score >= level.good ? high : score >= level.fair ? mid : low" } }] }
`;
    expect(told('choice-never-taken', graded('fair: 80, good: 60'))).toEqual([
      'On Slope, "mark" never chooses mid: "score >= level.fair" is asked only where "score >= level.good" does not hold.',
    ]);
    expect(told('choice-never-taken', graded('fair: 60, good: 80'))).toEqual([]);
  });
});

test('a best that is noted on a title is told only where a way from an ending goes round it', () => {
  const game = (again: string): string => `
counters: { score: {}, best: { keep: forever } }
pieces: { bud: { is: collectible }, slug: { is: hazard } }
rules:
  - { when: bud.taken, do: [{ add: { score: 5 } }] }
  - { when: gate.entered, screens: gate, do: [{ set: { best: "max(best, score)" } }] }
screens: { gate: { text: "Best {best}" }, garden: { live: true }, morning: { ending: over, text: "{score}" } }
transitions:
  - { from: gate, to: garden, when: input.dig, fresh: run }
  - { from: garden, to: morning, when: slug.hit }
  - { from: morning, to: gate, when: input.leave }
${again}
hud: [{ show: score }]`;
  const told = (again: string) =>
    findings(game(again)).flatMap(({ code, message }) => (code === 'best-of-some-endings' ? [message] : []));
  expect(told('')).toEqual([]);
  expect(told('  - { from: morning, to: garden, when: input.again, fresh: run }')).toEqual([
    'Best is set on gate, and not on morning.',
  ]);
});

describe('a ferry with a shed', () => {
  const ferry = (parts: { [Part in 'landing' | 'hull' | 'mended' | 'moored']?: string } = {}) => `
counters:
  score: { start: 0, min: 0 }
  across: { start: 0, min: 0, max: 9 }
  hull: ${parts.hull ?? '{ start: 0, min: 0, max: 2, keep: session }'}
  planks: { start: "2 + hull", min: 0, max: 5 }
lives: planks
timers: { tide: { countdown: 60 } }
pieces:
  landing: { is: exit${parts.landing ?? ', ends: []'} }
  snag: { is: hazard }
  buoy: { is: checkpoint, ends: [reached, missed], lasts: 9 }
levels: [{ values: { loads: 5 }, place: { landing: 1 }, spawn: [{ piece: snag, every: 6 }, { piece: buoy, every: 9, atOnce: 1 }] }]
rules:
  - { name: ashore, when: landing.reached, do: [{ add: { score: 8, across: 1 } }] }
  - { name: bump, when: snag.hit, do: [{ add: { planks: -1 } }, { grace: 1 }] }
  - { name: passed, when: buoy.reached, do: [{ add: { score: 1 } }] }
  - { name: drifted, when: buoy.missed, do: [${parts.mended ?? '{ cue: sigh }'}] }
  - { name: thicker, when: input.buy, screens: shed, if: hull < 2, do: [{ add: { hull: 1 } }] }
screens:
  jetty: {}
  shed: {}
  river: { live: true }
  moored: { ending: won, text: Across }
  inn: { ending: won, text: To the inn }
  sunk: { ending: lost, text: Sunk }
transitions:
  - { from: jetty, to: river, when: input.start, fresh: run }
  - { from: jetty, to: shed, when: input.shed }
  - { from: shed, to: jetty, when: input.back }
  - { from: river, to: sunk, if: planks == 0 }
  - { from: river, to: sunk, when: tide.ended }
  - { from: river, to: moored, if: ${parts.moored ?? 'across >= level.loads and planks > 1'} }
  - { from: river, to: inn, if: across >= level.loads }
  - { from: [moored, inn, sunk], to: jetty, when: input.leave }
hud: [{ show: score }, { show: planks }, { show: tide }, { show: across }, { show: hull }]
`;
  const told = (code: string, parts: Parameters<typeof ferry>[0]) =>
    check(readDesign(ferry(parts))).findings.flatMap((each) =>
      each.code === code ? [`${each.message} ${each.remedy}`] : [],
    );

  test('has no finding as it is', () => {
    expect(check(readDesign(ferry()))).toMatchObject({ findings: [], passed: true });
  });

  test('what can be reached once only is told where it is needed more often', () => {
    const [first] = told('transition-unreachable', { landing: '' });
    expect(first).toMatch(
      / never holds \(.*\)\. Only landing\.reached raises across, and no level has more than 1 x landing\. Let it stay with ends: \[\], or place more\.$/,
    );
  });

  test('what always goes first is named, and what only shares in that is no more than an example', () => {
    const shadowed = (moored: string) => told('transition-shadowed', { moored }).join();
    expect(shadowed('across >= level.loads')).toContain('river -> moored (line 33) is always taken first.');
    expect(shadowed('across >= level.loads and planks > 0')).toMatch(
      /an earlier one is always taken first, such as river -> (sunk|moored) \(line 3[13]\)\./,
    );
  });

  test('what is bought is gone at the start that two screens lead to, unless it is kept', () => {
    expect(told('put-back-on-leaving', { hull: '{ start: 0, min: 0, max: 2 }' })).toEqual([
      '"thicker" writes hull on shed, and every way out puts it back (fresh: run). Keep hull for longer: keep: session.',
    ]);
  });

  test('a checkpoint that is missed and mends the ferry pays for failing', () => {
    expect(told('failure-pays', { mended: '{ add: { planks: 1 } }' })).toEqual([
      'buoy.missed raises planks. Hear the success instead, or take something away.',
    ]);
  });

  test('a limit on how often a thing is bought is no use of it', () => {
    const unused = ferry().replace('"2 + hull"', '2').replace(', { show: hull }', '');
    expect(check(readDesign(unused)).findings.map(({ message }) => message)).toContain(
      'hull is written, and nothing reads or shows it.',
    );
  });
});

describe('what was not looked for', () => {
  test('has not passed where a limit on states was met, however little was found', () => {
    for (const mostStates of [0, 100]) {
      const { passed, exploration } = check(demo(), { mostStates });
      expect(passed).toBe(false);
      expect(exploration.isCut).toBe(true);
      expect(exploration.leftOpen).toMatch(`the limit of ${mostStates} states was hit`);
    }
    expect(check(demo()).exploration).toMatchObject({ isCut: false, leftOpen: undefined });
  });

  test('is said where no end of states was found, though all that was asked for was found', () => {
    const { passed, exploration } = check(readDesign(withoutEnd));
    expect(passed).toBe(true);
    expect(exploration.leftOpen).toMatch(
      /^whether .*, since no end of states was found; a narrow min and max for score would leave fewer$/,
    );
  });
});
