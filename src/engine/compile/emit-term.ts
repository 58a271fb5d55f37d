import { type Form, type IntervalForm, longestTimer, type Term } from '../program/form.js';

/**
 * How generated code spells the parts of the state: as cells of an array, where a session can be looked into and saved,
 * or as local variables, where thousands of sessions are run to their end.
 */
export interface Spelling {
  /** A dial that is read where the code runs; where this is not given, its value is written. */
  readonly dial?: (dial: number) => string;
  readonly now: string;
  readonly live: string;
  readonly screen: string;
  readonly entered: string;
  readonly waited: string;
  readonly level: string;
  readonly graceEnds: string;
  /** How many pieces of the course are behind the player, and to how many a fall goes back. */
  readonly coursePassed: string;
  readonly courseCheckpoint: string;
  /** What stands at a place of the course, the place being an expression. */
  courseAt(place: string): string;
  /** The time by which a timer runs. */
  clock(timer: number): string;
  counter(counter: number): string;
  timer(timer: number): string;
  present(piece: number): string;
  spawnDue(slot: number): string;
  spawnMade(slot: number): string;
  rest(rule: number): string;
  memory(rule: number): string;
  once(rule: number): string;
  /** The live time of a timer's next warning. */
  warning(timer: number): string;
  /** One of the three cells of a screen that leads back. */
  back(screen: number, part: 0 | 1 | 2): string;
  /** How "not running" is written where a clock says when it is due. */
  readonly never: string;
  /** An expression that asks one more time and gives a whole number below 2^32. */
  draw(draw: number): string;
}

/** Writes values of a form as JavaScript expressions. */
export class TermEmitter {
  constructor(
    protected readonly form: Form,
    protected readonly spell: Spelling,
  ) {}

  /** Which level of the list, where the number may pass it. */
  protected get levelIndex(): string {
    const { level } = this.spell;
    return this.form.endless ? `Math.min(${level}, ${this.form.levels.length - 1})` : level;
  }

  interval({ least, step, choices, draw, computed }: IntervalForm): string {
    if (computed !== undefined) {
      const seconds = this.term(computed.seconds);
      if (computed.upTo === undefined)
        return `Math.min(${longestTimer}, Math.max(1, Math.round(${seconds} * 1000) || 1))`;
      return `host.range(${seconds}, ${this.term(computed.upTo)}, ${step}, ${this.spell.draw(draw)})`;
    }
    if (draw < 0) return String(least);
    return `(${least} + ${step} * Math.floor(${this.spell.draw(draw)} * ${choices} / 4294967296))`;
  }

  term(term: Term): string {
    const { spell, form } = this;
    switch (term.op) {
      case 'dial':
        return spell.dial?.(term.dial) ?? written(term.value);
      case 'constant':
        return written(term.value);
      case 'truth':
        return String(term.value);
      case 'counter':
        return spell.counter(term.counter);
      case 'level':
        return `(${spell.level} + 1)`;
      case 'lastLevel':
        return form.endless ? 'false' : `(${spell.level} === ${form.levels.length - 1})`;
      case 'course':
        return form.cells.courseLength === 0 ? '0' : spell.coursePassed;
      case 'levelValue':
        return this.levelValue(form.levelTables[term.table]!);
      case 'present':
        return `(${term.pieces.map((piece) => spell.present(piece)).join(' + ')})`;
      case 'left':
        return `(${term.pieces.map((piece) => `${spell.present(piece)} + ${this.toCome(piece)}`).join(' + ')})`;
      case 'timer':
        return `(${spell.timer(term.timer)} === ${spell.never} ? 0 : (${spell.timer(term.timer)} - ${spell.clock(term.timer)}) / 1000)`;
      case 'negative':
        return `(-${this.term(term.of)})`;
      case 'not':
        return `(!${this.term(term.of)})`;
      case 'binary':
        return `(${this.term(term.left)} ${operatorText[term.operator] ?? term.operator} ${this.term(term.right)})`;
      case 'choose':
        return `(${this.term(term.test)} ? ${this.term(term.yes)} : ${this.term(term.no)})`;
      case 'call': {
        const of = term.of.map((part) => this.term(part)).join(', ');
        return term.name === 'round' ? `(Math.round(${of}) + 0)` : `Math.${term.name}(${of})`;
      }
    }
  }

  private levelValue(values: readonly number[]): string {
    if (values.every((value) => value === values[0])) return written(values[0]!);
    return `tables[${this.form.levelTables.indexOf(values)}][${this.levelIndex}]`;
  }

  /** How many of a piece the level's spawns have still to make; Infinity where one has no total. */
  private toCome(piece: number): string {
    const { form, spell } = this;
    const perLevel = form.levels.map((level) => {
      const parts = level.spawns.flatMap((spawn, slot) =>
        spawn.piece !== piece
          ? []
          : [
              spawn.total === Number.POSITIVE_INFINITY
                ? 'Infinity'
                : `(${spawn.total} - ${spell.spawnMade(slot)})`,
            ],
      );
      return parts.length === 0 ? '0' : parts.join(' + ');
    });
    return perLevel.reduceRight(
      (otherwise, text, level) => `(${this.levelIndex} === ${level} ? ${text} : ${otherwise})`,
      '0',
    );
  }
}

/** A number as JavaScript text; `String` loses the sign of a zero. */
export const written = (value: number): string =>
  Object.is(value, -0) ? '(-0)' : value < 0 ? `(${value})` : String(value);

const operatorText: { readonly [operator: string]: string } = {
  and: '&&',
  or: '||',
  '==': '===',
  '!=': '!==',
};
