import type { z } from 'zod';
import { type Events, membersOf } from '../language/events.js';
import type { Expression } from '../language/expression.js';
import { readTemplate } from '../language/template.js';
import type { AmountWrite, Effect, Value, Which } from '../model.js';
import { inOneLine } from '../problems/meant.js';
import type { effectSchema } from '../schema/rules.js';
import type { Path } from '../text/source.js';
import { listed, type Reading, type Written } from './reading.js';
import type { Things } from './things.js';

const effectKinds = [
  'add',
  'set',
  'pay',
  'spawn',
  'clear',
  'become',
  'start',
  'stop',
  'emit',
  'popup',
  'grace',
  'cue',
] as const;
type Entry = z.output<typeof effectSchema>;

/** Reads a list of effects; an entry that does not do exactly one thing is reported. */
export function readEffects(reading: Reading, list: readonly Entry[], things: Things, path: Path): Effect[] {
  return list.flatMap((entry, index): Effect[] => {
    const at = [...path, index];
    const given = effectKinds.filter((kind) => entry[kind] !== undefined);
    if (given.length === 0) reading.failAtKey('needs-one-of', { keys: effectKinds, where: 'An effect' }, at);
    if (given.length > 1) {
      const reason = 'an effect does one thing; the next one of the list sees what it did';
      reading.failAtKey('either-or', { keys: given, where: 'An effect', reason }, at);
    }
    if (given[0] === 'pay' && index > 0)
      reading.failAtKey('pay-first', { lowered: lowering(entry.pay!) }, at);
    return given.map((kind) => readEffect(reading, kind, entry, things, [...at, kind]));
  });
}

/** The effect that takes as much as is there, where a payment takes all or nothing. */
const lowering = (amounts: NonNullable<Entry['pay']>): string | undefined =>
  inOneLine({
    add: Object.fromEntries(
      Object.entries(amounts).map(([name, amount]) => [
        name,
        typeof amount === 'number' ? -amount : `-(${amount})`,
      ]),
    ),
  });

function readEffect(
  reading: Reading,
  kind: (typeof effectKinds)[number],
  entry: Entry,
  things: Things,
  path: Path,
): Effect {
  const { scope, pieces } = things;
  const pieceNames = (): string[] => pieces.map((piece) => piece.name);
  switch (kind) {
    case 'add':
    case 'set': {
      const writes = readAmounts(
        reading,
        entry[kind]!,
        things,
        kind === 'set',
        [...scope.counters, ...scope.timers],
        path,
      );
      return {
        kind,
        writes: writes.filter(({ name }) => scope.counters.has(name)),
        timers: writes.filter(({ name }) => scope.timers.has(name)),
      };
    }
    case 'pay':
      return { kind, writes: readAmounts(reading, entry.pay!, things, false, [...scope.counters], path) };
    case 'spawn': {
      const isName = typeof entry.spawn === 'string';
      const counts = isName ? { [entry.spawn as string]: 1 } : (entry.spawn as Counts);
      return { kind, pieces: readCounts(reading, counts, things, path, !isName) };
    }
    case 'clear': {
      const { clear } = entry;
      if (typeof clear !== 'string' && !Array.isArray(clear)) {
        const found = readSome(reading, clear as Counts, things, path);
        const some = found.flatMap(({ count, ...each }) => (count === undefined ? [] : [{ ...each, count }]));
        const all = found.flatMap(({ piece, count }) => (count === undefined ? [piece] : []));
        return { kind, pieces: all, some };
      }
      const cleared = listed(clear, path).flatMap(({ name, path: at }) =>
        reading.known(name, 'piece or group', scope.pieces, at) ? membersOf(name, pieces) : [],
      );
      return { kind, pieces: [...new Set(cleared)], some: [] };
    }
    case 'become': {
      type Change = Extract<Effect, { kind: 'become' }>['changes'][0];
      const changes = Object.entries(entry.become!).flatMap(([from, into]): Change[] => {
        const known = reading.known(from, 'piece', pieceNames(), [...path, from], true);
        if (typeof into === 'string') {
          const isPiece = reading.known(into, 'piece', pieceNames(), [...path, from]);
          return isPiece && known ? [{ from, to: into, count: undefined, which: 'last' }] : [];
        }
        const some = readSome(reading, into as Counts, things, [...path, from]);
        return known ? some.map(({ piece, ...of }) => ({ from, to: piece, ...of })) : [];
      });
      return { kind, changes };
    }
    case 'start':
    case 'stop': {
      const timers = listed(entry[kind]!, path).flatMap(({ name, path: at }) =>
        reading.known(name, 'timer', scope.timers, at) ? [name] : [],
      );
      return { kind, timers };
    }
    case 'emit':
      return { kind, name: entry.emit! };
    case 'popup':
      return { kind, text: readTemplate(reading, entry.popup!, scope, path) };
    case 'grace':
      return { kind, duration: reading.computedDuration(entry.grace!, scope, path) };
    case 'cue':
      return { kind, cue: entry.cue! };
  }
}

type Counts = Readonly<Record<string, number | string>>;

/** Pieces with how many of each; `isKey` says whether the names are keys of a map, where a mistake is shown. */
function readCounts(
  reading: Reading,
  counts: Counts,
  { scope, pieces }: Things,
  path: Path,
  isKey: boolean,
): { readonly piece: string; readonly count: Expression }[] {
  const names = pieces.map(({ name }) => name);
  return Object.entries(counts).flatMap(([piece, written]) => {
    const at = isKey ? [...path, piece] : path;
    const count = reading.expression(written, scope, 'number', at);
    const isKnown = reading.known(piece, 'piece', names, at, isKey);
    return isKnown && count !== undefined ? [{ piece, count }] : [];
  });
}

/** Pieces with which of them are meant, or how many; without a count all of them. */
function readSome(
  reading: Reading,
  counts: Counts,
  things: Things,
  path: Path,
): { readonly piece: string; readonly count: Expression | undefined; readonly which: Which }[] {
  const one: Expression = { kind: 'number', value: 1 };
  return Object.entries(counts).flatMap(([piece, written]) => {
    if (written === 'met' || written === 'oldest' || written === 'all') {
      const names = things.pieces.map(({ name }) => name);
      if (!reading.known(piece, 'piece', names, [...path, piece], true)) return [];
      return [
        written === 'all'
          ? { piece, count: undefined, which: 'last' as const }
          : { piece, count: one, which: written },
      ];
    }
    return readCounts(reading, { [piece]: written }, things, path, true).map(
      (of): ReturnType<typeof readSome>[0] => ({ ...of, which: 'last' }),
    );
  });
}

/**
 * Reports where a list means the one that was met, though its events do not tell of one that is still there.
 *
 * @param events that set the list off
 */
export function mustBeMet(
  reading: Reading,
  effects: readonly Effect[],
  events: readonly string[],
  { pieces }: Things,
  path: Path,
): void {
  effects.forEach((effect, index) => {
    const met =
      effect.kind === 'clear'
        ? effect.some.flatMap(({ piece, which }) => (which === 'met' ? [piece] : []))
        : effect.kind === 'become'
          ? effect.changes.flatMap(({ from, which }) => (which === 'met' ? [from] : []))
          : [];
    for (const name of met) {
      const { outcomes, ends } = pieces.find((piece) => piece.name === name)!;
      const staying = outcomes.flatMap((outcome) =>
        ends.includes(outcome.name) ? [] : [`${name}.${outcome.name}`],
      );
      const other = events.find((event) => !staying.includes(event));
      if (events.length > 0 && other === undefined) continue;
      reading.fail('nobody-met', { piece: name, event: other, staying }, [...path, index, effect.kind]);
    }
  });
}

function readAmounts(
  reading: Reading,
  written: Readonly<Record<string, Value>>,
  { scope }: Things,
  typed: boolean,
  allowed: readonly string[],
  path: Path,
): AmountWrite[] {
  return Object.entries(written).flatMap(([name, text]) => {
    const at = [...path, name];
    const known = reading.known(name, 'counter', allowed, at, true);
    const type = typed ? (scope.types.get(name) ?? 'number') : 'number';
    if (!typed && known && scope.types.get(name) !== undefined && scope.types.get(name) !== 'number') {
      reading.fail('not-a-number', { counter: name }, at);
      return [];
    }
    const amount = reading.expression(text, scope, type, at);
    return known && amount !== undefined ? [{ name, amount }] : [];
  });
}

/** Makes the events known that a list of rules or transitions emits, before any rule is read that may hear them. */
export function readEmitted(reading: Reading, events: Events, section: unknown, key: string): void {
  ((section ?? []) as readonly unknown[]).forEach((entry, index) => {
    const list = (entry as { do?: unknown } | null)?.do;
    if (!Array.isArray(list)) return;
    list.forEach((effect, at) => {
      const name = (effect as { emit?: unknown } | null)?.emit;
      if (typeof name === 'string') events.own(reading, name, [key, index, 'do', at, 'emit']);
    });
  });
}

/** A piece whose success may depend on an event alone. */
interface WithAct {
  readonly by: Written<string> | undefined;
}

/** Reports events by which pieces are to be met that are no inputs and none of the design's own. */
export function mustBeActs(reading: Reading, pieces: readonly WithAct[], events: Events): void {
  for (const { by } of pieces) {
    if (by === undefined) continue;
    const [event] = events.resolve(reading, by.value, by.path).events;
    const owner = event === undefined ? undefined : reading.names.get(event.split('.')[0]!)?.kind;
    if (owner === undefined) continue;
    const expected = 'an input, or an event of your own that a rule emits';
    reading.fail(
      'wrong-type',
      { found: `${by.value}, of the ${owner} ${event!.split('.')[0]}`, expected },
      by.path,
    );
  }
}
