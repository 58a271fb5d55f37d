import { countersIn, showExpression } from '../../design/language/expression-parts.js';
import { withArticle } from '../../design/language/names.js';
import type { Design } from '../../design/model.js';
import type { Search } from '../search/search.js';
import type { Sought } from './claim.js';
import { foundIn } from './known-sessions.js';
import { mayBeReady, whyNever } from './reason.js';
import {
  isDecided,
  type Judge,
  type Judgement,
  onlyWithoutTime,
  type PartVerdict,
  reached,
  type TransitionVerdict,
  unreachable,
  type Why,
} from './verdict.js';

/**
 * Whether each rule that is written can fire, each outcome be met, each timer end, and each screen and level be come to.
 *
 * @param known what was found before the search went on: only what that left undecided is asked once more
 */
export function partVerdicts(
  design: Design,
  judge: Judge,
  transitions: readonly TransitionVerdict[],
  known: readonly PartVerdict[],
): PartVerdict[] {
  const { search } = judge;
  const { form } = search.game;
  const decided = new Map(known.filter(isDecided).map((part) => [keyOf(part), part]));
  const sessions = transitions.flatMap(({ witness }) => witness ?? []);
  const on = (
    part: Pick<PartVerdict, 'kind' | 'name' | 'place'>,
    sought: Sought,
    why: Why,
    shadow?: () => number | undefined,
  ): PartVerdict => {
    const before = decided.get(keyOf(part));
    if (before !== undefined) return before;
    const judged = judge.on(sought, why);
    const witness =
      judged.verdict === 'undecided' ? foundIn(design, sessions, sought, judge.isOver) : undefined;
    const ruling = witness === undefined ? judged : reached(witness);
    return { ...part, ...ruling, shadowedBy: ruling.verdict === 'unreachable' ? shadow?.() : undefined };
  };
  const timers = design.timers.map(({ name, event: ended, place }): PartVerdict => {
    const event = form.eventIndex.get(ended)!;
    const judged = on({ kind: 'timer', name, place }, { event }, () => 'it never runs on any screen');
    return isTooLate(judged) ? { ...judged, reason: tooLate } : judged;
  });
  const never = new Map(
    design.timers.flatMap(({ event, name }, at) => (timers[at]!.reason === tooLate ? [[event, name]] : [])),
  );
  const rules = design.rules.flatMap(({ name, place, healthOf, ...asked }, rule): PartVerdict[] => {
    // What was not written can be no mistake.
    if (healthOf !== undefined) return [];
    const screens = asked.screens.map((screen) => screenIndex(design, screen));
    const why: Why = (closed) => whyNever(closed, screens, asked) ?? 'nothing that can happen fires it';
    const shadow = () => (mayBeReady(search, screens, asked) ? earlierWriter(design, rule) : undefined);
    const judged = on({ kind: 'rule', name, place }, { rule }, why, shadow);
    const timer = asked.events.length === 1 ? never.get(asked.events[0]!) : undefined;
    return [
      timer !== undefined && isTooLate(judged)
        ? { ...judged, reason: `${timer} never ends: ${tooLate}` }
        : judged,
    ];
  });
  const outcomes = design.pieces.flatMap(({ name: piece, place, outcomes: all, meets, needs }) =>
    all.map((outcome): PartVerdict => {
      const name = `${piece}.${outcome.name}`;
      const event = form.eventIndex.get(name)!;
      const why = (): string =>
        meets === 'never'
          ? `${withArticle(piece)} is never met`
          : needs === undefined
            ? `${withArticle(piece)} is never there to be met`
            : `what ${withArticle(piece)} needs, "${showExpression(needs)}", never holds while one is there`;
      return on({ kind: 'outcome', name, place }, { event }, why);
    }),
  );
  const levels = design.levels.map(
    ({ name, place }, level): PartVerdict =>
      on({ kind: 'level', name, place }, { level }, () => 'no transition that can be taken leads to it'),
  );
  return [...rules, ...outcomes, ...timers, ...screenVerdicts(design, search, transitions), ...levels];
}

/** Why a timer never ends that another is always too soon for. */
const tooLate = 'before it could, play always ends or starts it again';

const isTooLate = ({ verdict, reason }: Judgement): boolean =>
  verdict === 'unreachable' && reason === onlyWithoutTime;

const keyOf = ({ kind, name, place }: Pick<PartVerdict, 'kind' | 'name' | 'place'>): string =>
  JSON.stringify([kind, name, place.line, place.column]);

/** The last rule before another, on one of its events and screens, that writes what its condition reads. */
function earlierWriter({ rules }: Design, rule: number): number | undefined {
  const { events, screens, condition } = rules[rule]!;
  const read = new Set(condition === undefined ? [] : countersIn(condition));
  const found = rules.findLastIndex(
    (each, index) =>
      index < rule &&
      each.events.some((event) => events.includes(event)) &&
      each.screens.some((screen) => screens.includes(screen)) &&
      each.effects.some((effect) => 'writes' in effect && effect.writes.some(({ name }) => read.has(name))),
  );
  return found < 0 ? undefined : found;
}

const screenIndex = (design: Design, screen: string): number =>
  design.screens.findIndex(({ name }) => name === screen);

/** A screen is come to as the best of the transitions that lead to it is taken. */
function screenVerdicts(
  design: Design,
  search: Search,
  transitions: readonly TransitionVerdict[],
): PartVerdict[] {
  return design.screens.map(({ name, place }, index): PartVerdict => {
    const common = { kind: 'screen', name, place, shadowedBy: undefined } as const;
    if (index === 0) return { ...common, ...reached({ steps: [], record: undefined }) };
    const leading = transitions.filter(({ to }) => to === name);
    const best =
      leading.find(({ verdict }) => verdict === 'reached') ??
      leading.find(({ verdict }) => verdict === 'undecided') ??
      leading.find(({ assumes }) => assumes === 'players');
    if (best === undefined) {
      const ways = leading.map(({ from, to }) => `${from} -> ${to}`).join(' and ');
      return {
        ...common,
        ...unreachable(
          ways === '' ? 'no transition leads to it' : `${ways} cannot be taken`,
          leading.find(({ closed }) => closed !== undefined)?.closed ?? search,
        ),
      };
    }
    const { verdict, assumes, inAnyOrder, witness, reason, closed } = best;
    return { ...common, verdict, assumes, inAnyOrder, witness, reason, closed };
  });
}
