import { visible } from './characters.js';

/** A character that nobody sees, which keeps a bare address from becoming a link. */
const gap = '&#8203;';

/** Text of a design as it may stand in Markdown: no markup, no table cell, no mention and no link comes of it. */
export const plain = (text: string): string =>
  visible(text.replace(/[\r\n]+/g, ' '))
    .replace(/[\\`*_{}[\]<>#|!~@&]/g, (character) => `&#${character.codePointAt(0)};`)
    .replace(/:(?=\/\/)/g, `:${gap}`)
    .replace(/\bwww\./gi, (found) => `${found.slice(0, -1)}${gap}.`)
    .replaceAll('&#64;', `${gap}&#64;`);

/** A table; its cells are text. */
export function table(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const line = (cells: readonly string[]): string => `| ${cells.map(plain).join(' | ')} |`;
  return [line(head), `| ${head.map(() => '---').join(' | ')} |`, ...rows.map(line)].join('\n');
}
