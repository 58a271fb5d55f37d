import { conjunctsOf, showExpression } from '../design/language/expression-parts.js';
import type { Design, Effect, Rule, Transition } from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import { type Finding, finding } from './finding.js';
import { writesOf, writtenRules } from './uses.js';

/** One thing that a rule or a transition asks for or does: `if`, `turn == amber`; `set`, `pile to 0`. */
interface Part {
  readonly kind: 'when' | 'if' | 'to' | 'level' | 'fresh' | Effect['kind'];
  readonly said: string;
  readonly words: readonly string[];
}

/** A rule or a transition, by all that it asks for and does. */
interface Twin {
  readonly name: string;
  readonly heard: Part;
  readonly parts: readonly Part[];
  /** The transition; undefined: it is a rule. */
  readonly way?: Transition;
  readonly place: Place;
}

/** Parts that two rules have to have in common to be taken for the same, once for either side. */
const fewestCommon = 3;

/** The same where each hears its own, such as `peg.red` and `peg.blue`, with that as one of them. */
const fewestHeardApart = 2;

/** With more rules than that, it would take long to compare each with each. */
const mostRules = 200;

/**
 * Pairs of rules that do the same, one for either side (two players in turn, left and right), but for one thing that only one of them asks for
 * or does: what is copied and changed in all places but one.
 */
export function unlikeTwins(design: Design): Finding[] {
  return [
    ...unlikeAmong(
      writtenRules(design).map((rule) => ({
        name: rule.name,
        heard: heardBy(rule.events, rule.screens),
        parts: partsOf(rule),
        place: rule.place,
      })),
    ),
    ...unlikeAmong(
      design.transitions.map((way) => ({
        name: `${way.from} -> ${way.to}`,
        heard: heardBy(way.events, [way.from]),
        parts: [
          ...partsOf(way),
          partOf('to', way.to),
          ...(way.level === undefined ? [] : [partOf('level', String(way.level))]),
          ...(way.fresh === undefined ? [] : [partOf('fresh', way.fresh)]),
        ],
        way,
        place: way.place,
      })),
    ),
  ];
}

function unlikeAmong(all: readonly Twin[]): Finding[] {
  const twins = all.filter(({ parts }) => parts.length > 0);
  if (twins.length > mostRules) return [];
  return twins.flatMap((rule, at) =>
    twins.slice(at + 1).flatMap((other): Finding[] => {
      const sides = sidesOf([rule.heard, ...rule.parts], [other.heard, ...other.parts]);
      if (
        sides === undefined ||
        leadsBack(rule, other) ||
        swapped(rule.heard.said, sides) !== other.heard.said
      )
        return [];
      const [first, second] = sides;
      const own = rule.parts.map((part) => ({ ...part, said: swapped(part.said, sides) }));
      const more = without(own, other.parts);
      const less = without(other.parts, own);
      const [one] = more.length > 0 ? more : less;
      const isHeardApart = rule.heard.said !== other.heard.said;
      const fewest = isHeardApart ? fewestHeardApart : fewestCommon;
      const inCommon = own.length - more.length + (isHeardApart ? 1 : 0);
      if (one === undefined || inCommon < fewest) return [];
      const isLeftOut = more.length + less.length === 1;
      // One may add what the other sets.
      const isOtherKind = more.length === 1 && less.length === 1 && more[0]!.said === less[0]!.said;
      // What is copied, and left as it was.
      const isCopied =
        more.length === 1 && less.length === 1 && swapped(more[0]!.said, sides) === less[0]!.said;
      // Of what either has of its own, one asks for another number, or compares it otherwise.
      const isOtherwise =
        more.length === 1 &&
        less.length === 1 &&
        one.kind === 'if' &&
        compared(one.said) === compared(less[0]!.said) &&
        swapped(one.said, sides) !== one.said;
      if (!isLeftOut && !isOtherKind && !isCopied && !isOtherwise) return [];
      const [does, lacks] = more.length > 0 ? [rule, other] : [other, rule];
      // Each is said as the rule says it that has it.
      const part = written(does === rule ? { ...one, said: swapped(one.said, sides) } : one);
      const instead = isLeftOut ? undefined : written(less[0]!);
      const details = { rule: lacks.name, twin: does.name, first, second, part, instead };
      return [finding('unlike-its-twin', details, lacks.place)];
    }),
  );
}

/** Whether one is the way back of the other. */
const leadsBack = ({ way }: Twin, { way: other }: Twin): boolean =>
  way !== undefined && way.from === other?.to && way.to === other.from;

const heardBy = (events: readonly string[], screens: readonly string[]): Part =>
  partOf('when', `${events.join(' ')} on ${screens.join(' ')}`);

/** A condition without what it is compared with, and how. */
const compared = (said: string): string => said.replace(/[<>=!]=?/g, '~').replace(/\b\d+(?:\.\d+)?\b/g, '0');

/** The words of a text, those apart that one name is made of: `redLine` is `red` and `Line`. */
const wordParts = /[A-Z]?[a-z]+|[A-Z]+|\d+/g;

/** A text in which two words stand each in the place of the other. */
const swapped = (text: string, [first, second]: readonly [string, string]): string =>
  text.replace(wordParts, (word) => {
    const other = { [first]: second, [second]: first }[word.toLowerCase()];
    if (other === undefined) return word;
    return word[0] === word[0]!.toLowerCase() ? other : other[0]!.toUpperCase() + other.slice(1);
  });

/** The two words that stand for each other in most of what two rules say, in two places at least. */
function sidesOf(parts: readonly Part[], others: readonly Part[]): readonly [string, string] | undefined {
  const counts = new Map<string, number>();
  for (const { kind, words } of parts)
    for (const other of others) {
      if (kind !== other.kind || words.length !== other.words.length) continue;
      const [differing, ...more] = words.flatMap((word, at) =>
        word === other.words[at]
          ? []
          : [[word.toLowerCase(), other.words[at]!.toLowerCase()].sort().join(' ')],
      );
      if (differing === undefined || more.length > 0 || !/^[a-z_]\w* [a-z_]/i.test(differing)) continue;
      counts.set(differing, (counts.get(differing) ?? 0) + 1);
    }
  const [most] = [...counts].sort(([, one], [, other]) => other - one);
  return most === undefined || most[1] < 2 ? undefined : (most[0].split(' ') as [string, string]);
}

/** The parts that others lack, each counted as often as it stands there. */
function without(parts: readonly Part[], others: readonly Part[]): Part[] {
  const left = others.map(({ kind, said }) => `${kind} ${said}`);
  return parts.filter(({ kind, said }) => {
    const at = left.indexOf(`${kind} ${said}`);
    if (at >= 0) left.splice(at, 1);
    return at < 0;
  });
}

/** As it stands in the file. */
const written = ({ kind, said }: Part): string =>
  /^(if|to|level|fresh|start|stop)$/.test(kind) ? `${kind}: ${said}` : `${kind}: { ${said} }`;

const partOf = (kind: Part['kind'], said: string): Part => ({
  kind,
  said,
  words: said.match(/[A-Z]?[a-z]+|[A-Z]+|\d+|[^\w\s]/g) ?? [],
});

const partsOf = ({ condition, effects }: Rule | Transition): Part[] => [
  ...conjunctsOf(condition).map((part) => partOf('if', showExpression(part))),
  ...effects.flatMap((effect): Part[] => {
    const { kind } = effect;
    if (kind === 'start' || kind === 'stop') return effect.timers.map((timer) => partOf(kind, timer));
    const timers = kind === 'add' || kind === 'set' ? effect.timers : [];
    // A cue, or a popup, may be one's own.
    return [...writesOf(effect), ...timers].map(({ name, amount }) =>
      partOf(kind, `${name}: ${showExpression(amount)}`),
    );
  }),
];
