import type { Place, Problem } from './problem.js';
import { problem } from './problem-catalogue.js';
import type { AllDetails, ProblemDetails } from './problem-details.js';

/** Problems that one reading lists; a broken file can hold thousands, of which nobody reads more. */
const most = 100;

/** The problems found in one file. The first of them are listed, the others counted. */
export class ProblemList {
  readonly #listed: Problem[] = [];
  #unlisted = 0;
  #place: Place | undefined;
  readonly #told = new Set<string>();

  get length(): number {
    return this.#listed.length;
  }

  /** Two problems at one place are reported once; a problem of the YAML hides those that follow from it. */
  add<Code extends keyof ProblemDetails>(code: Code, details: AllDetails[Code], place: Place): void {
    const at = `${place.file}:${place.line}:${place.column}`;
    if (this.#told.has(`${at} ${code}`) || this.#told.has(`${at} taken-by-yaml`)) return;
    this.#told.add(`${at} ${code}`);
    if (this.#listed.length < most) this.#listed.push(problem(code, details, place));
    else {
      this.#unlisted++;
      this.#place ??= place;
    }
  }

  /** In the order of the file; last, how many more there are. */
  inFileOrder(): Problem[] {
    const sorted = [...this.#listed].sort(
      (a, b) => a.place.line - b.place.line || a.place.column - b.place.column,
    );
    return this.#unlisted === 0
      ? sorted
      : [...sorted, problem('more-problems', { count: this.#unlisted }, this.#place!)];
  }
}
