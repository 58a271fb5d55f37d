import type { Distribution } from '../../balance/statistics/distribution.js';
import type { Estimate } from '../../balance/statistics/intervals.js';
import type { PlayerSummary, SimulationSummary } from '../../balance/summary.js';
import type { TargetResult } from '../../balance/targets.js';
import { inUnit, number, percent, wanted } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal, wrap } from '../terminal.js';

/** A simulation for people to read: the players side by side, what they tell of each other, then the targets. */
export function showSimulation(terminal: Terminal, summary: SimulationSummary, world?: string): string {
  const names = Object.keys(summary.players);
  const players = Object.values(summary.players);
  const [first] = players as [PlayerSummary];
  const right = players.map((_, index) => index + 2);
  const titles = ['', '', ...names.map((name) => paint(terminal, 'bold', plain(name)))];
  const rows = [titles, ...mainRows(players)];
  const taken = first.transitions.map(({ from, to, trigger }, at) => [
    `${from} -> ${to}`,
    plain(trigger),
    ...players.map((player) => number(player.transitions[at]!.count)),
  ]);
  const where = world === undefined ? '' : `, in the world ${plain(world)}`;
  return [
    `${paint(terminal, 'bold', plain(summary.design))}  ${number(first.sessions)} sessions of each player, seed ${summary.seed}${where}\n`,
    paint(terminal, 'dim', '± and [ ] are 95 % intervals, by session\n\n'),
    columns(rows, right),
    ...(taken.length === 0
      ? []
      : [heading(terminal, 'Transitions taken'), columns([titles, ...taken], right)]),
    ...observations(terminal, summary),
    ...targetRows(terminal, summary.targets),
  ].join('');
}

type Cell = (player: PlayerSummary) => string;

function mainRows(players: readonly PlayerSummary[]): string[][] {
  const [first] = players as [PlayerSummary];
  const row = (label: string, part: string, cell: Cell): string[] => [label, part, ...players.map(cell)];
  /** A list of rows under one label, where any player has something to tell. */
  const rows = (label: string, parts: readonly (readonly [string, Cell])[]): string[][] =>
    parts
      .map(([part, cell]) => [part, players.map(cell)] as const)
      .filter(([, cells]) => cells.some((cell) => cell !== none))
      .map(([part, cells], index) => [index === 0 ? label : '', part, ...cells]);
  const spread = (
    label: string,
    unit: string,
    of: (player: PlayerSummary) => Distribution | null,
  ): string[][] =>
    rows(label, [
      ['median', told(of, ({ p50, intervals }) => withReach(p50, intervals.p50, unit))],
      ['10 % – 90 %', told(of, ({ p10, p90 }) => `${number(p10)} – ${number(p90)}${unit}`)],
      ['mean', told(of, ({ mean, intervals }) => withReach(mean, intervals.mean, unit))],
    ]);
  const median = (
    label: string,
    unit: string,
    of: (player: PlayerSummary) => Distribution | null,
  ): string[][] =>
    rows(label, [['median', told(of, ({ p50, intervals }) => withReach(p50, intervals.p50, unit))]]);
  const all = (player: PlayerSummary): number =>
    player.rules.reduce((sum, rule) => sum + Math.max(0, rule.points), 0);
  const scoring = first.rules.filter((rule) =>
    players.some((player) => player.rules[rule.index]!.points !== 0),
  );
  return [
    row('runs played', '', (player) => number(player.runs)),
    ...spread('score', '', (player) => player.score),
    ...spread('run length', ' s', (player) => player.runSeconds),
    ...median('session length', ' s', (player) => player.sessionSeconds),
    ...rows('runs end on', [
      ...Object.keys(first.endings).map(
        (screen) => [plain(screen), shareCell(({ endings }) => endings[screen]!)] as const,
      ),
      ...(players.some(({ abandoned }) => abandoned.value > 0)
        ? [['left before', shareCell(({ abandoned }) => abandoned)] as const]
        : []),
    ]),
    ...rows(
      'because',
      first.transitions.map(({ index, to, trigger }) => [
        `${to}: ${plain(trigger)}`,
        (player) => {
          const cause = player.causes.find((each) => each.index === index);
          return cause === undefined ? none : percent(cause.share.value);
        },
      ]),
    ),
    ...rows(
      'runs reach',
      longest(players).map(({ level }) => [
        `level ${level}`,
        shareCell(({ levels }) => levels[level - 1]?.reached),
      ]),
    ),
    ...rows(
      'of these fail',
      longest(players).map(({ level }) => [
        `level ${level}`,
        (player) => {
          const found = player.levels[level - 1];
          if (found?.fails == null) return none;
          const climb = found.climb === 'drops' || found.climb === 'jumps' ? `${found.climb} to ` : '';
          return `${climb}${percent(found.fails.value)}`;
        },
      ]),
    ),
    ...median('lives left', '', (player) => player.livesLeft),
    ...median('first point', ' s', (player) => player.firstPoint),
    ...median('first life lost', ' s', (player) => player.firstLoss),
    ...median('longest dry spell', ' s', (player) => player.drySpell),
    ...median('longest streak', '', (player) => player.streak),
    ...rows(
      'points from',
      scoring.map((rule) => [
        plain(rule.name),
        (player) => {
          const { points } = player.rules[rule.index]!;
          return all(player) === 0 ? none : points < 0 ? number(points) : percent(points / all(player));
        },
      ]),
    ),
    ...rows(
      'sits at',
      first.bounds
        .filter(({ counter, bound }) =>
          players.some((player) => boundShare(player, counter, bound) >= leastHeld),
        )
        .map(({ counter, bound, value }) => [
          `${plain(counter)} ${number(value)}`,
          (player) => percent(boundShare(player, counter, bound)),
        ]),
    ),
  ];
}

const none = '–';
/** A counter that sits at a bound for less of the play is not told. */
const leastHeld = 0.05;

const boundShare = ({ bounds }: PlayerSummary, counter: string, bound: string): number =>
  bounds.find((each) => each.counter === counter && each.bound === bound)?.share.value ?? 0;

const longest = (players: readonly PlayerSummary[]): PlayerSummary['levels'] =>
  players.map(({ levels }) => levels).reduce((most, each) => (each.length > most.length ? each : most));

const told =
  (of: (player: PlayerSummary) => Distribution | null, cell: (found: Distribution) => string): Cell =>
  (player) => {
    const found = of(player);
    return found === null ? none : cell(found);
  };

const shareCell =
  (of: (player: PlayerSummary) => Estimate | undefined): Cell =>
  (player) => {
    const found = of(player);
    return found === undefined ? none : percent(found.value);
  };

/** A value with how far the true one may be from it. */
function withReach(value: number, interval: readonly [number, number] | null, unit: string): string {
  if (interval === null) return `${number(value)}${unit}`;
  const reach = Math.max(value - interval[0], interval[1] - value);
  return `${number(value)} ± ${number(reach)}${unit}`;
}

/** What the players tell of each other, and what never happened. */
function observations(terminal: Terminal, { players, skill, wins }: SimulationSummary): string[] {
  const lines: string[] = [];
  if (skill !== null)
    lines.push(
      `Of what makes scores differ, ${percent(skill.value)} is skill [${percent(skill.low)}, ${percent(skill.high)}]; the rest is luck.`,
    );
  for (const { of, over, chance } of wins)
    lines.push(
      `A run of ${of} scores more than one of ${over} with chance ${percent(chance.value)} [${percent(chance.low)}, ${percent(chance.high)}].`,
    );
  const all = Object.values(players);
  const unseen = (pick: (player: PlayerSummary) => readonly string[]): string[] =>
    pick(all[0]!).filter((name) => all.every((player) => pick(player).includes(name)));
  const never = [
    ...unseen(({ unseen: { rules } }) => rules).map((name) => `rule "${name}"`),
    ...unseen(({ unseen: { transitions } }) => transitions),
  ];
  if (never.length > 0)
    lines.push(
      `Not seen in any session: ${never.join(', ')}; of one player, each comes in at most ${percent(all[0]!.unseen.atMost)} of sessions.`,
    );
  if (lines.length === 0) return [];
  return ['\n', ...lines.map((line) => `${wrap(plain(line), terminal.width, '  ')}\n`)];
}

const verdictStyle = { met: 'green', missed: 'redBright', 'not yet clear': 'yellow' } as const;

function targetRows(terminal: Terminal, targets: readonly TargetResult[]): string[] {
  if (targets.length === 0) return [];
  return [
    heading(terminal, 'Targets, with intervals that all hold at once in 95 of 100 simulations'),
    columns(targets.map((target) => targetRow(terminal, target))),
    '\n',
    targetSummary(terminal, targets),
    '\n',
  ];
}

export function targetRow(terminal: Terminal, target: TargetResult): string[] {
  const { unit } = target;
  const found =
    target.value === null
      ? 'nothing to measure'
      : `${inUnit(target.value, unit)} [${inUnit(target.low, unit)}, ${inUnit(target.high, unit)}]`;
  return [
    paint(terminal, verdictStyle[target.verdict], target.verdict),
    `${plain(target.what)} of ${target.of}`,
    found,
    `wanted ${wanted(target)}`,
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
