import type { YAMLParseError } from 'yaml';

/** What is wrong with a line as YAML, and how to put it right, in words for somebody who has never read of YAML. */
interface Fault {
  readonly reason: string;
  readonly remedy: string;
}

/**
 * The parser's own words are for programmers; these are for designers.
 *
 * @param text the whole file
 */
export function yamlFault(text: string, { code, message, pos }: YAMLParseError): Fault {
  const line = lineOf(text, pos[0]).trim();
  const found = commentAs(line) ?? missingComma(text, pos[0], line) ?? faults[code]?.(line, message);
  return (
    found ?? {
      reason: 'this line does not fit with the lines around it',
      remedy: 'Check its indentation, colons, quotes and brackets, and those of the line above.',
    }
  );
}

/** A comment as other languages write it. */
function commentAs(line: string): Fault | undefined {
  const [, comment] = /^(?:\/\/+|\/\*+)\s*(.*?)\s*(?:\*\/)?$/.exec(line) ?? [];
  return comment === undefined
    ? undefined
    : { reason: 'a comment begins with #, not with // or /*', remedy: `Write # ${comment}` };
}

/** The comma that JSON has between two lines. */
function missingComma(text: string, offset: number, line: string): Fault | undefined {
  const above = text.slice(0, text.lastIndexOf('\n', offset - 1) + 1).trimEnd();
  return /^["{[]/.test(line) && /["}\]\d]$|\b(?:true|false|null)$/.test(above)
    ? { reason: 'a comma is missing at the end of the line above', remedy: 'Add it.' }
    : undefined;
}

const quoteOrMove = {
  reason: 'something follows a value that is complete',
  remedy: 'Put the whole value in quotes, or write what follows on a line of its own.',
};

const noColon = (line: string): Fault => {
  const [, key, value] = /^(\w+)\s+([^:]+)$/.exec(line) ?? [];
  return {
    reason: 'this line has no colon',
    remedy:
      key === undefined
        ? 'Write a key, a colon, and what it holds, such as lives: 3.'
        : `Write ${key}: ${value!.trim()}`,
  };
};

const faults: {
  readonly [code: string]: ((line: string, message: string) => Fault | undefined) | undefined;
} = {
  TAB_AS_INDENT: () => ({
    reason: 'a tab stands before the first word of this line, and YAML indents with spaces alone',
    remedy: 'Replace the tab by spaces, two for each step.',
  }),
  BAD_INDENT: (_, message) => {
    const bracket = /end with a ([\]}])/.exec(message)?.[1];
    if (bracket !== undefined)
      return {
        reason: `a ${bracket === ']' ? '[' : '{'} is opened and not closed`,
        remedy: `Add the ${bracket} where it ends.`,
      };
    return {
      reason: 'this line does not begin in the same column as the keys it belongs to',
      remedy: 'Indent all keys of one map alike.',
    };
  },
  MULTILINE_IMPLICIT_KEY: noColon,
  MISSING_CHAR: (line, message) =>
    message.includes('quote')
      ? {
          reason: 'a quote is opened and not closed',
          remedy: 'Add the closing quote at the end of the text.',
        }
      : message.includes('map values')
        ? noColon(line)
        : undefined,
  BAD_SCALAR_START: (_, message) => ({
    reason: `a value cannot begin with ${message.at(-1)} unless it is in quotes`,
    remedy: 'Put the value in quotes.',
  }),
  BLOCK_IN_FLOW: () => ({
    reason: 'inside { } a comma is missing between two keys',
    remedy: 'Put a comma after each key with its value.',
  }),
  BLOCK_AS_IMPLICIT_KEY: () => quoteOrMove,
  UNEXPECTED_TOKEN: (_, message) => {
    const closed = /"([\]}])"$/.exec(message)?.[1];
    return closed === undefined
      ? quoteOrMove
      : { reason: `a ${closed} closes what was not opened`, remedy: 'Take it out, or open it before.' };
  },
  BAD_DQ_ESCAPE: () => ({
    reason: 'inside double quotes a \\ begins a special character, and this one does not exist',
    remedy: 'Write \\\\ for a plain \\, or use single quotes.',
  }),
  MULTIPLE_DOCS: () => ({
    reason: 'a line of --- begins a second design in this file',
    remedy: 'Keep one design in a file.',
  }),
};

function lineOf(text: string, offset: number): string {
  const start = text.lastIndexOf('\n', offset - 1) + 1;
  const end = text.indexOf('\n', offset);
  return text.slice(start, end < 0 ? text.length : end);
}
