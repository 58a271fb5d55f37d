import { membersOf } from '../../design/language/events.js';
import type { Expression } from '../../design/language/expression.js';
import {
  type AmountWrite,
  type ComputedInterval,
  type Counter,
  type Design,
  type Effect,
  type HudItem,
  type Interval,
  type Keep,
  spans,
  type Template,
} from '../../design/model.js';
import { largestNumber } from '../../design/schema.js';
import { placeKey } from '../run/draw.js';
import { mergingOf } from '../session/merging.js';
import type {
  Cells,
  CounterForm,
  DrawForm,
  EffectForm,
  Form,
  HudForm,
  IntervalForm,
  LevelForm,
  PieceForm,
  RuleForm,
  SpawnForm,
  Term,
  TextForm,
  TimerForm,
  TransitionForm,
} from './form.js';
import { isWhole, longestKept, lowerExpression, type TermScope } from './lower-expression.js';
import { eventForm, screenForm } from './lower-screens.js';

const spanIndex = (keep: Keep): number => spans.indexOf(keep);
const indexByName = (named: readonly { name: string }[]): Map<string, number> =>
  new Map(named.map(({ name }, index) => [name, index]));

const lowered = new WeakMap<Design, Form>();

/** The form of a design, made once. */
export function formOf(design: Design): Form {
  const known = lowered.get(design);
  if (known !== undefined) return known;
  const form = lower(design);
  lowered.set(design, form);
  return form;
}

/** Turns a checked design into its form. */
function lower(design: Design): Form {
  const draws: DrawForm[] = [];
  const counterIndex = indexByName(design.counters);
  const pieceIndex = indexByName(design.pieces);
  const timerIndex = indexByName(design.timers);
  const screenIndex = indexByName(design.screens);
  const eventIndex = new Map(design.events.map((name, index) => [name, index]));
  const cues: string[] = [];
  const scope: TermScope = {
    counters: counterIndex,
    kinds: new Map(design.counters.map(({ name, kind, places }) => [name, { kind, places }])),
    timers: timerIndex,
    dials: new Map(
      design.dials.map(({ name, value }, dial) => [
        name,
        design.hasLooseDials ? { op: 'dial', dial, value } : { op: 'constant', value },
      ]),
    ),
    piecesOf: (name) => membersOf(name, design.pieces).map((piece) => pieceIndex.get(piece)!),
    levelValue: (value) => tables.term(value, scope),
  };
  const tables = new LevelTables(design);
  const event = (name: string): number => eventIndex.get(name)!;

  const intervalForm = (interval: Interval | ComputedInterval, asks: string): IntervalForm => {
    const asking = (): number => draws.push({ name: asks, ...placeKey(asks) }) - 1;
    if ('seconds' in interval) {
      const seconds = lowerExpression(interval.seconds, scope);
      const upTo = interval.upTo && lowerExpression(interval.upTo, scope);
      const draw = upTo === undefined ? -1 : asking();
      return { least: 0, step: interval.grid, choices: 1, draw, computed: { seconds, upTo } };
    }
    const { least, most, grid } = interval;
    if (least === most) return { least, step: 0, choices: 1, draw: -1, computed: undefined };
    return { least, step: grid, choices: (most - least) / grid + 1, draw: asking(), computed: undefined };
  };
  const live = design.screens.flatMap((screen, index) => (screen.live ? [index] : []));
  const clocks: (readonly number[])[] = [];
  /** The clock that counts time on some screens; -1: the one of live time. */
  const clockOf = (names: readonly string[]): number => {
    const on = [...new Set(names)].map((name) => screenIndex.get(name)!).sort((a, b) => a - b);
    if (on.join() === live.join()) return -1;
    const known = clocks.findIndex((each) => each.join() === on.join());
    return known >= 0 ? known : clocks.push(on) - 1;
  };

  const counters = design.counters.map(
    ({ name, start, min, max, keep, places, kind, words }): CounterForm => ({
      name,
      kind,
      words,
      places,
      start: lowerExpression(inCells(start, kind, places), scope),
      min: Math.round(min * 10 ** places),
      max: Math.round(max * 10 ** places),
      keep: spanIndex(keep),
      merges: keep === 'forever' ? mergingOf(design, name) : undefined,
    }),
  );
  const timers = design.timers.map(
    (timer): TimerForm => ({
      name: timer.name,
      repeats: timer.kind === 'every',
      interval: intervalForm(timer.interval, `timer ${timer.name}`),
      clockCell: clockOf(timer.screens),
      keep: spanIndex(timer.keep),
      event: event(timer.event),
      warn: timer.warn,
      warnCell: -1,
      warnEvent: timer.warn.length === 0 ? -1 : event(`${timer.name}.warned`),
    }),
  );
  const pieces = design.pieces.map(
    ({ name, role, lasts, needs, outcomes, staysOnCourse, place }): PieceForm => {
      const events = outcomes.map((outcome) => event(`${name}.${outcome.name}`));
      const weights = outcomes.map(({ weight }) => weight && lowerExpression(weight, scope));
      return {
        name,
        role,
        lasts: lasts === undefined ? undefined : lasts / 1000,
        place,
        outcomes: events,
        appeared: event(`${name}.appeared`),
        gone: event(`${name}.gone`),
        needs: needs && lowerExpression(needs, scope),
        success: events[0]!,
        staysOnCourse,
        failure: events.at(-1)!,
        weighted: weights.every((weight) => weight !== undefined)
          ? events.map((each, index) => ({ event: each, weight: weights[index]! }))
          : undefined,
      };
    },
  );
  const levels = design.levels.map((level): LevelForm => {
    const nth = new Map<string, number>();
    const spawns = level.spawns.map((spawn): SpawnForm => {
      // A spawn is known by its level, its piece and which of that piece it is, so that a new line moves no other draw.
      const number = (nth.get(spawn.piece) ?? 0) + 1;
      nth.set(spawn.piece, number);
      return {
        piece: pieceIndex.get(spawn.piece)!,
        every: intervalForm(spawn.every, `spawn ${level.name} ${spawn.piece} ${number}`),
        first:
          spawn.first && intervalForm(soonest(spawn.first), `first ${level.name} ${spawn.piece} ${number}`),
        atOnce: spawn.atOnce ?? Number.POSITIVE_INFINITY,
        total: spawn.total ?? Number.POSITIVE_INFINITY,
      };
    });
    const placed = design.pieces.map(
      ({ name }) => level.placed.find((each) => each.piece === name)?.count ?? 0,
    );
    const course = level.course.map((piece) => pieceIndex.get(piece)!);
    return { name: level.name, placed, spawns, course };
  });

  const values: Term[] = [];
  const shownValue = (expression: Expression | undefined): number =>
    expression === undefined ? -1 : values.push(lowerExpression(expression, scope)) - 1;
  const textForm = (template: Template): TextForm =>
    template.map((part) => {
      if (typeof part === 'string') return part;
      if (part.kind === 'levelName') return { levelName: true };
      const counter = part.kind === 'counter' ? counterIndex.get(part.name)! : -1;
      return { value: shownValue(part), counter };
    });
  const hudForm = (item: HudItem): HudForm => {
    const { show, condition, screens, as, at, width, tenths, input } = item;
    const counter = show === undefined ? -1 : (counterIndex.get(show) ?? -1);
    const timer = show === undefined ? undefined : design.timers[timerIndex.get(show) ?? -1];
    const value: Expression | undefined =
      show === undefined ? undefined : { kind: counter < 0 ? 'timer' : 'counter', name: show };
    return {
      show,
      label: item.label ?? show ?? '',
      as,
      at,
      width,
      tenths,
      input,
      screens: screens.map((screen) => screenIndex.get(screen)!),
      condition: shownValue(condition),
      text: textForm(item.text),
      counter,
      value: shownValue(value),
      of: design.counters[counter]?.max ?? (timer === undefined ? 0 : lengthOf(timer.interval)),
    };
  };
  const popups: TextForm[] = [];
  const lowerWrites = (writes: readonly AmountWrite[], adds: boolean, sign = 1): EffectForm[] => {
    if (writes.length === 0) return [];
    const lowered = writes.map(({ name, amount }) => {
      const { kind, places } = design.counters[counterIndex.get(name)!]!;
      const inCell = inCells(amount, kind, places);
      const term = lowerExpression(sign < 0 ? { kind: 'negative', of: rounded(inCell) } : inCell, scope);
      return { counter: counterIndex.get(name)!, adds, amount: term, rounds: !isWhole(term, tables.values) };
    });
    return [{ op: 'write', writes: lowered }];
  };
  const lowerEffect = (effect: Effect): EffectForm[] => {
    switch (effect.kind) {
      case 'add':
      case 'set': {
        const adds = effect.kind === 'add';
        const timed = effect.timers.map(
          ({ name, amount }): EffectForm => ({
            op: 'timerWrite',
            timer: timerIndex.get(name)!,
            adds,
            amount: lowerExpression(amount, scope),
          }),
        );
        return [...lowerWrites(effect.writes, adds), ...timed];
      }
      case 'pay':
        return lowerWrites(effect.writes, true, -1);
      case 'spawn':
        return effect.pieces.map(({ piece, count }) => ({
          op: 'spawn',
          piece: pieceIndex.get(piece)!,
          count: lowerExpression(count, scope),
        }));
      case 'clear':
        return [
          ...effect.pieces.map((piece) => ({ piece, count: undefined })),
          ...effect.some.map(({ piece, count }) => ({ piece, count: lowerExpression(count, scope) })),
        ].map(({ piece, count }) => ({ op: 'clear', piece: pieceIndex.get(piece)!, count }));
      case 'become':
        return effect.changes.map(({ from, to, count }) => ({
          op: 'become',
          from: pieceIndex.get(from)!,
          to: pieceIndex.get(to)!,
          count: count && lowerExpression(count, scope),
        }));
      case 'start':
      case 'stop': {
        const op = effect.kind === 'start' ? 'timerStart' : 'timerStop';
        return effect.timers.map((timer) => ({ op, timer: timerIndex.get(timer)! }));
      }
      case 'emit':
        return [{ op: 'emit', event: event(effect.name) }];
      case 'popup':
        popups.push(textForm(effect.text));
        return [{ op: 'popup', popup: popups.length - 1 }];
      case 'grace':
        return [{ op: 'grace', duration: effect.duration }];
      case 'cue': {
        if (!cues.includes(effect.cue)) cues.push(effect.cue);
        return [{ op: 'cue', cue: cues.indexOf(effect.cue) }];
      }
    }
  };
  /** A condition that also asks whether what the list pays can be afforded. */
  const guarded = (condition: Expression | undefined, effects: readonly Effect[]): Term | undefined => {
    const [first] = effects;
    const paid = first?.kind === 'pay' ? first.writes : [];
    const affordable = paid.map(({ name, amount }): Expression => {
      const { min } = counters[counterIndex.get(name)!]!;
      const { places, kind } = design.counters[counterIndex.get(name)!]!;
      const left: Expression = { kind: 'cell', name };
      const right: Expression = {
        kind: 'binary',
        operator: '+',
        left: rounded(inCells(amount, kind, places)),
        right: { kind: 'number', value: Math.max(min, min === -largestNumber ? 0 : min) },
      };
      return { kind: 'binary', operator: '>=', left, right };
    });
    const all = [...(condition === undefined ? [] : [condition]), ...affordable];
    if (all.length === 0) return undefined;
    return lowerExpression(
      all.reduce((left, right) => ({ kind: 'binary', operator: 'and', left, right })),
      scope,
    );
  };
  const lowerEffects = (effects: readonly Effect[]): EffectForm[] => effects.flatMap(lowerEffect);

  const ruleDraws = design.rules.map((rule, index) => {
    if (rule.chance >= 1) return -1;
    const nth = design.rules.slice(0, index).filter((each) => each.name === rule.name).length + 1;
    const name = `chance ${rule.name} ${nth}`;
    draws.push({ name, ...placeKey(name) });
    return draws.length - 1;
  });
  // Rest and memory cells stand after all others, so they are numbered once the rest of the layout is known.
  const fixed = layOut(
    counters.length,
    timers.length,
    pieces.length,
    Math.max(...levels.map((level) => level.spawns.length)),
    Math.max(...levels.map((level) => level.course.length)),
    clocks.length,
    draws.length,
  );
  let size = fixed.size;
  const warning = timers.map(
    (timer): TimerForm => ({
      ...timer,
      clockCell: timer.clockCell < 0 ? fixed.live : fixed.clocks + timer.clockCell,
      warnCell: timer.warn.length === 0 ? -1 : size++,
    }),
  );
  const backCells = design.screens.map(({ name }) => {
    const leadsBack = design.transitions.some(
      (transition) => transition.from === name && transition.to === 'back',
    );
    if (!leadsBack) return -1;
    size += 3;
    return size - 3;
  });
  const rules = design.rules.map((rule, index): RuleForm => {
    const condition = guarded(rule.condition, rule.effects);
    const restCell = rule.rest > 0 ? size++ : -1;
    const memoryCell = rule.heard.length === 0 ? size++ : -1;
    const onceCell = rule.once === undefined ? -1 : size++;
    const passes = rule.passes && { counter: counterIndex.get(rule.passes.counter)!, step: rule.passes.step };
    const [first] = rule.effects;
    const read: Expression[] = [
      ...(rule.condition === undefined ? [] : [rule.condition]),
      ...(first?.kind === 'pay'
        ? first.writes.flatMap(({ name, amount }): Expression[] => [{ kind: 'counter', name }, amount])
        : []),
    ];
    const forgets = passes
      ? counters[passes.counter]!.keep
      : Math.max(0, ...read.map((each) => longestKept(each, design)));
    const effects = lowerEffects(rule.effects);
    return {
      name: rule.name,
      condition,
      rest: rule.rest,
      restCell,
      memoryCell,
      forgets,
      onceCell,
      onceSpan: rule.once === undefined ? 0 : spanIndex(rule.once),
      threshold: rule.chance >= 1 ? 2 ** 32 : Math.round(rule.chance * 2 ** 32),
      draw: ruleDraws[index]!,
      passes,
      effects,
      place: rule.place,
    };
  });
  const levelSpan = spanIndex('level');
  const transitions = design.transitions.map((transition): TransitionForm => {
    const fresh = transition.fresh === undefined ? -1 : spanIndex(transition.fresh);
    const level = levelOf(transition.level, fresh);
    return {
      from: screenIndex.get(transition.from)!,
      to: screenIndex.get(transition.to) ?? -1,
      index: transition.index,
      condition: guarded(transition.condition, transition.effects),
      wait: transition.wait,
      fresh,
      level,
      respawns: fresh >= levelSpan || level !== -1,
      grace: transition.grace,
      effects: lowerEffects(transition.effects),
      place: transition.place,
    };
  });
  const firstStart: TransitionForm = {
    from: -1,
    to: 0,
    index: -1,
    condition: undefined,
    wait: 0,
    fresh: spanIndex('forever'),
    level: 0,
    respawns: true,
    grace: 0,
    effects: [],
    place: { file: design.file, line: 0, column: 0 },
  };

  return {
    design,
    title: design.title,
    fingerprint: design.fingerprint,
    digests: design.digests,
    cells: { ...fixed, size },
    counters,
    score: design.score === undefined ? -1 : counterIndex.get(design.score)!,
    timers: warning,
    clocks,
    pieces,
    levels,
    endless: design.levels.at(-1)!.endless,
    levelTables: tables.values,
    rules,
    transitions: [...transitions, firstStart],
    screens: design.screens.map(({ name, text }, index) => ({
      ...screenForm(design, name, index, backCells[index]!, eventIndex, rules, transitions),
      timers: design.timers.flatMap(({ screens }, timer) => (screens.includes(name) ? [timer] : [])),
      text: textForm(text),
    })),
    events: design.events.map((name) => eventForm(design, name, pieceIndex, timers)),
    eventIndex,
    cues,
    popups,
    values,
    hud: design.hud.map(hudForm),
    lists: design.lists.map(({ name, of, events, length }) => ({
      name,
      counter: counterIndex.get(of)!,
      events,
      length,
    })),
    draws,
    lowerTerm: (expression) => lowerExpression(expression, scope),
  };
}

/** No clock is due at the very moment it is set, so that none can go on without time passing: a millisecond at the least. */
const soonest = (first: Interval | ComputedInterval): Interval | ComputedInterval =>
  'least' in first ? { ...first, least: Math.max(1, first.least), most: Math.max(1, first.most) } : first;

/** Seconds that a timer runs at the most; a computed one is not shown as a part of anything. */
const lengthOf = (interval: Interval | ComputedInterval): number =>
  'most' in interval ? interval.most / 1000 : 0;

/** An amount as a counter's cell holds it: decimals scaled up, a flag as 1 or 0. */
function inCells(amount: Expression, kind: Counter['kind'], places: number): Expression {
  const number = (value: number): Expression => ({ kind: 'number', value });
  if (kind === 'flag') return { kind: 'choose', test: amount, yes: number(1), no: number(0) };
  return places === 0 ? amount : { kind: 'binary', operator: '*', left: amount, right: number(10 ** places) };
}

/** What is paid is rounded before it is taken away, so that what can be afforded is what is paid. */
const rounded = (amount: Expression): Expression => ({ kind: 'call', name: 'round', of: [amount] });

/** Values of levels, one table for each that an expression reads; one with formulas is worked out where it is read. */
class LevelTables {
  readonly values: number[][] = [];
  readonly #names: string[] = [];

  constructor(private readonly design: Design) {}

  term(name: string, scope: TermScope): Term {
    const terms = this.design.levels.map((level) => lowerExpression(level.values.get(name)!, scope));
    if (!terms.every((term) => term.op === 'constant')) {
      return terms.reduceRight((otherwise, term, index) => {
        const number: Term = { op: 'constant', value: index + 1 };
        const test: Term = { op: 'binary', operator: '<=', left: { op: 'level' }, right: number };
        return { op: 'choose', test, yes: term, no: otherwise };
      });
    }
    const known = this.#names.indexOf(name);
    if (known >= 0) return { op: 'levelValue', table: known };
    this.#names.push(name);
    this.values.push(terms.map((term) => term.value));
    return { op: 'levelValue', table: this.values.length - 1 };
  }
}

function layOut(
  counters: number,
  timers: number,
  pieces: number,
  spawns: number,
  courseLength: number,
  clocks: number,
  draws: number,
): Cells {
  const first = 7;
  const at = { counters: first, timers: first + counters, present: first + counters + timers };
  const spawnDue = at.present + pieces;
  const spawnMade = spawnDue + spawns;
  const course = spawnMade + spawns;
  const firstClock = course + (courseLength === 0 ? 0 : courseLength + 2);
  const asked = firstClock + clocks;
  return {
    now: 0,
    live: 1,
    screen: 2,
    entered: 3,
    waited: 4,
    level: 5,
    graceEnds: 6,
    ...at,
    spawnDue,
    spawnMade,
    course,
    courseLength,
    clocks: firstClock,
    asked,
    size: asked + draws,
  };
}

function levelOf(written: 'next' | 'first' | number | undefined, fresh: number): number {
  if (written === 'next') return -2;
  if (written === 'first') return 0;
  if (written !== undefined) return written - 1;
  return fresh >= spanIndex('run') ? 0 : -1;
}
