import type { z } from 'zod';
import type { Events } from '../language/events.js';
import type { Expression } from '../language/expression.js';
import type { Scope } from '../language/parse-expression.js';
import { readTemplate } from '../language/template.js';
import type { Computed, Effect, Rule, Screen, Transition } from '../model.js';
import { screenSchema, transitionSchema } from '../schema/flow.js';
import { ruleSchema } from '../schema/rules.js';
import type { Path } from '../text/source.js';
import { readNamed } from './named.js';
import { mustBeMet, readEffects } from './read-effects.js';
import { timerIn } from './read-things.js';
import { dialsAlone, type Names, type Reading } from './reading.js';
import { screenNames, type Things } from './things.js';

/** The screen of a design that names none. */
const implicitScreen = 'play';

/** Screens with their texts; a design without any has one live screen. */
export function readScreens(reading: Reading, section: unknown, scope: Scope): Screen[] {
  const written = readNamed(reading, section, 'screens', 'screen', screenSchema);
  if (section !== undefined && Object.keys(section as object).length === 0) {
    const remedy =
      'Name at least one screen, or leave the key out: then there is one live screen called play.';
    reading.fail('empty-list', { what: 'The map of screens', remedy }, ['screens']);
  }
  if (written.length === 0) {
    return [
      { name: implicitScreen, live: true, ending: undefined, text: [], place: reading.source.placeOf([]) },
    ];
  }
  return written.map(({ name, path, entry }) => {
    if (entry?.live === true && entry.ending !== undefined) {
      reading.failAtKey(
        'either-or',
        { keys: ['live', 'ending'], where: `The screen ${name}`, reason: 'nothing moves on after an ending' },
        path,
      );
    }
    return {
      name,
      live: entry?.live ?? false,
      ending: entry?.ending,
      text: readTemplate(reading, entry?.text ?? '', scope, [...path, 'text']),
      place: reading.source.keyPlaceOf(path),
    };
  });
}

function readCondition(
  reading: Reading,
  entry: { if?: string | boolean | undefined; when?: unknown },
  scope: Scope,
  path: Path,
): Expression | undefined {
  if (entry.if === undefined) return undefined;
  const condition = reading.expression(entry.if, scope, 'truth value', [...path, 'if']);
  const timer = timerIn(condition);
  if (timer !== undefined && entry.when === undefined)
    reading.fail('watches-a-timer', { timer }, [...path, 'if']);
  return condition;
}

/** What a list pays is a condition as well: without a `when` it cannot watch a timer either. */
function readPaid(
  reading: Reading,
  entry: { when?: unknown; do?: z.output<typeof ruleSchema>['do'] | undefined },
  things: Things,
  events: readonly string[],
  path: Path,
): Effect[] {
  const effects = readEffects(reading, entry.do ?? [], things, [...path, 'do']);
  mustBeMet(reading, effects, events, things, [...path, 'do']);
  const [first] = effects;
  for (const { name, amount } of first?.kind === 'pay' && entry.when === undefined ? first.writes : []) {
    const timer = timerIn(amount);
    if (timer !== undefined) reading.fail('watches-a-timer', { timer }, [...path, 'do', 0, 'pay', name]);
  }
  return effects;
}

export function readRules(
  reading: Reading,
  section: unknown,
  things: Things,
  screens: readonly Screen[],
  events: Events,
): Rule[] {
  const live = screens.filter((screen) => screen.live).map((screen) => screen.name);
  const names: Names = new Map();
  return ((section ?? []) as readonly unknown[]).flatMap((value, index): Rule[] => {
    const path = ['rules', index];
    const entry = reading.parse(ruleSchema, value ?? {}, path, `Rule ${index + 1}`);
    if (entry === undefined) return [];
    const { heard, events: concrete } = events.resolve(reading, entry.when, [...path, 'when']);
    const condition = readCondition(reading, entry, things.scope, path);
    const where = `Rule ${index + 1}`;
    if (entry.when === undefined && entry.if === undefined && entry.passes === undefined) {
      reading.failAtKey('needs-one-of', { keys: ['when', 'if', 'passes'], where }, path);
    }
    if (entry.passes !== undefined && (entry.when ?? entry.if) !== undefined) {
      const reason = 'passing a multiple is what sets the rule off';
      reading.failAtKey(
        'either-or',
        { keys: ['passes', entry.when === undefined ? 'if' : 'when'], where, reason },
        path,
      );
    }
    const passes = readPasses(reading, entry.passes, things.scope, [...path, 'passes']);
    if (entry.name !== undefined) reading.claimText(entry.name, 'rule', [...path, 'name'], names);
    return [
      {
        name:
          entry.name ??
          (heard.length > 0
            ? `on ${heard.join(', ')}`
            : passes === undefined
              ? `if ${String(entry.if)}`
              : `each ${passes.step} ${passes.counter}`),
        heard,
        events: concrete,
        condition,
        screens:
          entry.screens === undefined
            ? live
            : screenNames(reading, entry.screens, screens, [...path, 'screens']),
        rest: reading.computedDuration(entry.rest ?? 0, things.scope, [...path, 'rest']),
        chance: entry.chance ?? 1,
        healthOf: undefined,
        once: entry.once,
        passes,
        effects: readPaid(reading, entry, things, concrete, path),
        place: reading.source.placeOf(path),
      },
    ];
  });
}

function readPasses(
  reading: Reading,
  written: Readonly<Record<string, number>> | undefined,
  scope: Scope,
  path: Path,
): Rule['passes'] {
  if (written === undefined) return undefined;
  const [[counter, step] = ['', 0], ...more] = Object.entries(written);
  if (more.length > 0 || counter === '') {
    reading.fail(
      'wrong-type',
      { found: `${more.length + (counter === '' ? 0 : 1)} counters`, expected: 'one counter with a step' },
      path,
    );
    return undefined;
  }
  const known = reading.known(counter, 'counter', scope.counters, [...path, counter], true);
  if (!Number.isInteger(step) || step < 1) {
    reading.fail('wrong-type', { found: String(step), expected: 'a whole number from 1' }, [
      ...path,
      counter,
    ]);
    return undefined;
  }
  if (known && scope.types.get(counter) !== 'number') {
    reading.fail('not-a-number', { counter }, [...path, counter]);
    return undefined;
  }
  return known ? { counter, step } : undefined;
}

/** A wait reads what stays as it is for as long as a screen is on: dials and what belongs to the level. */
function readWait(reading: Reading, written: number | string, scope: Scope, path: Path): Computed {
  const ofLevel = { ...dialsAlone(scope), levelValues: scope.levelValues };
  const wait = reading.computedDuration(written, ofLevel, path);
  reading.mustNotRead(wait, ['course'], 'dial', scope, path);
  return wait;
}

export function readTransitions(
  reading: Reading,
  section: unknown,
  things: Things,
  screens: readonly Screen[],
  events: Events,
): Transition[] {
  return ((section ?? []) as readonly unknown[]).flatMap((value, index): Transition[] => {
    const path = ['transitions', index];
    const entry = reading.parse(transitionSchema, value ?? {}, path, `Transition ${index + 1}`);
    if (entry === undefined) return [];
    const { heard, events: concrete } = events.resolve(reading, entry.when, [...path, 'when']);
    const condition = readCondition(reading, entry, things.scope, path);
    if (entry.when === undefined && entry.if === undefined && entry.wait === undefined) {
      reading.failAtKey(
        'needs-one-of',
        { keys: ['when', 'if', 'wait'], where: `Transition ${index + 1}` },
        path,
      );
    }
    const from = screenNames(reading, entry.from, screens, [...path, 'from']);
    const [to] = entry.to === 'back' ? ['back'] : screenNames(reading, entry.to, screens, [...path, 'to']);
    const changes = (['fresh', 'level', 'grace', 'do'] as const).filter((key) => entry[key] !== undefined);
    if (to === 'back' && changes.length > 0)
      reading.failAtKey('back-changes-nothing', { keys: changes }, [...path, changes[0]!]);
    if (typeof entry.level === 'number' && entry.level > things.levels.length) {
      reading.fail('out-of-range', { what: 'level', found: entry.level, from: 1, to: things.levels.length }, [
        ...path,
        'level',
      ]);
    }
    if (to === undefined) return [];
    const rest = {
      to,
      index,
      heard,
      events: concrete,
      condition,
      wait: readWait(reading, entry.wait ?? 0, things.scope, [...path, 'wait']),
      fresh: entry.fresh,
      level: entry.level,
      grace: reading.computedDuration(entry.grace ?? 0, things.scope, [...path, 'grace']),
      effects: readPaid(reading, entry, things, concrete, path),
      place: reading.source.placeOf(path),
    };
    return from.map((screen) => ({ from: screen, ...rest }));
  });
}
