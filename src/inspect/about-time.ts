import { visitExpression } from '../design/language/expression-parts.js';
import type { ComputedInterval, Design, Interval, Spawn } from '../design/model.js';
import { spans } from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import { rangeIn } from '../explore/abstraction/ranges.js';
import { type Finding, finding } from './finding.js';
import { hearsOn, type Uses } from './uses.js';

/** Findings about timers, spawns and what they do at the start. */
export function aboutTime(design: Design, uses: Uses): Finding[] {
  return [
    ...aboutTimers(design, uses),
    ...design.levels.flatMap(({ spawns }) => spawns.flatMap((spawn) => aboutSpawn(design, spawn))),
    ...hitsAtOnce(design),
  ];
}

function aboutTimers(design: Design, { heard, shown, shownInPlay, timersUsed }: Uses): Finding[] {
  return design.timers.flatMap(({ name, kind, event, keep, interval, warn, screens, place }): Finding[] => {
    const isUsed = heard.has(event) || (warn.length > 0 && heard.has(`${name}.warned`));
    // A countdown that is shown promises that something happens when it is over.
    const isOnlyShown = kind !== 'countdown' && shown.has(name);
    const unheard = !isUsed && !isOnlyShown && !timersUsed.has(name);
    const hasRun = design.transitions.some(({ fresh }) => fresh === 'run');
    const isFelt = kind === 'countdown' && design.transitions.some(({ events }) => events.includes(event));
    const isLive = (screen: string): boolean =>
      design.screens.some((each) => each.name === screen && each.live);
    const idle = screens.filter(
      (screen) => !isLive(screen) && !hearsOn(design, screen, [event, `${name}.warned`]),
    );
    return [
      ...(isFelt && design.hud.length > 0 && !shownInPlay.has(name) && screens.some(isLive)
        ? [finding('countdown-unshown', { timer: name }, place)]
        : []),
      ...(idle.length > 0 ? [finding('runs-idle', { timer: name, screens: idle.join(', ') }, place)] : []),
      ...(unheard ? [finding('timer-unheard', { timer: name, event }, place)] : []),
      ...(hasRun && spans.indexOf(keep) > spans.indexOf('run')
        ? [finding('outlives-the-run', { what: name, keep }, place)]
        : []),
      ...tooShort(design, `The timer ${name}`, interval, place),
    ];
  });
}

function aboutSpawn(design: Design, { piece, every, atOnce, total, place }: Spawn): Finding[] {
  const { meets, lasts } = design.pieces.find(({ name }) => name === piece)!;
  const isUnbounded =
    atOnce === undefined && total === undefined && meets === 'sought' && lasts === undefined;
  const isCleared = design.rules.some(({ effects }) =>
    effects.some((effect) => effect.kind === 'clear' && effect.pieces.includes(piece)),
  );
  return [
    ...(isUnbounded && !isCleared ? [finding('spawn-unbounded', { piece }, place)] : []),
    ...tooShort(design, `The interval of ${piece}`, every, place),
  ];
}

/** An interval of levels and dials alone that comes down to nothing; what else it may read has no bound to speak of. */
function tooShort(
  design: Design,
  what: string,
  interval: Interval | ComputedInterval,
  place: Place,
): Finding[] {
  if (!('seconds' in interval)) return [];
  let isKnown = true;
  visitExpression(interval.seconds, ({ kind }) => {
    if (['counter', 'present', 'left', 'timer', 'course'].includes(kind)) isKnown = false;
  });
  const [least] = rangeIn(design, interval.seconds);
  return isKnown && least <= 0 ? [finding('interval-too-short', { what, seconds: least }, place)] : [];
}

/** Milliseconds after a fresh start in which nothing should hurt. */
const firstMoment = 1000;

/** Hazards of the first level that arrive within its first moment, where some way in gives no grace. */
function hitsAtOnce(design: Design): Finding[] {
  const ways = design.transitions.filter(
    ({ to, fresh }) => fresh !== undefined && design.screens.some(({ name, live }) => name === to && live),
  );
  const unsafe = ways.length === 0 ? 0 : Math.min(...ways.map(({ grace }) => grace));
  if (ways.length === 0) return [];
  const [level] = design.levels;
  return design.pieces.flatMap(({ name, role, meets, lead, outcomes, place }) => {
    if (role !== 'hazard' || meets !== 'arrives' || !outcomes.some((each) => each.name === 'hit')) return [];
    const firsts = level!.spawns
      .filter(({ piece }) => piece === name)
      .map(({ first, every }) => leastOf(first ?? every));
    const isPlaced = level!.placed.some(({ piece }) => piece === name);
    const arrives = Math.min(...firsts, ...(isPlaced ? [0] : [])) + lead.least;
    return arrives < firstMoment && arrives >= unsafe
      ? [finding('hit-at-once', { piece: name, seconds: arrives / 1000 }, place)]
      : [];
  });
}

const leastOf = (interval: Interval | ComputedInterval): number => ('least' in interval ? interval.least : 1);
