import { roles, spans } from '../design/model.js';
import { ProblemList } from '../design/problem-list.js';
import { hudSchema } from '../design/schema.js';
import { type Path, readSource } from '../design/source.js';
import type { Control, GroupName, Sentence, SentenceGroups, Word } from './sentence.js';

type Raw = Readonly<Record<string, unknown>>;

/** Names that the sentences of one design can offer. */
interface Offered {
  readonly pieces: readonly string[];
  readonly counters: readonly string[];
  readonly timers: readonly string[];
  readonly events: readonly string[];
  readonly cues: readonly string[];
  readonly screens: readonly string[];
}

/**
 * What a design says of its things, its rules, its counters and its HUD, as sentences; whatever else it says stands in its file alone. A
 * design with mistakes in it has sentences too: those of the entries that can be made out.
 *
 * @param text the whole file; where it is no YAML, there are none
 */
export function sentencesOf(text: string): SentenceGroups {
  const source = readSource(text, 'design', new ProblemList());
  const sections = isMap(source.value) ? source.value : {};
  const offered = offeredBy(sections);
  const sentence = (path: Path, words: Words): Sentence => ({
    path,
    line: source.keyPlaceOf(path).line,
    words: joined(words),
  });
  const named = (section: string, say: (entry: Raw, name: string, path: Path) => Words): Sentence[] =>
    isMap(sections[section])
      ? Object.entries(sections[section]).flatMap(([name, entry]) => {
          const path = [section, name];
          return entry === null || isMap(entry) ? [sentence(path, say(entry ?? {}, name, path))] : [];
        })
      : [];
  const listed = (section: string, say: (entry: Raw, path: Path) => Words): Sentence[] =>
    Array.isArray(sections[section])
      ? sections[section].flatMap((entry: unknown, index) => {
          const path = [section, index];
          return isMap(entry) ? [sentence(path, say(entry, path))] : [];
        })
      : [];
  const groups: { readonly [Name in GroupName]: Sentence[] } = {
    things: named('pieces', (entry, name, path) => pieceWords(entry, name, path, offered)),
    rules: listed('rules', (entry, path) => ruleWords(entry, path, offered)),
    counters: named('counters', counterWords),
    hud: listed('hud', (entry, path) => hudWords(entry, path, offered)),
  };
  return groups;
}

/** Words under way; parts that are not there are left out. */
type Words = readonly (Word | Words | undefined)[];

const isMap = (value: unknown): value is Raw =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isScalar = (value: unknown): value is string | number | boolean =>
  ['string', 'number', 'boolean'].includes(typeof value);

/** Flattens, and puts neighbouring fixed words together. */
function joined(words: Words): Word[] {
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

function offeredBy(sections: Raw): Offered {
  const keys = (section: string): string[] =>
    isMap(sections[section]) ? Object.keys(sections[section]) : [];
  const pieces = keys('pieces');
  const outcomes = pieces.flatMap((piece) => {
    const entry = (sections.pieces as Raw)[piece];
    const role = isMap(entry) ? roles[entry.is as keyof typeof roles] : undefined;
    const own = isMap(entry) && isMap(entry.outcomes) ? Object.keys(entry.outcomes) : undefined;
    const names = own ?? (role === undefined ? ['taken', 'missed'] : [role.success, role.failure]);
    return names.map((outcome) => `${piece}.${outcome}`);
  });
  const timers = keys('timers');
  const written = Array.isArray(sections.rules) ? sections.rules.filter(isMap) : [];
  const heard = [
    ...written,
    ...(Array.isArray(sections.transitions) ? sections.transitions.filter(isMap) : []),
  ]
    .flatMap(({ when }) => when)
    .filter((when) => typeof when === 'string');
  const effects = written.flatMap((rule) => (Array.isArray(rule.do) ? rule.do.filter(isMap) : []));
  const unique = (names: readonly string[]): string[] => [...new Set(names)];
  return {
    pieces,
    counters: keys('counters'),
    timers,
    screens: keys('screens'),
    events: unique([...outcomes, ...timers.map((timer) => `${timer}.ended`), ...heard]),
    cues: unique(effects.flatMap(({ cue }) => (typeof cue === 'string' ? [cue] : []))),
  };
}

const control = (
  path: Path,
  value: string | number | boolean,
  kind: Control['kind'],
  choices: readonly string[] = [],
): Control => ({ path, value, kind, choices });

/** A value at a key, where it is there and a single one. */
function at(
  entry: Raw,
  path: Path,
  key: string,
  kind: Control['kind'],
  choices?: readonly string[],
): Control | undefined {
  const value = entry[key];
  return isScalar(value) ? control([...path, key], value, kind, choices) : undefined;
}

/** One name or several, with a word between them. */
function names(
  entry: Raw,
  path: Path,
  key: string,
  choices: readonly string[],
  between: string,
): Words | undefined {
  const value = entry[key];
  if (isScalar(value)) return [control([...path, key], value, 'name', choices)];
  if (!Array.isArray(value)) return undefined;
  return value.flatMap((each, index): Words => {
    if (!isScalar(each)) return [];
    const mark = index === 0 ? '' : index === value.length - 1 ? ` ${between} ` : ', ';
    return [mark, control([...path, key, index], each, 'name', choices)];
  });
}

/** Words around something, where it is there. */
const around = (before: string, inside: Word | Words | undefined, after = ''): Words | undefined =>
  inside === undefined || (Array.isArray(inside) && inside.length === 0)
    ? undefined
    : [before, inside as Word, after];

function pieceWords(entry: Raw, name: string, path: Path, { pieces }: Offered): Words {
  const interval = Array.isArray(entry.lead)
    ? [
        control([...path, 'lead', 0], Number(entry.lead[0]), 'number'),
        ' to ',
        control([...path, 'lead', 1], Number(entry.lead[1]), 'number'),
      ]
    : at(entry, path, 'lead', 'number');
  return [
    capital(withArticle(name)),
    around(' is a ', at(entry, path, 'is', 'choice', Object.keys(roles))),
    around(
      entry.is === undefined ? ' is like ' : ', like ',
      at(
        entry,
        path,
        'like',
        'name',
        pieces.filter((piece) => piece !== name),
      ),
    ),
    around(', one of ', names(entry, path, 'in', [], 'and')),
    around('; it takes ', at(entry, path, 'takes', 'number'), ' s to meet'),
    around('; it waits ', at(entry, path, 'lasts', 'number'), ' s'),
    around('; it comes after ', interval, ' s'),
    around('; its difficulty is ', at(entry, path, 'difficulty', 'number')),
    around('; it needs ', at(entry, path, 'hits', 'number'), ' hits'),
    around('; it can be met while ', at(entry, path, 'needs', 'expression')),
    '.',
  ];
}

function ruleWords(entry: Raw, path: Path, offered: Offered): Words {
  const events = names(entry, path, 'when', offered.events, 'or');
  const condition = at(entry, path, 'if', 'expression');
  const passes = isMap(entry.passes)
    ? Object.entries(entry.passes).map(
        ([counter, step]): Words => [
          `Each time ${counter} passes another `,
          control([...path, 'passes', counter], step as number, 'number'),
        ],
      )
    : undefined;
  const effects = Array.isArray(entry.do)
    ? entry.do.flatMap((effect: unknown, index): Words[] =>
        isMap(effect) ? [effectWords(effect, [...path, 'do', index], offered)] : [],
      )
    : [];
  return [
    events === undefined ? (passes ?? 'As soon as ') : ['When ', events],
    condition === undefined ? undefined : [events === undefined ? '' : ' while ', condition],
    around(' on ', names(entry, path, 'screens', offered.screens, 'and')),
    around(', with a chance of ', at(entry, path, 'chance', 'number')),
    ', ',
    effects.map((words, index): Words => [index === 0 ? '' : '; ', words]),
    around('; at most once per ', at(entry, path, 'once', 'choice', spans)),
    around('; then rest ', at(entry, path, 'rest', 'number'), ' s'),
    '.',
  ];
}

function effectWords(effect: Raw, path: Path, offered: Offered): Words {
  const amounts = (key: string, verb: string, between: string): Words | undefined =>
    isMap(effect[key])
      ? Object.entries(effect[key]).map(
          ([name, amount], index): Words => [
            index === 0 ? `${verb} ` : ', ',
            control([...path, key, name], isScalar(amount) ? amount : '', 'expression', offered.counters),
            ` ${between} ${name}`,
          ],
        )
      : undefined;
  const sets = isMap(effect.set)
    ? Object.entries(effect.set).map(
        ([name, amount], index): Words => [
          `${index === 0 ? 'set ' : ', '}${name} to `,
          control([...path, 'set', name], isScalar(amount) ? amount : '', 'expression', offered.counters),
        ],
      )
    : undefined;
  const spawns = isMap(effect.spawn)
    ? Object.entries(effect.spawn).map(
        ([piece, count], index): Words => [
          index === 0 ? 'make ' : ', ',
          control([...path, 'spawn', piece], isScalar(count) ? count : 1, 'expression'),
          ` ${piece} appear`,
        ],
      )
    : around('make ', at(effect, path, 'spawn', 'name', offered.pieces), ' appear');
  const turns = isMap(effect.become)
    ? Object.entries(effect.become).map(
        ([from, to], index): Words => [
          `${index === 0 ? 'turn ' : ', '}${from} into `,
          control([...path, 'become', from], String(to), 'name', offered.pieces),
        ],
      )
    : undefined;
  return [
    amounts('pay', 'pay', 'of'),
    amounts('add', 'add', 'to'),
    sets,
    spawns,
    turns,
    around('clear away ', names(effect, path, 'clear', offered.pieces, 'and')),
    around('start ', names(effect, path, 'start', offered.timers, 'and')),
    around('stop ', names(effect, path, 'stop', offered.timers, 'and')),
    around('tell ', at(effect, path, 'emit', 'name')),
    around('show “', at(effect, path, 'popup', 'text'), '”'),
    around('protect the player for ', at(effect, path, 'grace', 'number'), ' s'),
    around('sound ', at(effect, path, 'cue', 'name', offered.cues)),
  ];
}

function counterWords(entry: Raw, name: string, path: Path): Words {
  const words = Array.isArray(entry.words)
    ? [
        ' is one of ',
        entry.words.map(
          (word, index): Words => [
            index === 0 ? '' : ', ',
            control([...path, 'words', index], String(word), 'text'),
          ],
        ),
      ]
    : undefined;
  return [
    capital(name),
    words,
    around(`${words === undefined ? '' : ','} starts at `, at(entry, path, 'start', 'expression')),
    around(', never goes below ', at(entry, path, 'min', 'number')),
    around(', never above ', at(entry, path, 'max', 'number')),
    around(', keeps ', at(entry, path, 'places', 'number'), ' decimals'),
    around(
      entry.keep === 'forever' ? ', and is kept ' : ', and is kept for a ',
      at(entry, path, 'keep', 'choice', spans),
    ),
    Object.keys(entry).length === 0 ? ' starts at 0' : '',
    '.',
  ];
}

function hudWords(entry: Raw, path: Path, { counters, timers, screens }: Offered): Words {
  return [
    'Show ',
    at(entry, path, 'show', 'name', [...counters, ...timers]),
    around(entry.show === undefined ? '“' : ' with “', at(entry, path, 'text', 'text'), '”'),
    around(' as ', at(entry, path, 'as', 'choice', hudSchema.shape.as.unwrap().options)),
    around(', ', at(entry, path, 'width', 'number'), ' wide'),
    around(', labelled ', at(entry, path, 'label', 'text')),
    around(', at the ', at(entry, path, 'at', 'choice', hudSchema.shape.at.unwrap().options)),
    around(' on ', names(entry, path, 'screens', screens, 'and')),
    around(', while ', at(entry, path, 'if', 'expression')),
    '.',
  ];
}

const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);
const withArticle = (name: string): string => `${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name}`;
