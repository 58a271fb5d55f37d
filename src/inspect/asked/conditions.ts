import type { Expression } from '../../design/language/expression.js';
import {
  comparisonsIn,
  conjunctsOf,
  disjunctsOf,
  showExpression,
  withParts,
} from '../../design/language/expression-parts.js';
import type { Design } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import { atLevel, rangeIn } from '../../explore/abstraction/ranges.js';
import type { Judgement } from '../../explore/evidence/verdict.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { isLoss, mayMove } from '../played-for.js';
import { asksPast, passedBy } from '../shown/passed-by.js';
import { isLive, type Uses } from '../uses.js';
import { askedIn } from './asked.js';
import { leftBetween } from './between.js';
import { choicesNeverTaken } from './choices.js';
import { firesAtOnce, stepsOutOfOrder } from './steps.js';

/** Findings about what is asked for: parts of conditions, and choices, that come out one way only, and numbers that are passed by. */
export const aboutConditions = (
  design: Design,
  uses: Uses,
  exploration: Exploration,
  isOver: () => boolean,
): Finding[] => [
  ...numbersPassedBy(design, uses, exploration, isOver),
  ...partsThatNeverHold(design),
  ...partsThatAlwaysHold(design),
  ...choicesNeverTaken(design),
  ...leftBetween(design, uses, exploration),
  ...stepsOutOfOrder(design),
  ...firesAtOnce(design),
];

/** Conditions that ask for one number of a counter, which was seen to step over it. */
function numbersPassedBy(
  design: Design,
  { writes }: Uses,
  { transitions, parts }: Exploration,
  isOver: () => boolean,
): Finding[] {
  const told = new Set<Place>();
  const ofRules = writes.filter(({ rule }) => rule !== undefined);
  const isReached = ({ verdict }: Pick<Judgement, 'verdict'>): boolean => verdict === 'reached';
  return askedIn(design).flatMap(({ what, path, screens, to, condition, place }) => {
    const screen = screens.find((name) => isLive(design, name));
    const entered = parts.find(({ kind, name }) => kind === 'screen' && name === screen)?.witness;
    const isTaken =
      transitions.some((each) => each.place === place && each.from === screen && isReached(each)) ||
      parts.some((each) => each.place === place && isReached(each));
    if (told.has(place) || !isTaken || screen === undefined || entered === undefined) return [];
    for (const part of conjunctsOf(condition)) {
      if (part.kind !== 'binary' || part.operator !== '==') continue;
      const { left, right } = part;
      const counter = design.counters.find(({ name }) => left.kind === 'counter' && left.name === name);
      if (counter?.kind !== 'number') continue;
      const numberOn = (level: number): number | undefined => {
        const [least, most] = rangeIn(design, atLevel(design, right, level));
        return least === most ? least : undefined;
      };
      const shown = passedBy(design, counter, screen, entered, numberOn, isOver);
      if (shown === undefined) continue;
      const { before, after, steps } = shown;
      // What comes back may be meant to be met exactly; what is lost with is not. And whoever asks for what is past it has thought of it.
      const isUp = after > before;
      const mayComeBack = mayMove(design, ofRules, counter.name, !isUp);
      const isLostWith = to !== undefined && isLoss(design, to);
      if ((mayComeBack && !isLostWith) || asksPast(design, counter.name, isUp)) continue;
      told.add(place);
      const instead: Expression = { ...part, operator: isUp ? '>=' : '<=' };
      const details = {
        what,
        part: showExpression(part),
        counter: counter.name,
        before,
        after,
        instead: showExpression(instead),
        path,
        condition: showExpression(withParts(condition!, (each) => (each === part ? instead : undefined))),
      };
      return [finding('passed-by', details, place, steps)];
    }
    return [];
  });
}

/** The bound that decides a comparison of a counter, by how its operator begins. */
const boundOf: { readonly [operator: string]: 'min' | 'max' | undefined } = { '>': 'min', '<': 'max' };

/** Comparisons of a counter that its min or its max decides: they ask for nothing. */
function partsThatAlwaysHold(design: Design): Finding[] {
  const needs = design.pieces.map(({ name, needs: condition, place }) => ({ what: name, condition, place }));
  const told = new Set<Place>();
  return [...askedIn(design), ...needs].flatMap(({ what, condition, place }) => {
    const part = comparisonsIn(condition, ['>=', '>', '<=', '<', '!=']).find(
      (each) => each.left.kind === 'counter' && rangeIn(design, each)[0] === 1,
    );
    if (part === undefined || told.has(place)) return [];
    told.add(place);
    const [least, most] = rangeIn(design, part.left);
    const { operator } = part;
    const bound = boundOf[operator[0]!];
    const stricter = operator === '>=' ? '>' : operator === '<=' ? '<' : undefined;
    const details = {
      what,
      part: showExpression(part),
      counter: showExpression(part.left),
      bound,
      value: bound === 'min' ? least : most,
      instead: stricter && showExpression({ ...part, operator: stricter }),
    };
    return [finding('part-always-holds', details, place)];
  });
}

/** Conditions of several parts, one of which would do, where one can never hold. */
function partsThatNeverHold(design: Design): Finding[] {
  const told = new Set<Place>();
  return askedIn(design).flatMap(({ what, condition, place }) => {
    const parts = disjunctsOf(condition);
    const never = parts.filter((part) => rangeIn(design, part)[1] === 0);
    if (never.length === 0 || never.length === parts.length || told.has(place)) return [];
    told.add(place);
    return never.map((part) => finding('part-never-holds', { what, part: showExpression(part) }, place));
  });
}
