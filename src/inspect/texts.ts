import type { Expression } from '../design/language/expression.js';
import { comparisonsIn, showExpression } from '../design/language/expression-parts.js';
import type { Design, Template } from '../design/model.js';
import { boundsOf } from '../explore/abstraction/ranges.js';
import { type Finding, finding } from './finding.js';
import { addedBy, hearsOn, isInput, plainText, setBy } from './uses.js';

/** Findings about what texts say: inputs, prices and goals. */
export const aboutTexts = (design: Design): Finding[] => [
  ...textsWithoutInput(design),
  ...waysOnUntold(design),
  ...keysInVain(design),
  ...pricesToldWrong(design),
  ...goalsToldWrong(design),
];

/** Words with which a text asks for a key. */
const asksForInput =
  /\b(?:press|tap|click|hit|push)\s+(?:[a-z]+\s+){0,2}?(?:key|button|space|enter|return|start|fire|to|[a-z0-9])\b/i;

/** Texts that ask for a key on a screen that hears none. */
function textsWithoutInput(design: Design): Finding[] {
  const inputs = design.events.filter(isInput);
  return design.screens.flatMap(({ name, text, place }) => {
    const [said] = asksForInput.exec(plainText(text)) ?? [];
    return said === undefined || hearsOn(design, name, inputs)
      ? []
      : [finding('text-without-input', { screen: name, said }, place)];
  });
}

/** Texts that name what can be pressed on a screen that stands still, but nothing that leads on from there. */
function waysOnUntold({ screens, transitions, rules }: Design): Finding[] {
  return screens.flatMap(({ name, live, text, place }) => {
    const ways = transitions.filter(({ from }) => from === name);
    if (live || ways.length === 0 || !ways.every(({ events }) => events.length > 0 && events.every(isInput)))
      return [];
    const words = plainText(text).toLowerCase();
    const isSaid = (event: string): boolean => words.includes(shortOf(event).toLowerCase());
    const heard = rules.filter((rule) => rule.screens.includes(name)).flatMap(({ events }) => events);
    const said = [...new Set(heard.filter((event) => isInput(event) && isSaid(event)))];
    const onward = [...new Set(ways.flatMap(({ events }) => events))];
    return said.length === 0 || onward.some(isSaid)
      ? []
      : [
          finding(
            'way-on-untold',
            { screen: name, said: said.map(shortOf), onward: onward.map(shortOf) },
            place,
          ),
        ];
  });
}

/** Words with which a text names an input, and what stands behind them that is none. */
const namesInput = /\b(with|press|tap|push|hit)\s+([a-z]\w*)/gi;
const noInput =
  /^(?:an?|the|any|some|your|it|this|that|these|those|to|no|one|two|enter|space|return|escape|arrows?|keys?|mouse|pointer|fingers?|stick)$/i;

/** Texts that name several inputs in the same words, one of which nothing hears on their screen. */
function keysInVain(design: Design): Finding[] {
  const names = new Set([...design.counters, ...design.pieces].map(({ name }) => name));
  return design.screens.flatMap(({ name, text, place }) => {
    const named = [...plainText(text).matchAll(namesInput)].map(([said, how, word]) => ({
      said,
      how: how!.toLowerCase(),
      word: word!,
    }));
    const isHeard = ({ word }: { word: string }): boolean => hearsOn(design, name, [`input.${word}`]);
    // A text that tells how to play names what other screens hear.
    const isKnown = ({ word }: { word: string }): boolean => design.events.includes(`input.${word}`);
    const vain = named.find(
      (each) =>
        !isHeard(each) &&
        !noInput.test(each.word) &&
        !names.has(each.word) &&
        named.some(
          (other) => other.how === each.how && (isHeard(other) || (isKnown(other) && !isKnown(each))),
        ),
    );
    if (vain === undefined) return [];
    const inputs = design.events.filter(isInput);
    const here = inputs.filter((event) => hearsOn(design, name, [event]));
    const heard = named.some(isHeard) ? here : inputs;
    const { said, word } = vain;
    return [finding('key-in-vain', { screen: name, said, word, heard: heard.map(shortOf) }, place)];
  });
}

/** A price in a text, not a time or a number of something else that a purchase brings. */
const asksPrice = /\bfor (\d+)\b(?! *(?:s|seconds?|minutes?|levels?|lives|waves?|rounds?|runs?)\b)/;

/** What is bought on a screen that stands still: by which inputs, for how much, and which counters it adds to. */
interface Sold {
  readonly rule: string;
  readonly inputs: readonly string[];
  readonly paid: readonly Expression[];
  readonly gains: readonly string[];
}

const soldOn = ({ rules, transitions }: Design, screen: string): Sold[] =>
  [
    ...rules,
    ...transitions.map((way) => ({ ...way, name: `${way.from} -> ${way.to}`, screens: [way.from] })),
  ].flatMap(({ name, screens, events, effects }) => {
    const [first] = effects;
    if (!screens.includes(screen) || events.length === 0 || !events.every(isInput)) return [];
    const paid = first?.kind === 'pay' ? first.writes.map(({ amount }) => amount) : [];
    const gains = [...addedBy(effects), ...setBy(effects)].map((write) => write.name);
    return [{ rule: name, inputs: events.map(shortOf), paid, gains }];
  });

/** Texts of screens that stand still that say a price which nothing takes there, where something takes another. */
function pricesToldWrong(design: Design): Finding[] {
  return design.screens.flatMap(({ name, live, text, place }) => {
    if (live) return [];
    const sold = soldOn(design, name);
    const words = plainText(text);
    const told = costs(words).flatMap(({ said, thing, price }) => {
      const [one, ...more] = sold.filter(({ inputs, gains }) =>
        [...inputs, ...gains].some((each) => isCalled(each, thing)),
      );
      if (one === undefined || more.length > 0 || one.gains.length === 0) return [];
      const known = one.paid.flatMap((amount) => (amount.kind === 'number' ? [amount.value] : []));
      if (known.length < one.paid.length || known.includes(price)) return [];
      const details = { screen: name, said, rule: one.rule, price: known[0] ?? 0 };
      return [finding('price-told-wrong', details, place)];
    });
    if (told.length > 0) return told.slice(0, 1);
    const paid = sold.flatMap(({ rule, paid: prices }) => prices.map((amount) => ({ rule, amount })));
    const known = paid.flatMap(({ rule, amount }) =>
      amount.kind === 'number' ? [{ rule, price: amount.value }] : [],
    );
    const [said, price] = asksPrice.exec(words) ?? [];
    if (said === undefined || known.length < paid.length || known.length === 0) return [];
    if (known.some((each) => each.price === Number(price))) return [];
    return [finding('price-told-wrong', { screen: name, said, ...known[0]! }, place)];
  });
}

/** What a text says that things cost: `bait costs 1`. */
const costs = (text: string): { readonly said: string; readonly thing: string; readonly price: number }[] =>
  [...text.matchAll(/\b([a-z]+) costs? (\d+)\b/gi)].map(([said, thing, price]) => ({
    said,
    thing: thing!,
    price: Number(price),
  }));

/** Whether a text means a name by a word, be it for several of it. */
const isCalled = (name: string, word: string): boolean => {
  const [plain, said] = [name, word].map((each) => each.toLowerCase().replace(/s$/, ''));
  return plain === said;
};

/** Texts that tell a counter next to a number as its goal, where everything that asks for so many asks for another number. */
function goalsToldWrong(design: Design): Finding[] {
  const { screens, transitions, rules, pieces, hud } = design;
  const askedIn = (conditions: readonly (Expression | undefined)[], counter: string) =>
    conditions
      .flatMap((each) => comparisonsIn(each, ['>=', '>', '==']))
      .filter(({ left }) => left.kind === 'counter' && left.name === counter);
  const goals = [...transitions.map(({ condition }) => condition), ...pieces.map(({ needs }) => needs)];
  const steps = rules.map(({ condition }) => condition);
  return [...screens, ...hud].flatMap(({ text, place }) => {
    const [wrong] = text.flatMap((part, at) => {
      const [said, written] = /^ ?(?:of|\/) ?(\d+)\b(?! *%)/.exec(textAfter(text, at)) ?? [];
      if (typeof part === 'string' || part.kind !== 'counter' || said === undefined) return [];
      const counter = design.counters.find(({ name }) => name === part.name)!;
      const ofGoals = askedIn(goals, part.name);
      const own = ofGoals.length > 0 ? ofGoals : askedIn(steps, part.name);
      const numbers = own.flatMap(({ right, operator }) =>
        right.kind === 'number' ? [right.value + (operator === '>' ? 1 : 0)] : [],
      );
      if (numbers.length === 0 || numbers.length < own.length) return [];
      if ([...numbers, boundsOf(design, counter).max].includes(Number(written))) return [];
      return [{ said: `{${part.name}}${said}`, asks: showExpression(own[0]!) }];
    });
    return wrong === undefined ? [] : [finding('goal-told-wrong', wrong, place)];
  });
}

/** The words that stand behind a part of a text. */
const textAfter = (text: Template, at: number): string => {
  const next = text[at + 1];
  return typeof next === 'string' ? next : '';
};

const shortOf = (input: string): string => input.slice('input.'.length);
