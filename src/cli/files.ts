import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import type { Design } from '../design/model.js';
import { UsageError } from '../design/problem.js';
import { readDesign } from '../design/read.js';

const mostBytes = 64 * 1024 * 1024;

/**
 * A whole text file.
 *
 * @throws UsageError where there is none, it is a directory, or it cannot be read
 */
export function readText(file: string, what: string): string {
  try {
    const stats = statSync(file);
    if (stats.isDirectory()) throw new UsageError(`${file} is a directory; give the path of ${what}.`);
    if (stats.size > mostBytes)
      throw new UsageError(`${file} has ${stats.size} bytes; at most ${mostBytes} are read.`);
    return readFileSync(file, 'utf8').replace(/^\uFEFF/, '');
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
}

export const readDesignFile = (file: string): Design =>
  readDesign(readText(file, 'a design in YAML or JSON'), file);

/**
 * Writes a file that is made anew each time, over one that was made before but never over one of somebody's own.
 *
 * @param mark a text that every file of this kind has in its first line
 * @throws UsageError where another file is in the way, or it cannot be written
 */
export function writeMade(file: string, text: string, mark: string): void {
  const isOurs =
    existsSync(file) && statSync(file).isFile() && readText(file, mark).split('\n', 1)[0]!.includes(mark);
  write(file, text, isOurs ? 'w' : 'wx');
}

/**
 * Writes a file, over one that is there: a report that is asked for by name.
 *
 * @throws UsageError where it cannot be written
 */
export const writeOver = (file: string, text: string): void => write(file, text, 'w');

/**
 * Writes a file that is not there yet.
 *
 * @throws UsageError where it is there already, or cannot be written
 */
export const writeNew = (file: string, text: string): void => write(file, text, 'wx');

function write(file: string, text: string, flag: 'w' | 'wx'): void {
  try {
    writeFileSync(file, text, { flag });
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    const reasons: { readonly [code: string]: string } = {
      EEXIST: `There is a file ${file} already; choose another name.`,
      ENOENT: `The folder of ${file} does not exist; make it first.`,
      EACCES: `${file} may not be written; choose another place.`,
    };
    throw new UsageError(reasons[code ?? ''] ?? `${file} cannot be written (${code}).`);
  }
}
