// The build for browsers runs in Node too, and asks neither for a Buffer of its own.
import { stringify } from 'csv-stringify/browser/esm/sync';
import type { Design } from '../../design/model.js';
import { runColumns, runWidth, type SessionLog } from '../../measure/session-log.js';

/** A line of a table, by the names of its columns; null where there is no value. */
export type Row = { readonly [column: string]: string | number | null };

const rowFormats = ['csv', 'jsonl'] as const;
export type RowFormat = (typeof rowFormats)[number];

export const runColumnNames = [
  'player',
  'session',
  'run',
  'began',
  'seconds',
  'score',
  'ending',
  'cause',
  'level',
  'lives',
  'firstPoint',
  'firstLoss',
  'drySpell',
  'streak',
] as const;
export const sessionColumnNames = ['player', 'session', 'seconds', 'runs', 'best', 'won'] as const;
/** `tried` is 0 for a piece that was missed because nobody attended to it. */
export const eventColumnNames = ['player', 'session', 'at', 'event', 'tried'] as const;

/** One row for each run of a session; times are seconds, levels and runs count from 1. */
export function runRows(design: Design, player: string, log: SessionLog): Row[] {
  const read = scales(design);
  return Array.from({ length: log.runs }, (_, run) => {
    const column = (name: keyof typeof runColumns): number => log.columns[run * runWidth + runColumns[name]]!;
    const seconds = (name: keyof typeof runColumns): number | null =>
      column(name) < 0 ? null : column(name) / 1000;
    const cause = design.transitions[column('cause')];
    return {
      player,
      session: log.session,
      run: run + 1,
      began: seconds('began'),
      seconds: seconds('duration'),
      score: read('score', column('score')),
      ending: design.screens[column('ending')]?.name ?? null,
      cause: cause === undefined ? null : `${cause.from} -> ${cause.to}`,
      level: column('level') + 1,
      lives: read('lives', column('lives')),
      firstPoint: seconds('firstPoint'),
      firstLoss: seconds('firstLoss'),
      drySpell: seconds('drySpell'),
      streak: column('streak'),
    };
  });
}

/** One row for a session: `best` is the best score of its runs, `won` how many of them were won. */
export function sessionRow(design: Design, player: string, log: SessionLog): Row {
  const rows = runRows(design, player, log);
  const scores = rows.flatMap(({ score }) => (typeof score === 'number' ? [score] : []));
  const won = new Set(design.screens.flatMap(({ name, ending }) => (ending === 'won' ? [name] : [])));
  return {
    player,
    session: log.session,
    seconds: log.duration / 1000,
    runs: log.runs,
    best: scores.length === 0 ? null : Math.max(...scores),
    won: rows.filter(({ ending }) => typeof ending === 'string' && won.has(ending)).length,
  };
}

/**
 * Rows as CSV (RFC 4180) or JSON Lines; CSV begins with the names of the columns where it is the first text. In CSV, a text that a
 * spreadsheet would take for a formula, since it begins with `=`, `+`, `-` or `@`, has an apostrophe put before it.
 */
export function rowsToText(
  rows: readonly Row[],
  columns: readonly string[],
  format: RowFormat,
  isFirst: boolean,
): string {
  if (format === 'jsonl') return rows.map((row) => `${JSON.stringify(row)}\n`).join('');
  return stringify([...rows], {
    columns: [...columns],
    header: isFirst,
    record_delimiter: 'windows',
    escape_formulas: true,
  });
}

/** Counters as their designers write them; null for one that the design has not. */
function scales({
  counters,
  score,
  lives,
}: Design): (which: 'score' | 'lives', value: number) => number | null {
  const names = { score, lives };
  return (which, value) => {
    const counter = counters.find(({ name }) => name === names[which]);
    return counter === undefined ? null : value / 10 ** counter.places;
  };
}
