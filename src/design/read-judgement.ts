import { longestDuration } from './duration.js';
import type { Events } from './events.js';
import type {
  Acceptance,
  DesignTest,
  Expectation,
  Player,
  Rule,
  Screen,
  Target,
  TestStep,
  Value,
} from './model.js';
import { readNamed } from './named.js';
import type { Things } from './read-flow.js';
import { type Names, type Reading, show } from './reading.js';
import { acceptSchema, playerSchema, targetSchema, testSchema } from './schema.js';
import type { Path } from './source.js';
import { parseStep } from './step-text.js';

const defaultPatience = 600_000;

export function readPlayers(reading: Reading, section: unknown): Player[] {
  // Players have a space of names of their own: nothing in a rule can name one.
  const names: Names = new Map();
  const players = readNamed(reading, section, 'players', 'player', playerSchema, names).map(
    ({ name, path, entry }) => ({
      name,
      skill: entry?.skill ?? 0,
      pace: entry?.pace ?? 1,
      runs: entry?.runs ?? 1,
      patience:
        entry?.patience === undefined
          ? defaultPatience
          : reading.duration(entry.patience, [...path, 'patience']),
      place: reading.source.keyPlaceOf(path),
    }),
  );
  if (players.length > 0) return players;
  const place = reading.source.placeOf([]);
  return [{ name: 'player', skill: 0, pace: 1, runs: 1, patience: defaultPatience, place }];
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
    const needs = { score: undefined, reach: 'screen', ending: 'screen', share: 'rule' } as const;
    const needed = needs[entry.measure];
    if (needed !== undefined && entry[needed] === undefined) {
      reading.failAtKey(
        'missing-key',
        { key: needed, where: `${where}, which measures ${entry.measure},` },
        path,
      );
      return [];
    }
    for (const key of ['screen', 'rule', 'stat'] as const) {
      const belongs = key === 'stat' ? entry.measure === 'score' : needed === key;
      if (entry[key] !== undefined && !belongs) {
        const allowed = [
          'measure',
          'of',
          'from',
          'to',
          'atLeast',
          'atMost',
          ...(needed === undefined ? ['stat'] : [needed]),
        ];
        reading.failAtKey('unknown-key', { key, allowed, where: `A target that measures ${entry.measure}` }, [
          ...path,
          key,
        ]);
      }
    }
    const checks: boolean[] = [];
    if (entry.of !== undefined)
      checks.push(
        reading.known(
          entry.of,
          'player',
          players.map((each) => each.name),
          [...path, 'of'],
        ),
      );
    if (entry.screen !== undefined) {
      const endings = screens.filter((each) => entry.measure !== 'ending' || each.ending !== undefined);
      const kind = entry.measure === 'ending' ? 'ending screen' : 'screen';
      checks.push(
        reading.known(
          entry.screen,
          kind,
          endings.map((each) => each.name),
          [...path, 'screen'],
        ),
      );
    }
    if (entry.rule !== undefined)
      checks.push(
        reading.known(
          entry.rule,
          'rule',
          rules.map((each) => each.name),
          [...path, 'rule'],
        ),
      );
    if (checks.includes(false)) return [];
    return [
      {
        measure: entry.measure,
        of: entry.of,
        stat: entry.stat ?? 'median',
        screen: entry.screen,
        rule: entry.rule,
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
