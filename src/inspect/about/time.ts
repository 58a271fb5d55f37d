import type { Expression } from '../../design/language/expression.js';
import { showExpression, visitExpression } from '../../design/language/expression-parts.js';
import type { ComputedInterval, Design, Effect, Interval, Spawn, Timer } from '../../design/model.js';
import { spans } from '../../design/model.js';
import { leastDuration, rangeIn } from '../../explore/abstraction/ranges.js';
import { type Finding, finding } from '../finding.js';
import { hearsOn, isLive, putsBack, type Uses, writesOf } from '../uses.js';
import { aboutDurations } from './durations.js';

/**
 * Findings about timers, spawns and what they do at the start.
 *
 * @param isFlowSound whether every transition can be taken: else that already reports a goal that cannot be met
 */
export function aboutTime(design: Design, uses: Uses): Finding[] {
  return [
    ...aboutTimers(design, uses),
    ...design.levels.flatMap(({ spawns }) => spawns.flatMap((spawn) => aboutSpawn(design, spawn))),
    ...hitsAtOnce(design),
    ...hitsUnforeseen(design),
    ...spawnsTooLate(design),
    ...graceOutlasting(design),
    ...aboutDurations(design, uses),
    ...runningFromTheStart(design, uses),
    ...timersSpent(design),
    ...endsInVain(design, uses),
    ...timersNotStarted(design, uses),
  ];
}

function aboutTimers(design: Design, { heard, shown, shownInPlay, timersUsed }: Uses): Finding[] {
  return design.timers.flatMap(({ name, kind, event, keep, warn, screens, place }): Finding[] => {
    // That a countdown warns is no use without its end.
    const isUsed =
      heard.has(event) || (kind !== 'countdown' && warn.length > 0 && heard.has(`${name}.warned`));
    // A countdown that is shown promises that something happens when it is over.
    const isOnlyShown = kind !== 'countdown' && shown.has(name);
    const unheard = !isUsed && !isOnlyShown && !timersUsed.has(name);
    const hasRun = design.transitions.some(({ fresh }) => fresh === 'run');
    const isEnd = design.transitions.some(({ events }) => events.includes(event));
    // Of rules, one that changes what is counted.
    const rule = isEnd
      ? undefined
      : design.rules.find(
          ({ events, effects }) =>
            events.includes(event) && effects.some((effect) => writesOf(effect).length > 0),
        )?.name;
    const isFelt = kind === 'countdown' && (isEnd || rule !== undefined);
    const idle = screens.filter(
      (screen) => !isLive(design, screen) && !hearsOn(design, screen, [event, `${name}.warned`]),
    );
    return [
      ...(isFelt &&
      design.hud.length > 0 &&
      !shownInPlay.has(name) &&
      screens.some((screen) => isLive(design, screen))
        ? [finding('countdown-unshown', { timer: name, rule }, place)]
        : []),
      ...(idle.length > 0 ? [finding('runs-idle', { timer: name, screens: idle.join(', ') }, place)] : []),
      ...(unheard ? [finding('timer-unheard', { timer: name, event }, place)] : []),
      ...(hasRun && spans.indexOf(keep) > spans.indexOf('run')
        ? [finding('outlives-the-run', { what: name, keep }, place)]
        : []),
    ];
  });
}

function aboutSpawn(design: Design, { piece, atOnce, total, place }: Spawn): Finding[] {
  const { meets, lasts } = design.pieces.find(({ name }) => name === piece)!;
  const isUnbounded =
    atOnce === undefined && total === undefined && meets === 'sought' && lasts === undefined;
  const isCleared = design.rules.some(({ effects }) =>
    effects.some((effect) => effect.kind === 'clear' && effect.pieces.includes(piece)),
  );
  return isUnbounded && !isCleared ? [finding('spawn-unbounded', { piece }, place)] : [];
}

/** Milliseconds after a fresh start in which nothing should hurt. */
const firstMoment = 1000;

/**
 * Hazards and foes of the first level that arrive within its first moment, where some way in gives no grace; and those that stay where
 * they hit, where a fresh life begins beside them.
 */
function hitsAtOnce(design: Design): Finding[] {
  const ways = design.transitions.filter(({ to, fresh }) => fresh !== undefined && isLive(design, to));
  const unsafe = ways.length === 0 ? 0 : Math.min(...ways.map(({ grace }) => leastDuration(design, grace)));
  if (ways.length === 0) return [];
  const [level] = design.levels;
  return design.pieces.flatMap(({ name, role, meets, lead, outcomes, ends, place }) => {
    if (
      !['hazard', 'foe'].includes(role) ||
      meets !== 'arrives' ||
      !outcomes.some((each) => each.name === 'hit')
    )
      return [];
    const isPlaced = level!.placed.some(({ piece }) => piece === name);
    const isBeside =
      isPlaced && !ends.includes('hit') && ways.some(({ fresh, grace }) => fresh === 'life' && grace === 0);
    if (isBeside) return [finding('hit-at-once', { piece: name, seconds: 0 }, place)];
    const firsts = level!.spawns
      .filter(({ piece }) => piece === name)
      .map(({ first, every }) => leastOf(design, first ?? every));
    const arrives = Math.min(...firsts, ...(isPlaced ? [0] : [])) + leastOf(design, lead);
    return arrives < firstMoment && arrives >= unsafe
      ? [finding('hit-at-once', { piece: name, seconds: arrives / 1000 }, place)]
      : [];
  });
}

/** Milliseconds in which nobody chooses what to do about what they see: to react at all takes some 180 (Woodworth and Schlosberg 1954). */
const reaction = 200;

/** Hazards and foes that levels spawn, and that hit before anybody can react. */
function hitsUnforeseen({ pieces, levels }: Design): Finding[] {
  const isSpawned = (name: string): boolean =>
    levels.some(({ spawns }) => spawns.some(({ piece }) => piece === name));
  return pieces.flatMap(({ name, role, meets, lead, outcomes, place }) => {
    const isHarm = role === 'hazard' || role === 'foe';
    if (!isHarm || meets !== 'arrives' || outcomes.length < 2 || !isSpawned(name)) return [];
    return 'most' in lead && lead.most < reaction
      ? [finding('hit-unforeseen', { piece: name, seconds: lead.most / 1000 }, place)]
      : [];
  });
}

const leastOf = (design: Design, interval: Interval | ComputedInterval): number =>
  'least' in interval ? interval.least : leastDuration(design, interval.seconds);

/** Whether a rule or a transition does one of these to a timer: starts or stops it, or changes its seconds. */
const isDone = ({ rules, transitions }: Design, timer: string, kinds: readonly Effect['kind'][]): boolean =>
  [...rules, ...transitions].some(({ effects }) =>
    effects.some(
      (effect) =>
        kinds.includes(effect.kind) &&
        'timers' in effect &&
        effect.timers.some((each) => (typeof each === 'string' ? each : each.name) === timer),
    ),
  );

/** The shortest countdown that ends play on every live screen, begins with each level, and that nothing changes. */
function shortestPlay(design: Design): { readonly timer: Timer; readonly most: number } | undefined {
  const live = design.screens.filter((screen) => screen.live).map(({ name }) => name);
  const found = design.timers.flatMap((timer) => {
    const { name, kind, interval, event, screens } = timer;
    const endsPlay = live.every(
      (screen) =>
        screens.includes(screen) &&
        design.transitions.some(
          ({ from, to, events, condition, wait }) =>
            from === screen &&
            !live.includes(to) &&
            to !== 'back' &&
            events.includes(event) &&
            condition === undefined &&
            wait === 0,
        ),
    );
    const isFixed =
      'least' in interval && kind !== 'every' && !isDone(design, name, ['start', 'stop', 'add', 'set']);
    return isFixed && endsPlay ? [{ timer, most: interval.most }] : [];
  });
  return found.sort((a, b) => a.most - b.most)[0];
}

/** Spawns that begin only when a countdown has ended play already. */
function spawnsTooLate(design: Design): Finding[] {
  const play = shortestPlay(design);
  // A timer that is kept for a run begins once, so that a level has less time than that, not more.
  if (play === undefined) return [];
  const { timer, most } = play;
  return design.levels.flatMap(({ spawns }) =>
    spawns.flatMap(({ piece, first, every, place }) => {
      const begins = first ?? every;
      if (!('least' in begins) || begins.least < most) return [];
      const details = { piece, seconds: begins.least / 1000, timer: timer.name, ends: most / 1000 };
      return [finding('spawn-too-late', details, place)];
    }),
  );
}

/** A grace shorter than this is a pause between two contacts, whatever else there is. */
const longGrace = 3000;

/** A grace after a hit in which several more that could hit come and go. */
function graceOutlasting(design: Design): Finding[] {
  const harmful = design.pieces.filter(({ outcomes }) => outcomes.some(({ name }) => name === 'hit'));
  const every = design.levels
    .flatMap(({ spawns }) => spawns)
    .filter(({ piece }) => harmful.some(({ name }) => name === piece))
    .map(({ every: interval }) => ('most' in interval ? interval.most : 0));
  const rarest = Math.max(...every);
  if (every.length === 0 || rarest === 0) return [];
  return design.rules.flatMap(({ name, events, effects, place }) => {
    const graces = effects.map((effect) =>
      effect.kind === 'grace' ? leastDuration(design, effect.duration) : 0,
    );
    const grace = Math.max(0, ...graces);
    const isAfterHit = events.some((event) => harmful.some((piece) => event === `${piece.name}.hit`));
    if (!isAfterHit || grace < longGrace || grace < 2 * rarest) return [];
    return [finding('grace-too-long', { rule: name, grace: grace / 1000, every: rarest / 1000 }, place)];
  });
}

/** Timers that a rule starts for a while and that conditions take to run only then, though they also run from the start. */
function runningFromTheStart(design: Design, { heard, writes }: Uses): Finding[] {
  const { timers, rules, transitions } = design;
  const runs = new Set<string>();
  const isRunning = (part: Expression): void => {
    if (part.kind !== 'binary') return;
    const { operator, left, right } = part;
    if (left.kind === 'timer' && ['>', '!='].includes(operator) && isZero(right)) runs.add(left.name);
    if (right.kind === 'timer' && ['<', '!='].includes(operator) && isZero(left)) runs.add(right.name);
  };
  for (const { condition } of [...rules, ...transitions])
    if (condition !== undefined) visitExpression(condition, isRunning);
  for (const { amount } of writes) visitExpression(amount, isRunning);
  return timers.flatMap(({ name, event, keep, interval, place }) => {
    const seconds = 'least' in interval ? interval.least / 1000 : undefined;
    return runs.has(name) &&
      isDone(design, name, ['start']) &&
      !isDone(design, name, ['stop']) &&
      !heard.has(event)
      ? [finding('runs-from-start', { timer: name, keep, seconds }, place)]
      : [];
  });
}

const isZero = (of: Expression): boolean => of.kind === 'number' && of.value === 0;

/** Whether anything but its start sets a timer going, or changes its seconds. */
const isStarted = (design: Design, timer: string): boolean => isDone(design, timer, ['start', 'add', 'set']);

/** Timers whose end leads out of play to where a way back starts something afresh, but not the timer. */
function timersSpent(design: Design): Finding[] {
  const { timers, transitions, screens } = design;
  const isStill = (screen: string): boolean =>
    screens.some(({ name, live, ending }) => name === screen && !live && ending === undefined);
  return timers.flatMap(({ name, kind, event, keep, screens: runsOn, place }) => {
    if (kind === 'every' || isStarted(design, name)) return [];
    const after = new Set(
      transitions.flatMap(({ from, to, events }) =>
        events.includes(event) && isLive(design, from) && isStill(to) ? [to] : [],
      ),
    );
    for (const screen of after) {
      const ways = transitions.filter((way) => way.from === screen && !putsBack(way, keep));
      for (const { to } of ways) if (isStill(to)) after.add(to);
      const back = ways.find(
        ({ to, fresh }) => fresh !== undefined && isLive(design, to) && runsOn.includes(to),
      );
      if (back === undefined) continue;
      const way = `${back.from} -> ${back.to}`;
      return [finding('timer-spent', { timer: name, keep, way, to: back.to, fresh: back.fresh! }, place)];
    }
    return [];
  });
}

/** Countdowns on the HUD that end once on a screen, and of which the end leads on only where something holds: else time is up and play goes on. */
function endsInVain(design: Design, { shownInPlay }: Uses): Finding[] {
  const { timers, transitions, rules } = design;
  return timers.flatMap(({ name, kind, event, screens }) => {
    const isHeardElsewhere = rules.some(({ events }) => events.includes(event));
    if (kind !== 'countdown' || isStarted(design, name) || isHeardElsewhere || !shownInPlay.has(name))
      return [];
    for (const screen of screens.filter((each) => isLive(design, each))) {
      const [way, ...others] = transitions.filter(
        ({ from, events }) => from === screen && events.includes(event),
      );
      if (way?.condition === undefined || others.length > 0) continue;
      const [least] = rangeIn(design, way.condition);
      const details = { timer: name, from: screen, to: way.to, asks: showExpression(way.condition) };
      if (least === 0) return [finding('end-in-vain', details, way.place)];
    }
    return [];
  });
}

/** Timers of one end that nothing starts again, whose end puts a counter back that a rule sets. */
function timersNotStarted(design: Design, { writes }: Uses): Finding[] {
  return design.timers.flatMap(({ name, kind, event, place }) => {
    if (kind !== 'after' || isStarted(design, name)) return [];
    for (const { counter, kind: how, amount, rule } of writes) {
      const { start } = design.counters.find((each) => each.name === counter)!;
      const isPutBack =
        how === 'set' && rule?.events.join() === event && showExpression(amount) === showExpression(start);
      const setter = writes.find((each) => each.counter === counter && each.rule !== rule && each.rule)?.rule;
      if (isPutBack && setter !== undefined)
        return [
          finding(
            'timer-not-started',
            { timer: name, rule: rule!.name, counter, setter: setter.name },
            place,
          ),
        ];
    }
    return [];
  });
}
