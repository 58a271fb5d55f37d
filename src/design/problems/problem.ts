/** A place in a design file. Lines and columns count from 1; 0 means that the place is not known. */
export interface Place {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

interface Words {
  /** What was found and what is allowed. */
  readonly message: string;
  /** How to mend it. */
  readonly remedy: string;
}

/** Something wrong with what a user gave: as plain data, and in words. */
export interface Problem extends Words {
  readonly code: string;
  /** The names and numbers involved. */
  readonly details: object;
  readonly place: Place;
}

/** The words of each code of a catalogue. */
export type Wording<Details> = {
  readonly [Code in keyof Details]: (details: Details[Code]) => Words;
};

/** Makes problems of the codes of one catalogue. */
export const worded =
  <Details extends { readonly [code: string]: object }>(wording: Wording<Details>) =>
  <Code extends keyof Details & string>(code: Code, details: Details[Code], place: Place): Problem => ({
    code,
    details,
    place,
    ...wording[code](details),
  });

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

/** A call that asks for what the library does not offer, such as an option out of its range. */
export class UsageError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'UsageError';
  }
}
