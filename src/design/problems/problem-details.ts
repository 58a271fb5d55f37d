/** What each problem of a file carries. Its words stand in the catalogue and nowhere else. */
export type ProblemDetails = {
  'not-yaml': { reason: string; remedy: string };
  'empty-file': Record<string, never>;
  'too-large': { what: string; found: number; most: number };
  'too-deep': { most: number };
  'bad-key': { found: string };
  'more-problems': { count: number };
  /** `line` is that of the first; a block is a section of the design. */
  'duplicate-key': { key: string; line: number; isBlock: boolean };
  'forbidden-key': { key: string };
  'nobody-met': { piece: string; event: string | undefined; staying: readonly string[] };
  'split-by-comma': { quoted: string; isText: boolean };
  'unquoted-colon': { found: string; quoted: string };
  'taken-by-yaml': { mark: string; text: string };
  /** `instead` is how it is written, where the name of something stands as a key; `role` that of the piece at which it stands. */
  'unknown-key': {
    key: string;
    allowed: readonly string[];
    where: string;
    instead?: string | undefined;
    role?: string | undefined;
  };
  'missing-key': { key: string; where: string; purpose?: string | undefined };
  'missing-role': { piece: string; hasOutcomes: boolean };
  'wrong-type': { found: string; expected: string };
  /** `near` are roles that it may stand for, in words. */
  'not-a-role': { found: string; near: string | undefined };
  'unit-written': { found: string; seconds: number };
  'not-a-share': { key: string; found: number };
  'time-as-event': { found: string; seconds: number; repeats: boolean };
  'condition-as-event': { found: string };
  'change-outside-do': { counter: string; amount: string; where: string };
  'bad-name': { name: string };
  'reserved-name': { name: string; instead?: string | undefined };
  'name-clash': { name: string; first: string; second: string; line: number };
  /** `is` is what the name stands for instead; `event` is one that is heard of it; `also` are the other lines on which it is missing. */
  'unknown-name': {
    name: string;
    kind: string;
    allowed: readonly string[];
    is?: string | undefined;
    event?: string | undefined;
    also?: readonly number[];
  };
  /** `of` is what it would happen to, where nothing is called so. */
  'unknown-event': {
    event: string;
    allowed: readonly string[];
    of?: string | undefined;
    also?: readonly number[];
  };
  'like-cycle': { chain: readonly string[] };
  'empty-list': { what: string; remedy: string };
  'not-milliseconds': { seconds: number };
  'off-grid': { least: number; most: number; grid: number };
  'watches-a-timer': { timer: string };
  'icons-without-max': { counter: string; most: number };
  'bar-without-max': { counter: string };
  'out-of-range': { what: string; found: number; from: number; to: number };
  'bad-order': { what: string; from: number; to: number };
  'bad-expression': { text: string; reason: string; remedy: string };
  'wrong-value-type': { text: string; found: string; expected: string; remedy: string };
  'missing-level-value': { value: string; levels: readonly string[] };
  'either-or': { keys: readonly string[]; where: string; reason: string };
  'needs-one-of': { keys: readonly string[]; where: string };
  'bad-step': { found: string };
  'not-a-number': { counter: string };
  'endless-not-last': { level: string };
  'back-changes-nothing': { keys: readonly string[] };
  'pay-first': { lowered: string | undefined };
  'not-your-event': { event: string; owner: string };
  'start-order': { counter: string; key: 'start' | 'min' | 'max'; reads: string };
};

/** What each problem of a session record carries. */
export type RecordDetails = {
  'not-a-record': { reason: string };
  'other-design': { recorded: string; found: string };
  'replay-differs': { what: string; recorded: string; found: string };
};

/** What each fault of a running session carries. */
export type FaultDetails = {
  'endless-chain': { steps: number; loop: readonly string[] };
  'number-too-large': { counter: string; by: string; found: string };
  'no-next-level': { level: string };
  'too-many-pieces': { piece: string; most: number };
  'not-a-snapshot': { reason: string };
  'design-changed': { sections: readonly string[] };
  'time-over': { at: number };
};

export interface AllDetails extends ProblemDetails, RecordDetails, FaultDetails {}

/** What can be wrong with what a user gave, or with rules while they run. */
export type ProblemCode = keyof AllDetails;

/** The code of a problem, with the names and numbers involved. */
export type CodedDetails = {
  readonly [Code in ProblemCode]: { readonly code: Code; readonly details: AllDetails[Code] };
}[ProblemCode];
