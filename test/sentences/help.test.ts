import { describe, expect, test } from 'vitest';
import { helpAt, meaningAt } from '../../src/sentences/help.js';
import { demoText } from '../support/designs.js';

/** What is offered at the bar in a text. */
function offeredAt(text: string): string[] {
  return helpAt(text.replace('|', ''), text.indexOf('|')).options.map(({ label }) => label);
}

describe('help while a design is written', () => {
  test('keys of the file, and of an entry, with what they mean', () => {
    expect(offeredAt('|')).toEqual(expect.arrayContaining(['title', 'counters', 'rules', 'transitions']));
    expect(offeredAt('cou|')).toContain('counters');
    expect(offeredAt('counters:\n  score: { sta| }')).toEqual(
      expect.arrayContaining(['start', 'min', 'keep']),
    );
    expect(offeredAt('counters:\n  score:\n    ke|')).toContain('keep');
    const { options } = helpAt('timers: { dusk: {  } }', 18);
    expect(options.find(({ label }) => label === 'countdown')!.info).toContain('Seconds until it fires');
  });

  test('words that are valid, and names of the design', () => {
    expect(offeredAt('counters: { score: { keep: | } }')).toEqual([
      'life',
      'level',
      'run',
      'session',
      'forever',
    ]);
    expect(offeredAt('screens: { heath: { live: | } }')).toEqual(['true', 'false']);
    expect(offeredAt(`${demoText}\nlists: { top: { of: sc| } }`)).toEqual([
      'score',
      'lives',
      'nectar',
      'streak',
      'best',
    ]);
    expect(offeredAt(demoText.replace('of: newcomer', 'of: n|'))).toEqual(['newcomer', 'regular', 'veteran']);
    const offered = (entry: string): string[] =>
      offeredAt(demoText.replace('transitions:\n', `transitions:\n  - ${entry}\n`));
    expect(offered('{ from: heath, to: | }')).toEqual(
      expect.arrayContaining(['title', 'help', 'heath', 'dark', 'back']),
    );
    expect(offered('{ from: heath, when: wa| }')).toEqual(
      expect.arrayContaining(['wasp.hit', 'help.entered', 'daylight.ended']),
    );
    expect(offered('{ from: heath, if: nec| }')).toEqual(
      expect.arrayContaining(['nectar', 'petal', 'level.quota', 'present.wasp', 'timer.daylight']),
    );
    expect(
      offeredAt(demoText.replace('rules:\n', 'rules:\n  - { when: wasp.hit, do: [{ add: { li| } }] }\n')),
    ).toEqual(expect.arrayContaining(['lives', 'score', 'daylight']));
    expect(offeredAt(demoText.replace('do: [input.start, blossom', 'do: [in|, blossom'))).toEqual(
      expect.arrayContaining(['blossom.taken', 'input.again']),
    );
  });

  test('where nothing is known, or the text is broken, nothing is said', () => {
    expect(offeredAt('title: My ga|')).toEqual([]);
    expect(offeredAt('{{{|')).toEqual(expect.any(Array));
    expect(meaningAt('{{{', 1)).toBeUndefined();
    expect(meaningAt('', 0)).toBeUndefined();
  });

  test('says what a key means where it stands', () => {
    const offset = demoText.indexOf('countdown');
    expect(meaningAt(demoText, offset + 2)).toMatchObject({ from: offset, to: offset + 9 });
    expect(meaningAt(demoText, offset + 2)!.text).toContain('Seconds until it fires `NAME.ended`, once');
    expect(meaningAt(demoText, demoText.indexOf('45'))).toBeUndefined();
  });
});
