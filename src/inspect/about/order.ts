import type { Expression } from '../../design/language/expression.js';
import {
  comparisonsIn,
  conjunctsOf,
  countersIn,
  showExpression,
  visitExpression,
  withParts,
} from '../../design/language/expression-parts.js';
import { type Design, type Effect, type Rule, spans } from '../../design/model.js';
import { rangeIn } from '../../explore/abstraction/ranges.js';
import { betterOf } from '../bests.js';
import { type Finding, finding } from '../finding.js';
import { addedBy, hearAlike, setBy, type Uses, writesOf } from '../uses.js';

/** Findings about effects that undo or repeat each other, or that read too late. */
export const aboutOrder = (design: Design, uses: Uses): Finding[] => [
  ...bestBeforeBonus(design, uses),
  ...addedTwice(design),
  ...undoneAtOnce(design),
  ...turnedBack(design),
  ...sameEachTime(design),
  ...setTwice(design),
  ...setAndPutBack(design),
  ...readAfterSet(design),
];

/** Rules that note a best score, or the best of another counter, before a rule adds to it on the same event. */
function bestBeforeBonus({ rules }: Design, { score }: Uses): Finding[] {
  const notedIn = (effect: Effect) => {
    for (const { name, amount } of setBy([effect])) {
      const isOfScore = score !== undefined && name !== score && countersIn(amount).includes(score);
      const of = isOfScore ? score : betterOf(amount, name);
      if (of !== undefined) return { name, of };
    }
    return undefined;
  };
  return rules.flatMap((first, index) => {
    const notes = first.effects.map(notedIn);
    const at = notes.findIndex((note) => note !== undefined);
    const noted = notes[at];
    if (noted === undefined) return [];
    const raises = (effects: Rule['effects']): boolean =>
      addedBy(effects).some(({ name }) => name === noted.of);
    const later = raises(first.effects.slice(at + 1))
      ? first
      : rules
          .slice(index + 1)
          .find(
            ({ events, screens, effects }) =>
              events.some((event) => first.events.includes(event)) &&
              screens.some((screen) => first.screens.includes(screen)) &&
              raises(effects),
          );
    if (later === undefined) return [];
    const details = { counter: noted.name, score: noted.of, first: first.name, second: later.name };
    const event = later.events.find((each) => first.events.includes(each));
    return [finding('best-before-bonus', { ...details, event }, first.place)];
  });
}

/** Whether a rule fires whenever it hears something. */
const isPlain = ({ events, condition, chance, once, rest, passes, effects }: Rule): boolean =>
  events.length > 0 &&
  condition === undefined &&
  chance === 1 &&
  once === undefined &&
  rest === 0 &&
  passes === undefined &&
  effects[0]?.kind !== 'pay';

/** Whether all that a rule hears, if anything, another hears as well. */
const isWithin = (one: Rule, other: Rule): boolean =>
  one.events.length > 0 &&
  one.events.every((event) => other.events.includes(event)) &&
  one.screens.every((screen) => other.screens.includes(screen));

/** Rules that add to a counter which the next rule, on the same event, sets to one number whatever it holds. */
function undoneAtOnce(design: Design): Finding[] {
  const { rules } = design;
  return rules.flatMap((second, index) => {
    if (!isPlain(second)) return [];
    for (const { name, amount } of setBy(second.effects)) {
      const first = rules
        .slice(0, index)
        .find(
          (rule) =>
            isWithin(rule, second) &&
            addedBy(rule.effects).some((each) => each.name === name && rangeIn(design, each.amount)[1] > 0),
        );
      if (first === undefined || amount.kind !== 'number') continue;
      const details = { counter: name, value: amount.value, event: first.events[0]!, line: first.place.line };
      return [
        finding('undone-at-once', { ...details, first: first.name, second: second.name }, second.place),
      ];
    }
    return [];
  });
}

/** Two rules on one event of which the first sets a counter to what the second asks for, and the second sets it to what the first asks for. */
function turnedBack(design: Design): Finding[] {
  const turns = design.rules.flatMap((rule) =>
    setBy(rule.effects).flatMap(({ name: counter, amount }) => {
      const asked = askedToBe(rule.condition, counter);
      return asked === undefined ? [] : [{ rule, counter, asked, to: showExpression(amount) }];
    }),
  );
  return turns.flatMap(({ rule: first, counter, asked, to }, index) => {
    const second = turns
      .slice(index + 1)
      .find(
        (turn) =>
          turn.counter === counter &&
          turn.asked === to &&
          turn.to === asked &&
          hearAlike(first, turn.rule) &&
          mayHoldAfter(design, first.effects, turn.rule.condition) &&
          first.events.length > 0,
      )?.rule;
    if (second === undefined) return [];
    const details = {
      counter,
      to,
      back: asked,
      event: first.events[0]!,
      first: first.name,
      second: second.name,
      line: first.place.line,
    };
    return [finding('turned-back', details, second.place)];
  });
}

/** Whether a condition may hold where effects have just set what they set. */
function mayHoldAfter(
  design: Design,
  effects: readonly Effect[],
  condition: Expression | undefined,
): boolean {
  const set = new Map(setBy(effects).map(({ name, amount }) => [name, amount]));
  return conjunctsOf(condition).every((part) => {
    const now = withParts(part, (each) => (each.kind === 'counter' ? set.get(each.name) : undefined));
    return rangeIn(design, now)[1] > 0;
  });
}

/** What a condition asks a counter to be. */
function askedToBe(condition: Expression | undefined, counter: string): string | undefined {
  for (const { left, right } of comparisonsIn(condition, ['==']))
    if (left.kind === 'counter' && left.name === counter) return showExpression(right);
  return undefined;
}

/** Numbers that are added to a counter which the same event has set to a number just before, whatever it held. */
function sameEachTime({ rules }: Design): Finding[] {
  return rules.flatMap((adder, index) => {
    const { name, events, effects, place } = adder;
    if (events.length === 0) return [];
    const before = rules.slice(0, index).filter((rule) => isPlain(rule) && isWithin(adder, rule));
    for (const [at, effect] of effects.entries()) {
      for (const { name: counter, amount } of addedBy([effect])) {
        if (amount.kind !== 'number') continue;
        for (const { name: setter, effects: earlier } of [
          { name, effects: effects.slice(0, at) },
          ...before,
        ]) {
          const value = numberSetBy(earlier, counter);
          if (value === undefined) continue;
          const details = { counter, event: events[0]!, setter, adder: name, value: value + amount.value };
          return [finding('same-each-time', details, place)];
        }
      }
    }
    return [];
  });
}

/** The number that effects set a counter to, the first of them; undefined where none does. */
function numberSetBy(effects: readonly Effect[], counter: string): number | undefined {
  for (const { name, amount } of setBy(effects))
    if (name === counter && amount.kind === 'number') return amount.value;
  return undefined;
}

/** Two rules that hear the same and nothing else, and both add to a counter whenever they do. */
function addedTwice(design: Design): Finding[] {
  const plain = design.rules.filter(isPlain);
  return plain.flatMap((second, at) => {
    for (const first of plain.slice(0, at)) {
      const isAlike =
        hearAlike(first, second) && first.screens.some((screen) => second.screens.includes(screen));
      const both = addedBy(second.effects).find(({ name }) =>
        addedBy(first.effects).some((each) => each.name === name),
      );
      if (!isAlike || both === undefined) continue;
      const details = {
        counter: both.name,
        event: second.events[0]!,
        first: first.name,
        line: first.place.line,
      };
      return [finding('added-twice', { ...details, second: second.name }, second.place)];
    }
    return [];
  });
}

/** Two rules without conditions that set one counter on one event and one screen. */
function setTwice(design: Design): Finding[] {
  const findings: Finding[] = [];
  const plain = design.rules.filter(
    ({ condition, chance, rest, once }) =>
      condition === undefined && chance === 1 && rest === 0 && once === undefined,
  );
  plain.forEach((second, index) => {
    for (const first of plain.slice(0, index)) {
      const event = second.events.find((each) => first.events.includes(each));
      if (event === undefined || !second.screens.some((screen) => first.screens.includes(screen))) continue;
      for (const { name: counter } of setBy(second.effects)) {
        if (!setBy(first.effects).some(({ name }) => name === counter)) continue;
        findings.push(
          finding('set-twice', { counter, event, first: first.name, second: second.name }, second.place),
        );
      }
    }
  });
  return findings;
}

function setAndPutBack(design: Design): Finding[] {
  return design.transitions.flatMap(({ fresh, effects, place }) => {
    if (fresh === undefined) return [];
    const lost = effects.flatMap((effect) =>
      writesOf(effect).filter(({ name }) => {
        const { keep } = design.counters.find((counter) => counter.name === name)!;
        return spans.indexOf(keep) <= spans.indexOf(fresh);
      }),
    );
    return lost.map(({ name }) => finding('set-and-put-back', { counter: name, span: fresh }, place));
  });
}

/** Amounts that read a counter which an earlier effect of the same list has set to a constant, or a timer that it has started. */
function readAfterSet(design: Design): Finding[] {
  return [...design.rules, ...design.transitions].flatMap(({ effects, place }) => {
    const known = new Map<string, string>();
    for (const effect of effects) {
      for (const { name, amount } of writesOf(effect)) {
        const stale = [...known].find(([what]) => what !== name && readsNamed(amount, what));
        if (stale === undefined) continue;
        const [what, value] = stale;
        return [finding('read-after-set', { what, value, isTimer: what.startsWith(timerPrefix) }, place)];
      }
      for (const { name, amount } of writesOf(effect)) {
        if (effect.kind === 'set' && ['number', 'truth'].includes(amount.kind))
          known.set(name, showExpression(amount));
        else known.delete(name);
      }
      for (const timer of 'timers' in effect ? effect.timers : []) {
        if (typeof timer === 'string' && effect.kind === 'start')
          known.set(timerPrefix + timer, 'all of its time');
        else known.delete(timerPrefix + (typeof timer === 'string' ? timer : timer.name));
      }
    }
    return [];
  });
}

const timerPrefix = 'timer.';

/** Whether an expression reads a counter, or a timer by `timer.NAME`. */
function readsNamed(expression: Expression, what: string): boolean {
  let reads = false;
  visitExpression(expression, (part) => {
    reads ||= (part.kind === 'counter' || part.kind === 'timer') && showExpression(part) === what;
  });
  return reads;
}
