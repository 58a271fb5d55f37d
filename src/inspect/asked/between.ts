import type { Expression } from '../../design/language/expression.js';
import {
  conjunctsOf,
  countersIn,
  showExpression,
  withParts,
} from '../../design/language/expression-parts.js';
import type { Design } from '../../design/model.js';
import { rangeIn } from '../../explore/abstraction/ranges.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { hearAlike, type Uses, writesOf } from '../uses.js';
import { type Asked, askedIn } from './asked.js';
import { opposite, stretchOf } from './stretch.js';

type Comparison = Extract<Expression, { kind: 'binary' }>;

/** Two that ask for either side of a number, and what they both ask for besides. */
interface Sides {
  readonly first: Comparison;
  readonly second: Comparison;
  readonly common: readonly string[];
}

/**
 * Two transitions that ask for either side of a number and leave something out between them, as `right >= 6` and `right < 5` do, or
 * `amber > russet` and `amber < russet` at a draw: nothing happens there. And two rules that do so with the same counter.
 */
export function leftBetween(design: Design, { writes }: Uses, exploration: Exploration): Finding[] {
  const asked = askedIn(design);
  const reached = new Set(
    [...exploration.transitions, ...exploration.parts].flatMap(({ verdict, place }) =>
      verdict === 'reached' ? [place] : [],
    ),
  );
  return asked.flatMap((first, at) => {
    for (const second of asked.slice(at + 1)) {
      const sides = areAlike(first, second) ? sidesOf(first.condition, second.condition) : undefined;
      // What is asked all the time, and of nothing else, has something between most often.
      if (sides === undefined || (sides.common.length === 0 && first.events.length === 0)) continue;
      const between = gapOf(design, writes, sides);
      if (between === undefined || asked.some((each) => mayTake(each, first, second, sides))) continue;
      if (![first, second].every(({ place }) => reached.has(place))) continue;
      const { operator, right } = sides.first;
      const instead: Comparison = { ...sides.second, operator: opposite[operator]!, right };
      const details = {
        first: first.what,
        second: second.what,
        asks: showExpression(sides.first),
        other: showExpression(sides.second),
        where: [...sides.common, between].join(' and '),
        event: first.events[0],
        isRule: first.to === undefined,
        instead: showExpression(instead),
        path: second.path,
        condition: showExpression(
          withParts(second.condition!, (part) => (part === sides.second ? instead : undefined)),
        ),
      };
      return [finding('left-between', details, second.place)];
    }
    return [];
  });
}

/** Whether two are asked at the same moment, and are of one kind: two ways on, or two rules that write one counter. */
function areAlike(first: Asked, second: Asked): boolean {
  if ((first.to === undefined) !== (second.to === undefined) || first.place === second.place) return false;
  const isOnSame =
    first.screens.length === second.screens.length &&
    first.screens.every((screen) => second.screens.includes(screen));
  if (!isOnSame || !hearAlike(first, second)) return false;
  return first.to !== undefined || (first.events.length > 0 && writeAlike(first, second));
}

const writtenBy = ({ effects }: Asked): string[] => effects.flatMap(writesOf).map(({ name }) => name);
const writeAlike = (one: Asked, other: Asked): boolean =>
  writtenBy(one).some((name) => writtenBy(other).includes(name));

/** The one comparison in which two conditions differ, of each, where it is of the same with something. */
function sidesOf(one: Expression | undefined, other: Expression | undefined): Sides | undefined {
  const [mine, theirs] = [conjunctsOf(one), conjunctsOf(other)];
  const [said, heard] = [mine.map(showExpression), theirs.map(showExpression)];
  const [first, ...more] = mine.filter((_, at) => !heard.includes(said[at]!));
  const [second, ...rest] = theirs.filter((_, at) => !said.includes(heard[at]!));
  if (first?.kind !== 'binary' || second?.kind !== 'binary' || more.length + rest.length > 0)
    return undefined;
  if (showExpression(first.left) !== showExpression(second.left)) return undefined;
  return { first, second, common: said.filter((each) => heard.includes(each)) };
}

/** What two comparisons leave out between them, in words of a condition; undefined where they leave nothing out that can be. */
function gapOf(design: Design, writes: Uses['writes'], { first, second }: Sides): string | undefined {
  const { left, right } = first;
  const pair = first.operator + second.operator;
  const isDraw = showExpression(right) === showExpression(second.right) && (pair === '><' || pair === '<>');
  if (isDraw && countersIn(right).length > 0) return showExpression({ ...first, operator: '==' });
  const counter = design.counters.find(({ name }) => left.kind === 'counter' && left.name === name);
  if (counter?.kind !== 'number' || counter.places > 0) return undefined;
  for (let level = 0; level < design.levels.length; level++) {
    const stretches = [first, second].map((part) => stretchOf(design, level, { part, holds: true }));
    const below = stretches.find((each) => each?.from.at === Number.NEGATIVE_INFINITY);
    const above = stretches.find((each) => each?.to.at === Number.POSITIVE_INFINITY);
    if (below === undefined || above === undefined) continue;
    const from = below.to.past < 0 ? below.to.at : Math.floor(below.to.at) + 1;
    const to = above.from.past > 0 ? above.from.at : Math.ceil(above.from.at) - 1;
    const [least, most] = rangeIn(design, left);
    if (from > to || to < least || from > most || !isCountedTo(design, writes, counter.name, from, to))
      continue;
    return from === to ? `${counter.name} == ${from}` : `${counter.name} is ${from} to ${to}`;
  }
  return undefined;
}

/** Whether the steps in which a counter counts come to a number between two. */
function isCountedTo(
  design: Design,
  writes: Uses['writes'],
  name: string,
  from: number,
  to: number,
): boolean {
  const [start, end] = rangeIn(design, design.counters.find((each) => each.name === name)!.start);
  const steps = writes
    .filter(({ counter }) => counter === name)
    .map(({ amount }) => {
      const [least, most] = rangeIn(design, amount);
      return least === most ? Math.abs(least) : 1;
    });
  const common = steps.reduce(greatestCommonDivisor, start === end ? 0 : 1);
  return common === 0
    ? start >= from && start <= to
    : Math.floor((to - start) / common) * common + start >= from;
}

const greatestCommonDivisor = (one: number, other: number): number =>
  other === 0 ? one : greatestCommonDivisor(other, one % other);

/** Whether something else is done there: it is asked at the same moment, and for no more than both ask for, or for what they compare. */
function mayTake(
  each: Asked,
  first: Asked,
  second: Asked,
  { first: { left, right }, common }: Sides,
): boolean {
  if (each.place === first.place || each.place === second.place) return false;
  if ((each.to === undefined) !== (first.to === undefined)) return false;
  if (!each.screens.some((screen) => first.screens.includes(screen))) return false;
  const isHeard = each.events.some((event) => first.events.includes(event));
  const isAsked = each.events.length === 0;
  if (first.to === undefined ? !isHeard || !writeAlike(each, first) : !isHeard && !isAsked) return false;
  const own = conjunctsOf(each.condition).filter((part) => !common.includes(showExpression(part)));
  const compared = [left, right].flatMap(countersIn);
  const isOfThese = own.some((part) => countersIn(part).some((name) => compared.includes(name)));
  return isOfThese || (own.length === 0 && (isHeard || first.events.length === 0));
}
