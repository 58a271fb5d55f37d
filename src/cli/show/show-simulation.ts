import type { Distribution } from '../../balance/statistics/distribution.js';
import type { Estimate } from '../../balance/statistics/intervals.js';
import type { PlayerSummary, SimulationSummary } from '../../balance/summary.js';
import type { TargetResult } from '../../balance/targets.js';
import type { Unit } from '../../design/measures.js';
import {
  inUnit,
  number,
  percent,
  skillWords,
  someOf,
  wanted,
  winWords,
  withInterval,
  withReach,
} from '../../formats/written.js';
import { columns, heading, labelledRows, none, paint, plain, type Terminal, wrap } from '../terminal.js';

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
    paint(
      terminal,
      'dim',
      `± and [ ] are 95 % intervals; ≤ and ≥ their far end, where nearly none or nearly all did.\n${climbNote(players)}\n`,
    ),
    columns(rows, right),
    ...(taken.length === 0
      ? []
      : [heading(terminal, 'Transitions taken'), columns([titles, ...taken], right)]),
    ...observations(terminal, summary),
    ...targetTable(terminal, summary.targets, {
      title: 'Targets, with intervals that all hold at once in 95 of 100 simulations',
      help: 'more sessions would tell',
      row: (target) => targetRow(terminal, target),
    }),
  ].join('');
}

/** Before the share that fails at a level, where it is surely another than at the level before. */
const climbMarks: { readonly [climb: string]: string } = { jumps: '▲ ', drops: '▼ ' };

const climbNote = (players: readonly PlayerSummary[]): string =>
  players.some(({ levels }) => levels.some(({ climb }) => climb !== null && climb in climbMarks))
    ? '▲ is much harder than the level before, ▼ easier.\n'
    : '';

type Cell = (player: PlayerSummary) => string;

function mainRows(players: readonly PlayerSummary[]): string[][] {
  const [first] = players as [PlayerSummary];
  const levels = longest(players);
  const row = (label: string, part: string, cell: Cell): string[] => [label, part, ...players.map(cell)];
  const rows = (label: string, parts: readonly (readonly [string, Cell])[]): string[][] =>
    labelledRows(players, label, parts);
  const spread = (
    label: string,
    unit: Unit,
    of: (player: PlayerSummary) => Distribution | null,
  ): string[][] =>
    rows(label, [
      medianRow(unit, of),
      ['10 % – 90 %', told(of, ({ p10, p90 }) => `${number(p10)} – ${inUnit(p90, unit)}`)],
      ['mean', told(of, ({ mean, intervals }) => reachOf(mean, intervals.mean, unit))],
    ]);
  const median = (
    label: string,
    unit: Unit,
    of: (player: PlayerSummary) => Distribution | null,
  ): string[][] => rows(label, [medianRow(unit, of)]);
  /** Of something that does not come in every run. */
  const seldom = (label: string, of: (player: PlayerSummary) => Distribution | null): string[][] =>
    rows(label, [
      medianRow('seconds', of),
      ...(players.some((player) => (of(player)?.runs ?? 0) < player.runs)
        ? [
            [
              'comes in',
              (player: PlayerSummary) => `${percent((of(player)?.runs ?? 0) / player.runs)} of runs`,
            ] as const,
          ]
        : []),
    ]);
  const scoring = first.rules.filter((rule) =>
    players.some((player) => player.rules[rule.index]!.points !== 0),
  );
  return [
    row('runs played', '', (player) => number(player.runs)),
    ...spread('score', 'points', (player) => player.score),
    ...spread('run length', 'seconds', (player) => player.runSeconds),
    ...median('session length', 'seconds', (player) => player.sessionSeconds),
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
          return cause === undefined ? none : reach(cause.share);
        },
      ]),
    ),
    ...rows(
      'runs reach',
      levels
        .filter(({ level }) => players.some(({ levels }) => levels[level - 1]?.reached.value !== 1))
        .map(({ level }) => [`level ${level}`, shareCell(({ levels }) => levels[level - 1]?.reached)]),
    ),
    // Of a single level, that is what runs end on.
    ...rows(
      'of these fail',
      (levels.length < 2 || !players.some((player) => player.levels.some(({ fails }) => fails !== null))
        ? []
        : levels
      ).map(({ level }) => [
        `level ${level}`,
        (player) => {
          const found = player.levels[level - 1];
          if (found?.fails == null) return none;
          return `${climbMarks[found.climb ?? 'alike'] ?? ''}${reach(found.fails)}`;
        },
      ]),
    ),
    ...(players.some(({ levels }) => levels.some(({ tries }) => tries !== null && tries.value > 1))
      ? rows(
          'tries in a run',
          levels.map(({ level }) => [
            `level ${level}`,
            (player) => {
              const tries = player.levels[level - 1]?.tries;
              return tries == null ? none : withReach(tries.value, tries.low, tries.high, 'count');
            },
          ]),
        )
      : []),
    ...median('lives left', 'count', (player) => player.livesLeft),
    // Without a score there is no point.
    ...(players.some(({ score }) => score !== null)
      ? seldom('first point', (player) => player.firstPoint)
      : []),
    // Without lives none are lost.
    ...(players.some(({ livesLeft }) => livesLeft !== null)
      ? seldom('first life lost', (player) => player.firstLoss)
      : []),
    ...median('longest dry spell', 'seconds', (player) => player.drySpell),
    ...median('longest streak', 'count', (player) => player.streak),
    ...rows(
      'points from',
      scoring.map((rule) => [
        plain(rule.name),
        (player) => {
          const { points, share } = player.rules[rule.index]!;
          if (points < 0 && player.runs > 0) return `${number(points / player.runs)} a run`;
          return share === null ? none : reach(share);
        },
      ]),
    ),
    ...rows(
      'sits at',
      first.bounds
        .filter(({ counter, bound }) =>
          players.some((player) => (boundOf(player, counter, bound)?.share.value ?? 0) >= leastHeld),
        )
        .map(({ counter, bound, value }) => [
          `${plain(counter)} ${number(value)}`,
          (player) => {
            const found = boundOf(player, counter, bound);
            return found === undefined ? none : reach(found.share);
          },
        ]),
    ),
  ];
}

/** A counter that sits at a bound for a smaller share of play is left out. */
const leastHeld = 0.05;

const boundOf = (
  { bounds }: PlayerSummary,
  counter: string,
  bound: string,
): PlayerSummary['bounds'][0] | undefined =>
  bounds.find((each) => each.counter === counter && each.bound === bound);

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
    return found === undefined ? none : reach(found);
  };

const medianRow = (
  unit: Unit,
  of: (player: PlayerSummary) => Distribution | null,
): readonly [string, Cell] => ['median', told(of, ({ p50, intervals }) => reachOf(p50, intervals.p50, unit))];

const reachOf = (value: number, interval: readonly [number, number] | null, unit: Unit): string =>
  interval === null ? inUnit(value, unit) : withReach(value, ...interval, unit);

const reach = ({ value, low, high }: Estimate): string => withReach(value, low, high, 'share');

/** What the players tell of each other, and what never happened. */
function observations(terminal: Terminal, { players, skill, wins }: SimulationSummary): string[] {
  const lines: string[] = [];
  if (skill !== null) lines.push(`${skillWords(skill)}.`);
  for (const win of wins) lines.push(`${winWords(win)}.`);
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

interface TargetWords {
  readonly title: string;
  /** What makes a target clear that is not. */
  readonly help: string;
  readonly row: (target: TargetResult) => string[];
}

export function targetTable(
  terminal: Terminal,
  targets: readonly TargetResult[],
  { title, help, row }: TargetWords,
): string[] {
  if (targets.length === 0) return [];
  return [
    heading(terminal, title),
    columns(targets.map(row)),
    '\n',
    targetSummary(terminal, targets, help),
    '\n',
  ];
}

export function targetRow(terminal: Terminal, target: TargetResult): string[] {
  const { unit } = target;
  const found =
    target.value === null ? 'nothing to measure' : withInterval(target.value, target.low, target.high, unit);
  return [
    paint(terminal, verdictStyle[target.verdict], target.verdict),
    `${plain(target.what)} of ${target.of}`,
    found,
    `wanted ${wanted(target)}`,
  ];
}

function targetSummary(terminal: Terminal, targets: readonly TargetResult[], help: string): string {
  const missed = targets.filter((target) => target.verdict === 'missed').length;
  const unclear = targets.filter((target) => target.verdict === 'not yet clear').length;
  const met = targets.length - missed - unclear;
  const verdict =
    missed > 0
      ? paint(terminal, 'redBright', '✗ falls short')
      : met === 0
        ? paint(terminal, 'yellow', '? not yet clear')
        : paint(terminal, 'green', '✓ passed');
  const rest = unclear === 0 ? '' : ` · ${unclear} not yet clear: ${help}`;
  return `${verdict}  ${someOf(met, targets.length, 'target')} met${missed === 0 ? '' : ` · ${missed} missed`}${rest}`;
}
