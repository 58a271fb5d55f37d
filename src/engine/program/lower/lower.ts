import type { Expression } from '../../../design/language/expression.js';
import type { Design } from '../../../design/model.js';
import {
  type Cells,
  type Form,
  nextLevel,
  type RuleForm,
  sameLevel,
  type TimerForm,
  type TransitionForm,
} from '../form.js';
import { lowerCondition, lowerEffects } from './lower-effects.js';
import { longestKept } from './lower-expression.js';
import { eventForm, screenForm } from './lower-screens.js';
import { lowerHudItem, lowerText } from './lower-texts.js';
import {
  lowerActs,
  lowerCounters,
  lowerLevels,
  lowerPieces,
  lowerTimers,
  narrowBounds,
} from './lower-things.js';
import { Lowering, spanIndex } from './lowering.js';

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
  const lowering = new Lowering(design);
  const counters = lowerCounters(lowering);
  const { timers, clocks } = lowerTimers(lowering);
  const pieces = lowerPieces(lowering);
  const levels = lowerLevels(lowering);
  const ruleDraws = design.rules.map((rule, index) => {
    if (rule.chance >= 1) return -1;
    const nth = design.rules.slice(0, index).filter((each) => each.name === rule.name).length + 1;
    const name = `chance ${rule.name} ${nth}`;
    return lowering.asks(name);
  });
  // Rest and memory cells stand after all others, so they are numbered once the rest of the layout is known.
  const fixed = layOut({
    counters: counters.length,
    timers: timers.length,
    pieces: pieces.length,
    spawns: Math.max(...levels.map((level) => level.spawns.length)),
    courseLength: Math.max(...levels.map((level) => level.course.length)),
    clocks: clocks.length,
    draws: lowering.draws.length,
  });
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
    const condition = lowerCondition(lowering, counters, rule.condition, rule.effects);
    const rest = lowering.duration(rule.rest);
    const restCell = rest === 0 ? -1 : size++;
    const memoryCell = rule.heard.length === 0 ? size++ : -1;
    const onceCell = rule.once === undefined ? -1 : size++;
    const passes = rule.passes && {
      counter: lowering.counters.get(rule.passes.counter)!,
      step: rule.passes.step,
    };
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
    const effects = lowerEffects(lowering, rule.effects);
    return {
      name: rule.name,
      condition,
      rest,
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
      from: lowering.screens.get(transition.from)!,
      to: lowering.screens.get(transition.to) ?? -1,
      index: transition.index,
      condition: lowerCondition(lowering, counters, transition.condition, transition.effects),
      wait: lowering.duration(transition.wait),
      fresh,
      level,
      respawns: fresh >= levelSpan || level !== sameLevel,
      grace: lowering.duration(transition.grace),
      effects: lowerEffects(lowering, transition.effects),
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

  const form: Form = {
    design,
    title: design.title,
    fingerprint: design.fingerprint,
    digests: design.digests,
    cells: { ...fixed, size },
    counters,
    score: design.score === undefined ? -1 : lowering.counters.get(design.score)!,
    timers: warning,
    clocks,
    pieces,
    levels,
    endless: design.levels.at(-1)!.endless,
    levelTables: lowering.tables.values,
    rules,
    acts: lowerActs(lowering),
    transitions: [...transitions, firstStart],
    screens: design.screens.map(({ name, text }, index) => ({
      ...screenForm(lowering, index, backCells[index]!, rules, transitions),
      timers: design.timers.flatMap(({ screens }, timer) => (screens.includes(name) ? [timer] : [])),
      text: lowerText(lowering, text),
    })),
    events: design.events.map((name) => eventForm(design, name, lowering.pieces, timers)),
    eventIndex: lowering.events,
    cues: lowering.cues,
    popups: lowering.popups,
    values: lowering.values,
    hud: design.hud.map((item) => lowerHudItem(lowering, item)),
    lists: design.lists.map(({ name, of, events, length }) => ({
      name,
      counter: lowering.counters.get(of)!,
      events,
      length,
    })),
    draws: lowering.draws,
    lowerTerm: (expression) => lowering.term(expression),
  };
  return { ...form, counters: narrowBounds(form) };
}

/** How many there are of what has cells of its own. */
interface Counts {
  readonly counters: number;
  readonly timers: number;
  readonly pieces: number;
  /** Spawns of the level that has the most. */
  readonly spawns: number;
  /** Pieces of the longest course. */
  readonly courseLength: number;
  readonly clocks: number;
  readonly draws: number;
}

function layOut({ counters, timers, pieces, spawns, courseLength, clocks, draws }: Counts): Cells {
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
  if (written === 'next') return nextLevel;
  if (written === 'first') return 0;
  if (written !== undefined) return written - 1;
  return fresh >= spanIndex('run') ? 0 : sameLevel;
}
