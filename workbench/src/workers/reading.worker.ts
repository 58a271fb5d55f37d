import { expose } from 'comlink';
import type { Design } from '../../../src/design/model.js';
import { DesignError, UsageError } from '../../../src/design/problems/problem.js';
import { readDesign } from '../../../src/design/read.js';
import { additionFor } from '../../../src/design/text/addition.js';
import type { Change } from '../../../src/design/text/change.js';
import { renameInDesign } from '../../../src/design/text/rename.js';
import { helpAt, meaningAt } from '../../../src/sentences/help.js';
import { levelTableOf } from '../../../src/sentences/level-table.js';
import { sentencesOf } from '../../../src/sentences/sentences-of.js';

export interface Problem {
  readonly message: string;
  readonly remedy: string;
  readonly line: number;
  readonly column: number;
  /** The change that adds what is missing, where nobody has to think. */
  readonly mend: Change | undefined;
}

/** What reading a text gives at once: its sentences, and the design that it is, or what is wrong with it. */
function read(text: string) {
  const groups = sentencesOf(text);
  const { things, counters, time, screens, players } = groups;
  return {
    groups,
    levels: levelTableOf(text),
    /** Every name that the design gives: all of them share one space. */
    names: [...things, ...counters, ...time, ...screens, ...players].map(({ path }) => String(path[1])),
    hasLevels: /^(["']?)levels\1\s*:/m.test(text),
    ...designOrProblems(text),
  };
}

/** No other worker reads a text: they are given the design. */
function designOrProblems(text: string): {
  readonly design: Design | undefined;
  readonly problems: readonly Problem[];
} {
  try {
    return { design: readDesign(text, 'design'), problems: [] };
  } catch (error) {
    if (error instanceof UsageError)
      return {
        design: undefined,
        problems: [{ message: error.message, remedy: '', line: 1, column: 1, mend: undefined }],
      };
    if (!(error instanceof DesignError)) throw error;
    return {
      design: undefined,
      problems: error.problems.map((problem) => {
        const { message, remedy, place } = problem;
        return { message, remedy, line: place.line, column: place.column, mend: additionFor(problem) };
      }),
    };
  }
}

/** The text with a name changed everywhere, or why it cannot be. */
function rename(text: string, from: string, to: string): { renamed: string | undefined; told: string } {
  try {
    return { renamed: renameInDesign(text, from, to), told: '' };
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    return { renamed: undefined, told: error.message };
  }
}

const reader = { read, rename, helpAt, meaningAt };
export type Reader = typeof reader;
export type Reading = ReturnType<typeof read>;
expose(reader);
