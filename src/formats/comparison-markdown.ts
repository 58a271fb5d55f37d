import type { Comparison } from '../balance/compare.js';
import { plain, table } from './markdown.js';
import { inUnit, number, withInterval } from './written.js';

/** A comparison in Markdown, for a pull request: what got worse first, then what changed. */
export function comparisonToMarkdown(
  [before, after]: readonly [string, string],
  { changes, differences, targets, tests, flow, findings, worse, sessions, seed }: Comparison,
): string {
  const real = differences.filter(({ isReal }) => isReal);
  const list = (lines: readonly string[]): string => lines.map((line) => `- ${plain(line)}`).join('\n');
  const section = (title: string, body: string, isThere: boolean): string[] =>
    isThere ? [`### ${title}`, body] : [];
  const moved = targets.filter((target) => target.before !== target.after);
  const proofs = [
    ...tests.map((test) => `test "${test.name}": ${test.before} -> ${test.after}`),
    ...flow.map((way) => `${way.way}: ${way.before} -> ${way.after}`),
    ...findings.gone.map((finding) => `gone: ${finding}`),
    ...findings.new.map((finding) => `new: ${finding}`),
  ];
  return `${[
    `## ${plain(before)} -> ${plain(after)}`,
    worse.length === 0
      ? '✓ nothing got worse'
      : `✗ worse:\n\n${list(worse.map(({ kind, what }) => `${kind}: ${what}`))}`,
    ...section('Changed in the design', list(changes), changes.length > 0),
    ...section(
      'Changed in play',
      table(
        ['player', 'what', 'before', 'after', 'change'],
        real.map(({ player, what, unit, before: was, after: is, change }) => [
          player,
          what,
          inUnit(was, unit),
          inUnit(is, unit),
          `${change.value > 0 ? '+' : ''}${withInterval(change.value, change.low, change.high, unit)}`,
        ]),
      ),
      real.length > 0,
    ),
    ...section(
      'Targets',
      table(
        ['target', 'before', 'after'],
        moved.map((target) => [
          `${target.what} of ${target.of}`,
          target.before ?? 'no target',
          target.after ?? 'no target',
        ]),
      ),
      moved.length > 0,
    ),
    ...section('Tests, flow and findings', list(proofs), proofs.length > 0),
    `${number(sessions)} sessions of each player, seed ${seed}, paired; all intervals hold at once in 95 of 100 comparisons.`,
  ].join('\n\n')}\n`;
}
