import type { Events } from '../language/events.js';
import { readTemplate } from '../language/template.js';
import { largestNumber } from '../limits.js';
import type { BestList, HudItem, Screen } from '../model.js';
import { hudSchema, listSchema } from '../schema/flow.js';
import { readNamed } from './named.js';
import type { Reading } from './reading.js';
import { screenNames, type Things } from './things.js';

export function readHud(
  reading: Reading,
  section: unknown,
  things: Things,
  screens: readonly Screen[],
): HudItem[] {
  const { scope } = things;
  const live = screens.filter((screen) => screen.live).map((screen) => screen.name);
  return ((section ?? []) as readonly unknown[]).flatMap((value, index): HudItem[] => {
    const path = ['hud', index];
    const entry = reading.parse(hudSchema, value ?? {}, path, `HUD item ${index + 1}`);
    if (entry === undefined) return [];
    const { show } = entry;
    const where = `HUD item ${index + 1}`;
    if (show === undefined && entry.text === undefined) {
      reading.failAtKey('needs-one-of', { keys: ['show', 'text'], where }, path);
      return [];
    }
    if (show !== undefined && entry.text !== undefined) {
      reading.failAtKey('either-or', { keys: ['show', 'text'], where, reason: 'it shows one thing' }, path);
    }
    const shown = [...scope.counters, ...scope.timers];
    if (show !== undefined && !reading.known(show, 'counter or timer', shown, [...path, 'show'])) return [];
    const isTimer = show !== undefined && scope.timers.has(show);
    const as = entry.as ?? (show === undefined ? 'text' : isTimer ? 'clock' : 'number');
    const bounded = things.counters.some(
      ({ name, max }) => name === show && (typeof max === 'object' || max <= mostIcons),
    );
    if (as === 'icons' && !isTimer && !bounded)
      reading.fail('icons-without-max', { counter: String(show), most: mostIcons }, [...path, 'as']);
    const isEndless =
      things.counters.some((counter) => counter.name === show && counter.max === largestNumber) ||
      things.timers.some(({ name, interval }) => name === show && 'seconds' in interval);
    if (as === 'bar' && isEndless) {
      reading.fail('bar-without-max', { counter: String(show) }, [...path, 'as']);
    }
    if ((as === 'text') !== (show === undefined) || (isTimer && as === 'icons')) {
      const expected =
        show === undefined
          ? 'as: text'
          : isTimer
            ? 'clock, number, digits or bar'
            : 'digits, number, icons or bar';
      reading.fail('wrong-type', { found: `as: ${as}`, expected }, [...path, 'as']);
    }
    if (entry.input !== undefined && (as !== 'text' || !/^input\.[A-Za-z][A-Za-z0-9_]*$/.test(entry.input))) {
      const expected = 'an input such as input.start, for a text';
      reading.fail('wrong-type', { found: entry.input, expected }, [...path, 'input']);
    }
    return [
      {
        show,
        label: entry.label,
        as,
        width: entry.width ?? 1,
        text: readTemplate(reading, entry.text ?? '', scope, [...path, 'text']),
        at: entry.at ?? 'top-left',
        condition:
          entry.if === undefined
            ? undefined
            : reading.expression(entry.if, scope, 'truth value', [...path, 'if']),
        tenths: entry.tenths ?? false,
        input: entry.input,
        screens:
          entry.screens === undefined
            ? live
            : screenNames(reading, entry.screens, screens, [...path, 'screens']),
        place: reading.source.placeOf(path),
      },
    ];
  });
}

/** Icons that a HUD can show in a row. */
const mostIcons = 40;

/** Lists of the best values of a counter. */
export function readLists(reading: Reading, section: unknown, { scope }: Things, events: Events): BestList[] {
  return readNamed(reading, section, 'lists', 'list', listSchema).flatMap(({ name, path, entry }) => {
    if (entry === undefined || !reading.known(entry.of, 'counter', scope.counters, [...path, 'of']))
      return [];
    if (scope.types.get(entry.of) !== 'number')
      reading.fail('not-a-number', { counter: entry.of }, [...path, 'of']);
    const { events: entered } = events.resolve(reading, entry.when, [...path, 'when']);
    return [
      {
        name,
        of: entry.of,
        events: entered,
        length: entry.length ?? 10,
        place: reading.source.keyPlaceOf(path),
      },
    ];
  });
}
