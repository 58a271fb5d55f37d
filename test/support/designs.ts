import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { type Design, DesignError, type Problem, readDesign } from '../../src/index.js';

export const demoFile = fileURLToPath(new URL('../../demo/dusk-on-the-heath.yaml', import.meta.url));
export const demoText = readFileSync(demoFile, 'utf8');
export const demo = (): Design => readDesign(demoText, 'demo.yaml');

/** A game of the same kind in a few lines, for what does not need the whole demo: it passes, and is judged and simulated in no time. */
export const smallText = readFileSync(new URL('./small-heath.yaml', import.meta.url), 'utf8');

/** Every design that the project shows: the demo, its mechanics and the starters. */
export const gallery: readonly string[] = [
  demoText,
  ...['../../demo/mechanics/', '../../demo/starters/'].flatMap((path) => {
    const folder = new URL(path, import.meta.url);
    return readdirSync(folder).map((file) => readFileSync(new URL(file, folder), 'utf8'));
  }),
];

/** The demo, or another design, with one passage changed; fails where the passage is not there. */
export function changed(from: string | RegExp, to: string, of = demoText): string {
  const text = of.replace(from, to);
  if (text === of) throw new Error(`the design has no passage ${from}`);
  return text;
}

/** The problems that reading a text finds. */
export function problemsOf(text: string): readonly Problem[] {
  try {
    readDesign(text, 'bad.yaml');
  } catch (error) {
    if (error instanceof DesignError) return error.problems;
    throw error;
  }
  return [];
}

/** Problems as `code line:column`. */
export const placesOf = (text: string): string[] =>
  problemsOf(text).map(({ code, place }) => `${code} ${place.line}:${place.column}`);

/** A game whose states have no end, and of which something is left open for that: what the score is decides about a life. */
export const withoutEnd = `counters: { score: {}, lives: { start: 3, min: 0, max: 5 } }
pieces: { lantern: { is: collectible }, reed: { is: hazard } }
levels: [{ spawn: [{ piece: lantern, every: 2, atOnce: 3 }, { piece: reed, every: 5, atOnce: 2 }] }]
rules:
  - { when: lantern.taken, do: [{ add: { score: 7 * lives } }] }
  - { when: reed.hit, do: [{ add: { lives: -1 } }] }
  - { if: score % 1000 > 990, do: [{ add: { lives: 1 } }] }
screens: { lake: { live: true }, over: { ending: lost, text: Over } }
transitions: [{ from: lake, to: over, if: lives == 0 }, { from: over, to: lake, when: input.again, fresh: run }]
`;
