import { showSeconds } from '../../design/language/trigger.js';
import type { Design, Transition } from '../../design/model.js';
import { type Finding, finding } from '../finding.js';
import { isInput, isLive, plainText } from '../uses.js';

/** Findings about pauses, and about transitions that stay where they are. */
export const aboutStays = (design: Design): Finding[] => [...aboutPauses(design), ...staysInVain(design)];

/** Pauses: screens that are neither live nor an ending, not the first, and entered from play by inputs only. */
function aboutPauses(design: Design): Finding[] {
  const { screens, transitions } = design;
  const isPlain = ({ from, events, fresh, effects }: Transition): boolean =>
    isLive(design, from) &&
    events.length > 0 &&
    events.every(isInput) &&
    fresh === undefined &&
    effects.length === 0;
  return screens.slice(1).flatMap(({ name, text, live, ending, place }) => {
    const into = transitions.filter(({ to }) => to === name);
    const out = transitions.filter(({ from }) => from === name);
    const isCalledPause = [name, plainText(text), ...into.flatMap(({ events }) => events)].some((each) =>
      /paus/i.test(each),
    );
    if (live && isCalledPause && into.every(isPlain) && out.some(({ to }) => to === 'back'))
      return [finding('pause-is-live', { screen: name }, place)];
    if (live || ending !== undefined || into.length === 0 || !into.every(isPlain)) return [];
    const back = out.filter(({ to }) => to === 'back' || into.some((each) => each.from === to));
    // Of one without any way on, that is told.
    if (isCalledPause && back.length === 0 && out.length > 0)
      return [finding('pause-ends-play', { screen: name, to: out[0]!.to }, place)];
    const fresh = back.find((each) => each.fresh !== undefined);
    if (fresh !== undefined && back.every((each) => each.fresh !== undefined))
      return [finding('pause-not-kept', { screen: name, to: fresh.to, fresh: fresh.fresh! }, fresh.place)];
    const safe = back.find((each) => each.fresh === undefined && each.grace !== 0);
    return safe === undefined
      ? []
      : [finding('pause-gives-grace', { screen: name, grace: showSeconds(safe.grace) }, safe.place)];
  });
}

/** Transitions at an event back to their own screen that do nothing there, though no other is kept from hearing the event. */
function staysInVain({ transitions, rules }: Design): Finding[] {
  return transitions.flatMap((transition, at) => {
    const { from, to, events, heard, fresh, level, wait, grace, effects, place } = transition;
    if (from !== to || events.length === 0 || effects.length > 0) return [];
    if (fresh !== undefined || level !== undefined || wait !== 0 || grace !== 0) return [];
    const entered = `${from}.entered`;
    const isHeard = [...rules, ...transitions].some((each) => each.events.includes(entered));
    // Entering it begins its waits again, and what stands above others keeps them from being taken.
    const isUsed = transitions.some(
      (each, other) =>
        each.from === from &&
        (each.wait !== 0 || (other > at && each.events.some((event) => events.includes(event)))),
    );
    return isHeard || isUsed
      ? []
      : [finding('stays-in-vain', { screen: from, when: heard.join(' or ') }, place)];
  });
}
