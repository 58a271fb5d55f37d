import { expose } from 'comlink';
import { showTrigger } from '../../../src/design/trigger.js';
import { check, checkToJson, type Exploration, readDesign } from '../../../src/index.js';
import { mendOf } from '../../../src/inspect/mend.js';

/** Milliseconds that a check may take before it says that it is not finished. */
const patience = 20_000;

/** Where a design stands: transitions, tests, findings. It takes longer than reading. */
function judge(text: string) {
  const ends = performance.now() + patience;
  const design = readDesign(text, 'design');
  const result = check(design, { mostStates: 300_000, isOver: () => performance.now() > ends });
  const { transitions, tests, passed, complete } = checkToJson(result);
  const { exploration } = result;
  const ways = exploration.transitions.map((way, index) => ({
    ...verdictView(`${way.from} → ${way.to}`, way),
    index,
    from: way.from,
    to: way.to,
    trigger: showTrigger(design.transitions[index]!),
  }));
  return {
    passed,
    complete,
    reached: transitions.filter(({ verdict }) => verdict === 'reached').length,
    transitions: transitions.length,
    passedTests: tests.filter((test) => test.passed).length,
    tests: tests.length,
    ways,
    screens: design.screens.map(({ name, live, ending, place }) => ({
      name,
      kind: ending ?? (live ? 'live' : 'still'),
      line: place.line,
      verdict: exploration.parts.find((part) => part.kind === 'screen' && part.name === name)?.verdict,
    })),
    // What is reached goes without saying, but for transitions: their sentences show how.
    verdicts: [
      ...ways,
      ...exploration.parts
        .filter(({ kind, verdict }) => kind !== 'screen' && kind !== 'outcome' && verdict !== 'reached')
        .map((part) => verdictView(part.name, part)),
    ],
    testResults: result.tests.map(({ place, passed: isPassed, misses, fault }) => ({
      line: place.line,
      passed: isPassed,
      told: fault ?? misses.map(({ what, expected, found }) => `${what}: ${found} ≠ ${expected}`).join(', '),
    })),
    findings: result.findings
      .filter(({ accepted }) => accepted === undefined)
      .map((found) => ({
        severity: found.severity,
        message: found.message,
        remedy: found.remedy,
        line: found.place.line,
        column: found.place.column,
        mend: mendOf(design, found),
      })),
  };
}

const verdictView = (
  name: string,
  { place, verdict, reason, witness }: Exploration['parts'][0] | Exploration['transitions'][0],
) => ({ name, line: place.line, verdict, reason, record: witness?.record, steps: witness?.steps });

const analysis = { judge };
export type Analysis = typeof analysis;
export type Judgement = ReturnType<typeof judge>;
expose(analysis);
