import { longestDuration } from '../language/duration.js';
import type { Events } from '../language/events.js';
import { parseStep } from '../language/step-text.js';
import { measureForm, measureKeys } from '../measures.js';
import type {
  Acceptance,
  DesignTest,
  Expectation,
  Piece,
  Player,
  Rule,
  Screen,
  Target,
  TestStep,
  Value,
} from '../model.js';
import { acceptSchema, playerSchema, targetSchema, testSchema } from '../schema.js';
import type { Path } from '../text/source.js';
import { readNamed } from './named.js';
import { type Names, type Reading, show } from './reading.js';
import type { Things } from './things.js';

const defaultPatience = 600_000;

const fields = { learning: 0, thinks: 1000, style: new Map(), inputs: new Map(), patience: defaultPatience };

/** Who plays where a design names nobody: one to whom it is new, one who plays now and then, one who knows it well. */
const usualPlayers = [
  { ...fields, name: 'newcomer', skill: -1, pace: 1.3, runs: 2 },
  { ...fields, name: 'regular', skill: 0, pace: 1, runs: 3 },
  { ...fields, name: 'veteran', skill: 1, pace: 1, runs: 4 },
];

export function readPlayers(
  reading: Reading,
  section: unknown,
  { pieces }: Things,
  screens: readonly Screen[],
  events: Events,
): Player[] {
  // Players have a space of names of their own: nothing in a rule can name one.
  const names: Names = new Map();
  const players = readNamed(reading, section, 'players', 'player', playerSchema, names).map(
    ({ name, path, entry }): Player => {
      const seconds = (key: 'patience' | 'thinks'): number =>
        entry?.[key] === undefined ? fields[key] : reading.duration(entry[key], [...path, key]);
      return {
        name,
        skill: entry?.skill ?? 0,
        pace: entry?.pace ?? 1,
        runs: entry?.runs ?? 1,
        patience: seconds('patience'),
        thinks: seconds('thinks'),
        learning: entry?.learning ?? 0,
        style: readStyle(reading, entry?.style ?? {}, pieces, [...path, 'style']),
        inputs: readInputs(reading, entry?.inputs ?? {}, screens, events, [...path, 'inputs']),
        place: reading.source.keyPlaceOf(path),
      };
    },
  );
  if (players.length > 0) return players;
  const place = reading.source.placeOf([]);
  return usualPlayers.map((player) => ({ ...player, place }));
}

/** Weights by piece; one that is named itself goes before its groups. */
function readStyle(
  reading: Reading,
  written: Readonly<Record<string, number>>,
  pieces: readonly Piece[],
  path: Path,
): Map<string, number> {
  const known = pieces.flatMap(({ answersTo }) => answersTo);
  const weights = new Map<string, number>();
  const named = Object.entries(written).filter(([name]) =>
    reading.known(name, 'piece or group', new Set(known), [...path, name], true),
  );
  const groupsFirst = [...named].sort(([a], [b]) => Number(isPiece(pieces, a)) - Number(isPiece(pieces, b)));
  for (const [name, weight] of groupsFirst) {
    for (const piece of pieces) if (piece.answersTo.includes(name)) weights.set(piece.name, weight);
  }
  return weights;
}

const isPiece = (pieces: readonly Piece[], name: string): boolean =>
  pieces.some((piece) => piece.name === name);

function readInputs(
  reading: Reading,
  written: Readonly<Record<string, string | Readonly<Record<string, number>>>>,
  screens: readonly Screen[],
  events: Events,
  path: Path,
): Map<string, Map<string, number>> {
  const inputs = events.all().filter((event) => event.startsWith('input.'));
  const screenNames = screens.map(({ name }) => name);
  const chosen = new Map<string, Map<string, number>>();
  for (const [screen, choice] of Object.entries(written)) {
    const at = [...path, screen];
    if (!reading.known(screen, 'screen', screenNames, at, true)) continue;
    const weights = typeof choice === 'string' ? { [choice]: 1 } : choice;
    const isKnown = ([input]: [string, number]): boolean =>
      typeof choice === 'string'
        ? reading.known(input, 'input', inputs, at)
        : reading.known(input, 'input', inputs, [...at, input], true);
    chosen.set(screen, new Map(Object.entries(weights).filter(isKnown)));
  }
  return chosen;
}

/** Steps that one test may take, repeats written out. */
const mostRepeats = 10_000;

export function readTests(
  reading: Reading,
  section: unknown,
  things: Things,
  screens: readonly Screen[],
  events: Events,
): DesignTest[] {
  return ((section ?? []) as readonly unknown[]).flatMap((value, index): DesignTest[] => {
    const path = ['tests', index];
    const entry = reading.parse(testSchema, value ?? {}, path, `The test ${index + 1}`);
    if (entry === undefined) return [];
    const steps = (entry.do ?? []).flatMap((step, at): TestStep[] => {
      const where = [...path, 'do', at];
      return typeof step === 'string'
        ? readStep(reading, step, events, where)
        : [
            {
              kind: 'expect',
              expected: readExpectation(reading, step.expect, things, screens, [...where, 'expect']),
            },
          ];
    });
    if (entry.expect !== undefined) {
      steps.push({
        kind: 'expect',
        expected: readExpectation(reading, entry.expect, things, screens, [...path, 'expect']),
      });
    }
    if (!steps.some((step) => step.kind === 'expect')) {
      reading.failAtKey('missing-key', { key: 'expect', where: `The test "${entry.name}"` }, path);
    }
    const given = readExpectation(reading, entry.given ?? {}, things, screens, [...path, 'given'], true);
    return [
      {
        name: entry.name,
        given,
        seed: entry.seed ?? 1,
        spawns: entry.spawns ?? false,
        steps,
        place: reading.source.placeOf(path),
      },
    ];
  });
}

function readStep(reading: Reading, step: string, events: Events, path: Path): TestStep[] {
  const parsed = parseStep(step);
  if (parsed === undefined) {
    reading.fail('bad-step', { found: step }, path);
    return [];
  }
  if (parsed.kind === 'wait') {
    const { seconds } = parsed;
    if (seconds > longestDuration) {
      reading.fail('out-of-range', { what: 'The wait', found: seconds, from: 0, to: longestDuration }, path);
      return [];
    }
    return [{ kind: 'wait', duration: reading.duration(seconds, path) }];
  }
  if (parsed.kind === 'end') return [parsed];
  const { times, contact } = parsed;
  if (times < 1 || times > mostRepeats) {
    reading.fail(
      'out-of-range',
      { what: 'The number of repeats', found: times, from: 1, to: mostRepeats },
      path,
    );
  }
  const [event] = events.resolve(reading, parsed.event, path).events;
  const kind = event === undefined ? undefined : reading.names.get(event.split('.')[0]!)?.kind;
  if (event !== undefined && kind !== 'piece' && !event.startsWith('input.')) {
    reading.fail('bad-step', { found: step }, path);
    return [];
  }
  if (event === undefined) return [];
  return [{ kind: 'send', name: event, times: Math.min(times, mostRepeats), contact }];
}

function readExpectation(
  reading: Reading,
  written: Readonly<Record<string, Value>>,
  things: Things,
  screens: readonly Screen[],
  path: Path,
  given = false,
): Expectation {
  const { scope, counters, levels } = things;
  const read = new Map<string, Value>();
  const screenNames = screens.map((screen) => screen.name);
  const readable = given
    ? ['screen', 'level', ...scope.counters]
    : ['screen', 'level', 'course', ...scope.counters, ...scope.timers, ...scope.pieces];
  for (const [name, value] of Object.entries(written)) {
    const at = [...path, name];
    if (!reading.known(name, given ? 'counter' : 'counter, timer or piece', readable, at, true)) continue;
    if (name === 'screen') {
      if (reading.known(String(value), 'screen', screenNames, at)) read.set(name, String(value));
      continue;
    }
    const counter = counters.find((each) => each.name === name);
    const expected =
      counter?.kind === 'flag'
        ? 'true or false'
        : counter?.kind === 'words'
          ? `one of ${counter.words.join(', ')}`
          : 'a number';
    const isRight =
      counter?.kind === 'flag'
        ? typeof value === 'boolean'
        : counter?.kind === 'words'
          ? counter.words.includes(String(value))
          : typeof value === 'number' && Number.isFinite(value);
    if (!isRight) {
      reading.fail('wrong-type', { found: show(value), expected }, at);
      continue;
    }
    const from = name === 'level' ? 1 : (counter?.min ?? Number.NEGATIVE_INFINITY);
    const to = name === 'level' ? levels.length : (counter?.max ?? Number.POSITIVE_INFINITY);
    const scaled = typeof value === 'number' ? value * 10 ** (counter?.places ?? 0) : 0;
    if (
      given &&
      typeof value === 'number' &&
      (value < from || value > to || Math.abs(Math.round(scaled) - scaled) > 1e-6)
    ) {
      reading.fail('out-of-range', { what: name, found: value, from, to }, at);
      continue;
    }
    read.set(name, value);
  }
  return read;
}

export function readTargets(
  reading: Reading,
  section: unknown,
  players: readonly Player[],
  screens: readonly Screen[],
  rules: readonly Rule[],
  { counters, levels }: Things,
): Target[] {
  return ((section ?? []) as readonly unknown[]).flatMap((value, index): Target[] => {
    const path = ['targets', index];
    const where = `The target ${index + 1}`;
    const entry = reading.parse(targetSchema, value ?? {}, path, where);
    if (entry === undefined) return [];
    const from = entry.from ?? entry.atLeast ?? Number.NEGATIVE_INFINITY;
    const to = entry.to ?? entry.atMost ?? Number.POSITIVE_INFINITY;
    const bounds = (['from', 'atLeast', 'to', 'atMost'] as const).filter((key) => entry[key] !== undefined);
    if (bounds.length === 0)
      reading.failAtKey('needs-one-of', { keys: ['from', 'to', 'atLeast', 'atMost'], where }, path);
    for (const pair of [
      ['from', 'atLeast'],
      ['to', 'atMost'],
    ] as const) {
      if (pair.every((key) => entry[key] !== undefined)) {
        reading.failAtKey('either-or', { keys: pair, where, reason: 'they say the same' }, path);
      }
    }
    if (from > to) reading.fail('bad-order', { what: where, from, to }, path);
    const { needs, takes } = measureForm(entry.measure);
    const given = needs.filter((key) => entry[key] !== undefined);
    const measuring = `${where}, which measures ${entry.measure},`;
    if (needs.length > 0 && given.length === 0) {
      if (needs.length === 1) reading.failAtKey('missing-key', { key: needs[0]!, where: measuring }, path);
      else reading.failAtKey('needs-one-of', { keys: needs, where: measuring }, path);
      return [];
    }
    if (given.length > 1)
      reading.failAtKey('either-or', { keys: given, where, reason: 'it measures one of them' }, path);
    const own: readonly string[] = [...needs, ...takes];
    for (const key of measureKeys) {
      if (entry[key] === undefined || own.includes(key)) continue;
      const allowed = ['measure', 'of', 'from', 'to', 'atLeast', 'atMost', ...own];
      reading.failAtKey('unknown-key', { key, allowed, where: `A target that measures ${entry.measure}` }, [
        ...path,
        key,
      ]);
    }
    const isEnding = entry.measure === 'ending';
    const known = (
      key: 'of' | 'over' | 'screen' | 'rule' | 'counter',
      kind: string,
      of: readonly { readonly name: string }[],
    ): boolean => {
      const name = entry[key];
      const names = of.map((each) => each.name);
      return name === undefined || reading.known(name, kind, names, [...path, key]);
    };
    const checks = [
      known('of', 'player', players),
      known('over', 'player', players),
      isEnding
        ? known(
            'screen',
            'ending screen',
            screens.filter(({ ending }) => ending !== undefined),
          )
        : known('screen', 'screen', screens),
      known('rule', 'rule', rules),
      known('counter', 'counter', counters),
    ];
    if (entry.level !== undefined && !levels.at(-1)!.endless && entry.level > levels.length) {
      reading.fail('out-of-range', { what: 'The level', found: entry.level, from: 1, to: levels.length }, [
        ...path,
        'level',
      ]);
    }
    if (checks.includes(false)) return [];
    return [
      {
        measure: entry.measure,
        of: entry.of,
        stat: entry.stat ?? 'median',
        over: entry.over,
        screen: entry.screen,
        level: entry.level,
        rule: entry.rule,
        counter: entry.counter,
        bound: entry.bound ?? 'max',
        from,
        to,
        place: reading.source.placeOf(path),
      },
    ];
  });
}

export function readAccepted(reading: Reading, section: unknown): Acceptance[] {
  return ((section ?? []) as readonly unknown[]).flatMap((value, index): Acceptance[] => {
    const path = ['accept', index];
    const entry = reading.parse(acceptSchema, value ?? {}, path, `The acceptance ${index + 1}`);
    if (entry === undefined) return [];
    return [{ ...entry, about: entry.about, place: reading.source.placeOf(path) }];
  });
}
