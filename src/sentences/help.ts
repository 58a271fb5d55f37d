import { isMap, isPair, isScalar, isSeq, type Node, type Pair, parseDocument, type Scalar } from 'yaml';
import { z } from 'zod';
import { designSchema } from '../design/schema/design.js';
import { type Offered, offeredBy } from './grammar/offered.js';
import { isMap as isRecord } from './grammar/words.js';

/** What can be written at a place of a design's text. */
export interface Help {
  /** Where the word that is being written begins. */
  readonly from: number;
  readonly options: readonly { readonly label: string; readonly info: string }[];
}

/** What a key means. */
export interface Meaning {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

type Step = string | number;

/** A scalar at a place, the way to it, and whether it is a key. */
interface Spot {
  readonly node: Scalar;
  readonly path: readonly Step[];
  readonly isKey: boolean;
}

/** Stands for what is being written, so that the text around it can be read. */
const mark = 'jocusWord';

/** The keys or values that are valid at a place of the text, those that begin as what stands there first. */
export function helpAt(text: string, offset: number): Help {
  const word = /[\w.]*$/.exec(text.slice(0, offset))![0];
  const rest = /^[\w.]*/.exec(text.slice(offset))![0];
  const from = offset - word.length;
  const marked = `${text.slice(0, offset)}${mark}${text.slice(offset)}`;
  const document = parseDocument(marked, { logLevel: 'silent', uniqueKeys: false });
  const spot = spotIn(document.contents as Node | null, [], ({ value }) => String(value).includes(mark));
  if (spot === undefined) return { from, options: [] };
  const written = parseDocument(`${text.slice(0, from)}${text.slice(offset + rest.length)}`, {
    logLevel: 'silent',
    uniqueKeys: false,
  }).toJS({ maxAliasCount: 0 }) as unknown;
  const offered = offeredBy(isRecord(written) ? written : {});
  const inside = spot.isKey ? spot.path.slice(0, -1) : spot.path;
  // A word alone may be the first key of what is to stand there.
  const options = [
    ...(spot.isKey ? [] : valuesAt(inside, offered).map((label) => ({ label, info: '' }))),
    ...keysAt(inside, offered),
  ];
  return { from, options: options.filter(({ label }) => label !== mark) };
}

/** What the key at a place of the text means; undefined where there is none. */
export function meaningAt(text: string, offset: number): Meaning | undefined {
  const document = parseDocument(text, { logLevel: 'silent', uniqueKeys: false });
  const spot = spotIn(
    document.contents as Node | null,
    [],
    ({ range }) => range![0] <= offset && offset <= range![1],
  );
  if (spot === undefined || !spot.isKey) return undefined;
  const found = schemasAt(spot.path).find(({ description }) => description !== undefined)?.description;
  const [from, to] = spot.node.range!;
  return found === undefined ? undefined : { from, to, text: found };
}

function spotIn(
  node: Node | null,
  path: readonly Step[],
  isIt: (scalar: Scalar) => boolean,
): Spot | undefined {
  if (isScalar(node)) return isIt(node) ? { node, path, isKey: false } : undefined;
  if (isMap(node)) {
    for (const { key, value } of node.items as Pair<Node, Node | null>[]) {
      if (!isScalar(key)) continue;
      const here = [...path, String(key.value)];
      if (isIt(key)) return { node: key, path: here, isKey: true };
      const found = spotIn(value, here, isIt);
      if (found !== undefined) return found;
    }
  } else if (isSeq(node)) {
    for (const [index, item] of node.items.entries()) {
      const found = isPair(item) ? undefined : spotIn(item as Node, [...path, index], isIt);
      if (found !== undefined) return found;
    }
  }
  return undefined;
}

interface Schema {
  readonly description?: string;
  readonly properties?: { readonly [key: string]: Schema };
  readonly additionalProperties?: Schema | boolean;
  readonly items?: Schema;
  readonly anyOf?: readonly Schema[];
  readonly enum?: readonly (string | number | boolean)[];
  readonly const?: string | number | boolean;
  readonly type?: string;
}

let root: Schema | undefined;

/** The schemas of all that may stand at a path: a place that takes one of several forms has several. */
function schemasAt(path: readonly Step[]): Schema[] {
  root ??= z.toJSONSchema(designSchema, { io: 'input', reused: 'inline' }) as Schema;
  const forms = (schema: Schema): Schema[] =>
    schema.anyOf === undefined ? [schema] : [schema, ...schema.anyOf.flatMap(forms)];
  let found = forms(root);
  for (const step of path)
    found = found
      .flatMap(({ properties, additionalProperties, items }) =>
        typeof step === 'number'
          ? [items]
          : [
              properties?.[step] ??
                (typeof additionalProperties === 'object' ? additionalProperties : undefined),
            ],
      )
      .flatMap((schema) => (schema === undefined ? [] : forms(schema)));
  return found;
}

function keysAt(path: readonly Step[], offered: Offered): Help['options'] {
  const known = schemasAt(path).flatMap(({ properties = {} }) =>
    Object.entries(properties).map(([label, { description = '' }]) => ({ label, info: description })),
  );
  return [...known, ...(namesIn[String(path.at(-1))]?.(offered) ?? []).map((label) => ({ label, info: '' }))];
}

type Names = (offered: Offered) => readonly string[];

/** Names that are keys of a map. */
const namesIn: { readonly [key: string]: Names } = {
  add: ({ numbers, timers }) => [...numbers, ...timers],
  set: ({ counters, timers }) => [...counters, ...timers],
  pay: ({ numbers }) => numbers,
  spawn: ({ pieces }) => pieces,
  become: ({ pieces }) => pieces,
  place: ({ pieces }) => pieces,
  style: ({ pieces }) => pieces,
  passes: ({ numbers }) => numbers,
  inputs: ({ screens }) => screens,
  given: ({ counters }) => [...counters, 'level', 'screen'],
  expect: ({ counters, timers, pieces }) => [...counters, ...timers, ...pieces, 'level', 'screen', 'course'],
};

/** Names that are values at a key. */
const namesAt: { readonly [key: string]: Names } = {
  when: ({ events }) => events,
  if: ({ readable }) => readable,
  needs: ({ readable }) => readable,
  from: ({ screens }) => screens,
  to: ({ screens }) => [...screens, 'back'],
  screen: ({ screens }) => screens,
  screens: ({ screens }) => screens,
  show: ({ counters, timers }) => [...counters, ...timers],
  piece: ({ pieces }) => pieces,
  like: ({ pieces }) => pieces,
  course: ({ pieces }) => pieces,
  clear: ({ pieces }) => pieces,
  start: ({ timers }) => timers,
  stop: ({ timers }) => timers,
  of: ({ players }) => players,
  over: ({ players }) => players,
  rule: ({ rules }) => rules,
  counter: ({ counters }) => counters,
  score: ({ counters }) => counters,
  lives: ({ counters }) => counters,
  cue: ({ cues }) => cues,
  do: ({ deeds }) => deeds,
};

function valuesAt(path: readonly Step[], offered: Offered): string[] {
  const words = schemasAt(path).flatMap((schema) =>
    [...(schema.enum ?? []), ...(schema.const === undefined ? [] : [schema.const])].map(String),
  );
  const flags = schemasAt(path).some(({ type }) => type === 'boolean') ? ['true', 'false'] : [];
  const keys = path.filter((step) => typeof step === 'string');
  const [last = '', above = ''] = [keys.at(-1), keys.at(-2)];
  const isAmount = ['add', 'set', 'pay', 'spawn', 'values', 'outcomes'].includes(above);
  const isListed = last === 'of' && keys[0] === 'lists';
  const names = isAmount ? offered.readable : isListed ? offered.numbers : (namesAt[last]?.(offered) ?? []);
  return [...new Set([...words, ...flags, ...names])];
}
