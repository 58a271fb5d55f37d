import type { Expression } from '../../design/language/expression.js';
import {
  comparisonsIn,
  conjunctsOf,
  countersIn,
  showExpression,
} from '../../design/language/expression-parts.js';
import type { AmountWrite, Design, Rule } from '../../design/model.js';
import type { Step } from '../../engine/run/step.js';
import type { Session } from '../../engine/session/design-session.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import type { Witness } from '../../explore/evidence/witness.js';
import type { Exploration } from '../../explore/explore.js';
import { deedsOf, neededFor } from '../deeds.js';
import { type Finding, finding } from '../finding.js';
import { asItMoves, askedToHave, floorIn, isLoss, metFor } from '../played-for.js';
import { addedBy, isInput, setBy, takesAny, type Uses, writesOf } from '../uses.js';
import { seenByRepeating } from './repeated.js';

/** Findings about prices, each shown by a session: what is given for none, what is taken for nothing, and what is paid for twice. */
export const aboutPrices = (
  design: Design,
  uses: Uses,
  exploration: Exploration,
  isOver: () => boolean,
): Finding[] => [
  ...takenUnpaid(design, uses, exploration, isOver),
  ...takenForNothing(design, exploration, isOver),
  ...paidAgain(design, uses, exploration, isOver),
];

/** Rules that give something for what they take, and were seen to give it where less was there. */
function takenUnpaid(design: Design, uses: Uses, exploration: Exploration, isOver: () => boolean): Finding[] {
  return deedsOf(design).flatMap((rule) => {
    const gives = givenBy(design, rule);
    const taken = takenBy(design, rule, uses);
    const witness = witnessOf(rule, exploration);
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
  return design.pieces.flatMap((piece) => {
    const { name, meets, ends, needs, place } = piece;
    const met = metFor(piece);
    if (meets !== 'sought' || !ends.includes(met)) return [];
    const event = `${name}.${met}`;
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

/** A session in which a rule fires, or a transition that is like one is taken. */
const witnessOf = ({ place }: Rule, { parts, transitions }: Exploration): Witness | undefined =>
  [...parts.filter(({ kind }) => kind === 'rule'), ...transitions].find((each) => each.place === place)
    ?.witness;

/** Rules that pay for what a counter holds, or ask a price of it, and were seen to pay for the same once more. */
function paidAgain(design: Design, uses: Uses, exploration: Exploration, isOver: () => boolean): Finding[] {
  const moving = asItMoves(design, uses.writes);
  return deedsOf(design).flatMap((deed) => {
    const { name, events, condition, effects, place } = deed;
    const asked = [condition, ...neededFor(design, deed)].flatMap(askedToHave);
    const witness = witnessOf(deed, exploration);
    const gains = addedBy(effects).filter(({ amount }) => rangeIn(moving, amount)[0] >= 0);
    const isHeld =
      (to: string) =>
      (of: string): boolean =>
        of !== to && asked.includes(of);
    const forHeld = gains.find(({ name: to, amount }) => countersIn(amount).some(isHeld(to)));
    const price = forHeld === undefined ? askedOfPress(moving, deed) : undefined;
    const paid = forHeld ?? gains.find(({ name: to }) => price !== undefined && to !== price.of);
    const counter = price?.of ?? (paid && countersIn(paid.amount).find(isHeld(paid.name)));
    if (paid === undefined || counter === undefined || witness === undefined || events.length === 0)
      return [];
    // What the same event adds to, such as a streak, is no pile that is brought in.
    const isAddedTo = design.rules.some(
      (each) =>
        each.events.some((event) => events.includes(event)) &&
        addedBy(each.effects).some((write) => write.name === counter),
    );
    if (isAddedTo) return [];
    const heldIn = new WeakMap<Session, unknown>();
    const again = (step: Step, session: Session): true | undefined => {
      const isPaid = step.writes.some((write) => write.place === place && write.counter === paid.name);
      if (!isPaid) return undefined;
      const before = heldIn.get(session);
      const held = session.counters[counter];
      heldIn.set(session, held);
      const isLeft = step.transitions.some(({ from, to }) => from !== to);
      return before === held && Number(held) > 0 && !isLeft ? true : undefined;
    };
    const shown = seenByRepeating(design, witness, again, isOver);
    return shown === undefined
      ? []
      : [
          finding(
            'paid-again',
            { rule: name, counter, to: paid.name, asks: price?.asks },
            place,
            shown.steps,
          ),
        ];
  });
}

/** What a press, or a piece that stays, asks for of something that other rules add up, where it takes nothing at all for what it gives. */
function askedOfPress(
  design: Design,
  deed: Rule,
): { readonly of: string; readonly asks: string } | undefined {
  const { events, condition, effects } = deed;
  const written = effects.flatMap(writesOf).map(({ name }) => name);
  const stays = design.pieces.flatMap(({ name, outcomes, ends }) =>
    outcomes.filter((each) => !ends.includes(each.name)).map((each) => `${name}.${each.name}`),
  );
  if (!events.every((event) => isInput(event) || stays.includes(event)) || takesAny(design, effects))
    return undefined;
  for (const part of [condition, ...neededFor(design, deed)].flatMap(conjunctsOf)) {
    if (part.kind !== 'binary' || !['>=', '>', '=='].includes(part.operator)) continue;
    const { operator, left, right } = part;
    if (left.kind !== 'counter' || right.kind !== 'number' || written.includes(left.name)) continue;
    const isBroughtIn = design.rules.some(({ effects: others }) =>
      [...addedBy(others), ...setBy(others)].some(
        ({ name, amount }) => name === left.name && rangeIn(design, amount)[1] > 0,
      ),
    );
    if (isBroughtIn && right.value >= (operator === '>' ? 0 : 1))
      return { of: left.name, asks: showExpression(part) };
  }
  return undefined;
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
  const turned = setBy(effects).find(({ name }) =>
    design.counters.some((each) => each.name === name && each.kind !== 'number'),
  );
  if (turned !== undefined) return { name: turned.name };
  return effects.some(({ kind }) => kind === 'clear' || kind === 'grace') ? {} : undefined;
}

/** Counters of which a rule takes, without asking whether enough is there; what a run is lost for having too much of is no price. */
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
    const least = -rangeIn(design, amount)[1];
    return [condition, ...needs].some((asked) => reads(asked, name) && !asksForLess(asked, name, least))
      ? []
      : [name];
  });
}

/** Whether a condition asks that a counter is at least a number, and the number is less than what is taken. */
const asksForLess = (condition: Expression | undefined, name: string, taken: number): boolean =>
  comparisonsIn(condition, ['>=']).some(
    ({ left, right }) =>
      left.kind === 'counter' && left.name === name && right.kind === 'number' && right.value < taken,
  );

const reads = (condition: Expression | undefined, name: string): boolean =>
  condition !== undefined && countersIn(condition).includes(name);
