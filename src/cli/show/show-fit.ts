import type { Fit } from '../../balance/fitting/fit.js';
import type { FittedHabit, FittedValue } from '../../balance/fitting/fitted.js';
import type { Estimate } from '../../balance/statistics/intervals.js';
import { inUnit, number, percent, withDecimals, withInterval } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal, wrap } from '../terminal.js';

/** What a playtest says of players and pieces, for people to read. */
export function showFit(terminal: Terminal, fit: Fit): string {
  const titles = ['estimate', '95 % interval', 'in the design', 'tries', 'succeeded'];
  const dim = (words: readonly string[]): string[] => words.map((word) => paint(terminal, 'dim', word));
  const right = [1, 2, 3, 4, 5];
  return [
    `${number(fit.sessions)} sessions played, ${number(fit.events)} events\n`,
    heading(terminal, 'Skill of the players: 1 more turns every second success into three of four'),
    columns([dim(['', ...titles]), ...fit.players.map((player) => valueRow(terminal, player))], right),
    heading(terminal, 'Difficulty of the pieces, on the same scale as the design'),
    columns([dim(['', ...titles]), ...fit.pieces.map((piece) => valueRow(terminal, piece))], right),
    ...notes(terminal, fit),
    ...habits(terminal, fit, dim),
    heading(terminal, 'Played, beside simulated players with these values: runs that ended'),
    fit.likeness.length === 0
      ? '  too few sessions of each player to compare\n'
      : columns(
          fit.likeness.map(({ player, what, unit, played, simulated, difference, verdict }) => [
            paint(terminal, verdictStyle[verdict], verdict),
            `${plain(what)} of ${plain(player)}`,
            `played ${inUnit(played, unit)}, simulated ${inUnit(simulated, unit)}`,
            unit === 'share'
              ? `difference ${withInterval(difference.value, difference.low, difference.high, 'share')}`
              : `higher in the playtest in ${withInterval(difference.value, difference.low, difference.high, 'share')} of pairings`,
          ]),
        ),
    '\n',
    verdictOf(terminal, fit),
  ].join('');
}

const verdictStyle = { alike: 'green', differs: 'redBright', 'not yet clear': 'yellow' } as const;

function notes(terminal: Terminal, { leftOut, tellsTries }: Fit): string[] {
  const told = [
    ...(leftOut.length === 0
      ? []
      : [`Left out, since a log does not show each try at them: ${leftOut.map(plain).join(', ')}.`]),
    ...(tellsTries
      ? []
      : [
          'The log has no column "tried". Every miss is taken for a failed try, so skills are too low where pieces ran out untouched; write tried 0 for those.',
        ]),
  ];
  return told.map((note) => `  ${wrap(note, terminal.width - 2, '  ')}\n`);
}

function verdictOf(terminal: Terminal, { likeness, tellsTries }: Fit): string {
  const of = (verdict: Fit['likeness'][0]['verdict']): number =>
    likeness.filter((each) => each.verdict === verdict).length;
  const [different, unclear] = [of('differs'), of('not yet clear')];
  if (different > 0)
    return `${paint(terminal, 'redBright', '✗ differs')}  in ${different} of ${likeness.length}: something else is at work, such as style, patience, or what they press\n`;
  if (unclear > 0 || likeness.length === 0)
    return `${paint(terminal, 'yellow', '? not yet clear')}  in ${unclear === 0 ? 'any figure' : `${unclear} of ${likeness.length}`}: more sessions would tell\n`;
  if (!tellsTries)
    return `${paint(terminal, 'yellow', '? alike')}  but with skills that may be too low: the log does not say which misses were tried\n`;
  return `${paint(terminal, 'green', '✓ alike')}  simulated players play as these did\n`;
}

const twoDecimals = (value: number): string => withDecimals(value, 2);

/** What each habit is called beside its key, and how its values are written. */
const habitWords: {
  readonly [Key in FittedHabit['key']]: { readonly is: string; readonly written: (value: number) => string };
} = {
  learning: { is: 'skill gained from run to run', written: twoDecimals },
  practice: { is: 'skill gained within a run', written: twoDecimals },
  caution: { is: 'skill gained by taking care', written: twoDecimals },
  spread: { is: 'how people differ in skill', written: twoDecimals },
  pace: { is: 'time of an attempt, of the usual', written: twoDecimals },
  paceLearning: { is: 'faster from run to run', written: twoDecimals },
  paceSpread: { is: 'how people differ in pace', written: twoDecimals },
  timing: { is: 'attempts vary either way by', written: (value) => percent(value) },
  quits: { is: 'leaves after a lost run', written: (value) => percent(value) },
};

function habits(terminal: Terminal, { players }: Fit, dim: (words: readonly string[]) => string[]): string[] {
  const rows = players.flatMap(({ name, habits }) =>
    habits.map(({ key, estimate, design, of, unit }) => {
      const { is, written } = habitWords[key];
      return [
        plain(name),
        key,
        paint(terminal, 'dim', is),
        written(estimate.value),
        `${written(estimate.low)} to ${written(estimate.high)}`,
        inDesign(terminal, estimate, design, written),
        `${number(of)} ${unit}`,
      ];
    }),
  );
  if (rows.length === 0) return [];
  return [
    heading(terminal, 'How they play, by the keys of a player'),
    columns(
      [dim(['', 'key', '', 'estimate', '95 % interval', 'in the design', 'from']), ...rows],
      [3, 4, 5, 6],
    ),
  ];
}

/** What the design says, marked where the interval leaves it out. */
function inDesign(
  terminal: Terminal,
  estimate: Estimate | undefined,
  design: number | undefined,
  written: (value: number) => string,
): string {
  if (design === undefined) return '–';
  const isOff = estimate !== undefined && (design < estimate.low || design > estimate.high);
  return isOff ? paint(terminal, 'yellow', written(design)) : written(design);
}

function valueRow(
  terminal: Terminal,
  { name, attempts, successes, estimate, design }: FittedValue,
): string[] {
  return [
    plain(name),
    estimate === undefined ? 'all alike' : twoDecimals(estimate.value),
    estimate === undefined ? '–' : `${twoDecimals(estimate.low)} to ${twoDecimals(estimate.high)}`,
    inDesign(terminal, estimate, design, twoDecimals),
    number(attempts),
    attempts === 0 ? '–' : percent(successes / attempts),
  ];
}
