import type { Expression } from '../../design/language/expression.js';
import { countersIn, disjunctsOf, showExpression } from '../../design/language/expression-parts.js';
import {
  type AmountWrite,
  type Design,
  type Keep,
  type Rule,
  spans,
  type Transition,
} from '../../design/model.js';
import type { Step } from '../../engine/run/step.js';
import type { Session } from '../../engine/session/design-session.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { floorIn, isLoss } from '../played-for.js';
import { seenByRepeating } from '../repeated.js';
import { addedBy, hasMax, isInput, putsBack, type Uses, usesOf } from '../uses.js';

/** Findings about what rules take, and what they give for it. */
export function aboutTrades(
  design: Design,
  uses: Uses,
  exploration: Exploration,
  isOver: () => boolean,
): Finding[] {
  return [
    ...paymentsForNothing(design),
    ...takenUnpaid(design, uses, exploration, isOver),
    ...takenForNothing(design, exploration, isOver),
    ...putBackOnLeaving(design, uses),
    ...failuresThatPay(design, uses),
  ];
}

/** Rules that take a payment and do no more than to raise counters, each of which may stand at its max then. */
function paymentsForNothing(design: Design): Finding[] {
  return design.rules.flatMap(({ name, effects, condition, once, screens, place }) => {
    const [pay] = effects;
    if (pay?.kind !== 'pay' || once !== undefined) return [];
    const rest = effects.slice(1).filter(({ kind }) => kind !== 'cue' && kind !== 'popup');
    const gains = addedBy(rest);
    const asked = new Set(condition === undefined ? [] : countersIn(condition));
    const most = gains.map((gain) => mostOf(design, gain));
    const isInVain =
      gains.length > 0 &&
      rest.every((effect) => effect.kind === 'add' && effect.timers.length === 0) &&
      gains.every((gain, at) => most[at] !== undefined && !asked.has(gain.name)) &&
      // Where a counter at its max ends play at once, nobody pays then.
      !gains.some((gain, at) => screens.every((screen) => isLeftAt(design, screen, gain.name, most[at]!)));
    if (!isInVain) return [];
    const own = gains.map((gain, at) => `${gain.name} < ${most[at]}`);
    const details = {
      rule: name,
      paid: pay.writes.map((write) => write.name).join(' and '),
      counters: gains.map((gain, at) => `${gain.name} is at its max of ${most[at]}`).join(' and '),
      guard:
        condition === undefined
          ? own.join(' or ')
          : [showExpression(condition), own.join(' or ')]
              .map((part) => (part.includes(' or ') ? `(${part})` : part))
              .join(' and '),
    };
    return [finding('pays-for-nothing', details, place)];
  });
}

/** Whether a screen is left as soon as a counter is at its max. */
const isLeftAt = ({ transitions }: Design, screen: string, counter: string, max: number): boolean =>
  transitions.some(
    ({ from, events, wait, condition }) =>
      from === screen &&
      events.length === 0 &&
      wait === 0 &&
      disjunctsOf(condition).some(
        (part) =>
          part.kind === 'binary' &&
          (part.operator === '==' || part.operator === '>=') &&
          part.left.kind === 'counter' &&
          part.left.name === counter &&
          part.right.kind === 'number' &&
          part.right.value <= max,
      ),
  );

/** The max of a counter to which something is surely added; undefined where it has none that is known. */
function mostOf(design: Design, { name, amount }: AmountWrite): number | undefined {
  const counter = design.counters.find((each) => each.name === name);
  if (typeof counter?.max !== 'number' || !hasMax(design, counter)) return undefined;
  return rangeIn(design, amount)[0] > 0 ? counter.max : undefined;
}

/** Rules that give something for what they take, and were seen to give it where less was there. */
function takenUnpaid(design: Design, uses: Uses, { parts }: Exploration, isOver: () => boolean): Finding[] {
  return design.rules.flatMap((rule) => {
    const gives = givenBy(design, rule);
    const taken = takenBy(design, rule, uses);
    const witness = parts.find(({ kind, place }) => kind === 'rule' && place === rule.place)?.witness;
    if (gives === undefined || taken.length === 0 || witness === undefined) return [];
    const short = ({ writes }: Step) =>
      writes.find(
        ({ place, counter, wanted, after }) =>
          place === rule.place && taken.includes(counter) && Number(wanted) < Number(after),
      );
    const shown = seenByRepeating(design, witness, short, isOver);
    if (shown === undefined) return [];
    const { counter, before, wanted } = shown.seen;
    const details = {
      rule: rule.name,
      counter,
      amount: Number(before) - Number(wanted),
      left: Number(before),
      gives: gives.name,
    };
    return [finding('unpaid', details, rule.place, shown.steps)];
  });
}

/** Pieces that are gone once they are met, although the rule for it has nothing to be paid with, and were seen to be. */
function takenForNothing(design: Design, { parts }: Exploration, isOver: () => boolean): Finding[] {
  return design.pieces.flatMap(({ name, meets, success, ends, needs, place }) => {
    if (meets !== 'sought' || success === undefined || !ends.includes(success)) return [];
    const event = `${name}.${success}`;
    const rule = design.rules.find((each) => each.events.includes(event) && asksForPriceAlone(each));
    const [price] = rule?.effects ?? [];
    const witness = parts.find((part) => part.kind === 'outcome' && part.name === event)?.witness;
    if (rule === undefined || price?.kind !== 'pay' || witness === undefined) return [];
    if (price.writes.some((write) => reads(needs, write.name))) return [];
    const purses = (step: Step, session: Session) => {
      if (step.name !== event || !rule.screens.includes(session.screen)) return undefined;
      const comes = [step.rules, step.writes, step.transitions, step.pieces, step.cues, step.popups].flat();
      return comes.length === 0 ? session.counters : undefined;
    };
    const shown = seenByRepeating(design, witness, purses, isOver);
    if (shown === undefined) return [];
    const guard = price.writes.map((write) => showExpression(affording(write))).join(' and ');
    const details = {
      piece: name,
      event,
      rule: rule.name,
      purse: price.writes.map((write) => `${write.name} is ${shown.seen[write.name]}`).join(' and '),
      needs: needs === undefined ? guard : `(${showExpression(needs)}) and ${guard}`,
    };
    return [finding('taken-for-nothing', details, place, shown.steps)];
  });
}

/** Whether a rule fires wherever it can be paid. */
const asksForPriceAlone = ({ effects, condition, rest, chance, once }: Rule): boolean =>
  effects[0]?.kind === 'pay' && condition === undefined && rest === 0 && chance === 1 && once === undefined;

/** Whether a counter holds what is to be paid of it. */
const affording = ({ name, amount }: AmountWrite): Expression => ({
  kind: 'binary',
  operator: '>=',
  left: { kind: 'counter', name },
  right: amount,
});

/** What a rule gives for a deed: a counter, a piece, or what has no name; undefined where it gives nothing, or hears what is no deed, such as a hit. */
function givenBy(design: Design, { events, effects }: Rule): { readonly name?: string } | undefined {
  const successes = design.pieces.flatMap(({ name, role, outcomes }) =>
    role === 'hazard' || role === 'foe' ? [] : [`${name}.${outcomes[0]!.name}`],
  );
  const isDeed = (event: string): boolean =>
    isInput(event) || successes.includes(event) || design.timers.some((timer) => timer.event === event);
  if (events.length === 0 || !events.every(isDeed) || effects[0]?.kind === 'pay') return undefined;
  for (const effect of effects) {
    if (effect.kind === 'spawn') return { name: effect.pieces[0]!.piece };
    const gain = addedBy([effect]).find(({ amount }) => rangeIn(design, amount)[0] > 0);
    if (gain !== undefined) return { name: gain.name };
  }
  if (!events.every(isInput)) return undefined;
  const turned = effects
    .flatMap((effect) => (effect.kind === 'set' ? effect.writes : []))
    .find(({ name }) => design.counters.some((each) => each.name === name && each.kind !== 'number'));
  if (turned !== undefined) return { name: turned.name };
  return effects.some(({ kind }) => kind === 'clear' || kind === 'grace') ? {} : undefined;
}

/** Counters of which a rule takes, without asking how much is there; what a run is lost for having too much of is no price. */
function takenBy(design: Design, { events, condition, effects }: Rule, { score, lives }: Uses): string[] {
  const isBurden = (name: string): boolean =>
    design.transitions.some(
      ({ to, condition: asked }) =>
        isLoss(design, to) && reads(asked, name) && floorIn(asked, name) === undefined,
    );
  const needs = design.pieces.flatMap(({ name, needs: asked }) =>
    events.some((event) => event.startsWith(`${name}.`)) ? [asked] : [],
  );
  return addedBy(effects).flatMap(({ name, amount }) => {
    // Points are lost for many a deed; what is bought by a press has its price.
    const isPenalty = name === score && !events.every(isInput);
    if (name === lives || isPenalty || rangeIn(design, amount)[1] >= 0) return [];
    const counter = design.counters.find((each) => each.name === name)!;
    if (boundsOf(design, counter).min !== 0 || isBurden(name)) return [];
    return [condition, ...needs].some((asked) => reads(asked, name)) ? [] : [name];
  });
}

const reads = (condition: Expression | undefined, name: string): boolean =>
  condition !== undefined && countersIn(condition).includes(name);

/** What rules write on screens that stand still, where every way out puts it back. */
function putBackOnLeaving(design: Design, { writes, shownInPlay }: Uses): Finding[] {
  const told = new Set<string>();
  return writes.flatMap(({ counter: name, kind, rule }) => {
    const counter = design.counters.find((each) => each.name === name)!;
    // What is paid is gone either way.
    if (rule === undefined || kind === 'pay' || told.has(`${rule.name} ${name}`)) return [];
    const isStill = rule.screens.every((screen) =>
      design.screens.some((each) => each.name === screen && !each.live && each.ending === undefined),
    );
    if (!isStill || rule.events.length === 0) return [];
    const { menus, resets, isSafe } = waysOut(design, rule.screens, counter.keep);
    if (isSafe || resets.length === 0) return [];
    const { read } = usesOf({
      ...design,
      rules: design.rules.filter((each) => !each.screens.every((screen) => menus.has(screen))),
      transitions: design.transitions.filter(({ from }) => !menus.has(from)),
    });
    if (!read.has(name) && !shownInPlay.has(name)) return [];
    told.add(`${rule.name} ${name}`);
    const longest = Math.max(...resets.map(({ fresh }) => spans.indexOf(fresh!)));
    const span = spans[longest]!;
    const longer = spans[longest + 1] ?? 'forever';
    const details = { rule: rule.name, counter: name, screen: rule.screens.join(', '), span, longer };
    return [finding('put-back-on-leaving', details, rule.place)];
  });
}

/** Where screens lead by way of others that stand still, and whether it can be anywhere else without what puts back a span. */
function waysOut(design: Design, screens: readonly string[], keep: Keep) {
  const menus = new Set(screens);
  const resets: Transition[] = [];
  let isSafe = false;
  for (const screen of menus) {
    const out = design.transitions.filter(({ from }) => from === screen);
    for (const way of out) {
      const next = design.screens.find(({ name }) => name === way.to);
      if (putsBack(way, keep)) resets.push(way);
      else if (next === undefined || next.live || next.ending !== undefined) isSafe = true;
      else menus.add(way.to);
    }
    if (out.length === 0) isSafe = true;
  }
  return { menus, resets, isSafe };
}

/** Rules that hear only that something to be had was missed, and raise the score, a factor of it or the lives. */
function failuresThatPay(design: Design, { writes, heard, score, lives }: Uses): Finding[] {
  // Where nothing hears the success, that is what is told.
  const failures = design.pieces.flatMap(({ name, role, outcomes }) =>
    ['collectible', 'checkpoint', 'exit'].includes(role) &&
    outcomes.length > 1 &&
    heard.has(`${name}.${outcomes[0]!.name}`)
      ? [`${name}.${outcomes.at(-1)!.name}`]
      : [],
  );
  const factors = writes
    .filter(({ counter, kind }) => counter === score && kind === 'add')
    .flatMap(({ amount }) => countersIn(amount));
  return design.rules.flatMap(({ events, effects, place }) => {
    if (events.length === 0 || !events.every((event) => failures.includes(event))) return [];
    const gains = addedBy(effects);
    const isAll = effects.every(({ kind }) => ['add', 'cue', 'popup'].includes(kind));
    const raised = gains.find(({ name }) => [score, lives, ...factors].includes(name));
    const isRaised = gains.every(({ amount }) => rangeIn(design, amount)[0] > 0);
    return isAll && isRaised && raised !== undefined
      ? [finding('failure-pays', { event: events[0]!, counter: raised.name }, place)]
      : [];
  });
}
