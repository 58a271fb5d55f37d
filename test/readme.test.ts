import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { check, readDesign, simulate, summarize } from '../src/index.js';
import { blocksOf } from './support/pages.js';

const steps = new URL('../examples/steps/', import.meta.url);
const files = readdirSync(steps)
  .sort()
  .map((file) => ({ file, text: readFileSync(new URL(file, steps), 'utf8') }));

describe('the first design of the README', () => {
  test('is five whole files, word for word', () => {
    expect(blocksOf('README.md', 'yaml')).toEqual(files.map(({ text }) => text));
    expect(files).toHaveLength(5);
  });

  test.each(files)('$file passes its check, with hints only', ({ text }) => {
    const { passed, findings, tests } = check(readDesign(text));
    expect(passed).toBe(true);
    expect(findings.every(({ severity }) => severity === 'hint')).toBe(true);
    expect(tests.length).toBeGreaterThan(0);
    expect(tests.every(({ passed }) => passed)).toBe(true);
  });

  test('is complete after step 4: every transition reached, and what is left out is reported', () => {
    const { text } = files[3]!;
    expect(check(readDesign(text)).findings).toEqual([]);
    const withoutWayBack = text.replace(/^ {2}- \{ from: dark.*\n/m, '').replace(', input.again]', ']');
    expect(check(readDesign(withoutWayBack)).findings.map(({ code }) => code)).toContain('no-way-back');
    const notFresh = text.replace('when: input.again, fresh: run', 'when: input.again');
    expect(check(readDesign(notFresh)).passed).toBe(false);
  });

  test('meets its targets after step 5', () => {
    const { targets } = summarize(simulate(readDesign(files[4]!.text), { sessions: 1000, seed: 1 }));
    expect(targets).toMatchObject([{ verdict: 'met' }, { verdict: 'met' }]);
  });
});

test('the world of the page on games is one that simulated players can play in', async () => {
  const code = blocksOf('docs/embedding.md', 'ts').find((block) =>
    block.startsWith('export default {\n  step'),
  );
  const { default: world } = await import(
    /* @vite-ignore */ `data:text/javascript,${encodeURIComponent(code!.replace(/ satisfies .*;/, ';'))}`
  );
  const { tally } = simulate(readDesign(files[4]!.text), { sessions: 2, seed: 1, world }).players[0]!;
  expect(tally.fired[0]).toBeGreaterThan(0);
});
