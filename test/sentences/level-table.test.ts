import { expect, test } from 'vitest';
import { changeDesign } from '../../src/design/text/change.js';
import { readDesign } from '../../src/index.js';
import { levelsAsText, levelTableOf, pasteLevels } from '../../src/sentences/level-table.js';
import { demoText } from '../support/designs.js';

const paste = (text: string, row: number, column: number, block: string): string =>
  pasteLevels(
    text,
    { row, column },
    block.split('\n').map((line) => line.split('\t')),
  ).reduce(changeDesign, text);

test('levels are a table: their values, and what stands there', () => {
  const { columns, rows } = levelTableOf(demoText);
  expect(columns).toEqual([
    { of: 'values', name: 'quota' },
    { of: 'place', name: 'blossom' },
  ]);
  expect(rows.map(({ name, cells }) => [name, ...cells])).toEqual([
    ['Gorse Bank', 12, 2],
    ['Foxglove Hollow', 16, undefined],
    ['Last Light', 20, undefined],
  ]);
  expect(levelTableOf('{{{').rows).toEqual([]);
  expect(levelTableOf('levels: 3').rows).toEqual([]);
});

test('copied to a spreadsheet and pasted back, nothing changes', () => {
  const [, ...lines] = levelsAsText(levelTableOf(demoText)).split('\n');
  expect(paste(demoText, 0, -1, lines.join('\n'))).toBe(demoText);
});

test('rows past the end become levels like the last, and all of it can be read', () => {
  const text = paste(demoText, 2, -1, 'Last Light\t21\t1\nFirst Frost\t24\t\nSnow\t2,5\t4');
  const { levels } = readDesign(text);
  expect(levels.map(({ name }) => name)).toEqual([
    'Gorse Bank',
    'Foxglove Hollow',
    'Last Light',
    'First Frost',
    'Snow',
  ]);
  expect(levels[4]!.spawns).toEqual(
    levels[2]!.spawns.map((spawn) => ({ ...spawn, place: expect.anything() })),
  );
  expect(
    levelTableOf(text)
      .rows.slice(2)
      .map(({ cells }) => cells),
  ).toEqual([
    [21, 1],
    [24, undefined],
    [2.5, 4],
  ]);
});

test('an empty cell takes out what stands there; formulas stay formulas; cells past the table are left out', () => {
  const text = paste(demoText, 0, 1, '\t9\t9');
  expect(text).toBe(demoText.replace('    place: { blossom: 2 }\n', '    place: {}\n'));
  expect(levelTableOf(paste(demoText, 1, 0, '10 + 2 * level')).rows[1]!.cells[0]).toBe('10 + 2 * level');
});
