import {
  isAlias,
  isMap,
  isPair,
  isScalar,
  isSeq,
  LineCounter,
  type Node,
  type Pair,
  parseDocument,
  type Scalar,
  type YAMLMap,
} from 'yaml';
import { problem } from './catalogue.js';
import { isForbiddenKey } from './names.js';
import { type Place, type Problem, UsageError } from './problem.js';

export type Path = readonly (string | number)[];

/** Parts of one design that are read at the most; a file that grows past it through aliases is refused. */
const mostParts = 100_000;
const mostDepth = 40;
/** Characters of one design file that are read at the most. */
const mostCharacters = 4_000_000;

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
export function readSource(text: string, file: string, problems: Problem[]): Source {
  const values = new Map<string, Place>();
  /** Where the first character of a text on one line stands, its quote passed over. */
  const textStarts = new Map<string, Place>();
  const keys = new Map<string, Place>();
  const lines = new LineCounter();
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

  if (text.length > mostCharacters) {
    problems.push(
      problem('too-large', { what: 'The file', found: text.length, most: mostCharacters }, start),
    );
    return source(undefined);
  }
  const document = parseDocument(text, {
    lineCounter: lines,
    uniqueKeys: false,
    prettyErrors: false,
    stringKeys: false,
    logLevel: 'silent',
  });
  const at = (offset: number): Place => {
    const { line, col } = lines.linePos(offset);
    return { file, line: Math.max(line, 1), column: Math.max(col, 1) };
  };
  for (const error of document.errors) {
    problems.push(problem('not-yaml', { reason: firstLine(error.message) }, at(error.pos[0])));
  }
  if (problems.length > 0) return source(undefined);
  if (document.contents === null || (isScalar(document.contents) && document.contents.value === null)) {
    problems.push(problem('empty-file', {}, start));
    return source(undefined);
  }

  let parts = 0;
  const tooLarge = (): void => {
    problems.push(
      problem(
        'too-large',
        { what: 'The design, aliases written out,', found: parts, most: mostParts },
        start,
      ),
    );
  };

  function readNode(node: unknown, path: Path, depth: number): unknown {
    if (++parts > mostParts || depth > mostDepth) {
      parts = Number.POSITIVE_INFINITY;
      return undefined;
    }
    if (isAlias(node)) return readNode(node.resolve(document), path, depth + 1);
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
      problems.push(problem('taken-by-yaml', { mark: '!', text: written }, place));
    } else if (anchor !== undefined && !new RegExp(`\\*${anchor.replace(/\W/g, '\\$&')}`).test(text)) {
      problems.push(problem('taken-by-yaml', { mark: '&', text: `&${anchor} ${written}` }, place));
    }
    if (typeof node.value === 'string' && !written.includes('\n') && /^(PLAIN|QUOTE)/.test(node.type ?? '')) {
      const shift = node.type === 'PLAIN' ? 0 : 1;
      textStarts.set(keyOf(path), { ...place, column: place.column + shift });
    }
    return node.value;
  }

  function mapOf(node: YAMLMap, path: Path, depth: number): unknown {
    const result: Record<string, unknown> = {};
    node.items.forEach((pair, index) => {
      const key = isScalar(pair.key) ? String(pair.key.value) : String(pair.key);
      const keyPath = [...path, key];
      const place = isScalar(pair.key) && pair.key.range ? at(pair.key.range[0]) : find(values, path);
      if (isSplitByComma(node, index)) {
        problems.push(problem('split-by-comma', { quoted: quotedForm(node, index) }, place));
        // Read on with the value that was meant, so that one slip is reported once.
        const { key: meant, text: whole } = splitValue(node, index);
        result[meant] = whole;
      } else if (isForbiddenKey(key)) {
        problems.push(problem('forbidden-key', { key }, place));
      } else if (Object.hasOwn(result, key)) {
        problems.push(problem('duplicate-key', { key }, place));
      } else {
        keys.set(keyOf(keyPath), place);
        result[key] = readNode(pair.value, keyPath, depth + 1);
      }
    });
    return result;
  }

  /** In a flow map, a value with an open bracket followed by a key without a value was one expression. */
  function isSplitByComma(node: YAMLMap, index: number): boolean {
    if (node.flow !== true || index === 0) return false;
    const pair = node.items[index] as Pair;
    return isPair(pair) && isEmpty(pair.value) && openBrackets(splitValue(node, index - 1).text) > 0;
  }

  /** The key and the whole text of a value that commas cut into several pairs, the last one at `last`. */
  function splitValue(node: YAMLMap, last: number): { key: string; text: string } {
    let first = last;
    while (first > 0 && isEmpty((node.items[first] as Pair).value)) first--;
    const [head, ...rest] = node.items.slice(first, last + 1) as Pair[];
    const parts = [head?.value, ...rest.map(({ key }) => key)];
    return {
      key: String(head?.key),
      text: parts.map((part) => (isScalar(part) ? String(part.value) : '')).join(', '),
    };
  }

  function quotedForm(node: YAMLMap, index: number): string {
    const { key, text: whole } = splitValue(node, index);
    return `${key}: "${whole}"`;
  }

  const value = readNode(document.contents, [], 0);
  if (!Number.isFinite(parts) || parts > mostParts) {
    parts = mostParts + 1;
    tooLarge();
    return source(undefined);
  }
  return source(value);
}

/**
 * A design that is a value of the program, not a file: its places are paths, such as `rules[2].when`.
 *
 * @throws UsageError where the value is no plain data, such as one that holds itself
 */
export function valueSource(value: unknown, problems: Problem[]): Source {
  const place = (path: Path): Place => ({ file: showPath(path), line: 0, column: 0 });
  const plain = plainData(value);
  const visit = (part: unknown, path: Path): void => {
    if (typeof part !== 'object' || part === null) return;
    for (const [key, inner] of Object.entries(part)) {
      const inside = [...path, Array.isArray(part) ? Number(key) : key];
      if (!Array.isArray(part) && isForbiddenKey(key))
        problems.push(problem('forbidden-key', { key }, place(inside)));
      visit(inner, inside);
    }
  };
  visit(plain, []);
  return { file: 'design', value: plain, placeOf: place, keyPlaceOf: place, placeInside: place };
}

function plainData(value: unknown): unknown {
  try {
    return JSON.parse(JSON.stringify(value) ?? 'null');
  } catch (error) {
    throw new UsageError(`A design is plain data, as in JSON: ${(error as Error).message.split('\n', 1)[0]}`);
  }
}

const showPath = (path: Path): string =>
  path.length === 0
    ? 'design'
    : path
        .map((step, index) => (typeof step === 'number' ? `[${step}]` : index === 0 ? step : `.${step}`))
        .join('');

const isEmpty = (node: unknown): boolean =>
  node === null || node === undefined || (isScalar(node) && node.value === null);

const firstLine = (text: string): string => text.split('\n', 1)[0] as string;

const openBrackets = (text: string): number =>
  [...text].reduce((open, character) => open + (character === '(' ? 1 : character === ')' ? -1 : 0), 0);
