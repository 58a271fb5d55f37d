import fc from 'fast-check';
import { expect, test } from 'vitest';
import { changeDesign } from '../../src/design/text/change.js';
import { check, DesignError, readDesign } from '../../src/index.js';
import { mendOf } from '../../src/inspect/mend.js';
import { smallScoring } from '../support/plain-explorer.js';
import { Reference } from '../support/reference.js';
import { countedRuns } from '../support/runs.js';

/** Milliseconds of one look at what time alone brings about. */
const look = 250;

/** What counters hold each time that a screen is come to, by the slow reading; steps are those of a witness. */
function holdings(reading: Reference, steps: readonly string[], screen: string): Map<string, unknown>[] {
  const seen: Map<string, unknown>[] = [];
  let before = '';
  const see = (): void => {
    if (reading.screen === screen && before !== screen)
      seen.push(new Map([...reading.counters, ['level', reading.level + 1]]));
    before = reading.screen;
  };
  see();
  for (const step of steps) {
    const [, times = '1', what] = /^(?:(\d+) x )?(.*)$/.exec(step)!;
    if (what!.startsWith('wait ')) {
      const end = reading.now + Number(what!.slice(5)) * 1000;
      while (reading.now < end) {
        reading.advance(Math.min(end, reading.now + look));
        see();
      }
      continue;
    }
    for (let count = 0; count < Number(times); count++) {
      // A way from a screen to itself comes to it anew.
      if (what!.startsWith('input.')) before = '';
      reading.send(what!);
      see();
    }
  }
  return seen;
}

test('what is said to be left over after a way back is, in the slow reading', () => {
  let told = 0;
  fc.assert(
    fc.property(smallScoring, (text) => {
      const design = readDesign(text);
      let findings: ReturnType<typeof check>['findings'];
      try {
        ({ findings } = check(design, { mostStates: 20_000 }));
      } catch (error) {
        if (error instanceof DesignError) return;
        throw error;
      }
      for (const { code, details, witness = [] } of findings) {
        if (code !== 'residue') continue;
        const { differences } = details as { differences: string };
        const reading = new Reference(design, 1, false);
        const seen = holdings(reading, witness, 'play');
        for (const [difference, name, now, first] of differences.matchAll(
          /(\w[\w ]*?) is ([^,]+), not ([^,]+)/g,
        )) {
          if (!seen[0]?.has(name!)) continue;
          told++;
          expect(String(seen[0].get(name!)), `${difference} after ${witness}`).toBe(first);
          expect(String(seen.at(-1)!.get(name!)), `${difference} after ${witness}`).toBe(now);
        }
      }
    }),
    countedRuns(120, 80),
  );
  expect(told).toBeGreaterThan(2);
});

test('a way back that begins afresh does not hide another that does not, and that one is mended', () => {
  const orchard = (help: string) => `counters: { score: {} }
timers: { night: { countdown: 20 } }
pieces: { bale: { is: collectible } }
levels: [{ place: { bale: 2 } }]
rules: [{ when: bale.taken, do: [{ add: { score: 5 } }] }]
screens: { gate: {}, how: { text: Press back }, row: { live: true }, cold: { ending: lost } }
transitions:
  - { from: gate, to: row, when: input.start, fresh: run }
  - { from: gate, to: how, when: input.help }
  - ${help}
  - { from: row, to: cold, when: night.ended }
  - { from: cold, to: gate, when: input.leave }
hud: [{ show: score }, { show: night }]
`;
  const found = (text: string) => check(readDesign(text)).findings.filter(({ code }) => code === 'residue');
  expect(found(orchard('{ from: how, to: back, when: input.back }'))).toEqual([]);
  const text = orchard('{ from: how, to: row, when: input.back }');
  const [residue, ...more] = found(text);
  expect(more).toEqual([]);
  expect(residue!.message).toMatch(
    /^After how -> row, play does not start as it does the first time: score is 5, not 0/,
  );
  expect(residue!.witness).toEqual([
    'input.start',
    'bale.taken',
    'wait 20',
    'input.leave',
    'input.help',
    'input.back',
  ]);
  const mended = changeDesign(text, mendOf(readDesign(text), residue!)!);
  expect(mended).toContain('{ from: how, to: row, when: input.back, fresh: run }');
  expect(found(mended)).toEqual([]);
});
