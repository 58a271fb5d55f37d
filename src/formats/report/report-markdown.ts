import type { Report } from '../../balance/report.js';
import { formatPlace } from '../../design/problems/problem.js';
import { openFindings } from '../../inspect/finding.js';
import { plain, table } from '../markdown.js';
import { interval, inUnit, number, percent, wanted } from '../written.js';

/** A report in Markdown, for a pull request: verdicts, players, what stands out, findings. */
export function reportToMarkdown({ design, check, simulation, summary, observations }: Report): string {
  const players = Object.entries(summary.players);
  const { transitions } = check.exploration;
  const reached = transitions.filter(({ verdict }) => verdict === 'reached').length;
  const tests = check.tests.filter(({ passed }) => passed).length;
  const open = openFindings(check.findings);
  const endings = Object.keys(players[0]?.[1].endings ?? {});
  const parts = [
    `## ${plain(design.title)}: how it plays`,
    `${reached} of ${transitions.length} transitions reachable · ${tests} of ${check.tests.length} tests pass · ${open.length} findings · ${number(simulation.sessions)} sessions of each player, seed ${simulation.seed}`,
  ];
  if (summary.targets.length > 0)
    parts.push(
      '### Targets',
      table(
        ['verdict', 'target', 'found', 'interval', 'wanted'],
        summary.targets.map((target) => [
          target.verdict,
          `${target.what} of ${target.of}`,
          inUnit(target.value, target.unit),
          interval(target.low, target.high, target.unit),
          wanted(target),
        ]),
      ),
    );
  parts.push(
    '### Players',
    table(
      ['player', 'median score', 'median run', ...endings.map((screen) => `end on ${screen}`)],
      players.map(([name, player]) => [
        name,
        inUnit(player.score?.p50, 'points'),
        inUnit(player.runSeconds?.p50, 'seconds'),
        ...endings.map((screen) => percent(player.endings[screen]!.value)),
      ]),
    ),
  );
  if (observations.length > 0)
    parts.push(
      '### What stands out',
      observations
        .map(
          ({ player, what, remedy }) =>
            `- ${plain(`${player === undefined ? '' : `${player}: `}${what} ${remedy}`)}`,
        )
        .join('\n'),
    );
  if (open.length > 0)
    parts.push(
      '### Findings',
      open
        .map(
          ({ severity, code, message, place }) =>
            `- ${severity} ${code}, ${plain(formatPlace(place))}: ${plain(message)}`,
        )
        .join('\n'),
    );
  return `${parts.join('\n\n')}\n`;
}
