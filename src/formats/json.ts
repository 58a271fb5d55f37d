import type { DesignError } from '../design/problem.js';
import type { Check } from '../inspect/check.js';

/** The result of a check as plain data, for programs that read it. */
export function checkToJson({ design, exploration, findings, tests, passed }: Check) {
  return {
    design: design.title,
    passed,
    transitions: exploration.transitions.map(({ from, to, index, verdict, witness, reason }) => ({
      from,
      to,
      index,
      verdict,
      ...(witness === undefined ? {} : { witness: witness.steps }),
      ...(reason === undefined ? {} : { reason }),
    })),
    findings: findings.map(({ code, severity, message, remedy, place, witness, accepted }) => ({
      code,
      severity,
      message,
      remedy,
      ...place,
      ...(witness === undefined ? {} : { witness }),
      ...(accepted === undefined ? {} : { accepted }),
    })),
    parts: exploration.parts.map(({ kind, name, verdict, witness, reason }) => ({
      kind,
      name,
      verdict,
      ...(witness === undefined ? {} : { witness: witness.steps }),
      ...(reason === undefined ? {} : { reason }),
    })),
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
