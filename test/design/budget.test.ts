import { describe, expect, test } from 'vitest';
import { check, type DesignError, defineDesign, readDesign, UsageError } from '../../src/index.js';
import { placesOf, problemsOf } from '../support/designs.js';

const many = (count: number, line: (index: number) => string): string =>
  Array.from({ length: count }, (_, index) => line(index)).join('');

const milliseconds = (work: () => void): number => {
  const began = performance.now();
  work();
  return performance.now() - began;
};

/** A file of 3,000 counters and 3,000 rules in which nothing is wrong. */
const plain = `counters:\n${many(3000, (at) => `  counter${at}: {}\n`)}rules:\n${many(3000, (at) => `  - { when: input.go, do: [{ add: { counter${at}: 1 } }] }\n`)}`;

/** How much longer than that one a file below may take, each of them smaller or not much larger; each took minutes, or many times as long, once. */
const mostTimes = 5;

describe('reading stays within its budget, and says what is too much', () => {
  // In the same run, so that a slow machine is slow at both.
  const usual = milliseconds(() => readDesign(plain));

  test.each([
    ['keys that are maps, a hundred deep', `${'? '.repeat(100)}x`, ['bad-key 1:3']],
    ['keys that are maps, twenty thousand deep', `${'? '.repeat(20_000)}x`, ['too-deep']],
    ['lists in lists', '['.repeat(20_000), ['too-deep']],
    ['sixty lists in each other', `counters: ${'['.repeat(60)}${']'.repeat(60)}`, ['too-deep 1:1']],
    [
      'ten thousand aliases',
      `counters: { a: &a { start: 0 } }\nlevels:\n${many(10_000, () => '  - *a\n')}`,
      ['unknown-key'],
    ],
    [
      'five thousand anchors',
      `counters:\n${many(5000, (at) => `  c${at}: &a${at} { start: 0 }\n`)}levels: [*a0]\n`,
      ['unknown-key'],
    ],
    ['eight thousand keys without values', `rules: { ${many(8000, (at) => `k${at}, `)} }`, ['wrong-type']],
    [
      'an expression cut by eight thousand commas',
      `counters: { a: {} }\nrules: [{ when: input.go, do: [{ add: { a: max(1${', 2'.repeat(8000)}) } }] }]`,
      ['bad-expression 2:44'],
    ],
    [
      'five thousand pieces in one chain of like',
      `pieces:\n  p0: { is: collectible }\n${many(4999, (at) => `  p${at + 1}: { like: p${at} }\n`)}`,
      ['too-large 66:16'],
    ],
    [
      'three thousand unknown names among three thousand',
      `counters:\n${many(3000, (at) => `  counter${at}: {}\n`)}rules:\n${many(3000, (at) => `  - { when: input.go, do: [{ add: { ant${at}: 1 } }] }\n`)}`,
      ['unknown-name'],
    ],
    [
      'three thousand unknown events',
      `pieces:\n${many(3000, (at) => `  p${at}: { is: prop }\n`)}rules:\n${many(3000, (at) => `  - { when: bee${at}.taken, do: [{ cue: x }] }\n`)}`,
      ['unknown-event'],
    ],
    ['a list of four megabytes on one line', `levels: [${'1, '.repeat(1_300_000)}]`, ['too-large 1:1']],
    ['the same key twenty thousand times', `counters:\n${'  a: {}\n'.repeat(20_000)}`, ['duplicate-key 3:3']],
  ])('%s', (_, text, expected) => {
    let problems: ReturnType<typeof problemsOf> = [];
    expect(milliseconds(() => (problems = problemsOf(text)))).toBeLessThan(mostTimes * usual);
    expect(problems.length).toBeLessThanOrEqual(101);
    expect(problems.map(({ message, remedy }) => message + remedy).join('').length).toBeLessThan(100_000);
    const [first] = problems;
    expect(`${first!.code} ${first!.place.line}:${first!.place.column}`).toContain(expected[0]);
  });

  test('five thousand groups and pieces are read', () => {
    const design = readDesign(
      `pieces:\n${many(5000, (at) => `  p${at}: { is: collectible, in: [g${at % 50}] }\n`)}`,
    );
    expect(design.pieces).toHaveLength(5000);
  });

  test('beyond a hundred problems says how many more there are', () => {
    const problems = problemsOf(
      `rules:\n${many(500, (at) => `  - { when: bee${at}.taken, do: [{ cue: x }] }\n`)}`,
    );
    expect(problems).toHaveLength(101);
    expect(problems.at(-1)).toMatchObject({ code: 'more-problems', details: { count: 400 } });
  });

  test('a list of what is allowed is cut short in words, and whole in the data', () => {
    const [problem] = problemsOf(
      `counters:\n${many(300, (at) => `  counter${at}: {}\n`)}rules: [{ when: input.go, do: [{ add: { x1: 1 } }] }]`,
    );
    expect(problem!.remedy).toMatch(/counter19 and 280 more\.$/);
    if (problem?.code !== 'unknown-name') throw new Error(`not ${problem?.code}`);
    expect(problem.details.allowed).toHaveLength(300);
  });
});

describe('places', () => {
  test('are those of the character, and never past the line where a text has escapes', () => {
    expect(
      placesOf('counters: { a: {} }\nrules: [{ when: input.go, do: [{ add: { a: "1 + \\x62" } }] }]'),
    ).toEqual(['unknown-name 2:44']);
    expect(
      placesOf("counters: { a: {} }\nrules: [{ when: input.go, do: [{ add: { a: '1 + bb' } }] }]"),
    ).toEqual(['unknown-name 2:49']);
  });

  test('of a design in TypeScript tell two problems of one kind apart', () => {
    const define = () =>
      defineDesign({
        counters: { a: {} },
        rules: [{ when: 'input.go', do: [{ add: { b: 1 } as never }, { add: { c: 1 } as never }] }],
      });
    try {
      define();
      expect.unreachable();
    } catch (error) {
      expect((error as DesignError).problems.map(({ place }) => place.file)).toEqual([
        'rules[0].do[0].add.b',
        'rules[0].do[1].add.c',
      ]);
    }
  });
});

describe('names', () => {
  test('that no expression could use are refused as names', () => {
    for (const word of 'break case class const delete do else enum export for function if import in instanceof new null return super switch this throw try typeof var void while with'.split(
      ' ',
    ))
      expect(placesOf(`counters: { ${word}: {} }`), word).toEqual(['reserved-name 1:13']);
  });

  test('that are allowed can be used in expressions', () => {
    for (const word of 'let of async await static yield get set from type any number string NaN undefined Infinity Object Math'.split(
      ' ',
    ))
      expect(
        placesOf(
          `counters: { ${word}: {} }\nrules: [{ when: input.go, do: [{ add: { ${word}: "${word} + 1" } }] }]`,
        ),
        word,
      ).toEqual([]);
  });
});

describe('a design in TypeScript that is no plain data', () => {
  const holds: object = { title: 'x' };
  (holds as { self?: object }).self = holds;
  class Own {
    title = 'x';
  }
  test.each([
    ['a map', { counters: new Map([['score', {}]]) }, 'counters is a Map'],
    ['a set', { levels: [{ values: new Set() }] }, 'levels[0].values is a Set'],
    ['a date', { title: new Date(0) }, 'title is a Date'],
    ['an object of a class', new Own(), 'design is a Own'],
    ['a function', { counters: { score: () => 1 } }, 'counters.score is a function'],
    ['a bigint', { counters: { score: { start: 1n } } }, 'counters.score.start is a bigint'],
    ['no number', { counters: { score: { start: Number.NaN } } }, 'counters.score.start is NaN'],
    ['itself', holds, 'self is a value that holds itself'],
  ])('%s is named, not dropped', (_, value, told) => {
    const define = () => defineDesign(value as never);
    expect(define).toThrow(UsageError);
    expect(define).toThrow(told);
  });

  test('a key that holds undefined is as if it were not there', () => {
    expect(defineDesign({ title: undefined as never, counters: { score: {} } }).title).toBe('design');
  });
});

test('a way back from a screen that nothing enters is checked', () => {
  const design = readDesign(
    'screens: { a: { live: true } }\ntransitions: [{ from: a, to: back, when: input.x }]',
  );
  expect(check(design).exploration.transitions).toHaveLength(1);
});

test('a ring of five hundred screens is checked', () => {
  const ring = `screens:\n${many(500, (at) => `  s${at}: { live: ${at % 2 === 0} }\n`)}transitions:\n${many(500, (at) => `  - { from: s${at}, to: s${(at + 1) % 500}, when: input.go }\n`)}`;
  const { exploration } = check(readDesign(ring), { mostStates: 20_000 });
  expect(exploration.transitions.every(({ verdict }) => verdict === 'reached')).toBe(true);
}, 120_000);
