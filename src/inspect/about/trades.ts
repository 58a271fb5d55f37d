import { countersIn, disjunctsOf, showExpression } from '../../design/language/expression-parts.js';
import {
  type AmountWrite,
  type Computed,
  type Design,
  type Effect,
  type Keep,
  type Piece,
  spans,
  type Transition,
} from '../../design/model.js';
import { atLevel, boundsOf, isMoreAt, rangeIn } from '../../explore/abstraction/ranges.js';
import { deedsOf, neededFor } from '../deeds.js';
import { type Finding, finding } from '../finding.js';
import { addedBy, hasMax, putsBack, setBy, takesAny, type Uses, usesOf, writesOf } from '../uses.js';

/** Findings about what rules take, and what they give for it. */
export const aboutTrades = (design: Design, uses: Uses): Finding[] => [
  ...paymentsForNothing(design),
  ...putBackOnLeaving(design, uses),
  ...failuresThatPay(design, uses),
  ...boughtHarder(design, uses),
  ...deliveredOnce(design),
  ...hardForNothing(design, uses),
];

/** Rules that take a payment and do no more than to raise counters, each of which may stand at its max then, or to set them to what they may be already. */
function paymentsForNothing(design: Design): Finding[] {
  return deedsOf(design).flatMap((deed) => {
    const { name, effects, condition, once, screens, place } = deed;
    const [pay] = effects;
    if (pay?.kind !== 'pay' || once !== undefined) return [];
    const rest = effects.slice(1).filter(({ kind }) => kind !== 'cue' && kind !== 'popup');
    const gains = rest.flatMap((effect) =>
      writesOf(effect).map((write) => fullAt(design, effect.kind, write)),
    );
    const asked = new Set(condition === undefined ? [] : countersIn(condition));
    const needs = neededFor(design, deed).map((each) => countersIn(each));
    const isAsked = (counter: string): boolean =>
      asked.has(counter) || (needs.length > 0 && needs.every((each) => each.includes(counter)));
    const isInVain =
      gains.length > 0 &&
      rest.every(
        (effect) => (effect.kind === 'add' || effect.kind === 'set') && effect.timers.length === 0,
      ) &&
      gains.every((gain) => gain !== undefined && !isAsked(gain.name)) &&
      // Where a counter at its max ends play at once, nobody pays then.
      !gains.some(
        (gain) =>
          gain?.most !== undefined &&
          screens.every((screen) => isLeftAt(design, screen, gain.name, gain.most!)),
      );
    if (!isInVain) return [];
    const own = gains.map((gain) => gain!.guard).join(' or ');
    const details = {
      rule: name,
      paid: pay.writes.map((write) => write.name).join(' and '),
      counters: gains.map((gain) => gain!.said).join(' and '),
      guard:
        condition === undefined
          ? own
          : [showExpression(condition), own]
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

/** Where a write does nothing any more: at the max of a counter to which it surely adds, or at the one value that it sets; undefined where that is not known. */
function fullAt(design: Design, kind: Effect['kind'], { name, amount }: AmountWrite) {
  const counter = design.counters.find((each) => each.name === name)!;
  if (kind === 'set')
    return amount.kind === 'number' || amount.kind === 'truth'
      ? {
          name,
          most: undefined,
          said: `${name} is ${showExpression(amount)} already`,
          guard: `${name} != ${showExpression(amount)}`,
        }
      : undefined;
  if (typeof counter.max !== 'number' || !hasMax(design, counter) || rangeIn(design, amount)[0] <= 0)
    return undefined;
  return {
    name,
    most: counter.max,
    said: `${name} is at its max of ${counter.max}`,
    guard: `${name} < ${counter.max}`,
  };
}

/** What rules write on screens that stand still, where every way out puts it back. */
function putBackOnLeaving(design: Design, { shownInPlay }: Uses): Finding[] {
  const told = new Set<string>();
  const written = deedsOf(design).flatMap((rule) =>
    // What is paid is gone either way.
    [...addedBy(rule.effects), ...setBy(rule.effects)].map(({ name }) => ({ name, rule })),
  );
  return written.flatMap(({ name, rule }) => {
    const counter = design.counters.find((each) => each.name === name)!;
    if (told.has(`${rule.name} ${name}`)) return [];
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

/** Checkpoints at which what is carried is paid for and put down: players reach each of them once. */
function deliveredOnce({ pieces, rules, levels }: Design): Finding[] {
  return pieces.flatMap(({ name, role, needs, outcomes, place }) => {
    const reached = `${name}.${outcomes[0]?.name}`;
    const comesAgain = levels.some(({ spawns }) => spawns.some(({ piece }) => piece === name));
    if (role !== 'checkpoint' || comesAgain) return [];
    const rule = rules.find(({ events, effects, condition }) => {
      const put = [
        ...setBy(effects).filter(({ amount }) => amount.kind === 'number'),
        ...(effects[0]?.kind === 'pay' ? effects[0].writes : []),
      ].map((each) => each.name);
      const had = addedBy(effects).filter((each) => !put.includes(each.name));
      const asked = [needs, condition, ...had.map(({ amount }) => amount)].flatMap((each) =>
        each === undefined ? [] : countersIn(each),
      );
      return events.includes(reached) && had.length > 0 && asked.some((each) => put.includes(each));
    });
    return rule === undefined
      ? []
      : [finding('delivered-once', { piece: name, rule: rule.name, reached }, place)];
  });
}

/** What is had for a price alone, and makes something harder to meet. */
function boughtHarder(design: Design, { score, lives }: Uses): Finding[] {
  return design.counters.flatMap((counter): Finding[] => {
    const { name } = counter;
    const giving = deedsOf(design).filter(({ effects }) =>
      addedBy(effects).some((write) => write.name === name && rangeIn(design, write.amount)[1] > 0),
    );
    const [first] = giving;
    if (first === undefined || !giving.every(({ effects }) => takesAny(design, effects, name))) return [];
    if (counter.kind !== 'number' || name === score || name === lives) return [];
    const { min, max } = boundsOf(design, counter);
    const harder = design.pieces.find(
      ({ difficulty }) =>
        typeof difficulty !== 'number' &&
        isMoreAt(
          design,
          atLevel(design, difficulty, 1),
          { kind: 'counter', name },
          Math.min(max, min + 1),
          min,
        ),
    );
    return harder === undefined
      ? []
      : [finding('bought-harder', { counter: name, piece: harder.name, rule: first.name }, harder.place)];
  });
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

/** By how much harder a piece must be, in logits, before it should be worth more. */
const muchHarder = 0.5;

/** Collectibles that are harder than another and worth no more. */
function hardForNothing(design: Design, { counted }: Uses): Finding[] {
  const sought = design.pieces.filter(({ role, meets }) => role === 'collectible' && meets === 'sought');
  const worth = new Map(sought.map((piece) => [piece, gainsOf(design, piece)]));
  return sought.flatMap((piece) => {
    const own = worth.get(piece);
    // What an exit waits for has to be taken, whatever it is worth.
    if (own === undefined || own.size === 0 || counted.has(piece.name)) return [];
    const easier = sought.find((other) => {
      const theirs = worth.get(other);
      if (
        theirs === undefined ||
        !isAtLeast(piece.difficulty, other.difficulty, muchHarder) ||
        !isAtLeast(piece.takes, other.takes)
      )
        return false;
      return [...own].every(([counter, gain]) => isNoMore(gain, theirs.get(counter)));
    });
    return easier === undefined
      ? []
      : [finding('hard-for-nothing', { piece: piece.name, easier: easier.name }, piece.place)];
  });
}

/** Whether one number is as large as another, and by so much more; of what is computed nothing is said. */
const isAtLeast = (one: Computed, other: Computed, more = 0): boolean =>
  typeof one === 'number' && typeof other === 'number' && one >= other + more;

interface Gain {
  readonly text: string;
  readonly range: readonly [number, number];
}

const isNoMore = (gain: Gain, than: Gain | undefined): boolean =>
  than !== undefined && (gain.text === than.text || gain.range[1] <= than.range[0]);

/** What taking a piece adds to each counter; undefined where it does anything else. */
function gainsOf(design: Design, { name }: Piece): Map<string, Gain> | undefined {
  const gains = new Map<string, Gain>();
  for (const { events, condition, effects } of [...design.rules, ...design.transitions]) {
    if (!events.includes(`${name}.taken`)) continue;
    if (condition !== undefined) return undefined;
    for (const effect of effects) {
      if (effect.kind === 'cue' || effect.kind === 'popup') continue;
      if (effect.kind !== 'add' || effect.timers.length > 0) return undefined;
      for (const { name: counter, amount } of writesOf(effect)) {
        if (gains.has(counter)) return undefined;
        gains.set(counter, { text: showExpression(amount), range: rangeIn(design, amount) });
      }
    }
  }
  return gains;
}
