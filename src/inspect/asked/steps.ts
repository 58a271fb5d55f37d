import {
  countersIn,
  showExpression,
  visitExpression,
  withParts,
} from '../../design/language/expression-parts.js';
import type { Design, Rule } from '../../design/model.js';
import { rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import { setBy, writesOf, writtenRules } from '../uses.js';

/** A rule that sets a counter to a number once another counter is past one. */
interface SetStep {
  readonly rule: Rule;
  readonly set: string;
  readonly value: number;
  readonly of: string;
  readonly isUp: boolean;
  readonly at: number;
}

/**
 * Rules that set a counter in steps as another counts up or down, where one of the steps goes back: `turns > 18` gives 2 stars and
 * `turns > 12` gives 1. Of rules that hear an event, where a step that holds as well comes after the one that is further on.
 */
export function stepsOutOfOrder(design: Design): Finding[] {
  const steps = writtenRules(design).flatMap(stepsIn);
  return steps.flatMap((first, index) => {
    const alike = steps.filter((each) => isOfOne(each, first));
    // Each of a group is told with its first.
    if (alike.length < 2 || steps.findIndex((each) => isOfOne(each, first)) !== index) return [];
    const inOrder = alike.toSorted((one, other) => (first.isUp ? one.at - other.at : other.at - one.at));
    if (first.rule.events.length > 0) {
      const at = inOrder.findIndex(
        (step, nth) => nth > 0 && alike.indexOf(step) < alike.indexOf(inOrder[nth - 1]!),
      );
      return at < 0 ? [] : [toldOf(inOrder[at]!, inOrder[at - 1]!, true)];
    }
    const counter = design.counters.find(({ name }) => name === first.set)!;
    const [start] = rangeIn(design, counter.start);
    const values = [start, ...inOrder.map(({ value }) => value)];
    const ways = values.slice(1).map((value, nth) => Math.sign(value - values[nth]!));
    const back = -ways.find((way) => way !== 0)!;
    const at = ways.indexOf(back);
    return at < 0 ? [] : [toldOf(inOrder[at]!, inOrder[at - 1]!, false)];
  });
}

const toldOf = ({ rule, set, value, of, isUp }: SetStep, before: SetStep, isOverwritten: boolean): Finding =>
  finding(
    'steps-out-of-order',
    {
      rule: rule.name,
      other: before.rule.name,
      counter: set,
      value,
      before: before.value,
      of,
      isUp,
      isOverwritten,
    },
    rule.place,
  );

const isOfOne = (one: SetStep, other: SetStep): boolean =>
  one.set === other.set &&
  one.of === other.of &&
  one.isUp === other.isUp &&
  one.rule.events.join() === other.rule.events.join() &&
  one.rule.screens.join() === other.rule.screens.join();

function stepsIn(rule: Rule): SetStep[] {
  const { condition, effects } = rule;
  if (condition?.kind !== 'binary' || !['>', '>=', '<', '<='].includes(condition.operator)) return [];
  const { operator, left, right } = condition;
  if (left.kind !== 'counter' || right.kind !== 'number') return [];
  return setBy(effects).flatMap(({ name, amount }) =>
    amount.kind === 'number' && name !== left.name
      ? [
          {
            rule,
            set: name,
            value: amount.value,
            of: left.name,
            isUp: operator[0] === '>',
            at: right.value,
          },
        ]
      : [],
  );
}

/** Rules that wait for a condition on counters alone, which holds as they start, and write counters as it comes to hold. */
export function firesAtOnce(design: Design): Finding[] {
  return writtenRules(design).flatMap(({ name, events, passes, condition, effects, place }) => {
    if (events.length > 0 || passes !== undefined || condition === undefined) return [];
    let readsMore = countersIn(condition).length === 0;
    visitExpression(condition, ({ kind }) => {
      readsMore ||= !['counter', 'number', 'truth', 'binary', 'not', 'negative'].includes(kind);
    });
    if (readsMore || effects.flatMap(writesOf).length === 0) return [];
    const atStart = withParts(condition, (part) =>
      part.kind === 'counter' ? design.counters.find((each) => each.name === part.name)!.start : undefined,
    );
    return rangeIn(design, atStart)[0] === 1
      ? [finding('fires-at-once', { rule: name, condition: showExpression(condition) }, place)]
      : [];
  });
}
