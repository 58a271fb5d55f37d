import { createRequire } from 'node:module';
import { Ajv } from 'ajv';
import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { check, checkToJunit, checkToSarif, flowToScxml, flowToSvg, readDesign } from '../../src/index.js';
import { launch } from '../support/browser.js';
import { changed, demo } from '../support/designs.js';

let browser: Browser;
beforeAll(async () => {
  browser = await launch();
});
afterAll(() => browser?.close());

/** Reads XML with the browser's own parser and says how often each selector matches, and what the texts are. */
async function readBack(text: string, selectors: readonly string[]) {
  const page = await browser.newPage();
  const read = await page.evaluate(
    ([xml, wanted]) => {
      const parsed = new DOMParser().parseFromString(xml, 'application/xml');
      return {
        fault: parsed.querySelector('parsererror')?.textContent,
        counts: wanted.map((selector) => parsed.querySelectorAll(selector).length),
        texts: [...parsed.querySelectorAll('text, title')].map((node) => node.textContent),
        attributes: [...parsed.querySelectorAll('*')].flatMap((node) =>
          [...node.attributes].map(({ value }) => value),
        ),
      };
    },
    [text, selectors] as const,
  );
  await page.close();
  return read;
}

const broken = check(readDesign(changed('quota: 12', 'quota: 61'), 'heath.yaml'));
const hostile = check(
  readDesign(
    '{ title: "<script>alert(1)</script> & \\u0001 \\"", counters: { score: { start: 1 } }, screens: { heath: { live: true }, pause: {}, dark: { ending: lost, text: x } }, transitions: [{ from: heath, to: pause, when: input.pause }, { from: pause, to: back, when: input.go, wait: 1 }, { from: heath, to: dark, if: not (score > 0) and score < 2 or score == 7 }, { from: dark, to: heath, when: input.again, fresh: run }] }',
  ),
);

describe('the flow as SVG', () => {
  test('has every screen and every transition with its verdict, in words and in dashes', async () => {
    const { fault, counts, texts } = await readBack(flowToSvg(broken.design, broken.exploration), [
      'g.reached',
      'g.unreachable',
      'svg > title',
    ]);
    expect([fault, counts]).toEqual([undefined, [7, 5, 1]]);
    for (const text of [
      'title',
      'heath',
      'nightfall',
      'live',
      'ending, lost',
      'when input.start',
      'wait 2',
      'unreachable',
    ])
      expect(texts).toContain(text);
    expect(texts).toContain('heath -> cleared: unreachable');
  });

  test('holds markup in names as text', async () => {
    const { fault, counts, texts } = await readBack(flowToSvg(hostile.design, hostile.exploration), [
      'script',
    ]);
    expect([fault, counts]).toEqual([undefined, [0]]);
    expect(texts[0]).toContain('<script>alert(1)</script>');
  });
});

describe('the flow as SCXML', () => {
  test('has a state for each screen, and its transitions in order', async () => {
    const { fault, counts, attributes } = await readBack(flowToScxml(broken.design, broken.exploration), [
      'scxml[initial="title"] > state',
      'state#heath > transition',
      'state#cleared > onentry > send[delay="2s"]',
      'transition[event="input.start"][target="heath"]',
      'datamodel > data',
    ]);
    expect([fault, counts]).toEqual([undefined, [6, 4, 1, 1, 5]]);
    expect(attributes).toContain('(nectar >= level.quota && level.last)');
  });

  test('leads back to each screen that a pause may have been entered from', async () => {
    const text = flowToScxml(hostile.design, hostile.exploration);
    const { fault, counts, attributes } = await readBack(text, [
      'state#pause > transition[target="heath"]',
      'state#heath > transition[target="pause"] > assign',
    ]);
    expect([fault, counts]).toEqual([undefined, [1, 1]]);
    expect(attributes).toContain("(enteredFrom === 'heath')");
    expect(attributes).toContain('(!(score > 0) && score < 2 || score == 7)');
  });
});

describe('a check as JUnit XML', () => {
  test('fails what cannot be taken, the tests that fail, and findings that are errors', async () => {
    const { fault, counts } = await readBack(checkToJunit(broken), [
      'testsuite[name="flow"] > testcase',
      'testsuite[name="flow"] failure',
      'testsuite[name="tests"] > testcase',
      'testsuite[name="tests"] failure',
      'testsuite[name="findings"] failure',
    ]);
    expect([fault, counts]).toEqual([undefined, [12, 5, 12, 3, 4]]);
    expect((await readBack(checkToJunit(check(demo())), ['failure'])).counts).toEqual([0]);
    expect((await readBack(checkToJunit(hostile), ['testsuites'])).fault).toBeUndefined();
  });
});

describe('a check as SARIF', () => {
  test('is valid by the published schema', () => {
    const published = createRequire(import.meta.url)(
      '@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json',
    );
    // It calls itself draft 4, and uses nothing of it that draft 7 says otherwise but the key of its own name.
    const { $schema: _, id: __, ...schema } = published;
    const isValid = new Ajv({ strict: false, validateFormats: false, unicodeRegExp: false }).compile(schema);
    for (const each of [broken, hostile, check(demo())]) {
      expect(isValid(checkToSarif(each)), JSON.stringify(isValid.errors)).toBe(true);
    }
    expect(isValid({ ...checkToSarif(broken), runs: [{}] })).toBe(false);
  });

  test('has a rule for each code and a place for each finding', () => {
    const { version, runs } = checkToSarif(broken);
    const [run] = runs;
    const rules = run!.tool.driver.rules!.map(({ id }) => id);
    expect(version).toBe('2.1.0');
    expect(run!.results).toHaveLength(4);
    for (const { ruleId, level, locations, message } of run!.results!) {
      expect(rules).toContain(ruleId);
      expect([level, locations![0]!.physicalLocation!.artifactLocation]).toEqual([
        'error',
        { uri: 'heath.yaml' },
      ]);
      expect(locations![0]!.physicalLocation!.region!.startLine).toBeGreaterThan(70);
      expect(message.text).not.toBe('');
    }
  });

  test('suppresses what the design accepts, with its reason', () => {
    const text = changed('quota: 12', 'quota: 61').replace(
      'rules:\n',
      'accept: [{ finding: screen-unreachable, about: cleared, because: it is to come }]\nrules:\n',
    );
    const results = checkToSarif(check(readDesign(text))).runs[0]!.results!;
    expect(results.filter(({ suppressions }) => suppressions !== undefined)).toMatchObject([
      { ruleId: 'screen-unreachable', suppressions: [{ kind: 'inSource', justification: 'it is to come' }] },
    ]);
  });
});
