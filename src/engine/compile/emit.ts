import { spans } from '../../design/model.js';
import { largestNumber } from '../../design/schema.js';
import type {
  CounterForm,
  EffectForm,
  Form,
  Handler,
  RuleForm,
  TransitionForm,
  WriteForm,
} from '../program/form.js';
import { longestTimer, mostPresent, mostSpawned, mostSteps } from '../program/form.js';
import { type Spelling, TermEmitter } from './emit-term.js';

/** Statements that generated code runs beside the design's own, for whoever watches; '' for none. */
export interface Watch {
  rule(rule: number): string;
  /** Before a transition changes anything; `take` holds which. */
  transition(): string;
  /** `source` is a rule, or past the last rule a transition. */
  write(counter: number, source: number, before: string, after: string, wanted: string): string;
  cue(cue: number): string;
  popup(popup: number): string;
  appeared(piece: number): string;
  cleared(piece: number): string;
  /** All pieces are gone, and those of the level's start are still to appear. */
  allCleared(): string;
  /** The spawn clocks of the level have been set anew. */
  clocksSet(): string;
}

/** The last steps before the limit are told to the host, which names the loop and throws past it. */
export const nearLimit = mostSteps - 20;

/** Writes a form's handling of events as JavaScript. Names and texts of the design never reach it, only integers. */
export class Emitter extends TermEmitter {
  constructor(
    form: Form,
    spell: Spelling,
    private readonly watch: Watch,
  ) {
    super(form, spell);
  }

  /**
   * One event handled to its end, DESIGN 4: expects `e`, an event or -1, and `take`, a transition or -1, and uses `steps`,
   * `queue`, `head` and `tail`.
   */
  chain(): string {
    return `
chain: for (;;) {
  if (e >= 0) { ${this.handlers()} }
  settle: for (;;) {
    if (take >= 0) { ${this.takeTransition()} }
    switch (${this.spell.screen}) { ${this.conditions()} }
    break;
  }
  if (head === tail) break;
  e = queue[head++];
  if (++steps > ${nearLimit}) host.step(steps, ${this.form.rules.length + this.form.transitions.length} + e);
}
head = tail = 0;`;
  }

  /** Steps 1 and 2: the rules that hear the event, then the first transition that does. */
  private handlers(): string {
    const { screens } = this.form;
    const cases = screens.map((screen, index) => {
      const same = new Map<string, { events: number[]; text: string }>();
      for (const [event, handler] of screen.handlers) {
        const key = `${handler.rules}|${handler.transitions}`;
        const known = same.get(key);
        if (known !== undefined) {
          known.events.push(event);
          continue;
        }
        const done = handler.isQuiet ? 'if (head === tail) break chain;' : '';
        same.set(key, { events: [event], text: `${this.heard(handler)} ${done}` });
      }
      const inner = [...same.values()].map(
        ({ events, text }) => `${events.map((e) => `case ${e}:`).join(' ')} ${text} break;`,
      );
      return inner.length === 0 ? '' : `case ${index}: switch (e) { ${inner.join('\n')} } break;`;
    });
    return `switch (${this.spell.screen}) { ${cases.join('\n')} }`;
  }

  /** The rules that hear an event on a screen, then the first transition that does, which becomes `take`. */
  heard(handler: Handler): string {
    const rules = handler.rules.map((rule) => this.rule(rule)).join('\n');
    const transitions = handler.transitions
      .map((transition) => this.guarded(transition, `take = ${transition};`))
      .join(' else ');
    return `${rules} ${transitions}`;
  }

  /** Step 3: condition rules until none becomes true, then the first transition without a `when`. */
  private conditions(): string {
    return this.form.screens
      .map((screen, index) => {
        const rules = screen.conditionRules.map((rule) => this.conditionRule(rule)).join('\n');
        const loop = rules === '' ? '' : `for (let again = true; again;) { again = false; ${rules} }`;
        const transitions = screen.conditionTransitions
          .map((transition) => this.guarded(transition, `take = ${transition}; continue settle;`))
          .join(' ');
        return loop + transitions === '' ? '' : `case ${index}: { ${loop} ${transitions} break; }`;
      })
      .join('\n');
  }

  private guarded(index: number, then: string): string {
    const transition = this.form.transitions[index]!;
    const guards = [
      ...(transition.wait > 0 ? [`${this.spell.waited} >= ${transition.wait}`] : []),
      ...(transition.condition === undefined ? [] : [this.term(transition.condition)]),
    ];
    return guards.length === 0
      ? `if (take < 0) { ${then} }`
      : `if (take < 0 && ${guards.join(' && ')}) { ${then} }`;
  }

  private rule(index: number): string {
    const rule = this.form.rules[index]!;
    const condition = rule.condition === undefined ? [] : [this.term(rule.condition)];
    return this.when(
      [...this.gates(index, rule), ...condition, ...this.chance(rule)],
      this.fire(index, rule),
    );
  }

  private when(guards: readonly string[], body: string): string {
    return guards.length === 0 ? `{ ${body} }` : `if (${guards.join(' && ')}) { ${body} }`;
  }

  private conditionRule(index: number): string {
    const rule = this.form.rules[index]!;
    const memory = this.spell.memory(index);
    if (rule.passes !== undefined) {
      const reached = `Math.floor(${this.spell.counter(rule.passes.counter)} / ${rule.passes.step})`;
      const gates = this.gates(index, rule);
      const pass = `${memory} = ${memory} + 1; ${this.step(index)} ${this.when(this.chance(rule), this.fire(index, rule))}`;
      // While the rule is silent, all marks are passed at once: there may be any number of them.
      const silent =
        gates.length === 0 ? pass : `if (${gates.join(' && ')}) { ${pass} } else ${memory} = ${reached};`;
      return `if (${reached} > ${memory}) { again = true; ${silent} }`;
    }
    const fire = `again = true; ${this.step(index)} ${this.fire(index, rule)}`;
    const body = this.when([...this.gates(index, rule), ...this.chance(rule)], fire);
    return `if (${this.term(rule.condition!)}) { if (${memory} === 0) { ${memory} = 1; ${body} } } else ${memory} = 0;`;
  }

  /** What silences a rule whatever its condition: a rest, or having fired as often as it may. */
  private gates(index: number, rule: RuleForm): string[] {
    return [
      ...(rule.rest > 0 ? [`${this.spell.live} >= ${this.spell.rest(index)}`] : []),
      ...(rule.onceCell >= 0 ? [`${this.spell.once(index)} === 0`] : []),
    ];
  }

  /** Asked last, so that a draw is made only where the rule would fire otherwise. */
  private chance({ threshold, draw }: RuleForm): string[] {
    return draw < 0 ? [] : [`${this.spell.draw(draw)} < ${threshold}`];
  }

  private fire(index: number, rule: RuleForm): string {
    const rest = rule.rest > 0 ? `${this.spell.rest(index)} = ${this.spell.live} + ${rule.rest};` : '';
    const once = rule.onceCell >= 0 ? `${this.spell.once(index)} = 1;` : '';
    return `${this.watch.rule(index)} ${rest} ${once} ${this.effects(rule.effects, index)}`;
  }

  private step(source: number | string): string {
    return `if (++steps > ${nearLimit}) host.step(steps, ${source});`;
  }

  /** Inside a transition: its `do`, the level, what is put back, its grace, the new screen, the event of entering it. */
  private takeTransition(): string {
    const { spell, form } = this;
    const cases = form.transitions.map((transition, index) => {
      const source = form.rules.length + index;
      const parts = [
        this.effects(transition.effects, source),
        this.levelChange(transition, source),
        `to = ${transition.to};`,
        transition.fresh >= 0 ? `fresh = ${transition.fresh};` : '',
        transition.respawns ? 'respawns = true;' : '',
        transition.grace > 0 ? `grace = ${transition.grace};` : '',
      ];
      return `case ${index}: { ${parts.filter((part) => part !== '').join(' ')} break; }`;
    });
    const entered = form.screens.map((screen) => screen.enteredEvent);
    const queued = entered.every((event) => event < 0)
      ? ''
      : `switch (to) { ${entered.map((event, screen) => (event < 0 ? '' : `case ${screen}: queue[tail++] = ${event}; break;`)).join(' ')} }`;
    const overlays = form.screens.flatMap(({ backCell }, screen) => (backCell < 0 ? [] : [screen]));
    const enter = `${spell.screen} = to; ${spell.entered} = ${spell.now}; ${spell.waited} = 0; ${queued}`;
    const remember = overlays
      .map(
        (screen) =>
          `case ${screen}: ${spell.back(screen, 0)} = ${spell.screen}; ${spell.back(screen, 1)} = ${spell.now} - ${spell.entered}; ${spell.back(screen, 2)} = ${spell.waited}; break;`,
      )
      .join(' ');
    const goBack = overlays
      .map(
        (screen) =>
          `case ${screen}: ${spell.entered} = ${spell.now} - ${spell.back(screen, 1)}; ${spell.waited} = ${spell.back(screen, 2)}; ${spell.screen} = ${spell.back(screen, 0)}; break;`,
      )
      .join(' ');
    const move =
      overlays.length === 0
        ? enter
        : `if (to < 0) { switch (${spell.screen}) { ${goBack} } } else { switch (to) { ${remember} } ${enter} }`;
    return `
let to = -1, fresh = -1, respawns = false, grace = 0;
${this.step(`${form.rules.length} + take`)} ${this.watch.transition()}
switch (take) { ${cases.join('\n')} }
take = -1;
if (fresh >= 0) { ${this.putBack()} }
if (respawns) { ${this.respawn()} }
if (grace > 0) ${spell.graceEnds} = ${spell.live} + grace;
${move}`;
  }

  private levelChange(transition: TransitionForm, source: number): string {
    const { level } = this.spell;
    if (transition.level === -1) return '';
    if (transition.level >= 0) return `${level} = ${transition.level};`;
    const last = this.form.endless
      ? ''
      : `if (${level} === ${this.form.levels.length - 1}) host.noNextLevel(${source});`;
    return `${last} ${level} = ${level} + 1;`;
  }

  /** Counters, timers, rests, grace and condition memory, as far as `fresh` reaches. */
  private putBack(): string {
    const { spell, form } = this;
    /** Statements that run where `fresh` reaches at least the span they belong to. */
    const upTo = (statement: (span: number) => string[]): string =>
      spans
        .map((_, span) => statement(span).join(' '))
        .map((text, span) => (text === '' ? '' : `if (fresh >= ${span}) { ${text} }`))
        .join(' ');
    // In the order of the file, since a start may read the counters above it.
    const counters = form.counters
      .map(
        (counter, index) => `if (fresh >= ${counter.keep}) ${spell.counter(index)} = ${this.start(counter)};`,
      )
      .join(' ');
    const timers = upTo((span) =>
      form.timers.flatMap(({ keep }, index) => (keep === span ? [this.startTimer(index)] : [])),
    );
    const memories = upTo((span) =>
      form.rules.flatMap(({ memoryCell, forgets, passes, onceCell, onceSpan }, index) => {
        const passed =
          passes === undefined ? '0' : `Math.floor(${spell.counter(passes.counter)} / ${passes.step})`;
        return [
          ...(memoryCell >= 0 && forgets === span ? [`${spell.memory(index)} = ${passed};`] : []),
          ...(onceCell >= 0 && onceSpan === span ? [`${spell.once(index)} = 0;`] : []),
        ];
      }),
    );
    const rests = form.rules.flatMap(({ restCell }, index) =>
      restCell >= 0 ? [`${spell.rest(index)} = 0;`] : [],
    );
    const fallBack =
      form.cells.courseLength === 0 ? '' : `${spell.coursePassed} = ${spell.courseCheckpoint};`;
    return `${counters} ${timers} ${rests.join(' ')} ${spell.graceEnds} = 0; ${fallBack} ${memories}`;
  }

  private start({ start, min, max }: CounterForm): string {
    if (start.op === 'constant' && Number.isInteger(start.value) && start.value >= min && start.value <= max)
      return String(start.value);
    const bounded = `Math.min(${max}, Math.max(${min}, Math.round(${this.term(start)}) + 0))`;
    // What is no number at all, such as 0 / 0, starts at 0 or the bound next to it.
    return `(${bounded} || ${Math.min(max, Math.max(min, 0))})`;
  }

  /** The pieces that stand in the level at its start, and its spawn clocks. */
  respawn(): string {
    const { spell, form } = this;
    const slots = Math.max(...form.levels.map((level) => level.spawns.length));
    const gone = `${form.pieces.map((_, piece) => `${spell.present(piece)} = 0;`).join(' ')} ${this.watch.allCleared()}`;
    const cases = form.levels.map((level, index) => {
      const placed = level.placed.flatMap((count, piece) => (count === 0 ? [] : [this.appear(piece, count)]));
      const onCourse = form.pieces.flatMap((_, piece) => {
        const count = level.course.filter((each) => each === piece).length;
        return count === 0 ? [] : [`${spell.present(piece)} = ${spell.present(piece)} + ${count};`];
      });
      const clocks = Array.from({ length: slots }, (_, slot) => {
        const spawn = level.spawns[slot];
        if (spawn === undefined)
          return `${spell.spawnDue(slot)} = ${spell.never}; ${spell.spawnMade(slot)} = 0;`;
        const first = this.interval(spawn.first ?? spawn.every);
        return `${spell.spawnDue(slot)} = ${spell.live} + ${first}; ${spell.spawnMade(slot)} = 0;`;
      });
      return `case ${index}: ${[...placed, ...onCourse, ...clocks].join(' ')} break;`;
    });
    const course =
      form.cells.courseLength === 0
        ? ''
        : `${spell.coursePassed} = 0; ${spell.courseCheckpoint} = 0; ${this.alongCourse((at) => `${at} = host.onCourse(${this.levelIndex}, i);`)}`;
    return `${gone} ${course} switch (${this.levelIndex}) { ${cases.join('\n')} } ${this.watch.clocksSet()}`;
  }

  /** A statement about every place of the course; '' where no level has one. */
  private alongCourse(statement: (at: string) => string): string {
    const { courseLength } = this.form.cells;
    if (courseLength === 0) return '';
    return `for (let i = 0; i < ${courseLength}; i++) { ${statement(this.spell.courseAt('i'))} }`;
  }

  private appear(piece: number, count: number | string): string {
    const present = this.spell.present(piece);
    const watched = this.watch.appeared(piece);
    const told = watched === '' ? '' : `for (let i = 0; i < ${count}; i++) { ${watched} }`;
    return `${present} = ${present} + ${count}; ${told}`;
  }

  private effects(effects: readonly EffectForm[], source: number): string {
    return effects.map((effect) => this.effect(effect, source)).join(' ');
  }

  private effect(effect: EffectForm, source: number): string {
    const { spell } = this;
    switch (effect.op) {
      case 'write':
        return this.writes(effect.writes, source);
      case 'spawn': {
        const { piece, count } = effect;
        const event = this.form.pieces[piece]!.appeared;
        const heard = this.form.events[event]!.isHeard;
        const queued = heard ? `for (let i = 0; i < count; i++) queue[tail++] = ${event};` : '';
        const limit = `if (${spell.present(piece)} > ${mostPresent}) host.tooMany(${piece});`;
        const many =
          count.op === 'constant'
            ? spawnCount(count.value)
            : `Math.min(${mostSpawned}, Math.max(0, Math.round(${this.term(count)}) || 0))`;
        return `{ const count = ${many}; ${this.appear(piece, 'count')} ${limit} ${queued} }`;
      }
      case 'clear':
        return `${spell.present(effect.piece)} = 0; ${this.alongCourse((at) => `if (${at} === ${effect.piece}) ${at} = -1;`)} ${this.watch.cleared(effect.piece)}`;
      case 'timerWrite':
        return this.timerWrite(effect.timer, effect.adds, this.term(effect.amount), source);
      case 'timerStart':
        return this.startTimer(effect.timer);
      case 'timerStop':
        return this.setTimer(effect.timer, spell.never);
      case 'become': {
        const { from, to } = effect;
        const told = this.watch.appeared(to);
        const many = told === '' ? '' : `for (let i = 0; i < changed; i++) { ${told} }`;
        const turned = this.alongCourse((at) => `if (${at} === ${from}) ${at} = ${to};`);
        return `{ const changed = ${spell.present(from)}; ${spell.present(from)} = 0; ${turned} ${this.watch.cleared(from)} ${spell.present(to)} = ${spell.present(to)} + changed; ${many} }`;
      }
      case 'emit':
        return this.form.events[effect.event]!.isHeard ? `queue[tail++] = ${effect.event};` : '';
      case 'popup':
        return this.watch.popup(effect.popup);
      case 'grace':
        return `${spell.graceEnds} = ${spell.live} + ${effect.duration};`;
      case 'cue':
        return this.watch.cue(effect.cue);
    }
  }

  private startTimer(timer: number): string {
    const { interval } = this.form.timers[timer]!;
    return this.setTimer(timer, `${this.spell.clock(timer)} + ${this.interval(interval)}`);
  }

  /** Sets when a timer is due, and with it when it warns next. */
  setTimer(timer: number, due: string): string {
    return `${this.spell.timer(timer)} = ${due}; ${this.nextWarning(timer)}`;
  }

  /** The first warning that is still to come, seen from now. */
  nextWarning(timer: number): string {
    const { warn } = this.form.timers[timer]!;
    if (warn.length === 0) return '';
    const due = this.spell.timer(timer);
    const { never } = this.spell;
    const now = this.spell.clock(timer);
    const next = warn.reduceRight(
      (later, left) => `${due} - ${now} > ${left} ? ${due} - ${left} : ${later}`,
      never,
    );
    return `${this.spell.warning(timer)} = ${due} === ${never} ? ${never} : ${next};`;
  }

  /** Seconds for a timer, to the millisecond; one that does not run has none to add to. */
  private timerWrite(timer: number, adds: boolean, seconds: string, source: number): string {
    const due = this.spell.timer(timer);
    const now = this.spell.clock(timer);
    const from = adds ? due : now;
    const checked = `if (!(by >= ${-largestNumber} && by <= ${largestNumber})) host.timerTooLarge(${source}, ${timer}, by);`;
    const write = `{ const by = Math.round(${seconds} * 1000) + 0; ${checked} ${this.setTimer(timer, `Math.min(${now} + ${longestTimer}, Math.max(${now} + 1, ${from} + by))`)} }`;
    return adds ? `if (${due} !== ${this.spell.never}) ${write}` : write;
  }

  /** Every amount of one effect is computed before any counter is written. */
  private writes(writes: readonly WriteForm[], source: number): string {
    const amounts = writes.map((write, index) => {
      const { counter, adds, rounds } = write;
      const amount = rounds ? `(Math.round(${this.term(write.amount)}) + 0)` : this.term(write.amount);
      const wanted = adds ? `${this.spell.counter(counter)} + ${amount}` : `${amount} + 0`;
      return `const wanted${index} = ${wanted}; ${this.checked(write, `wanted${index}`, source)}`;
    });
    const stores = writes.map(({ counter }, index) => {
      const cell = this.spell.counter(counter);
      const after = this.clamped(writes[index]!, `wanted${index}`);
      const watched = this.watch.write(counter, source, `before${index}`, cell, `wanted${index}`);
      return watched === ''
        ? `${cell} = ${after};`
        : `const before${index} = ${cell}; ${cell} = ${after}; ${watched}`;
    });
    return `{ ${amounts.join(' ')} ${stores.join(' ')} }`;
  }

  private checked({ counter, adds, amount }: WriteForm, wanted: string, source: number): string {
    const { min, max } = this.form.counters[counter]!;
    if (amount.op === 'constant') {
      // What the counter can hold before, a bound each, says what it can be asked to hold.
      const [least, most] = adds ? [min + amount.value, max + amount.value] : [amount.value, amount.value];
      if (least >= -largestNumber && most <= largestNumber) return '';
    }
    return `if (!(${wanted} >= ${-largestNumber} && ${wanted} <= ${largestNumber})) host.tooLarge(${source}, ${counter}, ${wanted});`;
  }

  private clamped({ counter, adds, amount }: WriteForm, wanted: string): string {
    const { min, max } = this.form.counters[counter]!;
    const sign = adds && amount.op === 'constant' ? Math.sign(amount.value) : 0;
    let text = wanted;
    if (max < largestNumber && !(adds && sign < 0)) text = `(${wanted} > ${max} ? ${max} : ${text})`;
    if (min > -largestNumber && !(adds && sign > 0)) text = `(${wanted} < ${min} ? ${min} : ${text})`;
    return text;
  }
}

/** How many an effect spawns: rounded, and held from 0 to 1,000. */
export const spawnCount = (count: number): number =>
  Math.min(mostSpawned, Math.max(0, Math.round(count) || 0));
