import { styleText } from 'node:util';
import Table from 'cli-table3';
import { visible } from '../formats/characters.js';

/** Where a command writes, handed in so that a test can read it. */
export interface Terminal {
  readonly out: (text: string) => void;
  readonly err: (text: string) => void;
  /** Columns of the terminal. */
  readonly width: number;
  readonly colour: boolean;
  /** Whether progress may be drawn on standard error. */
  readonly progress: boolean;
}

type Style = 'redBright' | 'green' | 'yellow' | 'cyan' | 'dim' | 'bold';

/** Styles each line by itself, since a table sets lines of several cells side by side. */
export const paint = (terminal: Terminal, style: Style, text: string): string =>
  terminal.colour
    ? text
        .split('\n')
        .map((line) => styleText(style, line, { validateStream: false }))
        .join('\n')
    : text;

export const heading = (terminal: Terminal, text: string): string => `\n${paint(terminal, 'bold', text)}\n`;

const bare = {
  top: '',
  'top-mid': '',
  'top-left': '',
  'top-right': '',
  bottom: '',
  'bottom-mid': '',
  'bottom-left': '',
  'bottom-right': '',
  left: '  ',
  'left-mid': '',
  mid: '',
  'mid-mid': '',
  right: '',
  'right-mid': '',
  middle: '  ',
};

/** Aligned columns without lines. `right` names the columns whose cells are numbers. */
export function columns(rows: readonly (readonly string[])[], right: readonly number[] = []): string {
  if (rows.length === 0) return '';
  const width = Math.max(...rows.map((row) => row.length));
  const table = new Table({
    chars: bare,
    style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [], compact: true },
    colAligns: Array.from({ length: width }, (_, column) => (right.includes(column) ? 'right' : 'left')),
  });
  table.push(...rows.map((row) => [...row]));
  return `${table
    .toString()
    .split('\n')
    .map((line) => line.trimEnd())
    .join('\n')}\n`;
}

/** No value in a cell of a table. */
export const none = '–';

/**
 * Rows under one label, a cell for each of several things side by side; a part that none of them has anything to tell of is left out.
 */
export const labelledRows = <Thing>(
  things: readonly Thing[],
  label: string,
  parts: readonly (readonly [part: string, cell: (thing: Thing) => string])[],
): string[][] =>
  parts
    .map(([part, cell]) => [part, things.map(cell)] as const)
    .filter(([, cells]) => cells.some((cell) => cell !== none))
    .map(([part, cells], index) => [index === 0 ? label : '', part, ...cells]);

/** A space at which `wrap` does not break a line. */
export const noBreak = '\u00a0';

/** Breaks a text into lines of at most `width` characters, at spaces where it has any; later lines are indented. */
export function wrap(text: string, width: number, indent = ''): string {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(' ')) {
    if (line !== '' && line.length + 1 + word.length > width) {
      lines.push(line);
      line = indent + word;
    } else line = line === '' ? word : `${line} ${word}`;
  }
  return [...lines, line].join('\n').replaceAll(noBreak, ' ');
}

/** A name or text of the design, a path or an argument, as it may stand in a terminal. */
export const plain = visible;

/** m:ss.mmm of a time in milliseconds. */
export const timestamp = (milliseconds: number): string => {
  const minutes = Math.floor(milliseconds / 60_000);
  const seconds = ((milliseconds % 60_000) / 1000).toFixed(3).padStart(6, '0');
  return `${minutes}:${seconds}`;
};
