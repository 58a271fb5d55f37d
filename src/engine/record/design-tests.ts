import { type Check, type Design, type DesignTest, spans, type Value } from '../../design/model.js';
import { DesignError, type Place } from '../../design/problems/problem.js';
import { fromDials } from '../program/lower/lower-expression.js';
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
 * @example
 * const failed = runTests(design).filter(({ passed }) => !passed);
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
  const heard: Heard = { cues: [], popups: [] };
  session.listen(({ cues, popups }) => {
    heard.cues.push(...cues);
    heard.popups.push(...popups);
  });
  /** Notes the first moment at which all of some checks hold, though they never may. */
  const forbid = (checks: readonly Check[]): (() => void) => {
    if (checks.length === 0) return () => undefined;
    let isTold = false;
    const look = (): void => {
      if (isTold || !checks.every((check) => missOf(session, check, heard) === undefined)) return;
      isTold = true;
      const what = `never ${checks.map((check) => `${check.what} ${show(check.expected)}`).join(' and ')}`;
      const found = `at ${session.time / 1000} s`;
      misses.push({ what, expected: 'at no moment', found, writtenBy: undefined });
    };
    look();
    return session.listen(look);
  };
  forbid(test.never);
  for (const step of test.steps) {
    if (step.kind === 'wait') session.advance(step.duration);
    else if (step.kind === 'end') session.endContact(step.contact);
    else if (step.kind === 'send') {
      for (let time = 0; time < step.times; time++) session.send(step.name, step.contact);
    } else if (step.kind === 'never') {
      const stop = forbid(step.checks);
      session.advance(step.duration);
      stop();
    } else {
      for (const check of step.checks) {
        const found = missOf(session, check, heard);
        const { what } = check;
        if (found !== undefined)
          misses.push({ what, expected: show(check.expected), found, writtenBy: writers.get(what) });
      }
      heard.cues.length = 0;
      heard.popups.length = 0;
    }
  }
}

/** What sounded and rose since a test last looked. */
interface Heard {
  readonly cues: string[];
  readonly popups: string[];
}

/** What is there instead of what a check expects; undefined where it holds. */
function missOf(session: Session, check: Check, heard: Heard): Value | undefined {
  switch (check.kind) {
    case 'value':
    case 'levelValue': {
      const { expected } = check;
      const found = check.kind === 'value' ? read(session, check.name) : levelValue(session, check.name);
      const holds =
        typeof expected === 'object'
          ? Number(found) >= expected.atLeast && Number(found) <= expected.atMost
          : found === expected;
      return holds ? undefined : found;
    }
    case 'text':
      return session.text === check.expected ? undefined : session.text;
    case 'hud': {
      const item = session.hud.find(({ show: shown, label }) => shown === check.name || label === check.name);
      const found = item === undefined ? false : item.text;
      return found === check.expected ? undefined : found;
    }
    case 'cues':
    case 'popups': {
      const found = heard[check.kind];
      const { expected } = check;
      const holds =
        expected.length === 0 ? found.length === 0 : expected.every((each) => found.includes(each));
      return holds ? undefined : found.length === 0 ? 'none' : found.join(', ');
    }
  }
}

/** What is expected, in the form in which it is reported. */
function show(expected: Check['expected']): Value {
  if (typeof expected !== 'object') return expected;
  if ('atLeast' in expected) {
    const { atLeast, atMost } = expected;
    if (atMost === Number.POSITIVE_INFINITY) return `at least ${atLeast}`;
    return atLeast === Number.NEGATIVE_INFINITY ? `at most ${atMost}` : `${atLeast} to ${atMost}`;
  }
  return expected.length === 0 ? 'none' : expected.join(', ');
}

/** A value of the level that the session is on. */
function levelValue({ design, level }: Session, name: string): number {
  const { values } = design.levels[level - 1] ?? design.levels.at(-1)!;
  return fromDials(values.get(name)!, design.dials, level);
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
