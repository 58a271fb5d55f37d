import type { Design, Player } from '../design/model.js';
import { fromDials } from '../engine/program/lower/lower-expression.js';
import { recordOf, type SessionRecord } from '../engine/record/record.js';
import type { Step } from '../engine/run/step.js';
import { Session } from '../engine/session/design-session.js';
import { runColumns, runWidth } from '../measure/session-log.js';
import type { World } from '../players/worlds/world.js';
import { simulate } from '../simulate/simulate.js';
import { unitOf } from './figures/estimates.js';

/** A moment of a session, or several similar ones taken together. */
export interface Moment {
  /** Milliseconds of session time. */
  readonly at: number;
  /** The screen that the player is on then. */
  readonly screen: string;
  /** The text that the screen shows; empty where it has none. */
  readonly text: string;
  readonly what: string;
  readonly hud: string;
}

export interface SampleSession {
  readonly kind: 'unlucky' | 'typical' | 'lucky';
  readonly player: string;
  readonly session: number;
  /** The best score of its runs; undefined where the design keeps none. */
  readonly best: number | undefined;
  readonly moments: readonly Moment[];
}

/** Sessions of which the three are chosen; in a world, which is slower, fewer. */
const chosenFrom = { byModel: 200, inWorld: 40 } as const;
const places = { unlucky: 0.1, typical: 0.5, lucky: 0.9 } as const;

/** A session that stands for many of one player's. */
export type Sample = Omit<SampleSession, 'moments'>;

/**
 * A typical session of one player, with an unlucky and a lucky one: those whose best score has a tenth, half and nine tenths of the
 * sessions below it (where there is no score, the length).
 *
 * @example
 * const [typical] = samplesOf(design, 1, design.players[0]!);
 */
export function samplesOf(design: Design, seed: number, player: Player, world?: World): Sample[] {
  const sessions: { session: number; best: number }[] = [];
  simulate(design, {
    seed,
    players: [player.name],
    sessions: world === undefined ? chosenFrom.byModel : chosenFrom.inWorld,
    world,
    onSession: (_, { session, runs, columns, duration }) => {
      let best = Number.NEGATIVE_INFINITY;
      for (let run = 0; run < runs; run++) best = Math.max(best, columns[run * runWidth + runColumns.score]!);
      sessions.push({ session, best: design.score === undefined ? duration : best });
    },
  });
  const ranked = [...sessions].sort((a, b) => a.best - b.best || a.session - b.session);
  return (Object.keys(places) as Sample['kind'][]).map((kind) => {
    const { session, best } = ranked[Math.floor(places[kind] * (ranked.length - 1))]!;
    const isScore = design.score !== undefined && Number.isFinite(best);
    return { kind, player: player.name, session, best: isScore ? best * unitOf(design, 'score') : undefined };
  });
}

/** The same sessions, moment by moment. */
export const sampleSessions = (
  design: Design,
  seed: number,
  player: Player,
  world?: World,
): SampleSession[] =>
  samplesOf(design, seed, player, world).map((sample) => ({
    ...sample,
    moments: tell(design, { seed, session: sample.session, player: player.name, world }),
  }));

/** The player of middle skill. */
export function middlePlayer({ players, dials }: Pick<Design, 'players' | 'dials'>): Player {
  const skill = (player: Player): number => fromDials(player.skill, dials);
  const sorted = [...players].sort((a, b) => skill(a) - skill(b));
  return sorted[Math.floor((sorted.length - 1) / 2)]!;
}

function tell(design: Design, played: Played): Moment[] {
  let teller: Teller | undefined;
  playAgain(design, played, (session) => {
    const telling = new Teller(design, session);
    teller = telling;
    session.listen((step) => telling.hear(step));
  });
  return teller!.end();
}

/** Which session of a simulation. */
export interface Played {
  readonly seed: number;
  readonly session: number;
  readonly player: string;
  /** Where it was played; the meeting model unless it is given. */
  readonly world?: World | undefined;
}

/** A session of a simulation as a record, which can be replayed. */
export const recordPlayed = (design: Design, played: Played): SessionRecord =>
  recordOf(playAgain(design, played));

/** Plays a session of a simulation once more, in a session that can be listened to. */
function playAgain(
  design: Design,
  { seed, session: index, player, world }: Played,
  watch?: (session: Session) => void,
): Session {
  const events: { readonly event: string; readonly at: number }[] = [];
  let ends = 0;
  simulate(design, {
    seed,
    first: index,
    sessions: 1,
    players: [player],
    world,
    onEvent: (_, __, event, at) => events.push({ event, at }),
    onSession: (_, log) => {
      ends = log.duration;
    },
  });
  const session = new Session(design, { seed, session: index });
  watch?.(session);
  for (const { event, at } of events) {
    // What a world reports comes after waits of the same moment, as from any game.
    session.sendAt(event, at, world === undefined && !event.startsWith('input.'));
  }
  session.advanceTo(ends);
  return session;
}

/** Tells what matters step by step, and what is alike together. */
class Teller {
  readonly #moments: Moment[] = [];
  /** Events of the moment that is still open, with how often. */
  #counts = new Map<string, number>();
  #since = 0;
  #screen: string;
  #text: string;
  #hud: string;

  constructor(
    private readonly design: Design,
    private readonly session: Session,
  ) {
    this.#screen = session.screen;
    this.#text = session.text;
    this.#hud = this.#shown();
  }

  hear(step: Step): void {
    const lost = step.writes.some(
      ({ counter, before, after }) => counter === this.design.lives && Number(after) < Number(before),
    );
    if (step.transitions.length > 0 || lost) {
      this.#close();
      const ways = step.transitions.map(({ from, to }) => `${from} -> ${to}`);
      this.#look();
      this.#tell(step.at, [step.name, ...ways].join(', '));
      return;
    }
    if (step.rules.length === 0 && step.writes.length === 0) return;
    if (this.#counts.size === 0) this.#since = step.at;
    this.#counts.set(step.name, (this.#counts.get(step.name) ?? 0) + 1);
    this.#look();
  }

  end(): Moment[] {
    this.#close();
    return this.#moments;
  }

  #close(): void {
    if (this.#counts.size === 0) return;
    const told = [...this.#counts].map(([name, count]) => (count === 1 ? name : `${count} x ${name}`));
    this.#tell(this.#since, told.join(', '));
    this.#counts = new Map();
  }

  /** Looks at the session as it is now. */
  #look(): void {
    this.#screen = this.session.screen;
    this.#text = this.session.text;
    this.#hud = this.#shown();
  }

  #tell(at: number, what: string): void {
    this.#moments.push({ at, screen: this.#screen, text: this.#text, what, hud: this.#hud });
  }

  #shown(): string {
    const { hud } = this.session;
    if (hud.length > 0) return hud.map(({ spoken }) => spoken).join(', ');
    return Object.entries(this.session.counters)
      .map(([name, value]) => `${name}: ${value}`)
      .join(', ');
  }
}
