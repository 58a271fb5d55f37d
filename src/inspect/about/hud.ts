import { comparisonsIn, showExpression } from '../../design/language/expression-parts.js';
import type { Design } from '../../design/model.js';
import type { Place } from '../../design/problems/problem.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import { hasMax, hearsOn, isLive, plainText, putsBack, type Uses } from '../uses.js';

/**
 * Findings about what is shown: on the HUD, and as the texts of screens.
 *
 * @param highest what the score was proved to stay within; undefined: that is not known
 */
export function aboutHud(design: Design, uses: Uses, highest: number | undefined): Finding[] {
  const findings = [...leftTooSoon(design), ...labelsTwice(design)];
  for (const { show, as, width, text, condition, screens, input, place } of design.hud) {
    if (input !== undefined) findings.push(...aboutPrompt(design, input, screens, uses, place));
    const counter = design.counters.find(({ name }) => name === show);
    const timer = design.timers.find(({ name }) => name === show);
    const proved = counter?.name === design.score ? highest : undefined;
    const widest = counter === undefined || as !== 'digits' ? 0 : (proved ?? widestOf(design, counter, uses));
    if (counter !== undefined && widest >= 10 ** width)
      findings.push(finding('too-wide', { counter: counter.name, width, max: widest }, place));
    if (counter !== undefined && as === 'icons' && neverFills(design, counter, uses)) {
      const [, start] = rangeIn(design, counter.start);
      findings.push(
        finding(
          'icons-never-full',
          { counter: counter.name, start, max: boundsOf(design, counter).max },
          place,
        ),
      );
    }
    if (condition !== undefined && rangeIn(design, condition)[1] === 0) {
      const what = show ?? `"${plainText(text)}"`;
      findings.push(finding('never-shown', { what, condition: showExpression(condition) }, place));
    }
    const vain = counter === undefined ? [] : screens.filter((screen) => isInVain(design, counter, screen));
    if (vain.length > 0)
      findings.push(finding('shown-in-vain', { counter: counter!.name, screen: vain.join(', ') }, place));
    const still = timer === undefined ? [] : screens.filter((screen) => !timer.screens.includes(screen));
    if (timer !== undefined && still.length > 0 && still.length === screens.length)
      findings.push(finding('clock-stands', { timer: timer.name, screen: still.join(', ') }, place));
  }
  return findings;
}

/** Items whose label another has on the same screen, for something else. */
function labelsTwice({ hud }: Design): Finding[] {
  return hud.flatMap(({ show, label, condition, screens, place }, at) => {
    if (show === undefined || label === undefined || label === '' || condition !== undefined) return [];
    for (const other of hud.slice(0, at)) {
      const screen = screens.find((each) => other.screens.includes(each));
      const isAlike = other.label === label && other.show !== undefined && other.show !== show;
      if (isAlike && other.condition === undefined && screen !== undefined)
        return [finding('label-twice', { label, line: other.place.line, screen }, place)];
    }
    return [];
  });
}

/**
 * Screens that a wait leaves before anybody can have read what they say. Nobody reads more than some twelve words a second, even where
 * they only skim (Carver, "Reading rate: theory, research, and practical implications", 1992), and finding the text takes a moment too.
 */
function leftTooSoon(design: Design): Finding[] {
  const { screens, transitions } = design;
  return screens.flatMap(({ name, live, text, place }) => {
    const words = text.flatMap((part) =>
      typeof part === 'string' ? (part.match(/[\p{L}\p{N}]\S*/gu) ?? []) : [''],
    ).length;
    const waits = transitions.filter(
      ({ from, events, wait }) => from === name && events.length === 0 && wait !== 0,
    );
    if (live || words < 2 || waits.length === 0) return [];
    const seconds = Math.max(
      ...waits.map(({ wait }) => (typeof wait === 'number' ? wait / 1000 : rangeIn(design, wait)[1])),
    );
    if (seconds >= 0.25 + words / 12) return [];
    const enough = Math.ceil(2 * (0.5 + words / 4)) / 2;
    return [finding('text-too-brief', { screen: name, seconds, words, enough }, place)];
  });
}

/** What is wrong with a prompt: nothing takes the input that it offers, at all or where it is shown. */
function aboutPrompt(
  design: Design,
  input: string,
  screens: readonly string[],
  { heard }: Uses,
  place: Place,
): Finding[] {
  if (!heard.has(input)) return [finding('input-unused', { input }, place)];
  const deaf = screens.filter((screen) => !hearsOn(design, screen, [input]));
  return deaf.length === 0 ? [] : [finding('input-not-taken', { input, screens: deaf.join(', ') }, place)];
}

/** Whether nothing is played on a screen, nothing played leads to it, and all that leads on puts a counter back. */
function isInVain(design: Design, { keep }: Design['counters'][0], screen: string): boolean {
  const { screens, transitions } = design;
  const isPlayed = (name: string): boolean => isLive(design, name);
  const { live, ending } = screens.find(({ name }) => name === screen)!;
  const out = transitions.filter(({ from, to }) => from === screen && to !== screen);
  const leadsIn = transitions.some(({ from, to }) => to === screen && isPlayed(from));
  const arePutBack = out.every((each) => !isPlayed(each.to) || putsBack(each, keep));
  return (
    !live &&
    ending === undefined &&
    out.length > 0 &&
    !leadsIn &&
    arePutBack &&
    out.some(({ to }) => isPlayed(to))
  );
}

/** The largest value that is known of a counter: its max, or without one the most that a single write adds. */
function widestOf(design: Design, counter: Design['counters'][0], { writes }: Uses): number {
  if (hasMax(design, counter)) return boundsOf(design, counter).max;
  const amounts = writes
    .filter((write) => write.counter === counter.name && write.kind !== 'pay')
    .map(({ amount }) => rangeIn(design, amount)[1]);
  return Math.max(0, ...[...amounts, ...askedOf(design, counter.name)].filter((most) => most < 2 ** 53));
}

/** What conditions, needs of pieces and targets ask a counter to come up to, where that is a number. */
function askedOf(design: Design, name: string): number[] {
  const asked = design.targets.flatMap(({ measure, from, to }) =>
    measure === 'score' && name === design.score ? [from, to] : [],
  );
  const conditions = [
    ...design.transitions.map(({ condition }) => condition),
    ...design.pieces.map(({ needs }) => needs),
  ];
  for (const { left, right } of conditions.flatMap((each) => comparisonsIn(each, ['>=', '>']))) {
    if (left.kind !== 'counter' || left.name !== name) continue;
    const goals =
      right.kind === 'levelValue' ? design.levels.map(({ values }) => values.get(right.name)) : [right];
    for (const goal of goals) if (goal?.kind === 'number') asked.push(goal.value);
  }
  return asked;
}

/** Whether a counter starts below its max and nothing ever raises it. */
const neverFills = (design: Design, { name, start, max }: Design['counters'][0], { writes }: Uses): boolean =>
  typeof max === 'number' &&
  rangeIn(design, start)[1] < max &&
  max < 2 ** 53 &&
  writes
    .filter(({ counter }) => counter === name)
    .every(({ kind, amount }) => {
      const [, most] = rangeIn(design, amount);
      return kind === 'pay' || (kind === 'add' ? most <= 0 : most <= rangeIn(design, start)[1]);
    });
