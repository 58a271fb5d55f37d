import type { TargetResult } from '../../balance/targets.js';
import type { Unit } from '../../design/measures.js';
import type { Design } from '../../design/model.js';
import type { BestPlay } from '../../explore/exact/best-play.js';
import type { Slope } from '../../explore/exact/slopes.js';
import type { Bounds, Solved, SolvedSpread } from '../../explore/exact/solved.js';
import { number } from '../../formats/written.js';
import { endsByFailing } from '../../measure/failing.js';
import { columns, heading, labelledRows, none, paint, plain, type Terminal, wrap } from '../terminal.js';
import { targetRow, targetTable } from './show-simulation.js';

/** All that was worked out of one player. */
export interface SolvedPlayer {
  readonly solved: Solved;
  /** One run with the best choices, and one as the player plays it; undefined where that takes too many turns. */
  readonly best: { readonly play: BestPlay; readonly own: number } | undefined;
  readonly slopes: readonly Slope[];
}

const digits = new Intl.NumberFormat('en', { maximumFractionDigits: 4 });
const signed = new Intl.NumberFormat('en', { maximumFractionDigits: 4, signDisplay: 'exceptZero' });

/** What was worked out, for people to read: the players side by side, their best choices, what the dials do, then the targets. */
export function showSolved(
  terminal: Terminal,
  design: Design,
  players: readonly SolvedPlayer[],
  targets: readonly TargetResult[],
): string {
  const names = players.map(({ solved }) => solved.player);
  const right = names.map((_, index) => index + 2);
  const titles = ['', '', ...names.map((name) => paint(terminal, 'bold', plain(name)))];
  const open = players.filter(({ solved }) => solved.open > 0);
  return [
    `${paint(terminal, 'bold', plain(design.title))}  ${open.length === 0 ? 'exact figures, nothing sampled' : 'bounds, nothing sampled'}\n\n`,
    columns(
      [
        titles,
        ...mainRows(
          design,
          players.map(({ solved }) => solved),
        ),
      ],
      right,
    ),
    ...open.map(
      ({ solved }) => `\n${paint(terminal, 'yellow', wrap(openWords(solved), terminal.width, '  '))}\n`,
    ),
    ...bestRows(terminal, players),
    ...slopeRows(terminal, players),
    ...targetTable(terminal, targets, {
      title: 'Targets',
      help: 'not calculated exactly; simulate without --exact',
      row: (target) => solvedTarget(terminal, target),
    }),
  ].join('');
}

const openWords = ({ player, open, turns }: Solved): string =>
  `${plain(player)}: ${share(open)} of the sessions were still running after ${number(turns)} turns, so figures are bounds. Raise --turns, make intervals fixed or the grid coarser, or simulate without --exact.`;

function mainRows(design: Design, players: readonly Solved[]): string[][] {
  const [first] = players as [Solved];
  const rows = (
    label: string,
    parts: readonly (readonly [string, (player: Solved) => string])[],
  ): string[][] => labelledRows(players, label, parts);
  const spread = (
    label: string,
    unit: Unit,
    last: string,
    of: (player: Solved) => SolvedSpread | null,
  ): string[][] => {
    const cell = (pick: (found: SolvedSpread) => string) => (player: Solved) => {
      const found = of(player);
      return found === null ? none : pick(found);
    };
    return rows(label, [
      ['mean', cell(({ mean }) => between(mean, unit))],
      ['standard deviation', cell(({ sd }) => (sd === null ? none : written(sd, unit)))],
      ['median', cell(({ p50 }) => between(p50, unit))],
      ['10 % – 90 %', cell(({ p10, p90 }) => `${between(p10, unit)} – ${between(p90, unit)}`)],
      [last, cell(({ values, sd }) => (sd === null ? none : lastOf(values, unit)))],
    ]);
  };
  return [
    ...rows('runs of a session', [['', ({ runs }) => between(runs, 'count')]]),
    ...spread('score', 'points', 'highest', ({ score }) => score),
    ...spread('run length', 'seconds', 'longest', ({ seconds }) => seconds),
    ...rows('runs end on', [
      ...Object.keys(first.endings).map(
        (screen) => [plain(screen), ({ endings }: Solved) => between(endings[screen]!, 'share')] as const,
      ),
      [
        'left before',
        ({ abandoned }) => (abandoned.most === 0 ? none : between(abandoned, 'share')),
      ] as const,
    ]),
    ...rows(
      'because',
      causesOf(players).map(({ index, to, trigger }) => [
        `${to}: ${plain(trigger)}`,
        ({ causes }) => {
          const found = causes.find((each) => each.index === index);
          return found === undefined ? none : between(found.share, 'share');
        },
      ]),
    ),
    ...rows(
      'runs reach',
      first.levels
        .filter(({ level }) => level > 1)
        .map(({ level }) => [`level ${level}`, ({ levels }) => between(levels[level - 1]!.reached, 'share')]),
    ),
    ...rows(
      'of these fail',
      first.levels.length < 2 || !endsByFailing(design)
        ? []
        : first.levels.map(({ level }) => [
            `level ${level}`,
            ({ levels }) => {
              const { fails } = levels[level - 1]!;
              return fails === null ? none : between(fails, 'share');
            },
          ]),
    ),
    ...rows(
      'points a run from',
      (first.rules ?? [])
        .filter((_, rule) => players.some(({ rules }) => rules !== null && rules[rule]!.points !== 0))
        .map(({ name }) => [
          plain(name),
          ({ rules }) => {
            const found = rules?.find((each) => each.name === name);
            return found === undefined ? none : written(found.points, 'points');
          },
        ]),
    ),
  ];
}

function causesOf(players: readonly Solved[]): Solved['causes'] {
  const all = new Map(players.flatMap(({ causes }) => causes.map((each) => [each.index, each] as const)));
  return [...all.values()].sort((a, b) => a.index - b.index);
}

function written(value: number, unit: Unit): string {
  if (!Number.isFinite(value)) return 'no bound';
  if (unit === 'share') return share(value);
  return `${digits.format(value)}${unit === 'seconds' ? ' s' : ''}`;
}

/** A share in digits that tell a rare thing from none. */
function share(value: number): string {
  const percentage = value * 100;
  if (percentage > 0 && percentage < 0.0001) return `${percentage.toExponential(1)} %`;
  return percentage < 100 - nearly && percentage > 99.9999 ? '> 99.9999 %' : `${digits.format(percentage)} %`;
}

/** What lies so near to a bound is it. */
const nearly = 1e-9;

function between({ least, most }: Bounds, unit: Unit): string {
  if (Number.isFinite(most) && Math.abs(most - least) <= nearly * Math.max(1, Math.abs(most)))
    return written(least, unit);
  if (!Number.isFinite(least) && !Number.isFinite(most)) return none;
  if (!Number.isFinite(most)) return `≥ ${written(least, unit)}`;
  if (!Number.isFinite(least)) return `≤ ${written(most, unit)}`;
  return `${written(least, unit)} to ${written(most, unit)}`;
}

function lastOf(values: SolvedSpread['values'], unit: Unit): string {
  const last = values.at(-1)!;
  return `${written(last.value, unit)} in ${share(last.share)}`;
}

/** How much better a run would be with the best choices, and which of them pay. */
function bestRows(terminal: Terminal, players: readonly SolvedPlayer[]): string[] {
  const found = players.filter(({ best }) => best !== undefined);
  if (found.length === 0) return [];
  const rows = found.map(({ solved, best }) => {
    const { play, own } = best!;
    const reached = play.score > 0 ? ` (${share(Math.min(1, own / play.score))} of it)` : '';
    return [
      plain(solved.player),
      `at best ${digits.format(play.score)} a run`,
      `as it plays ${digits.format(own)}${reached}`,
    ];
  });
  const never = found.flatMap(({ solved, best }) => {
    const names = best!.play.choices
      .filter(({ kind, offered, taken }) => kind === 'piece' && offered > 0 && taken === 0)
      .map(({ name }) => name);
    return names.length === 0
      ? []
      : [`Never worth turning to, for ${plain(solved.player)}: ${names.join(', ')}.`];
  });
  return [
    heading(terminal, 'Best choices, with the skill and pace that the player has'),
    columns(rows),
    ...never.map((line) => `${wrap(line, terminal.width, '  ')}\n`),
  ];
}

function slopeRows(terminal: Terminal, players: readonly SolvedPlayer[]): string[] {
  const dials = [...new Set(players.flatMap(({ slopes }) => slopes.map(({ dial }) => dial)))];
  if (dials.length === 0) return [];
  const titles = ['', '', ...players.map(({ solved }) => plain(solved.player))];
  const rows = dials.map((dial) => {
    const of = players.map(({ slopes }) => slopes.find((each) => each.dial === dial));
    const turned = of.find((each) => each !== undefined)!;
    return [
      plain(dial),
      `${number(turned.from)} -> ${number(turned.to)}`,
      ...of.map((each) => (each === undefined ? none : change(each))),
    ];
  });
  return [
    heading(terminal, 'One step of each dial changes the mean score and length by'),
    columns(
      [titles, ...rows],
      players.map((_, index) => index + 2),
    ),
  ];
}

const change = ({ score, seconds }: Slope): string =>
  [
    ...(score === null ? [] : [signed.format(score)]),
    ...(Math.abs(seconds) < nearly ? [] : [`${signed.format(seconds)} s`]),
  ].join(', ');

function solvedTarget(terminal: Terminal, target: TargetResult): string[] {
  const [verdict, what, , asked] = targetRow(terminal, target) as [string, string, string, string];
  const { value, low, high, unit } = target;
  const bounds = { least: low ?? Number.NEGATIVE_INFINITY, most: high ?? Number.POSITIVE_INFINITY };
  const found = low === null && high === null ? 'not calculated' : between(bounds, unit);
  return [verdict, what, value === null ? found : written(value, unit), asked];
}
