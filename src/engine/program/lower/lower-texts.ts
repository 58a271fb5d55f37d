import type { Expression } from '../../../design/language/expression.js';
import type { ComputedInterval, Counter, HudItem, Interval, Template, Timer } from '../../../design/model.js';
import type { HudForm, TextForm } from '../form.js';
import type { Lowering } from './lowering.js';

const shownValue = (lowering: Lowering, expression: Expression | undefined): number =>
  expression === undefined ? -1 : lowering.shows(expression);

export const lowerText = (lowering: Lowering, template: Template): TextForm =>
  template.map((part) => {
    if (typeof part === 'string') return part;
    if (part.kind === 'levelName') return { levelName: true };
    const counter = part.kind === 'counter' ? lowering.counters.get(part.name)! : -1;
    return { value: shownValue(lowering, part), counter };
  });

export function lowerHudItem(lowering: Lowering, item: HudItem): HudForm {
  const { design } = lowering;
  const { show, condition, screens, as, at, width, tenths, input } = item;
  const counter = show === undefined ? -1 : (lowering.counters.get(show) ?? -1);
  const timer = show === undefined ? undefined : design.timers[lowering.timers.get(show) ?? -1];
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
    screens: screens.map((screen) => lowering.screens.get(screen)!),
    condition: shownValue(lowering, condition),
    text: lowerText(lowering, item.text),
    counter,
    value: shownValue(lowering, value),
    of: fullOf(lowering, design.counters[counter], timer),
  };
}

/** The most that something on the HUD can show. */
function fullOf(lowering: Lowering, counter: Counter | undefined, timer: Timer | undefined): HudForm['of'] {
  if (counter === undefined) return timer === undefined ? 0 : lengthOf(timer.interval);
  return typeof counter.max === 'number' ? counter.max : { value: lowering.shows(counter.max) };
}

/** Seconds that a timer runs at the most; a computed one is not shown as a part of anything. */
const lengthOf = (interval: Interval | ComputedInterval): number =>
  'most' in interval ? interval.most / 1000 : 0;
