import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import { changeDesign } from '../../src/design/text/change.js';
import { readDesign, UsageError } from '../../src/index.js';
import { madeBy, newEntry, type Section, sections } from '../../src/sentences/new-entry.js';
import { type Control, type Sentence, textOf } from '../../src/sentences/sentence.js';
import { sentencesOf } from '../../src/sentences/sentences-of.js';
import { demoText, gallery } from '../support/designs.js';
import { isSoak, oneIn, runs } from '../support/runs.js';

/** Small designs first: of what is tried a few times only, most is tried on them. */
const bySize = [...gallery].sort((a, b) => a.length - b.length);

const sentences = (text: string): Sentence[] => Object.values(sentencesOf(text)).flat();
const controls = (text: string): Control[] =>
  sentences(text).flatMap(({ words }) => words.filter((word) => typeof word !== 'string'));
const valueAt = (tree: unknown, path: readonly (string | number)[]): unknown =>
  path.reduce<unknown>((value, step) => (value as { [key: string | number]: unknown })?.[step], tree);

/** How many values stand in plain data. */
const leaves = (value: unknown): number =>
  typeof value === 'object' && value !== null
    ? Object.values(value).reduce<number>((sum, part) => sum + leaves(part), 0)
    : 1;

describe('a design as sentences', () => {
  test('reads aloud', () => {
    const all = sentences(demoText).map(textOf);
    expect(all).toContain(
      'When blossom.taken, add petal * streak to score, 1 to nectar, 1 to streak; sound chime.',
    );
    expect(all).toContain('A foxglove is like blossom; it takes 1.2 s to meet; its difficulty is 0.6.');
    expect(all).toContain('Lives starts at 3, never goes below 0, never above 5, and is kept for a run.');
    expect(all).toContain('Best starts at 0, and is kept forever.');
    expect(all).toContain('Show score as digits, 6 wide, labelled Score, at the top-left.');
    expect(all).toContain('From heath go to nightfall as soon as nectar >= level.quota and level.last.');
    expect(all).toContain('From cleared go to heath after 2 s, to the next level, with a fresh level.');
    expect(all).toContain('On Gorse Bank, a wasp appears every 6 s, the first after 4 s, at most 3 at once.');
    expect(all).toContain('The median score of a newcomer is at least 200 and at most 500.');
    expect(all).toContain('Petal is a dial at 10, from 1 to 50.');
    expect(all).toContain(
      '“a withered flower ends the streak”: input.start, 3 x blossom.taken, foxglove.missed; then streak 1, score 60.',
    );
    for (const each of all) expect(each).toMatch(/^[A-Z“].*\.$/);
    expect(
      sentences(
        'pieces: { bough: { is: prop, meets: sought, ends: [] }, fire: { is: hazard, ends: hit } }',
      ).map(textOf),
    ).toEqual([
      'A bough is a prop; how players meet it: sought; it stays whatever becomes of it.',
      'A fire is a hazard; it goes when hit.',
    ]);
    const ways = sentences(`screens: { pond: { live: true }, pause: {} }
transitions:
  - { from: pause, to: back, when: input.pause }
  - { from: pond, to: pond, when: input.skip, level: 2, fresh: level }`).map(textOf);
    expect(ways).toContain('From pause go back when input.pause.');
    expect(ways).toContain('From pond go to pond when input.skip, to level 2, with a fresh level.');
  });

  test('has a sentence for every thing, rule, counter and item of the HUD of every design of the gallery, with its line', () => {
    for (const text of gallery) {
      const design = readDesign(text);
      const groups = sentencesOf(text);
      expect(groups.things.map(({ path }) => path[1])).toEqual(design.pieces.map(({ name }) => name));
      expect(groups.counters.map(({ path }) => path[1])).toEqual(
        // What a piece has left of its health, and what strikes do to it, is said with the piece.
        [...design.counters, ...design.dials, ...design.lists]
          .map(({ name }) => name)
          .filter((name) => !name.startsWith('health.')),
      );
      const own = design.rules.filter(({ place }) => design.pieces.every((piece) => piece.place !== place));
      expect(groups.rules.map(({ line }) => line)).toEqual(own.map(({ place }) => place.line));
      expect(groups.hud).toHaveLength(design.hud.length);
    }
  });

  test('comes back unchanged: each word put in its own place leaves the text as it was', () => {
    const seen = new Map<string, number>();
    for (const text of bySize) {
      const tree = parse(text);
      for (const { path, value, removes } of controls(text)) {
        // A few of each kind of place are enough to try, whatever what stands there is called.
        const isName = (at: number): boolean => at === 1 || path[at - 1] === 'add' || path[at - 1] === 'set';
        const kind = path.map((step, at) => (typeof step === 'number' || isName(at) ? '#' : step)).join(' ');
        const times = (seen.get(kind) ?? 0) + 1;
        seen.set(kind, times);
        if (times > (isSoak ? 3 : 2)) continue;
        const again = changeDesign(text, { kind: 'set', path, value });
        if (again !== text) expect(valueAt(parse(again), path), path.join('.')).toBe(value);
        expect(again.replace(/["' ]/g, '')).toBe(text.replace(/["' ]/g, ''));
        // Emptied, it goes, and nothing else does.
        const gone = changeDesign(text, { kind: 'remove', path: removes ?? path });
        expect(leaves(parse(gone)), path.join('.')).toBe(
          leaves(tree) - leaves(valueAt(tree, removes ?? path)),
        );
      }
    }
  });

  test('has a sentence for every timer, level, screen, transition, player, target and test', () => {
    for (const text of gallery) {
      const design = readDesign(text);
      const written = parse(text) as { [section: string]: object | undefined };
      const { levels, time, screens, transitions, players, targets, tests } = sentencesOf(text);
      expect(levels.filter(({ path }) => path.length === 2)).toHaveLength(
        (written.levels as unknown[] | undefined)?.length ?? 0,
      );
      expect(time.map(({ path }) => path[1])).toEqual(design.timers.map(({ name }) => name));
      expect(screens.map(({ path }) => path[1])).toEqual(Object.keys(written.screens ?? {}));
      const lines = new Set(transitions.map(({ line }) => line));
      expect(design.transitions.every(({ place }) => place.line === 1 || lines.has(place.line))).toBe(true);
      expect(players).toHaveLength(Object.keys(written.players ?? {}).length);
      expect(targets).toHaveLength(design.targets.length);
      expect(tests.filter(({ path }) => path[0] === 'tests').map(({ line }) => line)).toEqual(
        design.tests.map(({ place }) => place.line),
      );
    }
  });

  test('whatever can be textOf as well can be read as it is', () => {
    const refused: string[] = [];
    const seen = new Map<string, number>();
    let count = 0;
    for (const text of bySize)
      for (const { path, clauses } of sentences(text))
        for (const { label, change } of clauses) {
          const kind = `${path[0]} ${path.length} ${label.replace(/ .*/, '')} ${change.path.at(-1)}`;
          const times = (seen.get(kind) ?? 0) + 1;
          seen.set(kind, times);
          if (times > (isSoak ? 3 : 1)) continue;
          count++;
          const after = changeDesign(text, change);
          try {
            readDesign(after);
          } catch (error) {
            refused.push(`${path.join('.')}: ${label}: ${String(error)}`);
          }
        }
    expect(count).toBeGreaterThan(200);
    // What two keys of one entry exclude is told once it is tried.
    expect(refused.length / count, refused.slice(0, 40).join('\n')).toBeLessThan(0.02);
  });

  test('a new entry of any section can be read as it is', () => {
    for (const text of oneIn(16, gallery))
      for (const section of Object.keys(sections) as Section[]) {
        const found = (): unknown => readDesign(changeDesign(text, newEntry(text, section, 'newOne')));
        try {
          found();
        } catch (error) {
          expect(String(error), `${section}\n${text}`).toMatch(/UsageError: .*: (add|let) .* first\.$/);
        }
      }
    expect(() => newEntry('title: x', 'transitions')).toThrow('A transition needs two screens');
    expect(() => newEntry('title: x', 'targets')).toThrow('a counter called score');
  });

  test('what is named and not there is made on the spot, so that it can be read', () => {
    const madeIn = (path: (string | number)[], name: string): string => {
      const word = controls(demoText).find((each) => each.path.join() === path.join())!;
      const changed = changeDesign(demoText, { kind: 'set', path: word.path, value: name });
      const made = madeBy(changed, name, word.makes!);
      return made === undefined ? changed : changeDesign(changed, made);
    };
    const { screens, transitions } = readDesign(madeIn(['transitions', 0, 'to'], 'credits'));
    expect(screens.at(-1)).toMatchObject({ name: 'credits', live: false });
    expect(transitions[0]!.to).toBe('credits');
    expect(readDesign(madeIn(['hud', 0, 'show'], 'combo')).counters.at(-1)!.name).toBe('combo');
    expect(readDesign(madeIn(['levels', 0, 'spawn', 1, 'piece'], 'moth')).pieces.at(-1)!.role).toBe(
      'collectible',
    );
    expect(readDesign(madeIn(['rules', 4, 'when'], 'hornet.hit')).pieces.at(-1)).toMatchObject({
      name: 'hornet',
      role: 'hazard',
    });
    expect(readDesign(madeIn(['targets', 0, 'of'], 'child')).players.at(-1)!.name).toBe('child');
    // What is there, or is no name, makes nothing.
    for (const name of ['heath', 'back', 'two words', ''])
      expect(madeBy(demoText, name, 'screens')).toBeUndefined();
    expect(madeBy(demoText, 'flower.taken', 'events')).toBeUndefined();
    expect(madeBy(demoText, 'input.jump', 'events')).toBeUndefined();
  });

  test('of a broken design are those that can be made out, and of no YAML none', () => {
    expect(
      sentences('counters: [1]\npieces: { a: 5, b: { is: 7 } }\nrules: [3, { when: [1, {}], do: 4 }]').map(
        textOf,
      ),
    ).toEqual(['A b is a 7.', 'When 1, .']);
    expect(sentences('{{{')).toEqual([]);
    expect(sentences('')).toEqual([]);
  });
});

describe('a change of one place', () => {
  const anyControl = fc.constantFrom(...gallery).chain((text) => {
    const found = controls(text);
    return fc.record({
      text: fc.constant(text),
      at: fc.constantFrom(...(found.length === 0 ? [undefined] : found)),
    });
  });
  const value = fc.oneof(
    fc.integer({ min: -5, max: 99 }),
    fc.constantFrom(
      'score',
      'a, b',
      '# no',
      'x: y',
      '[1]',
      '- 1',
      '"',
      "it's",
      '{score} points',
      'max(1, 2)',
      '!x',
      '&y',
      '*z',
      'true',
      '',
      ' ',
      '5',
    ),
    fc.string({ maxLength: 12 }),
  );

  test('puts any value in the place of another and leaves every other value, comment and line as it was', () => {
    fc.assert(
      fc.property(anyControl, value, ({ text, at }, put) => {
        if (at === undefined) return;
        const after = changeDesign(text, { kind: 'set', path: at.path, value: put });
        expect(valueAt(parse(after), at.path)).toEqual(put);
        const back = changeDesign(after, { kind: 'set', path: at.path, value: at.value });
        expect(parse(back)).toEqual(parse(text));
        expect(after.split('\n').length).toBe(text.split('\n').length);
        expect(after.match(/#.*$/gm)?.length ?? 0).toBeGreaterThanOrEqual(text.match(/#.*$/gm)?.length ?? 0);
      }),
      runs(600),
    );
  });

  test('adds to a section and takes out again: the text is as it was', () => {
    const entry = { when: 'input.go', do: [{ add: { score: 1 } }, { cue: 'a, b' }] };
    for (const text of gallery) {
      const before = parse(text) as { rules?: unknown[]; hud?: unknown[] };
      for (const section of ['rules', 'hud'] as const) {
        const added = changeDesign(text, { kind: 'add', path: [section], value: entry });
        expect(parse(added)).toEqual({ ...before, [section]: [...(before[section] ?? []), entry] });
        if ((before[section]?.length ?? 0) === 0) continue;
        const gone = changeDesign(added, { kind: 'remove', path: [section, before[section]!.length] });
        expect(gone.trimEnd()).toBe(text.trimEnd());
      }
      const piece = changeDesign(text, {
        kind: 'set',
        path: ['pieces', 'newThing'],
        value: { is: 'hazard' },
      });
      expect((parse(piece) as { pieces: object }).pieces).toMatchObject({ newThing: { is: 'hazard' } });
    }
  });

  test('takes out any entry of any list or map and nothing else', () => {
    for (const text of gallery) {
      const tree = parse(text) as { [section: string]: unknown };
      for (const section of ['pieces', 'rules', 'counters', 'hud']) {
        const held = tree[section];
        if (typeof held !== 'object' || held === null) continue;
        for (const key of oneIn(6, Object.keys(held))) {
          const step = Array.isArray(held) ? Number(key) : key;
          const after = parse(changeDesign(text, { kind: 'remove', path: [section, step] })) as typeof tree;
          const expected = Array.isArray(held)
            ? held.filter((_, index) => index !== step)
            : Object.fromEntries(Object.entries(held).filter(([name]) => name !== key));
          const isLast = Object.keys(held).length === 1;
          expect(
            { ...after, [section]: after[section] ?? (Array.isArray(held) ? [] : {}) },
            `${section} ${key}`,
          ).toEqual({ ...tree, [section]: isLast ? (Array.isArray(held) ? [] : {}) : expected });
        }
      }
    }
  });

  test('begins a section that is not there, or is empty', () => {
    expect(
      changeDesign('title: x\n', { kind: 'add', path: ['rules'], value: { when: 'input.go', do: [] } }),
    ).toBe('title: x\n\nrules:\n  - { when: input.go, do: [] }\n');
    expect(changeDesign('pieces:\n', { kind: 'set', path: ['pieces', 'a'], value: { is: 'prop' } })).toBe(
      'pieces: { a: { is: prop } }\n',
    );
    expect(parse(changeDesign('', { kind: 'set', path: ['counters', 'score'], value: {} }))).toEqual({
      counters: { score: {} },
    });
  });

  test('says what cannot be changed', () => {
    expect(() => changeDesign('{', { kind: 'remove', path: ['a'] })).toThrow(UsageError);
    expect(() => changeDesign('a: 1', { kind: 'remove', path: ['b'] })).toThrow('nothing at b');
    expect(() => changeDesign('a: 1', { kind: 'add', path: ['a'], value: 1 })).toThrow(UsageError);
  });
});
