import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { healthCounters, healthRules, withMost } from './health.js';
import { Events } from './language/events.js';
import type { Design } from './model.js';
import { inOneLine, isPlainMap, mapFromList } from './problems/meant.js';
import { DesignError } from './problems/problem.js';
import { ProblemList } from './problems/problem-list.js';
import { readCounters, readStarts } from './reading/read-counters.js';
import { mustBeActs, readEmitted } from './reading/read-effects.js';
import { readRules, readScreens, readTransitions } from './reading/read-flow.js';
import { readHud, readLists } from './reading/read-hud.js';
import { readLevels, readSpawns } from './reading/read-levels.js';
import { readNeeds, readPieces } from './reading/read-pieces.js';
import { readPlayers } from './reading/read-players.js';
import { readAccepted, readTargets } from './reading/read-targets.js';
import { readTests } from './reading/read-tests.js';
import { readDials, readTimers, readTimes, scopeOf } from './reading/read-things.js';
import { Reading, show } from './reading/reading.js';
import { designSchema } from './schema/design.js';
import { readSource, type Source } from './text/source.js';

/**
 * Reads a design from YAML or JSON.
 *
 * @param text the whole file
 * @param file its name, for the places in messages
 * @throws DesignError with every problem of the file, each with its line and column
 * @example
 * const design = readDesign('counters: { score: {} }');
 * design.screens[0].name // => 'play'
 */
export function readDesign(text: string, file = 'design'): Design {
  const problems = new ProblemList();
  return readFrom(readSource(text, file, problems), problems);
}

/** Reads a design from a source whose own problems are already in the list. */
export function readFrom(source: Source, problems: ProblemList): Design {
  const { file } = source;
  if (source.value === undefined) throw new DesignError(problems.inFileOrder());
  const reading = new Reading(source, problems);
  const sections = readSections(reading);
  const grid = reading.duration((sections.grid as number | undefined) ?? 0.1, ['grid']);

  const dials = readDials(reading, sections.dials);
  const written = readCounters(reading, sections.counters);
  const untimed = readTimers(reading, sections.timers);
  const needing = readPieces(reading, sections.pieces);
  const unstarted = [...written, ...healthCounters(needing)];
  const bare = readLevels(reading, sections.levels, needing, dials);
  const scope = scopeOf({ dials, counters: unstarted, timers: untimed, pieces: needing, levels: bare });
  const pieces = readNeeds(reading, needing, scope, grid);
  const counters = withMost(readStarts(reading, unstarted, scope));
  const levels = readSpawns(reading, bare, grid, scope);
  const screens = readScreens(reading, sections.screens, scope);
  const timers = readTimes(reading, untimed, grid, scope, screens);
  const things = { counters, timers, pieces, levels, scope };
  const events = new Events(pieces, timers, screens);
  for (const key of ['rules', 'transitions']) readEmitted(reading, events, sections[key], key);
  mustBeActs(reading, needing, events);
  const rules = [
    ...healthRules(pieces, counters, screens),
    ...readRules(reading, sections.rules, things, screens, events),
  ];
  const transitions = readTransitions(reading, sections.transitions, things, screens, events);
  const hud = readHud(reading, sections.hud, things, screens);
  const lists = readLists(reading, sections.lists, things, events);
  const players = readPlayers(reading, sections.players, { ...things, grid }, screens, events);
  const tests = readTests(reading, sections.tests, things, screens, events);
  const targets = readTargets(reading, sections.targets, players, screens, rules, things);
  const named = (key: 'score' | 'lives'): string | undefined => {
    const given = sections[key] as string | undefined;
    if (given !== undefined) reading.known(given, 'counter', scope.counters, [key]);
    return given ?? (scope.counters.has(key) ? key : undefined);
  };
  const score = named('score');
  const lives = named('lives');

  const accepted = readAccepted(reading, sections.accept);
  if (problems.length > 0) throw new DesignError(problems.inFileOrder());
  return {
    file,
    title: (sections.title as string | undefined) ?? file,
    score,
    lives,
    dials,
    looseOf: undefined,
    counters,
    timers,
    pieces,
    levels,
    rules,
    screens,
    transitions,
    hud,
    lists,
    players,
    tests,
    targets,
    accepted,
    events: events.all(),
    ...digestsOf(sections),
    written: sections,
  };
}

/** The sections of the file as plain values; one whose form is wrong is reported and left out. */
function readSections(reading: Reading): Readonly<Record<string, unknown>> {
  const { value } = reading.source;
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    reading.parse(designSchema, value, [], 'A design');
    return {};
  }
  const read: Record<string, unknown> = {};
  const allowed = Object.keys(designSchema.shape);
  for (const [key, section] of Object.entries(value)) {
    if (!allowed.includes(key)) {
      reading.failAtKey('unknown-key', { key, allowed, where: 'A design' }, [key]);
      continue;
    }
    const isMap = sectionMaps.has(key);
    const isList = sectionLists.has(key);
    if ((key === 'score' || key === 'lives') && (typeof section === 'number' || isPlainMap(section))) {
      const expected = `it under counters, such as counters: { ${key}: ${inOneLine(section) ?? 0} }`;
      reading.fail('wrong-type', { found: show(section), expected }, [key]);
    } else if (!isMap && !isList) {
      const plain = designSchema.shape[key as keyof typeof designSchema.shape];
      read[key] = reading.parse(plain, section, [key], 'A design');
    } else if ((isMap && isPlainMap(section)) || (isList && Array.isArray(section))) {
      read[key] = section;
    } else if (section !== null) {
      reading.parse(designSchema.shape[key as 'rules'], section, [key], 'A design');
      // Its names are known all the same, so that they are not called unknown wherever they are used.
      if (isMap && Array.isArray(section)) read[key] = mapFromList(key, section);
    }
  }
  return read;
}

const sectionMaps = new Set([
  'dials',
  'counters',
  'timers',
  'pieces',
  'levels',
  'screens',
  'lists',
  'players',
]);
const sectionLists = new Set(['levels', 'rules', 'transitions', 'hud', 'tests', 'targets', 'accept']);

/** Sections that change no session: tests and targets judge it, players only choose its inputs, texts and the HUD show it. */
const withoutMeaning = new Set([
  'jocus',
  'title',
  'score',
  'lives',
  'hud',
  'lists',
  'players',
  'tests',
  'targets',
  'accept',
]);

function digestsOf(sections: Readonly<Record<string, unknown>>): Pick<Design, 'fingerprint' | 'digests'> {
  const digest = (value: unknown): string =>
    bytesToHex(sha256(utf8ToBytes(JSON.stringify(value)))).slice(0, 16);
  const meaning = Object.entries(sections)
    .filter(([key]) => !withoutMeaning.has(key))
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return {
    fingerprint: digest(meaning),
    digests: Object.fromEntries(meaning.map(([key, section]) => [key, digest(section)])),
  };
}
