import { expose } from 'comlink';
import { goalsOf } from '../../../src/design/language/goals.js';
import { showTrigger } from '../../../src/design/language/trigger.js';
import type { Design } from '../../../src/design/model.js';
import { Session } from '../../../src/engine/session/design-session.js';
import type { Exploration } from '../../../src/explore/explore.js';
import { check } from '../../../src/inspect/check.js';
import { mendOf } from '../../../src/inspect/mend.js';
import type { LevelTable } from '../../../src/sentences/level-table.js';
import type { Spot } from '../../../src/sentences/sentence.js';
import type { CheckExportName } from './check-exports.js';

/** Milliseconds that a check may take before it says that it is not finished. */
const patience = 20_000;

/** Where a design stands: transitions, tests, findings. It takes longer than reading. */
function judge(design: Design, levels: LevelTable) {
  const ends = performance.now() + patience;
  const result = check(design, { mostStates: 300_000, isOver: () => performance.now() > ends });
  const { exploration, passed } = result;
  const ways = exploration.transitions.map((way, index) => ({
    ...verdictView(`${way.from} → ${way.to}`, way),
    index,
    from: way.from,
    to: way.to,
    goals: goalsOf(design, design.transitions[index]!),
    trigger: showTrigger(design.transitions[index]!),
  }));
  return {
    passed,
    /** Whether a limit ended it before all was looked for. */
    isCut: exploration.isCut || result.isLate,
    leftOpen: exploration.leftOpen,
    formulas: formulas(design, levels),
    score: exploration.score && {
      counter: exploration.score.counter,
      most: exploration.score.highest?.value,
    },
    ways,
    screens: design.screens.map(({ name, live, ending, place }) => ({
      name,
      kind: ending ?? (live ? 'live' : 'still'),
      ...spotOf(place),
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
      ...spotOf(place),
      passed: isPassed,
      told: fault ?? misses.map(({ what, expected, found }) => `${what}: ${found} ≠ ${expected}`).join(', '),
    })),
    findings: result.findings
      .filter(({ accepted }) => accepted === undefined)
      .map((found) => ({
        severity: found.severity,
        message: found.message,
        remedy: found.remedy,
        ...spotOf(found.place),
        mend: mendOf(design, found),
      })),
  };
}

const verdictView = (
  name: string,
  { place, verdict, reason, witness }: Exploration['parts'][0] | Exploration['transitions'][0],
) => ({ name, ...spotOf(place), verdict, reason, record: witness?.record, steps: witness?.steps });

const spotOf = ({ line, column }: Spot): Spot => ({ line, column });

/** What the formulas of the levels come to, by column of their table and level; empty where there are none. */
function formulas(design: Design, { columns, rows }: LevelTable): Record<string, readonly number[]> {
  const names = columns
    .filter(({ of }, at) => of === 'values' && rows.some(({ cells }) => typeof cells[at] === 'string'))
    .map(({ name }) => name);
  if (names.length === 0) return {};
  // The engine works them out, as values of a text of a screen that nothing leads to; no name of a design has a blank in it.
  const screen = 'formulas of levels';
  const text = names.flatMap((name) => [{ kind: 'levelValue', name } as const, ' ']);
  const place = design.screens[0]!.place;
  const shown = {
    ...design,
    screens: [...design.screens, { name: screen, live: false, ending: undefined, text, place }],
  };
  const byLevel = rows.map((_, level) => {
    const session = new Session(shown, { seed: 1 });
    session.setScene(
      new Map<string, string | number>([
        ['screen', screen],
        ['level', level + 1],
      ]),
    );
    return session.text.trim().split(' ').map(Number);
  });
  return Object.fromEntries(names.map((name, at) => [name, byLevel.map((values) => values[at]!)]));
}

const analysis = {
  judge,
  /** The text of an export of the whole check. */
  async export(design: Design, name: CheckExportName): Promise<{ file: string; text: string }> {
    const { checkExporters } = await import('./check-exports.js');
    const { file, make } = checkExporters[name];
    return { file, text: make(check(design)) };
  },
};
export type Analysis = typeof analysis;
export type Judgement = ReturnType<typeof judge>;
expose(analysis);
