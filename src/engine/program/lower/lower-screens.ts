import type { Design, Effect } from '../../../design/model.js';
import type { Place } from '../../../design/problems/problem.js';
import type {
  EffectForm,
  EventForm,
  Handler,
  RuleForm,
  ScreenForm,
  TimerForm,
  TransitionForm,
} from '../form.js';
import { readsPresence, visitTerm } from './lower-expression.js';
import type { Lowering } from './lowering.js';

export function eventForm(
  design: Design,
  name: string,
  pieceIndex: ReadonlyMap<string, number>,
  timers: readonly TimerForm[],
): EventForm {
  const [subject, what] = name.split('.') as [string, string];
  const isHeard = [...design.rules, ...design.transitions].some((each) => each.events.includes(name));
  const index = pieceIndex.get(subject) ?? -1;
  const timer = index >= 0 ? -1 : timers.findIndex((each) => each.name === subject);
  const [kind, presence] = ((): [EventForm['kind'], number] => {
    if (subject === 'input') return ['input', 0];
    if (index >= 0) {
      if (what === 'appeared') return ['appeared', 1];
      if (what === 'gone') return ['gone', -1];
      return ['outcome', design.pieces[index]!.ends.includes(what) ? -1 : 0];
    }
    if (timer >= 0) return ['timer', 0];
    return [design.screens.some((screen) => screen.name === subject) ? 'entered' : 'own', 0];
  })();
  const turnedAway = kind === 'outcome' && what === 'hit';
  // All of one shape, made at one place: what runs them looks into them at every event.
  return {
    name,
    kind,
    piece: index,
    presence,
    turnedAway,
    isHeard,
    timer,
    origin: originOf(design, name, kind),
  };
}

function originOf(design: Design, name: string, kind: EventForm['kind']): Place | undefined {
  const { rules, transitions } = design;
  if (kind === 'entered') return transitions.find(({ to }) => `${to}.entered` === name)?.place;
  if (kind !== 'own') return undefined;
  const emits = ({ effects }: { readonly effects: readonly Effect[] }): boolean =>
    effects.some((effect) => effect.kind === 'emit' && effect.name === name);
  return [...rules, ...transitions].find(emits)?.place;
}

export function screenForm(
  { design, events: eventIndex }: Lowering,
  index: number,
  backCell: number,
  rules: readonly RuleForm[],
  transitions: readonly TransitionForm[],
): Omit<ScreenForm, 'text' | 'timers'> {
  const screen = design.screens[index]!;
  const { name } = screen;
  const handlers = new Map<number, { rules: number[]; transitions: number[] }>();
  const handler = (event: string): { rules: number[]; transitions: number[] } => {
    const key = eventIndex.get(event)!;
    const known = handlers.get(key);
    if (known !== undefined) return known;
    const made = { rules: [], transitions: [] };
    handlers.set(key, made);
    return made;
  };
  const conditionRules: number[] = [];
  design.rules.forEach((rule, at) => {
    if (!rule.screens.includes(name)) return;
    if (rule.heard.length === 0) conditionRules.push(at);
    for (const event of rule.events) handler(event).rules.push(at);
  });
  const conditionTransitions: number[] = [];
  design.transitions.forEach((transition, at) => {
    if (transition.from !== name) return;
    if (transition.heard.length === 0) conditionTransitions.push(at);
    for (const event of transition.events) handler(event).transitions.push(at);
  });
  const own = transitions.filter(({ from }) => from === index).map(({ wait }) => wait);
  const waits = new Set(own.filter((wait) => typeof wait === 'number' && wait > 0) as number[]);
  const conditions = [
    ...conditionRules.map((at) => rules[at]!.condition),
    ...conditionTransitions.map((at) => transitions[at]!.condition),
  ];
  const watchesPresence = conditions.some(readsPresence);
  const watched = new Set(conditionRules.flatMap((at) => rules[at]!.passes?.counter ?? []));
  for (const condition of conditions) {
    if (condition === undefined) continue;
    visitTerm(condition, (part) => {
      if (part.op === 'counter') watched.add(part.counter);
    });
  }
  const isQuiet = (effect: EffectForm): boolean =>
    effect.op !== 'write' || effect.writes.every(({ counter }) => !watched.has(counter));
  const entered = `${name}.entered`;
  const isHeard = [...design.rules, ...design.transitions].some((each) => each.events.includes(entered));
  return {
    name,
    live: screen.live,
    ending: screen.ending !== undefined,
    handlers: new Map(
      [...handlers].map(([event, { rules: heard, transitions: ways }]): [number, Handler] => {
        const quiet =
          ways.length === 0 && !watchesPresence && heard.every((at) => rules[at]!.effects.every(isQuiet));
        return [event, { rules: heard, transitions: ways, isQuiet: quiet }];
      }),
    ),
    conditionRules,
    conditionTransitions,
    waits: [...waits].sort((a, b) => a - b),
    computedWaits: own.filter((wait) => typeof wait === 'object'),
    backCell,
    watchesPresence,
    enteredEvent: isHeard ? eventIndex.get(entered)! : -1,
  };
}
