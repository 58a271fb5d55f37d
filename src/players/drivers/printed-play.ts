import type { Design } from '../../design/model.js';
import { Printer, type Spelling } from '../../engine/compile/print.js';
import type { Form } from '../../engine/program/form.js';
import { golden, mixFirst, mixSecond } from '../../engine/run/draw.js';
import { Host } from '../../engine/run/host.js';
import type { SessionLog } from '../../measure/session-log.js';
import type { Meeting } from '../meeting/meeting.js';
import type { Abilities } from '../meeting/meeting-program.js';
import { drawsOf, type givenOf } from './given.js';
import { type PlayProgram, playProgram } from './play-program.js';

/** One session, played to its end. */
export type PlaySession = (
  keyLow: number,
  keyHigh: number,
  log: SessionLog,
  given: ReturnType<typeof givenOf>,
  mostRuns: number,
  patience: number,
  thinks: number,
) => void;

/** Code that was printed, with the dials that it reads. Another form whose code is the same may put its own in them. */
interface Made {
  readonly play: PlaySession;
  readonly dials: Float64Array;
  owner: Form;
}

/** By form; settings of a design whose dials are loose share what is made for it. */
const madeFor = new WeakMap<Form | Design, Map<string, Made>>();
/** By text, the last used last: settings of one design's dials share their code, which takes a while to get fast. */
const madeOfText = new Map<string, Made>();
const mostKept = 16;

/** Later than any clock of a session, and a small integer on every JavaScript engine. */
const never = 2 ** 30 - 1;

/** Places of a small array that are set one by one, which is faster than in a loop. */
const mostWrittenOut = 16;

/** Sessions of a form and player as one function of its own, whose state is local variables and small arrays. */
export function printedPlay(form: Form, meeting: Meeting, can: Abilities, inputs: number): () => PlaySession {
  // What the code of a player reads of it, other than what it is given.
  const { timing, quits, practice, paceLearning, caution } = meeting.player;
  const key = JSON.stringify([
    can.choose,
    can.learn,
    timing,
    quits,
    practice !== 0,
    paceLearning !== 0,
    caution,
    can.hasten && meeting.actBase,
    // Bounds that read dials; nothing else of other settings has other code.
    form.design.looseOf && form.counters.map(({ min, max }) => [min, max]),
  ]);
  const owner = form.design.looseOf ?? form;
  const known = madeFor.get(owner) ?? new Map<string, Made>();
  madeFor.set(owner, known);
  const made = known.get(key) ?? makePlay(form, meeting, can, inputs);
  known.set(key, made);
  return () => {
    if (made.owner !== form) {
      made.dials.set(dialsOf(form));
      made.owner = form;
    }
    return made.play;
  };
}

const dialsOf = (form: Form): number[] => form.design.dials.map(({ value }) => value);

function makePlay(form: Form, meeting: Meeting, can: Abilities, inputs: number): Made {
  const text = playText(form, meeting, playProgram(form, meeting, can, inputs));
  const known = madeOfText.get(text);
  // Names, in messages of faults, are not in the text.
  if (known !== undefined && known.owner.design.written === form.design.written) return known;
  const dials = Float64Array.from(dialsOf(form));
  const play = new Function('host', 'dials', text)(new Host(form, () => 0), dials) as PlaySession;
  const made: Made = { play, dials, owner: form };
  if (form.design.looseOf !== undefined) {
    madeOfText.set(text, made);
    if (madeOfText.size > mostKept) madeOfText.delete(madeOfText.keys().next().value!);
  }
  return made;
}

const round = `x = Math.imul(x ^ (x >>> 16), ${mixFirst}); x = Math.imul(x ^ (x >>> 15), ${mixSecond}); x ^= x >>> 15;`;

/** `draw` of `draw.ts`, for the text; V8 takes it into the code where it is called. */
const drawFunction = `function draw(asked, low, high, keyLow, keyHigh) {
let x = (Math.imul(asked, ${golden}) + low) ^ keyLow;
${round}
x = (x + (high ^ keyHigh)) | 0;
${round}
return x >>> 0;
}`;

/** `choose` of `draw.ts` for fewer than 2^16 choices: the product of each half of the word with them, without a fraction. */
const nthFunction = `function nth(drawn, choices) {
return (Math.imul(drawn >>> 16, choices) + (Math.imul(drawn & 65535, choices) >>> 16)) >>> 16;
}`;

/** The body of a function of `host` and `dials` that gives the session. */
function playText(form: Form, meeting: Meeting, { program, areas, names, accounting }: PlayProgram): string {
  const fixed = new Map<string, string>();
  const used = areas.filter(({ length }) => length > 0);
  const draws = drawsOf(form, meeting);
  const spelling: Spelling = {
    slot: (slot) => {
      const name = names.get(slot);
      if (name !== undefined) return name;
      const area = used.find(({ base, length }) => slot >= base && slot < base + length)!;
      return `${area.name}[${slot - area.base}]`;
    },
    slotAt: (base, at) => {
      const area = used.find((each) => base >= each.base && base < each.base + each.length)!;
      return `${area.name}[${base === area.base ? '' : `${base - area.base} + `}${at}]`;
    },
    never: String(never),
    dial: (dial) => `dials[${dial}]`,
    nth: (drawn, choices) => `nth(${drawn}, ${choices})`,
    fixed: (text) => {
      const name = fixed.get(text) ?? `fixed${fixed.size}`;
      fixed.set(text, name);
      return name;
    },
    draw: (place, known) => {
      if (known === undefined)
        return `draw(asked[${place}]++, drawLow[${place}], drawHigh[${place}], keyLow, keyHigh)`;
      const { low, high } = draws[known]!;
      return `draw(asked[${known}]++, ${low}, ${high}, keyLow, keyHigh)`;
    },
  };
  const printer = new Printer(spelling, [...names.values(), ...used.map(({ name }) => name), ...own]);
  const { play, ...others } = printer.each(program, 'play');
  const columns = Object.values(accounting.log).map(({ name }) => name);
  const given = used
    .filter(({ isGiven, name }) => isGiven && !columns.includes(name))
    .map(({ name }) => name);
  const arrays = used
    .filter(({ isGiven }) => !isGiven)
    .map(({ name, length }) => `const ${name} = new Int32Array(${length});\n`);
  const locals = [...names.values()];
  const knownFirst = [...fixed].map(([text, name]) => `const ${name} = ${text};\n`);
  return `'use strict';
const queue = [];
${drawFunction}
${nthFunction}
const drawLow = new Int32Array([${draws.map(({ low }) => low)}]), drawHigh = new Int32Array([${draws.map(({ high }) => high)}]);
${printer.tables()}
${arrays.join('')}${Object.values(others).join('\n')}
return function (keyLow, keyHigh, log, given, mostRuns, patience, thinks) {
const { ${columns.join(', ')} } = log, { ${given.join(', ')} } = given;
${toZero(draws.length)}
let ${locals.map((name) => `${name} = 0`).join(', ')};
${knownFirst.join('')}${play}};`;
}

const own = ['log', 'given', 'draw', 'nth', 'drawLow', 'drawHigh', 'keyLow', 'keyHigh', 'dials'];

function toZero(length: number): string {
  if (length === 0 || length > mostWrittenOut) return 'asked.fill(0);';
  return `${Array.from({ length }, (_, index) => `asked[${index}] = `).join('')}0;`;
}
