import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { check, readDesign, simulate, summarize } from '../../src/index.js';

const games = ['night-post', 'rock-pool'].map(
  (name) => [name, readFileSync(new URL(`../../demo/${name}.yaml`, import.meta.url), 'utf8')] as const,
);

describe('the complete games', () => {
  test.each(games)('%s passes its check without a finding, and everything is decided', (name, text) => {
    const { passed, findings, exploration, tests } = check(readDesign(text, `${name}.yaml`));
    expect(findings).toEqual([]);
    expect([...exploration.transitions, ...exploration.parts].map(({ verdict }) => verdict)).not.toContain(
      'undecided',
    );
    expect(exploration.transitions.every(({ verdict }) => verdict === 'reached')).toBe(true);
    expect(tests.every((each) => each.passed)).toBe(true);
    expect(passed).toBe(true);
  });

  test.each(games)('%s meets its targets', (_, text) => {
    const { targets } = summarize(simulate(readDesign(text), { sessions: 300, seed: 7 }));
    expect(targets.filter(({ verdict }) => verdict !== 'met')).toEqual([]);
  });

  test('each dial of them moves what it is for', () => {
    const text = games[0]![1];
    const scores = ['postage: { value: 5', 'postage: { value: 10'].map((dial) => {
      const turned = text.replace('postage: { value: 5', dial);
      const { players } = summarize(simulate(readDesign(turned), { sessions: 100, seed: 1 }));
      return players.postmaster!.score!.p50;
    });
    expect(scores[1]!).toBeGreaterThan(1.5 * scores[0]!);
  });
});
