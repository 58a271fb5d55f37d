// One page from its head to its foot: all parts share how values are escaped and shown.

import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import type { Report } from '../../balance/report.js';
import type { SampleSession } from '../../balance/sample-sessions.js';
import type { PlayerSummary } from '../../balance/summary.js';
import type { TargetResult } from '../../balance/targets.js';
import { transitionName } from '../../design/language/trigger.js';
import { formatPlace } from '../../design/problems/problem.js';
import { assumptions } from '../../explore/evidence/verdict.js';
import { openFindings } from '../../inspect/finding.js';
import { visibleLines } from '../characters.js';
import { clock, interval, inUnit, number, percent, skillWords, wanted, winWords } from '../written.js';
import type { Figure, FigureDocument } from './figure.js';
import { partColours, playerColours } from './figure-parts.js';
import { figuresOf } from './figures.js';
import { style } from './style.js';

/** Text that is HTML already. */
class Html {
  constructor(readonly text: string) {}
}

type Content = Html | string | number | readonly Content[] | undefined;

/** HTML of a template whose values are escaped, so that no name of a design is ever read as markup. */
function html(strings: TemplateStringsArray, ...values: readonly Content[]): Html {
  return new Html(
    strings.reduce(
      (text, string, index) => text + string + (index < values.length ? shown(values[index]) : ''),
      '',
    ),
  );
}

function shown(part: Content): string {
  if (part === undefined) return '';
  if (part instanceof Html) return part.text;
  if (Array.isArray(part)) return part.map(shown).join('');
  return escaped(String(part));
}

const entities: { readonly [character: string]: string } = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
const escaped = (text: string): string =>
  visibleLines(text).replace(/[&<>"']/g, (character) => entities[character]!);

/** What a content security policy allows the page's one style sheet by. */
const styleDigest = `sha256-${btoa(String.fromCharCode(...sha256(utf8ToBytes(style))))}`;

export interface ReportPageOptions {
  /** Only what one sheet of paper holds: verdicts, tests, findings and the scores; false unless it is given. */
  readonly isBrief?: boolean | undefined;
  /** Whom it is for, such as a pupil; it stands at the head. */
  readonly recipient?: string | undefined;
}

/**
 * A report as one page that needs nothing else: no script, no network. Names of a design are only ever text.
 *
 * @param document of a browser, or one that makes elements without any; the figures are drawn with it
 */
export function reportToHtml(
  report: Report,
  document: FigureDocument,
  { isBrief = false, recipient }: ReportPageOptions = {},
): string {
  const { design, summary } = report;
  const figures = figuresOf(report, document);
  const figure = (name: Figure['name']): Html | undefined => {
    const found = figures.find((each) => each.name === name);
    return found && figureHtml(found, report);
  };
  const page = html`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src '${styleDigest}'; img-src data:">
<title>${design.title}: how it plays</title>
<style>${new Html(style)}</style>
</head>
<body>
<a class="skip" href="#verdicts">To the verdicts</a>
<header>
${recipient === undefined ? undefined : html`<p>For <b>${recipient}</b></p>`}
<h1>${design.title}</h1>
<p class="dim">${number(Object.values(summary.players)[0]?.sessions ?? 0)} simulated sessions of each of ${Object.keys(summary.players).length} players, seed ${summary.seed}</p>
</header>
<main>
<section id="verdicts"><h2>Verdicts</h2>${verdicts(report)}${targetTable(summary.targets)}${observationList(report)}</section>
${
  isBrief
    ? [testList(report), findings(report), figure('score')]
    : [
        html`<section id="players"><h2>The players</h2>${playerCards(report)}</section>`,
        figure('score'),
        figure('endings'),
        figure('funnel'),
        figure('pace'),
        figure('points'),
        figure('flow'),
        stories(report),
        figure('dials'),
        findings(report),
      ]
}
</main>
${isBrief ? undefined : html`<footer><h2>How this was found</h2>${method(report)}</footer>`}
</body>
</html>
`;
  return page.text;
}

function verdicts({ check, summary }: Report): Html {
  const { transitions } = check.exploration;
  const reached = transitions.filter(({ verdict }) => verdict === 'reached').length;
  const open = openFindings(check.findings);
  const errors = open.filter(({ severity }) => severity === 'error').length;
  const tests = check.tests.filter(({ passed }) => passed).length;
  const met = summary.targets.filter(({ verdict }) => verdict === 'met').length;
  const missed = summary.targets.filter(({ verdict }) => verdict === 'missed').length;
  const card = (isGood: boolean, value: string, what: string): Html =>
    html`<li class="${isGood ? 'good' : 'bad'}"><b><span aria-hidden="true">${isGood ? '✓' : '✗'} </span>${value}</b> ${what}</li>`;
  const many = ({ length }: readonly unknown[]): string => (length === 1 ? '' : 's');
  return html`<ul class="cards">
${summary.targets.length === 0 ? undefined : card(missed === 0, `${met} of ${summary.targets.length}`, `target${many(summary.targets)} met${missed === 0 ? '' : `, ${missed} missed`}`)}
${transitions.length === 0 ? undefined : card(reached === transitions.length, `${reached} of ${transitions.length}`, `transition${many(transitions)} reachable`)}
${check.tests.length === 0 ? undefined : card(tests === check.tests.length, `${tests} of ${check.tests.length}`, `test${many(check.tests)} of the design passed`)}
${open.length === 0 ? card(true, 'no', 'findings') : card(errors === 0, number(open.length), findingWords(open.length, errors))}
</ul>`;
}

const findingWords = (count: number, errors: number): string => {
  if (count === 1) return errors === 1 ? 'finding, an error' : 'finding, not an error';
  const some = errors === 0 ? 'none' : errors === count ? 'all' : String(errors);
  return `findings, ${some} of them ${errors === 1 ? 'an error' : 'errors'}`;
};

const verdictMarks = { met: '✓', missed: '✗', 'not yet clear': '?' } as const;

function targetTable(targets: readonly TargetResult[]): Html | undefined {
  if (targets.length === 0) return undefined;
  const rows = targets.map(
    (
      target,
    ) => html`<tr><td class="${target.verdict.replaceAll(' ', '-')}"><span aria-hidden="true">${verdictMarks[target.verdict]} </span>${target.verdict}</td>
<th scope="row">${target.what} of ${target.of}</th><td class="figure">${inUnit(target.value, target.unit)}</td>
<td class="figure dim">${interval(target.low, target.high, target.unit)}</td><td>${wanted(target)}</td></tr>`,
  );
  return html`<div class="wide"><table><caption>Targets; the intervals all hold at once in 95 of 100 simulations</caption>
<thead><tr><th scope="col">verdict</th><th scope="col">target</th><th scope="col" class="figure">found</th><th scope="col" class="figure">interval</th><th scope="col">wanted</th></tr></thead>
<tbody>${rows}</tbody></table></div>`;
}

function observationList({ observations }: Report): Html | undefined {
  if (observations.length === 0) return undefined;
  const items = observations.map(
    ({ player, what, remedy }) =>
      html`<li>${player === undefined ? undefined : html`<b>${player}</b>: `}${what} <span class="dim">${remedy}</span></li>`,
  );
  return html`<h3>What stands out</h3><ul class="observations">${items}</ul>`;
}

/** Colours stand in attributes of pictures, since styles of elements are forbidden by most content security policies. */
const swatch = (colour: string): Html =>
  html`<svg class="swatch" viewBox="0 0 14 14" aria-hidden="true"><rect width="14" height="14" rx="3" fill="${colour}"/></svg>`;
const stripe = (colour: string): Html =>
  html`<svg class="stripe" viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden="true"><rect width="1" height="1" fill="${colour}"/></svg>`;

function playerCards(report: Report): Html {
  const colours = playerColours(report);
  const { summary, design } = report;
  const cards = Object.entries(summary.players).map(([name, player]) => {
    const { score, runSeconds, endings } = player;
    const won = design.screens.filter(({ ending }) => ending === 'won');
    const wins = won.reduce((sum, { name: screen }) => sum + endings[screen]!.value, 0);
    return html`<li>${stripe(colours.get(name)!)}<h3>${name}</h3>
<p>${sentence(score?.p50, runSeconds?.p50)}${won.length === 0 ? undefined : ` ${inTen(wins)}`}</p>${facts(player)}</li>`;
  });
  const { skill, wins } = summary;
  return html`<ul class="players">${cards}</ul>
${skill === null ? undefined : html`<p>${skillWords(skill)}.</p>`}
${wins.length === 0 ? undefined : html`<ul>${wins.map((win) => html`<li>${winWords(win)}.</li>`)}</ul>`}${unseen(report)}`;
}

/** The first sentence of a player, for whoever reads no tables. */
function sentence(score: number | undefined, seconds: number | undefined): string {
  const length =
    seconds === undefined ? 'No run was played.' : `A run lasts about ${number(Math.round(seconds))} seconds`;
  if (seconds === undefined) return length;
  return score === undefined ? `${length}.` : `${length} and ends with about ${number(score)} points.`;
}

const inTen = (share: number): string => {
  const tenths = Math.round(share * 10);
  return tenths === 0 && share > 0
    ? 'Hardly any run is won.'
    : tenths === 0
      ? 'No run is won.'
      : tenths === 10
        ? 'Nearly every run is won.'
        : `${tenths} of 10 runs are won.`;
};

/** What can happen, as was proved, and was not seen in any session. */
function unseen({ check, summary }: Report): Html | undefined {
  const players = Object.values(summary.players);
  const [first] = players;
  const isNever = (pick: (player: PlayerSummary) => readonly string[], name: string): boolean =>
    players.every((player) => pick(player).includes(name));
  const { transitions, parts } = check.exploration;
  const names = [
    ...transitions
      .flatMap(({ verdict }, at) => (verdict === 'reached' ? [transitionName(check.design, at)] : []))
      .filter((name) => isNever((player) => player.unseen.transitions, name)),
    ...parts
      .filter(({ kind, verdict }) => kind === 'rule' && verdict === 'reached')
      .map(({ name }) => name)
      .filter((name) => isNever((player) => player.unseen.rules, name))
      .map((name) => `rule "${name}"`),
  ];
  if (first === undefined || names.length === 0) return undefined;
  return html`<p>Possible, but not seen in any session: <b>${[...new Set(names)].join(', ')}</b>. For each player, each comes in at most ${percent(first.unseen.atMost)} of sessions.</p>`;
}

function facts(player: PlayerSummary): Html {
  const { runs, sessionSeconds, livesLeft, firstPoint, firstLoss, drySpell, streak } = player;
  const rows: [string, string | undefined][] = [
    ['runs played', number(runs)],
    ['session', inUnit(sessionSeconds?.p50, 'seconds')],
    ['lives left', livesLeft === null ? undefined : number(livesLeft.p50)],
    ['first point after', firstPoint === null ? undefined : inUnit(firstPoint.p50, 'seconds')],
    ['first life lost after', firstLoss === null ? undefined : inUnit(firstLoss.p50, 'seconds')],
    ['longest dry spell', drySpell === null ? undefined : inUnit(drySpell.p50, 'seconds')],
    ['longest streak', streak === null ? undefined : number(streak.p50)],
  ];
  return html`<dl>${rows.flatMap(([name, value]) => (value === undefined ? [] : [html`<div><dt>${name}</dt><dd>${value}</dd></div>`]))}</dl>`;
}

function figureHtml({ name, title, caption, svg, head, rows }: Figure, report: Report): Html {
  const [first, ...rest] = head;
  return html`<section id="${name}"><h2>${title}</h2>
<figure><div class="picture ${name}" role="img" aria-label="${title}: ${caption} The table below holds the numbers.">${new Html(svg)}</div>
${legendOf(name, head, rows, report)}
<figcaption>${caption}</figcaption></figure>
<details><summary>The numbers behind it</summary><div class="wide"><table>
<thead><tr><th scope="col">${first}</th>${rest.map((cell) => html`<th scope="col" class="figure">${cell}</th>`)}</tr></thead>
<tbody>${rows.map(([label, ...cells]) => html`<tr><th scope="row">${label}</th>${cells.map((cell) => html`<td class="figure">${cell}</td>`)}</tr>`)}</tbody>
</table></div></details></section>`;
}

function legendOf(
  name: Figure['name'],
  head: readonly string[],
  rows: readonly (readonly string[])[],
  report: Report,
): Html | undefined {
  if (name === 'pace' || name === 'funnel' || name === 'dials') return playerLegend(report);
  return name === 'points' || name === 'endings' ? partsLegend(name, head, rows) : undefined;
}

function playerLegend(report: Report): Html {
  const items = [...playerColours(report)].map(([name, colour]) => html`<li>${swatch(colour)}${name}</li>`);
  return html`<ul class="legend">${items}</ul>`;
}

/** The parts of stacked bars, in the order in which they stand. */
function partsLegend(
  name: Figure['name'],
  head: readonly string[],
  rows: readonly (readonly string[])[],
): Html {
  const parts = name === 'endings' ? head.slice(1) : [...new Set(rows.map(([, rule]) => rule!))];
  const colours = partColours(parts);
  return html`<ul class="legend">${parts.map((part, index) => html`<li>${swatch(colours[index]!)}${part}</li>`)}</ul>`;
}

const storyTitles = { unlucky: 'An unlucky one', typical: 'A typical one', lucky: 'A lucky one' } as const;

function stories({ stories: all }: Report): Html | undefined {
  if (all.length === 0) return undefined;
  const order: SampleSession['kind'][] = ['typical', 'unlucky', 'lucky'];
  const told = order.map((kind) => all.find((story) => story.kind === kind)!).map(story);
  return html`<section id="sessions"><h2>Three sessions of ${all[0]!.player}</h2>
<p class="dim">Half of the sessions score less than the typical one, a tenth less than the unlucky, nine tenths less than the lucky. Repeated events are grouped.</p>
<div class="stories">${told}</div></section>`;
}

/** Moments of a session that are shown. */
const mostMoments = 24;

function story({ kind, session, best, moments }: SampleSession): Html {
  const rows = moments
    .slice(0, mostMoments)
    .map(
      ({ at, screen, text, what, hud }) =>
        html`<tr><td class="figure">${clock(at)}</td><td><b>${what}</b><br><span class="dim">${screen}${text === '' ? undefined : `: ${text}`}<br>${hud}</span></td></tr>`,
    );
  const left = moments.length - rows.length;
  return html`<details open><summary>${storyTitles[kind]}${best === undefined ? undefined : `, best score ${number(best)}`} <span class="dim">session ${session}</span></summary>
<div class="wide"><table><thead><tr><th scope="col" class="figure">time</th><th scope="col">what happened, the screen, the HUD</th></tr></thead><tbody>${rows}</tbody></table></div>
${left > 0 ? html`<p class="dim">and ${left} moments more</p>` : undefined}</details>`;
}

/** The tests of the design, those that fail first. */
function testList({ check }: Report): Html | undefined {
  if (check.tests.length === 0) return undefined;
  const items = [...check.tests]
    .sort((a, b) => Number(a.passed) - Number(b.passed))
    .map(
      ({ name, passed }) =>
        html`<li class="${passed ? 'good' : 'bad'}"><span aria-hidden="true">${passed ? '✓' : '✗'} </span>${name}${passed ? undefined : ': fails'}</li>`,
    );
  return html`<section id="tests"><h2>Tests of the design</h2><ul class="tests">${items}</ul></section>`;
}

function findings({ check }: Report): Html {
  const { findings: all } = check;
  const items = all.map(
    ({ severity, code, message, remedy, place, accepted }) =>
      html`<li class="${severity}"><b>${severity} ${code}</b> <code>${formatPlace(place)}</code><br>${message} <span class="dim">${accepted === undefined ? remedy : `Accepted: ${accepted}`}</span></li>`,
  );
  return html`<section id="findings"><h2>Findings</h2>${all.length === 0 ? html`<p>None.</p>` : html`<ul class="findings">${items}</ul>`}</section>`;
}

function method({ simulation, summary, check, design }: Report): Html {
  const { sessions, seed } = simulation;
  return html`<p>${number(sessions)} sessions of each player were played with seed ${seed}; session i of a seed is the same on any machine. A player succeeds with the chance logistic(skill - difficulty) (Rasch 1960). Intervals are of 95 %, by session, since the runs of one session are not independent: shares by Wilson (1927) at the effective number of sessions (Kish 1965), means and ratios linearised (Cochran 1977), quantiles by Woodruff (1952), who beats whom by Vargha and Delaney (2000), skill and luck by omega squared (Hays 1963). Targets share their 5 % of error (Bonferroni).</p>
<p>The flow was searched through ${number(check.exploration.states)} states; its verdicts assume ${assumptions['any order']}. What was not seen in ${number(sessions)} sessions comes in at most ${percent(Object.values(summary.players)[0]!.unseen.atMost)} of them.</p>
<p class="dim">Design ${design.file}, fingerprint ${design.fingerprint}. Play it again: <code>jocus report ${design.file} --sessions ${sessions} --seed ${seed}</code></p>`;
}
