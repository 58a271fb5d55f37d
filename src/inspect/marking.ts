import type { Design } from '../design/model.js';
import { DesignError, type Place, UsageError } from '../design/problems/problem.js';
import { ProblemList } from '../design/problems/problem-list.js';
import { readDesign } from '../design/read.js';
import { readSource } from '../design/text/source.js';
import { runTests, type TestResult } from '../engine/record/design-tests.js';
import type { Check } from './check.js';

/** A test that is kept apart from the design, as it is written. */
export interface MarkingTest {
  readonly name: string;
  readonly written: object;
  readonly place: Place;
}

/** One of several designs: what was checked, or why it cannot be read. */
export interface Marked {
  readonly file: string;
  readonly check?: Check;
  readonly error?: DesignError | UsageError;
}

/**
 * Reads tests that are kept apart from the designs they mark: a list, or a file with a list under `tests`, as in a design.
 *
 * @param file its name, for messages
 * @throws DesignError where it is no YAML; UsageError where it holds no list of tests
 */
export function readMarkingTests(text: string, file: string): MarkingTest[] {
  const problems = new ProblemList();
  const source = readSource(text, file, problems);
  if (problems.length > 0) throw new DesignError(problems.inFileOrder());
  const whole = source.value as { readonly tests?: unknown } | readonly unknown[] | null;
  const isList = Array.isArray(whole);
  const tests = isList ? whole : (whole as { readonly tests?: unknown } | null)?.tests;
  if (!Array.isArray(tests) || tests.length === 0)
    throw new UsageError(
      'bad-argument',
      `${file} holds no tests; write a list of them, such as - { name: a blossom counts, do: [input.start, blossom.taken], expect: { score: 10 } }.`,
    );
  return tests.map((written: unknown, index): MarkingTest => {
    const place = source.placeOf(isList ? [index] : ['tests', index]);
    if (typeof written !== 'object' || written === null)
      throw new UsageError(
        'bad-argument',
        `${file}:${place.line}: a test has keys such as name, do and expect; found ${JSON.stringify(written)}.`,
      );
    const { name } = written as { readonly name?: unknown };
    return { name: typeof name === 'string' ? name : `test ${index + 1}`, written, place };
  });
}

/**
 * Runs tests on a design that does not hold them. A test that names what the design does not have fails, and the others run all the same.
 *
 * @param isOver as in `runTests`
 */
export const runMarkingTests = (
  design: Design,
  tests: readonly MarkingTest[],
  isOver?: () => boolean,
): TestResult[] =>
  tests.map(({ name, written, place }): TestResult => {
    try {
      const marked = readDesign(JSON.stringify({ ...design.written, tests: [written] }), design.file);
      return { ...runTests(marked, undefined, isOver)[0]!, place };
    } catch (error) {
      if (!(error instanceof DesignError)) throw error;
      const fault = error.problems.map(({ message }) => message).join(' ');
      return { name, passed: false, misses: [], fault, place };
    }
  });
