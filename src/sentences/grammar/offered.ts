import { roles } from '../../design/model.js';
import { isMap, levelsIn, type Raw } from './words.js';

/** Names that the sentences of one design can offer. */
export interface Offered {
  readonly pieces: readonly string[];
  readonly counters: readonly string[];
  /** Counters that hold numbers. */
  readonly numbers: readonly string[];
  readonly timers: readonly string[];
  readonly events: readonly string[];
  readonly cues: readonly string[];
  readonly screens: readonly string[];
  /** What an expression can read. */
  readonly readable: readonly string[];
  readonly inputs: readonly string[];
  /** What a player or a game can do: outcomes of pieces, and inputs. */
  readonly deeds: readonly string[];
  /** What each counter starts with, where that is written as a value. */
  readonly starts: Readonly<Record<string, string | number | boolean>>;
  readonly players: readonly string[];
  readonly rules: readonly string[];
}

export function offeredBy(sections: Raw): Offered {
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
  const events = unique([
    ...outcomes,
    ...timers.map((timer) => {
      const entry = (sections.timers as Raw)[timer];
      return `${timer}.${isMap(entry) && entry.every !== undefined ? 'ticked' : 'ended'}`;
    }),
    ...heard,
    ...keys('screens').map((screen) => `${screen}.entered`),
  ]);
  const starts = startsOf(sections.counters);
  const inputs = events.filter((event) => event.startsWith('input.'));
  return {
    pieces,
    counters: keys('counters'),
    timers,
    screens: keys('screens'),
    events,
    readable: [
      ...keys('counters'),
      ...keys('dials'),
      'level',
      'level.last',
      ...levelValues(sections).map((name) => `level.${name}`),
      ...pieces.flatMap((piece) => [`present.${piece}`, `left.${piece}`]),
      ...timers.map((timer) => `timer.${timer}`),
    ],
    inputs,
    deeds: [...outcomes, ...inputs],
    starts,
    numbers: keys('counters').filter((name) => typeof starts[name] === 'number'),
    players: keys('players'),
    rules: written.flatMap(({ name }) => (typeof name === 'string' ? [name] : [])),
    cues: unique(effects.flatMap(({ cue }) => (typeof cue === 'string' ? [cue] : []))),
  };
}

function startsOf(counters: unknown): Record<string, string | number | boolean> {
  if (!isMap(counters)) return {};
  return Object.fromEntries(
    Object.entries(counters).map(([name, entry]) => {
      const { start, words } = isMap(entry) ? entry : ({ start: entry } as Raw);
      const first = Array.isArray(words) ? String(words[0]) : 0;
      const isWritten = typeof start === 'number' || typeof start === 'boolean' || Array.isArray(words);
      return [name, isWritten && start !== undefined ? (start as number) : first];
    }),
  );
}

const levelValues = (sections: Raw): string[] => [
  ...new Set(
    levelsIn(sections).flatMap(({ entry }) => (isMap(entry.values) ? Object.keys(entry.values) : [])),
  ),
];
