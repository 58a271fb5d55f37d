import type { Fit } from '../../balance/fitting/fit.js';
import type { FittedValue } from '../../balance/fitting/fitted.js';
import { inUnit, number, percent, withDecimals, withInterval } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal, wrap } from '../terminal.js';

/** What a playtest says of players and pieces, for people to read. */
export function showFit(terminal: Terminal, fit: Fit): string {
  const titles = ['estimate', '95 % interval', 'in the design', 'tries', 'succeeded'];
  const learns = fit.players.some(({ learning }) => learning !== undefined);
  const dim = (words: readonly string[]): string[] => words.map((word) => paint(terminal, 'dim', word));
  const right = [1, 2, 3, 4, 5, 6];
  return [
    `${number(fit.sessions)} sessions played, ${number(fit.events)} events\n`,
    heading(terminal, 'Skill of the players: 1 more turns every second success into three of four'),
    columns(
      [
        dim(['', ...titles, ...(learns ? ['learning'] : [])]),
        ...fit.players.map((player) => [...valueRow(terminal, player), ...(learns ? [learned(player)] : [])]),
      ],
      right,
    ),
    heading(terminal, 'Difficulty of the pieces, on the same scale as the design'),
    columns([dim(['', ...titles]), ...fit.pieces.map((piece) => valueRow(terminal, piece))], right),
    ...notes(terminal, fit),
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
    return `${paint(terminal, 'redBright', '✗ differs')}  in ${different} of ${likeness.length}: something besides skill and difficulty is at work (pace, style, patience)\n`;
  if (unclear > 0 || likeness.length === 0)
    return `${paint(terminal, 'yellow', '? not yet clear')}  in ${unclear === 0 ? 'any figure' : `${unclear} of ${likeness.length}`}: more sessions would tell\n`;
  if (!tellsTries)
    return `${paint(terminal, 'yellow', '? alike')}  but with skills that may be too low: the log does not say which misses were tried\n`;
  return `${paint(terminal, 'green', '✓ alike')}  simulated players play as these did\n`;
}

const learned = ({ learning }: Fit['players'][0]): string =>
  learning === undefined
    ? '–'
    : `${logits(learning.value)} [${logits(learning.low)}, ${logits(learning.high)}]`;

const logits = (value: number): string => withDecimals(value, 2);

function valueRow(
  terminal: Terminal,
  { name, attempts, successes, estimate, design }: FittedValue,
): string[] {
  const isFar =
    estimate !== undefined && design !== undefined && (design < estimate.low || design > estimate.high);
  const said = design === undefined ? '–' : logits(design);
  return [
    plain(name),
    estimate === undefined ? 'all alike' : logits(estimate.value),
    estimate === undefined ? '–' : `${logits(estimate.low)} to ${logits(estimate.high)}`,
    isFar ? paint(terminal, 'yellow', said) : said,
    number(attempts),
    attempts === 0 ? '–' : percent(successes / attempts),
  ];
}
