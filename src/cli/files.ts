import { readFileSync, statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import type { Design } from '../design/model.js';
import { UsageError } from '../design/problem.js';
import { readDesign } from '../design/read.js';
import { isSameFile, isTaken, statsOf, writeWhole } from '../node/output-file.js';

const mostBytes = 64 * 1024 * 1024;

/** A text file as it was read: its text without a byte-order mark, and whether it had one. */
export interface TextFile {
  readonly text: string;
  readonly hasMark: boolean;
}

/**
 * A whole text file in UTF-8.
 *
 * @throws UsageError where there is none, it is a directory, it cannot be read, or its bytes are not UTF-8
 */
export function readTextFile(file: string, what: string): TextFile {
  let bytes: Buffer;
  try {
    const stats = statSync(file);
    if (stats.isDirectory()) throw new UsageError(`${file} is a directory; give the path of ${what}.`);
    if (stats.size > mostBytes)
      throw new UsageError(`${file} has ${stats.size} bytes; at most ${mostBytes} are read.`);
    bytes = readFileSync(file);
  } catch (error) {
    if (error instanceof UsageError) throw error;
    const { code } = error as NodeJS.ErrnoException;
    const reasons: { readonly [code: string]: string } = {
      ENOENT: `There is no file ${file}; give the path of ${what}.`,
      EACCES: `${file} may not be read; change its permissions.`,
    };
    throw new UsageError(
      reasons[code ?? ''] ?? `${file} cannot be read (${code}); give the path of ${what}.`,
    );
  }
  const hasMark = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf;
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), hasMark };
  } catch {
    throw new UsageError(
      `${file}:${placeOfBadByte(bytes)} is not UTF-8 text; save the file with the encoding UTF-8.`,
    );
  }
}

/** Line and column of the first character that is not UTF-8. */
function placeOfBadByte(bytes: Buffer): string {
  // What a reader that is not strict puts in its place is told from the same character written on purpose by its length.
  let offset = 0;
  let line = 1;
  let column = 1;
  for (const character of bytes.toString('utf8')) {
    const length = Buffer.byteLength(character);
    if (character === '\ufffd' && bytes.toString('latin1', offset, offset + 3) !== 'ï¿½') break;
    offset += length;
    if (character === '\n') {
      line++;
      column = 1;
    } else column++;
  }
  return `${line}:${column}`;
}

/** The text of a file; see `readTextFile`. */
export const readText = (file: string, what: string): string => readTextFile(file, what).text;

export const readDesignFile = (file: string): Design =>
  readDesign(readText(file, 'a design in YAML or JSON'), file);

/**
 * Makes sure, before any work is done, that results can go to a file: that it is none of those that are read, nor a folder, and that its
 * own folder is there.
 *
 * @param file undefined: nothing is written
 * @param inputs files that the command reads, and others that it writes
 * @throws UsageError
 */
export function mustBeOutput(file: string | undefined, inputs: readonly (string | undefined)[]): void {
  if (file === undefined) return;
  for (const input of inputs) {
    if (input === undefined || !(resolve(input) === resolve(file) || isSameFile(file, input))) continue;
    const which = input === file ? file : `${file}, which is the same file as ${input},`;
    throw new UsageError(`${which} is in use by this command already; give the result a file of its own.`);
  }
  if (statsOf(file)?.isDirectory()) throw new UsageError(`${file} is a folder; give the name of a file.`);
  if (statsOf(dirname(file))?.isDirectory() !== true)
    throw new UsageError(`The folder of ${file} does not exist; make it first.`);
}

/**
 * Makes sure, before any work is done, that a file is not there yet.
 *
 * @throws UsageError
 */
export function mustBeNew(file: string | undefined): void {
  if (file !== undefined && isTaken(file))
    throw new UsageError(`There is a file ${file} already; choose another name.`);
}

/**
 * Writes a file, over one that is there: a report that is asked for by name.
 *
 * @throws UsageError where it cannot be written; the old file is then as it was
 */
export const writeOver = (file: string, text: string): void => writeWhole(file, text);

/**
 * Writes a file that is not there yet.
 *
 * @throws UsageError where it is there already, or cannot be written
 */
export function writeNew(file: string, text: string): void {
  mustBeNew(file);
  writeWhole(file, text);
}
