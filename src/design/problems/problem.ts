import type { AllDetails, CodedDetails, ProblemCode } from './problem-details.js';

/** A place in a design file. Lines and columns count from 1; 0 means that the place is not known. */
export interface Place {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

interface Words {
  /** What was found and what is allowed. */
  readonly message: string;
  /** How to fix it. */
  readonly remedy: string;
}

/** Something wrong with what a user gave: its code and details as plain data, and in words. */
export type Problem = CodedDetails & Words & { readonly place: Place };

/** The words of each code of a catalogue. */
export type Wording<Details> = {
  readonly [Code in keyof Details]: (details: Details[Code]) => Words;
};

/** Makes problems of the codes of one catalogue. */
export const worded =
  <Code extends ProblemCode>(wording: Wording<Pick<AllDetails, Code>>) =>
  <Own extends Code>(code: Own, details: AllDetails[Own], place: Place): Problem =>
    ({ code, details, place, ...wording[code](details) }) as Problem;

export const formatPlace = (place: Place): string =>
  place.line === 0 ? place.file : `${place.file}:${place.line}:${place.column}`;

/** A design, a record or a chain of rules that cannot be used, with every problem found in it. */
export class DesignError extends Error {
  readonly problems: readonly Problem[];
  /** What ran into the problems, in words; undefined for what could not be read. */
  readonly during: string | undefined;

  constructor(problems: readonly Problem[], during?: string) {
    super(
      problems.map(({ place, message, remedy }) => `${formatPlace(place)}: ${message} ${remedy}`).join('\n'),
    );
    this.name = 'DesignError';
    this.problems = problems;
    this.during = during;
  }
}

/** Why a call was refused. */
export type UsageCode =
  /** An argument out of its range, or of the wrong kind. */
  | 'bad-argument'
  /** A name that the design does not have: of a player, a dial, a counter, a timer, an event. */
  | 'unknown-name'
  /** The design has nothing of what is asked for: no dials, no targets, no player in common. */
  | 'nothing-there'
  /** A call that does not fit what went before: a record that was not kept, a restart while a listener hears a step. */
  | 'wrong-moment'
  /** A file that cannot be read, or holds something else than it should. */
  | 'bad-file'
  /** A file that cannot be written, or is there already. */
  | 'not-written'
  /** A world, or the players who decide for themselves, broke what is asked of them. */
  | 'bad-world'
  /** Nobody to play: workers that end, a queue that does not answer. */
  | 'no-workers'
  /** The time allowed was over, or the work was stopped. */
  | 'out-of-time'
  /** The data do not tell what was asked. */
  | 'undetermined'
  /** The page or the machine does not allow it. */
  | 'not-allowed';

/** A call that was refused, such as for an option out of its range: why as a code, and in words. */
export class UsageError extends Error {
  constructor(
    readonly code: UsageCode,
    message: string,
  ) {
    super(message);
    this.name = 'UsageError';
  }
}

/** The refusal of a name that the design does not have. */
export const unknownName = (
  kind: string,
  name: string,
  known: readonly { readonly name: string }[],
): UsageError =>
  new UsageError(
    'unknown-name',
    `The design has no ${kind} "${name}"; it has ${known.map((each) => each.name).join(', ') || 'none'}.`,
  );
