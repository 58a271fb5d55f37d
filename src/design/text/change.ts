import {
  Document,
  isCollection,
  isMap,
  isPair,
  isScalar,
  isSeq,
  type Node,
  type Pair,
  parseDocument,
  type YAMLMap,
  type YAMLSeq,
} from 'yaml';
import { UsageError } from '../problems/problem.js';
import type { Path } from './source.js';

/** One change of a design's text. */
export type Change =
  /** Puts a value where another stands, or a key that is not there yet. */
  | { readonly kind: 'set'; readonly path: Path; readonly value: unknown }
  /** Adds an entry to a list, which is made where it is not there yet: at its end unless it goes first. */
  | { readonly kind: 'add'; readonly path: Path; readonly value: unknown; readonly goesFirst?: boolean }
  /** Takes out an entry of a list or a key with what it holds. */
  | { readonly kind: 'remove'; readonly path: Path };

/**
 * Changes one place in the text of a design. Every other character stays as it is: comments, order and layout.
 *
 * @throws UsageError where the text is no YAML, or the path leads to nothing that can be changed so
 * @example
 * const changed = changeDesign(text, { kind: 'add', path: ['rules'], value: { when: 'wasp.hit', do: [{ add: { lives: -1 } }] } });
 */
export function changeDesign(text: string, change: Change): string {
  const document = parseDocument(text, { logLevel: 'silent', uniqueKeys: false });
  if (document.errors.length > 0)
    throw new UsageError('bad-file', 'The text is not valid YAML; fix it before changing it.');
  const editor = new TextEditor(text, document);
  switch (change.kind) {
    case 'set':
      return editor.set(change.path, change.value);
    case 'add':
      return editor.add(change.path, change.value, change.goesFirst);
    case 'remove':
      return editor.remove(change.path);
  }
}

class TextEditor {
  constructor(
    private readonly text: string,
    private readonly document: Document.Parsed,
  ) {}

  set(path: Path, value: unknown): string {
    const node = this.#nodeAt(path);
    if (node !== undefined && !isEmpty(node)) {
      const [from, to] = node.range!;
      // A list or map in lines of its own ends with the end of its last.
      return this.#splice(from, from + this.text.slice(from, to).trimEnd().length, inline(value));
    }
    const [parent, key] = this.#parentOf(path);
    if (path.length === 1 && (parent === undefined || isEmpty(parent))) {
      const body = this.text.trimEnd();
      return `${body === '' ? '' : `${body}\n`}${inline(key)}: ${inline(value)}\n`;
    }
    const pair = isMap(parent) ? pairOf(parent, key) : undefined;
    if (pair !== undefined) {
      // A key without a value: it goes behind the colon.
      const colon = this.text.indexOf(':', (pair.key as Node).range![1]);
      return this.#splice(colon + 1, colon + 1, ` ${inline(value)}`);
    }
    if (parent === undefined || isEmpty(parent)) return this.set(path.slice(0, -1), { [key]: value });
    if (!isMap(parent)) throw this.#nothing(path);
    return this.#append(parent, `${inline(key)}: ${inline(value)}`, '');
  }

  add(path: Path, value: unknown, goesFirst = false): string {
    const node = this.#nodeAt(path);
    if (node === undefined || isEmpty(node)) {
      if (path.length !== 1) return this.set(path, [value]);
      const pair = isMap(this.document.contents) ? pairOf(this.document.contents, path[0]!) : undefined;
      if (pair !== undefined) return this.set(path, [value]);
      const body = this.text.replace(/\s*$/, '');
      return `${body === '' ? '' : `${body}\n\n`}${inline(path[0])}:\n  - ${inline(value)}\n`;
    }
    if (!isSeq(node)) throw this.#nothing(path);
    return goesFirst && node.items.length > 0
      ? this.#prepend(node, inline(value))
      : this.#append(node, inline(value), '- ');
  }

  remove(path: Path): string {
    const [parent, key] = this.#parentOf(path);
    if (!isCollection(parent)) throw this.#nothing(path);
    const { items } = parent as { items: (Node | Pair)[] };
    const index = isMap(parent)
      ? items.findIndex((item) => keyOf(item as Pair) === String(key))
      : Number(key);
    const item = items[index];
    if (item === undefined) throw this.#nothing(path);
    if (items.length === 1) {
      if (path.length > 1 && path.length <= 2) return this.remove(path.slice(0, -1));
      return this.#splice(parent.range![0], parent.range![1], isMap(parent) ? '{}' : '[]');
    }
    const [from, to] = this.#extent(item);
    if (parent.flow === true) {
      const next = items[index + 1];
      if (next !== undefined) return this.#splice(from, this.#extent(next)[0], '');
      return this.#splice(this.#extent(items[index - 1]!)[1], to, '');
    }
    const lineStart = this.text.lastIndexOf('\n', from - 1) + 1;
    // The first key of an entry that begins with a dash leaves the dash to the next.
    if (isMap(parent) && this.text.slice(lineStart, from).trim() !== '')
      return this.#splice(from, this.#extent(items[1]!)[0], '');
    // Whole lines, up to the end of the one that the entry ends on.
    const lineEnd = this.text.indexOf('\n', Math.max(to - 1, from));
    return this.#splice(lineStart, lineEnd < 0 ? this.text.length : lineEnd + 1, '');
  }

  /** Appends to a map or list: within its brackets, or on a line of its own. */
  #append(node: YAMLMap | YAMLSeq, written: string, mark: string): string {
    const last = node.items.at(-1) as Node | Pair | undefined;
    if (node.flow === true) {
      const close = node.range![1] - 1;
      if (last === undefined)
        return this.#splice(node.range![0] + 1, close, isMap(node) ? ` ${written} ` : written);
      const end = this.#extent(last)[1];
      return this.#splice(end, end, `, ${written}`);
    }
    const first = this.#extent(node.items[0] as Node | Pair)[0];
    const start = this.text.lastIndexOf('\n', first - 1) + 1;
    // Keys stand below the first key, which may follow a dash; entries of a list below its dash.
    const column = (isMap(node) ? first : this.text.lastIndexOf('-', first - 1)) - start;
    const indent = ' '.repeat(column);
    const [, to] = this.#extent(last!);
    const lineEnd = this.text.indexOf('\n', Math.max(to - 1, 0));
    const at = lineEnd < 0 ? this.text.length : lineEnd;
    return this.#splice(at, at, `\n${indent}${mark}${written}`);
  }

  /** Puts an entry before the first of a list, within its brackets or on a line of its own. */
  #prepend(node: YAMLSeq, written: string): string {
    const [first] = this.#extent(node.items[0] as Node);
    if (node.flow === true) return this.#splice(first, first, `${written}, `);
    const dash = this.text.lastIndexOf('-', first - 1);
    const column = dash - (this.text.lastIndexOf('\n', dash) + 1);
    return this.#splice(dash, dash, `- ${written}\n${' '.repeat(column)}`);
  }

  /** Where an entry stands: a key up to the end of its value. */
  #extent(item: Node | Pair): [number, number] {
    if (!isPair(item)) return [item.range![0], item.range![1]];
    const key = item.key as Node;
    const value = item.value as Node | null;
    return [key.range![0], Math.max(key.range![1], value?.range?.[1] ?? 0)];
  }

  #nodeAt(path: Path): Node | undefined {
    if (path.length === 0) return (this.document.contents as Node | null) ?? undefined;
    return (this.document.getIn(path, true) as Node | undefined) ?? undefined;
  }

  #parentOf(path: Path): [Node | undefined, string | number] {
    if (path.length === 0) throw new UsageError('bad-argument', 'Give the path of a key or an entry.');
    return [this.#nodeAt(path.slice(0, -1)), path.at(-1)!];
  }

  #splice(from: number, to: number, put: string): string {
    return this.text.slice(0, from) + put + this.text.slice(to);
  }

  #nothing(path: Path): UsageError {
    return new UsageError(
      'bad-argument',
      `The design has nothing at ${path.join('.')} that could be changed so.`,
    );
  }
}

const keyOf = ({ key }: Pair): string => (isScalar(key) ? String(key.value) : '');
const pairOf = (map: YAMLMap, key: string | number): Pair | undefined =>
  (map.items as Pair[]).find((pair) => keyOf(pair) === String(key));
const isEmpty = (node: Node): boolean => isScalar(node) && node.value === null;

/** A value on one line, as it may stand anywhere: in brackets or on a line of its own. */
function inline(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(inline).join(', ')}]`;
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value).map(([key, part]) => `${inline(key)}: ${inline(part)}`);
    return entries.length === 0 ? '{}' : `{ ${entries.join(', ')} }`;
  }
  const document = new Document([value]);
  (document.contents as YAMLSeq).flow = true;
  return document.toString({ lineWidth: 0, flowCollectionPadding: false }).trim().slice(1, -1).trim();
}
