import type { Place, Problem } from './problem.js';
import { problem } from './problem-catalogue.js';
import type { AllDetails, ProblemDetails } from './problem-details.js';

/** Problems that one reading lists; a broken file can hold thousands, of which nobody reads more. */
const most = 100;

/** A problem, and the other places at which the same is missing. */
interface Found {
  readonly code: keyof ProblemDetails;
  readonly details: AllDetails[keyof ProblemDetails];
  readonly place: Place;
  readonly also: Place[];
  /** An event that is heard of what is missing. */
  event?: string;
}

/** The problems found in one file. The first of them are listed, the others counted. */
export class ProblemList {
  readonly #listed: Found[] = [];
  /** By what is missing, the problem that tells it. */
  readonly #missing = new Map<string, Found>();
  #unlisted = 0;
  #place: Place | undefined;
  readonly #told = new Set<string>();

  get length(): number {
    return this.#listed.length;
  }

  /**
   * Two problems at one place are reported once, and so is a name that is missing at several; a problem of the YAML hides those that
   * follow from it.
   */
  add<Code extends keyof ProblemDetails>(code: Code, details: AllDetails[Code], place: Place): void {
    const at = `${place.file}:${place.line}:${place.column}`;
    if (this.#told.has(`${at} ${code}`) || this.#told.has(`${at} taken-by-yaml`)) return;
    this.#told.add(`${at} ${code}`);
    // In TypeScript there are no lines to name.
    const missing = place.line === 0 ? undefined : missingIn(code, details);
    const known = missing === undefined ? undefined : this.#missing.get(missing);
    if (known !== undefined) {
      known.also.push(place);
      return;
    }
    const found: Found = { code, details, place, also: [] };
    if (missing !== undefined) this.#missing.set(missing, found);
    if (this.#listed.length < most) this.#listed.push(found);
    else {
      this.#unlisted++;
      this.#place ??= place;
    }
  }

  /** In the order of the file; last, how many more there are. */
  inFileOrder(): Problem[] {
    const causes = this.#listed.filter((found) => !this.#followsFromAnother(found));
    const sorted = causes.map(problemOf).sort((a, b) => inOrder(a.place, b.place));
    return this.#unlisted === 0
      ? sorted
      : [...sorted, problem('more-problems', { count: this.#unlisted }, this.#place!)];
  }

  /** Whether an event is one of something that is missing itself: no second problem. */
  #followsFromAnother({ code, details, place, also }: Found): boolean {
    if (code !== 'unknown-event') return false;
    const { event, of } = details as AllDetails['unknown-event'];
    const cause = senders.map((sender) => this.#missing.get(`${sender} ${of}`)).find(Boolean);
    if (cause === undefined) return false;
    cause.also.push(place, ...also);
    cause.event ??= event;
    return true;
  }
}

/** What an event may be one of. */
const senders = ['piece', 'timer', 'screen'] as const;

const inOrder = (one: Place, other: Place): number => one.line - other.line || one.column - other.column;

/** What is missing according to a problem, where it may be so at several places. */
function missingIn(code: keyof ProblemDetails, details: object): string | undefined {
  if (code === 'unknown-event') {
    const { event, of } = details as AllDetails['unknown-event'];
    return of === undefined ? `event ${event}` : `events of ${of}`;
  }
  if (code !== 'unknown-name') return undefined;
  const { name, kind } = details as AllDetails['unknown-name'];
  // What is named where a piece or a group may stand is the same piece.
  return `${kind.split(/ or |, /)[0]} ${name}`;
}

/** The first place in the file is that of the problem; the others are lines of its words. */
function problemOf({ code, details, place, also, event }: Found): Problem {
  if (also.length === 0) return problem(code, details as never, place);
  const [first, ...others] = [place, ...also].sort(inOrder);
  const lines = [...new Set(others.map(({ line }) => line))].filter((line) => line !== first!.line);
  const heard = event === undefined ? {} : { event };
  return problem(code, { ...details, ...heard, also: lines } as never, first!);
}
