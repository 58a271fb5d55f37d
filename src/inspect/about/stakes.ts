import type { Expression } from '../../design/language/expression.js';
import { comparisonsIn, conjunctsOf, showExpression } from '../../design/language/expression-parts.js';
import { type Counter, type Design, spans } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import { mergingOf } from '../../engine/session/merging.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import {
  type CounterWrite,
  floorIn,
  harmTo,
  isLoss,
  likelyLives,
  likelyScore,
  mayMove,
  takesAway,
} from '../played-for.js';
import { addedBy, isZero, putsBack, setBy, type Uses, writesOf } from '../uses.js';

/** Findings about what a run is played for: the score, the best, lives, and goals of levels. */
export function aboutStakes(design: Design, uses: Uses): Finding[] {
  return [
    ...putBackInTheRun(design, uses),
    ...bestsOverwritten(design, uses),
    ...bestsThatAddUp(design, uses),
    ...bestsOfOneRun(design, uses),
    ...bestsStuckLow(design, uses),
    ...aboutLives(design, uses),
    ...harmThatHelps(design, uses),
    ...stakesUnnamed(design, uses),
    ...firstsForNothing(design),
  ];
}

/** The score and the lives that a fresh start in the middle of a run puts back. */
function putBackInTheRun(design: Design, { writes, score, lives }: Uses): Finding[] {
  const watched = [
    { name: score, spans: ['life', 'level'] },
    { name: lives, spans: ['life'] },
  ];
  return watched.flatMap(({ name, spans: short }) => {
    const counter = design.counters.find((each) => each.name === name);
    if (counter === undefined || !short.includes(counter.keep)) return [];
    const isPlayedFor = writes.some((write) => write.counter === name && write.rule !== undefined);
    const back = design.transitions.find((each) => putsBack(each, counter.keep) && !putsBack(each, 'run'));
    if (!isPlayedFor || back === undefined) return [];
    const details = {
      counter: counter.name,
      keep: counter.keep,
      from: back.from,
      to: back.to,
      fresh: back.fresh!,
    };
    return [finding('put-back-in-the-run', details, counter.place)];
  });
}

/** Counters that look like the score and the lives, where none is called so. */
function stakesUnnamed(design: Design, { writes }: Uses): Finding[] {
  const lives = design.lives === undefined ? likelyLives(design, writes) : undefined;
  const score = design.score === undefined ? likelyScore(design, writes) : undefined;
  return [
    ...(lives === undefined
      ? []
      : [finding('stake-unnamed', { counter: lives.counter.name, by: lives.by }, lives.counter.place)]),
    ...(score === undefined ? [] : [finding('score-unnamed', { counter: score.name }, score.place)]),
  ];
}

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

/** A counter that only ever takes what is lower, and starts as low as what it takes can be. */
function bestsStuckLow(design: Design, { writes }: Uses): Finding[] {
  return design.counters.flatMap(({ name, start, place }) => {
    if (mergingOf(design, name) !== 'lowest') return [];
    const isItself = (part: Expression): boolean => part.kind === 'counter' && part.name === name;
    const taken = writes
      .filter(({ counter }) => counter === name)
      .flatMap(({ amount }) => (amount.kind === 'call' && amount.of.some(isItself) ? amount.of : [amount]))
      .filter((part) => !isItself(part));
    const [, first] = rangeIn(design, start);
    return taken.length > 0 && taken.every((part) => lowestOf(design, writes, part) >= first)
      ? [finding('best-stuck-low', { counter: name, value: first, other: showExpression(taken[0]!) }, place)]
      : [];
  });
}

/** The lowest that an expression can be; a counter that nothing takes from is never less than it starts at. */
function lowestOf(design: Design, writes: readonly CounterWrite[], of: Expression): number {
  const counter = of.kind === 'counter' ? design.counters.find(({ name }) => name === of.name) : undefined;
  return counter === undefined || mayMove(design, writes, counter.name, false)
    ? rangeIn(design, of)[0]
    : rangeIn(design, counter.start)[0];
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

/** Lives that nothing asks for, or that end the run before they are gone. */
function aboutLives(design: Design, { writes, read, lives: named }: Uses): Finding[] {
  const lives = design.counters.find(({ name }) => name === named) ?? shownInVain(design, writes, read);
  if (lives === undefined) return [];
  const { name, place } = lives;
  const { min } = boundsOf(design, lives);
  const isTaken = writes.some(
    (write) => write.counter === name && write.rule !== undefined && takesAway(design, write),
  );
  // Before there is any ending, a way to lose is the next thing to add, not one that was forgotten.
  const hasEnding = design.screens.some(({ ending }) => ending !== undefined);
  if (isTaken && !read.has(name) && hasEnding)
    return [finding('lives-without-end', { counter: name }, place)];
  const early = design.transitions.flatMap((each) => {
    const floor = floorIn(each.condition, name);
    if (floor?.right.kind !== 'number' || !isLoss(design, each.to)) return [];
    const left = floor.operator === '<' ? floor.right.value - 1 : floor.right.value;
    return left > Math.max(min, 0)
      ? [finding('ends-early', { counter: name, left, to: each.to }, each.place)]
      : [];
  });
  return [...early, ...livesAtOnce(design, lives, writes)];
}

/** Hits of hazards that add to the lives, or to what else a run is lost for want of. */
function harmThatHelps(design: Design, { writes, lives }: Uses): Finding[] {
  const wanted = new Set([lives]);
  for (const { to, condition } of design.transitions) {
    if (!isLoss(design, to)) continue;
    for (const { left, right } of comparisonsIn(condition, ['==', '<=', '<'])) {
      const counter = design.counters.find(({ name }) => left.kind === 'counter' && left.name === name);
      const isLow = counter !== undefined && right.kind === 'number';
      if (isLow && right.value < rangeIn(design, counter.start)[0]) wanted.add(counter.name);
    }
  }
  return writes.flatMap(({ counter, kind, amount, rule }) => {
    const event = rule?.events.find((each) => isHitByHazard(design, each));
    const gives = wanted.has(counter) && kind === 'add' && rangeIn(design, amount)[0] > 0;
    return gives && event !== undefined ? [finding('harm-that-helps', { counter, event }, rule!.place)] : [];
  });
}

/** A counter that looks like lives although nothing asks for it: hits or misses alone take from it, and icons show it. */
const shownInVain = (
  design: Design,
  writes: readonly CounterWrite[],
  read: ReadonlySet<string>,
): Counter | undefined =>
  design.counters.find(
    (counter) =>
      !read.has(counter.name) &&
      harmTo(design, counter, writes).length > 0 &&
      design.hud.some(({ show, as }) => show === counter.name && as === 'icons'),
  );

/** Lives of which every loss takes as many as there can be. */
function livesAtOnce(design: Design, lives: Counter, writes: readonly CounterWrite[]): Finding[] {
  const own = writes.filter(({ counter, rule }) => counter === lives.name && rule !== undefined);
  const losses = own.filter((write) => takesAway(design, write));
  const { min, max } = boundsOf(design, lives);
  const most = own.length === losses.length ? rangeIn(design, lives.start)[1] : max;
  const [first] = losses;
  const isAll = losses.every(({ amount }) => rangeIn(design, amount)[1] <= min - most);
  return first !== undefined && isAll && most - min > 1
    ? [finding('lives-at-once', { counter: lives.name, lives: most - min, rule: first.by }, first.place)]
    : [];
}

const isHitByHazard = ({ pieces }: Design, event: string): boolean =>
  pieces.some(({ name, role }) => role === 'hazard' && event === `${name}.hit`);

/** Factors that start at 0 and are raised only after they have counted, so that the first time pays nothing. */
function firstsForNothing(design: Design): Finding[] {
  return design.rules.flatMap(({ effects, place }) => {
    const writes = addedBy(effects);
    for (const { name, amount } of writes) {
      if (amount.kind !== 'binary' || amount.operator !== '*') continue;
      const factor = [amount.left, amount.right].find(
        (side) =>
          side.kind === 'counter' &&
          side.name !== name &&
          isZero(design.counters.find((counter) => counter.name === side.name)!.start) &&
          writes.some((each) => each.name === side.name),
      );
      if (factor?.kind === 'counter')
        return [finding('first-pays-nothing', { counter: name, factor: factor.name }, place)];
    }
    return [];
  });
}
