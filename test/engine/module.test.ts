import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { formOf } from '../../src/engine/program/lower/lower.js';
import { declarationText, moduleText } from '../../src/engine/run/module-text.js';
import { type DesignError, type Game, type GameSession, readDesign, Session } from '../../src/index.js';
import { demo, demoFile, demoText } from '../support/designs.js';
import { designText, happenings } from '../support/generated-designs.js';
import { runs } from '../support/runs.js';

const runtime = readFileSync(new URL('../../dist/engine.iife.js', import.meta.url), 'utf8');

/** The game that the module of a design exports. */
async function imported(text: string): Promise<Game> {
  const code = moduleText(formOf(readDesign(text)), { runtime });
  const module = await import(/* @vite-ignore */ `data:text/javascript,${encodeURIComponent(code)}`);
  return module.default;
}

/** What a session comes to, one line for each happening; a fault ends it. */
function tell(start: () => GameSession, happened: readonly (string | number)[]): string[] {
  const told: string[] = [];
  try {
    const session = start();
    session.listen((step) => told.push(JSON.stringify(step)));
    for (const each of happened) {
      if (typeof each === 'number') session.advance(each);
      else told.push(session.send(each));
      told.push(JSON.stringify([session.snapshot().cells, session.text, session.hud, session.possible]));
    }
  } catch (error) {
    // The module carries an error class of its own.
    const { problems } = error as DesignError;
    if (problems === undefined) throw error;
    told.push(problems[0]!.code);
  }
  return told;
}

describe('a design as a module', () => {
  test('plays as the design does, steps, texts and faults alike', async () => {
    await fc.assert(
      fc.asyncProperty(designText, happenings, fc.nat(), async (text, happened, seed) => {
        const game = await imported(text);
        const expected = tell(() => new Session(readDesign(text), { seed }), happened);
        expect(tell(() => game.start({ seed }), happened)).toEqual(expected);
      }),
      runs(60),
    );
  });

  test('plays the demo, HUD and all, and saves a record that the design replays', async () => {
    const game = await imported(demoText);
    const session = game.start({ seed: 5 });
    session.send('input.start');
    session.advance(2000);
    session.send('blossom.taken');
    expect(session.counter('score')).toBe(10);
    expect(session.hud.map(({ spoken }) => spoken)).toContain('Lives: 3 of 5');
    expect(session.fingerprint).toBe(demo().fingerprint);
  });

  test('carries no reader: neither the parser of expressions, nor YAML, nor a schema', () => {
    for (const word of ['acorn', 'zod', 'levenshtein', 'new Function']) expect(runtime).not.toContain(word);
    expect(runtime.length).toBeLessThan(34_000);
  });

  test('keeps markup and line ends in names and texts as plain text', async () => {
    const game = await imported(
      '{ title: "</script>\\u2028*/ `$`", counters: { score: {} }, screens: { play: { live: true, text: "\\"; throw 1; //{score}" } } }',
    );
    expect([game.start().title, game.start().text]).toEqual(['</script>\u2028*/ `$`', '"; throw 1; //0']);
  });

  test('declares the names of the demo as they are kept beside it', () => {
    const beside = readFileSync(demoFile.replace('.yaml', '.d.yaml.ts'), 'utf8');
    expect(beside).toBe(declarationText(formOf(readDesign(demoText, 'dusk-on-the-heath.yaml'))));
  });

  test('declares the names of the design, so that a misspelt one is an error of the compiler', async () => {
    expect(
      declarationText(
        formOf(readDesign('{ counters: { bee: { words: [worker, drone] }, asleep: { start: true } } }')),
      ),
    ).toContain('  counters: {\n    bee: "worker" | "drone";\n    asleep: boolean;\n  };\n');
    type Names = {
      counters: { score: number; bee: 'worker' | 'drone' };
      screens: 'title' | 'heath';
      events: 'input.start' | 'blossom.taken';
      timers: never;
      cues: 'chime';
    };
    const check = (session: GameSession<Names>): void => {
      session.send('blossom.taken');
      // @ts-expect-error there is no such event
      session.send('blossom.takn');
      // @ts-expect-error there is no such counter
      session.counter('scroe');
      // @ts-expect-error a drone is no queen
      session.counters.bee === 'queen';
      const score: number = session.counter('score');
      session.on('screen', ({ to }) => to === 'heath');
      // @ts-expect-error there is no such screen
      session.on('screen', ({ to }) => to === 'moor');
      expect(score).toBe(0);
    };
    const game = await imported(
      '{ counters: { score: {}, bee: { words: [worker, drone] } }, pieces: { blossom: { is: collectible } } }',
    );
    expect(() => check(game.start() as unknown as GameSession<Names>)).toThrow(/no counter "scroe"/);
  });
});
