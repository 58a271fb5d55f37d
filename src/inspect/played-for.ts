import type { Expression } from '../design/language/expression.js';
import { comparisonsIn, countersIn, disjunctsOf } from '../design/language/expression-parts.js';
import {
  type Counter,
  type Design,
  type Piece,
  type Rule,
  type Screen,
  spans,
  type Template,
} from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import { rangeIn } from '../explore/abstraction/ranges.js';

/** One write of a counter: by a rule or a transition, and how. */
export interface CounterWrite {
  readonly counter: string;
  readonly kind: 'add' | 'set' | 'pay';
  readonly amount: Expression;
  /** The rule that does it; undefined: a transition. */
  readonly rule: Rule | undefined;
  /** The rule or the transition, as findings call it. */
  readonly by: string;
  readonly place: Place;
}

/** A counter that looks like the lives, and whether hits take from it, misses, or both. */
export interface Stake {
  readonly counter: Counter;
  readonly by: readonly ('hits' | 'misses')[];
}

/** The first counter that nothing but hits or misses take from, and a lost ending waits for. */
export function likelyLives(design: Design, writes: readonly CounterWrite[]): Stake | undefined {
  for (const counter of design.counters) {
    const by = isLostFor(design, counter.name) ? harmTo(design, counter, writes) : [];
    if (by.length > 0) return { counter, by };
  }
  return undefined;
}

/** Whether a run is lost where a counter has come down to a number. */
export const isLostFor = (design: Design, counter: string): boolean => {
  const { start } = design.counters.find(({ name }) => name === counter)!;
  return design.transitions.some(({ to, condition }) => {
    const floor = floorIn(condition, counter)?.right;
    return isLoss(design, to) && floor?.kind === 'number' && floor.value < rangeIn(design, start)[1];
  });
};

/** What takes from a counter, where hits and misses alone do. */
export function harmTo(
  design: Design,
  { name, kind }: Counter,
  writes: readonly CounterWrite[],
): ('hits' | 'misses')[] {
  const losses = writes.filter(
    (write) => write.counter === name && write.rule !== undefined && takesAway(design, write),
  );
  const isBy = (outcome: string): boolean[] =>
    losses.map(({ rule }) => rule!.events.some((event) => event.endsWith(outcome)));
  const [hits, misses] = [isBy('.hit'), isBy('.missed')];
  const successes = design.pieces
    .map((piece) => `${piece.name}.${metFor(piece)}`)
    .filter((event) => !/\.(?:hit|missed)$/.test(event));
  const isSpent = losses.some(({ rule }) => rule!.events.some((event) => successes.includes(event)));
  // What goes down by itself, or with every try, is a supply, not lives.
  if (kind !== 'number' || isSpent || losses.some((_, at) => !hits[at] && !misses[at])) return [];
  return [
    ...(hits.includes(true) ? (['hits'] as const) : []),
    ...(misses.includes(true) ? (['misses'] as const) : []),
  ];
}

/**
 * The one counter of a run that meeting pieces raises, and of which a counter or a list keeps the best; or without any of these, the one
 * that an ending tells.
 */
export function likelyScore(design: Design, writes: readonly CounterWrite[]): Counter | undefined {
  const outcomes = outcomeEvents(design);
  const points = design.counters.filter(
    ({ name, kind, keep }) =>
      kind === 'number' &&
      keep === 'run' &&
      writes.some(
        (write) =>
          write.counter === name &&
          write.kind === 'add' &&
          write.rule?.events.some((event) => outcomes.has(event)) &&
          rangeIn(design, write.amount)[1] > 0,
      ),
  );
  const lasting = new Set(
    design.counters.flatMap(({ name, keep }) => (spans.indexOf(keep) > spans.indexOf('run') ? [name] : [])),
  );
  const kept = new Set([
    ...design.lists.map(({ of }) => of),
    ...writes.flatMap(({ counter, kind, amount }) =>
      lasting.has(counter) && kind === 'set' ? countersIn(amount) : [],
    ),
  ]);
  const told = new Set(
    design.screens.flatMap(({ ending, text }) => (ending === undefined ? [] : countersOf(text))),
  );
  const best = points.filter(({ name }) => kept.has(name));
  // What a transition or a piece waits for is a goal, whatever an ending tells of it.
  const goals = new Set(
    [
      ...design.transitions.map(({ condition }) => condition),
      ...design.pieces.map(({ needs }) => needs),
    ].flatMap((condition) => (condition === undefined ? [] : countersIn(condition))),
  );
  const [likely, ...others] =
    best.length > 0 ? best : points.filter(({ name }) => told.has(name) && !goals.has(name));
  return others.length === 0 ? likely : undefined;
}

const countersOf = (text: Template): string[] =>
  text.flatMap((part) => (typeof part === 'string' || part.kind === 'levelName' ? [] : countersIn(part)));

/** The events by which a piece is met. */
export const outcomesOf = ({ name, outcomes }: Piece): string[] =>
  outcomes.map((outcome) => `${name}.${outcome.name}`);

/** The outcome that a piece is met for: of outcomes of its own that nobody calls a success, the first. */
export const metFor = ({ success, outcomes }: Piece): string => success ?? outcomes[0]!.name;

/** Counters of which a condition asks that there is some. */
export const askedToHave = (condition: Expression | undefined): string[] =>
  comparisonsIn(condition, ['>', '>=', '!=']).flatMap(({ operator, left, right }) =>
    left.kind === 'counter' && right.kind === 'number' && right.value === (operator === '>=' ? 1 : 0)
      ? [left.name]
      : [],
  );

/** The events by which pieces are met. */
export const outcomeEvents = ({ pieces }: Design): ReadonlySet<string> => new Set(pieces.flatMap(outcomesOf));

/** How a run ends on a screen; undefined: it does not. */
export const endingOf = ({ screens }: Design, screen: string): Screen['ending'] =>
  screens.find(({ name }) => name === screen)?.ending;

/** Whether a screen is an ending that is not won. */
export const isLoss = (design: Design, screen: string): boolean =>
  ['lost', 'over'].includes(endingOf(design, screen)!);

/** Whether a write always takes from its counter. */
export const takesAway = (design: Design, { kind, amount }: CounterWrite): boolean =>
  kind === 'add' && rangeIn(design, amount)[1] < 0;

/** Whether some write may move a counter up, or down; what sets it, or pays with it, may. */
export const mayMove = (
  design: Design,
  writes: readonly CounterWrite[],
  name: string,
  isUp: boolean,
): boolean =>
  writes.some(({ counter, kind, amount }) => {
    if (counter !== name) return false;
    const [least, most] = rangeIn(design, amount);
    return kind !== 'add' || (isUp ? most > 0 : least < 0);
  });

/** Several findings ask about the same design. */
const moving = new WeakMap<Design, Design>();

/** A design whose counters do not go below their start where nothing takes from them, nor above it where nothing adds to them. */
export function asItMoves(design: Design, writes: readonly CounterWrite[]): Design {
  const known = moving.get(design);
  if (known !== undefined) return known;
  const counters = design.counters.map((counter) => {
    const [least, most] = rangeIn(design, counter.start);
    const { kind, name, min, max } = counter;
    const isFixed = (isUp: boolean): boolean => kind === 'number' && !mayMove(design, writes, name, isUp);
    return {
      ...counter,
      min: typeof min === 'number' && isFixed(false) ? Math.max(min, least) : min,
      max: typeof max === 'number' && isFixed(true) ? Math.min(max, most) : max,
    };
  });
  const found = { ...design, counters };
  moving.set(design, found);
  return found;
}

/** Where it is enough for a condition that a counter has come down to something: how it is compared, and with what. */
export function floorIn(condition: Expression | undefined, counter: string) {
  for (const part of disjunctsOf(condition)) {
    if (part.kind !== 'binary' || !['==', '<', '<='].includes(part.operator)) continue;
    const { operator, left, right } = part;
    if (left.kind === 'counter' && left.name === counter) return { operator, right };
  }
  return undefined;
}
