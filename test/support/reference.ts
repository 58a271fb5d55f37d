import type { Expression } from '../../src/design/language/expression.js';
import {
  type Computed,
  type ComputedInterval,
  type Counter,
  type Design,
  type Effect,
  type Interval,
  type Level,
  type Piece,
  type Rule,
  spans,
  type Transition,
  type Which,
} from '../../src/design/model.js';
import { choose, draw, placeKey, sessionKey } from '../../src/engine/run/draw.js';

/** Of one piece no more than these are there at once. */
const mostPresent = 10_000;

/**
 * A slow, obvious reading of a design, straight from its meaning: names stay names, every question is asked of the whole
 * design each time. It shares nothing with lowering or the backends, which are tested against it state by state.
 */
export class Reference {
  now = 0;
  live = 0;
  screen: string;
  entered = 0;
  waited = 0;
  level = 0;
  graceEnds = 0;
  counters = new Map<string, number | boolean>();
  timers = new Map<string, number>();
  present = new Map<string, number>();
  spawns: { due: number; made: number }[] = [];
  rests = new Map<Rule, number>();
  wasTrue = new Set<Rule>();
  spent = new Set<Rule>();
  warnings = new Map<string, number>();
  /** For each screen that leads back: where to, how long that had lasted, which of its waits were over. */
  returns = new Map<string, { screen: string; lasted: number; waited: number }>();
  passed = new Map<Rule, number>();
  course: (string | undefined)[] = [];
  coursePassed = 0;
  checkpoint = 0;
  /** Milliseconds spent on each screen. */
  timeOn = new Map<string, number>();
  log: string[] = [];
  #asked = new Map<string, number>();
  #queue: string[] = [];
  #steps = 0;

  constructor(
    readonly design: Design,
    readonly seed: number,
    /** Whether the level's spawns make pieces appear; where not, a game does. */
    readonly hasSpawns: boolean = true,
    /** Whether it begins; what is to become a copy of another does not. */
    begins = true,
  ) {
    this.screen = design.screens[0]!.name;
    if (!begins) return;
    this.#putBack('forever');
    this.#respawn();
    this.#enter(this.screen);
    this.#chain(undefined);
  }

  get #level(): Level {
    return this.design.levels[Math.min(this.level, this.design.levels.length - 1)]!;
  }

  get isLive(): boolean {
    return this.design.screens.find((screen) => screen.name === this.screen)!.live;
  }

  /** What is due at the moment of an event comes before it. */
  send(event: string): 'handled' | 'ignored' | 'turned away' {
    this.advance(this.now);
    return this.#receive(event);
  }

  #receive(event: string): 'handled' | 'ignored' | 'turned away' {
    if (!this.design.events.includes(event)) return 'ignored';
    const [subject, what] = event.split('.') as [string, string];
    const piece = this.design.pieces.find((each) => each.name === subject);
    if (piece !== undefined) {
      if (!this.isLive) return 'ignored';
      const isOutcome = what !== 'appeared' && what !== 'gone';
      if (isOutcome && !this.#holds(piece.needs)) return 'ignored';
      if (what === 'appeared' && this.present.get(subject)! >= mostPresent) return 'ignored';
      const isTurnedAway = what === 'hit' && this.live < this.graceEnds;
      const isGone = what === 'gone' || (isOutcome && piece.ends.includes(what));
      const stays = what !== 'appeared' && this.#meetOnCourse(piece, what, isGone && !isTurnedAway);
      if (isTurnedAway) return 'turned away';
      const change = what === 'appeared' ? 1 : !isOutcome || piece.ends.includes(what) ? -1 : 0;
      if (!stays) this.#count(subject, Math.max(0, this.present.get(subject)! + change));
      if (what === 'appeared' && !this.hasSpawns) this.#countSpawned(subject);
    } else if (subject !== 'input' || !this.#hears(event)) return 'ignored';
    this.#chain(event);
    return 'handled';
  }

  /** What a game makes appear is one of those that were still to come. */
  #countSpawned(piece: string): void {
    const index = this.#level.spawns.findIndex(
      (spawn, at) => spawn.piece === piece && this.spawns[at]!.made < this.meant(spawn.total),
    );
    if (index >= 0) this.spawns[index]!.made++;
  }

  /** How many are meant, where it may be computed: rounded, and none at the least. */
  meant(of: Computed | undefined, most = mostPresent): number {
    if (typeof of !== 'object') return of ?? Number.POSITIVE_INFINITY;
    return Math.min(most, Math.max(0, Math.round(this.#number(of)) || 0));
  }

  /** Milliseconds, where seconds may be computed. */
  length(of: Computed): number {
    if (typeof of === 'number') return of;
    return Math.min(86_400_000, Math.max(0, Math.round(this.#number(of) * 1000) || 0));
  }

  /** What a counter is held to; where the bounds cross, the min counts. */
  #within({ name, min, max }: Counter, value: number): number {
    const bound = (of: Computed, none: number): number => {
      const held = typeof of === 'number' ? of : (this.#asHeld(name, this.#number(of)) as number);
      return Number.isNaN(held) ? none : held;
    };
    return Math.max(
      bound(min, Number.NEGATIVE_INFINITY),
      Math.min(bound(max, Number.POSITIVE_INFINITY), value),
    );
  }

  /** So many of a piece are present now; ten thousand are more than any game means. */
  #count(piece: string, count: number): void {
    if (count > mostPresent) throw new Error('too-many-pieces');
    this.present.set(piece, count);
  }

  /** The piece of that name ahead is meant; where none is ahead and none stands elsewhere, the first behind. */
  #meetOnCourse({ name, role, staysOnCourse }: Piece, what: string, isGone: boolean): boolean {
    const ahead = this.course.findIndex((each, at) => at >= this.coursePassed && each === name);
    if (ahead >= 0) {
      this.coursePassed = ahead + 1;
      if (role === 'checkpoint' && what === 'reached') this.checkpoint = ahead + 1;
    }
    if (ahead >= 0 && staysOnCourse && what !== 'gone') return true;
    const there = this.course.filter((each) => each === name).length;
    const isBehind = ahead < 0 && there > 0 && there >= this.present.get(name)!;
    if (isGone && (ahead >= 0 || isBehind))
      this.course[ahead >= 0 ? ahead : this.course.indexOf(name)] = undefined;
    return false;
  }

  /** The time by which a timer runs: spent on its screens. */
  clock(timer: string): number {
    const { screens } = this.design.timers.find((each) => each.name === timer)!;
    return screens.reduce((sum, screen) => sum + (this.timeOn.get(screen) ?? 0), 0);
  }

  advance(to: number): void {
    for (;;) {
      const clock = this.#nextClock();
      if (clock === undefined || clock.at > to) break;
      this.#elapse(clock.at);
      clock.fire();
    }
    this.#elapse(to);
  }

  /** Sets when a timer is due; of its warnings, the first whose moment is still to come is next. */
  #setTimer(name: string, due: number): void {
    this.timers.set(name, due);
    const { warn } = this.design.timers.find((timer) => timer.name === name)!;
    const next = warn.find((left) => due - this.clock(name) > left);
    this.warnings.set(
      name,
      next === undefined || due === Number.POSITIVE_INFINITY ? Number.POSITIVE_INFINITY : due - next,
    );
  }

  #elapse(to: number): void {
    if (this.isLive) this.live += to - this.now;
    this.timeOn.set(this.screen, (this.timeOn.get(this.screen) ?? 0) + to - this.now);
    this.now = to;
  }

  /** The clock due first; timers before spawns before waits, each in file order. */
  #nextClock(): { at: number; fire: () => void } | undefined {
    const clocks: { at: number; fire: () => void }[] = [];
    for (const timer of this.design.timers) {
      if (timer.screens.includes(this.screen)) {
        const clock = this.clock(timer.name);
        const due = this.timers.get(timer.name)!;
        const again = (): number => due + this.#period(timer.interval, `timer ${timer.name}`);
        const next = this.warnings.get(timer.name) ?? Number.POSITIVE_INFINITY;
        clocks.push({
          at: this.now + next - clock,
          fire: () => {
            this.#setTimer(timer.name, due);
            this.#chain(`${timer.name}.warned`);
          },
        });
        clocks.push({
          at: this.now + due - clock,
          fire: () => {
            this.#setTimer(timer.name, timer.kind === 'every' ? again() : Number.POSITIVE_INFINITY);
            this.#chain(timer.event);
          },
        });
      }
    }
    if (this.isLive && this.hasSpawns) {
      this.#level.spawns.forEach((spawn, index) => {
        const clock = this.spawns[index]!;
        clocks.push({
          at: this.now + clock.due - this.live,
          fire: () => {
            const isComputed = typeof spawn.total === 'object';
            const appears =
              this.present.get(spawn.piece)! < Math.min(mostPresent, this.meant(spawn.atOnce)) &&
              (!isComputed || clock.made < this.meant(spawn.total));
            if (appears) clock.made++;
            // One whose total is computed goes on, since it may be more later.
            const isOver = !isComputed && clock.made >= this.meant(spawn.total);
            clock.due = isOver
              ? Number.POSITIVE_INFINITY
              : clock.due + this.#period(spawn.every, this.#spawnPlace('spawn', index));
            if (!appears) return;
            this.#count(spawn.piece, this.present.get(spawn.piece)! + 1);
            this.#chain(`${spawn.piece}.appeared`);
          },
        });
      });
    }
    const waits = this.#from()
      .map((transition) => this.length(transition.wait))
      .filter((wait) => wait > this.waited);
    if (waits.length > 0) {
      const wait = Math.min(...waits);
      clocks.push({
        at: Math.max(this.now, this.entered + wait),
        fire: () => {
          this.waited = wait;
          this.#chain(undefined);
        },
      });
    }
    const running = clocks.filter((clock) => clock.at < Number.POSITIVE_INFINITY);
    return running.reduce<(typeof clocks)[0] | undefined>(
      (first, each) => (first === undefined || each.at < first.at ? each : first),
      undefined,
    );
  }

  #from(): Transition[] {
    return this.design.transitions.filter((transition) => transition.from === this.screen);
  }

  #hears(event: string): boolean {
    const rules = this.design.rules.filter((rule) => rule.screens.includes(this.screen));
    return [...rules, ...this.#from()].some((each) => each.events.includes(event));
  }

  /** One event handled to its end. */
  #chain(event: string | undefined): void {
    this.#queue = [...this.#queue];
    this.#steps = 0;
    let next = event;
    for (;;) {
      if (next !== undefined) {
        for (const rule of this.design.rules) {
          if (!rule.events.includes(next) || !rule.screens.includes(this.screen)) continue;
          if (this.#isOpen(rule) && this.#holds(rule.condition) && this.#affords(rule) && this.#isLucky(rule))
            this.#fire(rule);
        }
        const heard = next;
        const taken = this.#from().find((each) => each.events.includes(heard) && this.#isReady(each));
        if (taken !== undefined) this.#take(taken);
      }
      this.#settle();
      next = this.#queue.shift();
      if (next === undefined) return;
      this.#step();
    }
  }

  #settle(): void {
    for (;;) {
      for (let again = true; again; ) {
        again = false;
        for (const rule of this.design.rules) {
          if (rule.heard.length > 0 || !rule.screens.includes(this.screen)) continue;
          if (!this.#becomesTrue(rule)) continue;
          if (rule.passes !== undefined) again = true;
          if (!this.#isOpen(rule)) continue;
          if (rule.passes !== undefined) this.#step();
          if (!this.#isLucky(rule)) continue;
          again = true;
          if (rule.passes === undefined) this.#step();
          this.#fire(rule);
        }
      }
      const taken = this.#from().find((each) => each.heard.length === 0 && this.#isReady(each));
      if (taken === undefined) return;
      this.#take(taken);
    }
  }

  #becomesTrue(rule: Rule): boolean {
    if (rule.passes !== undefined) {
      const passed = this.passed.get(rule)!;
      if (this.#multiples(rule) <= passed) return false;
      this.passed.set(rule, this.#isOpen(rule) ? passed + 1 : this.#multiples(rule));
      return true;
    }
    const was = this.wasTrue.has(rule);
    const holds = this.#holds(rule.condition) && this.#affords(rule);
    if (holds) this.wasTrue.add(rule);
    else this.wasTrue.delete(rule);
    return holds && !was;
  }

  #multiples({ passes }: Rule): number {
    return Math.floor((this.counters.get(passes!.counter) as number) / passes!.step);
  }

  /** Whether everything that a list pays is there; below its min, or 0 where it has none, nothing can be paid. */
  #affords({ effects }: { readonly effects: readonly Effect[] }): boolean {
    const [first] = effects;
    if (first?.kind !== 'pay') return true;
    return first.writes.every(({ name, amount }) => {
      const { min } = this.design.counters.find((counter) => counter.name === name)!;
      const paid = this.#asHeld(name, this.#value(amount)) as number;
      const least =
        typeof min === 'object'
          ? (this.#asHeld(name, this.#number(min)) as number)
          : min <= -(2 ** 53) / 1e6
            ? 0
            : min;
      return (this.counters.get(name) as number) >= paid + least;
    });
  }

  #isLucky(rule: Rule): boolean {
    if (rule.chance >= 1) return true;
    const { rules } = this.design;
    const nth = rules.slice(0, rules.indexOf(rule) + 1).filter((each) => each.name === rule.name).length;
    return this.#ask(`chance ${rule.name} ${nth}`) < Math.round(rule.chance * 2 ** 32);
  }

  #step(): void {
    if (++this.#steps > 1000) throw new Error('endless-chain');
  }

  #isReady(transition: Transition): boolean {
    return (
      this.waited >= this.length(transition.wait) &&
      this.#holds(transition.condition) &&
      this.#affords(transition)
    );
  }

  #isOpen(rule: Rule): boolean {
    return this.live >= (this.rests.get(rule) ?? 0) && !this.spent.has(rule);
  }

  #fire(rule: Rule): void {
    this.log.push(`rule ${rule.name}`);
    if (rule.rest !== 0) this.rests.set(rule, this.live + this.length(rule.rest));
    if (rule.once !== undefined) this.spent.add(rule);
    for (const effect of rule.effects) this.#apply(effect);
  }

  #take(transition: Transition): void {
    this.#step();
    this.log.push(`${transition.from} -> ${transition.to}`);
    for (const effect of transition.effects) this.#apply(effect);
    const { fresh, level } = transition;
    const before = this.level;
    const reaches = (span: (typeof spans)[number]): boolean =>
      fresh !== undefined && spans.indexOf(fresh) >= spans.indexOf(span);
    if (level === 'next') {
      if (before === this.design.levels.length - 1 && !this.design.levels.at(-1)!.endless)
        throw new Error('no-next-level');
      this.level++;
    } else if (level === 'first' || (level === undefined && reaches('run'))) this.level = 0;
    else if (level !== undefined) this.level = level - 1;
    if (fresh !== undefined) this.#putBack(fresh);
    if (reaches('level') || level !== undefined) this.#respawn();
    const grace = this.length(transition.grace);
    if (grace > 0) this.graceEnds = this.live + grace;
    if (transition.to === 'back') {
      const back = this.returns.get(this.screen) ?? {
        screen: this.design.screens[0]!.name,
        lasted: 0,
        waited: 0,
      };
      this.screen = back.screen;
      this.entered = this.now - back.lasted;
      this.waited = back.waited;
      return;
    }
    this.#enter(transition.to);
  }

  #enter(screen: string): void {
    this.returns.set(screen, { screen: this.screen, lasted: this.now - this.entered, waited: this.waited });
    this.screen = screen;
    this.entered = this.now;
    this.waited = 0;
    const event = `${screen}.entered`;
    if ([...this.design.rules, ...this.design.transitions].some((each) => each.events.includes(event)))
      this.#queue.push(event);
  }

  #putBack(fresh: (typeof spans)[number]): void {
    const reaches = (keep: (typeof spans)[number]): boolean => spans.indexOf(keep) <= spans.indexOf(fresh);
    for (const counter of this.design.counters) {
      const { name, keep, start } = counter;
      if (!reaches(keep)) continue;
      const value = this.#asHeld(name, this.#value(start));
      if (typeof value === 'boolean') this.counters.set(name, value);
      else this.counters.set(name, this.#within(counter, Number.isNaN(value) ? 0 : value));
    }
    for (const timer of this.design.timers) {
      if (reaches(timer.keep))
        this.#setTimer(
          timer.name,
          this.clock(timer.name) + this.#period(timer.interval, `timer ${timer.name}`),
        );
    }
    this.rests.clear();
    this.graceEnds = 0;
    this.coursePassed = this.checkpoint;
    for (const rule of this.design.rules) {
      if (rule.once !== undefined && reaches(rule.once)) this.spent.delete(rule);
      if (rule.passes !== undefined) {
        const { keep } = this.design.counters.find(({ name }) => name === rule.passes!.counter)!;
        if (reaches(keep)) this.passed.set(rule, this.#multiples(rule));
      } else if (reaches(this.#longestRead(rule))) this.wasTrue.delete(rule);
    }
  }

  #longestRead({ condition, effects }: Rule): (typeof spans)[number] {
    const keeps: number[] = [0];
    const visit = (part: Expression): void => {
      if (part.kind === 'counter')
        keeps.push(spans.indexOf(this.design.counters.find((each) => each.name === part.name)!.keep));
      if (part.kind === 'present' || part.kind === 'left' || part.kind === 'levelValue')
        keeps.push(spans.indexOf('level'));
      if (part.kind === 'level' || part.kind === 'lastLevel') keeps.push(spans.indexOf('run'));
      for (const inner of partsOf(part)) visit(inner);
    };
    if (condition !== undefined) visit(condition);
    const [first] = effects;
    for (const { name, amount } of first?.kind === 'pay' ? first.writes : []) {
      visit({ kind: 'counter', name });
      visit(amount);
    }
    return spans[Math.max(...keeps)]!;
  }

  #respawn(): void {
    const level = this.#level;
    this.course = [...level.course];
    this.coursePassed = 0;
    this.checkpoint = 0;
    for (const { name } of this.design.pieces) this.present.set(name, 0);
    // What is placed is worked out piece by piece, before anything of the course is there.
    for (const { name } of this.design.pieces)
      this.present.set(name, this.meant(level.placed.find(({ piece }) => piece === name)?.count ?? 0, 1000));
    for (const each of level.course) this.present.set(each, this.present.get(each)! + 1);
    this.spawns = level.spawns.map((spawn, index) => ({
      due:
        this.live +
        (spawn.first === undefined
          ? this.#period(spawn.every, this.#spawnPlace('spawn', index))
          : this.#period(spawn.first, this.#spawnPlace('first', index))),
      made: 0,
    }));
  }

  #spawnPlace(kind: 'spawn' | 'first', index: number): string {
    const level = this.#level;
    const { piece } = level.spawns[index]!;
    const nth = level.spawns.slice(0, index + 1).filter((each) => each.piece === piece).length;
    return `${kind} ${level.name} ${piece} ${nth}`;
  }

  /** No clock is due at the very moment it is set. */
  #period(interval: Interval | ComputedInterval, place: string): number {
    return Math.max(1, this.#draw(interval, place));
  }

  #draw(interval: Interval | ComputedInterval, place: string): number {
    if ('seconds' in interval) {
      const rounded = (of: Expression): number => {
        const milliseconds = Math.round(this.#number(of) * 1000);
        return Number.isNaN(milliseconds) ? 1 : Math.min(86_400_000, Math.max(1, milliseconds));
      };
      const first = rounded(interval.seconds);
      if (interval.upTo === undefined) return first;
      const last = Math.max(first, rounded(interval.upTo));
      const moments: number[] = [];
      for (let moment = first; moment <= last; moment += interval.grid) moments.push(moment);
      return moments[choose(this.#ask(place), moments.length)]!;
    }
    const { least, most, grid } = interval;
    return least === most ? least : least + grid * choose(this.#ask(place), (most - least) / grid + 1);
  }

  #ask(place: string): number {
    const asked = this.#asked.get(place) ?? 0;
    this.#asked.set(place, asked + 1);
    return draw(sessionKey(this.seed, 0), placeKey(place), asked);
  }

  #apply(effect: Effect): void {
    switch (effect.kind) {
      case 'add':
      case 'set': {
        this.#write(effect.writes, effect.kind === 'add' ? 1 : 0);
        for (const { name, amount } of effect.timers) {
          const due = this.timers.get(name)!;
          if (effect.kind === 'add' && due === Number.POSITIVE_INFINITY) continue;
          const by = Math.round(this.#number(amount) * 1000);
          if (!(Math.abs(by) <= 2 ** 53)) throw new Error('number-too-large');
          const now = this.clock(name);
          const wanted = (effect.kind === 'add' ? due : now) + by;
          this.#setTimer(name, Math.min(now + 86_400_000, Math.max(now + 1, wanted)));
        }
        return;
      }
      case 'pay':
        this.#write(effect.writes, -1);
        return;
      case 'become':
        for (const { from, to, count, which } of effect.changes) {
          if (count !== undefined) {
            this.#some(from, count, to, which);
            continue;
          }
          const changed = this.present.get(from)!;
          this.present.set(from, 0);
          this.course = this.course.map((each) => (each === from ? to : each));
          this.present.set(to, this.present.get(to)! + changed);
        }
        return;
      case 'start':
        for (const name of effect.timers) {
          const { interval } = this.design.timers.find((timer) => timer.name === name)!;
          this.#setTimer(name, this.clock(name) + this.#period(interval, `timer ${name}`));
        }
        return;
      case 'stop':
        for (const name of effect.timers) this.#setTimer(name, Number.POSITIVE_INFINITY);
        return;
      case 'emit':
        if (
          [...this.design.rules, ...this.design.transitions].some((each) => each.events.includes(effect.name))
        )
          this.#queue.push(effect.name);
        return;
      case 'popup':
        this.log.push(
          `popup ${effect.text.map((part) => (typeof part === 'string' ? part : part.kind === 'levelName' ? this.#level.name : this.#value(part))).join('')}`,
        );
        return;
      case 'spawn':
        for (const { piece, count: amount } of effect.pieces) {
          const count = Math.min(1000, Math.max(0, Math.round(this.#number(amount)) || 0));
          this.#count(piece, this.present.get(piece)! + count);
          const isHeard = [...this.design.rules, ...this.design.transitions].some((each) =>
            each.events.includes(`${piece}.appeared`),
          );
          if (isHeard) for (let time = 0; time < count; time++) this.#queue.push(`${piece}.appeared`);
        }
        return;
      case 'clear':
        for (const piece of effect.pieces) {
          this.present.set(piece, 0);
          this.course = this.course.map((each) => (each === piece ? undefined : each));
        }
        for (const { piece, count, which } of effect.some) this.#some(piece, count, undefined, which);
        return;
      case 'grace':
        this.graceEnds = this.live + this.length(effect.duration);
        return;
      case 'cue':
        this.log.push(`cue ${effect.cue}`);
    }
  }

  /** So many of a piece go, or become another: on the course the one that was come to last, then the first. */
  #some(piece: string, amount: Expression, to: string | undefined, which: Which): void {
    const asked = Math.max(0, Math.round(this.#number(amount)) || 0);
    for (let time = Math.min(asked, this.present.get(piece)!); time > 0; time--) {
      this.present.set(piece, this.present.get(piece)! - 1);
      const last = this.coursePassed - 1;
      const place = which !== 'oldest' && this.course[last] === piece ? last : this.course.indexOf(piece);
      if (place >= 0) this.course[place] = to;
      if (to !== undefined) this.present.set(to, this.present.get(to)! + 1);
    }
  }

  /** Every amount is computed before any counter is written; 1 adds, -1 takes away, 0 sets. */
  #write(writes: readonly { name: string; amount: Expression }[], sign: number): void {
    const amounts = writes.map(({ name, amount }) => this.#asHeld(name, this.#value(amount)));
    writes.forEach(({ name }, index) => {
      const amount = amounts[index]!;
      const counter = this.design.counters.find((each) => each.name === name)!;
      if (typeof amount === 'boolean') {
        this.counters.set(name, amount);
        return;
      }
      const scale = 10 ** counter.places;
      const signed = Math.round((sign < 0 ? -amount : amount) * scale);
      const wanted = (sign === 0 ? 0 : Math.round((this.counters.get(name) as number) * scale)) + signed;
      if (!(Math.abs(wanted) <= 2 ** 53)) throw new Error('number-too-large');
      this.counters.set(name, this.#within(counter, (wanted + 0) / scale));
    });
  }

  /** A value as a counter keeps it: with so many decimals, a half rounded up. */
  #asHeld(name: string, value: number | boolean): number | boolean {
    const { places } = this.design.counters.find((each) => each.name === name)!;
    return typeof value === 'boolean' ? value : (Math.round(value * 10 ** places) + 0) / 10 ** places;
  }

  #holds(condition: Expression | undefined): boolean {
    return condition === undefined || this.#value(condition) === true;
  }

  #number(expression: Expression): number {
    return this.#value(expression) as number;
  }

  #value(expression: Expression): number | boolean {
    const { design } = this;
    switch (expression.kind) {
      case 'number':
      case 'truth':
        return expression.value;
      case 'counter':
        return this.counters.get(expression.name)!;
      case 'cell':
        throw new Error('no designer writes a cell');
      case 'dial':
        return design.dials.find((dial) => dial.name === expression.name)!.value;
      case 'level':
        return this.level + 1;
      case 'course':
        return this.coursePassed;
      case 'lastLevel':
        return !design.levels.at(-1)!.endless && this.level === design.levels.length - 1;
      case 'levelValue':
        return this.#value(this.#level.values.get(expression.name)!);
      case 'present':
      case 'left': {
        const members = design.pieces
          .filter((piece) => piece.answersTo.includes(expression.name))
          .map((piece) => piece.name);
        const there = members.reduce((sum, piece) => sum + this.present.get(piece)!, 0);
        if (expression.kind === 'present') return there;
        return this.#level.spawns.reduce(
          (sum, spawn, index) =>
            members.includes(spawn.piece)
              ? sum + Math.max(0, this.meant(spawn.total) - this.spawns[index]!.made)
              : sum,
          there,
        );
      }
      case 'timer': {
        const due = this.timers.get(expression.name)!;
        return due === Number.POSITIVE_INFINITY ? 0 : (due - this.clock(expression.name)) / 1000;
      }
      case 'negative':
        return -this.#number(expression.of);
      case 'not':
        return !this.#value(expression.of);
      case 'choose':
        return this.#value(expression.test) ? this.#value(expression.yes) : this.#value(expression.no);
      case 'call': {
        const of = expression.of.map((part) => this.#number(part));
        const result = Math[expression.name](...(of as [number]));
        return expression.name === 'round' ? result + 0 : result;
      }
      case 'binary': {
        const left = this.#value(expression.left);
        if (expression.operator === 'and') return left === true && this.#value(expression.right) === true;
        if (expression.operator === 'or') return left === true || this.#value(expression.right) === true;
        const right = this.#value(expression.right);
        const [a, b] = [left as number, right as number];
        const results = {
          '+': a + b,
          '-': a - b,
          '*': a * b,
          '/': a / b,
          '%': a % b,
          '<': a < b,
          '<=': a <= b,
          '>': a > b,
          '>=': a >= b,
          '==': left === right,
          '!=': left !== right,
        };
        return results[expression.operator];
      }
    }
  }
}

function partsOf(expression: Expression): readonly Expression[] {
  switch (expression.kind) {
    case 'negative':
    case 'not':
      return [expression.of];
    case 'binary':
      return [expression.left, expression.right];
    case 'choose':
      return [expression.test, expression.yes, expression.no];
    case 'call':
      return expression.of;
    default:
      return [];
  }
}
