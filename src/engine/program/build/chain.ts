import {
  add,
  and,
  assign,
  type Case,
  type Code,
  check,
  constant,
  declare,
  get,
  isAtLeast,
  isBelow,
  isEqual,
  isLess,
  isMore,
  type Label,
  type Local,
  label,
  leave,
  local,
  loop,
  minus,
  not,
  plus,
  push,
  repeat,
  select,
  set,
  tell,
  truth,
  type Value,
  when,
} from '../../compile/representation.js';
import { type Handler, mostChained, type RuleForm, sameLevel, type TransitionForm } from '../form.js';
import type { Build } from './build.js';
import { effects } from './effects.js';
import { duration, guard, term } from './expressions.js';
import { marksPassed, putBack, respawn } from './fresh.js';

/** The last steps before the limit are told to the host, which names the loop and throws past it. */
const nearLimit = mostChained - 20;

/** The variables of a chain: the event that is handled, or -1; the transition that is taken, or -1; and the steps so far. */
export interface Chain {
  readonly event: Local;
  readonly taken: Local;
  readonly steps: Local;
}

export const chainLocals = (): Chain => ({
  event: local('event'),
  taken: local('taken'),
  steps: local('steps'),
});

/**
 * Part 4 of the design: one event is handled to its end before the next begins.
 *
 * @param hears whether an event may be heard in it; false where the first is dealt with already and nothing pushes another
 */
export function handle(build: Build, chain: Chain, respawns?: Code, hears = true): Code {
  const { form, state } = build;
  const { event, taken, steps } = chain;
  const [events, settling] = [label('events'), label('settling')];
  const next = form.rules.length + form.transitions.length;
  const settles = loop(settling, [
    ...when(isAtLeast(get(taken), 0), takeTransition(build, chain, respawns ?? respawn(build))),
    ...select(state.screen, settle(build, chain, settling)),
    leave(settling),
  ]);
  if (!hears) return [settles];
  return [
    loop(events, [
      ...when(isAtLeast(get(event), 0), hear(build, chain, events)),
      settles,
      ...when(not({ op: 'pending' }), [leave(events)]),
      assign(event, { op: 'pop' }),
      ...step(steps, plus(constant(next), get(event))),
    ]),
    { op: 'rewind' },
  ];
}

/** Steps 1 and 2: the rules that hear the event, in file order, then the first transition that does. */
function hear(build: Build, chain: Chain, events: Label): Code {
  const cases = build.form.screens.map(({ handlers }, screen): Case => {
    const same = new Map<string, { of: number[]; body: Code }>();
    for (const [event, handler] of handlers) {
      const key = `${handler.rules}|${handler.transitions}`;
      const known = same.get(key);
      if (known !== undefined) known.of.push(event);
      else same.set(key, { of: [event], body: heard(build, chain, handler, [leave(events)]) });
    }
    return { of: [screen], body: select(get(chain.event), [...same.values()]) };
  });
  return select(build.state.screen, cases);
}

/** What one event sets off on one screen; `done` follows where nothing else can. */
export function heard(build: Build, { taken }: Chain, handler: Handler, done: Code): Code {
  const { form } = build;
  const rules = handler.rules.flatMap((rule) => hearingRule(build, rule));
  const transitions = handler.transitions.reduceRight(
    (otherwise: Code, transition) =>
      when(ready(build, form.transitions[transition]!), [assign(taken, transition)], otherwise),
    [],
  );
  return [...rules, ...transitions, ...(handler.isQuiet ? when(not({ op: 'pending' }), done) : [])];
}

/**
 * Step 3 on one screen: condition rules, each firing when its condition becomes true, until none does; then the first transition without a
 * `when` whose `if` holds.
 */
function settle(build: Build, { taken, steps }: Chain, settling: Label): Case[] {
  return build.form.screens.map(({ conditionRules, conditionTransitions }, screen) => {
    const [again, rules] = [local('again'), label('rules')];
    const fire = conditionRules.flatMap((rule) => conditionRule(build, rule, again, steps));
    const repeated =
      fire.length === 0
        ? []
        : [loop(rules, [declare(again, 0), ...fire, ...when(isEqual(get(again), 0), [leave(rules)])])];
    const transitions = conditionTransitions.flatMap((transition) =>
      when(ready(build, build.form.transitions[transition]!), [assign(taken, transition), repeat(settling)]),
    );
    return { of: [screen], body: [...repeated, ...transitions] };
  });
}

/** Whether all that a transition has but its `when` holds. */
export const ready = (build: Build, { wait, condition }: TransitionForm): Value =>
  guard(build, condition, wait === 0 ? truth(true) : isAtLeast(build.state.waited, duration(build, wait)));

function hearingRule(build: Build, index: number): Code {
  const rule = build.form.rules[index]!;
  const condition = guard(build, rule.condition, ...gates(build, index, rule));
  return when(and(condition, luck(rule)), fire(build, index, rule));
}

function conditionRule(build: Build, index: number, again: Local, steps: Local): Code {
  const rule = build.form.rules[index]!;
  const memory = build.state.memory(index);
  const open = and(...gates(build, index, rule));
  if (rule.passes !== undefined) {
    const reached = marksPassed(build, rule.passes);
    // A mark counts as a step whether or not chance lets the rule fire. While it is silent all marks are passed at once: there may be any
    // number of them.
    const fires = when(luck(rule), fire(build, index, rule));
    const pass = [add(memory, 1), ...step(steps, index), ...fires];
    return when(isMore(reached, memory), [assign(again, 1), ...when(open, pass, [set(memory, reached)])]);
  }
  const becomes = [
    set(memory, 1),
    ...when(and(open, luck(rule)), [assign(again, 1), ...step(steps, index), ...fire(build, index, rule)]),
  ];
  return when(term(build, rule.condition!), when(isEqual(memory, 0), becomes), [set(memory, 0)]);
}

/** What silences a rule whatever its condition: a rest, or having fired as often as it may. */
const gates = ({ state }: Build, index: number, { restCell, onceCell }: RuleForm): Value[] => [
  ...(restCell >= 0 ? [isAtLeast(state.live, state.rest(index))] : []),
  ...(onceCell >= 0 ? [isEqual(state.once(index), 0)] : []),
];

/** Asked last, so that a draw is made only where the rule would fire otherwise. */
const luck = ({ draw, threshold }: RuleForm): Value =>
  draw < 0 ? truth(true) : isBelow(constant(draw), threshold);

function fire(build: Build, index: number, rule: RuleForm): Code {
  const { state, listener } = build;
  return [
    ...(listener.rule?.(index) ?? []),
    ...(rule.restCell >= 0 ? [set(state.rest(index), plus(state.live, duration(build, rule.rest)))] : []),
    ...(rule.onceCell >= 0 ? [set(state.once(index), 1)] : []),
    ...effects(build, rule.effects, index),
  ];
}

/** One step more of a chain; near the limit whoever runs the program is told, so that it can name the loop. */
function step(steps: Local, source: Value | number): Code {
  return [
    assign(steps, plus(get(steps), 1)),
    ...when(isMore(get(steps), nearLimit), [tell('host.step', get(steps), source)]),
  ];
}

/** Inside a transition, in this order: its `do`, seeing the old values; the level; what is put back; its grace; the new screen; its event. */
function takeTransition(build: Build, { taken, steps }: Chain, respawns: Code): Code {
  const { form, state, listener } = build;
  const { transitions } = form;
  const [to, fresh, begins, grace] = [local('to'), local('fresh'), local('begins'), local('grace')];
  const cases = transitions.map((transition, index): Case => {
    const source = form.rules.length + index;
    const body = [
      ...effects(build, transition.effects, source),
      ...levelChange(build, transition, source),
      assign(to, transition.to),
      ...(transition.fresh >= 0 ? [assign(fresh, transition.fresh)] : []),
      ...(transition.respawns ? [assign(begins, 1)] : []),
      ...(typeof transition.grace === 'number' && transition.grace > 0
        ? [assign(grace, transition.grace)]
        : []),
    ];
    return { of: [index], body };
  });
  // Worked out once all else is put back.
  const graces = transitions.flatMap(({ grace: of }, index): Case[] =>
    typeof of === 'number' ? [] : [{ of: [index], body: [assign(grace, duration(build, of))] }],
  );
  const way = local('way');
  return [
    ...(graces.length === 0 ? [] : [declare(way, get(taken))]),
    declare(to, -1),
    declare(fresh, -1),
    declare(begins, 0),
    declare(grace, 0),
    ...step(steps, plus(constant(form.rules.length), get(taken))),
    ...(listener.transition?.(get(taken)) ?? []),
    ...select(get(taken), cases),
    assign(taken, -1),
    ...when(isAtLeast(get(fresh), 0), putBack(build, get(fresh))),
    ...when(isEqual(get(begins), 1), respawns),
    ...(graces.length === 0 ? [] : select(get(way), graces)),
    ...when(isMore(get(grace), 0), [set(state.graceEnds, plus(state.live, get(grace)))]),
    ...move(build, to),
  ];
}

function levelChange({ form, state }: Build, { level }: TransitionForm, source: number): Code {
  if (level === sameLevel) return [];
  if (level >= 0) return [set(state.level, level)];
  const isLast = isEqual(state.level, form.levels.length - 1);
  return [...(form.endless ? [] : check(not(isLast), 'noNextLevel', source)), add(state.level, 1)];
}

/** To a new screen, or back to the one that this was entered from, which goes on as it was left. */
function move({ form, state }: Build, to: Local): Code {
  const overlays = form.screens.flatMap(({ backCell }, screen) => (backCell < 0 ? [] : [screen]));
  const entered = form.screens.flatMap(({ enteredEvent }, screen): Case[] =>
    enteredEvent < 0 ? [] : [{ of: [screen], body: [push(enteredEvent)] }],
  );
  const remember = overlays.map((screen): Case => {
    const lasted = minus(state.now, state.entered);
    const body = [
      set(state.back(screen, 0), state.screen),
      set(state.back(screen, 1), lasted),
      set(state.back(screen, 2), state.waited),
    ];
    return { of: [screen], body };
  });
  const goBack = overlays.map((screen): Case => {
    const body = [
      set(state.entered, minus(state.now, state.back(screen, 1))),
      set(state.waited, state.back(screen, 2)),
      set(state.screen, state.back(screen, 0)),
    ];
    return { of: [screen], body };
  });
  const enter = [
    ...select(get(to), remember),
    set(state.screen, get(to)),
    set(state.entered, state.now),
    set(state.waited, 0),
    ...select(get(to), entered),
  ];
  return overlays.length === 0 ? enter : when(isLess(get(to), 0), select(state.screen, goBack), enter);
}
