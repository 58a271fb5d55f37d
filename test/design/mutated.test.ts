import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { parse, stringify } from 'yaml';
import { check, DesignError, readDesign, simulate, UsageError } from '../../src/index.js';
import { demoText } from '../support/designs.js';
import { countedRuns, runs } from '../support/runs.js';

const galleries = ['mechanics', 'findings'].flatMap((name) => {
  const folder = new URL(`../../demo/${name}/`, import.meta.url);
  return readdirSync(folder).flatMap((file) => readFileSync(new URL(file, folder), 'utf8').split(/^---\n/m));
});
const designs = [demoText, ...galleries];
const anyDesign = fc.constantFrom(...designs);

/** Milliseconds that reading, or checking and playing, one small file may take: far more than it does, far less than a hang. */
const budget = { reading: 5000, using: 20_000 } as const;

/** What a text is read as, if it can be; every problem of one that cannot has a place in it, and not too many are told. */
function readAny(text: string) {
  const began = performance.now();
  try {
    return readDesign(text, 'mutated.yaml');
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    const lines = text.split('\n');
    expect(error.problems.length).toBeGreaterThan(0);
    expect(error.problems.length).toBeLessThanOrEqual(101);
    for (const { code, message, remedy, place } of error.problems) {
      expect(place.line, code).toBeGreaterThan(0);
      expect(place.line, code).toBeLessThanOrEqual(lines.length);
      expect(place.column, code).toBeGreaterThan(0);
      expect(place.column, `${code}: ${message}`).toBeLessThanOrEqual(lines[place.line - 1]!.length + 1);
      expect(message.length + remedy.length).toBeLessThan(4000);
    }
    return undefined;
  } finally {
    expect(performance.now() - began).toBeLessThan(budget.reading);
  }
}

/** Checks and plays a design; only its own faults may come of it. */
function useAny(text: string): boolean {
  const design = readAny(text);
  if (design === undefined) return false;
  const ends = performance.now() + budget.using / 2;
  const isOver = (): boolean => performance.now() > ends;
  check(design, { mostStates: 300, isOver });
  try {
    simulate(design, {
      sessions: 1,
      seed: 1,
      players: design.players.slice(0, 1).map(({ name }) => name),
    });
  } catch (error) {
    if (!(error instanceof DesignError || error instanceof UsageError)) throw error;
  }
  expect(performance.now() - ends).toBeLessThan(budget.using / 2);
  return true;
}

describe('a mutated design is read, or refused with places inside it', () => {
  test('over bytes: changed, cut out, doubled, not UTF-8', () => {
    const change = fc.record({
      at: fc.nat(),
      kind: fc.constantFrom('set', 'cut', 'double', 'swap'),
      byte: fc.oneof(fc.nat(255), fc.constantFrom(...Buffer.from('\t\n\r {}[]:,"\'#&*!|>%@`-?\\'))),
      length: fc.integer({ min: 1, max: 40 }),
    });
    fc.assert(
      fc.property(anyDesign, fc.array(change, { minLength: 1, maxLength: 6 }), (text, changes) => {
        let bytes = [...Buffer.from(text)];
        for (const { at, kind, byte, length } of changes) {
          const from = at % bytes.length;
          const part = bytes.slice(from, from + length);
          if (kind === 'set') bytes[from] = byte;
          else if (kind === 'cut') bytes.splice(from, length);
          else if (kind === 'double') bytes.splice(from, 0, ...part);
          else bytes = [...bytes.slice(from), ...bytes.slice(0, from)];
        }
        readAny(Buffer.from(bytes).toString('utf8'));
      }),
      runs(1600),
    );
  });

  test('over tokens: names, numbers and marks put in the place of others', () => {
    const tokens = /[A-Za-z_]\w*|\d+(?:\.\d+)?|[^\w\s]|\s+/g;
    const strange = fc.constantFrom(
      '1e400',
      '-0',
      '9007199254740993',
      '0x1F',
      '.inf',
      '~',
      'null',
      '__proto__',
      'constructor',
      'true',
      '2026-11-27',
      '12:30',
      '"',
      "'",
      '? ',
      '<<: *a',
      '&a ',
      '*a',
      '!!js/function x',
      '\u202e',
      '\u0000',
      '🐝',
      'x'.repeat(300),
    );
    const other = fc.oneof({ weight: 3, arbitrary: fc.nat() }, strange);
    fc.assert(
      fc.property(
        anyDesign,
        fc.array(fc.tuple(fc.nat(), other), { minLength: 1, maxLength: 5 }),
        (text, changes) => {
          const found = text.match(tokens)!;
          for (const [at, by] of changes)
            found[at % found.length] = typeof by === 'number' ? found[by % found.length]! : by;
          readAny(found.join(''));
        },
      ),
      runs(1600),
    );
  });

  test('over structure: keys and values moved, left out, doubled and replaced; what can be read can be used', () => {
    const value = fc.oneof(
      fc.constantFrom<unknown>(
        null,
        true,
        '',
        [],
        {},
        -1,
        0,
        0.5,
        1e15,
        2 ** 53,
        -(2 ** 53),
        'score',
        'input.go',
        '1 / 0',
        'score / 0',
        '-score',
        ['x'],
        { score: 1 },
        0.001,
        86_400,
      ),
      fc.nat(1000),
    );
    const change = fc.record({
      at: fc.nat(),
      to: fc.nat(),
      kind: fc.constantFrom('replace', 'leave out', 'copy', 'rename'),
      value,
    });
    let used = 0;
    const cases = countedRuns(800, 220);
    fc.assert(
      fc.property(anyDesign, fc.array(change, { minLength: 1, maxLength: 3 }), (text, changes) => {
        const tree = parse(text) as Node;
        for (const { at, to, kind, value: put } of changes) {
          const places = placesIn(tree);
          const place = places[at % places.length];
          // All of it was left out.
          if (place === undefined) break;
          const { holder, key } = place;
          if (kind === 'replace') holder[key] = put as Node;
          else if (kind === 'leave out') remove(holder, key);
          else {
            const other = places[to % places.length]!;
            if (kind === 'copy') other.holder[other.key] = structuredClone(holder[key]!);
            else if (!Array.isArray(holder)) {
              const name = String(other.key);
              holder[/^\d+$/.test(name) ? 'x' : name] = holder[key]!;
            }
          }
        }
        if (useAny(stringify(tree))) used++;
      }),
      cases,
    );
    // Not all is refused, so that the second half is tried as well.
    expect(used / cases.numRuns).toBeGreaterThan(50 / 800);
  });
});

type Node = { [key: string | number]: Node };

/** Every place of a tree that holds something. */
function placesIn(tree: Node): { holder: Node; key: string | number }[] {
  return Object.keys(tree).flatMap((key) => {
    const inner = tree[key];
    const below = typeof inner === 'object' && inner !== null ? placesIn(inner) : [];
    return [{ holder: tree, key }, ...below];
  });
}

function remove(holder: Node, key: string | number): void {
  if (Array.isArray(holder)) holder.splice(Number(key), 1);
  else delete holder[key];
}
