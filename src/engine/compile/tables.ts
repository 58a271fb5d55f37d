import { largestNumber } from '../../design/schema.js';
import type { Form, IntervalForm, RuleForm, TransitionForm } from '../program/form.js';
import { levelOf, longestTimer, mostPresent } from '../program/form.js';
import { Intervals } from '../program/interval.js';
import { roundHalfUp } from '../program/lower-expression.js';
import {
  type Guard,
  ops,
  type TableEffect,
  type TableRule,
  type TableWrite,
  tablesOf,
} from '../program/table-form.js';
import { setNextWarning } from '../run/machine.js';
import type { Carrier, Host, Probe } from './backend.js';
import { nearLimit, spawnCount } from './emit.js';
import { Terms } from './evaluator.js';

/** The carrier that walks tables: for pages whose content security policy forbids generated code. */
export function tableCarrier(form: Form, cells: Float64Array, host: Host, probe: Probe | undefined): Carrier {
  const at = form.cells;
  const terms = new Terms(form, cells);
  const { starts, rules, transitionEffects, handlers, conditionGuards } = tablesOf(form, terms);
  const events = form.events.length;
  const queue: number[] = [];
  const wanted = new Float64Array(form.counters.length);
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

  /** The first transition that can be taken, or -1. */
  function firstReady(guards: readonly Guard[]): number {
    for (let index = 0; index < guards.length; index++) {
      const { transition, condition, wait } = guards[index]!;
      if (cells[at.waited]! >= wait && (condition < 0 || terms.value(condition) !== 0)) return transition;
    }
    return -1;
  }

  /** Whether neither a rest nor having fired as often as it may silences a rule. */
  const isOpen = ({ isAlwaysOpen, rest, restCell, onceCell }: TableRule): boolean =>
    isAlwaysOpen ||
    ((rest === 0 || cells[at.live]! >= cells[restCell]!) && (onceCell < 0 || cells[onceCell] === 0));

  const isLucky = ({ draw, threshold }: TableRule): boolean =>
    draw < 0 || host.draw(draw, cells[at.asked + draw]!++) < threshold;

  function fire({ index, rest, restCell, onceCell, effects }: TableRule): void {
    probe?.rule(index);
    if (rest > 0) cells[restCell] = cells[at.live]! + rest;
    if (onceCell >= 0) cells[onceCell] = 1;
    for (let next = 0; next < effects.length; next++) apply(effects[next]!, index);
  }

  function apply({ op, of, to, adds, amount, writes }: TableEffect, source: number): void {
    switch (op) {
      case ops.write:
        write(writes, source);
        return;
      case ops.cue:
        probe?.cue(of);
        return;
      case ops.grace:
        cells[at.graceEnds] = cells[at.live]! + of;
        return;
      case ops.spawn: {
        const spawned = spawnCount(terms.value(amount));
        appear(of, spawned);
        if (cells[at.present + of]! > mostPresent) host.tooMany(of);
        const { appeared } = form.pieces[of]!;
        if (form.events[appeared]!.isHeard) {
          for (let count = 0; count < spawned; count++) enqueue(appeared);
        }
        return;
      }
      case ops.clear:
        cells[at.present + of] = 0;
        alongCourse((cell) => {
          if (cells[cell] === of) cells[cell] = -1;
        });
        probe?.cleared(of);
        return;
      case ops.timerWrite: {
        const cell = at.timers + of;
        if (adds && cells[cell] === Number.POSITIVE_INFINITY) return;
        const by = roundHalfUp(terms.value(amount) * 1000);
        if (!(by >= -largestNumber && by <= largestNumber)) host.timerTooLarge(source, of, by);
        const now = cells[form.timers[of]!.clockCell]!;
        const from = adds ? cells[cell]! : now;
        setTimer(of, Math.min(now + longestTimer, Math.max(now + 1, from + by)));
        return;
      }
      case ops.timerStart:
        startTimer(of);
        return;
      case ops.timerStop:
        setTimer(of, Number.POSITIVE_INFINITY);
        return;
      case ops.become: {
        const changed = cells[at.present + of]!;
        cells[at.present + of] = 0;
        alongCourse((cell) => {
          if (cells[cell] === of) cells[cell] = to;
        });
        probe?.cleared(of);
        appear(to, changed);
        return;
      }
      case ops.emit:
        if (form.events[of]!.isHeard) enqueue(of);
        return;
      case ops.popup:
        probe?.popup(of);
    }
  }

  /** All amounts are worked out before any counter is written. */
  function write(writes: readonly TableWrite[], source: number): void {
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
  function fireConditionRules(indexes: readonly number[]): void {
    for (let again = indexes.length > 0; again; ) {
      again = false;
      for (const index of indexes) {
        const rule = rules[index]!;
        const { passes, memoryCell } = form.rules[index]!;
        if (!becomesTrue(rule, passes, memoryCell)) continue;
        const isMark = passes !== undefined;
        if (isMark) again = true;
        if (!isOpen(rule)) continue;
        // A mark counts as a step whether or not chance lets the rule fire: there may be any number of them.
        if (isMark) step(index);
        if (!isLucky(rule)) continue;
        again = true;
        if (!isMark) step(index);
        fire(rule);
      }
    }
  }

  function becomesTrue(rule: TableRule, passes: RuleForm['passes'], memoryCell: number): boolean {
    if (passes !== undefined) {
      const reached = Math.floor(cells[at.counters + passes.counter]! / passes.step);
      if (reached <= cells[memoryCell]!) return false;
      // While the rule is silent, all marks are passed at once.
      cells[memoryCell] = isOpen(rule) ? cells[memoryCell]! + 1 : reached;
      return true;
    }
    const was = cells[memoryCell] === 1;
    const holds = terms.value(rule.condition) !== 0;
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
      const handler = next < 0 ? null : handlers[cells[at.screen]! * events + next]!;
      if (handler !== null) {
        const heard = handler.rules;
        for (let index = 0; index < heard.length; index++) {
          const rule = heard[index]!;
          if (isOpen(rule) && (rule.condition < 0 || terms.value(rule.condition) !== 0) && isLucky(rule))
            fire(rule);
        }
        if (handler.isQuiet && head === tail) return;
        taken = firstReady(handler.guards);
      }
      for (;;) {
        if (taken >= 0) take(taken, form.transitions[taken]!);
        const screen = cells[at.screen]!;
        fireConditionRules(form.screens[screen]!.conditionRules);
        taken = firstReady(conditionGuards[screen]!);
        if (taken < 0) break;
      }
      if (head === tail) break;
      next = queue[head++]!;
      step(form.rules.length + form.transitions.length + next);
    }
  }

  return { run, respawn };
}
