import { healthPrefix } from '../../design/health.js';
import type { Expression } from '../../design/language/expression.js';
import { countersIn } from '../../design/language/expression-parts.js';
import { type Design, type Effect, spans } from '../../design/model.js';
import { boundsOf, rangeIn } from '../../explore/abstraction/ranges.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { endingOf, floorIn, outcomeEvents, takesAway } from '../played-for.js';
import { addsNothing, hasMax, isLive, madeIn, setsWhatIs, type Uses, usesOf, writesOf } from '../uses.js';

/** Findings about counters and what writes them. */
export function aboutScoring(design: Design, uses: Uses, exploration: Exploration): Finding[] {
  return [
    ...outlivingTheRun(design, uses),
    ...aboutCounters(design, uses),
    ...unusedNumbers(design, uses),
    ...aboutWrites(design, uses, exploration.score?.highest?.value),
    ...crossedBounds(design),
    ...setForAdd(design, uses),
    ...hitsWithoutPause(design, uses),
  ];
}

function aboutCounters(design: Design, { writes, read, shown, shownInPlay, score }: Uses): Finding[] {
  const hasHits = design.pieces.some(({ role }) => role === 'hazard' || role === 'foe');
  return design.counters.flatMap(({ name, place }): Finding[] => {
    const own = writes.filter(({ counter }) => counter === name);
    const isRead = read.has(name) || shown.has(name);
    if (own.length === 0 && !isRead) {
      // Of a score that nothing writes, and of lives that nothing takes though something hits, that is told.
      const isTold = name === design.score || (name === design.lives && hasHits);
      return isTold ? [] : [finding('unused', { kind: 'counter', name }, place)];
    }
    if (own.length === 0) return [finding('counter-unwritten', { counter: name }, place)];
    if (!isRead && name !== design.score) return [finding('counter-unread', { counter: name }, place)];
    const changesInPlay = own.some(({ rule }) => rule?.screens.some((screen) => isLive(design, screen)));
    if (!changesInPlay || design.hud.length === 0 || shownInPlay.has(name)) return [];
    // Whoever is struck shows by itself how much it takes; and what only a text tells, afterwards, and nothing else asks for, is told in time.
    const isOnHud = design.hud.some(({ show }) => show === name);
    const isTold = name !== score && !isOnHud && shown.has(name) && !isReadElsewhere(design, name);
    return isTold || name.startsWith(healthPrefix)
      ? []
      : [finding('counter-unshown', { counter: name }, place)];
  });
}

/** Whether anything but what a counter itself is changed to reads it. */
const isReadElsewhere = (design: Design, name: string): boolean => {
  const withoutOwn = <By extends { readonly effects: readonly Effect[] }>(by: By): By => ({
    ...by,
    effects: by.effects.filter((effect) => !writesOf(effect).every((write) => write.name === name)),
  });
  const { rules, transitions } = design;
  // A rule of which nothing is left asks for nothing either.
  const others = rules.map(withoutOwn).filter(({ effects }) => effects.length > 0);
  const rest = { rules: others, transitions: transitions.map(withoutOwn) };
  return usesOf({ ...design, ...rest }).read.has(name);
};

/** Dials and values of levels that nothing reads. */
function unusedNumbers({ dials, levels }: Design, uses: Uses): Finding[] {
  const unused = new Map(
    levels
      .flatMap(({ values, place }) =>
        [...values.keys()].flatMap((value) => (uses.levelValues.has(value) ? [] : [[value, place] as const])),
      )
      .reverse(),
  );
  return [
    ...dials.flatMap(({ name, place }) =>
      uses.dials.has(name) ? [] : [finding('unused', { kind: 'dial', name }, place)],
    ),
    ...[...unused].map(([name, place]) => finding('unused', { kind: 'level value', name }, place)),
  ];
}

/** The score, what an ending waits for and what play builds up and loses, where a fresh run does not put it back although play changes it. */
function outlivingTheRun(design: Design, { writes }: Uses): Finding[] {
  if (design.transitions.every(({ fresh }) => fresh !== 'run')) return [];
  const stakes = new Set([design.score]);
  for (const { to, condition } of design.transitions) {
    if (endingOf(design, to) === undefined || condition === undefined) continue;
    for (const name of countersIn(condition)) stakes.add(name);
  }
  return design.counters.flatMap(({ name, keep, start, place }) => {
    const own = writes.filter(({ counter, rule }) => counter === name && rule !== undefined);
    const isStake = stakes.has(name) && own.length > 0;
    // What play builds up and then loses, such as a streak.
    const isLostInPlay = own.some(
      ({ kind, amount }) =>
        kind === 'set' && amount.kind === 'number' && amount.value === rangeIn(design, start)[0],
    );
    const isBuiltUp = isLostInPlay && own.some(({ kind }) => kind === 'add');
    return (isStake || isBuiltUp) && spans.indexOf(keep) > spans.indexOf('run')
      ? [finding('outlives-the-run', { what: name, keep }, place)]
      : [];
  });
}

/** @param highest what the score was proved to stay within; undefined: that is not known */
function aboutWrites(design: Design, { writes }: Uses, highest = Number.POSITIVE_INFINITY): Finding[] {
  const findings: Finding[] = [];
  const told = new Set<string>();
  const tell = (found: Finding): void => {
    const key = `${found.code} ${found.place.line} ${found.message}`;
    if (!told.has(key)) findings.push(found);
    told.add(key);
  };
  for (const write of writes) {
    const { counter: name, kind, amount, rule, by, place } = write;
    const counter = design.counters.find((each) => each.name === name)!;
    const [least, most] = rangeIn(design, amount);
    const { min, max } = boundsOf(design, counter);
    const isFull = kind === 'add' && least >= 0 && isAlwaysAtMax(design, counter, writes);
    if (addsNothing(design, write) || min === max || isFull || setsWhatIs(write))
      tell(finding('changes-nothing', { counter: name }, place));
    if (name !== design.score) continue;
    const hasMin = min > -(2 ** 53) / 10 ** counter.places;
    if (!hasMin && kind === 'add' && most < 0)
      tell(finding('below-zero', { counter: name, by }, counter.place));
    if (rule === undefined) continue;
    const isCapped = hasMax(design, counter) && highest >= max;
    const isTold = findings.some(({ code }) => code === 'points-lost');
    if (isCapped && !isTold && kind === 'add' && most > 0)
      tell(finding('points-lost', { counter: name, max, rule: rule.name }, counter.place));
    for (const screen of rule.screens) {
      const isBonus = rule.events.length > 0 && rule.events.every((event) => event.endsWith('.entered'));
      if (endingOf(design, screen) !== undefined && !isBonus)
        tell(finding('points-after-the-end', { counter: name, screen }, place));
    }
  }
  return findings;
}

/** Whether a counter starts at its max, and nothing ever takes it down from there. */
function isAlwaysAtMax(design: Design, counter: Design['counters'][0], writes: Uses['writes']): boolean {
  const { name, start } = counter;
  const { max } = boundsOf(design, counter);
  const own = writes.filter((write) => write.counter === name);
  const never = own.every(({ kind, amount }) => {
    const [least] = rangeIn(design, amount);
    return kind === 'add' ? least >= 0 : kind === 'set' && least >= max;
  });
  return never && rangeIn(design, start)[0] >= max;
}

/** Counters whose max, where it is computed, can lie below their min. */
const crossedBounds = (design: Design): Finding[] =>
  design.counters.flatMap(({ name, min, max, place }) => {
    if (typeof min === 'number' && typeof max === 'number') return [];
    const [[, highest], [lowest]] = [rangeIn(design, min), rangeIn(design, max)];
    // A counter without a bound of its own says nothing.
    const isKnown = [lowest, highest].every((bound) => Math.abs(bound) < 2 ** 40);
    return isKnown && lowest < highest
      ? [finding('max-below-min', { counter: name, min: highest, max: lowest }, place)]
      : [];
  });

/** Counters that are set to a number where they seem meant to count: it is past their bounds, it makes points go, or it never comes near their max. */
function setForAdd(design: Design, { writes }: Uses): Finding[] {
  const outcomes = outcomeEvents(design);
  return design.counters.flatMap((counter) => {
    const { name, kind, start, place } = counter;
    const { min, max } = boundsOf(design, counter);
    const own = writes.filter((write) => write.counter === name);
    const sets = own.flatMap(({ kind: write, amount, rule, place: at }) => {
      const [least, most] = rangeIn(design, amount);
      return write === 'set' && least === most && countersIn(amount).length === 0
        ? [{ value: least, rule, at }]
        : [];
    });
    if (kind !== 'number') return [];
    const [tooMuch] = own.flatMap(({ kind: write, amount, place: at }) =>
      write === 'add' && amount.kind === 'number' && max > min && amount.value > max - min
        ? [{ details: { counter: name, amount: amount.value, max }, at }]
        : [],
    );
    if (tooMuch !== undefined) return [finding('more-than-fits', tooMuch.details, tooMuch.at)];
    const past = sets.find(({ value }) => value < min || value > max);
    if (past !== undefined) {
      const held = past.value < min ? min : max;
      return [finding('set-past-bound', { counter: name, value: past.value, held }, past.at)];
    }
    const isOnStart = ({ value }: { value: number }): boolean => rangeIn(design, start).includes(value);
    const lost = sets.find(
      (each) =>
        name === design.score &&
        each.value > 0 &&
        !isOnStart(each) &&
        each.rule?.events.some((event) => outcomes.has(event)),
    );
    if (lost !== undefined)
      return [finding('score-set', { counter: name, value: lost.value, by: lost.rule!.name }, lost.at)];
    const values = [...new Set([...rangeIn(design, start), ...sets.map(({ value }) => value)])];
    if (
      !hasMax(design, counter) ||
      sets.length < own.length ||
      values.length < 2 ||
      Math.max(...values) >= max - 1
    )
      return [];
    return [
      finding('only-set', { counter: name, values: values.sort((a, b) => a - b).join(' or '), max }, place),
    ];
  });
}

/** Losses that a contact of many frames would repeat. */
function hitsWithoutPause(design: Design, { writes }: Uses): Finding[] {
  const losses = writes.filter((write) => takesAway(design, write));
  const made = madeIn(design);
  // A hazard on a course stays where it is.
  const isOnCourse = (name: string): boolean => design.levels.some(({ course }) => course.includes(name));
  return losses.flatMap(({ counter, rule, amount }) => {
    const event = rule?.events.find((each) => each.endsWith('.hit'));
    if (rule === undefined || event === undefined || rule.rest !== 0 || rule.once !== undefined) return [];
    const piece = design.pieces.find(({ name }) => event === `${name}.hit`);
    // How often a contact that lasts hits is said.
    if (piece?.returns !== undefined) return [];
    // Where the design makes it appear, the hit that takes it away ends the contact.
    if (piece !== undefined && made.has(piece.name) && piece.ends.includes('hit') && !isOnCourse(piece.name))
      return [];
    if (endsAtOnce(design, counter, amount, rule.screens)) return [];
    const hears = [...design.rules, ...design.transitions].filter(({ events }) => events.includes(event));
    const pauses = hears.some(
      (each) =>
        'to' in each || each.effects.some(({ kind }) => ['grace', 'emit', 'clear', 'become'].includes(kind)),
    );
    return pauses ? [] : [finding('hit-without-pause', { counter, event }, rule.place)];
  });
}

/** Whether the very first loss leaves the screen, however much there was to lose. */
function endsAtOnce(design: Design, name: string, amount: Expression, screens: readonly string[]): boolean {
  const { max, min } = boundsOf(design, design.counters.find((counter) => counter.name === name)!);
  const most = Math.max(min, max + rangeIn(design, amount)[1]);
  const isMet = (condition: Expression | undefined): boolean => {
    const floor = floorIn(condition, name);
    if (floor === undefined) return false;
    const [bound] = rangeIn(design, floor.right);
    if (floor.operator === '<') return most < bound;
    return floor.operator === '<=' ? most <= bound : most === bound && min === bound;
  };
  return screens.every(
    (screen) =>
      !isLive(design, screen) ||
      design.transitions.some(
        ({ from, events, wait, condition }) =>
          from === screen && events.length === 0 && wait === 0 && isMet(condition),
      ),
  );
}

/** Findings that follow from how low and how high the score was proved to go. */
export function aboutScoreRange(design: Design, uses: Uses, exploration: Exploration): Finding[] {
  const constant = constantScore(design, uses, exploration);
  // What a score that never changes cannot reach follows from that.
  return constant.length > 0 ? constant : targetsOutOfReach(design, exploration);
}

/** A score that was proved to keep one value, although something that can happen writes to it. */
function constantScore(design: Design, { writes }: Uses, { score, parts }: Exploration): Finding[] {
  if (score?.lowest === undefined || score.lowest.value !== score.highest?.value) return [];
  const { counter, lowest, supply } = score;
  const own = writes.filter((write) => write.counter === counter);
  const canHappen = own.some(
    ({ rule }) =>
      rule === undefined || parts.some(({ place, verdict }) => place === rule.place && verdict === 'reached'),
  );
  if (!canHappen || own.some((write) => addsNothing(design, write))) return [];
  const { place } = design.counters.find(({ name }) => name === counter)!;
  return [finding('score-constant', { counter, value: lowest.value, supply }, place)];
}

/** Targets that ask for more than any session can score. */
function targetsOutOfReach({ targets }: Design, { score }: Exploration): Finding[] {
  if (score?.highest === undefined) return [];
  const { counter, highest, supply } = score;
  return targets.flatMap(({ measure, from, place }) =>
    measure === 'score' && from > highest.value
      ? [finding('target-out-of-reach', { counter, from, highest: highest.value, supply }, place)]
      : [],
  );
}
