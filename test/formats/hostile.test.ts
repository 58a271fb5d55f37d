import { readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import fc from 'fast-check';
import { XMLValidator } from 'fast-xml-parser';
import { parseHTML } from 'linkedom';
import { micromark } from 'micromark';
import { gfm, gfmHtml } from 'micromark-extension-gfm';
import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { showExpression } from '../../src/design/language/expression-parts.js';
import {
  type FigureDocument,
  figuresOf,
  reportToHtml,
  reportToMarkdown,
} from '../../src/formats/report/index.js';
import {
  check,
  checkToSarif,
  flowToScxml,
  flowToSvg,
  readDesign,
  reportOn,
  rowsToText,
  sensitivity,
  simulate,
} from '../../src/index.js';
import { launch } from '../support/browser.js';
import { inThread, jocus, temporaryFolder } from '../support/command-line.js';
import { demoText } from '../support/designs.js';
import { runs } from '../support/runs.js';

let browser: Browser;
beforeAll(async () => {
  browser = await launch();
});
afterAll(() => browser?.close());
const folder = temporaryFolder();

const controls = '\u001b[2J\u0007\u202e\u2066';
const evil = `${controls}</script><script>window.hit=1</script><!-- http://evil.example www.evil.example me@evil.example ftp://evil.example`;
const design = readDesign(
  JSON.stringify({
    title: evil,
    counters: { score: {}, lives: { start: 2, min: 0 } },
    dials: { worth: { value: 10, from: 1, to: 20 } },
    pieces: { berry: { is: 'collectible' }, wasp: { is: 'hazard' } },
    levels: [
      {
        name: evil,
        spawn: [
          { piece: 'berry', every: 1 },
          { piece: 'wasp', every: 2 },
        ],
      },
      { name: `${evil} 2` },
    ],
    rules: [
      {
        name: evil,
        when: 'berry.taken',
        do: [{ add: { score: 'worth' } }, { cue: evil.slice(0, 40) }, { popup: evil }],
      },
      { when: 'wasp.hit', do: [{ add: { lives: -1 } }] },
    ],
    screens: { glade: { live: true, text: evil }, over: { ending: 'lost', text: evil } },
    transitions: [
      { from: 'glade', to: 'over', if: 'lives == 0' },
      { from: 'over', to: 'glade', when: 'input.again', fresh: 'run' },
    ],
    hud: [{ show: 'score', label: evil }],
    targets: [{ measure: 'share', rule: evil, atMost: 0.5 }],
    accept: [{ finding: 'no-loss', because: evil }],
  }),
  'glade.yaml',
);
const report = reportOn(
  simulate(design, { sessions: 40, seed: 1 }),
  sensitivity(design, { sessions: 10, seed: 1 }),
);
const page = () => parseHTML('<html><body></body></html>').document as unknown as FigureDocument;
// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
const raw = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\u200e\u200f]/;

describe('names that hold control characters, addresses and markup', () => {
  test('show none of it in Markdown, and become no link, by the rules of GitHub', () => {
    const text = reportToMarkdown(report);
    expect(text).not.toMatch(raw);
    const html = micromark(text, { extensions: [gfm()], htmlExtensions: [gfmHtml()] });
    expect(html).not.toMatch(/<a\b|<script|<!--/);
    const shown = parseHTML(`<html><body>${html}</body></html>`).document.body.textContent!.replaceAll(
      '\u200b',
      '',
    );
    expect(shown).toContain(
      '</script><script>window.hit=1</script><!-- http://evil.example www.evil.example me@evil.example',
    );
  });

  test('leave every picture well-formed', () => {
    for (const { name, svg } of figuresOf(report, page())) {
      expect(XMLValidator.validate(svg), name).toBe(true);
      expect(svg, name).not.toMatch(raw);
      expect(svg, name).not.toMatch(/<style|style=/);
    }
    expect(XMLValidator.validate(flowToSvg(design, report.check.exploration))).toBe(true);
    expect(reportToHtml(report, page())).not.toMatch(raw);
  });

  test('reach no terminal: in what is told, in paths and in arguments', () => {
    const file = join(folder, `glade${controls}.yaml`);
    writeFileSync(file, JSON.stringify({ ...design.written, jocus: 1 }));
    const calls = [
      ['check', file],
      ['check', file, '--format', 'svg', '--out', join(folder, `${controls}.svg`)],
      ['simulate', file, '--sessions', '5', '--save-runs', join(folder, `${controls}.csv`)],
      ['simulate', file, '--sessions', '5', '--out', join(folder, `${controls}.json`)],
      ['report', file, '--sessions', '5', '--out', join(folder, `${controls}.html`)],
      ['build', file, '--out', join(folder, `${controls}.js`)],
      ['new', join(folder, `${controls}new.yaml`)],
      ['check', `${controls}.yaml`],
      ['check', file, `--${controls}`],
      [`${controls}`],
      ['simulate', file, '--player', controls],
      ['simulate', file, '--seed', controls],
      ['compare', file, '--set', `${controls}=5`],
      ['check', file, '--only', controls],
      ['check', file, '--witness', controls],
      ['replay', file, `${controls}.jsonl`],
    ];
    for (const words of calls) {
      const { stdout, stderr } = inThread(words);
      expect(stdout + stderr, words.join(' ')).not.toMatch(raw);
      expect((stdout + stderr).length).toBeGreaterThan(10);
    }
  });
});

test('a path in SARIF is one, whatever is in its name', () => {
  const found = check(readDesign('counters: { score: {} }', 'my games/heath#1?.yaml'));
  const [result] = checkToSarif(found).runs[0]!.results!;
  const { uri } = result!.locations![0]!.physicalLocation!.artifactLocation!;
  expect(uri).toBe('my%20games/heath%231%3F.yaml');
  expect(new URL(uri!, 'file:///home/').pathname).toBe('/home/my%20games/heath%231%3F.yaml');
});

test('a built module can be inlined into a page: no name ends its script, and it plays', async () => {
  const file = join(folder, 'glade.yaml');
  writeFileSync(file, JSON.stringify({ ...design.written, jocus: 1 }));
  expect(jocus(['build', file, '--out', join(folder, 'glade.js')]).status).toBe(0);
  const module = readFileSync(join(folder, 'glade.js'), 'utf8');
  expect(module).not.toMatch(/<\/script|<!--|<script/i);
  const opened = await browser.newPage();
  const errors: string[] = [];
  opened.on('pageerror', (error) => errors.push(error.message));
  await opened.setContent(
    `<!doctype html><body><script type="module">${module}
const session = game.start(); session.send('berry.appeared'); session.send('berry.taken');
document.body.dataset.score = session.counter('score'); document.body.dataset.text = session.text;</script>`,
  );
  await opened.waitForFunction(() => document.body.dataset.score === '10');
  expect(await opened.evaluate(() => ['hit' in window, document.body.dataset.text])).toEqual([false, evil]);
  expect(errors).toEqual([]);
  await opened.close();
});

describe('an expression as text', () => {
  const leaf = fc.constantFrom('a', 'b', '1', '0', '-1', '-0', '2.5', 'level', 'left.berry', 'dial');
  const { number } = fc.letrec<{ number: string; condition: string }>((tie) => ({
    number: fc.oneof(
      { maxDepth: 4 },
      leaf,
      tie('number').map((of) => `-(${of})`),
      leaf.map((of) => `- ${of}`),
      fc
        .tuple(tie('number'), fc.constantFrom('+', '-', '*', '/', '%'), tie('number'))
        .map(([a, by, b]) => `(${a}) ${by} (${b})`),
      fc
        .tuple(tie('condition'), tie('number'), tie('number'))
        .map(([test, a, b]) => `(${test}) ? (${a}) : (${b})`),
      fc.tuple(tie('number'), tie('number')).map(([a, b]) => `max(${a}, ${b})`),
    ),
    condition: fc.oneof(
      { maxDepth: 3 },
      fc
        .tuple(tie('number'), fc.constantFrom('<', '>=', '==', '!='), tie('number'))
        .map(([a, by, b]) => `(${a}) ${by} (${b})`),
      tie('condition').map((of) => `not (${of})`),
      fc
        .tuple(tie('condition'), fc.constantFrom('and', 'or'), tie('condition'))
        .map(([a, by, b]) => `(${a}) ${by} (${b})`),
    ),
  }));
  const reading = (expression: string) =>
    readDesign(
      JSON.stringify({
        dials: { dial: { value: 2 } },
        counters: { a: {}, b: {} },
        pieces: { berry: { is: 'collectible' } },
        rules: [{ when: 'input.go', if: `(${expression}) > 0`, do: [{ cue: 'x' }] }],
        screens: { glade: { live: true }, end: { ending: 'won' } },
        transitions: [{ from: 'glade', to: 'end', if: `(${expression}) > 0` }],
      }),
    );

  test('means the same when it is read again, and holds no operator that was not written', () => {
    fc.assert(
      fc.property(number, (text) => {
        const { condition } = reading(text).rules[0]!;
        const shown = showExpression(condition!);
        expect(shown).not.toMatch(/--|\+\+/);
        const again = reading(shown.slice(0, shown.lastIndexOf(' > 0')));
        expect(showExpression(again.rules[0]!.condition!)).toBe(shown);
      }),
      runs(500),
    );
  });

  test('-(-score) is no decrement, in text and in SCXML', () => {
    const found = reading('-(-a)');
    expect(showExpression(found.rules[0]!.condition!)).toBe('-(-a) > 0');
    expect(flowToScxml(found, check(found).exploration)).toContain('cond="(-(-a) &gt; 0)"');
  });
});

test('the report keeps to a policy that forbids all but its own style sheet', async () => {
  const html = reportToHtml(report, page());
  const [digest] = /sha256-[^']+/.exec(html)!;
  for (const [policy, most] of [
    [`default-src 'none'; style-src '${digest}'`, 0],
    // Without any style sheet it is plain, and the browser says so once.
    ["default-src 'none'", 1],
  ] as const) {
    const server = createServer((_, response) => {
      response.setHeader('content-security-policy', policy);
      response.setHeader('content-type', 'text/html');
      response.end(html.replace(/<head>/, '<head><link rel="icon" href="data:,">'));
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const opened = await browser.newPage();
    const told: string[] = [];
    opened.on('console', (message) => {
      if (!/favicon|data:,/.test(message.text())) told.push(message.text());
    });
    await opened.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
    expect(await opened.locator('h1').count()).toBe(1);
    expect(told.length, `${policy}: ${told.join('\n')}`).toBe(most);
    await opened.close();
    server.close();
  }
});

test('a cell of CSV is no formula', () => {
  const text = rowsToText(
    ['=1+1', '+1', '-1', '@x', 'plain'].map((player) => ({ player, session: -3 })),
    ['player', 'session'],
    'csv',
    true,
  );
  expect(text.split('\r\n').slice(1, 6)).toEqual(["'=1+1,-3", "'+1,-3", "'-1,-3", "'@x,-3", 'plain,-3']);
});

test('the demo is as it was: nothing in it needs any of this', () => {
  expect(
    reportToMarkdown(reportOn(simulate(readDesign(demoText), { sessions: 20, seed: 1 }), undefined)),
  ).not.toContain('&#8203;');
});
