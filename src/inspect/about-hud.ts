import { showExpression } from '../design/expression-parts.js';
import type { Design } from '../design/model.js';
import { rangeIn } from '../explore/ranges.js';
import { type Finding, finding } from './finding.js';
import type { Uses } from './uses.js';

/** Findings about what is shown. */
export function aboutHud(design: Design, uses: Uses): Finding[] {
  const findings: Finding[] = [];
  for (const { show, as, width, text, condition, screens, place } of design.hud) {
    const counter = design.counters.find(({ name }) => name === show);
    const timer = design.timers.find(({ name }) => name === show);
    const widest = counter === undefined || as !== 'digits' ? 0 : widestOf(design, counter, uses);
    if (counter !== undefined && widest >= 10 ** width)
      findings.push(finding('too-wide', { counter: counter.name, width, max: widest }, place));
    if (condition !== undefined && rangeIn(design, condition)[1] === 0) {
      const what = show ?? `"${text.map((part) => (typeof part === 'string' ? part : '…')).join('')}"`;
      findings.push(finding('never-shown', { what, condition: showExpression(condition) }, place));
    }
    const still = timer === undefined ? [] : screens.filter((screen) => !timer.screens.includes(screen));
    if (timer !== undefined && still.length > 0 && still.length === screens.length)
      findings.push(finding('clock-stands', { timer: timer.name, screen: still.join(', ') }, place));
  }
  return findings;
}

/** The largest value that is known of a counter: its max, or without one the most that a single write adds. */
function widestOf(design: Design, counter: Design['counters'][0], { writes }: Uses): number {
  if (counter.max < 2 ** 53 / 10 ** counter.places) return counter.max;
  const amounts = writes
    .filter((write) => write.counter === counter.name && write.kind !== 'pay')
    .map(({ amount }) => rangeIn(design, amount)[1]);
  return Math.max(0, ...amounts.filter((most) => most < 2 ** 53));
}
