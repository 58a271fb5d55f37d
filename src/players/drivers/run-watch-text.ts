import type { Form } from '../../engine/program/form.js';
import { runSpan } from '../../measure/run-watch.js';
import { type Bound, boundsOf, livesOf, paceParts, paceStep } from '../../measure/session-log.js';
import { onLive } from './play-parts.js';

/** `RunWatch`, written out: where one run ends and the next begins, and what is noted of each. */
export class RunWatchText {
  readonly #lives: number;
  readonly #bounds: readonly Bound[];
  readonly #live: string;

  constructor(private readonly form: Form) {
    this.#lives = livesOf(form.design);
    this.#bounds = boundsOf(form.design);
    this.#live = onLive(form);
  }

  locals(): string {
    const held = this.#bounds.map((_, index) => `, h${index} = 0`).join('');
    return `let ended = 0, isRunning = false, began = 0, highest = 0, ending = -1, cause = -1;
let firstPoint = -1, firstLoss = -1, lastPoint = 0, drySpell = 0, row = 0, streak = 0, since = 0${held};`;
  }

  transition(): string {
    return `
taken[take]++;
${this.passTime()}
if (ending >= 0) { ${this.finish('ending', 'cause')} }
if (level > highest) highest = level;
if (target[take] >= 0) {
if (freshOf[take] >= ${runSpan} || (!isRunning && isLive[target[take]] === 1)) {
  if (isRunning) { ${this.finish('-1', '-1')} }
  isRunning = true; began = now; highest = 0; visited.fill(0);
  firstPoint = firstLoss = -1; lastPoint = now; drySpell = row = streak = 0;
}
visited[target[take] >> 5] |= 1 << (target[take] & 31);
if (isRunning && isEnding[target[take]] === 1) { ending = target[take]; cause = take; }
}`;
  }

  write(counter: number, source: number, before: string, after: string): string {
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

  /** What `passTime` calls, once for the whole text: it runs seldom, and would fill the session's function. */
  passTimeFunction(): string {
    const held = this.#bounds.map(
      ({ counter, value }, index) => `if (c${counter} === ${value}) held[${index}] += now - h${index};`,
    );
    return `function passTime(${this.#passed().join(', ')}) {
  const { held } = sheet;
  sheet.playTime += now - since; ${held.join(' ')}
}`;
  }

  passTime(): string {
    const since = this.#bounds.map((_, index) => `h${index} = `).join('');
    return `if (isRunning && ${this.#live}) passTime(${this.#passed().join(', ')});
${since}since = now;`;
  }

  #passed(): string[] {
    const counters = [...new Set(this.#bounds.map(({ counter }) => `c${counter}`))];
    return ['sheet', 'now', 'since', ...counters, ...this.#bounds.map((_, index) => `h${index}`)];
  }

  finish(end: string, cause: string): string {
    const counter = (index: number): string => (index < 0 ? '0' : `c${index}`);
    const count = end === '-1' ? '' : 'ended++;';
    const dry = this.form.score < 0 ? '-1' : 'now - lastPoint > drySpell ? now - lastPoint : drySpell';
    return `sheet.endRun(${counter(this.form.score)}, now - began, ${end}, ${cause}, level > highest ? level : highest, ${counter(this.#lives)}, firstPoint, firstLoss, ${dry}, streak, began, visited); isRunning = false; ending = -1; ${count}`;
  }
}
