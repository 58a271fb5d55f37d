import { interpreter, memoryOf } from '../../engine/compile/interpret.js';
import { cellsOf } from '../../engine/program/build/slots.js';
import type { Form } from '../../engine/program/form.js';
import { type BackendName, chooseBackend } from '../../engine/run/backend.js';
import { draw, type SessionKey, sessionKey } from '../../engine/run/draw.js';
import { Host } from '../../engine/run/host.js';
import { SessionLog } from '../../measure/session-log.js';
import { type Meeting, peopleDiffer, personOf } from '../meeting/meeting.js';
import { type Abilities, abilitiesOf } from '../meeting/meeting-program.js';
import type { Deciding } from './deciding.js';
import { drawsOf, givenOf, putGiven, takePerson } from './given.js';
import { playProgram } from './play-program.js';
import { printedPlay } from './printed-play.js';

/** What a watcher of one session hears: every outside event, at its moment, and whether the player tried what it tells of. */
export type Sent = (event: number, at: number, beforeWaits: boolean, isTried: boolean) => void;

/** Makes what asks the function that decides for a player; simulations alone have such players, and load it. */
export type DecidingFor = (
  ...of: ConstructorParameters<typeof Deciding>
) => Pick<Deciding, 'turn' | 'decide'>;

/** What sessions are counted in, such as a tally. */
export interface Counts {
  count(log: SessionLog): void;
}

/**
 * Plays sessions with a simulated player and has them counted: printed as code where it is allowed and nobody watches or decides, else
 * interpreted. Both run the same program.
 */
export class Play {
  /** Of the session that is played, or was played last. */
  readonly log: SessionLog;
  readonly #run: (key: SessionKey) => void;
  readonly #now: () => number;

  constructor(
    form: Form,
    meeting: Meeting,
    private readonly counts: Counts,
    backend?: BackendName,
    sent?: Sent,
    decidingFor?: DecidingFor,
  ) {
    const can: Abilities = {
      ...abilitiesOf(meeting),
      decide: meeting.decide !== undefined,
      told: sent !== undefined,
      steps: false,
    };
    const { runs, patience, thinks } = meeting.player;
    const differs = peopleDiffer(meeting.player);
    if (chooseBackend(backend) === 'printed' && !can.decide && !can.told) {
      const given = givenOf(meeting);
      const playing = printedPlay(form, meeting, can, given.inputEvents.length);
      this.log = new SessionLog(form);
      this.#run = (key) => {
        if (differs) takePerson(given, personOf(meeting, key));
        playing()(key.low, key.high, this.log, given, runs, patience, thinks);
      };
      this.#now = () => this.log.duration;
      return;
    }
    const interpreted = interpretedPlay(form, meeting, can, sent, decidingFor);
    this.log = interpreted.log;
    this.#run = (key) => interpreted.run(key, runs, patience, thinks);
    this.#now = () => interpreted.memory[form.cells.now]!;
  }

  /** Session time that the current session has reached, in milliseconds. */
  get now(): number {
    return this.#now();
  }

  /** Plays one session from the first start until the player leaves. */
  play(seed: number, session: number): void {
    this.log.begin(session);
    this.#run(sessionKey(seed, session));
    this.counts.count(this.log);
  }
}

interface InterpretedPlay {
  readonly log: SessionLog;
  readonly memory: Float64Array;
  run(key: SessionKey, mostRuns: number, patience: number, thinks: number): void;
}

function interpretedPlay(
  form: Form,
  meeting: Meeting,
  can: Abilities,
  sent: Sent | undefined,
  decidingFor: DecidingFor | undefined,
): InterpretedPlay {
  const given = givenOf(meeting);
  const made = playProgram(form, meeting, can, given.inputEvents.length);
  const { accounting, areas, program } = made;
  const memory = new Float64Array(memoryOf(program));
  const log = new SessionLog(form, (name) => cellsOf(accounting.log[name], memory));
  putGiven(areas, given, memory);
  let key: SessionKey = { low: 0, high: 0 };
  const draws = drawsOf(form, meeting);
  const host = new Host(form, () => 0);
  const decides = decidingFor?.(form, meeting, made, memory);
  const player = {
    sent: (event: number, beforeWaits: number, isTried: number): void =>
      sent?.(event, memory[form.cells.now]!, beforeWaits === 1, isTried === 1),
    turn: (): void => decides!.turn(),
    decide: (): void => decides!.decide(),
  };
  const ask = (place: number, asked: number): number => draw(key, draws[place]!, asked);
  const { play } = interpreter(program, memory, ask, { host, log, player });
  return {
    log,
    memory,
    run(ofSession, mostRuns, patience, thinks) {
      key = ofSession;
      if (peopleDiffer(meeting.player)) {
        takePerson(given, personOf(meeting, key));
        putGiven(areas, given, memory);
      }
      memory.fill(0, 0, form.cells.size);
      memory.fill(0, program.asked, program.asked + draws.length);
      play!(mostRuns, patience, thinks);
    },
  };
}
