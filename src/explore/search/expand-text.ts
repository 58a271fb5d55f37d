// One class: it writes one piece of code, and every part of that text uses names that the others declare.

import { footprintOf } from '../../engine/compile/footprint.js';
import { Printer, type Spelling } from '../../engine/compile/print.js';
import {
  and,
  assign,
  type Code,
  constant,
  declare,
  get,
  add as increase,
  isAtLeast,
  isEqual,
  isLess,
  isMore,
  isNever,
  local,
  minus,
  never,
  not,
  or,
  type Slot,
  select,
  set,
  tell,
  truth,
  type Value,
  when,
} from '../../engine/compile/representation.js';
import { type Slicing, sliced } from '../../engine/compile/slice.js';
import { Build, type Listener } from '../../engine/program/build/build.js';
import { type Chain, handle, heard, ready } from '../../engine/program/build/chain.js';
import { fullBy } from '../../engine/program/build/clocks.js';
import { term } from '../../engine/program/build/expressions.js';
import { type Area, Slots } from '../../engine/program/build/slots.js';
import { type Amount, type Form, mostPresent } from '../../engine/program/form.js';
import { mostInWord, type PackedPart, type Packing } from '../abstraction/packing.js';
import { followedForm, slicingOf } from '../abstraction/slice.js';
import { type Edge, mostEdges, type UntimedGame } from '../abstraction/untimed-game.js';
import { waitsOf } from '../abstraction/waits.js';
import { competingTransitions } from './competing-transitions.js';
import { unseen } from './first-occurrences.js';
import type { States } from './states.js';

/** What is written for one step from state to state on one screen. */
interface EdgeCode {
  readonly screen: number;
  readonly edge: Edge;
  /** What must hold for it to be possible. */
  readonly guard: Value;
  /** What happens before any rule, and the event that the rules are asked about (-1: none). */
  readonly change: Code;
  readonly event: number;
}

/** Where the search notes what was first come to from where; the areas of `notes` of the same names. */
const noted = [
  ...(['takenFrom', 'takenBy', 'firedFrom', 'firedBy'] as const),
  ...(['leftFrom', 'leftBy', 'preemptedBy', 'offeredFrom'] as const),
];

type Notes = { readonly [Name in (typeof noted)[number]]: Area };

/**
 * Writes the search's way from a state to all that come next as JavaScript: the program of the design with the parts of a state as local
 * variables, of which only what the search follows is there. Like all printed code it is built from integers alone.
 */
export class ExpandText {
  /** Which edge a number in the states' column of edges stands for. */
  readonly edges: readonly Edge[];
  /** Edges of screen s: those of clocks from `first[2 * s]`, what is reported from `first[2 * s + 1]`, up to `first[2 * s + 2]`. */
  readonly first: readonly number[];
  readonly #form: Form;
  readonly #packing: Packing;
  readonly #codes: readonly EdgeCode[];
  /** By cell, the number of its part. */
  readonly #parts: ReadonlyMap<number, number>;
  /** By cell, the rule whose rest it is; and the cells of clocks, which stand still. */
  readonly #rests: ReadonlyMap<number, number>;
  readonly #clockCells: ReadonlySet<number>;
  readonly #slicing: Slicing;
  readonly #printer: Printer;
  readonly #build: Build;
  readonly #noting: Build;
  readonly #slots: Slots;
  readonly #notes: Notes;
  /** The transition that was taken before in the same chain, or -1; the state, and the edge, that are being followed. */
  readonly #before = local('before');
  readonly #row = local('row');
  readonly #edge = local('k');
  /** Whether nothing can follow any more. */
  readonly #isOver = local('isOver');
  readonly #chain: Chain = { event: local('e'), taken: local('take'), steps: local('steps') };

  constructor(
    private readonly game: UntimedGame,
    private readonly states: States,
  ) {
    this.#packing = states.packing;
    this.#form = followedForm(game.form, game.cone);
    this.#parts = new Map(states.packing.parts.map(({ cell }, index) => [cell, index]));
    this.#slots = new Slots(game.form.cells.size);
    this.#notes = Object.fromEntries(
      noted.map((name) => [name, this.#slots.area(name, mostEdges, true)]),
    ) as unknown as Notes;
    this.#build = new Build(this.#form, {});
    this.#noting = new Build(this.#form, this.#listener());
    this.#rests = new Map(game.cone.uncertain.map((rule) => [this.#form.rules[rule]!.restCell, rule]));
    const { cells, timers } = this.#form;
    this.#clockCells = new Set([cells.now, cells.live, ...timers.map(({ clockCell }) => clockCell)]);
    this.#slicing = slicingOf(
      this.#form,
      (at) => this.#parts.has(at) || this.#rests.has(at) || at >= cells.size,
      (at) => this.#clockCells.has(at),
    );
    this.#printer = new Printer(this.#spelling());
    const codes: EdgeCode[] = [];
    const first: number[] = [];
    this.#form.screens.forEach((_, screen) => {
      first.push(codes.length);
      codes.push(...this.#clocks(screen));
      first.push(codes.length);
      codes.push(...this.#reports(screen));
    });
    first.push(codes.length);
    this.first = first;
    this.#codes = codes;
    this.edges = codes.map(({ edge }) => edge);
  }

  /**
   * The body of a function of `states`, `notes`, `host` and `mix` that gives two: one that adds what follows from states, and one that says
   * whether something that a mark is set for follows from a state.
   */
  whole(): string {
    const { words } = this.#packing;
    const keys = Array.from({ length: words }, (_, word) => `key${word}`);
    const expanding = this.#step(
      this.#noting,
      'head = tail = 0; notes.fault(row, k, error); continue;',
      'states.unfit = UNFIT; continue;',
    );
    const leading = this.#step(this.#build, 'head = tail = 0; continue;', 'continue;');
    const functions = [...this.#noting.functions, ...this.#build.functions];
    const asked = this.#printer.functions({ slots: 0, asked: 0, functions: new Map(functions) });
    return `'use strict';
const queue = [], bits = states.bits;
const first = [${this.first.join(', ')}];
${this.#constants()}
${this.#printer.tables()}
const { ${noted.join(', ')} } = notes;
${asked}
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
      ${expanding}
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
    ${leading}
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
  #step(build: Build, faulty: string, unfit: string): string {
    const { parts } = this.#packing;
    const { uncertain } = this.game.cone;
    const locals = [
      ...parts.map((_, part) => `p${part} = d${part}`),
      ...uncertain.flatMap((rule) => [`r${rule} = 0`, `q${rule} = 0`]),
    ];
    const { screens } = this.#form;
    const isNoting = build === this.#noting;
    const printer = this.#printer;
    printer.begin();
    // Names that the text around uses too.
    const own = [
      this.#chain.event,
      this.#chain.taken,
      this.#chain.steps,
      this.#before,
      this.#row,
      this.#edge,
    ];
    for (const name of [...own, this.#isOver]) printer.keep(name);
    const { offeredFrom } = this.#notes;
    const slice = (code: Code): Code => sliced(code, this.#slicing);
    // Where nothing is ever pushed, no event follows the first, which is written in place.
    const whole = slice(handle(build, this.#chain));
    const firsts = this.#codes.map(({ screen, event }) => {
      const handler = screens[screen]!.handlers.get(event);
      return handler === undefined
        ? []
        : slice(heard(build, this.#chain, handler, [assign(this.#isOver, 1)]));
    });
    const pushes = [whole, ...firsts].some((code) => footprintOf(code).pushes.length > 0);
    const chain = pushes ? whole : slice(handle(build, this.#chain, undefined, false));
    const cases = this.#codes.map(({ edge, guard, change }, index) => {
      const silent = edge.silent.map((rule) => `r${rule} = q${rule} = 1;`);
      const isPossible =
        guard.op === 'truth' && guard.value ? '' : `if (!(${printer.value(guard)})) continue;`;
      const offered = isNoting
        ? when(isEqual(offeredFrom.at(get(this.#edge)), unseen), [
            set(offeredFrom.at(get(this.#edge)), get(this.#row)),
          ])
        : [];
      // What is known to follow first is written in place; only what that sets off is looked up.
      const first = firsts[index]!;
      return `case ${index}: { ${isPossible} ${printer.code(slice([...offered, ...change]))} ${silent.join(' ')} ${printer.code(first)} break; }`;
    });
    return `let ${locals.join(', ')}, e = -1, take = -1, before = -1, isOver = 0;
steps = 0;
try {
  switch (k) { ${cases.join('\n')} }
  if (isOver === 0) { ${printer.code(chain)} }
} catch (error) { ${faulty} }
${this.#encoded(unfit)}`;
  }

  #levelIndex(level: string): string {
    const last = this.#form.levels.length - 1;
    return this.#form.endless ? `(${level} > ${last} ? ${last} : ${level})` : level;
  }

  #encoded(unfit: string): string {
    const { parts, words } = this.#packing;
    const { saturated, madeCaps, idle, cappedLevel } = this.game.domain;
    const last = this.#form.levels.length - 1;
    const unread = new Map<string, number[]>();
    this.#form.screens.forEach((_, screen) => {
      const values = idle.flatMap(({ parts: of, matters }) => (matters[screen]! ? [] : of));
      if (values.length === 0) return;
      const text = values.map(({ part, value }) => `p${part} = ${value};`).join(' ');
      unread.set(text, [...(unread.get(text) ?? []), screen]);
    });
    const cases = [...unread].map(
      ([text, on]) => `${on.map((screen) => `case ${screen}:`).join(' ')} ${text} break;`,
    );
    const lines = parts.map(({ kind, choices }, part) => {
      if (kind === 'choice') return `let v${part} = ${place(`p${part}`, choices)};`;
      if (part === cappedLevel) return `let v${part} = p${part} > ${last} ? ${last} : p${part};`;
      return `let v${part} = p${part};`;
    });
    if (cases.length > 0) lines.unshift(`switch (p0) { ${cases.join(' ')} }`);
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

  #clocks(screen: number): EdgeCode[] {
    const { game } = this;
    const form = this.#form;
    const { state } = this.#build;
    const { timers, live } = form.screens[screen]!;
    const codes: EdgeCode[] = [];
    const add = (kind: Edge['kind'], index: number, event: number, guard: Value, change: Code = []): void => {
      for (const silent of game.silences(screen, game.eventOf(kind, index)))
        codes.push({ screen, edge: { kind, index, silent, guesses: [] }, guard, change, event });
    };
    for (const timer of game.cone.timers) {
      if (!timers.includes(timer)) continue;
      const { repeats, event, warnEvent } = form.timers[timer]!;
      const runs = not(isNever(state.timer(timer)));
      add('timer', timer, event, runs, repeats ? [] : [set(state.timer(timer), never)]);
      if (game.mayWarn(timer)) add('timer', form.timers.length + timer, warnEvent, runs);
    }
    if (live) {
      form.levels.forEach(({ spawns }, level) => {
        spawns.forEach((spawn, nth) => {
          const { piece, atOnce, total } = spawn;
          if (!game.countsSpawns(piece) || total === 0 || atOnce === 0) return;
          const [present, made] = [state.present(piece), state.spawnMade(nth)];
          const counts = this.#isFollowed(present);
          const isBound = (of: Amount): of is number => typeof of === 'number' && Number.isFinite(of);
          const guard = and(
            isEqual(this.#build.levelIndex, level),
            ...(this.#isFollowed(made) && isBound(total) ? [isLess(made, total)] : []),
            ...(counts && isBound(atOnce) ? [isLess(present, atOnce)] : []),
            not(
              fullBy(
                this.#build,
                spawn,
                counts ? present : constant(0),
                this.#isFollowed(made) ? made : constant(0),
              ),
            ),
          );
          const change = [
            ...(this.#isFollowed(made) ? [increase(made, 1)] : []),
            ...(counts ? [increase(present, 1)] : []),
          ];
          add('spawn', nth, form.pieces[piece]!.appeared, guard, change);
        });
      });
    }
    // Levels with the same waits share them.
    const byWaits = new Map<string, { readonly waits: readonly number[]; readonly levels: number[] }>();
    waitsOf(form).on[screen]!.forEach((waits, level) => {
      const known = byWaits.get(waits.join());
      if (known === undefined) byWaits.set(waits.join(), { waits, levels: [level] });
      else known.levels.push(level);
    });
    for (const { waits, levels } of byWaits.values()) {
      const isOn =
        byWaits.size === 1
          ? truth(true)
          : or(...levels.map((level) => isEqual(this.#build.levelIndex, level)));
      waits.forEach((wait, index) => {
        const isNext = and(
          isOn,
          isLess(state.waited, wait),
          ...(index === 0 ? [] : [isAtLeast(state.waited, waits[index - 1]!)]),
        );
        add('wait', wait, -1, isNext, [set(state.waited, wait)]);
      });
    }
    return codes;
  }

  #reports(screen: number): EdgeCode[] {
    const { game } = this;
    const form = this.#form;
    const { state, levelIndex } = this.#build;
    const levels = form.levels.map((_, level) => level);
    return form.events.flatMap(({ kind, piece, presence }, event): EdgeCode[] => {
      const allowed = levels.filter((level) => game.mayReport(event, screen, level));
      if (allowed.length === 0) return [];
      const isCounted = piece >= 0 && this.#isFollowed(state.present(piece));
      const needs = kind === 'outcome' ? form.pieces[piece]!.needs : undefined;
      const guard = and(
        ...(allowed.length < levels.length
          ? [or(...allowed.map((level) => isEqual(levelIndex, level)))]
          : []),
        ...(isCounted && presence <= 0 ? [isMore(state.present(piece), 0)] : []),
        ...(isCounted && presence > 0 ? [isLess(state.present(piece), mostPresent)] : []),
        ...(needs === undefined ? [] : [term(this.#build, needs)]),
      );
      const leaves =
        isCounted && presence < 0 ? [set(state.present(piece), minus(state.present(piece), 1))] : [];
      const change = isCounted && presence > 0 ? [increase(state.present(piece), 1)] : leaves;
      return game.silences(screen, event).map(
        (silent): EdgeCode => ({
          screen,
          edge: { kind: 'send', index: event, silent, guesses: [] },
          guard,
          change,
          event,
        }),
      );
    });
  }

  #isFollowed(of: Slot): boolean {
    return of.op === 'slot' && this.#parts.has(of.slot);
  }

  /** Where the parts of a state stand; what the search does not follow is written into a variable that nothing reads. */
  #spelling(): Spelling {
    const { rules } = this.#form;
    return {
      slot: (at) => {
        const part = this.#parts.get(at);
        if (part !== undefined) return `p${part}`;
        const rest = this.#rests.get(at);
        if (rest !== undefined) return `r${rest}`;
        return this.#clockCells.has(at) ? '0' : this.#areaOf(at, String);
      },
      slotAt: (base, at) => this.#areaOf(base, () => at),
      never: '0',
      draw: (_, known) => `(q${rules.findIndex((rule) => rule.draw === known)} ? 4294967295 : 0)`,
    };
  }

  #areaOf(at: number, index: (offset: number) => string): string {
    const area = this.#slots.areas.find(({ base, length }) => at >= base && at < base + length);
    return area === undefined ? 'z' : `${area.name}[${index(at - area.base)}]`;
  }

  /** Notes which transition and rule was first taken from where, and what stood in the way of a later transition. */
  #listener(): Listener {
    const form = this.#form;
    const notes = this.#notes;
    const [row, edge, before] = [get(this.#row), get(this.#edge), get(this.#before)];
    const first = (from: Area, by: Area, at: Value): Code =>
      when(isEqual(from.at(at), unseen), [set(from.at(at), row), set(by.at(at), edge)]);
    const level = local('level');
    return {
      rule: (rule) => first(notes.firedFrom, notes.firedBy, constant(rule)),
      transition: (taken) => [
        ...first(notes.takenFrom, notes.takenBy, taken),
        declare(level, this.#build.levelIndex),
        ...first(notes.leftFrom, notes.leftBy, get(level)),
        ...select(
          taken,
          form.transitions.map((_, each) => ({
            of: [each],
            body: competingTransitions(form, each).flatMap(({ index }) =>
              when(
                and(isLess(notes.preemptedBy.at(index), 0), ready(this.#build, form.transitions[index]!)),
                [set(notes.preemptedBy.at(index), each)],
              ),
            ),
          })),
        ),
        ...when(isAtLeast(before, 0), [tell('notes.twice', before, taken, row, edge)]),
        assign(this.#before, taken),
      ],
    };
  }
}

const place = (value: string, choices: readonly number[]): string =>
  choices.reduceRight(
    (otherwise, choice, index) =>
      index === choices.length - 1 ? String(index) : `${value} === ${choice} ? ${index} : ${otherwise}`,
    '',
  );
