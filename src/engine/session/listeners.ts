import { UsageError } from '../../design/problems/problem.js';
import type { Step } from '../run/step.js';

/** What a listener asked of the session while it heard a step: it is done once all have heard it. */
type Request = () => void;

/** Requests that may follow on each other, from one step of the session. */
const mostRequests = 1000;
/** Requests that let time pass, within others that do. */
const mostNested = 20;

/**
 * Those who hear the steps of a session. All of them hear a step, whatever one throws; what they ask for meanwhile waits until then,
 * so that everybody hears one order of events, that of the record. What was thrown is thrown to whoever called the session, once the
 * call is done.
 */
export class Listeners {
  readonly #listeners = new Set<(step: Step) => void>();
  #requests: Request[] = [];
  #thrown: unknown[] = [];
  #nested = 0;
  #isTelling = false;
  #isCalled = false;

  /** Whether listeners hear a step just now, so that the session must stand still. */
  get isTelling(): boolean {
    return this.#isTelling;
  }

  /** @throws UsageError where it is no function */
  add(listener: (step: Step) => void): () => void {
    if (typeof listener !== 'function')
      throw new UsageError(
        'bad-argument',
        `A listener is a function that is given a step, not ${show(listener)}.`,
      );
    this.#listeners.add(listener);
    return () => {
      this.#listeners.delete(listener);
    };
  }

  tell(step: Step): void {
    const wasTelling = this.#isTelling;
    this.#isTelling = true;
    for (const listener of [...this.#listeners]) this.#attempt(() => listener(step));
    this.#isTelling = wasTelling;
  }

  /** Does something while nobody hears of it. */
  unheard(work: () => void): void {
    const listeners = [...this.#listeners];
    this.#listeners.clear();
    try {
      work();
    } finally {
      for (const listener of listeners) this.#listeners.add(listener);
    }
  }

  /** Keeps a request until all have heard the current step. */
  later(request: Request): void {
    this.#requests.push(request);
  }

  /**
   * One call of the session from outside: work, then what listeners asked for.
   *
   * @throws what the work throws; else what listeners threw, several as an AggregateError
   */
  call<Result>(work: () => Result): Result {
    if (this.#isCalled) return work();
    this.#isCalled = true;
    let result: Result;
    try {
      result = this.settled(work);
    } catch (error) {
      if (error instanceof Error && this.#thrown.length > 0) error.cause ??= this.#takeThrown();
      throw error;
    } finally {
      this.#isCalled = false;
    }
    if (this.#thrown.length > 0) throw this.#takeThrown();
    return result;
  }

  /** Does something with a session, then what listeners asked for because of it, at that moment, each in its turn. */
  settled<Result>(work: () => Result): Result {
    const outer = this.#requests;
    const own: Request[] = [];
    this.#requests = own;
    this.#nested++;
    try {
      const result = work();
      for (let next = 0; next < own.length; next++) {
        if (next >= mostRequests || this.#nested > mostNested) {
          this.#thrown.push(
            new UsageError(
              'wrong-moment',
              `More than ${next >= mostRequests ? mostRequests : mostNested} requests of listeners followed from one event: they answer each other without end. Let one of them wait for a condition that ends.`,
            ),
          );
          break;
        }
        this.#attempt(own[next]!);
      }
      return result;
    } finally {
      this.#nested--;
      this.#requests = outer;
    }
  }

  #attempt(work: () => void): void {
    try {
      work();
    } catch (error) {
      this.#thrown.push(error);
    }
  }

  #takeThrown(): unknown {
    const thrown = this.#thrown.splice(0);
    return thrown.length === 1
      ? thrown[0]
      : new AggregateError(thrown, `${thrown.length} errors were thrown by listeners of the session.`);
  }
}

const show = (value: unknown): string =>
  typeof value === 'object' && value !== null ? 'an object' : String(value);
