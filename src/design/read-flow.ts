import type { z } from 'zod';
import { type Events, membersOf } from './events.js';
import type { Expression, Scope } from './expression.js';
import type { Design, Effect, Rule, Screen, Transition } from './model.js';
import { readNamed, timerIn } from './read-things.js';
import { listed, type Names, type Reading } from './reading.js';
import { type effectSchema, ruleSchema, screenSchema, transitionSchema } from './schema.js';
import type { Path } from './source.js';
import { readTemplate } from './template.js';

/** What is read before rules and transitions, and what they may name. */
export interface Things extends Pick<Design, 'counters' | 'timers' | 'pieces' | 'levels'> {
  readonly scope: Scope;
}

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

const effectKinds = ['add', 'set', 'spawn', 'clear', 'grace', 'cue'] as const;

function readEffects(
  reading: Reading,
  list: readonly z.output<typeof effectSchema>[],
  things: Things,
  path: Path,
): Effect[] {
  const { scope, pieces } = things;
  return list.flatMap((entry, index): Effect[] => {
    const at = [...path, index];
    const given = effectKinds.filter((kind) => entry[kind] !== undefined);
    if (given.length === 0) reading.failAtKey('needs-one-of', { keys: effectKinds, where: 'An effect' }, at);
    if (given.length > 1) {
      const reason = 'an effect does one thing; the next one of the list sees what it did';
      reading.failAtKey('either-or', { keys: given, where: 'An effect', reason }, at);
    }
    const effects: Effect[] = [];
    for (const kind of ['add', 'set'] as const) {
      if (entry[kind] === undefined) continue;
      const writes = Object.entries(entry[kind]).flatMap(([counter, written]) => {
        const known = reading.known(counter, 'counter', scope.counters, [...at, kind, counter], true);
        const amount = reading.expression(written, scope, 'number', [...at, kind, counter]);
        return known && amount !== undefined ? [{ counter, amount }] : [];
      });
      effects.push({ kind, writes });
    }
    if (entry.spawn !== undefined) {
      const counts = typeof entry.spawn === 'string' ? { [entry.spawn]: 1 } : entry.spawn;
      const names = pieces.map((piece) => piece.name);
      const isName = typeof entry.spawn === 'string';
      const known = Object.entries(counts).flatMap(([piece, count]) => {
        const where = isName ? [...at, 'spawn'] : [...at, 'spawn', piece];
        return reading.known(piece, 'piece', names, where, !isName) ? [{ piece, count }] : [];
      });
      effects.push({ kind: 'spawn', pieces: known });
    }
    if (entry.clear !== undefined) {
      const cleared = listed(entry.clear, [...at, 'clear']).flatMap(({ name, path: where }) =>
        reading.known(name, 'piece or group', scope.pieces, where) ? membersOf(name, pieces) : [],
      );
      effects.push({ kind: 'clear', pieces: [...new Set(cleared)] });
    }
    if (entry.grace !== undefined) {
      effects.push({ kind: 'grace', duration: reading.duration(entry.grace, [...at, 'grace']) });
    }
    if (entry.cue !== undefined) effects.push({ kind: 'cue', cue: entry.cue });
    return effects;
  });
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
    const entry = reading.parse(ruleSchema, value ?? {}, path, `The rule ${index + 1}`);
    if (entry === undefined) return [];
    const { heard, events: concrete } = events.resolve(reading, entry.when, [...path, 'when']);
    const condition = readCondition(reading, entry, things.scope, path);
    if (entry.when === undefined && entry.if === undefined) {
      reading.failAtKey('needs-one-of', { keys: ['when', 'if'], where: `The rule ${index + 1}` }, path);
    }
    if (entry.name !== undefined) reading.claimText(entry.name, 'rule', [...path, 'name'], names);
    return [
      {
        name: entry.name ?? (heard.length > 0 ? `on ${heard.join(', ')}` : `if ${String(entry.if)}`),
        heard,
        events: concrete,
        condition,
        screens:
          entry.screens === undefined
            ? live
            : screenNames(reading, entry.screens, screens, [...path, 'screens']),
        rest: entry.rest === undefined ? 0 : reading.duration(entry.rest, [...path, 'rest']),
        effects: readEffects(reading, entry.do, things, [...path, 'do']),
        place: reading.source.placeOf(path),
      },
    ];
  });
}

export function screenNames(
  reading: Reading,
  written: string | readonly string[],
  screens: readonly Screen[],
  path: Path,
): string[] {
  const names = screens.map((screen) => screen.name);
  return listed(written, path).flatMap(({ name, path: at }) =>
    reading.known(name, 'screen', names, at) ? [name] : [],
  );
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
    const entry = reading.parse(transitionSchema, value ?? {}, path, `The transition ${index + 1}`);
    if (entry === undefined) return [];
    const { heard, events: concrete } = events.resolve(reading, entry.when, [...path, 'when']);
    const condition = readCondition(reading, entry, things.scope, path);
    if (entry.when === undefined && entry.if === undefined && entry.wait === undefined) {
      reading.failAtKey(
        'needs-one-of',
        { keys: ['when', 'if', 'wait'], where: `The transition ${index + 1}` },
        path,
      );
    }
    const from = screenNames(reading, entry.from, screens, [...path, 'from']);
    const [to] = screenNames(reading, entry.to, screens, [...path, 'to']);
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
      wait: entry.wait === undefined ? 0 : reading.duration(entry.wait, [...path, 'wait']),
      fresh: entry.fresh,
      level: entry.level,
      grace: entry.grace === undefined ? 0 : reading.duration(entry.grace, [...path, 'grace']),
      effects: readEffects(reading, entry.do ?? [], things, [...path, 'do']),
      place: reading.source.placeOf(path),
    };
    return from.map((screen) => ({ from: screen, ...rest }));
  });
}
