import { type CsvError, parse } from 'csv-parse/browser/esm/sync';
import { stringify } from 'csv-stringify/browser/esm/sync';
import type { SimulationSummary } from '../../balance/summary.js';
import type { Expression } from '../../design/language/expression.js';
import type { Design } from '../../design/model.js';
import { UsageError } from '../../design/problems/problem.js';
import { changeDesign } from '../../design/text/change.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { Evaluator } from '../../engine/run/evaluator.js';
import { type LevelColumn, levelTableOf, pasteLevels } from '../../sentences/level-table.js';

/** A cell of the table: what is written, or what comes of it. */
type Cell = string | number | null;

/** The levels of a design side by side with what their formulas give and how players fare there. */
export interface LevelSheet {
  readonly header: readonly string[];
  readonly rows: readonly (readonly Cell[])[];
}

const nameOf = ({ of, name }: LevelColumn): string => (of === 'place' ? `place ${name}` : name);

/** Headers of what is worked out or measured, and never read back. */
const isFound = (header: string): boolean => /^(level|line)$| is$| reached by | fails? /.test(header);

/**
 * @param text what the design was read from
 * @param summary what was played of it; without it no figures stand beside the levels
 */
export function levelSheet(text: string, design: Design, summary?: SimulationSummary): LevelSheet {
  const { columns, rows } = levelTableOf(text);
  const form = formOf(design);
  const cells = new Float64Array(form.cells.size);
  const valueAt = (level: number, { of, name }: LevelColumn): Cell => {
    const { values, placed } = design.levels[level]!;
    const count = placed.find(({ piece }) => piece === name)?.count;
    const found = of === 'values' ? values.get(name) : count;
    if (found === undefined) return null;
    if (typeof found === 'number') return found;
    return evaluated(form, cells, level, found);
  };
  const computed = columns.filter((_, column) => rows.some((row) => typeof row.cells[column] === 'string'));
  const players = Object.entries(summary?.players ?? {});
  // Where nothing says that a run has failed, no level is said to be failed.
  const failing = players.filter(([, of]) => of.levels.some(({ fails }) => fails !== null));
  return {
    header: [
      'level',
      'name',
      ...columns.map(nameOf),
      ...computed.map((column) => `${nameOf(column)} is`),
      ...players.map(([player]) => `% reached by ${player}`),
      ...failing.map(([player]) => `% fail of ${player}`),
    ],
    rows: rows
      .slice(0, design.levels.length)
      .map((row, level) => [
        level + 1,
        row.name,
        ...row.cells.map((cell) => cell ?? null),
        ...computed.map((column) => valueAt(level, column)),
        ...players.map(([, { levels }]) => percentage(levels[level]?.reached.value ?? 0)),
        ...failing.map(([, of]) => percentage(of.levels[level]?.fails?.value ?? null)),
      ]),
  };
}

const percentage = (share: number | null): number | null =>
  share === null ? null : Math.round(1000 * share) / 10;

function evaluated(
  form: ReturnType<typeof formOf>,
  cells: Float64Array,
  level: number,
  of: Expression,
): number {
  cells[form.cells.level] = level;
  const evaluator = new Evaluator(form, cells);
  return evaluator.value(evaluator.add(form.lowerTerm(of)));
}

export const levelsToCsv = ({ header, rows }: LevelSheet): string =>
  stringify([[...header], ...rows.map((row) => [...row])]);

/**
 * A design with the levels as a table gives them: CSV as `levelsToCsv` writes it, its cells changed, with rows more at the end for new levels.
 * Comments and layout of the text stay; what is worked out or measured is passed over.
 *
 * @param file the name of the table, for messages
 * @throws UsageError for what is no table, a column that the levels do not have, or rows that are missing
 * @example
 * const table = levelsToCsv(levelSheet(text, readDesign(text)));
 * const changed = withLevels(text, table, 'levels.csv'); // the same text, as long as no cell was changed
 */
export function withLevels(text: string, csv: string, file: string): string {
  const [header = [], ...lines] = readCsv(csv, file);
  const { columns, rows } = levelTableOf(text);
  const known = columns.map(nameOf);
  const allowed = ['name', ...known];
  const strange = header.find((each) => !allowed.includes(each) && !isFound(each));
  if (strange !== undefined)
    throw new UsageError(
      'bad-file',
      `${file} has the column "${strange}", which no level of the design has. Allowed are ${allowed.join(', ')}; write a new value at one level of the design first.`,
    );
  if (lines.length < rows.length)
    throw new UsageError(
      'bad-file',
      `${file} has ${lines.length === 1 ? '1 level' : `${lines.length} levels`}, and the design has ${rows.length}. Take levels out in the design itself.`,
    );
  const at = (line: readonly string[], name: string): string | undefined => line[header.indexOf(name)];
  const written = (value: Cell | undefined): string => String(value ?? '');
  // Only what differs is put, so that everything else stays as it is written.
  return lines.reduce((changed, line, row) => {
    const before = rows[row];
    const own = [at(line, 'name'), ...known.map((name) => at(line, name))];
    const stood = before === undefined ? [] : [before.name, ...before.cells.map(written)];
    if (before === undefined)
      return paste(
        changed,
        row,
        -1,
        own.map((cell) => cell ?? ''),
      );
    return own.reduce<string>(
      (text, cell, index) =>
        cell === undefined || cell === stood[index] ? text : paste(text, row, index - 1, [cell]),
      changed,
    );
  }, text);
}

const paste = (text: string, row: number, column: number, line: readonly string[]): string =>
  pasteLevels(text, { row, column }, [line]).reduce(changeDesign, text);

function readCsv(text: string, file: string): string[][] {
  try {
    return parse(text, { bom: true, relax_column_count: true, skip_empty_lines: true, trim: true });
  } catch (error) {
    const { lines } = error as CsvError;
    throw new UsageError(
      'bad-file',
      `${file}:${lines ?? 1}: this is no CSV; give a table as jocus levels --format csv writes it.`,
    );
  }
}
