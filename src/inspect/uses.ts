import type { Expression } from '../design/language/expression.js';
import { conjunctsOf, visitExpression } from '../design/language/expression-parts.js';
import {
  type AmountWrite,
  type Computed,
  type ComputedInterval,
  type Counter,
  type Design,
  type Effect,
  type Interval,
  type Keep,
  type Rule,
  spans,
  type Template,
  type Transition,
} from '../design/model.js';
import { boundsOf, rangeIn } from '../explore/abstraction/ranges.js';
import { type CounterWrite, likelyLives, likelyScore } from './played-for.js';

/** Who writes, reads and shows what, gathered once for all findings. */
export interface Uses {
  readonly writes: readonly CounterWrite[];
  /** Counters that conditions, amounts, intervals, starts or weights read. */
  readonly read: ReadonlySet<string>;
  /** Counters and timers that the HUD, a text or a list shows; and those that are shown on some live screen. */
  readonly shown: ReadonlySet<string>;
  readonly shownInPlay: ReadonlySet<string>;
  /** Pieces of which something reads how many are present, or still to come. */
  readonly counted: ReadonlySet<string>;
  /** Timers whose seconds something reads or changes. */
  readonly timersUsed: ReadonlySet<string>;
  /** Dials and values of levels that anything reads. */
  readonly dials: ReadonlySet<string>;
  readonly levelValues: ReadonlySet<string>;
  /** Events that some rule, transition or list hears. */
  readonly heard: ReadonlySet<string>;
  /** The counters that are the score and the lives, by their names or by what is done with them. */
  readonly score: string | undefined;
  readonly lives: string | undefined;
}

export function usesOf(design: Design): Uses {
  const read = new Set<string>();
  const shown = new Set<string>();
  const shownInPlay = new Set<string>();
  const live = new Set(design.screens.flatMap((screen) => (screen.live ? [screen.name] : [])));
  const timersUsed = new Set<string>();
  const counted = new Set<string>();
  const dials = new Set<string>();
  const levelValues = new Set<string>();
  const writes: CounterWrite[] = [];
  const kindOf = (name: string) => design.counters.find((counter) => counter.name === name)!.kind;
  const note = (into: Set<string>, expression: Expression | undefined): void => {
    if (expression === undefined) return;
    visitExpression(expression, (part) => {
      if (part.kind === 'counter') into.add(part.name);
      if (part.kind === 'timer') timersUsed.add(part.name);
      if (part.kind === 'dial') dials.add(part.name);
      if (part.kind === 'levelValue') levelValues.add(part.name);
      if (part.kind !== 'present' && part.kind !== 'left') return;
      for (const { name, answersTo } of design.pieces) if (answersTo.includes(part.name)) counted.add(name);
    });
  };
  const template = (text: Template, isInPlay: boolean): void => {
    for (const part of text) {
      if (typeof part === 'string' || part.kind === 'levelName') continue;
      note(shown, part);
      if (isInPlay) note(shownInPlay, part);
    }
  };
  const interval = (of: Interval | ComputedInterval | undefined): void => {
    if (of === undefined || !('seconds' in of)) return;
    note(read, of.seconds);
    note(read, of.upTo);
  };
  const computed = (of: Computed | undefined): void => note(read, typeof of === 'object' ? of : undefined);
  for (const by of [...design.rules, ...design.transitions]) {
    const guarded = guardedBy(by.effects);
    const asked = new Set<string>();
    note(asked, by.condition);
    // A limit on how often it can be bought makes no use of what is bought.
    for (const counter of asked) if (counter !== guarded) read.add(counter);
    for (const length of 'rest' in by ? [by.rest] : [by.wait, by.grace]) computed(length);
    const rule = 'rest' in by ? by : undefined;
    if (rule?.passes !== undefined) read.add(rule.passes.counter);
    for (const effect of by.effects) {
      for (const { name, amount } of writesOf(effect)) {
        const kind = effect.kind as CounterWrite['kind'];
        writes.push({
          counter: name,
          kind,
          amount,
          rule,
          by: 'rest' in by ? by.name : `${by.from} -> ${by.to}`,
          place: by.place,
        });
        if (kind === 'pay') read.add(name);
        // What only adds to itself is not used by anything else.
        note(read, amount);
      }
      if (effect.kind === 'add' || effect.kind === 'set') {
        for (const { name, amount } of effect.timers) {
          timersUsed.add(name);
          note(read, amount);
        }
      }
      if (effect.kind === 'spawn') for (const { count } of effect.pieces) note(read, count);
      if (effect.kind === 'popup') template(effect.text, true);
      if (effect.kind === 'grace') computed(effect.duration);
    }
  }
  for (const { start, min, max } of design.counters) {
    note(read, start);
    computed(min);
    computed(max);
  }
  for (const { placed, spawns } of design.levels) {
    for (const { count } of placed) computed(count);
    for (const { atOnce, total } of spawns) {
      computed(atOnce);
      computed(total);
    }
  }
  for (const { acts, caution, skill } of design.players) {
    computed(skill);
    for (const { condition } of acts) note(read, condition);
    note(read, caution?.condition);
  }
  for (const { needs, outcomes, difficulty, takes, lasts, lead, returns } of design.pieces) {
    note(read, needs);
    for (const each of [difficulty, takes, lasts]) computed(each);
    interval(lead);
    interval(returns);
    for (const { weight } of outcomes) note(read, weight);
  }
  for (const timer of design.timers) interval(timer.interval);
  for (const { spawns, values } of design.levels) {
    for (const { every, first } of spawns) {
      interval(every);
      interval(first);
    }
    for (const value of values.values()) note(read, value);
  }
  for (const { text, live: isInPlay } of design.screens) template(text, isInPlay);
  for (const { show, text, condition, screens } of design.hud) {
    const isInPlay = screens.some((screen) => live.has(screen));
    if (show !== undefined) shown.add(show);
    if (show !== undefined && isInPlay) shownInPlay.add(show);
    template(text, isInPlay);
    note(read, condition);
    // A prompt that comes and goes with a flag or a word shows which it is.
    if (condition !== undefined && isInPlay)
      visitExpression(condition, (part) => {
        if (part.kind === 'counter' && kindOf(part.name) !== 'number') shownInPlay.add(part.name);
      });
  }
  for (const { of } of design.lists) shown.add(of);
  const heard = new Set(
    [...design.rules, ...design.transitions, ...design.lists].flatMap(({ events }) => events),
  );
  for (const { by } of design.pieces) if (by !== undefined) heard.add(by);
  const score = design.score ?? likelyScore(design, writes)?.name;
  const lives = design.lives ?? likelyLives(design, writes)?.counter.name;
  return { writes, read, shown, shownInPlay, counted, timersUsed, dials, levelValues, heard, score, lives };
}

/** Pieces that levels place, spawn or line up. */
export const inLevels = ({ levels }: Design): string[] =>
  levels.flatMap(({ placed, spawns, course }) => [
    ...placed.flatMap(({ piece, count }) => (count === 0 ? [] : [piece])),
    ...spawns.map(({ piece }) => piece),
    ...course,
  ]);

/** Pieces that a rule or a transition makes appear. */
export const madeBy = ({ effects }: { readonly effects: readonly Effect[] }): string[] =>
  effects.flatMap((effect) =>
    effect.kind === 'spawn'
      ? effect.pieces.map(({ piece }) => piece)
      : effect.kind === 'become'
        ? effect.changes.map(({ to }) => to)
        : [],
  );

/** All of these. */
export const madeIn = (design: Design): ReadonlySet<string> =>
  new Set([...inLevels(design), ...[...design.rules, ...design.transitions].flatMap(madeBy)]);

export const isLive = ({ screens }: Design, screen: string): boolean =>
  screens.some(({ name, live }) => name === screen && live);

/** Whether a counter has a max of its own, below the largest number that there is. */
export const hasMax = (design: Design, counter: Counter): boolean =>
  boundsOf(design, counter).max < 2 ** 53 / 10 ** counter.places;

/** A text in one piece, with a mark wherever a value is filled in. */
export const plainText = (text: Template): string =>
  text.map((part) => (typeof part === 'string' ? part : '…')).join('');

export const writesOf = (
  effect: Effect,
): readonly { readonly name: string; readonly amount: Expression }[] =>
  effect.kind === 'add' || effect.kind === 'set' || effect.kind === 'pay' ? effect.writes : [];

/** The one counter that effects raise or set, where they do nothing else of consequence but take a price. */
function guardedBy(effects: readonly Effect[]): string | undefined {
  const [name, ...others] = new Set(
    effects.flatMap((effect) => (effect.kind === 'pay' ? [] : writesOf(effect).map((write) => write.name))),
  );
  const isAll = effects.every(
    (effect) =>
      ['pay', 'cue', 'popup'].includes(effect.kind) ||
      ((effect.kind === 'add' || effect.kind === 'set') && effect.timers.length === 0),
  );
  return isAll && others.length === 0 ? name : undefined;
}

/** What effects add to counters. */
export const addedBy = (effects: readonly Effect[]): AmountWrite[] =>
  effects.flatMap((effect) => (effect.kind === 'add' ? effect.writes : []));

/** What effects set counters to. */
export const setBy = (effects: readonly Effect[]): AmountWrite[] =>
  effects.flatMap((effect) => (effect.kind === 'set' ? effect.writes : []));

/** Whether effects take something, be it as a price. */
export const takesAny = (design: Design, effects: readonly Effect[], butOf?: string): boolean =>
  effects[0]?.kind === 'pay' ||
  addedBy(effects).some(({ name, amount }) => name !== butOf && rangeIn(design, amount)[0] < 0);

/** The rules that stand in the file; those that count health are made of pieces. */
export const writtenRules = ({ rules }: Design): readonly Rule[] =>
  rules.filter(({ healthOf }) => healthOf === undefined);

/** The event with which a session ends; undefined where it ends with a wait, or at its start. */
export const lastEvent = ({ steps }: { readonly steps: readonly string[] }): string | undefined =>
  /^(?:\d+ x )?(\w+\.\w+)$/.exec(steps.at(-1) ?? '')?.[1];

/** Whether an expression is the number 0. */
export const isZero = (of: Expression): boolean => of.kind === 'number' && of.value === 0;

export const isInput = (event: string): boolean => event.startsWith('input.');

/** Whether a transition puts back what is kept for a span. */
export const putsBack = ({ fresh }: Transition, keep: Keep): boolean =>
  fresh !== undefined && spans.indexOf(fresh) >= spans.indexOf(keep);

/** Whether two rules or transitions hear the same events. */
export const hearAlike = (one: Heard, other: Heard): boolean =>
  one.events.length === other.events.length && one.events.every((event) => other.events.includes(event));

type Heard = { readonly events: readonly string[] };

/** Inputs that some player of a design presses in play. */
export const pressedInPlay = ({ players }: Design): ReadonlySet<string> =>
  new Set(players.flatMap(({ acts }) => acts.map(({ input }) => input)));

/** Whether a rule or a transition hears one of some events on a screen. */
export const hearsOn = (design: Design, screen: string, wanted: readonly string[]): boolean =>
  design.rules.some(
    ({ events, screens }) => screens.includes(screen) && events.some((event) => wanted.includes(event)),
  ) ||
  design.transitions.some(
    ({ from, events }) => from === screen && events.some((event) => wanted.includes(event)),
  );

/** Whether a write to a counter can only ever add 0. */
export const addsNothing = (design: Design, { kind, amount }: CounterWrite): boolean =>
  kind !== 'set' && rangeIn(design, amount).every((end) => end === 0);

/** Whether a counter is set to itself, or to the value that its rule asks for: it holds that already, unless the rule writes it before. */
export function setsWhatIs({ counter, kind, amount, rule }: CounterWrite): boolean {
  if (kind === 'set' && amount.kind === 'counter' && amount.name === counter) return true;
  if (kind !== 'set' || rule === undefined || amount.kind !== 'number') return false;
  const own = rule.effects.flatMap(writesOf).filter(({ name }) => name === counter);
  if (own.length > 1) return false;
  return conjunctsOf(rule.condition).some(
    (part) =>
      part.kind === 'binary' &&
      part.operator === '==' &&
      part.left.kind === 'counter' &&
      part.left.name === counter &&
      part.right.kind === 'number' &&
      part.right.value === amount.value,
  );
}
