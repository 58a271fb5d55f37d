import { Emitter, type Watch } from '../../engine/compile/emit.js';
import type { Spelling } from '../../engine/compile/emit-term.js';
import { unwatched } from '../../engine/compile/generate.js';
import type { Form } from '../../engine/program/form.js';
import { mostPresent } from '../../engine/program/form.js';
import { mostInWord, type PackedPart, type Packing } from '../abstraction/packing.js';
import { sliceOf } from '../abstraction/slice.js';
import type { Edge, UntimedGame } from '../abstraction/untimed-game.js';
import { rivalsOf } from './competing-transitions.js';
import type { States } from './states.js';

/** What is written for one step from state to state on one screen. */
interface EdgeText {
  readonly screen: number;
  readonly edge: Edge;
  /** All must hold for it to be possible. */
  readonly guards: readonly string[];
  /** What happens before any rule, and the event that the rules are asked about (-1: none). */
  readonly change: string;
  readonly event: number;
}

/**
 * Writes the search's way from a state to all that come next as JavaScript: the parts of a state are local variables, and of the
 * design only what the search follows is there. Like all generated code it is built from integers alone.
 */
export class ExpandText {
  /** Which edge a number in the states' column of edges stands for. */
  readonly edges: readonly Edge[];
  /** Edges of screen s: those of clocks from `first[2 * s]`, what is reported from `first[2 * s + 1]`, up to `first[2 * s + 2]`. */
  readonly first: readonly number[];
  readonly #form: Form;
  readonly #packing: Packing;
  readonly #texts: readonly EdgeText[];
  /** By cell, the number of its part. */
  readonly #parts: ReadonlyMap<number, number>;
  readonly #terms: Emitter;

  constructor(
    private readonly game: UntimedGame,
    private readonly states: States,
  ) {
    this.#packing = states.packing;
    this.#form = sliceOf(game.form, game.cone);
    this.#parts = new Map(states.packing.parts.map(({ cell }, index) => [cell, index]));
    this.#terms = new Emitter(this.#form, this.#spelling(), unwatched);
    const texts: EdgeText[] = [];
    const first: number[] = [];
    this.#form.screens.forEach((_, screen) => {
      first.push(texts.length);
      texts.push(...this.#clocks(screen));
      first.push(texts.length);
      texts.push(...this.#reports(screen));
    });
    first.push(texts.length);
    this.first = first;
    this.#texts = texts;
    this.edges = texts.map(({ edge }) => edge);
  }

  /**
   * The body of a function of `states`, `notes`, `host`, `tables` and `mix` that gives two: one that adds what follows from states, and one
   * that says whether something that a mark is set for follows from a state.
   */
  whole(): string {
    const noting = new Emitter(this.#form, this.#spelling(), this.#notes());
    const { words } = this.#packing;
    const keys = Array.from({ length: words }, (_, word) => `key${word}`);
    return `'use strict';
const queue = [], bits = states.bits;
const first = [${this.first.join(', ')}];
${this.#constants()}
const { takenFrom, takenBy, firedFrom, firedBy, leftFrom, leftBy, preemptedBy, offeredFrom } = notes;
function expand(from, to, isClocks, most) {
  const { packed, parents, edges, slots } = states;
  const mask = slots.length - 1;
  // A hash table that is nearly full takes ever longer to find a free slot.
  const room = bits === undefined ? Math.min(parents.length, slots.length * 3 / 4) : parents.length;
  let length = states.length, row = from;
  let z = 0, steps = 0, head = 0, tail = 0;
  for (; row < to && row < length; row++) {
    if (length >= most || length + ${this.#mostFollowing()} > room) break;
    ${this.#loaded()}
    const base = d0 * 2 + (isClocks ? 0 : 1);
    if (first[base] === first[base + 1]) continue;
    ${this.#decoded()}
    for (let k = first[base]; k < first[base + 1]; k++) {
      ${this.#step(noting, 'if (offeredFrom[k] === -2) offeredFrom[k] = row;', 'head = tail = 0; notes.fault(row, k, error); continue;', 'states.unfit = UNFIT; continue;')}
      ${this.#visit(keys)}
    }
  }
  states.length = length;
  return row;
}
function leads(row, isMarked, key) {
  const { packed } = states;
  let z = 0, steps = 0, head = 0, tail = 0;
  ${this.#loaded()}
  ${this.#decoded()}
  for (let k = first[d0 * 2]; k < first[d0 * 2 + 2]; k++) {
    ${this.#step(this.#terms, '', 'head = tail = 0; continue;', 'continue;')}
    ${keys.map((key, word) => `key[${word}] = ${key};`).join(' ')}
    if (isMarked(key)) return true;
  }
  return false;
}
return { expand, leads };`;
  }

  /** States that one may lead to at the most. */
  #mostFollowing(): number {
    const counts = this.first.slice(1).map((end, index) => end - this.first[index]!);
    return Math.max(1, ...counts);
  }

  #constants(): string {
    const { madeCaps } = this.game.domain;
    const choices = this.#packing.parts.flatMap(({ kind, choices: values }, part) =>
      kind === 'choice' && values.length > 2 ? [`const choices${part} = [${values.join(', ')}];`] : [],
    );
    const caps = [...madeCaps].map(([part, values]) => `const caps${part} = [${values.join(', ')}];`);
    return [...choices, ...caps].join('\n');
  }

  /** The words of the state `row`, as `w0` and so on, and its screen as `d0`. */
  #loaded(): string {
    const { parts, words } = this.#packing;
    const loads = Array.from(
      { length: words },
      (_, word) => `const w${word} = packed[row * ${words} + ${word}];`,
    );
    return `${loads.join(' ')} const d0 = ${this.#decodedPart(parts[0]!, 0)};`;
  }

  /** Its other parts, as `d1` and so on. */
  #decoded(): string {
    const values = this.#packing.parts.map(
      (part, index) => `const d${index} = ${this.#decodedPart(part, index)};`,
    );
    return values.slice(1).join(' ');
  }

  #decodedPart({ kind, word, radix, size, least, choices }: PackedPart, index: number): string {
    if (kind === 'wide') return `w${word + 1} * ${mostInWord} + w${word}`;
    if (size === 1) return String(choices[0] ?? least);
    const isLast = this.#packing.parts[index + 1]?.word !== word;
    const shifted = radix === 1 ? `w${word}` : `(w${word} / ${radix} | 0)`;
    const place = isLast ? shifted : `${shifted} % ${size}`;
    if (kind === 'choice' && size === 2) return `(${place} === 0 ? ${choices[0]} : ${choices[1]})`;
    if (kind === 'choice') return `choices${index}[${place}]`;
    return least === 0 ? place : `${place} + ${least}`;
  }

  /** From the state in `d0`, `d1`... by the edge `k` to the words of the next, as `key0` and so on. */
  #step(emitter: Emitter, offered: string, faulty: string, unfit: string): string {
    const { parts } = this.#packing;
    const { uncertain } = this.game.cone;
    const locals = [
      ...parts.map((_, part) => `p${part} = d${part}`),
      ...uncertain.flatMap((rule) => [`r${rule} = 0`, `q${rule} = 0`]),
    ];
    const { screens } = this.#form;
    const cases = this.#texts.map(({ screen, edge, guards, change, event }, index) => {
      const silent = edge.silent.map((rule) => `r${rule} = q${rule} = 1;`);
      const guard = guards.length === 0 ? '' : `if (!(${guards.join(' && ')})) continue;`;
      const handler = screens[screen]!.handlers.get(event);
      // What is known to follow first is written in place; only what that sets off is looked up.
      const first = handler === undefined ? '' : emitter.heard(handler);
      const done = handler?.isQuiet === true ? 'isOver = head === tail;' : '';
      return `case ${index}: ${guard} ${offered} ${change} ${silent.join(' ')} ${first} ${done} break;`;
    });
    return `let ${locals.join(', ')}, e = -1, take = -1, before = -1, isOver = false;
steps = 0;
try {
  switch (k) { ${cases.join('\n')} }
  if (!isOver) { ${emitter.chain()} }
} catch (error) { ${faulty} }
${this.#encoded(unfit)}`;
  }

  #encoded(unfit: string): string {
    const { parts, words } = this.#packing;
    const { saturated, madeCaps, backs, cappedLevel } = this.game.domain;
    const last = this.#form.levels.length - 1;
    const dead = backs.map(({ part, liveOn }) => {
      const isDead = liveOn.map((screen) => `p0 !== ${screen}`).join(' && ');
      return `if (${isDead}) p${part} = p${part + 1} = 0;`;
    });
    const lines = parts.map(({ kind, choices }, part) => {
      if (kind === 'running') return `let v${part} = p${part} === 0 ? 0 : 1;`;
      if (kind === 'choice') return `let v${part} = ${place(`p${part}`, choices)};`;
      if (part === cappedLevel) return `let v${part} = p${part} > ${last} ? ${last} : p${part};`;
      return `let v${part} = p${part};`;
    });
    lines.unshift(...dead);
    for (const part of madeCaps.keys()) {
      const cap = `caps${part}[${this.#levelIndex('v1')}]`;
      lines.push(`if (v${part} > ${cap}) v${part} = ${cap};`);
    }
    for (const { part, from, every, memories } of saturated) {
      if (every === 1 && memories.length === 0) {
        lines.push(`if (v${part} > ${from}) v${part} = ${from};`);
        continue;
      }
      const past = [
        `Math.floor((v${part} - ${from}) / ${every})`,
        ...memories.map((memory) => `Math.floor(v${memory.part} * ${memory.step} / ${every})`),
      ];
      const shifted = memories.map((memory) => `v${memory.part} -= past * ${every / memory.step};`);
      lines.push(
        `if (v${part} >= ${from + every}) { const past = Math.min(${past.join(', ')}); if (past > 0) { v${part} -= past * ${every}; ${shifted.join(' ')} } }`,
      );
    }
    parts.forEach(({ mayLeave, least, size }, part) => {
      if (mayLeave === undefined) return;
      const says = unfit.replace('UNFIT', String(part));
      lines.push(`if (!(v${part} >= ${least} && v${part} < ${least + size})) { ${says} }`);
    });
    for (let word = 0; word < words; word++) {
      const whole = parts.findIndex(
        (part) => part.kind === 'wide' && (part.word === word || part.word + 1 === word),
      );
      if (whole >= 0) {
        const high = `Math.floor(v${whole} / ${mostInWord})`;
        const isLow = parts[whole]!.word === word;
        lines.push(`const key${word} = ${isLow ? `v${whole} - ${high} * ${mostInWord}` : high};`);
        continue;
      }
      const sum = parts
        .map((part, index) => ({ ...part, index }))
        .filter((part) => part.word === word && part.size > 1)
        .reduceRight((rest, { index, least, size }) => {
          const value = least === 0 ? `v${index}` : `(v${index} - ${least})`;
          return rest === '' ? value : `${value} + ${size} * (${rest})`;
        }, '');
      lines.push(`const key${word} = ${sum === '' ? 0 : sum} | 0;`);
    }
    return lines.join('\n');
  }

  /** Adds the state `key0`... where it is new. */
  #visit(keys: readonly string[]): string {
    const { words } = this.#packing;
    const store = `${keys.map((key, word) => `packed[length * ${words} + ${word}] = ${key};`).join(' ')} parents[length] = row; edges[length] = k; length++;`;
    if (this.states.bits !== undefined) {
      return `
const at = key0 >>> 5, bit = 1 << (key0 & 31);
if ((bits[at] & bit) === 0) { bits[at] |= bit; ${store} }`;
    }
    const mixed = keys.reduce((sum, key, word) => `mix(${sum} ^ ${key}) + ${word}`, '0');
    const same = keys.map((key, word) => `packed[(entry - 1) * ${words} + ${word}] === ${key}`);
    return `
let slot = (${mixed}) & mask;
for (;;) {
  const entry = slots[slot];
  if (entry === 0) { slots[slot] = length + 1; ${store} break; }
  if (${same.join(' && ')}) break;
  slot = (slot + 1) & mask;
}`;
  }

  #clocks(screen: number): EdgeText[] {
    const { game } = this;
    const form = this.#form;
    const { timers, waits, live } = form.screens[screen]!;
    const texts: EdgeText[] = [];
    const add = (
      kind: Edge['kind'],
      index: number,
      event: number,
      guards: readonly string[],
      change = '',
    ): void => {
      for (const silent of game.silences(screen, game.eventOf(kind, index)))
        texts.push({ screen, edge: { kind, index, silent }, guards, change, event });
    };
    for (const timer of game.cone.timers) {
      if (!timers.includes(timer)) continue;
      const { repeats, event, warnEvent } = form.timers[timer]!;
      const running = this.#part(form.cells.timers + timer);
      add('timer', timer, event, [`${running} !== 0`], repeats ? '' : `${running} = 0;`);
      if (game.mayWarn(timer)) add('timer', form.timers.length + timer, warnEvent, [`${running} !== 0`]);
    }
    if (live) {
      form.levels.forEach(({ spawns }, level) => {
        spawns.forEach(({ piece, atOnce, total }, slot) => {
          if (!game.countsSpawns(piece)) return;
          const present = this.#parts.get(form.cells.present + piece);
          const made = this.#parts.get(form.cells.spawnMade + slot);
          const guards = [`${this.#levelIndex('p1')} === ${level}`];
          if (made !== undefined && Number.isFinite(total)) guards.push(`p${made} < ${total}`);
          if (total <= 0 || atOnce <= 0) return;
          if (present !== undefined && Number.isFinite(atOnce)) guards.push(`p${present} < ${atOnce}`);
          const change = [
            made === undefined ? '' : `p${made}++;`,
            present === undefined ? '' : this.#appears(present, piece),
          ];
          add('spawn', slot, form.pieces[piece]!.appeared, guards, change.join(' '));
        });
      });
    }
    waits.forEach((wait, index) => {
      const guards = [`p2 < ${wait}`, ...(index === 0 ? [] : [`p2 >= ${waits[index - 1]}`])];
      add('wait', wait, -1, guards, `p2 = ${wait};`);
    });
    return texts;
  }

  #reports(screen: number): EdgeText[] {
    const { game } = this;
    const form = this.#form;
    const levels = form.levels.map((_, level) => level);
    return form.events.flatMap(({ kind, piece, presence }, event): EdgeText[] => {
      const allowed = levels.filter((level) => game.mayReport(event, screen, level));
      if (allowed.length === 0) return [];
      const guards: string[] = [];
      if (allowed.length < levels.length)
        guards.push(`(${allowed.map((level) => `${this.#levelIndex('p1')} === ${level}`).join(' || ')})`);
      const present = piece < 0 ? undefined : this.#parts.get(form.cells.present + piece);
      if (present !== undefined && presence <= 0) guards.push(`p${present} > 0`);
      const needs = kind === 'outcome' ? form.pieces[piece]!.needs : undefined;
      if (needs !== undefined) guards.push(this.#terms.term(needs));
      let change = '';
      if (present !== undefined && presence < 0) change = `p${present}--;`;
      if (present !== undefined && presence > 0) change = this.#appears(present, piece);
      return game.silences(screen, event).map(
        (silent): EdgeText => ({
          screen,
          edge: { kind: 'send', index: event, silent },
          guards,
          change,
          event,
        }),
      );
    });
  }

  #appears(part: number, piece: number): string {
    return `if (++p${part} > ${mostPresent}) host.tooMany(${piece});`;
  }

  #part(cell: number): string {
    return `p${this.#parts.get(cell)!}`;
  }

  #levelIndex(level: string): string {
    const last = this.#form.levels.length - 1;
    return this.#form.endless ? `(${level} > ${last} ? ${last} : ${level})` : level;
  }

  #spelling(): Spelling {
    const { cells, rules, screens } = this.#form;
    // What the search does not follow is written into a variable that nothing reads.
    const part = (cell: number): string => {
      const index = this.#parts.get(cell);
      return index === undefined ? 'z' : `p${index}`;
    };
    const { uncertain } = this.game.cone;
    return {
      now: '0',
      live: '0',
      screen: 'p0',
      entered: 'z',
      waited: 'p2',
      level: 'p1',
      graceEnds: 'z',
      coursePassed: 'z',
      courseCheckpoint: 'z',
      courseAt: () => 'z',
      clock: () => '0',
      counter: (counter) => part(cells.counters + counter),
      timer: (timer) => part(cells.timers + timer),
      present: (piece) => part(cells.present + piece),
      spawnDue: () => 'z',
      spawnMade: (slot) => part(cells.spawnMade + slot),
      rest: (rule) => (uncertain.includes(rule) ? `r${rule}` : 'z'),
      memory: (rule) => part(rules[rule]!.memoryCell),
      warning: () => 'z',
      back: (screen, which) => part(screens[screen]!.backCell + which),
      once: (rule) => part(rules[rule]!.onceCell),
      never: '0',
      draw: (draw) => `(q${rules.findIndex((rule) => rule.draw === draw)} ? 4294967295 : 0)`,
    };
  }

  /** Notes which transition and rule was first taken from where, and what stood in the way of a later transition. */
  #notes(): Watch {
    const form = this.#form;
    const rivals = form.transitions.map((_, taken) =>
      rivalsOf(form, taken).map(({ index, wait, condition }) => {
        const guards = [`preemptedBy[${index}] < 0`];
        if (wait > 0) guards.push(`p2 >= ${wait}`);
        if (condition !== undefined) guards.push(this.#terms.term(condition));
        return `if (${guards.join(' && ')}) preemptedBy[${index}] = ${taken};`;
      }),
    );
    const cases = rivals.flatMap((lines, taken) =>
      lines.length === 0 ? [] : [`case ${taken}: ${lines.join(' ')} break;`],
    );
    const level = this.#levelIndex('p1');
    return {
      ...unwatched,
      rule: (rule) => `if (firedFrom[${rule}] === -2) { firedFrom[${rule}] = row; firedBy[${rule}] = k; }`,
      transition: () => `
if (takenFrom[take] === -2) { takenFrom[take] = row; takenBy[take] = k; }
if (leftFrom[${level}] === -2) { leftFrom[${level}] = row; leftBy[${level}] = k; }
${cases.length === 0 ? '' : `switch (take) { ${cases.join(' ')} }`}
if (before >= 0) notes.twice(before, take, row, k);
before = take;`,
    };
  }
}

const place = (value: string, choices: readonly number[]): string =>
  choices.reduceRight(
    (otherwise, choice, index) =>
      index === choices.length - 1 ? String(index) : `${value} === ${choice} ? ${index} : ${otherwise}`,
    '',
  );
