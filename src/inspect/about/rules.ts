import type { Expression } from '../../design/language/expression.js';
import { countersIn } from '../../design/language/expression-parts.js';
import type { Design, Rule } from '../../design/model.js';
import { rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import { outcomesOf } from '../played-for.js';
import {
  addedBy,
  hearAlike,
  isInput,
  isLive,
  pressedInPlay,
  putsBack,
  type Uses,
  writesOf,
} from '../uses.js';

/** Findings about rules and their events. */
export function aboutRules(design: Design, uses: Uses): Finding[] {
  return [
    ...deafRules(design),
    ...unheardEvents(design, uses),
    ...spawnedInVain(design),
    ...bestBeforeBonus(design, uses),
    ...addedTwice(design),
    ...undoneAtOnce(design),
    ...wordsNeverSet(design, uses),
    ...pressedByNobody(design),
    ...metByNobody(design),
    ...outcomesUnheard(design, uses),
  ];
}

/** Inputs that a rule hears in play, and none of the players that the design describes presses there. */
function pressedByNobody(design: Design): Finding[] {
  if (design.written.players === undefined) return [];
  const pressed = pressedInPlay(design);
  // Of what a piece is met by, that is said of the piece.
  const meeting = new Set(design.pieces.flatMap(({ by }) => by ?? []));
  const told = new Set<string>();
  return design.rules.flatMap(({ name, events, effects, screens, place }) => {
    const isInPlay = screens.some((screen) => isLive(design, screen));
    if (!isInPlay || !events.every((event) => isInput(event) && !pressed.has(event))) return [];
    const [input] = events;
    const meets = effects.some((effect) => effect.kind === 'emit' && meeting.has(effect.name));
    if (input === undefined || told.has(input) || meeting.has(input) || meets) return [];
    told.add(input);
    return [finding('pressed-by-nobody', { input, rule: name }, place)];
  });
}

/** Props that simulated players never meet, though a rule hears what becomes of one and the design describes its players. */
function metByNobody({ pieces, levels, rules, written }: Design): Finding[] {
  if (written.players === undefined) return [];
  const own = written.pieces as { readonly [name: string]: { readonly meets?: unknown } | undefined };
  const onCourse = new Set(levels.flatMap(({ course }) => course));
  return pieces.flatMap((piece) => {
    const { name, role, meets, by, place } = piece;
    // Whoever writes `meets: never` means it.
    const isMeant = own[name]?.meets !== undefined || role !== 'prop';
    if (meets !== 'never' || isMeant || by !== undefined || onCourse.has(name)) return [];
    const becomes = outcomesOf(piece);
    const rule = rules.find(
      ({ events }) => events.length > 0 && events.every((event) => becomes.includes(event)),
    );
    return rule === undefined ? [] : [finding('met-by-nobody', { piece: name, rule: rule.name }, place)];
  });
}

/** Of the outcomes that a piece has of its own, the one that nothing hears, unless it is the last. */
function outcomesUnheard({ pieces }: Design, { heard }: Uses): Finding[] {
  return pieces.flatMap((piece) => {
    const events = outcomesOf(piece);
    const [event, ...others] = events.filter((each) => !heard.has(each));
    if (events.length < 3 || event === undefined || others.length > 0 || event === events.at(-1)) return [];
    return [finding('outcome-unheard', { piece: piece.name, event }, piece.place)];
  });
}

/** Rules with an event that cannot happen on any of their screens. */
function deafRules(design: Design): Finding[] {
  return design.rules.flatMap(({ name, events, screens, place }) => {
    const canHappen = (event: string): boolean => {
      const [subject] = event.split('.') as [string];
      if (event.endsWith('.entered')) return screens.includes(subject);
      const timer = design.timers.find((each) => each.name === subject);
      if (timer !== undefined) return screens.some((screen) => timer.screens.includes(screen));
      // Pieces that a rule or a level makes appear may be told anywhere.
      if (!design.pieces.some((piece) => piece.name === subject) || event.endsWith('.appeared')) return true;
      return design.screens.some((screen) => screen.live && screens.includes(screen.name));
    };
    const deaf = events.filter((event) => !canHappen(event));
    const [event] = deaf;
    if (event === undefined) return [];
    // It needs the screens where each of its events can happen.
    const entered = deaf.flatMap((each) => /^(.*)\.entered$/.exec(each)?.[1] ?? []);
    const needs =
      entered.length < deaf.length ? [] : [...(deaf.length < events.length ? screens : []), ...entered];
    return [finding('rule-deaf', { rule: name, event, screens: screens.join(', '), needs }, place)];
  });
}

function unheardEvents(design: Design, { heard }: Uses): Finding[] {
  const told = new Set<string>();
  return [...design.rules, ...design.transitions].flatMap(({ effects, place }) =>
    effects.flatMap((effect) => {
      if (effect.kind !== 'emit' || heard.has(effect.name) || told.has(effect.name)) return [];
      told.add(effect.name);
      return [finding('event-unheard', { event: effect.name }, place)];
    }),
  );
}

/** Rules that make pieces appear on entering a screen that is not live, from which every way puts the level back. */
function spawnedInVain(design: Design): Finding[] {
  return design.rules.flatMap(({ name, events, effects, place }) => {
    const piece = effects.flatMap((effect) => (effect.kind === 'spawn' ? effect.pieces : []))[0]?.piece;
    if (piece === undefined || events.length === 0) return [];
    const screens = events.map((event) =>
      design.screens.find((screen) => event === `${screen.name}.entered`),
    );
    const isInVain = screens.every(
      (screen) =>
        screen !== undefined &&
        !screen.live &&
        design.transitions
          .filter(({ from }) => from === screen.name)
          .every((each) => putsBack(each, 'level')),
    );
    return isInVain
      ? [finding('spawned-in-vain', { rule: name, piece, screen: screens[0]!.name }, place)]
      : [];
  });
}

/** Rules that note a best score before another rule adds to the score, on the same event. */
function bestBeforeBonus({ rules }: Design, { score }: Uses): Finding[] {
  if (score === undefined) return [];
  return rules.flatMap((first, index) => {
    const notes = first.effects.map((effect) =>
      (effect.kind === 'set' ? writesOf(effect) : []).find(
        ({ name, amount }) => name !== score && countersIn(amount).includes(score),
      ),
    );
    const at = notes.findIndex((note) => note !== undefined);
    if (at < 0) return [];
    const raises = (effects: Rule['effects']): boolean => addedBy(effects).some(({ name }) => name === score);
    const later = raises(first.effects.slice(at + 1))
      ? first
      : rules
          .slice(index + 1)
          .find(
            ({ events, screens, effects }) =>
              events.some((event) => first.events.includes(event)) &&
              screens.some((screen) => first.screens.includes(screen)) &&
              raises(effects),
          );
    if (later === undefined) return [];
    const details = { counter: notes[at]!.name, score, first: first.name, second: later.name };
    const event = later.events.find((each) => first.events.includes(each));
    return [finding('best-before-bonus', { ...details, event }, first.place)];
  });
}

/** Whether a rule fires whenever it hears something. */
const isPlain = ({ events, condition, chance, once, rest, passes, effects }: Rule): boolean =>
  events.length > 0 &&
  condition === undefined &&
  chance === 1 &&
  once === undefined &&
  rest === 0 &&
  passes === undefined &&
  effects[0]?.kind !== 'pay';

/** Rules that add to a counter which the next rule, on the same event, sets to one number whatever it holds. */
function undoneAtOnce(design: Design): Finding[] {
  const { rules } = design;
  return rules.flatMap((second, index) => {
    if (!isPlain(second)) return [];
    const sets = second.effects.flatMap((effect) => (effect.kind === 'set' ? writesOf(effect) : []));
    for (const { name, amount } of sets) {
      const first = rules
        .slice(0, index)
        .find(
          (rule) =>
            rule.events.length > 0 &&
            rule.events.every((event) => second.events.includes(event)) &&
            rule.screens.every((screen) => second.screens.includes(screen)) &&
            addedBy(rule.effects).some((each) => each.name === name && rangeIn(design, each.amount)[1] > 0),
        );
      if (first === undefined || amount.kind !== 'number') continue;
      const details = { counter: name, value: amount.value, event: first.events[0]!, line: first.place.line };
      return [
        finding('undone-at-once', { ...details, first: first.name, second: second.name }, second.place),
      ];
    }
    return [];
  });
}

/** Two rules that hear the same and nothing else, and both add to a counter whenever they do. */
function addedTwice(design: Design): Finding[] {
  const plain = design.rules.filter(isPlain);
  return plain.flatMap((second, at) => {
    for (const first of plain.slice(0, at)) {
      const isAlike =
        hearAlike(first, second) && first.screens.some((screen) => second.screens.includes(screen));
      const both = addedBy(second.effects).find(({ name }) =>
        addedBy(first.effects).some((each) => each.name === name),
      );
      if (!isAlike || both === undefined) continue;
      const details = {
        counter: both.name,
        event: second.events[0]!,
        first: first.name,
        line: first.place.line,
      };
      return [finding('added-twice', { ...details, second: second.name }, second.place)];
    }
    return [];
  });
}

/** Words that a counter can hold, and that nothing ever puts there although something sets it. */
function wordsNeverSet({ counters }: Design, { writes }: Uses): Finding[] {
  return counters.flatMap(({ name, kind, words, start, place }) => {
    const own = writes.filter(({ counter }) => counter === name);
    if (kind !== 'words' || own.length === 0) return [];
    const given = [start, ...own.map(({ amount }) => amount)].map(wordsIn);
    const never = words.filter((_, word) => given.every((each) => each?.includes(word) === false));
    return never.length === 0 ? [] : [finding('word-unset', { counter: name, words: never }, place)];
  });
}

/** The words, by number, that an expression may give; undefined: any. */
function wordsIn(of: Expression): number[] | undefined {
  if (of.kind === 'number') return [of.value];
  if (of.kind !== 'choose') return undefined;
  const [yes, no] = [wordsIn(of.yes), wordsIn(of.no)];
  return yes && no && [...yes, ...no];
}
