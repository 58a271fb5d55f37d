import { showTrigger } from '../design/language/trigger.js';
import type { Unit } from '../design/measures.js';
import type { Design } from '../design/model.js';
import { UsageError } from '../design/problems/problem.js';
import type { Verdict } from '../explore/evidence/verdict.js';
import type { Check } from '../inspect/check.js';
import { openFindings } from '../inspect/finding.js';
import type { World } from '../players/worlds/world.js';
import type { Simulation } from '../simulate/simulate.js';
import { changesOf } from './changes.js';
import { type Plan, type Played, playHere } from './plays.js';
import { confidenceOfEach } from './statistics/intervals.js';
import { type Paired, Pairing } from './statistics/paired.js';
import { quantitiesOf } from './statistics/quantities.js';
import { judgeTargets, type TargetVerdict } from './targets.js';
import type { WorseKind } from './worse-kinds.js';

export interface CompareOptions {
  /** Sessions of each player, with each of the two. */
  readonly sessions: number;
  readonly seed: number;
  readonly players?: readonly string[] | undefined;
  /** Where both are played; the meeting model unless it is given. */
  readonly world?: World | undefined;
  /** Called now and then; what it throws ends the comparison. */
  readonly progress?: (() => void) | undefined;
}

/** A quantity of one player in two designs. */
export interface Difference extends Paired {
  readonly player: string;
  readonly what: string;
  readonly unit: Unit;
  /** How well the sessions go together, -1 to 1: the nearer to 1, the more the pairing is worth. undefined: nothing varies. */
  readonly correlation: number | undefined;
}

export interface Comparison {
  readonly sessions: number;
  readonly seed: number;
  /** What changed in the design, in words. */
  readonly changes: readonly string[];
  readonly differences: readonly Difference[];
  readonly targets: readonly {
    readonly what: string;
    readonly of: string;
    /** undefined: only one of the two has it. */
    readonly before: TargetVerdict | undefined;
    readonly after: TargetVerdict | undefined;
  }[];
  readonly flow: readonly {
    readonly way: string;
    readonly before: Verdict | 'none';
    readonly after: Verdict | 'none';
  }[];
  readonly findings: { readonly gone: readonly string[]; readonly new: readonly string[] };
  /** Tests of the designs that do not end as before. */
  readonly tests: readonly {
    readonly name: string;
    readonly before: TestVerdict;
    readonly after: TestVerdict;
  }[];
  /** What got worse: a target that is met no longer, a test that fails, a transition that cannot be taken, a finding that is new. */
  readonly worse: readonly Worse[];
}

/** `none`: only the other of the two has it. */
export type TestVerdict = 'passes' | 'fails' | 'none';

export interface Worse {
  readonly kind: WorseKind;
  readonly what: string;
}

/**
 * Compares two designs, or two settings of one: what they say, what is played with the same seeds, what is proved, what is found. The
 * intervals of all differences hold at once in 95 of 100 comparisons (Bonferroni).
 *
 * @param checks the checks of the two
 * @throws UsageError where they have no player in common
 * @example
 * const richer = withDials(design, { petal: 20 });
 * const { differences, worse } = compare([design, richer], [check(design), check(richer)], { sessions: 1000, seed: 1 });
 * differences.filter(({ isReal }) => isReal); // what differs by more than chance
 */
export function compare(
  designs: readonly [Design, Design],
  checks: readonly [Check, Check],
  { world, progress, ...options }: CompareOptions,
): Comparison {
  return playHere(planOfComparison(designs, checks, options), { world, progress });
}

/** `compare`, whoever plays the sessions: both designs are asked for at once. */
export function* planOfComparison(
  [before, after]: readonly [Design, Design],
  checks: readonly [Check, Check],
  { sessions, seed, players }: Omit<CompareOptions, 'world' | 'progress'>,
): Plan<Comparison> {
  const common = before.players
    .map(({ name }) => name)
    .filter((name) => after.players.some((each) => each.name === name))
    .filter((name) => players?.includes(name) ?? true);
  if (common.length === 0)
    throw new UsageError(
      'nothing-there',
      'The two designs have no player in common that could play both; give them one of the same name.',
    );
  const options = { sessions, seed, players: common };
  const quantities = quantitiesOf(before).filter(({ name }) =>
    quantitiesOf(after).some((each) => each.name === name),
  );
  const own = quantities.map(({ name }) => quantitiesOf(after).find((each) => each.name === name)!);
  const [one, other] = (yield [
    { ...options, design: before, quantities },
    { ...options, design: after, quantities: own },
  ]) as [Played, Played];
  const confidence = confidenceOfEach(common.length * quantities.length);
  const differences = common.flatMap((player) => {
    const pairing = new Pairing(one.of.get(player)!, other.of.get(player)!, own);
    return quantities.flatMap(({ name, unit }, index): Difference[] => {
      const found = pairing.change(index, confidence);
      if (found === undefined) return [];
      return [{ player, what: name, unit, ...found, correlation: pairing.correlation(index) }];
    });
  });
  const found = {
    targets: targetsOf([one.simulation, other.simulation]),
    flow: flowOf(checks),
    findings: findingsOf(checks),
    tests: testsOf(checks),
  };
  return { sessions, seed, changes: changesOf(before, after), differences, ...found, worse: worseOf(found) };
}

function worseOf({
  targets,
  flow,
  findings,
  tests,
}: Pick<Comparison, 'targets' | 'flow' | 'findings' | 'tests'>): Worse[] {
  return [
    ...targets
      .filter(
        ({ before, after }) =>
          after !== undefined && after !== 'met' && before !== after && before !== 'missed',
      )
      .map(({ what, of, after }): Worse => ({ kind: 'targets', what: `${what} of ${of}: ${after}` })),
    ...tests
      .filter(({ after }) => after === 'fails')
      .map(({ name }): Worse => ({ kind: 'tests', what: `${name}: fails` })),
    ...flow
      .filter(({ before, after }) => after === 'unreachable' || (after !== 'none' && before === 'reached'))
      .map(({ way, after }): Worse => ({ kind: 'flow', what: `${way}: ${after}` })),
    ...findings.new.map((what): Worse => ({ kind: 'findings', what })),
  ];
}

/** Tests go by their names. */
function testsOf(checks: readonly [Check, Check]): Comparison['tests'] {
  const [one, other] = checks.map(
    ({ tests }) =>
      new Map(tests.map(({ name, passed }): [string, TestVerdict] => [name, passed ? 'passes' : 'fails'])),
  ) as [Map<string, TestVerdict>, Map<string, TestVerdict>];
  return [...new Set([...one.keys(), ...other.keys()])].flatMap((name) => {
    const [before, after] = [one.get(name) ?? 'none', other.get(name) ?? 'none'] as const;
    return before === after ? [] : [{ name, before, after }];
  });
}

function targetsOf(simulations: readonly [Simulation, Simulation]): Comparison['targets'] {
  const judged = simulations.map(
    (simulation) =>
      new Map(judgeTargets(simulation).map(({ what, of, verdict }) => [`${what}\n${of}`, verdict] as const)),
  ) as [Map<string, TargetVerdict>, Map<string, TargetVerdict>];
  return [...new Set(judged.flatMap((each) => [...each.keys()]))].map((key) => {
    const [what, of] = key.split('\n') as [string, string];
    return { what, of, before: judged[0].get(key), after: judged[1].get(key) };
  });
}

interface Way {
  readonly trigger: string;
  readonly verdict: Verdict;
}

/**
 * Transitions whose verdict is not the same in both. Of several between the same two screens, those that go by the same are compared,
 * and the others in the order of the files.
 */
function flowOf(checks: readonly [Check, Check]): Comparison['flow'] {
  const [one, other] = checks.map(waysOf) as [Map<string, Way[]>, Map<string, Way[]>];
  return [...new Set([...one.keys(), ...other.keys()])].flatMap((between) => {
    const [before, after] = [one.get(between) ?? [], other.get(between) ?? []];
    const isOneOfMany = Math.max(before.length, after.length) > 1;
    return pairsOf(before, after).flatMap(([was, is]) => {
      const [verdictBefore, verdictAfter] = [was?.verdict ?? 'none', is?.verdict ?? 'none'] as const;
      if (verdictBefore === verdictAfter) return [];
      const way = isOneOfMany ? `${between} ${(was ?? is)!.trigger}` : between;
      return [{ way, before: verdictBefore, after: verdictAfter }];
    });
  });
}

/** By the two screens. */
function waysOf({ design, exploration }: Check): Map<string, Way[]> {
  const ways = new Map<string, Way[]>();
  for (const [index, { from, to, verdict }] of exploration.transitions.entries()) {
    const between = `${from} -> ${to}`;
    const way = { trigger: showTrigger(design.transitions[index]!), verdict };
    ways.set(between, [...(ways.get(between) ?? []), way]);
  }
  return ways;
}

function pairsOf(before: readonly Way[], after: readonly Way[]): [Way | undefined, Way | undefined][] {
  const left = [...after];
  const takeSame = ({ trigger }: Way): Way | undefined => {
    const at = left.findIndex((each) => each.trigger === trigger);
    return at < 0 ? undefined : left.splice(at, 1)[0];
  };
  const same = before.map((was): [Way, Way | undefined] => [was, takeSame(was)]);
  const changed = same.map(([was, is]): [Way, Way | undefined] => [was, is ?? left.shift()]);
  return [...changed, ...left.map((is): [undefined, Way] => [undefined, is])];
}

function findingsOf(checks: readonly [Check, Check]): Comparison['findings'] {
  const [one, other] = checks.map(({ findings }) =>
    openFindings(findings).map(({ code, message }) => `${code}: ${message}`),
  ) as [string[], string[]];
  return {
    gone: one.filter((each) => !other.includes(each)),
    new: other.filter((each) => !one.includes(each)),
  };
}
