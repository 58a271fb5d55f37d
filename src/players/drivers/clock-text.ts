import type { Emitter } from '../../engine/compile/emit.js';
import type { Form } from '../../engine/program/form.js';
import { kinds, never, restingTimer } from './play-parts.js';

/** The variable with the time by which a timer runs. */
export function clockName(form: Form, timer: number): string {
  const { clockCell } = form.timers[timer]!;
  return clockCell === form.cells.live ? 'live' : `k${clockCell - form.cells.clocks}`;
}

/** Writes out which clock is due next, and what its coming due does. */
export class ClockText {
  constructor(
    private readonly form: Form,
    private readonly emitter: Emitter,
  ) {}

  /** The clock due next on a live screen: `due` in live time, and which. */
  live(): string {
    const { form } = this;
    const timers = form.timers.map((_, index) => this.#timerClock(index, 'live', kinds.timer));
    const hasWaits = form.screens.some(({ live, waits }) => live && waits.length > 0);
    const waits = `const wait = ${this.nextWait()}; if (wait > 0 && live + entered + wait - now < due) { due = live + entered + wait - now; kind = ${kinds.wait}; }`;
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
    const own = isOwn ? ` - ${clockName(this.form, index)} + ${now}` : '';
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

  /** Whether a clock runs on the present screen. */
  #isOn(clock: number): string {
    return this.form.clocks[clock]!.map((screen) => `screen === ${screen}`).join(' || ') || 'false';
  }

  /** Lets the clocks of chosen screens go on. */
  pass(passed: string): string {
    return this.form.clocks.map((_, clock) => `if (${this.#isOn(clock)}) k${clock} += ${passed};`).join(' ');
  }

  /** The shortest wait of the present screen that is not over yet, or 0. */
  nextWait(): string {
    return this.form.screens.reduceRight((otherwise, { waits }, screen) => {
      if (waits.length === 0) return otherwise;
      const next = waits.reduceRight((later, wait) => `(waited < ${wait} ? ${wait} : ${later})`, '0');
      return `(screen === ${screen} ? ${next} : ${otherwise})`;
    }, '0');
  }

  fireTimers(): string {
    return this.form.timers
      .map(({ repeats, interval, event, warnCell, warnEvent }, index) => {
        const next = repeats ? `t${index} + ${this.emitter.interval(interval)}` : String(never);
        const end = `case ${index}: ${this.emitter.setTimer(index, next)} e = ${event}; continue play;`;
        if (warnCell < 0) return end;
        const warned = this.form.timers.length + index;
        return [
          end,
          `case ${warned}: ${this.emitter.nextWarning(index)} e = ${warnEvent}; continue play;`,
        ].join('\n');
      })
      .join('\n');
  }

  /** The clock due next on a screen that is not live: a wait (`kind` holds it), or the player's own input. */
  resting(): string {
    const hasWaits = this.form.screens.some(({ live, waits }) => !live && waits.length > 0);
    return `${this.#restingTimers()}
${hasWaits ? `const wait = ${this.nextWait()}; if (wait > 0 && entered + wait < due) { due = entered + wait; kind = wait; }` : ''}
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

  fireRestingTimers(): string {
    if (this.form.clocks.length === 0) return '';
    return `if (kind >= ${restingTimer}) { switch (kind - ${restingTimer}) { ${this.fireTimers()} } }`;
  }
}
