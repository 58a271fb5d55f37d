import { largestNumber } from '../design/schema.js';
import type { Carrier, Host, Probe } from './carrier.js';
import { nearLimit, spawnCount } from './emit.js';
import type { EffectForm, Form, IntervalForm, RuleForm, Term, TransitionForm } from './form.js';
import { levelOf, longestTimer, mostPresent } from './form.js';
import { Intervals } from './interval.js';
import { roundHalfUp } from './lower-expression.js';
import { setNextWarning } from './machine.js';
import { Terms } from './terms.js';

interface Guarded {
  readonly condition: number;
  readonly wait: number;
}

/** A write whose amount is the number of a term. */
interface TableWrite {
  readonly counter: number;
  readonly cell: number;
  readonly adds: boolean;
  readonly rounds: boolean;
  readonly amount: number;
  readonly min: number;
  readonly max: number;
}

type TableEffect =
  | Exclude<EffectForm, { op: 'write' | 'timerWrite' | 'spawn' }>
  | { readonly op: 'spawn'; readonly piece: number; readonly count: number }
  | { readonly op: 'write'; readonly writes: readonly TableWrite[] }
  | { readonly op: 'timerWrite'; readonly timer: number; readonly adds: boolean; readonly amount: number };

/** The carrier that walks tables: for pages whose content security policy forbids generated code. */
export function tableCarrier(form: Form, cells: Float64Array, host: Host, probe: Probe | undefined): Carrier {
  const at = form.cells;
  const terms = new Terms(form, cells);
  const compile = (term: Term | undefined): number => (term === undefined ? -1 : terms.add(term));
  const starts = form.counters.map(({ start }) => terms.add(start));
  const ruleConditions = form.rules.map((rule) => compile(rule.condition));
  const guards = form.transitions.map(
    (transition): Guarded => ({ condition: compile(transition.condition), wait: transition.wait }),
  );
  const compileEffect = (effect: EffectForm): TableEffect => {
    if (effect.op === 'timerWrite') return { ...effect, amount: terms.add(effect.amount) };
    if (effect.op === 'spawn') return { ...effect, count: terms.add(effect.count) };
    if (effect.op !== 'write') return effect;
    const writes = effect.writes.map(({ counter, adds, rounds, amount }): TableWrite => {
      const { min, max } = form.counters[counter]!;
      return { counter, cell: at.counters + counter, adds, rounds, amount: terms.add(amount), min, max };
    });
    return { op: 'write', writes };
  };
  const ruleEffects = form.rules.map((rule) => rule.effects.map(compileEffect));
  const transitionEffects = form.transitions.map((transition) => transition.effects.map(compileEffect));
  /** `[screen][event]`, sparse. */
  const handlers = form.screens.map((screen) => form.events.map((_, event) => screen.handlers.get(event)));
  const queue: number[] = [];
  const wanted: number[] = [];
  let steps = 0;
  let tail = 0;

  const enqueue = (event: number): void => {
    queue[tail++] = event;
  };
  const step = (source: number): void => {
    if (++steps > nearLimit) host.step(steps, source);
  };
  const intervals = new Intervals(form, cells, terms, host.draw);
  const interval = (of: IntervalForm): number => intervals.next(of);

  function startTimer(timer: number): void {
    setTimer(timer, cells[form.timers[timer]!.clockCell]! + interval(form.timers[timer]!.interval));
  }

  function alongCourse(change: (cell: number) => void): void {
    for (let place = 0; place < at.courseLength; place++) change(at.course + 2 + place);
  }

  function setTimer(timer: number, due: number): void {
    cells[at.timers + timer] = due;
    setNextWarning(form, cells, timer);
  }

  function isReady({ condition, wait }: Guarded): boolean {
    return cells[at.waited]! >= wait && (condition < 0 || terms.value(condition) !== 0);
  }

  function firstReady(transitions: readonly number[]): number {
    for (const index of transitions) if (isReady(guards[index]!)) return index;
    return -1;
  }

  /** Whether neither a rest nor having fired as often as it may silences a rule. */
  const isOpen = ({ rest, restCell, onceCell }: RuleForm): boolean =>
    (rest === 0 || cells[at.live]! >= cells[restCell]!) && (onceCell < 0 || cells[onceCell] === 0);

  const isLucky = ({ draw, threshold }: RuleForm): boolean =>
    draw < 0 || host.draw(draw, cells[at.asked + draw]!++) < threshold;

  function fire(index: number, rule: RuleForm): void {
    probe?.rule(index);
    if (rule.rest > 0) cells[rule.restCell] = cells[at.live]! + rule.rest;
    if (rule.onceCell >= 0) cells[rule.onceCell] = 1;
    for (const effect of ruleEffects[index]!) apply(effect, index);
  }

  function apply(effect: TableEffect, source: number): void {
    switch (effect.op) {
      case 'write': {
        const { writes } = effect;
        for (let index = 0; index < writes.length; index++) {
          const { counter, cell, adds, rounds, amount } = writes[index]!;
          const value = terms.value(amount);
          const whole = rounds ? roundHalfUp(value) : value;
          const found = adds ? cells[cell]! + whole : whole + 0;
          if (!(found >= -largestNumber && found <= largestNumber)) host.tooLarge(source, counter, found);
          wanted[index] = found;
        }
        for (let index = 0; index < writes.length; index++) {
          const { counter, cell, min, max } = writes[index]!;
          const before = cells[cell]!;
          const found = wanted[index]!;
          const after = found < min ? min : found > max ? max : found;
          cells[cell] = after;
          probe?.write(counter, source, before, after, found);
        }
        return;
      }
      case 'spawn': {
        const spawned = spawnCount(terms.value(effect.count));
        appear(effect.piece, spawned);
        if (cells[at.present + effect.piece]! > mostPresent) host.tooMany(effect.piece);
        const { appeared } = form.pieces[effect.piece]!;
        if (form.events[appeared]!.isHeard) {
          for (let count = 0; count < spawned; count++) enqueue(appeared);
        }
        return;
      }
      case 'clear':
        cells[at.present + effect.piece] = 0;
        alongCourse((cell) => {
          if (cells[cell] === effect.piece) cells[cell] = -1;
        });
        probe?.cleared(effect.piece);
        return;
      case 'timerWrite': {
        const cell = at.timers + effect.timer;
        if (effect.adds && cells[cell] === Number.POSITIVE_INFINITY) return;
        const by = roundHalfUp(terms.value(effect.amount) * 1000);
        if (!(by >= -largestNumber && by <= largestNumber)) host.timerTooLarge(source, effect.timer, by);
        const now = cells[form.timers[effect.timer]!.clockCell]!;
        const from = effect.adds ? cells[cell]! : now;
        setTimer(effect.timer, Math.min(now + longestTimer, Math.max(now + 1, from + by)));
        return;
      }
      case 'timerStart':
        startTimer(effect.timer);
        return;
      case 'timerStop':
        setTimer(effect.timer, Number.POSITIVE_INFINITY);
        return;
      case 'become': {
        const changed = cells[at.present + effect.from]!;
        cells[at.present + effect.from] = 0;
        alongCourse((cell) => {
          if (cells[cell] === effect.from) cells[cell] = effect.to;
        });
        probe?.cleared(effect.from);
        appear(effect.to, changed);
        return;
      }
      case 'emit':
        if (form.events[effect.event]!.isHeard) enqueue(effect.event);
        return;
      case 'popup':
        probe?.popup(effect.popup);
        return;
      case 'grace':
        cells[at.graceEnds] = cells[at.live]! + effect.duration;
        return;
      case 'cue':
        probe?.cue(effect.cue);
    }
  }

  function appear(piece: number, count: number): void {
    cells[at.present + piece]! += count;
    for (let told = 0; told < count; told++) probe?.appeared(piece);
  }

  function take(index: number, transition: TransitionForm): void {
    const source = form.rules.length + index;
    step(source);
    probe?.transition(index);
    for (const effect of transitionEffects[index]!) apply(effect, source);
    if (transition.level === -2) {
      if (!form.endless && cells[at.level] === form.levels.length - 1) host.noNextLevel(source);
      cells[at.level]!++;
    } else if (transition.level >= 0) cells[at.level] = transition.level;
    if (transition.fresh >= 0) putBack(transition.fresh);
    if (transition.respawns) respawn();
    if (transition.grace > 0) cells[at.graceEnds] = cells[at.live]! + transition.grace;
    enter(transition.to);
  }

  function enter(to: number): void {
    if (to < 0) {
      const { backCell } = form.screens[cells[at.screen]!]!;
      cells[at.entered] = cells[at.now]! - cells[backCell + 1]!;
      cells[at.waited] = cells[backCell + 2]!;
      cells[at.screen] = cells[backCell]!;
      return;
    }
    const { backCell, enteredEvent } = form.screens[to]!;
    if (backCell >= 0) {
      cells[backCell] = cells[at.screen]!;
      cells[backCell + 1] = cells[at.now]! - cells[at.entered]!;
      cells[backCell + 2] = cells[at.waited]!;
    }
    cells[at.screen] = to;
    cells[at.entered] = cells[at.now]!;
    cells[at.waited] = 0;
    if (enteredEvent >= 0) enqueue(enteredEvent);
  }

  function putBack(fresh: number): void {
    form.counters.forEach(({ keep, min, max }, counter) => {
      if (keep > fresh) return;
      const start = roundHalfUp(terms.value(starts[counter]!));
      cells[at.counters + counter] = Math.min(max, Math.max(min, Number.isNaN(start) ? 0 : start));
    });
    form.timers.forEach((timer, index) => {
      if (timer.keep <= fresh) startTimer(index);
    });
    for (const { restCell } of form.rules) if (restCell >= 0) cells[restCell] = 0;
    cells[at.graceEnds] = 0;
    if (at.courseLength > 0) cells[at.course] = cells[at.course + 1]!;
    for (const { memoryCell, forgets, passes, onceCell, onceSpan } of form.rules) {
      if (memoryCell >= 0 && forgets <= fresh) {
        cells[memoryCell] =
          passes === undefined ? 0 : Math.floor(cells[at.counters + passes.counter]! / passes.step);
      }
      if (onceCell >= 0 && onceSpan <= fresh) cells[onceCell] = 0;
    }
  }

  function respawn(): void {
    cells.fill(0, at.present, at.present + form.pieces.length);
    probe?.allCleared();
    const level = levelOf(form, cells);
    if (at.courseLength > 0) {
      cells[at.course] = cells[at.course + 1] = 0;
      alongCourse((cell) => {
        cells[cell] = level.course[cell - at.course - 2] ?? -1;
      });
    }
    level.placed.forEach((count, piece) => {
      if (count > 0) appear(piece, count);
    });
    for (const piece of level.course) cells[at.present + piece]!++;
    for (let slot = 0; slot < at.spawnMade - at.spawnDue; slot++) {
      const spawn = level.spawns[slot];
      cells[at.spawnMade + slot] = 0;
      cells[at.spawnDue + slot] =
        spawn === undefined
          ? Number.POSITIVE_INFINITY
          : cells[at.live]! + interval(spawn.first ?? spawn.every);
    }
  }

  /** Condition rules of the present screen, until none becomes true. */
  function fireConditionRules(rules: readonly number[]): void {
    for (let again = rules.length > 0; again; ) {
      again = false;
      for (const index of rules) {
        const rule = form.rules[index]!;
        if (!becomesTrue(index, rule)) continue;
        const isMark = rule.passes !== undefined;
        if (isMark) again = true;
        if (!isOpen(rule)) continue;
        // A mark counts as a step whether or not chance lets the rule fire: there may be any number of them.
        if (isMark) step(index);
        if (!isLucky(rule)) continue;
        again = true;
        if (!isMark) step(index);
        fire(index, rule);
      }
    }
  }

  function becomesTrue(index: number, rule: RuleForm): boolean {
    const { passes, memoryCell } = rule;
    if (passes !== undefined) {
      const reached = Math.floor(cells[at.counters + passes.counter]! / passes.step);
      if (reached <= cells[memoryCell]!) return false;
      // While the rule is silent, all marks are passed at once.
      cells[memoryCell] = isOpen(rule) ? cells[memoryCell]! + 1 : reached;
      return true;
    }
    const was = cells[memoryCell] === 1;
    const holds = terms.value(ruleConditions[index]!) !== 0;
    cells[memoryCell] = holds ? 1 : 0;
    return holds && !was;
  }

  function run(event: number, transition: number): void {
    let next = event;
    let taken = transition;
    let head = 0;
    steps = 0;
    tail = 0;
    for (;;) {
      const handler = next < 0 ? undefined : handlers[cells[at.screen]!]![next];
      if (handler !== undefined) {
        for (const index of handler.rules) {
          const rule = form.rules[index]!;
          const condition = ruleConditions[index]!;
          if (isOpen(rule) && (condition < 0 || terms.value(condition) !== 0) && isLucky(rule))
            fire(index, rule);
        }
        if (handler.isQuiet && head === tail) return;
        taken = firstReady(handler.transitions);
      }
      for (;;) {
        if (taken >= 0) take(taken, form.transitions[taken]!);
        const screen = form.screens[cells[at.screen]!]!;
        fireConditionRules(screen.conditionRules);
        taken = firstReady(screen.conditionTransitions);
        if (taken < 0) break;
      }
      if (head === tail) break;
      next = queue[head++]!;
      step(form.rules.length + form.transitions.length + next);
    }
  }

  return { run, respawn };
}
