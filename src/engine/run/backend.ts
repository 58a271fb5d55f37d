import { UsageError } from '../../design/problems/problem.js';
import { interpreter, memoryOf } from '../compile/interpret.js';
import { Printer, type Spelling } from '../compile/print.js';
import type { Program } from '../compile/representation.js';
import { probing, sessionProgram } from '../program/build/session-program.js';
import type { Form } from '../program/form.js';
import type { Host } from './host.js';
import type { Probe } from './probe.js';

/** The functions of a session's program, and the cells that they run over. */
export interface Backend {
  readonly cells: Float64Array;
  /** Handles an event (-1: none) to its end, first taking a transition (-1: none). */
  handle(event: number, transition: number): void;
  /** Puts the pieces and spawn clocks of the present level at their start. */
  respawn(): void;
  /** An event from outside; gives one of `receptions`. */
  send(event: number): number;
  canMeet(piece: number): number;
  /** Finds the clock that is due next, and leaves what it found in cells. */
  find(): void;
  elapse(to: number): void;
  fireTimer(timer: number): void;
  fireSpawn(slot: number): void;
  fireWait(wait: number): void;
  /** One of the values that texts and the HUD show. */
  value(index: number): number | boolean;
}

/** Makes the backend of one session. One that watches nothing is made without a probe. */
export type MakeBackend = (host: Host, probe: Probe | undefined) => Backend;

/** How a program runs: printed as JavaScript, or interpreted where a page forbids code made from text. */
export type BackendName = 'printed' | 'interpreted';

/** True where this JavaScript engine lets code be made from text; a page's content security policy may forbid it. */
export function canPrint(): boolean {
  try {
    return new Function('return true')() === true;
  } catch {
    return false;
  }
}

/**
 * The backend to use: the one asked for, else printed code where it is allowed.
 *
 * @throws UsageError where printed code is asked for and forbidden
 */
export function chooseBackend(asked: BackendName | undefined): BackendName {
  if (asked === 'interpreted') return asked;
  if (canPrint()) return 'printed';
  if (asked === undefined) return 'interpreted';
  throw new UsageError('not-allowed', 'This page forbids code made from text; use the backend interpreted.');
}

/** What is made once for a form, however many sessions run it: with a probe, and for nobody who watches. */
const programs = { watched: new WeakMap<Form, Program>(), unwatched: new WeakMap<Form, Program>() };

/** What makes the backend of a form of the kind asked for; see `chooseBackend`. */
export function backendOf(form: Form, asked: BackendName | undefined, isWatched: boolean): MakeBackend {
  const ofForm = isWatched ? programs.watched : programs.unwatched;
  const program = ofForm.get(form) ?? sessionProgram(form, isWatched ? probing : {});
  ofForm.set(form, program);
  const make = functionsOf<Backend>(program, asked);
  return (host, probe) => make(host, probe, undefined);
}

/** Makes the functions of a program for one session; `log` is what notes how it goes, `player` who decides. */
type Make<Functions> = (
  host: Host,
  probe: Probe | undefined,
  log: object | undefined,
  player?: object,
) => Functions;

const printed = new WeakMap<Program, Make<unknown>>();

/** The functions of a program over cells of their own, and these cells; see `chooseBackend`. */
export function functionsOf<Functions>(program: Program, asked: BackendName | undefined): Make<Functions> {
  if (chooseBackend(asked) === 'interpreted')
    return (host, probe, log, player) => {
      const cells = new Float64Array(memoryOf(program));
      const draw = (place: number, before: number): number => host.draw(place, before);
      return { cells, ...interpreter(program, cells, draw, { host, probe, log, player }) } as Functions;
    };
  const known = printed.get(program);
  if (known !== undefined) return known as Make<Functions>;
  const make = new Function('host', 'probe', 'log', 'player', backendText(program)) as Make<Functions>;
  printed.set(program, make);
  return make;
}

/** The state spelt as cells of the array `cells`. */
const inCells = ({ asked, tellsSplits }: Program): Spelling => ({
  slot: (slot) => `cells[${slot}]`,
  slotAt: (base, at) => `cells[${base} + ${at}]`,
  never: 'Infinity',
  draw: (place, known) =>
    known === undefined
      ? `host.draw(${place}, cells[${asked} + ${place}]++)`
      : `host.draw(${known}, cells[${asked + known}]++)`,
  ...(tellsSplits === true
    ? { splits: (kind: number, of: string) => `host.splits(${[kind, of].join(', ')})` }
    : {}),
});

/** The body of a function of `host`, `probe`, `log` and `player` that gives the functions of a program. */
export function backendText(program: Program): string {
  const printer = new Printer(inCells(program));
  const functions = printer.functions(program);
  return `'use strict';
const cells = new Float64Array(${program.slots}), queue = [];
${printer.tables()}
${functions}
return { cells, ${[...program.functions.keys()].join(', ')} };`;
}
