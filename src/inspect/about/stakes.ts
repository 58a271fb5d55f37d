import { comparisonsIn, countersIn, showExpression } from '../../design/language/expression-parts.js';
import type { Counter, Design, Rule } from '../../design/model.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import {
  type CounterWrite,
  floorIn,
  harmTo,
  isLoss,
  likelyLives,
  likelyScore,
  takesAway,
} from '../played-for.js';
import { addedBy, putsBack, type Uses } from '../uses.js';

/** Findings about what a run is played for: the score, the best, lives, and goals of levels. */
export function aboutStakes(design: Design, uses: Uses): Finding[] {
  return [
    ...putBackInTheRun(design, uses),
    ...aboutLives(design, uses),
    ...triesLeftOver(design, uses),
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

/** Lives that nothing asks for, or that end the run before they are gone. */
function aboutLives(design: Design, { writes, read, lives: named }: Uses): Finding[] {
  const lives = design.counters.find(({ name }) => name === named) ?? shownInVain(design, writes, read);
  if (lives === undefined) return [];
  const { name, place } = lives;
  const isTaken = writes.some(
    (write) => write.counter === name && write.rule !== undefined && takesAway(design, write),
  );
  // Before there is any ending, a way to lose is the next thing to add, not one that was forgotten.
  const hasEnding = design.screens.some(({ ending }) => ending !== undefined);
  if (isTaken && !read.has(name) && hasEnding)
    return [finding('lives-without-end', { counter: name }, place)];
  return [...endsEarly(design, lives), ...livesAtOnce(design, lives, writes)];
}

/** Ways to lose that do not wait until a counter has come down to its min. */
function endsEarly(design: Design, counter: Counter): Finding[] {
  const { name } = counter;
  const { min } = boundsOf(design, counter);
  return design.transitions.flatMap((each) => {
    const floor = floorIn(each.condition, name);
    if (floor?.right.kind !== 'number' || !isLoss(design, each.to)) return [];
    const left = floor.operator === '<' ? floor.right.value - 1 : floor.right.value;
    return left > Math.max(min, 0)
      ? [finding('ends-early', { counter: name, left, to: each.to }, each.place)]
      : [];
  });
}

/** Counters of tries, which go down by one from the start on and are shown: ways to lose that leave some of them. */
function triesLeftOver(design: Design, { writes, lives, shownInPlay }: Uses): Finding[] {
  return design.counters
    .filter(({ name }) => {
      const own = writes.filter(({ counter }) => counter === name);
      const isByOne = own.every(
        ({ kind, amount }) => kind === 'add' && rangeIn(design, amount).every((end) => end === -1),
      );
      return name !== lives && own.length > 0 && isByOne && shownInPlay.has(name);
    })
    .flatMap((counter) => endsEarly(design, counter));
}

/** Hits of hazards that add to the lives, or to what else a run is lost for want of. */
function harmThatHelps(design: Design, { writes, lives }: Uses): Finding[] {
  const wanted = new Set([lives]);
  const feared = new Set<string>();
  for (const { to, condition } of design.transitions) {
    if (!isLoss(design, to)) continue;
    for (const { left, right } of comparisonsIn(condition, ['==', '<=', '<', '>=', '>'])) {
      const counter = design.counters.find(({ name }) => left.kind === 'counter' && left.name === name);
      if (counter === undefined || right.kind !== 'number') continue;
      const [least, most] = rangeIn(design, counter.start);
      if (right.value < least) wanted.add(counter.name);
      if (right.value > most) feared.add(counter.name);
    }
  }
  return writes.flatMap(({ counter, kind, amount, rule }) => {
    const event = rule?.events.find((each) => isHitByHazard(design, each));
    if (event === undefined || kind !== 'add') return [];
    const [least, most] = rangeIn(design, amount);
    const gives = wanted.has(counter) && !feared.has(counter) && least > 0;
    const relieves = feared.has(counter) && !wanted.has(counter) && most < 0;
    return gives || relieves ? [finding('harm-that-helps', { counter, event, gives }, rule!.place)] : [];
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
  const atStart = asItStarts(design);
  return design.rules.flatMap((rule) => {
    const { effects, place } = rule;
    const writes = addedBy(effects);
    for (const { name, amount } of writes) {
      if (amount.kind !== 'binary' || amount.operator !== '*') continue;
      const factor = [amount.left, amount.right].find((side) => {
        const read = countersIn(side);
        return (
          !read.includes(name) &&
          rangeIn(atStart, side).every((end) => end === 0) &&
          writes.some((each) => read.includes(each.name)) &&
          (side.kind === 'counter' || !isPaidOtherwise(design, rule, name))
        );
      });
      if (factor !== undefined)
        return [
          finding(
            'first-pays-nothing',
            { counter: name, factor: showExpression(factor), isCounter: factor.kind === 'counter' },
            place,
          ),
        ];
    }
    return [];
  });
}

/** A design whose counters stand still at what they start with. */
const asItStarts = (design: Design): Design => ({
  ...design,
  counters: design.counters.map((counter) => {
    const [min, max] = rangeIn(design, counter.start);
    return counter.kind === 'number' ? { ...counter, min, max } : counter;
  }),
});

/** Whether another rule adds to a counter on one of the events of a rule. */
const isPaidOtherwise = ({ rules }: Design, rule: Rule, counter: string): boolean =>
  rules.some(
    (other) =>
      other !== rule &&
      other.events.some((event) => rule.events.includes(event)) &&
      addedBy(other.effects).some(({ name }) => name === counter),
  );
