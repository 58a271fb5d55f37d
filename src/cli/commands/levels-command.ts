import { summarize } from '../../balance/summary.js';
import { UsageError } from '../../design/problems/problem.js';
import { readDesign } from '../../design/read.js';
import { type LevelSheet, levelSheet, levelsToCsv, withLevels } from '../../formats/tables/levels-csv.js';
import { number } from '../../formats/written.js';
import { readTextFile } from '../../node/text-file.js';
import { simulate } from '../../simulate/simulate.js';
import { Deadline } from '../deadline.js';
import { mustTakeDesign, readText, writeChanged } from '../files/files.js';
import { type ExitCode, json, type levelsFormats } from '../outcome.js';
import { withProgress } from '../progress.js';
import { columns, paint, plain, type Terminal } from '../terminal.js';

export interface LevelsCall {
  readonly sessions: number;
  readonly seed: number;
  readonly format: (typeof levelsFormats)[number];
  readonly seconds: number;
  /** A table to take levels from, and where the design goes with them. */
  readonly from: string | undefined;
  readonly write: string | undefined;
}

/** The levels of a design as a table, out and in. */
export function levelsCommand(terminal: Terminal, file: string, call: LevelsCall): ExitCode {
  const { from, write } = call;
  if ((from === undefined) !== (write === undefined))
    throw new UsageError(
      'bad-argument',
      'Give both --from TABLE.csv and --write DESIGN, which may be the design itself.',
    );
  if (from !== undefined && write !== undefined) return takeIn(terminal, file, from, write);
  const text = readText(file, 'a design in YAML or JSON');
  const design = readDesign(text, file);
  const deadline = new Deadline(call.seconds);
  const { sessions, seed } = call;
  const summary =
    sessions === 0
      ? undefined
      : withProgress(
          terminal,
          'sessions',
          sessions * design.players.length,
          (progress) => summarize(simulate(design, { sessions, seed, progress })),
          () => deadline.mustHold('Ask for fewer --sessions'),
        );
  const sheet = levelSheet(text, design, summary);
  if (call.format === 'csv') terminal.out(levelsToCsv(sheet));
  else if (call.format === 'json') terminal.out(json(asObjects(sheet)));
  else terminal.out(shown(terminal, design.title, sheet));
  return 0;
}

const asObjects = ({ header, rows }: LevelSheet) =>
  rows.map((row) => Object.fromEntries(header.map((name, column) => [name, row[column] ?? null])));

function shown(terminal: Terminal, title: string, { header, rows }: LevelSheet): string {
  const cell = (value: LevelSheet['rows'][0][0]): string =>
    value === null ? '–' : typeof value === 'number' ? number(value) : plain(value);
  const right = header.flatMap((_, column) => (column === 1 ? [] : [column]));
  return [
    `${paint(terminal, 'bold', plain(title))}  ${rows.length === 1 ? '1 level' : `${rows.length} levels`}\n\n`,
    columns(
      [header.map((name) => paint(terminal, 'bold', plain(name))), ...rows.map((row) => row.map(cell))],
      right,
    ),
  ].join('');
}

function takeIn(terminal: Terminal, file: string, from: string, write: string): ExitCode {
  const isItself = mustTakeDesign(write, file, [from]);
  const { text, hasMark } = readTextFile(file, 'a design in YAML or JSON');
  const changed = withLevels(text, readText(from, 'a table of levels in CSV'), from);
  const before = readDesign(text, file);
  // What no longer reads is told as the design that it would be, and not written.
  const after = readDesign(changed, write);
  writeChanged(write, changed, { isItself, hasMark });
  const more = after.levels.length - before.levels.length;
  const added = more === 0 ? '' : more === 1 ? ', 1 level added' : `, ${more} levels added`;
  terminal.out(`Wrote ${plain(write)}${changed === text ? ': nothing differs' : added}.\n`);
  return 0;
}
