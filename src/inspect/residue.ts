import { visitExpression } from '../design/expression-parts.js';
import { type Design, spans, type Value } from '../design/model.js';
import { DesignError } from '../design/problem.js';
import { Session } from '../engine/design-session.js';
import { formOf } from '../engine/lower.js';
import type { Step } from '../engine/step.js';
import { inWords } from '../explore/witness.js';
import { meetingOf } from '../players/meeting.js';
import { Play } from '../players/play.js';
import { emptyTally } from '../players/tally.js';
import { type Finding, finding } from './finding.js';

/** Sessions of each player that are looked through; most residues show in the first. */
const sessions = 12;
const seed = 1;

/**
 * Ways back into play, after an ending, that leave something over: found by letting the design's players play, and comparing
 * what a live screen shows when a run begins there for the first time and when it does again.
 */
export function residues(design: Design): Finding[] {
  const hasEnding = design.screens.some(({ ending }) => ending !== undefined);
  if (!hasEnding) return [];
  const found = new Map<string, Finding>();
  const watched = watchedCounters(design);
  const form = formOf(design);
  for (const player of design.players) {
    // A player who leaves after one run never comes back.
    const meeting = meetingOf(form, { ...player, runs: Math.max(2, player.runs) });
    for (let index = 0; index < sessions; index++) {
      const watch = new Watch(design, watched, index);
      const play = new Play(form, meeting, emptyTally(form), undefined, (event, at, beforeWaits) =>
        watch.session.sendAt(form.events[event]!.name, at, beforeWaits),
      );
      try {
        play.play(seed, index);
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
      }
      for (const [key, residue] of watch.found) if (!found.has(key)) found.set(key, residue);
    }
  }
  return [...found.values()];
}

/** Counters that a new run should find as the first did: kept for a run or shorter, from a start that reads nothing kept longer. */
function watchedCounters({ counters }: Design): string[] {
  const isShort = (name: string): boolean =>
    spans.indexOf(counters.find((each) => each.name === name)!.keep) <= spans.indexOf('run');
  return counters.flatMap(({ name, start }) => {
    let isOwn = isShort(name);
    visitExpression(start, (part) => {
      if (part.kind === 'counter' && !isShort(part.name)) isOwn = false;
    });
    return isOwn ? [name] : [];
  });
}

/** Follows one session and notes what differs when a run begins again. */
class Watch {
  readonly session: Session;
  readonly found = new Map<string, Finding>();
  readonly #first = new Map<string, ReadonlyMap<string, Value>>();
  /** Whether an ending was left, and play has not begun again since. */
  #hasEnded = false;
  /** The transition that led out of the ending. */
  #out: Step['transitions'][0] | undefined;

  constructor(
    private readonly design: Design,
    private readonly watched: readonly string[],
    index: number,
  ) {
    this.session = new Session(design, { seed, session: index });
    this.#look();
    this.session.listen((step) => {
      for (const each of step.transitions) this.#pass(each);
      if (step.transitions.length > 0) this.#look();
    });
  }

  #pass(each: Step['transitions'][0]): void {
    const isEnding = this.design.screens.some(
      ({ name, ending }) => name === each.from && ending !== undefined,
    );
    if (!isEnding) return;
    this.#hasEnded = true;
    this.#out = each;
  }

  #look(): void {
    const { session } = this;
    if (!session.isLive) return;
    const first = this.#first.get(session.screen);
    const now = new Map<string, Value>([
      ...this.watched.map((name): [string, Value] => [name, session.counter(name)]),
      ['level', session.level],
    ]);
    if (first === undefined) this.#first.set(session.screen, now);
    else if (this.#hasEnded) this.#compare(first, now);
    this.#hasEnded = false;
  }

  #compare(first: ReadonlyMap<string, Value>, now: ReadonlyMap<string, Value>): void {
    const different = [...first].filter(([name, value]) => now.get(name) !== value);
    const out = this.#out!;
    if (different.length === 0) return;
    const differences = different
      .map(([name, value]) => `${name} is ${now.get(name)}, not ${value}`)
      .join(', ');
    const way = this.design.transitions.find(({ from, index }) => from === out.from && index === out.index)!;
    const sent = this.session.recorded.flatMap((line) => ('event' in line ? [line] : []));
    this.found.set(
      `${out.from} ${out.index} ${different.map(([name]) => name).join()}`,
      finding(
        'residue',
        { from: out.from, to: out.to, differences },
        way.place,
        inWords(sent, this.session.time),
      ),
    );
  }
}
