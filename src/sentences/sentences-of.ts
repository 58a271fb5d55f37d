import type { Path } from '../design/text/source.js';
import { clausesOf, type Kind } from './clauses.js';
import { counterWords, dialWords, hudWords, listWords } from './grammar/counters.js';
import { screenWords, transitionWords } from './grammar/flow.js';
import { acceptWords, targetWords, testWords } from './grammar/judged.js';
import { levelWords, playerWords, spawnWords, timerWords } from './grammar/levels.js';
import { type Offered, offeredBy } from './grammar/offered.js';
import { ruleWords } from './grammar/rules.js';
import { pieceWords } from './grammar/things.js';
import { isMap, isScalar, joined, levelsIn, type Raw, sectionsIn, type Words } from './grammar/words.js';
import { type Control, groupNames, type Made, type Sentence, type SentenceGroups } from './sentence.js';

/**
 * What a design says, as sentences. A design with mistakes in it has sentences too: those of the entries that can be made out.
 *
 * @param text the whole file; where it is no YAML, there are none
 */
export function sentencesOf(text: string): SentenceGroups {
  const { source, sections } = sectionsIn(text);
  const offered = offeredBy(sections);
  const sentence = (kind: Kind, path: Path, entry: Raw, words: Words): Sentence => {
    const { line, column } = source.keyPlaceOf(path);
    return {
      path,
      line,
      columns: [column, Number.POSITIVE_INFINITY],
      words: joined(words).map((word) => (typeof word === 'string' ? word : completed(word, offered))),
      clauses: clausesOf(kind, entry, path, offered),
    };
  };
  const named = (
    section: Kind,
    say: (entry: Raw, name: string, path: Path, offered: Offered) => Words,
  ): Sentence[] =>
    isMap(sections[section])
      ? Object.entries(sections[section]).flatMap(([name, found]) => {
          const path = [section, name];
          if (section === 'counters' && isScalar(found)) {
            const entry = { start: found };
            return [shortened(sentence(section, path, entry, say(entry, name, path, offered)), entry)];
          }
          if (found !== null && !isMap(found)) return [];
          const entry = found ?? {};
          return [sentence(section, path, entry, say(entry, name, path, offered))];
        })
      : [];
  const listed = (
    kind: Kind,
    say: (entry: Raw, path: Path, offered: Offered) => Words,
    path: Path = [kind],
    list: unknown = sections[kind],
  ): Sentence[] =>
    Array.isArray(list)
      ? list.flatMap((entry: unknown, index) => {
          const here = [...path, index];
          return isMap(entry) ? [sentence(kind, here, entry, say(entry, here, offered))] : [];
        })
      : [];
  const levels = levelsIn(sections).flatMap(({ entry, path }, index) => {
    const { name, spawn } = entry;
    const called = typeof name === 'string' ? name : `level ${index + 1}`;
    return [
      sentence('levels', path, entry, levelWords(entry, path, offered)),
      ...listed('spawn', spawnWords(called), [...path, 'spawn'], spawn),
    ];
  });
  return apart({
    things: named('pieces', pieceWords),
    rules: listed('rules', ruleWords),
    counters: [
      ...named('counters', counterWords),
      ...named('dials', dialWords),
      ...named('lists', listWords),
    ],
    hud: listed('hud', hudWords),
    levels,
    time: named('timers', timerWords),
    screens: named('screens', screenWords),
    transitions: listed('transitions', transitionWords),
    players: named('players', playerWords),
    targets: listed('targets', targetWords),
    tests: [...listed('tests', testWords), ...listed('accept', acceptWords)],
  });
}

/** Of sentences that stand on one line, each up to where the next begins. */
function apart(groups: SentenceGroups): SentenceGroups {
  const starts = new Map<number, number[]>();
  for (const { line, columns } of Object.values(groups).flat())
    starts.set(line, [...(starts.get(line) ?? []), columns[0]]);
  const ended = (sentence: Sentence): Sentence => {
    const [from] = sentence.columns;
    const later = starts.get(sentence.line)!.filter((column) => column > from);
    return { ...sentence, columns: [from, Math.min(...later)] };
  };
  const entries = groupNames.map((name) => [name, groups[name].map(ended)]);
  return Object.fromEntries(entries) as SentenceGroups;
}

/** The sentence of a counter that is written as its start alone: another key makes it a map. */
function shortened({ words, clauses, ...rest }: Sentence, entry: Raw): Sentence {
  const { path } = rest;
  return {
    ...rest,
    words: words.map((word) =>
      typeof word !== 'string' && word.path.at(-1) === 'start' ? { ...word, path } : word,
    ),
    clauses: clauses.map((clause) => {
      const { change } = clause;
      if (change.kind !== 'set') return clause;
      const value = { ...entry, [String(change.path.at(-1))]: change.value };
      return { ...clause, change: { kind: 'set', path, value } };
    }),
  };
}

/** Sections by the keys at which what they hold is named. */
const madeAt: { readonly [key: string]: Made } = {
  from: 'screens',
  to: 'screens',
  screens: 'screens',
  screen: 'screens',
  show: 'counters',
  counter: 'counters',
  start: 'timers',
  stop: 'timers',
  piece: 'pieces',
  like: 'pieces',
  of: 'players',
  over: 'players',
  when: 'events',
};

/** A word with what it offers where an expression stands, and with what naming something new makes. */
function completed(word: Control, offered: Offered): Control {
  if (word.kind === 'expression' && word.choices.length === 0) return { ...word, choices: offered.readable };
  const key = word.path.findLast((step) => typeof step === 'string');
  const makes = word.kind === 'name' ? madeAt[String(key)] : undefined;
  // Lists are of counters, and levels are like others of their own.
  const isOther = (key === 'of' && word.path[0] === 'lists') || (key === 'like' && word.path[0] === 'levels');
  return makes === undefined || isOther ? word : { ...word, makes };
}
