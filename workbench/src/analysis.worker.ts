import { expose } from 'comlink';
import { check, checkToJson, DesignError, readDesign, UsageError } from '../../src/index.js';
import { mendOf } from '../../src/inspect/mend.js';
import { sentencesOf } from '../../src/sentences/sentences-of.js';

/** Milliseconds that a check may take before it says that it is not finished. */
const patience = 20_000;

export interface Problem {
  readonly message: string;
  readonly remedy: string;
  readonly line: number;
  readonly column: number;
}

/** What reading a text gives at once: its sentences, and what is wrong with it. */
const read = (text: string) => ({
  groups: sentencesOf(text),
  hasLevels: /^(["']?)levels\1\s*:/m.test(text),
  ...titleAndProblems(text),
});

function titleAndProblems(text: string): { readonly title: string; readonly problems: readonly Problem[] } {
  try {
    return { title: readDesign(text, 'design').title, problems: [] };
  } catch (error) {
    if (error instanceof UsageError)
      return { title: '', problems: [{ message: error.message, remedy: '', line: 1, column: 1 }] };
    if (!(error instanceof DesignError)) throw error;
    return {
      title: '',
      problems: error.problems.map(({ message, remedy, place: { line, column } }) => ({
        message,
        remedy,
        line,
        column,
      })),
    };
  }
}

/** Where a design stands: transitions, tests, findings. It takes longer than reading. */
function judge(text: string) {
  const ends = performance.now() + patience;
  const design = readDesign(text, 'design');
  const result = check(design, { mostStates: 300_000, isOver: () => performance.now() > ends });
  const { transitions, tests, passed, complete } = checkToJson(result);
  return {
    passed,
    complete,
    reached: transitions.filter(({ verdict }) => verdict === 'reached').length,
    transitions: transitions.length,
    passedTests: tests.filter((test) => test.passed).length,
    tests: tests.length,
    findings: result.findings
      .filter(({ accepted }) => accepted === undefined)
      .map((found) => ({
        severity: found.severity,
        message: found.message,
        remedy: found.remedy,
        line: found.place.line,
        column: found.place.column,
        mend: mendOf(design, found),
      })),
  };
}

const analysis = { read, judge };
export type Analysis = typeof analysis;
export type Reading = ReturnType<typeof read>;
export type Judgement = ReturnType<typeof judge>;
expose(analysis);
