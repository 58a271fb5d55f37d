import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { parse, stringify } from 'yaml';
import { check, readDesign, simulate, summarize } from '../src/index.js';

const readme = readFileSync(new URL('../README.md', import.meta.url), 'utf8');
const blocks = [...readme.matchAll(/```yaml\n([\s\S]*?)```/g)].map(([, block]) => parse(block!));

/** The blocks of the guide so far, put together as a reader would. */
function together(count: number): string {
  const design: Record<string, unknown> = {};
  for (const block of blocks.slice(0, count)) {
    for (const [key, part] of Object.entries(block)) {
      const before = design[key];
      design[key] = Array.isArray(part)
        ? [...((before as unknown[]) ?? []), ...part]
        : { ...(before as object), ...(part as object) };
    }
  }
  if (count >= 3)
    (design.levels as { spawn: unknown[] }[])[0]!.spawn.push({ piece: 'wasp', every: 5, first: 3 });
  return stringify(design);
}

describe('the first design of the README', () => {
  test('has five steps', () => {
    expect(blocks).toHaveLength(5);
  });

  test.each([1, 2, 3])('passes its check after step %i, with hints only', (step) => {
    const { passed, findings, tests } = check(readDesign(together(step)));
    expect(passed).toBe(true);
    expect(findings.every(({ severity }) => severity === 'hint')).toBe(true);
    expect(tests).toMatchObject([{ passed: true }]);
  });

  test('is complete after step 4: every transition reached, and what is forgotten is found', () => {
    const text = together(4).replace(
      'do:\n      - expect:',
      'given: { screen: heath }\n    do:\n      - expect:',
    );
    expect(check(readDesign(text)).findings).toEqual([]);
    const forgotten = parse(text);
    forgotten.transitions.pop();
    expect(check(readDesign(stringify(forgotten))).findings.map(({ code }) => code)).toEqual(['no-way-back']);
  });

  test('meets its target after step 5', () => {
    const { targets } = summarize(simulate(readDesign(together(5)), { sessions: 1000, seed: 1 }));
    expect(targets).toMatchObject([{ verdict: 'met' }]);
  });
});

test('the world of the README is one that simulated players can play in', async () => {
  const [code] = [...readme.matchAll(/```ts\n([\s\S]*?)```/g)]
    .map(([, block]) => block!)
    .filter((block) => block.startsWith('export default {\n  step'));
  const { default: world } = await import(
    /* @vite-ignore */ `data:text/javascript,${encodeURIComponent(code!)}`
  );
  const { tally } = simulate(readDesign(together(5)), { sessions: 2, seed: 1, world }).players[0]!;
  expect(tally.fired[0]).toBeGreaterThan(0);
});
