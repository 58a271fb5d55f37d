import type { Place, Problem } from './problem.js';
import { problem } from './problem-catalogue.js';
import type { AllDetails, CodedDetails, ProblemDetails } from './problem-details.js';

/** Problems that one reading lists; a broken file can hold thousands, of which nobody reads more. */
const most = 100;

type Coded = Extract<CodedDetails, { readonly code: keyof ProblemDetails }>;

/** A problem, and the other places at which the same is missing. */
interface Found {
  readonly coded: Coded;
  readonly place: Place;
  readonly also: Place[];
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
    const found: Found = { coded: { code, details } as Coded, place, also: [] };
    // In TypeScript there are no lines to name.
    const missing = place.line === 0 ? undefined : missingIn(found.coded);
    const known = missing === undefined ? undefined : this.#missing.get(missing);
    if (known !== undefined) {
      known.also.push(place);
      return;
    }
    if (missing !== undefined) this.#missing.set(missing, found);
    if (this.#listed.length < most) this.#listed.push(found);
    else {
      this.#unlisted++;
      this.#place ??= place;
    }
  }

  /** In the order of the file; last, how many more there are. */
  inFileOrder(): Problem[] {
    const causes = this.#listed.map((found) => this.#causeOf(found));
    const followersOf = (found: Found): Found[] => this.#listed.filter((_, at) => causes[at] === found);
    const sorted = this.#listed
      .filter((_, at) => causes[at] === undefined)
      .map((found) => problemOf(found, followersOf(found)))
      .sort((a, b) => inOrder(a.place, b.place));
    return this.#unlisted === 0
      ? sorted
      : [...sorted, problem('more-problems', { count: this.#unlisted }, this.#place!)];
  }

  /** The problem that an event follows from: what it is one of is missing itself. */
  #causeOf({ coded }: Found): Found | undefined {
    if (coded.code !== 'unknown-event') return undefined;
    return senders.map((sender) => this.#missing.get(`${sender} ${coded.details.of}`)).find(Boolean);
  }
}

/** What an event may be one of. */
const senders = ['piece', 'timer', 'screen'] as const;

const inOrder = (one: Place, other: Place): number => one.line - other.line || one.column - other.column;

/** What is missing according to a problem, where it may be so at several places. */
function missingIn({ code, details }: Coded): string | undefined {
  if (code === 'unknown-event')
    return details.of === undefined ? `event ${details.event}` : `events of ${details.of}`;
  // What is named where a piece or a group may stand is the same piece.
  return code === 'unknown-name' ? `${details.kind.split(/ or |, /)[0]} ${details.name}` : undefined;
}

/**
 * The first place in the file is that of the problem; the others are lines of its words.
 *
 * @param followers events of what is missing
 */
function problemOf({ coded, place, also }: Found, followers: readonly Found[]): Problem {
  const places = [place, ...also, ...followers.flatMap((each) => [each.place, ...each.also])].sort(inOrder);
  const [first] = places as [Place];
  const lines = [...new Set(places.map(({ line }) => line))].filter((line) => line !== first.line);
  const [heard] = followers.flatMap((each) =>
    each.coded.code === 'unknown-event' ? each.coded.details.event : [],
  );
  const more = { ...(heard && { event: heard }), ...(lines.length > 0 && { also: lines }) };
  return problem(coded.code, { ...coded.details, ...more } as never, first);
}
