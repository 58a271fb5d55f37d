import { showExpression } from '../design/expression-parts.js';
import type { Design } from '../design/model.js';
import { type Finding, finding } from './finding.js';
import { rangeOf } from './ranges.js';

/** Findings about what is shown. */
export function aboutHud(design: Design): Finding[] {
  const findings: Finding[] = [];
  for (const { show, as, width, text, condition, screens, place } of design.hud) {
    const counter = design.counters.find(({ name }) => name === show);
    const timer = design.timers.find(({ name }) => name === show);
    const isBounded = counter !== undefined && counter.max < 2 ** 53 / 10 ** counter.places;
    if (as === 'digits' && isBounded && width > 1 && counter.max >= 10 ** width)
      findings.push(finding('too-wide', { counter: counter.name, width, max: counter.max }, place));
    if (condition !== undefined && rangeOf(condition, design)[1] === 0) {
      const what = show ?? `"${text.map((part) => (typeof part === 'string' ? part : '…')).join('')}"`;
      findings.push(finding('never-shown', { what, condition: showExpression(condition) }, place));
    }
    const still = timer === undefined ? [] : screens.filter((screen) => !timer.screens.includes(screen));
    if (timer !== undefined && still.length > 0 && still.length === screens.length)
      findings.push(finding('clock-stands', { timer: timer.name, screen: still.join(', ') }, place));
  }
  return findings;
}
