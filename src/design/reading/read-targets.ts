import { measureForm, measureKeys } from '../measures.js';
import type { Acceptance, Player, Rule, Screen, Target } from '../model.js';
import { acceptSchema, targetSchema } from '../schema/judging.js';
import type { Reading } from './reading.js';
import type { Things } from './things.js';

/** What the keys of a target are for that a measure cannot do without. */
const purposes: { readonly [key: string]: string } = {
  screen: 'the name of the ending',
  level: 'its number',
  rule: 'its name',
  counter: 'its name',
  over: 'the player who should score lower; for the share of runs that are won, write measure: ending',
};

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
    const where = `Target ${index + 1}`;
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
    const { needs, takes, unit } = measureForm(entry.measure);
    const beyond = unit === 'share' ? bounds.filter((key) => entry[key]! < 0 || entry[key]! > 1) : [];
    for (const key of beyond) reading.fail('not-a-share', { key, found: entry[key]! }, [...path, key]);
    if (from > to && beyond.length === 0) reading.fail('bad-order', { what: where, from, to }, path);
    const given = needs.filter((key) => entry[key] !== undefined);
    const measuring = `${where}, which measures ${entry.measure},`;
    if (needs.length > 0 && given.length === 0) {
      const [key] = needs;
      const purpose = purposes[key!];
      if (needs.length === 1)
        reading.failAtKey('missing-key', { key: key!, where: measuring, purpose }, path);
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
    const entry = reading.parse(acceptSchema, value ?? {}, path, `Acceptance ${index + 1}`);
    if (entry === undefined) return [];
    return [{ ...entry, about: entry.about, place: reading.source.placeOf(path) }];
  });
}
