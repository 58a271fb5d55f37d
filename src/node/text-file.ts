import { readFileSync, statSync } from 'node:fs';
import { UsageError } from '../design/problems/problem.js';

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
    if (stats.isDirectory())
      throw new UsageError('bad-file', `${file} is a directory; give the path of ${what}.`);
    if (stats.size > mostBytes)
      throw new UsageError('bad-file', `${file} has ${stats.size} bytes; at most ${mostBytes} are read.`);
    bytes = readFileSync(file);
  } catch (error) {
    if (error instanceof UsageError) throw error;
    const { code } = error as NodeJS.ErrnoException;
    const reasons: { readonly [code: string]: string } = {
      ENOENT: `There is no file ${file}; give the path of ${what}.`,
      EACCES: `${file} may not be read; change its permissions.`,
    };
    throw new UsageError(
      'bad-file',
      reasons[code ?? ''] ?? `${file} cannot be read (${code}); give the path of ${what}.`,
    );
  }
  const hasMark = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf;
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), hasMark };
  } catch {
    throw new UsageError(
      'bad-file',
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
