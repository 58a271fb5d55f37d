import { countersIn, readsAny, showExpression } from '../../design/language/expression-parts.js';
import { isForLastLevel } from '../../design/language/trigger.js';
import { type Design, spans, type Transition } from '../../design/model.js';
import { shortestPace } from '../../explore/evidence/first-sessions.js';
import { coveredBy } from '../../explore/evidence/reason.js';
import { faultFirst } from '../../explore/evidence/verdict.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { endsAnyway } from '../shown/ends-anyway.js';
import { shortageFor } from '../supply.js';
import { inLevels, isInput, isLive, lastEvent, putsBack, type Uses, writesOf } from '../uses.js';

/** Findings about screens, transitions and levels, read off what was explored. */
export function aboutFlow(
  design: Design,
  uses: Uses,
  exploration: Exploration,
  isOver: () => boolean,
): Finding[] {
  const { transitions, faults } = exploration;
  const findings: Finding[] = [];
  const pace = shortestPace(design);
  const entered = new Set(
    exploration.parts.flatMap(({ kind, name, inAnyOrder }) =>
      kind === 'screen' && inAnyOrder !== 'unreachable' ? [name] : [],
    ),
  );
  for (const [at, each] of transitions.entries()) {
    const { from, to, place } = each;
    // A transition from a screen that is never entered is no finding of its own: the screen is.
    if (each.assumes === 'players') findings.push(finding('out-of-time', { from, to, pace }, place));
    else if (each.verdict === 'unreachable' && entered.has(from)) {
      const first = each.preemptedBy === undefined ? undefined : design.transitions[each.preemptedBy]!;
      findings.push(
        first === undefined
          ? finding(
              'transition-unreachable',
              {
                from,
                to,
                reason: each.reason!,
                shortage: shortageFor(design, uses, design.transitions[at]!),
              },
              place,
            )
          : finding(
              'transition-shadowed',
              {
                from,
                to,
                first: `${first.from} -> ${first.to}`,
                line: first.place.line,
                isOneOfSeveral: coveredBy(design, at) === undefined,
              },
              place,
            ),
      );
    }
    // What only follows from another such transition is not told again.
    const isFirst =
      from === design.screens[0]!.name ||
      transitions.some(
        (other) => other.to === from && other.verdict === 'reached' && other.brings.length === 0,
      );
    if (each.brings.length > 0 && isFirst)
      findings.push(finding('needs-the-game', { from, to, pieces: each.brings }, place, each.witness?.steps));
    // A fault is a finding of its own.
    if (each.verdict === 'undecided' && entered.has(from) && !each.reason!.startsWith(faultFirst)) {
      findings.push(finding('transition-undecided', { from, to, reason: each.reason! }, place));
    }
  }
  for (const { name, place, ending, live } of design.screens) {
    const leadingIn = transitions.filter((each) => each.to === name);
    if (!entered.has(name)) {
      const causes = leadingIn.map((each) => `${each.from} -> ${each.to}`);
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
  findings.push(...levelsNotFresh(design), ...pressesThatSkip(design));
  findings.push(...takenAgain(design, uses, exploration));
  findings.push(...aboutLevels(design, exploration));
  for (const { screen, values, witness } of exploration.traps) {
    const { place, live } = design.screens.find(({ name }) => name === screen)!;
    // A dead end is told as one.
    if (!live && !transitions.some(({ from }) => from === screen)) continue;
    const last = lastEvent(witness);
    findings.push(
      last !== undefined && /\.(?:missed|gone)$/.test(last)
        ? finding('missed-for-good', { screen, event: last }, place, witness.steps)
        : finding('trap', { screen, values, isLive: live }, place, witness.steps),
    );
  }
  for (const { screen, values, witness } of exploration.lostEndings) {
    // Where no way leads there at all, that is told above.
    if (!leadsToFreshStart(design, exploration, screen)) continue;
    const { place } = design.screens.find(({ name }) => name === screen)!;
    findings.push(finding('way-back-lost', { ending: screen, values }, place, witness.steps));
  }
  for (const { screen, witness } of exploration.lostWins) {
    const last = lastEvent(witness);
    // Where nothing can be reached any more at all, that is told above.
    if (last === undefined || exploration.traps.some((trap) => trap.screen === screen)) continue;
    if (endsAnyway(design, witness, isOver)) continue;
    const { place } = design.screens.find(({ name }) => name === screen)!;
    findings.push(finding('win-lost-for-good', { screen, event: last }, place, witness.steps));
  }
  const overAtOnce = new Set<string>();
  for (const { screen, to, place, witness } of exploration.atOnce) {
    if (overAtOnce.has(`${screen} ${to}`)) continue;
    overAtOnce.add(`${screen} ${to}`);
    const condition = showExpression(design.transitions.find((each) => each.place === place)!.condition!);
    findings.push(finding('over-at-once', { screen, to, condition }, place, witness.steps));
  }
  for (const { kind, name, verdict, reason, shadowedBy, place } of exploration.parts) {
    // What a transition that cannot be taken keeps from firing is not told again.
    if (kind !== 'rule' || verdict !== 'unreachable' || !isFlowSound(exploration)) continue;
    const first = shadowedBy === undefined ? undefined : design.rules[shadowedBy]!;
    if (first !== undefined)
      findings.push(
        finding('rule-shadowed', { rule: name, first: first.name, line: first.place.line }, place),
      );
    else findings.push(finding('rule-unreachable', { rule: name, reason: reason! }, place));
  }
  for (const { problem, witness } of faults) {
    const { code, message } = problem;
    const remedy = (code === 'no-next-level' && lastLevelTooLate(design, problem.place)) || problem.remedy;
    const details = { problem: code, message, remedy };
    findings.push(finding('fault', details, problem.place, witness?.steps));
  }
  return findings;
}

/** How to put before a transition to the next level the one that stands after it and is for the last. */
function lastLevelTooLate({ transitions }: Design, place: Transition['place']): string | undefined {
  const at = transitions.findIndex((each) => each.place === place);
  const later = transitions.find(
    (each, index) => index > at && each.from === transitions[at]?.from && isForLastLevel(each),
  );
  return (
    later &&
    `Move ${later.from} -> ${later.to} (line ${later.place.line}) before it: of those that apply, the first is taken.`
  );
}

/** Whether a fresh start of a run may be reached from a screen, over transitions that are reached or undecided. */
function leadsToFreshStart(design: Design, { transitions }: Exploration, ending: string): boolean {
  const seen = new Set([ending]);
  for (const screen of seen) {
    for (const [at, { from, to, inAnyOrder }] of transitions.entries()) {
      if (from !== screen || inAnyOrder === 'unreachable') continue;
      if (putsBack(design.transitions[at]!, 'run')) return true;
      if (to !== 'back') seen.add(to);
      // Back leads to wherever the screen can be entered from.
      else
        for (const each of transitions)
          if (each.to === screen && each.inAnyOrder !== 'unreachable') seen.add(each.from);
    }
  }
  return false;
}

/** Ways to another level that leave what is kept for a level as it is. */
function levelsNotFresh(design: Design): Finding[] {
  const writers = [...design.rules, ...design.transitions];
  const kept = design.counters.filter(
    ({ name, keep }) =>
      spans.indexOf(keep) <= spans.indexOf('level') &&
      writers.some(({ effects }) =>
        effects.some((effect) => writesOf(effect).some((write) => write.name === name)),
      ),
  );
  const timers = design.timers.filter(({ keep }) => spans.indexOf(keep) <= spans.indexOf('level'));
  const pieces = inLevels(design).length > 0 ? ['the pieces'] : [];
  const names = [...[...kept, ...timers].map(({ name }) => name), ...pieces];
  return design.transitions.flatMap((transition) => {
    const { from, to, level, fresh, place } = transition;
    if (level === 'next' && fresh === 'run')
      return [finding('next-level-of-a-fresh-run', { from, to }, place)];
    if (level === undefined || putsBack(transition, 'level') || names.length === 0) return [];
    return [finding('level-not-fresh', { from, to, kept: names }, place)];
  });
}

/** Whether every transition can be taken. */
export const isFlowSound = ({ transitions }: Exploration): boolean =>
  transitions.every(({ inAnyOrder }) => inAnyOrder === 'reached');

function aboutLevels(design: Design, exploration: Exploration): Finding[] {
  if (!isFlowSound(exploration) || exploration.transitions.length === 0) return [];
  const last = design.levels.at(-1);
  if (last?.endless && !design.transitions.some(({ level }) => level === 'next'))
    return [finding('endless-in-vain', { level: last.name }, last.place)];
  return exploration.parts.flatMap(({ kind, name, verdict, place }) =>
    kind === 'level' && verdict === 'unreachable'
      ? [finding('level-unreachable', { level: name }, place)]
      : [],
  );
}

/** Inputs that lead to a screen with something to read, and on from there into play at once. */
function pressesThatSkip(design: Design): Finding[] {
  const { screens, rules, transitions } = design;
  return transitions.flatMap(({ from, to, events, wait, place }) => {
    const screen = screens.find(({ name }) => name === from)!;
    const input = events.find(isInput);
    if (input === undefined || wait !== 0 || !isLive(design, to) || screen.live || screen.text.length === 0)
      return [];
    const pressed = transitions.find(
      (each) => each.to === from && each.from !== to && each.events.includes(input),
    );
    // What is pressed all the time in play is pressed as the run ends, too.
    const played = screens.find(
      ({ name, live }) =>
        live &&
        screen.ending !== undefined &&
        transitions.some((each) => each.from === name && each.to === from) &&
        rules.some((rule) => rule.events.includes(input) && rule.screens.includes(name)),
    );
    const before = pressed?.from ?? played?.name;
    return before === undefined ? [] : [finding('press-skips', { screen: from, input, before }, place)];
  });
}

/** Transitions by a condition alone back to their own screen that leave all it reads as it is. */
function takenAgain(design: Design, { writes }: Uses, { transitions, faults }: Exploration): Finding[] {
  // A chain without end is told as one.
  if (faults.some(({ problem }) => problem.code === 'endless-chain')) return [];
  return design.transitions.flatMap((transition, at) => {
    const { from, to, events, wait, level, condition, effects, place } = transition;
    const isBack = from === to && events.length === 0 && wait === 0 && level === undefined;
    if (!isBack || condition === undefined || transitions[at]!.verdict !== 'reached') return [];
    const counters = [...new Set(countersIn(condition))];
    const readsMore = readsAny(condition, ['present', 'left', 'timer', 'course']);
    const isChanged = counters.some((name) => {
      const { keep } = design.counters.find((counter) => counter.name === name)!;
      return (
        putsBack(transition, keep) ||
        effects.some((effect) => writesOf(effect).some((write) => write.name === name)) ||
        writes.some(({ counter, rule }) => counter === name && rule?.events.length === 0)
      );
    });
    return readsMore || isChanged || counters.length === 0
      ? []
      : [finding('taken-again', { screen: from, counters, condition: showExpression(condition) }, place)];
  });
}
