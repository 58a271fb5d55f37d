import type { Expression } from '../design/language/expression.js';
import { conjunctsOf, showExpression } from '../design/language/expression-parts.js';
import { type Design, spans } from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import { mergingOf } from '../engine/session/merging.js';
import { rangeIn } from '../explore/abstraction/ranges.js';
import { type Finding, finding } from './finding.js';
import { asItMoves, type CounterWrite, mayMove } from './played-for.js';
import { setBy, type Uses, writesOf } from './uses.js';

/** Findings about counters that keep the best of something. */
export const aboutBests = (design: Design, uses: Uses): Finding[] => [
  ...bestsOverwritten(design, uses),
  ...bestsThatAddUp(design, uses),
  ...bestsOfOneRun(design, uses),
  ...bestsStuck(design, uses),
  ...bestsBothWays(design, uses),
];

/** Counters kept over runs that are set to the score as it is, and those that are called the best of anything and are set to it as it is. */
function bestsOverwritten(design: Design, { score }: Uses): Finding[] {
  const { rules, transitions, counters } = design;
  const told = new Set<Place>();
  return [...rules, ...transitions].flatMap(({ condition, effects, place }) => {
    const set = setBy(effects).find(({ name, amount }) => {
      if (amount.kind !== 'counter') return false;
      const { keep } = counters.find((each) => each.name === name)!;
      const isOfScore = amount.name === score && spans.indexOf(keep) > spans.indexOf('run');
      return (
        (isOfScore || /^(best|longest|highest|most)/i.test(name)) &&
        mergingOf(design, name) === 'last' &&
        !asksForMore(condition, amount.name, name)
      );
    });
    // A name that says so holds the last score on purpose.
    if (set?.amount.kind !== 'counter' || /last|previous/i.test(set.name) || told.has(place)) return [];
    told.add(place);
    return [finding('best-overwritten', { counter: set.name, score: set.amount.name }, place)];
  });
}

/** Counters that are called the best, and are given the score of every run on top; or any number on top that is more than they are. */
function bestsThatAddUp({ counters }: Design, { writes, score }: Uses): Finding[] {
  return counters.flatMap(({ name, keep, place }) => {
    const more = writes.find(
      ({ counter, kind, amount, rule }) =>
        counter === name &&
        kind === 'add' &&
        amount.kind === 'counter' &&
        asksForMore(rule?.condition, amount.name, name),
    );
    if (more?.amount.kind === 'counter')
      return [finding('best-adds-up', { counter: name, score: more.amount.name, rule: more.by }, more.place)];
    const isLasting = spans.indexOf(keep) > spans.indexOf('run');
    const addsScore = writes.some(
      ({ counter, kind, amount }) =>
        counter === name && kind === 'add' && amount.kind === 'counter' && amount.name === score,
    );
    return isLasting && addsScore && /best|record|highest|high_?score/i.test(name)
      ? [finding('best-adds-up', { counter: name, score: score!, rule: undefined }, place)]
      : [];
  });
}

/** A best score that begins again with each run, of a score that never falls: it is the score once more. */
function bestsOfOneRun(design: Design, { writes, score }: Uses): Finding[] {
  const { counters, transitions } = design;
  const falls = score !== undefined && mayMove(design, writes, score, false);
  const ended = design.screens.flatMap(({ name, ending }) =>
    ending === undefined ? [] : [`${name}.entered`],
  );
  const isOfEndings = (events: readonly string[] = []): boolean =>
    events.length > 0 && events.every((event) => ended.includes(event));
  if (transitions.every(({ fresh }) => fresh !== 'run')) return [];
  return counters.flatMap(({ name, keep, place }) => {
    if (name === score || spans.indexOf(keep) > spans.indexOf('run')) return [];
    const own = writes.filter(({ counter }) => counter === name);
    const isAtEndings =
      own.every(({ rule }) => rule === undefined || isOfEndings(rule.events)) &&
      transitions.every(
        ({ to, effects }) =>
          ended.includes(`${to}.entered`) || !effects.flatMap(writesOf).some((write) => write.name === name),
      );
    const [compared] = own.map(({ amount }) => betterOf(amount, name));
    if (
      isAtEndings &&
      compared !== undefined &&
      own.every(({ amount }) => betterOf(amount, name) === compared)
    )
      return [finding('best-of-one-run', { counter: name, score: compared, keep }, place)];
    const takesScore = writes.some(
      ({ counter, amount, rule }) =>
        counter === name &&
        // Of a score that may fall, what a run once came to is more than what it ends with.
        (!falls || isOfEndings(rule?.events)) &&
        (amount.kind === 'call' ? amount.of : [amount]).some(
          (part) => part.kind === 'counter' && part.name === score,
        ),
    );
    return score !== undefined && takesScore && mergingOf(design, name) === 'highest'
      ? [finding('best-of-one-run', { counter: name, score, keep }, place)]
      : [];
  });
}

/** Of which counter an amount is the better, by `min` or `max`, it or one that it is compared with. */
export function betterOf(amount: Expression, name: string): string | undefined {
  const names =
    amount.kind === 'call' ? amount.of.map((part) => (part.kind === 'counter' ? part.name : '')) : [];
  return names.length === 2 && names.includes(name) ? names.find((each) => each !== name) : undefined;
}

/** Counters that only ever take what is lower, or higher, and start where nothing that they take can be that. */
function bestsStuck(design: Design, { writes }: Uses): Finding[] {
  const moving = asItMoves(design, writes);
  return design.counters.flatMap(({ name, start, place }) => {
    const merging = mergingOf(design, name);
    if (merging !== 'lowest' && merging !== 'highest') return [];
    const isItself = (part: Expression): boolean => part.kind === 'counter' && part.name === name;
    const taken = writes
      .filter(({ counter }) => counter === name)
      .flatMap(({ amount }) => (amount.kind === 'call' && amount.of.some(isItself) ? amount.of : [amount]))
      .filter((part) => !isItself(part));
    const [least, most] = rangeIn(design, start);
    const isNever = (part: Expression): boolean => {
      const [lowest, highest] = rangeIn(moving, part);
      return merging === 'lowest' ? lowest >= most : highest <= least;
    };
    const details = { counter: name, value: most, other: showExpression(taken[0] ?? start), merging };
    return taken.length > 0 && taken.every(isNever) ? [finding('best-stuck', details, place)] : [];
  });
}

/** Counters that take the higher of two in one place, and the lower in another. */
function bestsBothWays(design: Design, { writes }: Uses): Finding[] {
  return design.counters.flatMap(({ name }) => {
    const taking = (of: 'min' | 'max'): CounterWrite | undefined =>
      writes.find(
        ({ counter, kind, amount }) =>
          counter === name &&
          kind === 'set' &&
          amount.kind === 'call' &&
          amount.name === of &&
          betterOf(amount, name) !== undefined,
      );
    const [lower, higher] = [taking('min'), taking('max')];
    if (lower === undefined || higher === undefined) return [];
    if (betterOf(lower.amount, name) !== betterOf(higher.amount, name)) return [];
    const [first, second] = [lower, higher].sort((one, other) => one.place.line - other.place.line);
    return [
      finding(
        'best-both-ways',
        {
          counter: name,
          first: showExpression(first!.amount),
          second: showExpression(second!.amount),
          line: first!.place.line,
        },
        second!.place,
      ),
    ];
  });
}

/** Whether a condition asks, among other things, that one counter is more than another. */
const asksForMore = (condition: Expression | undefined, more: string, less: string): boolean =>
  conjunctsOf(condition).some((part) => {
    if (part.kind !== 'binary') return false;
    const { operator, left, right } = part;
    const [high, low] = operator.startsWith('>')
      ? [left, right]
      : operator.startsWith('<')
        ? [right, left]
        : [];
    return high?.kind === 'counter' && high.name === more && low?.kind === 'counter' && low.name === less;
  });
