import { describe, expect, test } from 'vitest';
import { renameInDesign } from '../../src/design/text/rename.js';
import { readDesign, runTests, simulate, summarize, UsageError } from '../../src/index.js';
import { demoText, gallery } from '../support/designs.js';
import { oneIn } from '../support/runs.js';

describe('another name', () => {
  test('for anything of any design: it passes its tests as before, and the old name brings the text back', () => {
    let count = 0;
    for (const text of gallery) {
      const design = readDesign(text);
      const { counters, dials, timers, pieces, screens } = design;
      const before = runTests(design).map((each) => each.passed);
      for (const { name } of oneIn(12, [...counters, ...dials, ...timers, ...pieces, ...screens])) {
        // What a design has without writing it down cannot be renamed.
        if (name.includes('.') || !new RegExp(`\\b${name}\\b`).test(text)) continue;
        count++;
        const renamed = renameInDesign(text, name, 'another9');
        expect(renamed.split('\n').length).toBe(text.split('\n').length);
        expect(renameInDesign(renamed, 'another9', name), name).toBe(text);
        const passed = runTests(readDesign(renamed)).map((each) => each.passed);
        expect(passed, name).toEqual(before);
      }
    }
    expect(count).toBeGreaterThan(35);
  });

  test('stands in expressions, events, texts and tests alike, and nowhere else', () => {
    const text = renameInDesign(demoText, 'nectar', 'drops');
    expect(text).toContain('drops: { start: 0');
    expect(text).toContain('if: drops >= level.quota and level.last');
    expect(text).toContain('text: "{level.name}: {drops} of {level.quota} drops"');
    expect(text).toContain('{ show: drops, label: Nectar');
    expect(text).toContain('expect: { score: 10, drops: 1 }');
    // A comment, and a text outside braces, are left to their writer.
    expect(text).toContain('a bee gathers nectar before nightfall');
    const timer = renameInDesign(demoText, 'daylight', 'sun');
    expect(timer).toContain('when: sun.ended');
    expect(timer).toContain('floor(timer.sun)');
    expect(timer).toContain('name: daylight saved');
  });

  test('of a player leaves the same sessions', () => {
    const text = renameInDesign(demoText, 'veteran', 'expert');
    const scores = (of: string, name: string) =>
      summarize(simulate(readDesign(of), { sessions: 50, seed: 1 })).players[name]!.score;
    expect(scores(text, 'expert')).toEqual(scores(demoText, 'veteran'));
    expect(text).toContain('of: expert');
  });

  test.each([
    ['score', 'lives', 'has a lives already'],
    ['score', '9x', 'is no name'],
    ['score', 'level', 'cannot be the name'],
    ['nothing', 'x', 'has no nothing'],
  ])('%s cannot become %s', (from, to, message) => {
    expect(() => renameInDesign(demoText, from, to)).toThrow(UsageError);
    expect(() => renameInDesign(demoText, from, to)).toThrow(message);
  });

  test('a design with problems says so first', () => {
    expect(() => renameInDesign(`${demoText}\nrulez: 1\n`, 'score', 'x')).toThrow('Mend its problems first');
  });
});
