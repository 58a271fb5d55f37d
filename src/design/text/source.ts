// One text with the places of all its parts: reading it and finding them are one walk.

import {
  type Alias,
  type Document,
  isAlias,
  isMap,
  isScalar,
  isSeq,
  Lexer,
  type Node,
  type Pair,
  parseDocument,
  type Scalar,
  visit,
  type YAMLMap,
} from 'yaml';
import { isForbiddenKey } from '../language/names.js';
import type { Place } from '../problems/problem.js';
import type { ProblemList } from '../problems/problem-list.js';
import { yamlFault } from './yaml-faults.js';

export type Path = readonly (string | number)[];

/** Parts of one design that are read at the most; a file that grows past it through aliases is refused. */
const mostParts = 100_000;
export const mostDepth = 40;
/** Characters of one design file that are read at the most. */
const mostCharacters = 4_000_000;
/** Depth at which nothing is parsed any more. */
const deepest = 200;
/** Marks, names and values, of which each part of a design takes a few. */
const mostWords = 5 * mostParts;

/** The plain value of a YAML or JSON text, and where each part of it stands. */
export interface Source {
  readonly file: string;
  readonly value: unknown;
  /** The place of the value at a path, or of the nearest part above it that stands in the file. */
  placeOf(path: Path): Place;
  /** The place of the key that a path ends with. */
  keyPlaceOf(path: Path): Place;
  /** The place of one character of the text that stands at a path. */
  placeInside(path: Path, offset: number): Place;
}

const keyOf = (path: Path): string => JSON.stringify(path);

/** Reads YAML or JSON with positions. All that is wrong with the text as YAML is added to `problems`. */
export function readSource(text: string, file: string, problems: ProblemList): Source {
  const values = new Map<string, Place>();
  /** Where the first character of a text on one line stands, its quote passed over. */
  const textStarts = new Map<string, Place>();
  const keys = new Map<string, Place>();
  const start: Place = { file, line: 1, column: 1 };

  const find = (places: Map<string, Place>, path: Path): Place => {
    for (let length = path.length; length >= 0; length--) {
      const part = path.slice(0, length);
      const place = (length === path.length ? places.get(keyOf(part)) : undefined) ?? values.get(keyOf(part));
      if (place !== undefined) return place;
    }
    return start;
  };
  const source = (value: unknown): Source => ({
    file,
    value,
    placeOf: (path) => find(values, path),
    keyPlaceOf: (path) => find(keys, path),
    placeInside: (path, offset) => {
      const first = textStarts.get(keyOf(path));
      return first === undefined ? find(values, path) : { ...first, column: first.column + offset };
    },
  });

  const tooLarge = (what: string, found: number, most: number): Source => {
    problems.add('too-large', { what, found, most }, start);
    return source(undefined);
  };
  if (text.length > mostCharacters) return tooLarge('The file', text.length, mostCharacters);
  const { words, depth } = measure(text);
  if (words > mostWords) return tooLarge('The file', words, mostWords);
  if (depth > deepest) {
    problems.add('too-deep', { most: mostDepth }, start);
    return source(undefined);
  }
  let document: Document.Parsed;
  let anchors: ReturnType<typeof anchorsOf>;
  try {
    document = parseDocument(text, {
      uniqueKeys: false,
      prettyErrors: false,
      stringKeys: false,
      logLevel: 'silent',
    });
    anchors = anchorsOf(document);
  } catch (error) {
    // The parser calls itself for each list in a list, until there is no room left.
    if (!(error instanceof RangeError)) throw error;
    problems.add('too-deep', { most: mostDepth }, start);
    return source(undefined);
  }
  const starts = lineStarts(text);
  const at = (offset: number): Place => {
    const inside = Math.max(0, Math.min(offset, text.length));
    const line = lineAt(starts, inside);
    return { file, line: line + 1, column: inside - starts[line]! + 1 };
  };
  // One slip makes the parser stumble again and again: only the first is certain.
  const [fault] = document.errors;
  if (fault !== undefined) {
    const { code, message, pos } = fault;
    const value =
      code === 'BLOCK_AS_IMPLICIT_KEY' || code === 'BLOCK_IN_FLOW' ? unquotedAt(text, pos) : undefined;
    if (message.includes('call stack')) problems.add('too-deep', { most: mostDepth }, at(pos[0]));
    else if (value !== undefined) problems.add('unquoted-colon', value, at(pos[0]));
    else problems.add('not-yaml', yamlFault(text, fault), at(pos[0]));
  }
  if (problems.length > 0) return source(undefined);
  if (document.contents === null || (isScalar(document.contents) && document.contents.value === null)) {
    problems.add('empty-file', {}, start);
    return source(undefined);
  }
  const { targets, used } = anchors;

  let parts = 0;
  let isTooDeep = false;
  function readNode(node: unknown, path: Path, depth: number): unknown {
    if (++parts > mostParts) return undefined;
    if (depth > mostDepth) {
      isTooDeep = true;
      // An alias that holds itself would go on for ever.
      parts = Number.POSITIVE_INFINITY;
      return undefined;
    }
    if (isAlias(node)) return readNode(targets.get(node), path, depth + 1);
    const place = placeOfNode(node as Node | null, path);
    values.set(keyOf(path), place);
    if (isScalar(node)) return scalarOf(node, path, place);
    if (isSeq(node)) return node.items.map((item, index) => readNode(item, [...path, index], depth + 1));
    if (isMap(node)) return mapOf(node, path, depth);
    return null;
  }

  function placeOfNode(node: Node | null, path: Path): Place {
    if (!node?.range) return find(keys, path);
    // YAML's own place of a tagged value is behind the tag.
    const start = node.tag?.startsWith('!') ? text.lastIndexOf(node.tag, node.range[0]) : node.range[0];
    return at(Math.max(0, start));
  }

  function scalarOf(node: Scalar, path: Path, place: Place): unknown {
    const written = text.slice(node.range?.[0] ?? 0, node.range?.[1] ?? 0);
    const anchor = node.anchor;
    if (node.tag?.startsWith('!') || written.startsWith('!')) {
      problems.add('taken-by-yaml', { mark: '!', text: written }, place);
    } else if (anchor !== undefined && !used.has(anchor)) {
      problems.add('taken-by-yaml', { mark: '&', text: `&${anchor} ${written}` }, place);
    }
    // Where the text has escapes in it, its characters do not stand one by one in the file.
    const shift = node.type === 'PLAIN' ? 0 : 1;
    if (typeof node.value === 'string' && node.value !== '' && written.startsWith(node.value, shift))
      if (!node.value.includes('\n') && /^(PLAIN|QUOTE)/.test(node.type ?? ''))
        textStarts.set(keyOf(path), { ...place, column: place.column + shift });
    return node.value;
  }

  function mapOf(node: YAMLMap, path: Path, depth: number): unknown {
    const result: Record<string, unknown> = {};
    for (let index = 0; index < node.items.length; index++) {
      const pair = node.items[index] as Pair;
      if (!isScalar(pair.key)) {
        problems.add('bad-key', { found: wordFor(pair.key) }, placeOfNode(pair.key as Node | null, path));
        continue;
      }
      const key = String(pair.key.value);
      const keyPath = [...path, key];
      const place = pair.key.range ? at(pair.key.range[0]) : find(values, path);
      const split = splitByCommas(node, index);
      if (isForbiddenKey(key)) problems.add('forbidden-key', { key }, place);
      else if (Object.hasOwn(result, key)) {
        const { line } = find(keys, keyPath);
        const isBlock = path.length === 0 && typeof result[key] === 'object';
        problems.add('duplicate-key', { key, line, isBlock }, place);
      } else {
        keys.set(keyOf(keyPath), place);
        if (split === undefined) result[key] = readNode(pair.value, keyPath, depth + 1);
        else {
          const first = (node.items[index + 1] as Pair).key as Scalar;
          const details = { quoted: `${key}: "${split.text}"`, isText: split.isText };
          problems.add('split-by-comma', details, at(first.range?.[0] ?? 0));
          // Read on with the value that was meant, so that one slip is reported once.
          readNode(pair.value, keyPath, depth + 1);
          result[key] = split.text;
        }
      }
      index += (split?.pairs ?? 1) - 1;
    }
    return result;
  }

  /**
   * In a flow map, keys without a value after one with an open bracket were one expression with it, of so many pairs; and after words,
   * those that no key looks like were one text.
   */
  function splitByCommas(
    node: YAMLMap,
    index: number,
  ): { text: string; pairs: number; isText: boolean } | undefined {
    const { key, value } = node.items[index] as Pair;
    if (node.flow !== true || !isScalar(key) || !isScalar(value) || isEmpty(value)) return undefined;
    const isText = value.type === 'PLAIN' && textKeys.has(String(key.value));
    const parts = [String(value.value)];
    let open = openBrackets(parts[0]!);
    for (let next = index + 1; next < node.items.length && (open > 0 || isText); next++) {
      const pair = node.items[next] as Pair;
      if (!isEmpty(pair.value) || !isScalar(pair.key)) break;
      parts.push(String(pair.key.value));
      open += openBrackets(parts.at(-1)!);
    }
    return parts.length === 1 ? undefined : { text: parts.join(', '), pairs: parts.length, isText };
  }

  const value = readNode(document.contents, [], 0);
  if (isTooDeep && targets.size === 0) {
    problems.add('too-deep', { most: mostDepth }, start);
    return source(undefined);
  }
  return parts > mostParts
    ? tooLarge('The design, aliases written out,', mostParts + 1, mostParts)
    : source(value);
}

/** Keys of what is shown to somebody, in words. */
const textKeys = new Set(['text', 'label', 'title', 'name']);

/** Where each line begins. The parser's own count leaves out lines that it passes over after an error. */
function lineStarts(text: string): number[] {
  const starts = [0];
  for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', end + 1)) starts.push(end + 1);
  return starts;
}

/** The line that a character is on, from 0. */
function lineAt(starts: readonly number[], offset: number): number {
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (starts[middle]! <= offset) low = middle;
    else high = middle - 1;
  }
  return low;
}

/**
 * How many words a text has, and how deep its lists and maps stand inside each other where brackets or marks in one line say so, found out
 * without parsing it: the parser takes far longer, and does not survive every depth. Stops where either is too much.
 */
function measure(text: string): { readonly words: number; readonly depth: number } {
  let words = 0;
  let brackets = 0;
  let marks = 0;
  let depth = 0;
  for (const word of new Lexer().lex(text)) {
    if (word === '[' || word === '{') brackets++;
    else if (word === ']' || word === '}') brackets = Math.max(0, brackets - 1);
    else if (word === '-' || word === '?') marks++;
    else if (word.endsWith('\n')) marks = 0;
    depth = Math.max(depth, brackets + marks);
    if (++words > mostWords || depth > deepest) break;
  }
  return { words, depth };
}

/** What each alias stands for, the anchor before it, and the names that any alias has. */
function anchorsOf(document: Document.Parsed): {
  readonly targets: ReadonlyMap<Alias, Node>;
  readonly used: ReadonlySet<string>;
} {
  const anchors = new Map<string, Node>();
  const targets = new Map<Alias, Node>();
  const used = new Set<string>();
  visit(document, {
    Alias(_, alias) {
      used.add(alias.source);
      const target = anchors.get(alias.source);
      if (target !== undefined) targets.set(alias, target);
    },
    Value(_, node) {
      if (node.anchor !== undefined) anchors.set(node.anchor, node as Node);
    },
  });
  return { targets, used };
}

/** What stands in the place of a key, in words. */
const wordFor = (node: unknown): string =>
  isMap(node) ? 'a map' : isSeq(node) ? 'a list' : isAlias(node) ? `the alias *${node.source}` : 'nothing';

const isEmpty = (node: unknown): boolean =>
  node === null || node === undefined || (isScalar(node) && node.value === null);

/** A value on one line with a colon in it, as in `a ? b : c`, and how it would stand in quotes; undefined where it is none. */
function unquotedAt(
  text: string,
  [start, end]: readonly [number, number],
): { readonly found: string; readonly quoted: string } | undefined {
  const line = text.slice(text.lastIndexOf('\n', start - 1) + 1, start);
  const key = /(?:^|[\s{,])([\w.-]+): *$/.exec(line)?.[1];
  const upTo = end > start + 1 ? end : text.length;
  const found = text.slice(start, upTo).split('\n', 1)[0]!.replace(/ #.*$/, '').trim();
  if (key === undefined || !/: /.test(found) || /["{}[\]]/.test(found)) return undefined;
  return { found, quoted: `${key}: "${found}"` };
}

const openBrackets = (text: string): number =>
  [...text].reduce((open, character) => open + (character === '(' ? 1 : character === ')' ? -1 : 0), 0);
