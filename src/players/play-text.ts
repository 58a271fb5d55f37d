import { Emitter, type Watch } from '../engine/emit.js';
import type { Spelling } from '../engine/emit-term.js';
import type { Form } from '../engine/form.js';
import { mostPresent } from '../engine/form.js';
import type { Meeting } from './meeting.js';
import {
  appear,
  attendOldest,
  capacity,
  choice,
  clear,
  drawn,
  findExpiry,
  kinds,
  never,
  removeArriving,
  removeSought,
  restingTimer,
  seekAgain,
  unheard,
} from './play-parts.js';
import { runSpan } from './run-watch.js';
import { type Bound, boundsOf, livesOf, paceParts, paceStep } from './sheet.js';

/** Spawn clocks that a level can have, at the most. */
export const slotsOf = (form: Form): number => Math.max(...form.levels.map((level) => level.spawns.length));

/** What players of a design do beyond meeting what has been there longest, with a skill that stays; else the text goes without it. */
export interface Abilities {
  readonly choose: boolean;
  readonly learn: boolean;
}

/** Writes the text. Like all generated code it is built from integers alone. */
export class PlayText {
  readonly #emitter: Emitter;
  readonly #slots: number;
  readonly #lives: number;
  readonly #bounds: readonly Bound[];

  constructor(
    private readonly form: Form,
    private readonly tables: readonly string[],
    private readonly hasHits: boolean,
    private readonly can: Abilities,
    /** For each piece, the draw that asks how it ends. */
    private readonly outcomeDraws: Meeting['outcomeDraws'],
    /** For each piece, whether its first success or failure is its end. */
    private readonly isTriedOnce: readonly boolean[],
  ) {
    this.#slots = slotsOf(form);
    this.#lives = livesOf(form.design);
    this.#bounds = boundsOf(form.design);
    this.#emitter = new Emitter(form, this.#spelling(), this.#watch());
  }

  whole(): string {
    const { form } = this;
    const pieces = form.pieces.length;
    return `'use strict';
const { ${this.tables.join(', ')} } = given;
const queue = [];
const present = new Int32Array(${pieces});
const spawnDue = new Int32Array(${this.#slots}), spawnMade = new Int32Array(${this.#slots});
const asked = new Int32Array(${form.draws.length});
const outcomesAsked = new Int32Array(${pieces}), leadsAsked = new Int32Array(${pieces}), inputsAsked = new Int32Array(${form.screens.length});
const arrivingDue = new Int32Array(${capacity}), arrivingPiece = new Int32Array(${capacity});
const soughtDue = new Int32Array(${capacity}), soughtPiece = new Int32Array(${capacity});
const visited = new Int32Array(${Math.ceil(form.screens.length / 32)});
return function playSession(keyLow, keyHigh, mostRuns, patience, thinks, thresholds, attempts, inputs, weights, sheet) {
  const { fired, points, taken, pace, held } = sheet;
  asked.fill(0); outcomesAsked.fill(0); leadsAsked.fill(0); inputsAsked.fill(0);
  let x = 0, steps = 0, head = 0, tail = 0, e = -1, take = ${form.transitions.length - 1};
  let now = 0, live = 0, screen = 0, entered = 0, waited = 0, level = 0, graceEnds = 0;
  ${this.#locals()}
  // The spawn of the level that is due first.
  let spawnNext = ${never}, spawnAt = -1;
  // Those on their way, in order of appearance, and which of them arrives first.
  let arriving = 0, arrivalDue = ${never}, arrivalAt = -1;
  // Those that wait for the player, from soughtHead on, and which of them is missed first.
  let soughtHead = 0, soughtTail = 0, expiryDue = ${never}, expiryAt = -1;
  let attempted = -1, attemptDue = ${never}, attemptExpires = ${never}, hitsLeft = 1;
  let thinksUntil = 0;
  let ended = 0, isRunning = false, began = 0, highest = 0, ending = -1, cause = -1;
  let firstPoint = -1, firstLoss = -1, lastPoint = 0, drySpell = 0, row = 0, streak = 0, since = 0;
  ${this.#bounds.length === 0 ? '' : `let ${this.#bounds.map((_, index) => `h${index} = 0`).join(', ')};`}
  play: for (;;) {
    if (e !== ${unheard}) {
      steps = 0;
      ${this.#emitter.chain()}
      if (ending >= 0) { ${this.#finishRun('ending', 'cause')} }
      if (ended >= mostRuns) break;
    }
    if (attempted < 0 && soughtHead < soughtTail && ${this.#live}) { ${this.#attend()} }
    for (;;) {
      let due = ${never}, kind = -1;
      if (${this.#live}) {
        ${this.#liveClocks()}
        if (kind < 0) break play;
        const at = now + (due - live);
        if (at > patience) { now = patience; break play; }
        ${this.#passClocks('at - now')}
        now = at; live = due;
        let piece = -1;
        if (kind === ${kinds.spawn}) {
          ${this.#fireSpawn()}
        }
        if (kind >= ${kinds.timer}) { switch (kind - ${kinds.timer}) { ${this.#fireTimers()} } }
        if (kind === ${kinds.wait}) { waited = ${this.#nextWait()}; e = -1; continue play; }
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
          ${this.#plainPieces()}
          default: { ${this.#meet()} }
        }
        continue play;
      }
      ${this.#restingClocks()}
      if (due === ${never}) break play;
      if (due > patience) { now = patience; break play; }
      ${this.#passClocks('due - now')}
      now = due;
      ${this.#fireRestingTimers()}
      if (kind > 0) { waited = kind; e = -1; continue play; }
      const offered = inputs[screen];
      thinksUntil = now + thinks;
      e = offered[${choice(drawn('inputsAsked[screen]++', 'inputLow[screen]', 'inputHigh[screen]'), 'offered.length')}];
      continue play;
    }
  }
  ${this.#passTime()}
  if (isRunning) { ${this.#finishRun('-1', '-1')} }
  sheet.duration = now;
};`;
  }

  /** Whether the present screen is live: compared with its numbers where they are few, which is faster than a look into a table. */
  get #live(): string {
    const live = this.form.screens.flatMap((screen, index) => (screen.live ? [index] : []));
    return live.length > 2
      ? 'isLive[screen] === 1'
      : `(${live.map((index) => `screen === ${index}`).join(' || ') || 'false'})`;
  }

  /** Pieces that skill alone decides, at the first try: their outcomes, and what these do, are written with their numbers. */
  #plainPieces(): string {
    const { pieces } = this.form;
    return pieces
      .map(({ weighted, needs }, piece) => {
        const isPlain = weighted === undefined && needs === undefined && this.isTriedOnce[piece];
        return isPlain ? this.#plainPiece(piece) : '';
      })
      .join('\n');
  }

  #plainPiece(piece: number): string {
    const { events, pieces } = this.form;
    const { success, failure, gone } = pieces[piece]!;
    const end = (event: number): string => {
      const leaves =
        events[event]!.presence === 0
          ? ''
          : `if (present[${piece}] > 0) present[${piece}] += ${events[event]!.presence};`;
      return `${leaves} e = ${this.#ifHeard(event)};`;
    };
    const outcome = (event: number, noted: string): string =>
      events[event]!.turnedAway
        ? `if (live < graceEnds) { ${end(gone)} } else { ${noted} ${end(event)} }`
        : `${noted} ${end(event)}`;
    const { low, high } = this.outcomeDraws[piece]!;
    const ask = drawn(`outcomesAsked[${piece}]++`, String(low), `(${high})`);
    const run = this.can.learn ? `ended * ${pieces.length} + ` : '';
    return `case ${piece}: {
  if (kind !== ${kinds.expiry} && ${ask} < thresholds[${run}${piece}]) { ${outcome(success, 'if (++row > streak) streak = row;')} }
  else { ${outcome(failure, 'row = 0;')} }
  break;
}`;
  }

  /** An event, or that nothing hears it, on the live screen that the player is on. */
  #ifHeard(event: number): string {
    const { screens, events } = this.form;
    const live = screens.filter((screen) => screen.live);
    const isHeard = live.map(({ handlers, watchesPresence }) => handlers.has(event) || watchesPresence);
    if (isHeard.every((heard) => heard)) return String(event);
    if (isHeard.every((heard) => !heard)) return String(unheard);
    return `isUnheard[screen * ${events.length} + ${event}] === 1 ? ${unheard} : ${event}`;
  }

  /** How meeting any piece ends, by the tables. */
  #meet(): string {
    return `
if (kind === ${kinds.expiry}) e = ${this.#canMeet('failure[piece]', 'gone[piece]')};
else {
  const isArrival = kind === ${kinds.arrival};
  ${this.#unmet()}
  ${this.#outcome()}
  ${this.#countHits()}
  if (retries[piece] !== 0 && !isArrival && e === failure[piece]) {
    ${seekAgain}
    if (retries[piece] === 2) { e = ${unheard}; continue play; }
  }
}
if (live < graceEnds && turnedAway[e] === 1) e = gone[piece];
if (e === success[piece]) { if (++row > streak) streak = row; }
else if (e === failure[piece]) row = 0;
if (present[piece] > 0) present[piece] -= leaves[e];
if (isUnheard[screen * ${this.form.events.length} + e] === 1) e = ${unheard};`;
  }

  /** One of two texts, by whether what `piece` needs holds. */
  #canMeet(yes: string, no: string, piece = 'piece'): string {
    const needing = this.form.pieces.flatMap(({ needs }, index) =>
      needs === undefined ? [] : [{ needs, index }],
    );
    if (needing.length === 0) return yes;
    const holds = needing.reduceRight(
      (otherwise, { needs, index }) =>
        `(${piece} === ${index} ? ${this.#emitter.term(needs)} : ${otherwise})`,
      'true',
    );
    return `(${holds} ? ${yes} : ${no})`;
  }

  /** A piece that cannot be met when an attempt is over is sought again; one that arrives is gone. */
  #unmet(): string {
    if (this.form.pieces.every(({ needs }) => needs === undefined)) return '';
    return `if (!${this.#canMeet('true', 'false')}) {
  if (!isArrival) { ${seekAgain} e = ${unheard}; continue play; }
  e = gone[piece];
  if (present[piece] > 0) present[piece]--;
  if (isUnheard[screen * ${this.form.events.length} + e] === 1) e = ${unheard};
  continue play;
}`;
  }

  /** A piece that takes several successes: one that arrives asks for all at once, one that is sought for one after another. */
  #countHits(): string {
    if (!this.hasHits) return '';
    return `if (e === success[piece] && hits[piece] > 1) {
  if (isArrival) { for (let left = hits[piece]; left > 1 && e === success[piece]; left--) { ${this.#outcome()} } }
  else if (hitsLeft > 1) { hitsLeft--; attempted = piece; attemptDue = live + attempts[piece]; e = ${unheard}; continue play; }
}`;
  }

  /** How an attempt at `piece`, or its arrival, ends: as its outcomes weigh, or as skill has it. */
  #outcome(): string {
    const ask = drawn('outcomesAsked[piece]++', 'outcomeLow[piece]', 'outcomeHigh[piece]');
    const bySkill = (draw: string): string =>
      `e = ${draw} < thresholds[${this.can.learn ? `ended * ${this.form.pieces.length} + ` : ''}piece] ? success[piece] : failure[piece];`;
    const cases = this.form.pieces.flatMap(({ weighted, failure }, piece) => {
      if (weighted === undefined) return [];
      const weights = weighted.map(
        ({ weight }, index) => `w${index} = Math.max(0, ${this.#emitter.term(weight)})`,
      );
      const sum = (count: number): string =>
        Array.from({ length: count }, (_, index) => `w${index}`).join(' + ');
      const chosen = weighted.reduceRight(
        (otherwise, { event }, index) => `(at < ${sum(index + 1)} ? ${event} : ${otherwise})`,
        String(failure),
      );
      return [
        `case ${piece}: { const ${weights.join(', ')}; const at = outcome * (${sum(weighted.length)}) / 4294967296; e = ${chosen}; break; }`,
      ];
    });
    if (cases.length === 0) return bySkill(ask);
    return `const outcome = ${ask}; switch (piece) { ${cases.join('\n')} default: ${bySkill('outcome')} }`;
  }

  /** The player turns to the piece that it seeks most of those that can be met, and of these to the one there longest. */
  #attend(): string {
    const hasNeeds = this.form.pieces.some(({ needs }) => needs !== undefined);
    if (!hasNeeds && !this.can.choose) return attendOldest;
    const canMeet = this.#canMeet('true', 'false', 'soughtPiece[i]');
    const find = this.can.choose
      ? `let chosen = soughtTail, most = 0;
for (let i = soughtHead; i < soughtTail; i++) if (weights[soughtPiece[i]] > most && ${canMeet}) { chosen = i; most = weights[soughtPiece[i]]; }`
      : `let chosen = soughtTail;
for (let i = soughtHead; i < soughtTail; i++) if (${canMeet}) { chosen = i; break; }`;
    return `
${find}
if (chosen < soughtTail) {
  attempted = soughtPiece[chosen]; attemptDue = live + attempts[attempted]; attemptExpires = soughtDue[chosen]; hitsLeft = hits[attempted];
  soughtTail--;
  for (let i = chosen; i < soughtTail; i++) { soughtDue[i] = soughtDue[i + 1]; soughtPiece[i] = soughtPiece[i + 1]; }
  ${findExpiry}
}`;
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
      clock: (timer) => this.#clockName(timer),
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
      transition: () => this.#watchTransition(),
      write: (counter, source, before, after) => this.#watchWrite(counter, source, before, after),
      cue: () => '',
      popup: () => '',
      appeared: (piece) => `{ const piece = ${piece}; ${appear} }`,
      cleared: (piece) => `{ const piece = ${piece}; ${clear} }`,
      allCleared: () =>
        `arriving = 0; arrivalDue = ${never}; soughtHead = soughtTail = 0; expiryDue = ${never}; attempted = -1; attemptDue = ${never};`,
      clocksSet: () => this.#findSpawn(),
    };
  }

  /** As `RunWatch`. */
  #watchTransition(): string {
    return `
taken[take]++;
thinksUntil = now + thinks;
${this.#passTime()}
if (ending >= 0) { ${this.#finishRun('ending', 'cause')} }
if (level > highest) highest = level;
if (target[take] >= 0) {
if (freshOf[take] >= ${runSpan} || (!isRunning && isLive[target[take]] === 1)) {
  if (isRunning) { ${this.#finishRun('-1', '-1')} }
  isRunning = true; began = now; highest = 0; visited.fill(0);
  firstPoint = firstLoss = -1; lastPoint = now; drySpell = row = streak = 0;
}
visited[target[take] >> 5] |= 1 << (target[take] & 31);
if (isRunning && isEnding[target[take]] === 1) { ending = target[take]; cause = take; }
}`;
  }

  #watchWrite(counter: number, source: number, before: string, after: string): string {
    const texts: string[] = [];
    if (counter === this.form.score)
      texts.push(`points[${source}] += ${after} - ${before};
if (isRunning) {
  const part = ((now - began) / ${paceStep}) | 0;
  pace[part < ${paceParts} ? part : ${paceParts - 1}] += ${after} - ${before};
  if (${after} > ${before}) {
    if (firstPoint < 0) firstPoint = now - began;
    if (now - lastPoint > drySpell) drySpell = now - lastPoint;
    lastPoint = now;
  }
}`);
    if (counter === this.#lives)
      texts.push(`if (firstLoss < 0 && ${after} < ${before} && isRunning) firstLoss = now - began;`);
    const held = this.#bounds.flatMap((bound, index) => {
      if (bound.counter !== counter) return [];
      return [
        `if (${after} === ${bound.value}) h${index} = now;
else if (${before} === ${bound.value} && isRunning && ${this.#live}) held[${index}] += now - h${index};`,
      ];
    });
    if (held.length > 0) texts.push(`if (${after} !== ${before}) { ${held.join(' ')} }`);
    return texts.join('\n');
  }

  #passTime(): string {
    const held = this.#bounds.map(
      ({ counter, value }, index) => `if (c${counter} === ${value}) held[${index}] += now - h${index};`,
    );
    const since = this.#bounds.map((_, index) => `h${index} = `).join('');
    return `if (isRunning && ${this.#live}) { sheet.playTime += now - since; ${held.join(' ')} }
${since}since = now;`;
  }

  #finishRun(end: string, cause: string): string {
    const counter = (index: number): string => (index < 0 ? '0' : `c${index}`);
    const count = end === '-1' ? '' : 'ended++;';
    const dry = this.form.score < 0 ? '-1' : 'now - lastPoint > drySpell ? now - lastPoint : drySpell';
    return `sheet.endRun(${counter(this.form.score)}, now - began, ${end}, ${cause}, level > highest ? level : highest, ${counter(this.#lives)}, firstPoint, firstLoss, ${dry}, streak, began, visited); isRunning = false; ending = -1; ${count}`;
  }

  #findSpawn(): string {
    return `spawnNext = ${never}; for (let i = 0; i < ${this.#slots}; i++) if (spawnDue[i] < spawnNext) { spawnNext = spawnDue[i]; spawnAt = i; }`;
  }

  /** The clock due next on a live screen: `due` in live time, and which. */
  #liveClocks(): string {
    const { form } = this;
    const timers = form.timers.map((_, index) => this.#timerClock(index, 'live', kinds.timer));
    const hasWaits = form.screens.some(({ live, waits }) => live && waits.length > 0);
    const waits = `const wait = ${this.#nextWait()}; if (wait > 0 && live + entered + wait - now < due) { due = live + entered + wait - now; kind = ${kinds.wait}; }`;
    return `${timers.join('\n')}
if (spawnNext < due) { due = spawnNext; kind = ${kinds.spawn}; }
if (arrivalDue < due) { due = arrivalDue; kind = ${kinds.arrival}; }
if (attemptDue < due) { due = attemptDue; kind = ${kinds.attempt}; }
if (expiryDue < due) { due = expiryDue; kind = ${kinds.expiry}; }
${hasWaits ? waits : ''}`;
  }

  /**
   * Looks whether a timer, or its warning, is due before `due`, on a clock that shows `now` when the timer's own shows its time;
   * `kind` then is `first` and its number, those of warnings after those of all timers.
   */
  #timerClock(index: number, now: string, first: number): string {
    const { timers } = this.form;
    const { warnCell, clockCell } = timers[index]!;
    const isOwn = clockCell !== this.form.cells.live;
    const own = isOwn ? ` - ${this.#clockName(index)} + ${now}` : '';
    const look = (cell: string, kind: number): string =>
      isOwn
        ? `if (${cell} < ${never} && ${cell}${own} < due) { due = ${cell}${own}; kind = ${kind}; }`
        : `if (${cell} < due) { due = ${cell}; kind = ${kind}; }`;
    const looks = [
      look(`t${index}`, first + index),
      ...(warnCell < 0 ? [] : [look(`w${index}`, first + timers.length + index)]),
    ].join(' ');
    return isOwn ? `if (${this.#isOn(clockCell - this.form.cells.clocks)}) { ${looks} }` : looks;
  }

  #clockName(timer: number): string {
    const { clockCell } = this.form.timers[timer]!;
    return clockCell === this.form.cells.live ? 'live' : `k${clockCell - this.form.cells.clocks}`;
  }

  /** Whether a clock runs on the present screen. */
  #isOn(clock: number): string {
    return this.form.clocks[clock]!.map((screen) => `screen === ${screen}`).join(' || ') || 'false';
  }

  /** Lets the clocks of chosen screens go on. */
  #passClocks(passed: string): string {
    return this.form.clocks.map((_, clock) => `if (${this.#isOn(clock)}) k${clock} += ${passed};`).join(' ');
  }

  /** The shortest wait of the present screen that is not over yet, or 0. */
  #nextWait(): string {
    return this.form.screens.reduceRight((otherwise, { waits }, screen) => {
      if (waits.length === 0) return otherwise;
      const next = waits.reduceRight((later, wait) => `(waited < ${wait} ? ${wait} : ${later})`, '0');
      return `(screen === ${screen} ? ${next} : ${otherwise})`;
    }, '0');
  }

  #fireTimers(): string {
    return this.form.timers
      .map(({ repeats, interval, event, warnCell, warnEvent }, index) => {
        const next = repeats ? `t${index} + ${this.#emitter.interval(interval)}` : String(never);
        const end = `case ${index}: ${this.#emitter.setTimer(index, next)} e = ${event}; continue play;`;
        if (warnCell < 0) return end;
        const warned = this.form.timers.length + index;
        return [
          end,
          `case ${warned}: ${this.#emitter.nextWarning(index)} e = ${warnEvent}; continue play;`,
        ].join('\n');
      })
      .join('\n');
  }

  #fireSpawn(): string {
    const steps = drawn('asked[place]++', 'drawLow[place]', 'drawHigh[place]');
    return `
const spawn = ${this.form.endless ? `Math.min(level, ${this.form.levels.length - 1})` : 'level'} * ${this.#slots} + spawnAt;
piece = spawnPiece[spawn];
const appears = present[piece] < spawnAtOnce[spawn], place = spawnDraw[spawn];
if (appears) spawnMade[spawnAt]++;
if (spawnMade[spawnAt] >= spawnTotal[spawn]) spawnDue[spawnAt] = ${never};
else {
  ${this.#computedSpawns()}
  spawnDue[spawnAt] += spawnLeast[spawn];
  if (spawnChoices[spawn] > 1) spawnDue[spawnAt] += spawnStep[spawn] * ${choice(steps, 'spawnChoices[spawn]')};
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
    const told = pieces.map(({ appeared }) => this.#ifHeard(appeared));
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
          : [
              `case ${level * this.#slots + slot}: spawnDue[spawnAt] += ${this.#emitter.interval(every)}; break;`,
            ],
      ),
    );
    return cases.length === 0 ? '' : `switch (spawn) { ${cases.join('\n')} }`;
  }

  /** The clock due next on a screen that is not live: a wait (`kind` holds it), or the player's own input. */
  #restingClocks(): string {
    const hasWaits = this.form.screens.some(({ live, waits }) => !live && waits.length > 0);
    return `${this.#restingTimers()}
${hasWaits ? `const wait = ${this.#nextWait()}; if (wait > 0 && entered + wait < due) { due = entered + wait; kind = wait; }` : ''}
if (inputs[screen].length > 0 && thinksUntil < due) { due = thinksUntil; kind = -1; }`;
  }

  /** Timers that run on screens that are not live; `kind` tells them from waits by its size. */
  #restingTimers(): string {
    const { form } = this;
    return form.timers
      .flatMap(({ clockCell }, index) =>
        clockCell === form.cells.live ? [] : [this.#timerClock(index, 'now', restingTimer)],
      )
      .join('\n');
  }

  #fireRestingTimers(): string {
    if (this.form.clocks.length === 0) return '';
    return `if (kind >= ${restingTimer}) { switch (kind - ${restingTimer}) { ${this.#fireTimers()} } }`;
  }
}
