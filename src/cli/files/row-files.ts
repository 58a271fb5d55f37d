import { UsageError } from '../../design/problems/problem.js';
import { visible } from '../../formats/characters.js';
import { type Row, rowsToText } from '../../formats/tables/rows.js';
import { number } from '../../formats/written.js';
import { OutputFile } from '../../node/output-file.js';

/** Rows written at once. */
const batch = 1000;

/** A file of rows under way, in the place of an older one once it is closed. */
export interface RowFile {
  add(rows: readonly Row[]): void;
  /** Writes what is left, and says what was written. */
  close(): string;
  /** Leaves the older file as it was. */
  abandon(): void;
}

/**
 * A file of rows; nothing is written before there are some, or it is closed.
 *
 * @throws UsageError where its name gives no format
 */
export function rowFile(file: string | undefined, columns: readonly string[]): RowFile | undefined {
  if (file === undefined) return undefined;
  const format = /\.csv$/i.test(file) ? 'csv' : /\.(jsonl|ndjson)$/i.test(file) ? 'jsonl' : undefined;
  if (format === undefined)
    throw new UsageError(
      'bad-argument',
      `The name ${file} gives no format; let it end in .csv or in .jsonl (JSON Lines).`,
    );
  let output: OutputFile | undefined;
  let waiting: Row[] = [];
  let written = 0;
  const flush = (): void => {
    output ??= new OutputFile(file);
    output.write(rowsToText(waiting, columns, format, written === 0));
    written += waiting.length;
    waiting = [];
  };
  return {
    add(rows) {
      waiting.push(...rows);
      if (waiting.length >= batch) flush();
    },
    close() {
      if (waiting.length > 0 || written === 0) flush();
      output!.commit();
      return `Saved ${visible(file)}: ${number(written)} rows.`;
    },
    abandon() {
      output?.abandon();
    },
  };
}
