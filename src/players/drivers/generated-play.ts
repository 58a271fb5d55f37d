import { Host } from '../../engine/compile/backend.js';
import type { Form } from '../../engine/program/form.js';
import { mostPresent } from '../../engine/program/form.js';
import { draw, sessionKey } from '../../engine/run/draw.js';
import { Sheet } from '../../measure/session-log.js';
import type { Tally } from '../../measure/tally.js';
import type { Abilities } from '../meeting/meet-text.js';
import type { Meeting } from '../meeting/meeting.js';
import { never } from './play-parts.js';
import { PlayText, slotsOf } from './play-text.js';

/** One session, played to its end. */
type PlaySession = (
  keyLow: number,
  keyHigh: number,
  mostRuns: number,
  patience: number,
  thinks: number,
  thresholds: Float64Array,
  attempts: Int32Array,
  inputs: Meeting['inputs'],
  weights: Float64Array,
  sheet: Sheet,
) => void;

/** Whether a design can be written out so; one with a course is played by `Play` itself. */
export const canWriteOut = (form: Form): boolean => form.cells.courseLength === 0;

/** Code that was written out, with the tables that it reads. Another form whose code is the same may put its own in them. */
interface Made {
  readonly play: PlaySession;
  readonly tables: Tables;
  owner: Form;
}

const madeForForm = new WeakMap<Form, Map<string, Made>>();
/** By text, the last used last: settings of one design's dials share their code, which takes a while to get fast. */
const madeOfText = new Map<string, Made>();
const mostKept = 16;

/**
 * The meeting model of `Play`, written out for one design as a single function whose state is local variables and small
 * arrays of its own: what thousands of sessions are simulated with. Both give the same tallies, which the tests compare.
 */
export function generatedPlay(
  form: Form,
  meeting: Meeting,
  tally: Tally,
): { play(seed: number, session: number): void } {
  const made = madeFor(form, meeting);
  const { runs: mostRuns, patience, thinks } = meeting.player;
  const weights = Float64Array.from(meeting.weights);
  const { inputs } = meeting;
  const thresholds = Float64Array.from(meeting.thresholds);
  const attempts = Int32Array.from(meeting.attempts);
  const run = made.play;
  const sheet = new Sheet(form);
  return {
    play(seed, session) {
      if (made.owner !== form) takeOver(made, form, meeting);
      const { low, high } = sessionKey(seed, session);
      sheet.begin(session);
      run(low, high, mostRuns, patience, thinks, thresholds, attempts, inputs, weights, sheet);
      tally.take(sheet);
    },
  };
}

function madeFor(form: Form, meeting: Meeting): Made {
  const can = {
    choose: meeting.weights.some((weight) => weight !== 1),
    learn: meeting.player.learning !== 0,
  };
  const key = `${can.choose} ${can.learn}`;
  const ofForm = madeForForm.get(form) ?? new Map<string, Made>();
  madeForForm.set(form, ofForm);
  const found = ofForm.get(key) ?? makePlay(form, meeting, can);
  ofForm.set(key, found);
  return found;
}

/** Puts the values of another form into the tables that the code reads. */
function takeOver(made: Made, form: Form, meeting: Meeting): void {
  const tables = tablesOf(form, meeting);
  for (const name of Object.keys(tables) as (keyof Tables)[]) {
    const [to, from] = [made.tables[name], tables[name]];
    if (Array.isArray(to)) to.splice(0, to.length, ...(from as number[][]));
    else to.set(from as Int32Array);
  }
  made.owner = form;
}

type Tables = ReturnType<typeof tablesOf>;

/** What the text reads by index: by piece, by event, by screen, by transition, or by level and slot. */
function tablesOf(form: Form, meeting: Meeting) {
  const { pieces, events, screens, transitions, levels } = form;
  const slots = slotsOf(form);
  const spawn = <Value>(pick: (spawn: (typeof levels)[0]['spawns'][0]) => Value, none: Value): Value[] =>
    levels.flatMap((level) =>
      Array.from({ length: slots }, (_, slot) =>
        level.spawns[slot] === undefined ? none : pick(level.spawns[slot]!),
      ),
    );
  return {
    success: Int32Array.from(pieces, (piece) => piece.success),
    failure: Int32Array.from(pieces, (piece) => piece.failure),
    gone: Int32Array.from(pieces, (piece) => piece.gone),
    appeared: Int32Array.from(pieces, (piece) => piece.appeared),
    meets: Int32Array.from(meeting.meets, (meets) => ({ never: 0, sought: 1, arrives: 2 })[meets]),
    hits: Int32Array.from(meeting.hits),
    // 1: a failed attempt leaves the piece there; 2: it is no outcome at all.
    retries: Int8Array.from(pieces, ({ failure }, piece) =>
      meeting.again[piece] ? 2 : events[failure]!.presence === 0 ? 1 : 0,
    ),
    lasts: Int32Array.from(meeting.lasts, (lasts) => Math.min(never, lasts)),
    leadLeast: Int32Array.from(meeting.leads, (lead) => lead.least),
    leadStep: Int32Array.from(meeting.leads, (lead) => lead.step),
    leadChoices: Int32Array.from(meeting.leads, (lead) => lead.choices),
    leadLow: Int32Array.from(meeting.leadDraws, (each) => each.low),
    leadHigh: Int32Array.from(meeting.leadDraws, (each) => each.high),
    outcomeLow: Int32Array.from(meeting.outcomeDraws, (each) => each.low),
    outcomeHigh: Int32Array.from(meeting.outcomeDraws, (each) => each.high),
    leaves: Int32Array.from(events, (event) => -event.presence),
    turnedAway: Int32Array.from(events, (event) => (event.turnedAway ? 1 : 0)),
    isUnheard: Int8Array.from(
      screens.flatMap(({ handlers, watchesPresence }) =>
        events.map((_, event) => (handlers.has(event) || watchesPresence ? 0 : 1)),
      ),
    ),
    isLive: Int32Array.from(screens, (screen) => (screen.live ? 1 : 0)),
    isEnding: Int32Array.from(screens, (screen) => (screen.ending ? 1 : 0)),
    inputLow: Int32Array.from(meeting.inputDraws, (each) => each.low),
    inputHigh: Int32Array.from(meeting.inputDraws, (each) => each.high),
    target: Int32Array.from(transitions, (each) => each.to),
    // The first start is no fresh start of a run: a title screen may come before it.
    freshOf: Int32Array.from(transitions, (each, index) =>
      index === transitions.length - 1 ? -1 : each.fresh,
    ),
    spawnPiece: Int32Array.from(spawn((each) => each.piece, 0)),
    spawnAtOnce: Int32Array.from(spawn((each) => Math.min(mostPresent + 1, each.atOnce), 0)),
    spawnTotal: Int32Array.from(spawn((each) => Math.min(never, each.total), 0)),
    spawnLeast: Int32Array.from(spawn((each) => each.every.least, 0)),
    spawnStep: Int32Array.from(spawn((each) => each.every.step, 0)),
    spawnChoices: Int32Array.from(spawn((each) => each.every.choices, 1)),
    spawnDraw: Int32Array.from(spawn((each) => Math.max(0, each.every.draw), 0)),
    spawnLow: Int32Array.from(spawn((each) => form.draws[each.every.draw]?.low ?? 0, 0)),
    spawnHigh: Int32Array.from(spawn((each) => form.draws[each.every.draw]?.high ?? 0, 0)),
    tables: form.levelTables.map((values) => [...values]),
    dials: Float64Array.from(form.design.dials, ({ value }) => value),
  };
}

function makePlay(form: Form, meeting: Meeting, can: Abilities): Made {
  const tables = tablesOf(form, meeting);
  const text = new PlayText(form, Object.keys(tables), can, {
    draws: meeting.outcomeDraws,
    hits: meeting.hits,
    isRetried: Array.from(tables.retries, (retries) => retries > 0),
  }).whole();
  const known = madeOfText.get(text);
  // Names, in messages of faults and in draws, are not in the text.
  if (known !== undefined && known.owner.design.written === form.design.written) return known;
  const engineDraw = (index: number, asked: number, low: number, high: number): number =>
    draw({ low, high }, form.draws[index]!, asked);
  const make = new Function('host', 'engineDraw', 'given', text);
  const play = make(new Host(form, () => 0), engineDraw, tables) as PlaySession;
  const made: Made = { play, tables, owner: form };
  if (form.design.hasLooseDials) {
    madeOfText.set(text, made);
    if (madeOfText.size > mostKept) madeOfText.delete(madeOfText.keys().next().value!);
  }
  return made;
}
