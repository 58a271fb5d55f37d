import type { z } from 'zod';
import { longestDuration } from '../language/duration.js';
import type { Events } from '../language/events.js';
import { parseStep } from '../language/step-text.js';
import type { Check, Computed, DesignTest, Screen, TestStep, Value } from '../model.js';
import { testSchema } from '../schema/judging.js';
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
    const entry = reading.parse(testSchema, value ?? {}, path, `Test ${index + 1}`);
    if (entry === undefined) return [];
    const looking = { reading, things, screens };
    const steps = (entry.do ?? []).flatMap((step, at): TestStep[] => {
      const where = [...path, 'do', at];
      if (typeof step === 'string') return readStep(reading, step, events, where);
      if ('expect' in step)
        return [{ kind: 'expect', checks: readChecks(looking, step.expect, [...where, 'expect']) }];
      const duration = reading.duration(step.wait, [...where, 'wait']);
      return [{ kind: 'never', duration, checks: readForbidden(looking, step.never, [...where, 'never']) }];
    });
    if (entry.expect !== undefined)
      steps.push({ kind: 'expect', checks: readChecks(looking, entry.expect, [...path, 'expect']) });
    const never = readForbidden(looking, entry.never ?? {}, [...path, 'never']);
    if (never.length === 0 && !steps.some(({ kind }) => kind === 'expect' || kind === 'never'))
      reading.failAtKey('missing-key', { key: 'expect', where: `The test "${entry.name}"` }, path);
    const given = readScene(looking, entry.given ?? {}, [...path, 'given']);
    return [
      {
        name: entry.name,
        given,
        seed: entry.seed ?? 1,
        spawns: entry.spawns ?? false,
        steps,
        never,
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

/** What a test may look at is read with. */
interface Looking {
  readonly reading: Reading;
  readonly things: Things;
  readonly screens: readonly Screen[];
}

/** The scene of a test: counters, the level and the screen. */
function readScene(
  looking: Looking,
  written: Readonly<Record<string, Value>>,
  path: Path,
): Map<string, Value> {
  const { reading, things } = looking;
  const { scope, counters, levels } = things;
  const read = new Map<string, Value>();
  for (const [name, value] of Object.entries(written)) {
    const at = [...path, name];
    if (!reading.known(name, 'counter', ['screen', 'level', ...scope.counters], at, true)) continue;
    if (!isValueOf(looking, name, value, at)) continue;
    const counter = counters.find((each) => each.name === name);
    // What a bound that is computed lets be depends on the scene.
    const known = (bound: Computed | undefined, none: number): number =>
      typeof bound === 'number' ? bound : none;
    const from = name === 'level' ? 1 : known(counter?.min, Number.NEGATIVE_INFINITY);
    const to = name === 'level' ? levels.length : known(counter?.max, Number.POSITIVE_INFINITY);
    const scaled = typeof value === 'number' ? value * 10 ** (counter?.places ?? 0) : 0;
    const isOutside = typeof value === 'number' && (value < from || value > to);
    if (isOutside || Math.abs(Math.round(scaled) - scaled) > 1e-6)
      reading.fail('out-of-range', { what: name, found: value as number, from, to }, at);
    else read.set(name, value);
  }
  return read;
}

/** Whether something can have a value; where not, that is reported. */
function isValueOf({ reading, things, screens }: Looking, name: string, value: unknown, at: Path): boolean {
  if (name === 'screen')
    return reading.known(
      String(value),
      'screen',
      screens.map((screen) => screen.name),
      at,
    );
  const counter = things.counters.find((each) => each.name === name);
  const [expected, isRight] =
    counter?.kind === 'flag'
      ? ['true or false', typeof value === 'boolean']
      : counter?.kind === 'words'
        ? [`one of ${counter.words.join(', ')}`, counter.words.includes(String(value))]
        : [rangeFor(value) ?? 'a number', typeof value === 'number' && Number.isFinite(value)];
  if (!isRight) reading.fail('wrong-type', { found: show(value), expected }, at);
  return isRight;
}

/** A comparison with a number, as the range that it stands for. */
function rangeFor(value: unknown): string | undefined {
  const [, sign, number] = /^\s*([<>]=)\s*(-?\d+(?:\.\d+)?)\s*$/.exec(String(value)) ?? [];
  return sign && `{ ${sign === '>=' ? 'atLeast' : 'atMost'}: ${number} }`;
}

type WrittenCheck = NonNullable<z.output<typeof testSchema>['expect']>[string];

/** What the player sees and hears, where no counter or timer has the name. */
const shown = ['text', 'hud', 'cues', 'popups'] as const;

function readChecks(looking: Looking, written: Readonly<Record<string, WrittenCheck>>, path: Path): Check[] {
  const { reading, things } = looking;
  const { scope } = things;
  const ofLevel = [...scope.levelValues.keys()].map((value) => `level.${value}`);
  const values = ['screen', 'level', 'course', ...scope.counters, ...scope.timers, ...scope.pieces];
  return Object.entries(written).flatMap(([what, value]): Check[] => {
    const at = [...path, what];
    const isShown = shown.some((each) => each === what) && !values.includes(what);
    if (isShown) return readShown(reading, what as (typeof shown)[number], value, at);
    if (!reading.known(what, 'counter, timer or piece', [...values, ...ofLevel, ...shown], at, true))
      return [];
    const isLevelValue = ofLevel.includes(what);
    const kind = isLevelValue ? 'levelValue' : 'value';
    const name = isLevelValue ? what.slice('level.'.length) : what;
    if (typeof value !== 'object')
      return isValueOf(looking, name, value, at) ? [{ kind, what, name, expected: value }] : [];
    const { atLeast, atMost } = value as { readonly atLeast?: unknown; readonly atMost?: unknown };
    const isRange = [atLeast, atMost].some((bound) => typeof bound === 'number');
    const isNumber = what !== 'screen' && isNumeric(things, what);
    if (!isRange || !isNumber) {
      const expected = isNumber ? 'a number, or a range such as { atLeast: 3 }' : 'a single value';
      reading.fail('wrong-type', { found: show(value), expected }, at);
      return [];
    }
    const range = {
      atLeast: typeof atLeast === 'number' ? atLeast : Number.NEGATIVE_INFINITY,
      atMost: typeof atMost === 'number' ? atMost : Number.POSITIVE_INFINITY,
    };
    if (range.atLeast > range.atMost)
      reading.fail('bad-order', { what: 'The range', from: range.atLeast, to: range.atMost }, at);
    return [{ kind, what, name, expected: range }];
  });
}

/** What may at no moment be so: nothing that changes between events, which nobody looks at all the while. */
function readForbidden(
  looking: Looking,
  written: Readonly<Record<string, WrittenCheck>>,
  path: Path,
): Check[] {
  const { reading, things } = looking;
  for (const name of Object.keys(written)) {
    if (!things.scope.timers.has(name) || things.scope.counters.has(name)) continue;
    const expected = 'something that changes with events; a timer runs on between them';
    reading.fail('wrong-type', { found: `the timer ${name}`, expected }, [...path, name]);
  }
  return readChecks(looking, written, path);
}

const isNumeric = ({ counters }: Things, name: string): boolean =>
  counters.every((each) => each.name !== name || each.kind === 'number');

function readShown(reading: Reading, what: (typeof shown)[number], value: WrittenCheck, at: Path): Check[] {
  const wrong = (expected: string): Check[] => {
    reading.fail('wrong-type', { found: show(value), expected }, at);
    return [];
  };
  if (what === 'text')
    return typeof value === 'string' ? [{ kind: what, what, expected: value }] : wrong('a text');
  if (what === 'hud') {
    if (typeof value !== 'object' || Array.isArray(value))
      return wrong('HUD items with what they show, such as { score: "0010" }');
    return Object.entries(value).map(([name, text]): Check => {
      const expected = text === false ? false : String(text);
      return { kind: what, what: `hud.${name}`, name, expected };
    });
  }
  if (typeof value === 'string') return [{ kind: what, what, expected: [value] }];
  return Array.isArray(value) ? [{ kind: what, what, expected: value }] : wrong('a text or a list of texts');
}
