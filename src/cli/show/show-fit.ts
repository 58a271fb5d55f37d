import type { Fit, FittedValue } from '../../balance/fit.js';
import { inUnit, number, percent } from '../../formats/written.js';
import { columns, heading, paint, plain, type Terminal, wrap } from '../terminal.js';

/** What a playtest says of players and pieces, for people to read. */
export function showFit(terminal: Terminal, fit: Fit): string {
  const rows = (values: readonly FittedValue[]): string =>
    columns(
      [
        ['', 'estimate', '95 % interval', 'in the design', 'tries', 'succeeded'].map((title) =>
          paint(terminal, 'dim', title),
        ),
        ...values.map((value) => valueRow(terminal, value)),
      ],
      [1, 2, 3, 4, 5],
    );
  const different = fit.likeness.filter(({ isDifferent }) => isDifferent);
  return [
    `${number(fit.sessions)} sessions played, ${number(fit.events)} events\n`,
    heading(terminal, 'Skill of the players, in logits'),
    rows(fit.players),
    heading(terminal, 'Difficulty of the pieces, in logits, on the scale of the design'),
    rows(fit.pieces),
    ...(fit.leftOut.length === 0
      ? []
      : [
          `  ${wrap(`Left out, since skill alone does not decide them: ${fit.leftOut.map(plain).join(', ')}`, terminal.width - 2, '  ')}\n`,
        ]),
    heading(terminal, 'Played, beside simulated players with these values'),
    fit.likeness.length === 0
      ? '  too few sessions of each player to compare\n'
      : columns(
          fit.likeness.map(({ player, what, unit, played, simulated, difference, isDifferent }) => [
            isDifferent ? paint(terminal, 'yellow', 'differs') : paint(terminal, 'green', 'alike'),
            `${plain(what)} of ${plain(player)}`,
            `played ${inUnit(played, unit)}, simulated ${inUnit(simulated, unit)}`,
            unit === 'share'
              ? `difference ${percentOf(difference.value)} [${percentOf(difference.low)}, ${percentOf(difference.high)}]`
              : `more in play with chance ${percent(difference.value)} [${percent(difference.low)}, ${percent(difference.high)}]`,
          ]),
        ),
    '\n',
    different.length === 0
      ? `${paint(terminal, 'green', '✓ alike')}  simulated players play as these did, as far as so many sessions tell\n`
      : `${paint(terminal, 'yellow', '! differs')}  in ${different.length} of ${fit.likeness.length}: something besides skill and difficulty is at work (pace, style, patience)\n`,
  ].join('');
}

const percentOf = (share: number): string => `${(share * 100).toFixed(1)} %`;

function valueRow(
  terminal: Terminal,
  { name, attempts, successes, estimate, design }: FittedValue,
): string[] {
  const isFar =
    estimate !== undefined && design !== undefined && (design < estimate.low || design > estimate.high);
  const said = design === undefined ? '–' : design.toFixed(2);
  return [
    plain(name),
    estimate === undefined ? 'all alike' : estimate.value.toFixed(2),
    estimate === undefined ? '–' : `${estimate.low.toFixed(2)} to ${estimate.high.toFixed(2)}`,
    isFar ? paint(terminal, 'yellow', said) : said,
    number(attempts),
    attempts === 0 ? '–' : percent(successes / attempts),
  ];
}
