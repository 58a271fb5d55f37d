import { countersIn } from '../../design/language/expression-parts.js';
import { type Design, spans, type Transition, type Value } from '../../design/model.js';
import { DesignError } from '../../design/problems/problem.js';
import type { SessionRecord } from '../../engine/record/record.js';
import { eventsIn } from '../../engine/record/record-line.js';
import type { Step } from '../../engine/run/step.js';
import { Session } from '../../engine/session/design-session.js';
import { leastDuration } from '../../explore/abstraction/ranges.js';
import { inWords } from '../../explore/evidence/witness.js';
import type { Exploration } from '../../explore/explore.js';
import { type Finding, finding } from '../finding.js';
import { endingOf } from '../played-for.js';
import { isInput, isLive } from '../uses.js';

/** Ways on from an ending that are followed before no play is reached any more. */
const mostMoves = 6;

/**
 * Ways back into play, after an ending, that leave something over: each is gone by its witness, once as it is and once more with
 * each thing touched when play began, and what a live screen holds when a run begins there again is compared with the first time.
 */
export function residues(design: Design, exploration: Exploration, isOver: () => boolean): Finding[] {
  const found = new Map<string, Residue>();
  const watched = watchedCounters(design);
  const touches = touchesOf(design);
  /** Whether play that is come to so, after a way out of an ending, begins otherwise than the first time. */
  const isLeftOver = (record: SessionRecord, ways?: readonly Transition[]): boolean => {
    let isFound = false;
    for (const touch of [undefined, ...touches]) {
      if (isOver()) break;
      const watch = new Watch(design, watched, ways?.at(-1));
      try {
        play(watch.session, record, touch);
        if (ways === undefined) leadIntoPlay(design, exploration, watch);
        else for (const way of ways) take(watch.session, way);
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
      }
      // One for each way back: that which shows most.
      for (const [way, residue] of watch.found) {
        isFound = true;
        if (residue.differences > (found.get(way)?.differences ?? 0)) found.set(way, residue);
      }
    }
    return isFound;
  };
  for (const { from, to, witness } of exploration.transitions) {
    if (endingOf(design, from) === undefined || witness?.record === undefined) continue;
    // Where the shortest way into play begins afresh, another may not.
    if (!isLeftOver(witness.record))
      for (const ways of waysIntoPlay(design, exploration, to).slice(1)) isLeftOver(witness.record, ways);
  }
  return [...found.values()].map(({ finding: told }) => told);
}

/** The ways from a screen to each transition that leads into play, the shortest first. */
function waysIntoPlay(design: Design, { transitions }: Exploration, start: string): Transition[][] {
  const isLive = new Set(design.screens.flatMap(({ name, live }) => (live ? [name] : [])));
  const leadingTo = new Map<string, Transition[]>(isLive.has(start) ? [] : [[start, []]]);
  const found: Transition[][] = [];
  for (const [screen, before] of leadingTo) {
    transitions.forEach(({ inAnyOrder, from, to }, at) => {
      if (inAnyOrder !== 'reached' || from !== screen) return;
      const ways = [...before, design.transitions[at]!];
      // Back leads to wherever the screen can be entered from.
      const next =
        to === 'back' ? design.transitions.flatMap((each) => (each.to === screen ? [each.from] : [])) : [to];
      if (next.some((each) => isLive.has(each))) found.push(ways);
      for (const each of next)
        if (!isLive.has(each) && !leadingTo.has(each) && ways.length < mostMoves) leadingTo.set(each, ways);
    });
  }
  return found;
}

/** Waits as long as a transition asks for and sends its input, if it has one. */
function take(session: Session, { wait, events }: Transition): void {
  session.advance(leastDuration(session.design, wait));
  const input = events.find(isInput);
  if (input !== undefined) session.send(input);
}

/** The first outcome or event of its own that each rule hears: what else sets the rule off leaves the same behind. */
const touchesOf = (design: Design): string[] => [
  ...new Set(
    design.rules.flatMap(({ events }) =>
      events.filter((event) => /\.(?!appeared|gone|entered|ended|ticked|warned)/.test(event)).slice(0, 1),
    ),
  ),
];

/** Plays a record; as soon as play begins, one thing more happens where it can. */
function play(session: Session, { lines, end }: SessionRecord, touch: string | undefined): void {
  let isTouched = touch === undefined;
  const perhapsTouch = (): void => {
    if (isTouched || !session.isLive) return;
    isTouched = true;
    // What a spawn is still to make appears now.
    if (!session.possible.includes(touch!)) session.send(`${touch!.split('.')[0]}.appeared`);
    if (session.possible.includes(touch!)) session.send(touch!);
  };
  perhapsTouch();
  for (const line of lines) {
    if (!('event' in line)) continue;
    session.sendAt(line.event, line.at, line.beforeWaits === true);
    perhapsTouch();
  }
  session.advanceTo(end.at);
}

/** Goes on, by inputs and waits, until something is played again, or it was over at once. */
function leadIntoPlay(design: Design, exploration: Exploration, { session, found }: Watch): void {
  for (let step = 0; step < mostMoves && !session.isLive && found.size === 0; step++) {
    // Anew each time: what was taken may have led elsewhere.
    const way = waysIntoPlay(design, exploration, session.screen)[0]?.[0];
    if (way === undefined) return;
    take(session, way);
  }
}

/** Counters that a new run should find as the first did: kept for a run or shorter, from a start that reads nothing kept longer. */
function watchedCounters({ counters }: Design): string[] {
  const short = new Set(
    counters.flatMap(({ name, keep }) => (spans.indexOf(keep) <= spans.indexOf('run') ? [name] : [])),
  );
  return counters.flatMap(({ name, start }) =>
    [name, ...countersIn(start)].every((each) => short.has(each)) ? [name] : [],
  );
}

interface Residue {
  readonly differences: number;
  readonly finding: Finding;
}

/** Follows one session and notes what differs when a run begins again. */
class Watch {
  readonly session: Session;
  readonly found = new Map<string, Residue>();
  readonly #first = new Map<string, ReadonlyMap<string, Value>>();
  /** Whether an ending was left, and play has not begun again since. */
  #hasEnded = false;
  /** The transition that led out of the ending. */
  #out: Step['transitions'][0] | undefined;
  #last: Step['transitions'][0] | undefined;

  constructor(
    private readonly design: Design,
    private readonly watched: readonly string[],
    /** The way into play that is looked at; undefined: what led out of the ending is. */
    private readonly into: Transition | undefined,
  ) {
    this.session = new Session(design, { spawns: false });
    this.#look();
    this.session.listen(({ transitions }) => {
      for (const each of transitions) this.#pass(each);
      if (transitions.length > 0) this.#look(transitions);
    });
  }

  #pass(each: Step['transitions'][0]): void {
    if (endingOf(this.design, each.from) === undefined) return;
    this.#hasEnded = true;
    this.#out = each;
  }

  #look(taken: Step['transitions'] = []): void {
    const { session } = this;
    // What is left over may end the new run in the moment in which it begins.
    const into = taken.findLast(({ to }) => isLive(this.design, to));
    const isPassed = !session.isLive && this.#hasEnded && into !== undefined;
    this.#last = into ?? taken.at(-1);
    if (!session.isLive && !isPassed) return;
    const screen = isPassed ? into.to : session.screen;
    const first = this.#first.get(screen);
    const now = new Map<string, Value>([
      ...this.watched.map((name): [string, Value] => [name, session.counter(name)]),
      ['level', session.level],
      ...this.#setAtStart(),
    ]);
    if (first === undefined) this.#first.set(screen, now);
    else if (this.#hasEnded) this.#compare(first, now);
    this.#hasEnded = false;
  }

  /** What a level places, and what timers have left where that is the same each time. */
  #setAtStart(): [string, Value][] {
    const { session, design } = this;
    const pieces = design.pieces.map(({ name }): [string, Value] => [
      `${name} present`,
      session.present[name]!,
    ]);
    const timers = design.timers.flatMap(({ name, interval, keep }): [string, Value][] =>
      'least' in interval && interval.least === interval.most && spans.indexOf(keep) <= spans.indexOf('run')
        ? [[name, session.timer(name)]]
        : [],
    );
    return [...pieces, ...timers];
  }

  #compare(first: ReadonlyMap<string, Value>, now: ReadonlyMap<string, Value>): void {
    const different = [...first].filter(([name, value]) => now.get(name) !== value);
    const { from, to, index } = this.into ?? this.#out!;
    const isAsked = this.into === undefined || (this.#last!.from === from && this.#last!.index === index);
    if (different.length === 0 || !isAsked) return;
    const differences = different
      .map(([name, value]) => `${name} is ${now.get(name)}, not ${value}`)
      .join(', ');
    const way = this.design.transitions.find((each) => each.from === from && each.index === index)!;
    const steps = inWords(eventsIn(this.session.recorded), this.session.time);
    const told = finding('residue', { from, to, differences }, way.place, steps);
    this.found.set(`${from} ${index}`, { differences: different.length, finding: told });
  }
}
