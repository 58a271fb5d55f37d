import type { Design } from '../design/model.js';
import { runTests, type TestResult } from '../engine/record/design-tests.js';
import { type Exploration, type ExploreOptions, explore } from '../explore/explore.js';
import { neverOver } from '../explore/search/limits.js';
import { aboutEndings } from './about/endings.js';
import { aboutFlow, isFlowSound } from './about/flow.js';
import { aboutGoals } from './about/goals.js';
import { aboutHud } from './about/hud.js';
import { aboutOrder } from './about/order.js';
import { aboutPieces } from './about/pieces.js';
import { aboutRules } from './about/rules.js';
import { aboutScoreRange, aboutScoring } from './about/scoring.js';
import { aboutStakes } from './about/stakes.js';
import { aboutStays } from './about/stays.js';
import { aboutTime } from './about/time.js';
import { aboutTrades } from './about/trades.js';
import { aboutConditions } from './asked/conditions.js';
import { neededNotTaken, neverUsedUp } from './asked/used-up.js';
import { stuckWords } from './asked/words.js';
import { aboutBests } from './bests.js';
import { acceptIn, type Finding, finding } from './finding.js';
import type { FindingDetails } from './finding-catalogue.js';
import { leftAtOnce } from './shown/left-at-once.js';
import { lostFirst } from './shown/lost-first.js';
import { aboutPrices } from './shown/prices.js';
import { residues } from './shown/residue.js';
import { aboutTexts } from './texts.js';
import { unlikeTwins } from './twins.js';
import { madeIn, usesOf } from './uses.js';

export interface Check {
  readonly design: Design;
  readonly exploration: Exploration;
  /** Errors first, and causes before what follows from them; then in the order of the file. */
  readonly findings: readonly Finding[];
  readonly tests: readonly TestResult[];
  /** False where a finding is an error, a test failed, or a limit on time or states was met before all was looked for. */
  readonly passed: boolean;
  /** Whether time ran out before everything was searched: what is not reported may still hold. */
  readonly isLate: boolean;
}

/**
 * Explores a design, runs its tests, and says what is wrong with it.
 *
 * @example
 * const { passed, findings, exploration } = check(readDesign(text));
 * for (const { severity, message, remedy } of findings) console.log(severity, message, remedy);
 * exploration.transitions.every(({ verdict }) => verdict === 'reached'); // whether every transition can be taken
 */
export function check(design: Design, options: ExploreOptions = {}): Check {
  const exploration = explore(design, options);
  const { isOver = neverOver } = options;
  const tests = runTests(design, undefined, isOver);
  const uses = usesOf(design);
  const found = [
    ...aboutStays(design),
    ...aboutFlow(design, uses, exploration, isOver),
    ...aboutEndings(design, uses, exploration),
    ...residues(design, exploration, isOver),
    ...aboutRules(design, uses),
    ...aboutOrder(design, uses),
    ...unlikeTwins(design),
    ...neverUsedUp(design, uses),
    ...neededNotTaken(design),
    ...stuckWords(design),
    ...leftAtOnce(design, exploration, isOver),
    ...lostFirst(design, isOver),
    ...aboutConditions(design, uses, exploration, isOver),
    ...aboutTrades(design, uses),
    ...aboutPrices(design, uses, exploration, isOver),
    ...aboutPieces(design, uses, exploration),
    ...aboutScoring(design, uses, exploration),
    ...aboutScoreRange(design, uses, exploration),
    ...aboutStakes(design, uses),
    ...aboutBests(design, uses),
    ...aboutGoals(design, uses, isFlowSound(exploration)),
    ...aboutTime(design, uses),
    ...aboutHud(design, uses, exploration.score?.highest?.value),
    ...aboutTexts(design),
    ...hints(design),
  ];
  const findings = acceptIn(design, withoutEffects(design, found)).sort(
    (a, b) => rank(a) - rank(b) || a.place.line - b.place.line || a.place.column - b.place.column,
  );
  const isLate = exploration.isLate || isOver();
  const passed =
    !isLate &&
    !exploration.isCut &&
    tests.every((test) => test.passed) &&
    findings.every(({ severity, accepted }) => severity !== 'error' || accepted !== undefined);
  return { design, exploration, findings, tests, passed, isLate };
}

/** One mistake, one finding: what follows from another that is told is left out. */
function withoutEffects({ transitions, screens }: Design, found: readonly Finding[]): Finding[] {
  const placesOf = (code: string) =>
    new Set(found.flatMap((each) => (each.code === code ? [each.place] : [])));
  // A rule that hears nothing where it is cannot fire.
  const deaf = placesOf('rule-deaf');
  // A number that was passed by is out of reach for good, and so is what waits for it.
  const passed = placesOf('passed-by');
  const passedOn = new Set(transitions.flatMap(({ from, place }) => (passed.has(place) ? [from] : [])));
  const left = new Set(screens.flatMap(({ name, place }) => (passedOn.has(name) ? [place] : [])));
  // From an ending where a way on leaves something over, it may end again at once, for ever.
  const leftOver = new Set(
    found.flatMap(({ code, details }) =>
      code === 'residue' ? [(details as FindingDetails['residue']).from] : [],
    ),
  );
  const ending = ({ details }: Finding): string =>
    (details as FindingDetails['no-way-back' | 'way-back-lost']).ending;
  return found.filter((each) => {
    const { code, place } = each;
    if (code === 'rule-unreachable') return !deaf.has(place);
    if (code === 'win-lost-for-good') return !left.has(place);
    return !(code === 'no-way-back' || code === 'way-back-lost') || !leftOver.has(ending(each));
  });
}

/** A screen that is never entered follows from transitions that are never taken. */
function rank({ severity, code }: Finding): number {
  if (severity === 'error') return code === 'screen-unreachable' ? 1 : 0;
  return severity === 'warning' ? 2 : 3;
}

/** What a design does without for now: no mistakes, but the next thing to add. */
function hints(design: Design): Finding[] {
  const findings: Finding[] = [];
  const top = { file: design.file, line: 1, column: 1 };
  if (design.written.screens === undefined) {
    findings.push(finding('no-screens', { screen: design.screens[0]!.name }, top));
  } else if (design.screens.every((screen) => screen.ending === undefined))
    findings.push(finding('no-ending', {}, top));
  if (design.counters.length > 0 && design.hud.length === 0)
    findings.push(finding('nothing-on-the-hud', {}, top));
  const [first] = design.pieces;
  if (first !== undefined && madeIn(design).size === 0)
    findings.push(finding('nothing-appears', { piece: first.name }, top));
  return findings;
}
