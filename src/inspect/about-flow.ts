import { type Design, spans } from '../design/model.js';
import { type Exploration, shortestPace } from '../explore/explore.js';
import { type Finding, finding } from './finding.js';
import { writesOf } from './uses.js';

/** Findings about screens, transitions and levels, read off what was explored. */
export function aboutFlow(design: Design, exploration: Exploration): Finding[] {
  const { transitions, faults } = exploration;
  const findings: Finding[] = [];
  const pace = shortestPace(design);
  const entered = new Set(
    exploration.parts.flatMap(({ kind, name, inAnyOrder }) =>
      kind === 'screen' && inAnyOrder !== 'unreachable' ? [name] : [],
    ),
  );
  for (const each of transitions) {
    const { from, to, place } = each;
    // A transition from a screen that is never entered is no finding of its own: the screen is.
    if (each.assumes === 'players') findings.push(finding('out-of-time', { from, to, pace }, place));
    else if (each.verdict === 'unreachable' && entered.has(from)) {
      const first = each.preemptedBy === undefined ? undefined : design.transitions[each.preemptedBy]!;
      findings.push(
        first === undefined
          ? finding('transition-unreachable', { from, to, reason: each.reason! }, place)
          : finding(
              'transition-shadowed',
              { from, to, first: `${first.from} -> ${first.to}`, line: first.place.line },
              place,
            ),
      );
    }
    if (each.verdict === 'undecided' && entered.has(from)) {
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
  findings.push(...levelsNotFresh(design));
  findings.push(...aboutLevels(exploration), ...aboutEndings(design, exploration));
  for (const { screen, values, witness } of exploration.traps) {
    const { place, live } = design.screens.find(({ name }) => name === screen)!;
    // A dead end is told as one.
    if (!live && !transitions.some(({ from }) => from === screen)) continue;
    const missed = /^(?:\d+ x )?(\w+\.(?:missed|gone))$/.exec(witness.steps.at(-1) ?? '')?.[1];
    findings.push(
      missed === undefined
        ? finding('trap', { screen, values, isLive: live }, place, witness.steps)
        : finding('missed-for-good', { screen, event: missed }, place, witness.steps),
    );
  }
  for (const { screen, values, witness } of exploration.lostEndings) {
    // Where no way leads there at all, that is told above.
    if (!leadsToFreshStart(design, exploration, screen)) continue;
    const { place } = design.screens.find(({ name }) => name === screen)!;
    findings.push(finding('way-back-lost', { ending: screen, values }, place, witness.steps));
  }
  for (const { screen, to, place, witness } of exploration.atOnce)
    findings.push(finding('over-at-once', { screen, to }, place, witness.steps));
  // What a transition that cannot be taken keeps from firing is not told again.
  const isFlowSound = transitions.every(({ inAnyOrder }) => inAnyOrder === 'reached');
  for (const { kind, name, verdict, reason, shadowedBy, place } of exploration.parts) {
    if (kind !== 'rule' || verdict !== 'unreachable' || !isFlowSound) continue;
    const first = shadowedBy === undefined ? undefined : design.rules[shadowedBy]!;
    if (first !== undefined)
      findings.push(
        finding('rule-shadowed', { rule: name, first: first.name, line: first.place.line }, place),
      );
    else findings.push(finding('rule-unreachable', { rule: name, reason: reason! }, place));
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
    for (const [at, { from, to, inAnyOrder }] of transitions.entries()) {
      if (from !== screen || inAnyOrder === 'unreachable') continue;
      if (isFresh(at)) return true;
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
  const names = [...kept, ...timers].map(({ name }) => name);
  return design.transitions.flatMap(({ from, to, level, fresh, place }) => {
    const isFresh = fresh !== undefined && spans.indexOf(fresh) >= spans.indexOf('level');
    if (level === undefined || isFresh || names.length === 0) return [];
    return [finding('level-not-fresh', { from, to, kept: names }, place)];
  });
}

function aboutLevels({ parts, transitions }: Exploration): Finding[] {
  const isFlowSound = transitions.every(({ inAnyOrder }) => inAnyOrder === 'reached');
  if (!isFlowSound || transitions.length === 0) return [];
  return parts.flatMap(({ kind, name, verdict, place }) =>
    kind === 'level' && verdict === 'unreachable'
      ? [finding('level-unreachable', { level: name }, place)]
      : [],
  );
}

function aboutEndings(design: Design, { transitions }: Exploration): Finding[] {
  const untold = design.screens.flatMap(({ name, ending, text, place }) =>
    ending !== undefined && text.length === 0 ? [finding('ending-untold', { ending: name }, place)] : [],
  );
  if (design.screens.every(({ ending }) => ending === undefined)) return untold;
  const losing = new Set(
    design.screens.filter(({ ending }) => ending === 'lost' || ending === 'over').map(({ name }) => name),
  );
  // Back along the ways in, until no screen is new; what comes after another ending is another run.
  const endings = new Set(design.screens.flatMap(({ name, ending }) => (ending === undefined ? [] : [name])));
  for (const screen of losing) {
    for (const { from, to, inAnyOrder } of transitions) {
      if (to === screen && inAnyOrder !== 'unreachable' && !endings.has(from)) losing.add(from);
    }
  }
  const safe = design.screens.filter(({ name, live }) => live && !losing.has(name));
  return [...untold, ...safe.map(({ name, place }) => finding('no-loss', { screen: name }, place))];
}
