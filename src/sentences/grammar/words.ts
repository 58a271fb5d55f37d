import { ProblemList } from '../../design/problems/problem-list.js';
import { type Path, readSource, type Source } from '../../design/text/source.js';
import type { Control, Word } from '../sentence.js';

export type Raw = Readonly<Record<string, unknown>>;

/** Words under way; parts that are not there are left out. */
export type Words = readonly (Word | Words | undefined)[];

export const isMap = (value: unknown): value is Raw =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const isScalar = (value: unknown): value is string | number | boolean =>
  ['string', 'number', 'boolean'].includes(typeof value);

/** The sections of a design, and where they stand; none where the text is no YAML. */
export function sectionsIn(text: string): { readonly source: Source; readonly sections: Raw } {
  const source = readSource(text, 'design', new ProblemList());
  return { source, sections: isMap(source.value) ? source.value : {} };
}

/** The entries that give levels, in a list or one for all of them, and where each stands. */
export const levelsIn = ({ levels }: Raw): { readonly entry: Raw; readonly path: Path }[] =>
  Array.isArray(levels)
    ? levels.map((level: unknown, index) => ({ entry: isMap(level) ? level : {}, path: ['levels', index] }))
    : isMap(levels)
      ? [{ entry: levels, path: ['levels'] }]
      : [];

/** Flattens, and puts neighbouring fixed words together. */
export function joined(words: Words): Word[] {
  const all: Word[] = [];
  const visit = (part: Words[number]): void => {
    if (part === undefined || part === '') return;
    if (Array.isArray(part)) for (const each of part) visit(each);
    else if (typeof part === 'string' && typeof all.at(-1) === 'string') all[all.length - 1] += part;
    else all.push(part as Word);
  };
  visit(words);
  return all;
}

export const control = (
  path: Path,
  value: string | number | boolean,
  kind: Control['kind'],
  choices: readonly string[] = [],
  removes?: Path,
): Control => ({ path, value, kind, choices, ...(removes === undefined ? {} : { removes }) });

/** A value at a key, where it is there and a single one. */
export function at(
  entry: Raw,
  path: Path,
  key: string,
  kind: Control['kind'],
  choices?: readonly string[],
): Control | undefined {
  const value = entry[key];
  if (!isScalar(value)) return undefined;
  const isComputed = kind === 'number' && typeof value === 'string';
  return control([...path, key], value, isComputed ? 'expression' : kind, choices);
}

/** One name or several, with a word between them. */
export function names(
  entry: Raw,
  path: Path,
  key: string,
  choices: readonly string[],
  between: string,
  kind: Control['kind'] = 'name',
): Words | undefined {
  const value = entry[key];
  if (isScalar(value)) return [control([...path, key], value, kind, choices)];
  if (!Array.isArray(value)) return undefined;
  return value.flatMap((each, index): Words => {
    if (!isScalar(each)) return [];
    const mark = index === 0 ? '' : index === value.length - 1 ? ` ${between} ` : ', ';
    return [
      mark,
      control([...path, key, index], each, kind, choices, value.length === 1 ? [...path, key] : undefined),
    ];
  });
}

/** Names with a value each: `quota 12, rate 3`. */
export function mapped(entry: Raw, path: Path, key: string, kind: Control['kind']): Words | undefined {
  const held = entry[key];
  if (!isMap(held)) return undefined;
  const all = Object.entries(held);
  return all.map(
    ([name, value], index): Words => [
      `${index === 0 ? '' : ', '}${name} `,
      isScalar(value)
        ? control([...path, key, name], value, kind, [], all.length === 1 ? [...path, key] : undefined)
        : Array.isArray(value)
          ? value.map(
              (each: unknown, nth): Words => [
                nth === 0 ? '' : ' then ',
                isScalar(each)
                  ? control([...path, key, name, nth], each, kind, [], [...path, key, name])
                  : '',
              ],
            )
          : (mapped(held, [...path, key], name, kind) ?? ''),
    ],
  );
}

/** One number, an expression, or two numbers that it lies between. */
export function interval(entry: Raw, path: Path, key: string): Words | undefined {
  const value = entry[key];
  const one = at(entry, path, key, typeof value === 'number' ? 'number' : 'expression');
  if (one !== undefined) return [one];
  if (!Array.isArray(value)) return undefined;
  return value.flatMap(
    (each: unknown, index): Words => [
      index === 0 ? '' : ' to ',
      isScalar(each)
        ? control(
            [...path, key, index],
            each,
            typeof each === 'number' ? 'number' : 'expression',
            [],
            [...path, key],
          )
        : '',
    ],
  );
}

/** Words around something, where it is there. */
export const around = (before: string, inside: Word | Words | undefined, after = ''): Words | undefined =>
  inside === undefined || (Array.isArray(inside) && inside.length === 0)
    ? undefined
    : [before, inside as Word, after];

export const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);
