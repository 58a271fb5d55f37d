import { levelName, mostLevels } from '../design/language/level-name.js';
import type { Change } from '../design/text/change.js';
import type { Path } from '../design/text/source.js';
import { isMap, isScalar, levelsIn, type Raw, sectionsIn } from './grammar/words.js';

/** A column of the table of levels: a value of theirs, or how many of a piece stand there at the start. */
export interface LevelColumn {
  readonly of: 'values' | 'place';
  readonly name: string;
}

interface LevelRow {
  readonly name: string;
  readonly line: number;
  readonly column: number;
  /** By column, as it is written; undefined where the level says nothing of it. */
  readonly cells: readonly (string | number | undefined)[];
}

export interface LevelTable {
  readonly columns: readonly LevelColumn[];
  readonly rows: readonly LevelRow[];
}

/** One level, and the entry that gives it: the only one of it, or the one at `nth` of `count`. */
interface Given {
  readonly entry: Raw;
  readonly path: Path;
  readonly nth: number;
  readonly count: number;
}

/** The levels of a design as a table, one row a level; empty where the text is no YAML. */
export function levelTableOf(text: string): LevelTable {
  const { source, sections } = sectionsIn(text);
  const levels = givenIn(sections);
  const namesOf = (of: LevelColumn['of']): string[] => [
    ...new Set(levels.flatMap(({ entry }) => Object.keys(isMap(entry[of]) ? entry[of] : {}))),
  ];
  const columns = (['values', 'place'] as const).flatMap((of) =>
    namesOf(of).map((name): LevelColumn => ({ of, name })),
  );
  const rows = levels.map((level, index): LevelRow => {
    const { entry, path, nth, count } = level;
    const cells = columns.map((column) => {
      const value = cellOf(level, column);
      return isScalar(value) ? (typeof value === 'boolean' ? String(value) : value) : undefined;
    });
    const name = levelName(typeof entry.name === 'string' ? entry.name : undefined, index + 1, nth, count);
    const { line, column } = source.keyPlaceOf(path);
    return { name, line, column, cells };
  });
  return { columns, rows };
}

/**
 * Puts cells of a spreadsheet into the table, from one cell on: rows past its end become new levels, like the last but for what is put.
 * An empty cell takes out what stands there; cells past the last column are left out. What is put at one of several levels that an entry
 * gives makes a list of that value.
 *
 * @param at the row and the column of the first cell; column -1 is the name of the level
 */
export function pasteLevels(
  text: string,
  at: { readonly row: number; readonly column: number },
  cells: readonly (readonly string[])[],
): Change[] {
  const { sections } = sectionsIn(text);
  const { columns } = levelTableOf(text);
  const levels = givenIn(sections);
  const last = levels.at(-1)?.entry ?? {};
  const lists = new Map<string, Extract<Change, { kind: 'set' }> & { readonly value: unknown[] }>();
  /** The list of a value of the levels that an entry gives, to which the changes of all its rows go. */
  const listOf = ({ entry, path, count }: Given, { name }: LevelColumn) => {
    const own = [...path, 'values', name];
    const known = lists.get(own.join());
    if (known !== undefined) return { list: known, isNew: false };
    const value = isMap(entry.values) ? entry.values[name] : undefined;
    const list = {
      kind: 'set',
      path: own,
      value: Array.isArray(value) ? [...value] : Array.from({ length: count }, () => value ?? 0),
    } as const;
    lists.set(own.join(), list);
    return { list, isNew: true };
  };
  const cell = (row: number, column: number, written: string): Change[] => {
    const value = asWritten(written);
    const level = levels[row];
    const path = level?.path ?? ['levels', row];
    if (column === -1)
      return value === undefined ? [] : [{ kind: 'set', path: [...path, 'name'], value: written.trim() }];
    const held = columns[column];
    if (held === undefined) return [];
    const own = [...path, held.of, held.name];
    if (level !== undefined && level.count > 1 && held.of === 'values' && value !== undefined) {
      const { list, isNew } = listOf(level, held);
      list.value[level.nth] = value;
      return isNew ? [list] : [];
    }
    if (value !== undefined) return [{ kind: 'set', path: own, value }];
    const model = level?.entry ?? last;
    return isMap(model[held.of]) && held.name in (model[held.of] as Raw)
      ? [{ kind: 'remove', path: own }]
      : [];
  };
  // One entry for all levels becomes the first of a list, before others are added to it.
  const isOne = isMap(sections.levels) && at.row + cells.length > levels.length;
  const before: Change[] = isOne ? [{ kind: 'set', path: ['levels'], value: [sections.levels] }] : [];
  const entries = levelsIn(sections).length;
  const changes = cells.flatMap((line, down): Change[] => {
    const row = at.row + down;
    const added = entries + row - levels.length;
    const isNew = row >= levels.length;
    const put = line.flatMap((each, right) => cell(row, at.column + right, each));
    if (!isNew) return put;
    return [
      { kind: 'add', path: ['levels'], value: oneLike(last, `Level ${row + 1}`) },
      ...put.map((change) => ({ ...change, path: ['levels', added, ...change.path.slice(2)] }) as Change),
    ];
  });
  return [...before, ...(isOne ? changes.map(inList) : changes)];
}

/** A change of the one entry for all levels, once it is the first of a list. */
const inList = (change: Change): Change =>
  change.path[0] === 'levels' && change.path.length > 1 && typeof change.path[1] === 'string'
    ? ({ ...change, path: ['levels', 0, ...change.path.slice(1)] } as Change)
    : change;

/** One level like the last of those that an entry gives, but for its name. */
export function oneLike({ count, ...entry }: Raw, name: string): Raw {
  const { values } = entry;
  if (!isMap(values)) return { ...entry, name };
  const last = Object.entries(values).map(([key, value]) => [
    key,
    Array.isArray(value) ? value.at(-1) : value,
  ]);
  return { ...entry, name, values: Object.fromEntries(last) };
}

export const countLevels = (sections: Raw): number => givenIn(sections).length;

/** The table as a spreadsheet takes it: cells divided by tabs, a line a level. */
export const levelsAsText = ({ columns, rows }: LevelTable): string =>
  [
    ['level', ...columns.map(({ name }) => name)],
    ...rows.map(({ name, cells }) => [name, ...cells.map((cell) => String(cell ?? ''))]),
  ]
    .map((line) => line.map((cell) => cell.replaceAll(/[\t\n\r]/g, ' ')).join('\t'))
    .join('\n');

const givenIn = (sections: Raw): Given[] =>
  levelsIn(sections).flatMap(({ entry, path }) => {
    const lists = Object.values(isMap(entry.values) ? entry.values : {}).filter(Array.isArray);
    const asked = typeof entry.count === 'number' ? entry.count : (lists[0]?.length ?? 1);
    const count = Math.min(mostLevels, Math.max(1, Math.floor(asked) || 1));
    return Array.from({ length: count }, (_, nth): Given => ({ entry, path, nth, count }));
  });

function cellOf({ entry, nth }: Given, { of, name }: LevelColumn): unknown {
  const value = isMap(entry[of]) ? entry[of][name] : undefined;
  return Array.isArray(value) ? value[nth] : value;
}

function asWritten(cell: string): string | number | undefined {
  const text = cell.trim();
  if (text === '') return undefined;
  // Spreadsheets of many countries write decimals with a comma.
  const number = Number(/^-?\d+,\d+$/.test(text) ? text.replace(',', '.') : text);
  return Number.isFinite(number) ? number : text;
}
