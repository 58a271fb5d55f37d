import type { Change } from '../design/text/change.js';
import { isMap, isScalar, type Raw, sectionsIn } from './grammar/words.js';

/** A column of the table of levels: a value of theirs, or how many of a piece stand there at the start. */
export interface LevelColumn {
  readonly of: 'values' | 'place';
  readonly name: string;
}

export interface LevelRow {
  readonly name: string;
  readonly line: number;
  /** By column, as it is written; undefined where the level says nothing of it. */
  readonly cells: readonly (string | number | undefined)[];
}

export interface LevelTable {
  readonly columns: readonly LevelColumn[];
  readonly rows: readonly LevelRow[];
}

/** The levels of a design as a table, one row a level; empty where the text is no YAML. */
export function levelTableOf(text: string): LevelTable {
  const { source, sections } = sectionsIn(text);
  const levels = levelsIn(sections);
  const namesOf = (of: LevelColumn['of']): string[] => [
    ...new Set(levels.flatMap((level) => Object.keys(isMap(level[of]) ? level[of] : {}))),
  ];
  const columns = (['values', 'place'] as const).flatMap((of) =>
    namesOf(of).map((name): LevelColumn => ({ of, name })),
  );
  const rows = levels.map((level, index): LevelRow => {
    const cells = columns.map(({ of, name }) => {
      const value = isMap(level[of]) ? level[of][name] : undefined;
      return isScalar(value) ? (typeof value === 'boolean' ? String(value) : value) : undefined;
    });
    const name = typeof level.name === 'string' ? level.name : `Level ${index + 1}`;
    return { name, line: source.keyPlaceOf(['levels', index]).line, cells };
  });
  return { columns, rows };
}

/**
 * Puts cells of a spreadsheet into the table, from one cell on: rows past its end become new levels, like the last but for what is put.
 * An empty cell takes out what stands there; cells past the last column are left out.
 *
 * @param at the row and the column of the first cell; column -1 is the name of the level
 */
export function pasteLevels(
  text: string,
  at: { readonly row: number; readonly column: number },
  cells: readonly (readonly string[])[],
): Change[] {
  const { columns, rows } = levelTableOf(text);
  const last = levelsIn(sectionsIn(text).sections).at(-1) ?? {};
  return cells.flatMap((line, down): Change[] => {
    const row = at.row + down;
    const isNew = row >= rows.length;
    const changes = line.flatMap((cell, right): Change[] => {
      const value = asWritten(cell);
      const column = columns[at.column + right];
      if (at.column + right === -1)
        return value === undefined
          ? []
          : [{ kind: 'set', path: ['levels', row, 'name'], value: cell.trim() }];
      if (column === undefined) return [];
      const path = ['levels', row, column.of, column.name];
      if (value !== undefined) return [{ kind: 'set', path, value }];
      const isThere = !isNew && rows[row]!.cells[at.column + right] !== undefined;
      return isThere || (isNew && isMap(last[column.of]) && column.name in (last[column.of] as Raw))
        ? [{ kind: 'remove', path }]
        : [];
    });
    return isNew
      ? [{ kind: 'add', path: ['levels'], value: { ...last, name: `Level ${row + 1}` } }, ...changes]
      : changes;
  });
}

/** The table as a spreadsheet takes it: cells divided by tabs, a line a level. */
export const levelsAsText = ({ columns, rows }: LevelTable): string =>
  [
    ['level', ...columns.map(({ name }) => name)],
    ...rows.map(({ name, cells }) => [name, ...cells.map((cell) => String(cell ?? ''))]),
  ]
    .map((line) => line.map((cell) => cell.replaceAll(/[\t\n\r]/g, ' ')).join('\t'))
    .join('\n');

const levelsIn = ({ levels }: Raw): readonly Raw[] =>
  Array.isArray(levels) ? levels.map((level: unknown) => (isMap(level) ? level : {})) : [];

function asWritten(cell: string): string | number | undefined {
  const text = cell.trim();
  if (text === '') return undefined;
  // Spreadsheets of many countries write decimals with a comma.
  const number = Number(/^-?\d+,\d+$/.test(text) ? text.replace(',', '.') : text);
  return Number.isFinite(number) ? number : text;
}
