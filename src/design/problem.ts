import { type ProblemDetails, wording } from './catalogue.js';

/** A place in a design file. Lines and columns count from 1; 0 means that the place is not known. */
export interface Place {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

export type ProblemCode = keyof ProblemDetails;

/** Something wrong with what a user gave, as plain data: words are added by {@link describe}. */
export interface Problem<Code extends ProblemCode = ProblemCode> {
  readonly code: Code;
  readonly details: ProblemDetails[Code];
  readonly place: Place;
}

export function problem<Code extends ProblemCode>(
  code: Code,
  details: ProblemDetails[Code],
  place: Place,
): Problem<Code> {
  return { code, details, place };
}

/** A problem in words: what was found and what is allowed, then how to mend it. */
export function describe(problem: Problem): { readonly message: string; readonly remedy: string } {
  const word = wording[problem.code] as (details: ProblemDetails[ProblemCode]) => {
    message: string;
    remedy: string;
  };
  return word(problem.details);
}

export const formatPlace = (place: Place): string =>
  place.line === 0 ? place.file : `${place.file}:${place.line}:${place.column}`;

/** A design, a record or a chain of rules that cannot be used, with every problem found in it. */
export class DesignError extends Error {
  readonly problems: readonly Problem[];
  /** What ran into the problems, in words; undefined for what could not be read. */
  readonly during: string | undefined;

  constructor(problems: readonly Problem[], during?: string) {
    super(
      problems
        .map((each) => {
          const { message, remedy } = describe(each);
          return `${formatPlace(each.place)}: ${message} ${remedy}`;
        })
        .join('\n'),
    );
    this.name = 'DesignError';
    this.problems = problems;
    this.during = during;
  }
}

/** A call that asks for what the library does not offer, such as an option out of its range. */
export class UsageError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'UsageError';
  }
}
