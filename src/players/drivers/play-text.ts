import { Emitter, type Watch } from '../../engine/compile/emit.js';
import type { Spelling } from '../../engine/compile/emit-term.js';
import type { Form } from '../../engine/program/form.js';
import { mostPresent } from '../../engine/program/form.js';
import { type Abilities, type Endings, MeetText } from '../meeting/meet-text.js';
import { ClockText, clockName } from './clock-text.js';
import {
  appear,
  capacity,
  choice,
  clear,
  drawFunction,
  drawn,
  kinds,
  never,
  onLive,
  removeArriving,
  removeSought,
  unheard,
} from './play-parts.js';
import { RunWatchText } from './run-watch-text.js';

/** Spawn clocks that a level can have, at the most. */
export const slotsOf = (form: Form): number => Math.max(...form.levels.map((level) => level.spawns.length));

/** Places of a small array that are set one by one, which is faster than in a loop. */
const mostWrittenOut = 16;

/** Writes the text. Like all generated code it is built from integers alone. */
export class PlayText {
  readonly #emitter: Emitter;
  readonly #slots: number;
  readonly #runs: RunWatchText;
  readonly #clocks: ClockText;
  readonly #meet: MeetText;

  constructor(
    private readonly form: Form,
    private readonly tables: readonly string[],
    can: Abilities,
    endings: Endings,
  ) {
    this.#slots = slotsOf(form);
    this.#runs = new RunWatchText(form);
    this.#emitter = new Emitter(form, this.#spelling(), this.#watch());
    this.#clocks = new ClockText(form, this.#emitter);
    this.#meet = new MeetText(form, this.#emitter, can, endings);
  }

  whole(): string {
    const { form } = this;
    const pieces = form.pieces.length;
    const zeroed = new Map([
      ['asked', form.draws.length],
      ['outcomesAsked', pieces],
      ['leadsAsked', pieces],
      ['inputsAsked', form.screens.length],
    ]);
    const live = onLive(form);
    return `'use strict';
const { ${this.tables.join(', ')} } = given;
const queue = [];
${drawFunction}
const present = new Int32Array(${pieces});
const spawnDue = new Int32Array(${this.#slots}), spawnMade = new Int32Array(${this.#slots});
const ${[...zeroed].map(([name, length]) => `${name} = new Int32Array(${length})`).join(', ')};
const arrivingDue = new Int32Array(${capacity}), arrivingPiece = new Int32Array(${capacity});
const soughtDue = new Int32Array(${capacity}), soughtPiece = new Int32Array(${capacity});
const visited = new Int32Array(${Math.ceil(form.screens.length / 32)});
function askAnew() { ${[...zeroed].map(([name, length]) => putToZero(name, length)).join(' ')} }
${this.#runs.passTimeFunction()}
return function playSession(keyLow, keyHigh, mostRuns, patience, thinks, thresholds, attempts, inputs, weights, sheet) {
  const { fired, points, taken, pace, held } = sheet;
  askAnew();
  let steps = 0, head = 0, tail = 0, e = -1, take = ${form.transitions.length - 1};
  let now = 0, live = 0, screen = 0, entered = 0, waited = 0, level = 0, graceEnds = 0;
  ${this.#locals()}
  // The spawn of the level that is due first.
  let spawnNext = ${never}, spawnAt = -1;
  // Those on their way, in order of appearance, and which of them arrives first.
  let arriving = 0, arrivalDue = ${never}, arrivalAt = -1;
  // Those that wait for the player, from soughtHead on, and which of them is missed first.
  let soughtHead = 0, soughtTail = 0, expiryDue = ${never}, expiryAt = -1;
  let attempted = -1, attemptDue = ${never}${this.#meet.locals()};
  let thinksUntil = 0;
  ${this.#runs.locals()}
  play: for (;;) {
    if (e !== ${unheard}) {
      steps = 0;
      ${this.#emitter.chain()}
      if (ending >= 0) { ${this.#runs.finish('ending', 'cause')} }
      if (ended >= mostRuns) break;
    }
    if (attempted < 0 && soughtHead < soughtTail && ${live}) { ${this.#meet.attend()} }
    for (;;) {
      let due = ${never}, kind = -1;
      if (${live}) {
        ${this.#clocks.live()}
        if (kind < 0) break play;
        const at = now + (due - live);
        if (at > patience) { now = patience; break play; }
        ${this.#clocks.pass('at - now')}
        now = at; live = due;
        let piece = -1;
        if (kind === ${kinds.spawn}) {
          ${this.#fireSpawn()}
        }
        if (kind >= ${kinds.timer}) { switch (kind - ${kinds.timer}) { ${this.#clocks.fireTimers()} } }
        if (kind === ${kinds.wait}) { waited = ${this.#clocks.nextWait()}; e = -1; continue play; }
        if (kind === ${kinds.expiry}) {
          piece = soughtPiece[expiryAt];
          ${removeSought}
        } else if (kind === ${kinds.arrival}) {
          piece = arrivingPiece[arrivalAt];
          ${removeArriving}
        } else {
          piece = attempted;
          attempted = -1; attemptDue = ${never};
        }
        switch (piece) {
          ${this.#meet.plainPieces()}
          ${this.#meet.otherPieces()}
        }
        continue play;
      }
      ${this.#clocks.resting()}
      if (due === ${never}) break play;
      if (due > patience) { now = patience; break play; }
      ${this.#clocks.pass('due - now')}
      now = due;
      ${this.#clocks.fireRestingTimers()}
      if (kind > 0) { waited = kind; e = -1; continue play; }
      const offered = inputs[screen];
      thinksUntil = now + thinks;
      e = offered[${choice(drawn('inputsAsked[screen]++', 'inputLow[screen]', 'inputHigh[screen]'), 'offered.length')}];
      continue play;
    }
  }
  ${this.#runs.passTime()}
  if (isRunning) { ${this.#runs.finish('-1', '-1')} }
  sheet.duration = now;
};`;
  }

  #locals(): string {
    const { form } = this;
    const names = [
      ...form.counters.map((_, index) => `c${index}`),
      ...form.timers.map((_, index) => `t${index}`),
      ...form.timers.flatMap(({ warnCell }, index) => (warnCell < 0 ? [] : [`w${index}`])),
      ...form.clocks.map((_, clock) => `k${clock}`),
      ...form.screens.flatMap(({ backCell }, screen) =>
        backCell < 0 ? [] : [`b${screen}_0`, `b${screen}_1`, `b${screen}_2`],
      ),
      ...form.rules.flatMap(({ restCell, memoryCell, onceCell }, index) => [
        ...(restCell >= 0 ? [`r${index}`] : []),
        ...(memoryCell >= 0 ? [`y${index}`] : []),
        ...(onceCell >= 0 ? [`o${index}`] : []),
      ]),
    ];
    return names.length === 0 ? '' : `let ${names.map((name) => `${name} = 0`).join(', ')};`;
  }

  #spelling(): Spelling {
    return {
      dial: (dial) => `dials[${dial}]`,
      now: 'now',
      live: 'live',
      screen: 'screen',
      entered: 'entered',
      waited: 'waited',
      level: 'level',
      graceEnds: 'graceEnds',
      // No design with a course is written out.
      coursePassed: '0',
      courseCheckpoint: '0',
      courseAt: () => '0',
      clock: (timer) => clockName(this.form, timer),
      never: String(never),
      counter: (counter) => `c${counter}`,
      timer: (timer) => `t${timer}`,
      present: (piece) => `present[${piece}]`,
      spawnDue: (slot) => `spawnDue[${slot}]`,
      spawnMade: (slot) => `spawnMade[${slot}]`,
      rest: (rule) => `r${rule}`,
      memory: (rule) => `y${rule}`,
      once: (rule) => `o${rule}`,
      warning: (timer) => `w${timer}`,
      back: (screen, part) => `b${screen}_${part}`,
      draw: (index) => `engineDraw(${index}, asked[${index}]++, keyLow, keyHigh)`,
    };
  }

  #watch(): Watch {
    return {
      rule: (rule) => `fired[${rule}]++;`,
      transition: () => `thinksUntil = now + thinks; ${this.#runs.transition()}`,
      write: (counter, source, before, after) => this.#runs.write(counter, source, before, after),
      cue: () => '',
      popup: () => '',
      appeared: (piece) => `{ const piece = ${piece}; ${appear} }`,
      cleared: (piece) => `{ const piece = ${piece}; ${clear} }`,
      allCleared: () =>
        `arriving = 0; arrivalDue = ${never}; soughtHead = soughtTail = 0; expiryDue = ${never}; attempted = -1; attemptDue = ${never};`,
      clocksSet: () => this.#findSpawn(),
    };
  }

  /** Sets `spawnNext` and `spawnAt`. */
  #findSpawn(): string {
    if (this.#slots === 0) return '';
    const look = (slot: string): string =>
      `if (spawnDue[${slot}] < spawnNext) { spawnNext = spawnDue[${slot}]; spawnAt = ${slot}; }`;
    const others =
      this.#slots > mostWrittenOut
        ? `for (let i = 1; i < ${this.#slots}; i++) ${look('i')}`
        : Array.from({ length: this.#slots - 1 }, (_, index) => look(String(index + 1))).join('\n');
    return `spawnNext = spawnDue[0]; spawnAt = 0; ${others}`;
  }

  #fireSpawn(): string {
    const steps = drawn('asked[spawnDraw[spawn]]++', 'spawnLow[spawn]', 'spawnHigh[spawn]');
    return `
const spawn = ${this.form.endless ? `Math.min(level, ${this.form.levels.length - 1})` : 'level'} * ${this.#slots} + spawnAt;
piece = spawnPiece[spawn];
const appears = present[piece] < spawnAtOnce[spawn];
if (appears) spawnMade[spawnAt]++;
if (spawnMade[spawnAt] >= spawnTotal[spawn]) spawnDue[spawnAt] = ${never};
else {
  let due = spawnDue[spawnAt] + spawnLeast[spawn];
  ${this.#computedSpawns()}
  if (spawnChoices[spawn] > 1) due += spawnStep[spawn] * ${choice(steps, 'spawnChoices[spawn]')};
  spawnDue[spawnAt] = due;
}
${this.#findSpawn()}
if (!appears) continue;
if (++present[piece] > ${mostPresent}) host.tooMany(piece);
${appear}
e = ${this.#appearedEvent()};
continue play;`;
  }

  /** What is told when `piece` has appeared; where nothing on any live screen hears of any, that needs no look. */
  #appearedEvent(): string {
    const { pieces, events } = this.form;
    const told = pieces.map(({ appeared }) => this.#meet.ifHeard(appeared));
    if (told.every((each) => each === String(unheard))) return String(unheard);
    return `isUnheard[screen * ${events.length} + appeared[piece]] === 1 ? ${unheard} : appeared[piece]`;
  }

  /** Adds the intervals that are computed; their least and their choices are nothing in the tables. */
  #computedSpawns(): string {
    const { levels } = this.form;
    const cases = levels.flatMap(({ spawns }, level) =>
      spawns.flatMap(({ every }, slot) =>
        every.computed === undefined
          ? []
          : [`case ${level * this.#slots + slot}: due += ${this.#emitter.interval(every)}; break;`],
      ),
    );
    return cases.length === 0 ? '' : `switch (spawn) { ${cases.join('\n')} }`;
  }
}

function putToZero(name: string, length: number): string {
  if (length === 0 || length > mostWrittenOut) return `${name}.fill(0);`;
  return `${Array.from({ length }, (_, index) => `${name}[${index}] = `).join('')}0;`;
}
