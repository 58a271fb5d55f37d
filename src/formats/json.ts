import type { DesignError } from '../design/problems/problem.js';
import type { Check } from '../inspect/check.js';

/** The result of a check as plain data, for programs that read it. */
export function checkToJson({ design, exploration, findings, tests, passed, isLate }: Check) {
  return {
    design: design.title,
    passed,
    // False where a limit on states or time was reached: what is not told may still be so.
    complete: exploration.isComplete && !isLate,
    ...(exploration.leftOpen === undefined ? {} : { leftOpen: exploration.leftOpen }),
    transitions: exploration.transitions.map(
      ({ from, to, index, verdict, assumes, witness, reason, closed, brings }) => ({
        from,
        to,
        index,
        verdict,
        assumes,
        ...(witness === undefined ? {} : { witness: witness.steps }),
        ...(brings.length === 0 ? {} : { brings }),
        ...(reason === undefined ? {} : { reason }),
        ...(closed === undefined ? {} : { closedStates: closed.states.length }),
      }),
    ),
    findings: findings.map(({ code, severity, message, remedy, place, witness, accepted }) => ({
      code,
      severity,
      message,
      remedy,
      ...place,
      ...(witness === undefined ? {} : { witness }),
      ...(accepted === undefined ? {} : { accepted }),
    })),
    parts: exploration.parts.map(({ kind, name, verdict, assumes, witness, reason, closed }) => ({
      kind,
      name,
      verdict,
      assumes,
      ...(witness === undefined ? {} : { witness: witness.steps }),
      ...(reason === undefined ? {} : { reason }),
      ...(closed === undefined ? {} : { closedStates: closed.states.length }),
    })),
    endings: exploration.endings.map(({ screen, events, leastEvents, witness, leastTime }) => ({
      screen,
      events,
      leastEvents,
      witness: witness.steps,
      ...(leastTime === undefined ? {} : { leastSeconds: leastTime / 1000 }),
    })),
    ...(exploration.score === undefined
      ? {}
      : {
          score: {
            counter: exploration.score.counter,
            lowest: exploration.score.lowest?.value,
            lowestWitness: exploration.score.lowest?.witness?.steps,
            highest: exploration.score.highest?.value,
            highestWitness: exploration.score.highest?.witness?.steps,
            growsForEver: exploration.score.growsForEver,
            supply: exploration.score.supply,
          },
        }),
    tests: tests.map(({ name, passed: isPassed, misses, fault, place }) => ({
      name,
      passed: isPassed,
      ...(misses.length === 0 ? {} : { misses }),
      ...(fault === undefined ? {} : { fault }),
      line: place.line,
    })),
    states: exploration.states,
  };
}

export function problemsToJson(error: DesignError) {
  return {
    problems: error.problems.map(({ code, message, remedy, place }) => ({ code, message, remedy, ...place })),
  };
}
