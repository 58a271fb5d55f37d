import { longestDuration } from '../language/duration.js';
import type { Events } from '../language/events.js';
import { parseStep } from '../language/step-text.js';
import type { Computed, DesignTest, Expectation, Screen, TestStep, Value } from '../model.js';
import { testSchema } from '../schema.js';
import type { Path } from '../text/source.js';
import { type Reading, show } from './reading.js';
import type { Things } from './things.js';

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
    // What a bound that is computed lets be depends on the scene.
    const known = (bound: Computed | undefined, none: number): number =>
      typeof bound === 'number' ? bound : none;
    const from = name === 'level' ? 1 : known(counter?.min, Number.NEGATIVE_INFINITY);
    const to = name === 'level' ? levels.length : known(counter?.max, Number.POSITIVE_INFINITY);
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
