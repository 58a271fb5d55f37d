import { type Design, type DesignTest, spans, type Value } from '../../design/model.js';
import { DesignError, type Place } from '../../design/problems/problem.js';
import type { BackendName } from '../run/backend.js';
import { Session, type SessionOptions } from '../session/design-session.js';

/** Something that a test of the design expected, and what was there instead. */
export interface Miss {
  readonly what: string;
  readonly expected: Value;
  readonly found: Value;
  /** For a counter, the rule or transition that wrote it last; undefined where none did. */
  readonly writtenBy: string | undefined;
}

export interface TestResult {
  readonly name: string;
  readonly passed: boolean;
  readonly misses: readonly Miss[];
  /** Why the test could not be run to its end, such as rules that set each other off without end. */
  readonly fault: string | undefined;
  readonly place: Place;
}

/**
 * Runs the tests that a design holds, each in a session of its own.
 *
 * @param isOver as in `GameOptions`: a test that is still running then has not passed
 */
export function runTests(design: Design, backend?: BackendName, isOver?: () => boolean): TestResult[] {
  const options = { ...(backend && { backend }), ...(isOver && { isOver }) };
  return design.tests.map((test) => runTest(design, test, options));
}

type TrialOptions = Pick<SessionOptions, 'backend' | 'isOver'>;

function runTest(design: Design, test: DesignTest, options: TrialOptions): TestResult {
  const misses: Miss[] = [];
  let fault: string | undefined;
  try {
    play(design, test, options, misses);
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    fault = error.problems.map((each) => each.message).join(' ');
  }
  return {
    name: test.name,
    passed: misses.length === 0 && fault === undefined,
    misses,
    fault,
    place: test.place,
  };
}

function play(design: Design, test: DesignTest, options: TrialOptions, misses: Miss[]): void {
  const { seed, spawns } = test;
  const session = new Session(design, { seed, spawns, ...options });
  const writers = new Map<string, string>();
  session.listen((step) => {
    for (const { index } of step.transitions) {
      // A fresh start writes every counter that it puts back.
      const transition = design.transitions.find((each) => each.index === index)!;
      if (transition.fresh === undefined) continue;
      for (const { name, keep } of design.counters) {
        if (spans.indexOf(keep) > spans.indexOf(transition.fresh)) continue;
        writers.set(name, `fresh: ${transition.fresh} of ${transition.from} -> ${transition.to}`);
      }
    }
    for (const { counter, by } of step.writes) writers.set(counter, by);
  });
  if (test.given.size > 0) session.setScene(test.given);
  for (const step of test.steps) {
    if (step.kind === 'wait') session.advance(step.duration);
    else if (step.kind === 'end') session.endContact(step.contact);
    else if (step.kind === 'send') {
      for (let time = 0; time < step.times; time++) session.send(step.name, step.contact);
    } else {
      for (const [what, expected] of step.expected) {
        const found = read(session, what);
        if (found !== expected) misses.push({ what, expected, found, writtenBy: writers.get(what) });
      }
    }
  }
}

/** The value that a test means by a name. */
function read(session: Session, what: string): Value {
  const { design } = session;
  if (what === 'screen') return session.screen;
  if (what === 'level') return session.level;
  if (what === 'course') return session.course.passed;
  if (design.counters.some((counter) => counter.name === what)) return session.counter(what);
  if (design.timers.some((timer) => timer.name === what)) return session.timer(what);
  const { present } = session;
  return design.pieces
    .filter((piece) => piece.answersTo.includes(what))
    .reduce((count, piece) => count + present[piece.name]!, 0);
}
