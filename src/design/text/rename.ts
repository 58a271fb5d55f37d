import { isMap, isPair, isScalar, isSeq, type Node, type Pair, parseDocument, type Scalar } from 'yaml';
import { hasNameForm } from '../language/names.js';
import type { Design } from '../model.js';
import { DesignError, UsageError } from '../problems/problem.js';
import { readDesign } from '../read.js';

/** Keys whose values are words of the format, of a game or of a reader, and never a name of the design. */
const wordKeys = new Set([
  'title',
  'name',
  'label',
  'is',
  'meets',
  'keep',
  'once',
  'fresh',
  'as',
  'at',
  'ending',
  'measure',
  'stat',
  'bound',
  'cue',
  'input',
  'finding',
  'about',
  'because',
]);
/** Keys whose values are texts with names in braces. */
const textKeys = new Set(['text', 'popup']);
/** Keys that hold maps whose own keys are names. */
const namedBy = new Set([
  'counters',
  'dials',
  'pieces',
  'timers',
  'screens',
  'lists',
  'add',
  'set',
  'pay',
  'spawn',
  'clear',
  'become',
  'passes',
  'place',
  'style',
  'inputs',
  'acts',
  'given',
  'expect',
  'never',
]);
/** What a test looks at that the player sees or hears: texts as they are shown, in which no name stands. */
const shownKeys = new Set(['text', 'hud', 'cues', 'popups']);

/** One stretch of the text that is put in the place of another. */
interface Splice {
  readonly from: number;
  readonly to: number;
  readonly put: string;
}

/**
 * Gives a counter, dial, timer, piece, screen or player of a design another name, wherever it is named: in sections, rules, expressions,
 * events, texts and tests. Every other character stays as it is.
 *
 * @throws UsageError where the design has problems, has no such name, or has the new one already
 */
export function renameInDesign(text: string, from: string, to: string): string {
  const design = read(text, 'Mend its problems first; then names can be changed.');
  const isPlayer = design.players.some(({ name }) => name === from);
  if (!isPlayer && !namesOf(design).includes(from))
    throw new UsageError('unknown-name', `The design has no ${from} whose name could be changed.`);
  if (!hasNameForm(to))
    throw new UsageError('bad-argument', `"${to}" is no name: write a letter, then letters, digits and _.`);
  if (namesOf(design).includes(to) || design.players.some(({ name }) => name === to))
    throw new UsageError('bad-argument', `The design has a ${to} already.`);
  const splices: Splice[] = [];
  const root = parseDocument(text, { logLevel: 'silent' }).contents as Node | null;
  if (isPlayer) collectPlayer(root, from, to, splices);
  else collect(root, [], { text, from, to, splices });
  const renamed = splices
    .sort((a, b) => b.from - a.from)
    .reduce((all, { from: at, to: end, put }) => all.slice(0, at) + put + all.slice(end), text);
  read(renamed, `${to} cannot be the name of it: choose another.`);
  return renamed;
}

function read(text: string, remedy: string): Design {
  try {
    return readDesign(text, 'design');
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    throw new UsageError('unknown-name', `${error.problems[0]!.message} ${remedy}`);
  }
}

const namesOf = (design: Design): string[] =>
  [design.counters, design.dials, design.timers, design.pieces, design.screens]
    .flatMap((all) => all.map(({ name }) => name))
    // What a piece has left of its health goes by the piece.
    .filter((name) => !name.includes('.'));

interface Renaming {
  readonly text: string;
  readonly from: string;
  readonly to: string;
  readonly splices: Splice[];
}

function collect(node: Node | null, keys: readonly string[], renaming: Renaming): void {
  if (isMap(node)) {
    for (const pair of node.items as Pair<Scalar, Node | null>[]) {
      const key = String(pair.key.value);
      // What so many of a piece become is named one level further in.
      const isName = keys.length > 0 && (namedBy.has(keys.at(-1)!) || keys.at(-2) === 'become');
      if (isName) inside(pair.key, renaming);
      if (shownKeys.has(key) && (keys.at(-1) === 'expect' || keys.at(-1) === 'never')) {
        if (key === 'hud' && isMap(pair.value))
          for (const { key: item } of pair.value.items as Pair<Scalar>[]) inside(item, renaming);
        continue;
      }
      // What stands at a name has keys of the format again.
      collect(pair.value, [...keys, isName ? '' : key], renaming);
    }
  } else if (isSeq(node)) {
    for (const item of node.items) if (!isPair(item)) collect(item as Node, keys, renaming);
  } else if (isScalar(node) && typeof node.value === 'string') {
    const key = keys.findLast((each) => each !== '') ?? '';
    const isOfName = keys.at(-1) === '';
    if (!isOfName && wordKeys.has(key)) return;
    // Levels are named in texts and values of their own, players in targets.
    if (keys[0] === 'targets' && (key === 'of' || key === 'over')) return;
    inside(node, renaming, textKeys.has(key) && !isOfName);
  }
}

/** Finds a name in one value: alone, before a dot as in an event, or after `timer.`, `present.` and `left.`. */
function inside(node: Scalar, { text, from, to, splices }: Renaming, isText = false): void {
  const [start, end] = node.range!;
  const written = text.slice(start, end);
  const name = new RegExp(
    `(?<![\\w.])${from}(?!\\w)|(?<=\\b(?:timer|present|left|health)\\.)${from}(?!\\w)`,
    'g',
  );
  for (const { index } of written.matchAll(name)) {
    if (isText && !isInBraces(written, index)) continue;
    splices.push({ from: start + index, to: start + index + from.length, put: to });
  }
}

const isInBraces = (text: string, at: number): boolean =>
  text.lastIndexOf('{', at) > text.lastIndexOf('}', at - 1);

/** Players are named where they stand and in targets, and share no names with the rest. */
function collectPlayer(root: Node | null, from: string, to: string, splices: Splice[]): void {
  const put = (node: unknown): void => {
    if (isScalar(node) && node.value === from)
      splices.push({ from: node.range![0], to: node.range![1], put: to });
  };
  if (!isMap(root)) return;
  const players = root.get('players', true) as unknown;
  if (isMap(players)) for (const { key } of players.items) put(key);
  const targets = root.get('targets', true) as unknown;
  if (!isSeq(targets)) return;
  for (const target of targets.items) {
    if (!isMap(target)) continue;
    put(target.get('of', true));
    put(target.get('over', true));
  }
}
