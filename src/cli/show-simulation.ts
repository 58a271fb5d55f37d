import type { Distribution } from '../balance/distribution.js';
import type { PlayerSummary, SimulationSummary } from '../balance/summary.js';
import type { TargetResult } from '../balance/targets.js';
import type { Transition } from '../design/model.js';
import { showTrigger } from '../design/trigger.js';
import { columns, heading, number, paint, percent, plain, type Terminal } from './terminal.js';

/** A simulation for people to read: the players side by side, then the targets. */
export function showSimulation(
  terminal: Terminal,
  transitions: readonly Transition[],
  summary: SimulationSummary,
  world?: string,
): string {
  const names = Object.keys(summary.players);
  const players = Object.values(summary.players);
  const [first] = players as [PlayerSummary];
  const row = (label: string, part: string, cell: (player: PlayerSummary) => string): string[] => [
    label,
    part,
    ...players.map(cell),
  ];
  const spread = (
    label: string,
    unit: string,
    of: (player: PlayerSummary) => Distribution | null,
  ): string[][] => {
    const cell = (pick: (distribution: Distribution) => string) => (player: PlayerSummary) => {
      const distribution = of(player);
      return distribution === null ? '–' : pick(distribution);
    };
    return [
      row(
        label,
        'median',
        cell(({ p50 }) => number(p50) + unit),
      ),
      row(
        '',
        '10 % – 90 %',
        cell(({ p10, p90 }) => `${number(p10)} – ${number(p90)}${unit}`),
      ),
      row(
        '',
        'mean ± sd',
        cell(({ mean, sd }) => `${number(mean)} ± ${number(sd)}${unit}`),
      ),
    ];
  };
  const shares = (
    label: string,
    keys: readonly string[],
    share: (player: PlayerSummary, key: string) => number,
  ): string[][] =>
    keys.map((key, index) =>
      row(index === 0 ? label : '', plain(key), (player) => percent(share(player, key))),
    );
  const all = (player: PlayerSummary): number =>
    player.rules.reduce((sum, rule) => sum + Math.max(0, rule.points), 0);
  const scoring = first.rules.filter((rule) =>
    players.some((player) => player.rules[rule.index]!.points !== 0),
  );
  const titles = ['', '', ...names.map((name) => paint(terminal, 'bold', plain(name)))];
  const rows = [
    titles,
    row('runs played', '', (player) => number(player.runs)),
    ...spread('score', '', (player) => player.score),
    ...spread('run length', ' s', (player) => player.runSeconds),
    ...shares('runs end on', Object.keys(first.endings), (player, key) => player.endings[key]!),
    ...(players.some((player) => player.abandoned > 0)
      ? shares('', ['left before'], (player) => player.abandoned)
      : []),
    ...shares(
      'runs reach',
      Object.keys(first.levels).map((level) => `level ${level}`),
      (player, key) => player.levels[key.slice(6)]!,
    ),
    ...scoring.map((rule, index) =>
      row(index === 0 ? 'points from' : '', plain(rule.name), (player) => {
        const { points } = player.rules[rule.index]!;
        return all(player) === 0 ? '–' : points < 0 ? number(points) : percent(points / all(player));
      }),
    ),
  ];
  const right = players.map((_, index) => index + 2);
  const taken = first.transitions.map(({ from, to }, at) => [
    `${from} -> ${to}`,
    showTrigger(transitions[at]!),
    ...players.map((player) => number(player.transitions[at]!.count)),
  ]);
  return [
    `${paint(terminal, 'bold', plain(summary.design))}  ${number(first.sessions)} sessions of each player, seed ${summary.seed}${world === undefined ? '' : `, in the world ${plain(world)}`}\n\n`,
    columns(rows, right),
    ...(taken.length === 0
      ? []
      : [heading(terminal, 'Transitions taken'), columns([titles, ...taken], right)]),
    ...(summary.targets.length === 0
      ? []
      : [
          heading(terminal, 'Targets, with 95 % intervals by session'),
          columns(summary.targets.map((target) => targetRow(terminal, target))),
          '\n',
          targetSummary(terminal, summary.targets),
          '\n',
        ]),
  ].join('');
}

const verdictStyle = { met: 'green', missed: 'redBright', 'not yet clear': 'yellow' } as const;

function targetRow(terminal: Terminal, target: TargetResult): string[] {
  const isShare = target.measure !== 'score';
  const written = (value: number | null): string =>
    value === null ? '–' : isShare ? percent(value) : number(value);
  const { from, to } = target;
  const wanted =
    from === null
      ? `at most ${written(to)}`
      : to === null
        ? `at least ${written(from)}`
        : `${written(from)} to ${written(to)}`;
  const found =
    target.value === null
      ? 'nothing to measure'
      : `${written(target.value)} [${written(target.low)}, ${written(target.high)}]`;
  return [
    paint(terminal, verdictStyle[target.verdict], target.verdict),
    `${plain(target.what)} of ${target.of}`,
    found,
    `wanted ${wanted}`,
  ];
}

function targetSummary(terminal: Terminal, targets: readonly TargetResult[]): string {
  const missed = targets.filter((target) => target.verdict === 'missed').length;
  const unclear = targets.filter((target) => target.verdict === 'not yet clear').length;
  const met = targets.length - missed - unclear;
  const verdict =
    missed > 0 ? paint(terminal, 'redBright', '✗ falls short') : paint(terminal, 'green', '✓ passed');
  const rest = unclear === 0 ? '' : ` · ${unclear} not yet clear: more sessions would tell`;
  return `${verdict}  ${met} of ${targets.length} targets met${missed === 0 ? '' : ` · ${missed} missed`}${rest}`;
}
