import { describe, expect, test } from 'vitest';
import { nameFrom } from '../../src/design/language/names.js';
import { changeDesign } from '../../src/design/text/change.js';
import { check, readDesign } from '../../src/index.js';
import { newEntry, type Section } from '../../src/sentences/new-entry.js';
import { isAbout, type Sentence, textOf } from '../../src/sentences/sentence.js';
import { sentencesOf } from '../../src/sentences/sentences-of.js';

const add = (text: string, section: Section, name?: string): string =>
  changeDesign(text, newEntry(text, section, name));

const things = `counters: { score: { min: 0 }, lives: { start: 3, min: 0, max: 3 } }
pieces: { flask: { is: collectible }, gust: { is: hazard } }
levels: [{ place: { flask: 3, gust: 3 } }]
rules:
  - { when: flask.taken, do: [{ add: { score: 1 } }] }
  - { when: gust.hit, do: [{ add: { lives: -1 } }] }
hud: [{ show: score }, { show: lives }]
`;

describe('a new entry', () => {
  test('is what the flow still lacks: screens by their names, then a transition at each click, and it passes its check', () => {
    let text = things;
    for (const name of ['title', 'howToPlay', 'deck', 'gameOver', 'harbourWon'])
      text = add(text, 'screens', name);
    text = add(text, 'levels');
    expect(readDesign(text).screens.map(({ name, live, ending }) => [name, live, ending])).toEqual([
      ['title', false, undefined],
      ['howToPlay', false, undefined],
      ['deck', true, undefined],
      ['gameOver', false, 'lost'],
      ['harbourWon', false, 'won'],
    ]);
    for (let click = 0; click < 8; click++) text = add(text, 'transitions');
    expect(sentencesOf(text).transitions.map(textOf)).toEqual([
      'From title go to deck when input.go, with a fresh run.',
      'From title go to howToPlay when input.next.',
      'From deck go to gameOver as soon as lives == 0.',
      'From deck go to harbourWon as soon as left.flask == 0 and level.last.',
      'From howToPlay go to deck when input.go.',
      'From gameOver go to deck when input.again, with a fresh run.',
      'From harbourWon go to deck when input.again, with a fresh run.',
      'From deck go to deck as soon as left.flask == 0 and not level.last, to the next level, with a fresh level.',
    ]);
    const { passed, exploration } = check(readDesign(text));
    expect([passed, exploration.transitions.map(({ verdict }) => verdict)]).toEqual([
      true,
      Array(8).fill('reached'),
    ]);
  });

  test('names no screen an ending for a part of a word, and connects no two screens twice while others are left', () => {
    let text = '';
    for (const name of ['wonder', 'overlook']) text = add(text, 'screens', name);
    expect(readDesign(`${things}${text}`).screens.map(({ live, ending }) => [live, ending])).toEqual([
      [true, undefined],
      [false, undefined],
    ]);
    for (let click = 0; click < 3; click++) text = add(text, 'transitions');
    expect(sentencesOf(text).transitions.map(textOf)).toEqual([
      'From wonder go to overlook when input.go.',
      'From overlook go to wonder when input.go.',
      'From wonder go to overlook when input.next.',
    ]);
  });

  test('a run that no lives end ends with its timer', () => {
    const timed = add(add(add('', 'screens', 'wood'), 'screens', 'gameOver'), 'timers', 'night');
    expect(sentencesOf(add(timed, 'transitions')).transitions.map(textOf)).toEqual([
      'From wood go to gameOver when night.ended.',
    ]);
  });

  test('a rule hears what none hears yet', () => {
    expect(
      sentencesOf(add(add(things, 'timers', 'night'), 'rules'))
        .rules.map(textOf)
        .at(-1),
    ).toBe('When night.ended, add 1 to score.');
  });
});

describe('what a rule may do as well', () => {
  const shop = (rule: string) => `counters: { score: {}, oil: { min: 0 } }
pieces: { lamp: { is: collectible } }
levels: [{ place: { lamp: 1 } }]
rules:
${rule}`;
  const paid = (text: string): string => {
    const [{ clauses } = { clauses: [] }] = sentencesOf(text).rules;
    return changeDesign(text, clauses.find(({ label }) => label === 'pay with oil')!.change);
  };

  test('a price goes before what is done for it, whatever stands between, and a second one beside the first', () => {
    const inLine = shop('  - { when: lamp.taken, do: [{ add: { score: 1 } }] }\n');
    expect(paid(inLine)).toBe(inLine.replace('[{ add', '[{ pay: { oil: 1 } }, { add'));
    const inLines = shop(
      '  - when: lamp.taken\n    do:\n      # A lit lamp is worth a point.\n      - add: { score: 1 } # One.\n      - cue: chime\n',
    );
    expect(paid(inLines)).toBe(
      inLines
        .replace('      - add', '      - pay: { oil: 1 }\n      - add')
        .replace('- pay: { oil: 1 }', '- { pay: { oil: 1 } }'),
    );
    const both = paid(shop('  - { when: lamp.taken, do: [{ pay: { score: 2 } }, { cue: chime }] }\n'));
    expect(readDesign(both).rules).toHaveLength(1);
    expect(both).toContain('do: [{ pay: { score: 2, oil: 1 } }, { cue: chime }]');
    // A price that it takes already is a number to turn, not one to write over.
    const labels = sentencesOf(both).rules[0]!.clauses.map(({ label }) => label);
    expect(labels.filter((label) => label.startsWith('pay'))).toEqual([]);
  });
});

describe('a place in the file', () => {
  test('belongs to the last of the sentences on its line that begins before it, and to none before the first', () => {
    const all = Object.values(sentencesOf(things)).flat();
    const about = (line: number, column: number): string[] =>
      all.filter((sentence: Sentence) => isAbout(sentence, { line, column })).map(textOf);
    const [, second = ''] = things.split('\n');
    expect(about(2, second.indexOf('flask') + 1)).toEqual(['A flask is a collectible.']);
    expect(about(2, second.indexOf('hazard') + 1)).toEqual(['A gust is a hazard.']);
    expect(about(2, 1)).toEqual([]);
    expect(about(6, 40)).toEqual(['When gust.hit, add -1 to lives.']);
  });
});

test('several words make one name, and what no name can hold stays as it is', () => {
  const names = [
    'acorn',
    ' storm gust ',
    'game-over',
    "owl's eye",
    'Café au lait',
    'level 2',
    '2nd wave',
    'Größe',
    'a.b',
    '',
  ];
  expect(names.map(nameFrom)).toEqual([
    ...['acorn', 'stormGust', 'gameOver', 'owlsEye', 'CafeAuLait', 'level2', '2ndWave', 'Größe', 'a.b', ''],
  ]);
});
