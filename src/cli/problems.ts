import { existsSync, readFileSync, statSync } from 'node:fs';
import { type DesignError, formatPlace, type Place } from '../design/problems/problem.js';
import { paint, plain, type Terminal, wrap } from './terminal.js';

/** Every problem with its place, its line of the file, and how to fix it. */
export function showProblems(terminal: Terminal, error: DesignError): string {
  const shown = error.problems.map(({ code, place, message, remedy }) => {
    const head = `${paint(terminal, 'bold', plain(formatPlace(place)))} ${paint(terminal, 'redBright', code)}`;
    const words = wrap(plain(`${message} ${remedy}`), terminal.width - 2, '  ');
    return `${head}\n  ${words}\n${codeFrame(terminal, place)}`;
  });
  const count = error.problems.length;
  const outcome = error.during === undefined ? 'Nothing was run.' : plain(`${error.during} ended in it.`);
  return `${shown.join('\n')}\n${count === 1 ? '1 problem' : `${count} problems`}. ${outcome}\n`;
}

/** The line of the file that a place is on, a mark under its column; empty where there is no such line. */
export function codeFrame(terminal: Terminal, { file, line, column }: Place): string {
  if (line < 1 || !existsSync(file) || !statSync(file).isFile()) return '';
  const text = readFileSync(file, 'utf8').split('\n')[line - 1];
  if (text === undefined) return '';
  const gutter = `${line} | `;
  const room = Math.max(20, terminal.width - gutter.length - 6);
  const from = column > room ? column - Math.floor(room / 2) : 0;
  const visible = plain(text.slice(from, from + room).replace(/\t/g, ' '));
  const mark = ' '.repeat(Math.max(0, gutter.length + column - 1 - from));
  return `    ${paint(terminal, 'dim', gutter)}${visible}\n    ${mark}${paint(terminal, 'redBright', '^')}\n`;
}
