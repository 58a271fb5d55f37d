import { closest } from '../../design/language/names.js';
import { parseStep } from '../../design/language/step-text.js';
import type { Design } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import type { Step } from '../run/step.js';
import { Session, type SessionOptions } from '../session/design-session.js';
import { recordOf, writeRecord } from './record.js';

/** Seconds that one line may wait: a day. */
const longestWait = 86_400;

/** What became of one line. */
export type LineResult =
  | { readonly kind: 'happened'; readonly steps: readonly Step[] }
  | { readonly kind: 'undone' }
  | { readonly kind: 'refused'; readonly reason: string };

/**
 * A session that is led line by line, as a person at a keyboard or a file of lines does it: `blossom.taken`,
 * `3 x blossom.taken`, `wasp.hit as w1`, `end w1`, `wait 2` or `undo`. A line that cannot be used changes nothing.
 */
export class Script {
  session: Session;
  readonly #design: Design;
  readonly #options: SessionOptions;
  #lines: string[] = [];

  constructor(design: Design, options: SessionOptions = {}) {
    this.#design = design;
    this.#options = options;
    this.session = new Session(design, options);
  }

  /** The record of what was led so far, as JSON Lines. */
  record(): string {
    return writeRecord(recordOf(this.session));
  }

  run(line: string): LineResult {
    const text = line.trim();
    if (text === 'undo') return this.#undo();
    const result = this.#happen(text);
    if (result.kind === 'happened') this.#lines.push(text);
    else this.#playAgain();
    return result;
  }

  #undo(): LineResult {
    if (this.#lines.length === 0) return { kind: 'refused', reason: 'There is nothing to undo.' };
    this.#lines.pop();
    this.#playAgain();
    return { kind: 'undone' };
  }

  #playAgain(): void {
    this.session = new Session(this.#design, this.#options);
    for (const line of this.#lines) this.#happen(line);
  }

  #happen(text: string): LineResult {
    const parsed = parseStep(text);
    if (parsed === undefined) {
      const reason = `"${text}" is no step. Write an event, such as ${this.session.possible[0] ?? 'input.start'}; 3 x before it repeats it; as w1 after it names the piece that is touched, and end w1 ends that; wait 2 lets time pass; undo takes back a step.`;
      return { kind: 'refused', reason };
    }
    if (parsed.kind === 'wait' && parsed.seconds > longestWait)
      return { kind: 'refused', reason: `A line waits at most ${longestWait} s, not ${parsed.seconds}.` };
    const steps: Step[] = [];
    const stop = this.session.listen((step) => steps.push(step));
    try {
      if (parsed.kind === 'wait') this.session.advance(parsed.seconds * 1000);
      else if (parsed.kind === 'end') this.session.endContact(parsed.contact);
      else {
        const { outsideEvents } = this.session;
        const known = [...outsideEvents, ...this.#design.events];
        if (!known.includes(parsed.event)) {
          const near = closest(parsed.event, outsideEvents);
          const help = near === undefined ? `It knows ${outsideEvents.join(', ')}.` : `Did you mean ${near}?`;
          return { kind: 'refused', reason: `The design knows no event ${parsed.event}. ${help}` };
        }
        for (let time = 0; time < parsed.times; time++) this.session.send(parsed.event, parsed.contact);
      }
    } catch (error) {
      if (error instanceof DesignError) {
        return { kind: 'refused', reason: error.problems.map((each) => each.message).join(' ') };
      }
      return { kind: 'refused', reason: (error as Error).message };
    } finally {
      stop();
    }
    return { kind: 'happened', steps };
  }
}
