import type { Expression } from '../../design/language/expression.js';
import { conjunctsOf, showExpression, visitExpression } from '../../design/language/expression-parts.js';
import { showSeconds } from '../../design/language/trigger.js';
import type { Design, Effect } from '../../design/model.js';
import type { Term } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { Evaluator } from '../../engine/run/evaluator.js';
import type { UntimedGame } from '../abstraction/untimed-game.js';
import { competingTransitions } from '../search/competing-transitions.js';
import { unseen } from '../search/first-occurrences.js';
import type { Search } from '../search/search.js';

/** Something that happens on some screens, on an event or by itself, where a condition holds. */
interface Asked {
  /** Events that set it off, and as the file names them; none: it goes by itself. */
  readonly events: readonly string[];
  readonly heard: readonly string[];
  readonly condition: Expression | undefined;
}

/** The earlier transition that always goes before one: the only one there is, or that which asks for the same; undefined: several may share in that. */
export function coveredBy(design: Design, index: number): number | undefined {
  const { transitions } = design;
  const { events, condition } = transitions[index]!;
  const asked = condition && showExpression(condition);
  const form = formOf(design);
  const earlier = [...transitions.keys()].filter((taken) =>
    competingTransitions(form, taken).some((rival) => rival.index === index),
  );
  if (earlier.length === 1) return earlier[0];
  return earlier.find((taken) => {
    const each = transitions[taken]!;
    return (
      each.wait === 0 &&
      events.every((event) => each.events.includes(event)) &&
      (each.condition === undefined || showExpression(each.condition) === asked)
    );
  });
}

/** The earlier transition that goes first whenever one could be taken, or one of several that do; undefined: it never could be. */
export function preemptedIn({ notes, game }: Search, index: number): number | undefined {
  const first = notes.preemptedBy[index]!;
  return first < 0 ? undefined : (coveredBy(game.form.design, index) ?? first);
}

/** Why a transition is never taken, read off all the states that were visited. */
export function whyNotTaken(search: Search, index: number): string {
  const { form } = search.game;
  const asked = form.design.transitions[index]!;
  const preemptedBy = preemptedIn(search, index);
  if (preemptedBy !== undefined) {
    const { from, to, place } = form.design.transitions[preemptedBy]!;
    const first = `${from} -> ${to} (line ${place.line})`;
    return coveredBy(form.design, index) === preemptedBy
      ? `an earlier transition always goes first: ${first}`
      : `an earlier transition always goes first, such as ${first}`;
  }
  const reason = whyNever(search, [form.transitions[index]!.from], asked);
  return reason === undefined ? whyPassedOver(search, index) : reason;
}

/** What stands in the way of a transition whose event and condition come: a shorter wait, or a payment. */
function whyPassedOver(search: Search, index: number): string {
  const { design } = search.game.form;
  const { from, wait, effects } = design.transitions[index]!;
  const sooner = design.transitions.find(
    (each) =>
      each.from === from &&
      typeof each.wait === 'number' &&
      typeof wait === 'number' &&
      each.wait < wait &&
      each.wait > 0 &&
      each.events.length === 0 &&
      each.condition === undefined,
  );
  if (sooner !== undefined)
    return `${from} -> ${sooner.to} (line ${sooner.place.line}) leaves ${from} after ${showSeconds(sooner.wait)} s, before the ${showSeconds(wait)} s that this one waits`;
  const payment = effects.flatMap((effect) => (effect.kind === 'pay' ? effect.writes : []))[0];
  if (payment === undefined) return `nothing that can happen on ${from} takes it`;
  return `nobody on ${from} can pay ${showExpression(payment.amount)} ${payment.name}`;
}

/** Why something never happens on any of its screens; undefined where its event comes and its condition holds. */
export function whyNever(
  search: Search,
  screens: readonly number[],
  { events, heard, condition }: Asked,
): string | undefined {
  const { form } = search.game;
  const names = screens.map((screen) => form.screens[screen]!.name);
  const where = names.length === form.screens.length ? 'any screen' : names.join(' or ');
  const rows = rowsOn(search, new Set(screens));
  if (rows.length === 0) return `${where} is never entered`;
  const wanted = events.map((event) => form.eventIndex.get(event)!);
  const isSeen = wanted.some((event) => screens.some((screen) => isPossible(search, event, screen)));
  if (events.length > 0 && events.every((event) => isOwnAndSilent(search, event)))
    return `nothing that can happen emits ${heard.join(', ')}`;
  if (events.length > 0 && !isSeen) return `${heard.join(', ')} never happens on ${where}`;
  const never = condition === undefined ? undefined : neverHolds(search, rows, condition);
  if (never === undefined) return undefined;
  return screens.length === 1 ? `on ${where}, ${never}` : never;
}

/** Whether an event is one of the design's own that no rule which fired and no transition that was taken emits. */
function isOwnAndSilent({ game, notes }: Search, event: string): boolean {
  const { form } = game;
  if (form.events[form.eventIndex.get(event)!]!.kind !== 'own') return false;
  const emits = ({ effects }: { readonly effects: readonly Effect[] }): boolean =>
    effects.some((effect) => effect.kind === 'emit' && effect.name === event);
  return !(
    form.design.rules.some((rule, index) => emits(rule) && notes.firedFrom[index] !== unseen) ||
    form.design.transitions.some((each, index) => emits(each) && notes.takenFrom[index] !== unseen)
  );
}

/** Whether its event was possible in some state in which its condition held, so that something else must stand in its way. */
export function mayBeReady(
  search: Search,
  screens: readonly number[],
  { events, condition }: Asked,
): boolean {
  const { form } = search.game;
  const isPossibleOn = (screen: number): boolean =>
    events.some((event) => isPossible(search, form.eventIndex.get(event)!, screen));
  const rows = rowsOn(search, new Set(screens.filter(isPossibleOn)));
  return rows.length > 0 && condition !== undefined && neverHolds(search, rows, condition) === undefined;
}

/** Whether an event was possible on a screen; of what only chains set off, this says no where a screen was never entered. */
function isPossible(search: Search, event: number, screen: number): boolean {
  const { form } = search.game;
  const { kind, name } = form.events[event]!;
  if (kind === 'own') return true;
  if (kind !== 'entered') return search.seenOn(screen).has(event);
  const entered = form.screens.findIndex((each) => name === `${each.name}.entered`);
  return form.transitions.some(
    ({ to }, transition) =>
      (to === entered || form.screens[to] === undefined) && search.notes.takenFrom[transition] !== unseen,
  );
}

function rowsOn({ game, states }: Search, screens: ReadonlySet<number>): number[] {
  const state = new Float64Array(game.width);
  const rows: number[] = [];
  for (let row = 0; row < states.length; row++) {
    states.read(row, state);
    if (screens.has(state[0]!)) rows.push(row);
  }
  return rows;
}

/** The part of a condition that held in none of these states, with how near it came; undefined where all parts held. */
function neverHolds(
  { game, states }: Search,
  rows: readonly number[],
  condition: Expression,
): string | undefined {
  const parts = conjunctsOf(condition).filter((part) => !game.isGuessed(game.concrete.lowerTerm(part)));
  if (parts.length === 0) return undefined;
  const { cells } = game.machine;
  const terms = new Evaluator(game.form, cells);
  const state = new Float64Array(game.width);
  const read = parts.map((part) => {
    const margin = marginOf(part);
    return {
      part,
      holds: terms.add(game.form.lowerTerm(part)),
      margin: margin === undefined ? -1 : terms.add(margin(game.form.lowerTerm)),
      names: namesIn(part).map((name) => ({ name, term: terms.add(game.form.lowerTerm(name)) })),
      held: false,
      /** How many other parts held in the nearest state, and how far this one was from holding there. */
      others: -1,
      distance: Number.POSITIVE_INFINITY,
      values: [] as string[],
    };
  });
  let together = false;
  for (const row of rows) {
    states.read(row, state);
    game.write(state);
    const held = read.map((each) => terms.value(each.holds) !== 0);
    const others = held.filter((holds) => holds).length;
    if (others === read.length) together = true;
    read.forEach((each, index) => {
      if (held[index]) {
        each.held = true;
        return;
      }
      const distance = each.margin < 0 ? 0 : Math.abs(terms.value(each.margin));
      if (others > each.others || (others === each.others && distance < each.distance)) {
        Object.assign(each, { others, distance });
        each.values = each.names.map(({ name, term }) => showValue(game, name, terms.value(term)));
      }
    });
  }
  const never = read.find((each) => !each.held);
  if (never !== undefined) {
    const nearest = never.values.length === 0 ? '' : ` (the nearest it comes: ${never.values.join(', ')})`;
    return `"${showExpression(never.part)}" never holds${nearest}`;
  }
  if (together) return undefined;
  return `${parts.map((part) => `"${showExpression(part)}"`).join(' and ')} never hold together`;
}

function showValue({ form, domain }: UntimedGame, name: Expression, value: number): string {
  const shown = name.kind === 'lastLevel' ? String(value === 1) : String(value);
  if (name.kind !== 'counter') return `${showExpression(name)} ${shown}`;
  const index = form.design.counters.findIndex((each) => each.name === name.name);
  const { kind, words, min, max, places } = form.design.counters[index]!;
  if (kind === 'words') return `${name.name} ${words[value]}`;
  if (kind === 'flag') return `${name.name} ${value === 1}`;
  const cell = form.cells.counters + index;
  const saturated = domain.saturated.find(({ part }) => domain.parts[part]!.cell === cell);
  // From there on the search keeps larger values as one.
  if (saturated !== undefined && value * 10 ** places >= saturated.from)
    return `${name.name} ${saturated.from / 10 ** places} or more`;
  const bound = value === max ? ' (its max)' : value === min ? ' (its min)' : '';
  return `${name.name} ${shown}${bound}`;
}

/** How far a comparison is from holding: the difference of its sides. */
function marginOf(part: Expression): ((lower: (expression: Expression) => Term) => Term) | undefined {
  if (part.kind !== 'binary' || !['<', '<=', '>', '>=', '=='].includes(part.operator)) return undefined;
  return (lower) => lower({ kind: 'binary', operator: '-', left: part.left, right: part.right });
}

/** The values that an expression reads, each once. */
function namesIn(expression: Expression): Expression[] {
  const names = new Map<string, Expression>();
  visitExpression(expression, (part) => {
    const isValue = ['counter', 'levelValue', 'level', 'lastLevel', 'course', 'present', 'left'].includes(
      part.kind,
    );
    if (isValue) names.set(showExpression(part), part);
  });
  return [...names.values()];
}
