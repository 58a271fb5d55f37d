import { type Design, spans } from '../design/model.js';
import { runTests, type TestResult } from '../engine/trial.js';
import { type Exploration, type ExploreOptions, explore } from '../explore/explore.js';
import { type Finding, finding } from './finding.js';

export interface Check {
  readonly design: Design;
  readonly exploration: Exploration;
  /** Errors first, and causes before what follows from them; then in the order of the file. */
  readonly findings: readonly Finding[];
  readonly tests: readonly TestResult[];
  /** False where a finding is an error or a test failed: the design falls short. */
  readonly passed: boolean;
}

/** Explores a design, runs its tests, and says what is wrong with it. */
export function check(design: Design, options: ExploreOptions = {}): Check {
  const exploration = explore(design, options);
  const tests = runTests(design);
  const findings = [...aboutFlow(design, exploration), ...hints(design)].sort(
    (a, b) => rank(a) - rank(b) || a.place.line - b.place.line || a.place.column - b.place.column,
  );
  const passed = tests.every((test) => test.passed) && findings.every(({ severity }) => severity !== 'error');
  return { design, exploration, findings, tests, passed };
}

/** A screen that is never entered follows from transitions that are never taken. */
function rank({ severity, code }: Finding): number {
  if (severity === 'error') return code === 'screen-unreachable' ? 1 : 0;
  return severity === 'warning' ? 2 : 3;
}

function aboutFlow(design: Design, exploration: Exploration): Finding[] {
  const { transitions, screens, faults, isComplete } = exploration;
  const findings: Finding[] = [];
  for (const each of transitions) {
    const { from, to, place } = each;
    // A transition from a screen that is never entered is no finding of its own: the screen is.
    if (each.verdict === 'unreachable' && screens.has(from)) {
      findings.push(finding('transition-unreachable', { from, to, reason: each.reason! }, place));
    }
    if (each.verdict === 'undecided' && screens.has(from)) {
      findings.push(finding('transition-undecided', { from, to, reason: each.reason! }, place));
    }
  }
  const entered = new Set([
    ...screens,
    ...transitions.filter((each) => each.verdict === 'reached').map((each) => each.to),
  ]);
  for (const { name, place, ending, live } of design.screens) {
    const leadingIn = transitions.filter((each) => each.to === name);
    if (!entered.has(name)) {
      const causes = leadingIn.map((each) => `${each.from} -> ${each.to}`);
      if (isComplete)
        findings.push(finding('screen-unreachable', { screen: name, causes: [...new Set(causes)] }, place));
    } else if (ending !== undefined) {
      if (!leadsToFreshStart(design, exploration, name)) {
        const target = design.screens.find((screen) => screen.live)?.name ?? design.screens[0]!.name;
        findings.push(finding('no-way-back', { ending: name, target }, place));
      }
    } else if (!live && !transitions.some((each) => each.from === name)) {
      findings.push(finding('dead-end', { screen: name }, place));
    }
  }
  for (const { problem, witness } of faults) {
    const { code, message, remedy } = problem;
    const details = { problem: code, message, remedy };
    findings.push(finding('fault', details, problem.place, witness?.steps));
  }
  return findings;
}

/** Whether a fresh start of a run may be reached from a screen, over transitions that are reached or undecided. */
function leadsToFreshStart(design: Design, { transitions }: Exploration, ending: string): boolean {
  const seen = new Set([ending]);
  const isFresh = (at: number): boolean => {
    const { fresh } = design.transitions[at]!;
    return fresh !== undefined && spans.indexOf(fresh) >= spans.indexOf('run');
  };
  for (const screen of seen) {
    for (const [at, { from, to, verdict }] of transitions.entries()) {
      if (from !== screen || verdict === 'unreachable') continue;
      if (isFresh(at)) return true;
      if (to !== 'back') seen.add(to);
      // Back leads to wherever the screen can be entered from.
      else
        for (const each of transitions)
          if (each.to === screen && each.verdict !== 'unreachable') seen.add(each.from);
    }
  }
  return false;
}

/** What a design does without for now: no mistakes, but the next thing to add. */
function hints(design: Design): Finding[] {
  const findings: Finding[] = [];
  const top = { file: design.file, line: 1, column: 1 };
  if (design.transitions.length === 0 && design.screens.length === 1) {
    findings.push(finding('no-screens', { screen: design.screens[0]!.name }, top));
  } else if (design.screens.every((screen) => screen.ending === undefined))
    findings.push(finding('no-ending', {}, top));
  if (design.counters.length > 0 && design.hud.length === 0)
    findings.push(finding('nothing-on-the-hud', {}, top));
  const [first] = design.pieces;
  const appears = design.levels.some(
    ({ placed, spawns, course }) => placed.length + spawns.length + course.length > 0,
  );
  if (first !== undefined && !appears) findings.push(finding('nothing-appears', { piece: first.name }, top));
  for (const { name, place, role, meets, outcomes } of design.pieces) {
    const isHeard = [...design.rules, ...design.transitions].some(({ events }) =>
      events.some((event) => event.startsWith(`${name}.`)),
    );
    if (!isHeard && role !== 'prop') {
      const likely = outcomes.at(meets === 'arrives' ? -1 : 0)!.name;
      findings.push(finding('piece-unheard', { piece: name, event: `${name}.${likely}` }, place));
    }
  }
  return findings;
}
