import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { XMLValidator } from 'fast-xml-parser';
import { parseHTML } from 'linkedom';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  type FigureDocument,
  figuresOf,
  reportToHtml,
  reportToMarkdown,
} from '../../src/formats/report/index.js';
import { readDesign, reportOn, sensitivity, simulate } from '../../src/index.js';
import { launch } from '../support/browser.js';
import { demo } from '../support/designs.js';

const page = () => parseHTML('<html><body></body></html>').document as unknown as FigureDocument;
const call = { sessions: 80, seed: 2 };
const reportOf = (design = demo()) =>
  reportOn(simulate(design, call), sensitivity(design, { ...call, sessions: 30 }));

/** Every text of a design that may hold anything does. */
const evil = '<img src=x onerror=window.hit=1><script>window.hit=1</script>"\'`|*&';
const hostile = readDesign(
  JSON.stringify({
    title: evil,
    dials: { petal: { value: 10, from: 1, to: 20 } },
    counters: { score: {}, lives: { start: 3, min: 0 } },
    pieces: { blossom: { is: 'collectible' }, wasp: { is: 'hazard' } },
    levels: [
      {
        name: evil,
        spawn: [
          { piece: 'blossom', every: 1 },
          { piece: 'wasp', every: 2 },
        ],
      },
      { name: `${evil} 2` },
    ],
    rules: [
      { name: evil, when: 'blossom.taken', do: [{ add: { score: 'petal' } }] },
      { when: 'wasp.hit', do: [{ add: { lives: -1 } }] },
    ],
    screens: { heath: { live: true, text: evil }, over: { ending: 'lost', text: evil } },
    transitions: [
      { from: 'heath', to: 'over', if: 'lives == 0' },
      { from: 'over', to: 'heath', when: 'input.again', fresh: 'run' },
    ],
    hud: [{ show: 'score', label: evil }],
    targets: [{ measure: 'share', rule: evil, atMost: 0.5 }],
    accept: [{ finding: 'no-loss', because: evil }],
  }),
  `${evil}.yaml`,
);

describe('the report', () => {
  const folder = mkdtempSync(join(tmpdir(), 'jocus-report-'));
  let browser: Browser;
  beforeAll(async () => {
    browser = await launch();
  });
  afterAll(async () => {
    await browser?.close();
    rmSync(folder, { recursive: true, force: true });
  });

  const errors: string[] = [];
  const requests: string[] = [];
  async function open(html: string, options: Parameters<Browser['newPage']>[0] = {}): Promise<Page> {
    const path = join(folder, 'report.html');
    writeFileSync(path, html);
    const opened = await browser.newPage(options);
    opened.on('pageerror', (error) => errors.push(error.message));
    opened.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
    opened.on('request', (request) => requests.push(request.url()));
    await opened.goto(`file://${path}`);
    return opened;
  }

  test('tells the verdicts first, needs nothing else, and has a table behind each picture', async () => {
    const opened = await open(reportToHtml(reportOf(), page()), { viewport: { width: 1280, height: 800 } });
    expect([errors, requests.length]).toEqual([[], 1]);
    const headings = await opened.locator('h2').allTextContents();
    expect(headings.slice(0, 3)).toEqual(['Verdicts', 'The players', 'Scores']);
    expect(headings).toContain('Three sessions of regular');
    expect(headings.at(-1)).toBe('How this was found');
    for (const section of await opened.locator('section:has(figure)').all()) {
      expect(await section.locator('figure svg').count()).toBeGreaterThan(0);
      expect(await section.locator('figure > [role=img]').getAttribute('aria-label')).toMatch(
        /\w{20}|\w+ \w+/,
      );
      expect(await section.locator('details tbody tr').count()).toBeGreaterThan(0);
    }
    // No picture runs out of its place, on a wide screen or on a phone.
    for (const width of [1280, 390]) {
      await opened.setViewportSize({ width, height: 800 });
      expect(await opened.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
    }
    await opened.close();
  });

  test('is readable in the dark: words and paper differ enough', async () => {
    const opened = await open(reportToHtml(reportOf(), page()), { colorScheme: 'dark' });
    const contrast = await opened.evaluate(() => {
      const light = (text: string): number => {
        const [r, g, b] = text.match(/\d+/g)!.map((part) => {
          const value = Number(part) / 255;
          return value <= 0.03928 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
        }) as [number, number, number];
        return 0.2126 * r + 0.7152 * g + 0.0722 * b;
      };
      const paper = light(getComputedStyle(document.body).backgroundColor);
      return [...document.querySelectorAll('p, dt, dd, td, th, figcaption, h2')].map(
        (element) => (light(getComputedStyle(element).color) + 0.05) / (paper + 0.05),
      );
    });
    expect(Math.min(...contrast)).toBeGreaterThan(4.5);
    await opened.close();
  });

  test('never runs what stands in the names of a design', async () => {
    const opened = await open(reportToHtml(reportOf(hostile), page()));
    expect(await opened.evaluate(() => 'hit' in window)).toBe(false);
    expect(await opened.locator('script, img, iframe, object').count()).toBe(0);
    expect(await opened.locator('h1').textContent()).toBe(evil);
    expect(errors).toEqual([]);
    await opened.close();
  });

  test('each figure is a picture by itself', () => {
    const figures = figuresOf(reportOf(hostile), page());
    expect(figures.map(({ name }) => name)).toEqual([
      'flow',
      'score',
      'endings',
      'funnel',
      'pace',
      'points',
      'dials',
    ]);
    for (const { name, svg } of figures) {
      expect(XMLValidator.validate(svg), name).toBe(true);
      expect(svg, name).toContain('xmlns="http://www.w3.org/2000/svg"');
      expect(svg, name).not.toContain('<script');
    }
  });

  test('of runs that are over at once has figures without a warning in them', () => {
    // Each player has one bin of ten seconds: as many lines as values, for a library that counts them.
    const design = readDesign(
      'counters: { score: {} }\ndials: { worth: { value: 1, from: 1, to: 2 } }\npieces: { acorn: { is: collectible } }\nlevels: [{ place: { acorn: 1 } }]\nrules: [{ when: acorn.taken, do: [{ add: { score: worth } }] }]\nscreens: { wood: { live: true }, over: { ending: won } }\ntransitions: [{ from: wood, to: over, if: left.acorn == 0 }, { from: over, to: wood, when: input.again, fresh: run }]\n',
    );
    const figures = figuresOf(reportOf(design), page());
    expect(figures.map(({ name }) => name)).toContain('pace');
    for (const { name, svg } of figures) expect(svg, name).not.toContain('warning');
  });

  test('of levels that nobody fails at, as in a match of two, tells how many runs reach them alone', () => {
    const match = (lost: string) =>
      readDesign(`counters: { red: { keep: level }, blue: { keep: level } }
pieces: { peg: { is: prop, meets: sought, outcomes: { red: 1, blue: 1 } } }
levels: { count: 2, spawn: [{ piece: peg, every: 1, atOnce: 1 }] }
rules: [{ when: peg.red, do: [{ add: { red: 1 } }] }, { when: peg.blue, do: [{ add: { blue: 1 } }] }]
screens: { line: { live: true }, redWins: { ending: over }, blueWins: { ending: ${lost} } }
transitions:
  - { from: line, to: redWins, if: red == 2 and level.last }
  - { from: line, to: blueWins, if: blue == 2 }
  - { from: line, to: line, if: red == 2, level: next, fresh: level }
  - { from: [redWins, blueWins], to: line, when: input.again, fresh: run }`);
    const said = (lost: string) => reportToHtml(reportOn(simulate(match(lost), call), undefined), page());
    expect(said('lost')).toMatch(/of these fail/);
    expect(said('over')).toMatch(/runs that reach it/);
    expect(said('over')).not.toMatch(/of these fail|fail there/);
  });

  test('in Markdown no name is markup', () => {
    const text = reportToMarkdown(reportOf(hostile));
    expect(text).toMatch(/^## &#60;img src=x onerror=window\.hit=1&#62;/);
    expect(text).not.toMatch(/<\w/);
    expect(text).toContain('### Targets');
    const rows = text.split('\n').filter((line) => line.startsWith('| missed') || line.startsWith('| met'));
    for (const row of rows) expect(row.match(/(?<!\\)\|/g)).toHaveLength(6);
  });

  test('says what stands out, and of a design without any of it nothing', () => {
    expect(
      reportOf()
        .observations.map(({ player, what }) => `${player}: ${what}`)
        .join('\n'),
    ).toContain('newcomer: Foxglove Hollow is much harder than the level before');
    expect(
      reportOf(hostile)
        .observations.map(({ what }) => what)
        .join('\n'),
    ).not.toContain('harder');
  });

  test('tells three sessions, the lucky one scoring most, in the order of time', () => {
    const { stories } = reportOf();
    const best = Object.fromEntries(stories.map(({ kind, best: found }) => [kind, found!]));
    expect(best.unlucky).toBeLessThanOrEqual(best.typical!);
    expect(best.typical).toBeLessThanOrEqual(best.lucky!);
    for (const { moments } of stories) {
      const times = moments.map(({ at }) => at);
      expect(times).toEqual([...times].sort((a, b) => a - b));
      expect(moments.map(({ what }) => what).join(' ')).toMatch(
        /blossom\.taken[\s\S]*heath -> (cleared|dark)/,
      );
    }
  });
});
