import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { describe, expect, test } from 'vitest';
import {
  gameOf,
  type KeepStorage,
  readDesign,
  readRecord,
  recordOf,
  replay,
  Session,
  writeRecord,
} from '../../src/index.js';

const design = readDesign(`
title: Shared
counters:
  score: { start: 0 }
  best: { start: 0, keep: forever }
  record: { start: 0, keep: forever }
  fastest: { start: 999, keep: forever }
  gathered: { start: 0, max: 100, keep: forever }
  mood: { words: [calm, merry, wild], keep: forever }
pieces: { berry: { is: collectible } }
rules:
  - when: berry.taken
    do: [{ add: { score: 10, gathered: 1 } }, { set: { best: "max(best, score)", fastest: "min(fastest, 100 - score)" } }]
  - { if: score > record and score > 0, when: berry.taken, do: [{ set: { record: score } }] }
  - { when: input.laugh, do: [{ set: { mood: "mood == calm ? merry : wild" } }] }
  - { when: input.enter, do: [{ cue: bell }] }
  - { when: input.rest, do: [{ set: { mood: calm } }] }
lists: { top: { of: score, when: input.enter, length: 3 } }
hud: [{ show: best }]
`);

function page() {
  const kept = new Map<string, string>();
  const pages: { hear: (event: { key: string | null }) => void; own: object }[] = [];
  /** What one page sees of the storage: its own writes are told to the others only. */
  const open = () => {
    const own = {};
    return {
      storage: {
        getItem: (key: string) => kept.get(key) ?? null,
        setItem: (key: string, value: string) => {
          kept.set(key, value);
          for (const each of [...pages]) if (each.own !== own) each.hear({ key });
        },
      },
      storageEvents: {
        addEventListener: (_: 'storage', hear: (event: { key: string | null }) => void) =>
          void pages.push({ hear, own }),
        removeEventListener: () => {},
      },
    };
  };
  return { kept, open };
}
/** The same storage, which can be full for a while. */
const fillable = (storage: KeepStorage) => ({
  isFull: false,
  getItem: storage.getItem,
  setItem(key: string, value: string) {
    if (this.isFull) throw new Error('full');
    storage.setItem(key, value);
  },
});
const gather = (session: Session, berries: number): void => {
  for (let each = 0; each < berries; each++) session.send('berry.taken');
};

describe('two sessions on one storage', () => {
  test('a best of 50 does not become 10, and nothing of a sum or a list is lost', () => {
    const { kept, open } = page();
    const one = new Session(design, { storage: open().storage });
    const other = new Session(design, { storage: open().storage });
    gather(one, 5);
    one.send('input.enter');
    gather(other, 1);
    other.send('input.enter');
    one.send('input.enter');
    expect(JSON.parse(kept.get('jocus Shared')!)).toEqual({
      best: 50,
      record: 50,
      fastest: 50,
      gathered: 6,
      mood: 'calm',
      top: [50, 50, 10],
    });
    expect(new Session(design, { storage: open().storage }).counters).toMatchObject({
      best: 50,
      record: 50,
      gathered: 6,
    });
  });

  test('that hear its events show what the other has kept, and their records replay', () => {
    const { open } = page();
    const one = new Session(design, open());
    const other = new Session(design, open());
    const seen: unknown[] = [];
    other.on('counter', ({ counter, by, after }) => by === 'another session' && seen.push([counter, after]));
    gather(other, 1);
    one.advance(500);
    other.advance(700);
    gather(one, 3);
    one.send('input.laugh');
    one.send('input.enter');
    gather(other, 1);
    for (const session of [one, other]) {
      expect(session.counters).toMatchObject({
        best: 30,
        record: 30,
        fastest: 70,
        gathered: 5,
        mood: 'merry',
      });
      expect(session.lists).toEqual({ top: [30] });
    }
    expect(seen).toContainEqual(['best', 30]);
    const record = readRecord(writeRecord(recordOf(other)));
    expect(record.lines).toContainEqual({ at: 700, kept: expect.objectContaining({ best: 30 }) });
    expect(replay(design, record).counters).toEqual(other.counters);
  });

  test('what the storage does not take stays in this session, and goes there later', () => {
    const { kept, open } = page();
    const full = fillable(open().storage);
    full.isFull = true;
    const session = new Session(design, { storage: full });
    gather(session, 2);
    session.send('input.enter');
    expect([session.lists, kept.size]).toEqual([{ top: [20] }, 0]);
    full.isFull = false;
    gather(session, 1);
    session.send('input.enter');
    expect(JSON.parse(kept.get('jocus Shared')!)).toMatchObject({ best: 30, gathered: 3, top: [30, 20] });
  });

  test('what the storage did not take is added to what others keep there later', () => {
    const { kept, open } = page();
    const mine = fillable(open().storage);
    const session = new Session(design, { storage: mine });
    gather(session, 1);
    mine.isFull = true;
    gather(session, 3);
    gather(new Session(design, { storage: open().storage }), 2);
    mine.isFull = false;
    gather(session, 1);
    expect(JSON.parse(kept.get('jocus Shared')!)).toMatchObject({ gathered: 7 });
  });

  test('a reload and a restore count nothing twice', () => {
    const { kept, open } = page();
    const game = gameOf(design);
    const session = game.start({ storage: open().storage });
    gather(session as Session, 3);
    session.send('input.enter');
    const snapshot = session.snapshot();
    for (let times = 0; times < 2; times++) session.reload(gameOf(design));
    expect(session.lists).toEqual({ top: [30] });
    gather(session as Session, 1);
    session.send('input.enter');
    expect(JSON.parse(kept.get('jocus Shared')!)).toMatchObject({ best: 40, gathered: 4, top: [40, 30] });
    const later = game.start({ storage: open().storage });
    later.restore(snapshot);
    gather(later as Session, 1);
    expect(JSON.parse(kept.get('jocus Shared')!)).toMatchObject({ best: 40, gathered: 5 });
  });

  test('keeps what a later version of the design keeps too', () => {
    const { kept, open } = page();
    kept.set('jocus Shared', '{"stars":7,"best":20}');
    const session = new Session(design, { storage: open().storage });
    gather(session, 3);
    expect(JSON.parse(kept.get('jocus Shared')!)).toMatchObject({ stars: 7, best: 30 });
  });
});

test('left counts what a game makes appear itself', () => {
  const own = readDesign(`
pieces: { berry: { is: collectible } }
levels: [{ spawn: [{ piece: berry, every: 1, total: 2 }] }]
screens: { glade: { live: true }, end: { ending: won } }
transitions: [{ from: glade, to: end, if: left.berry == 0 }]
`);
  const session = new Session(own, { spawns: false });
  for (const event of ['berry.appeared', 'berry.taken', 'berry.appeared']) session.send(event);
  expect(session.screen).toBe('glade');
  session.send('berry.taken');
  expect(session.screen).toBe('end');
});

test('sessions are let go of within the call that plays them', () => {
  setFlagsFromString('--expose-gc');
  const gc = runInNewContext('gc') as () => void;
  const play = (times: number): number => {
    for (let time = 0; time < times; time++) new Session(design).send('berry.taken');
    gc();
    return process.memoryUsage().heapUsed;
  };
  const before = play(200);
  // A session held would be some twenty kilobytes.
  expect(play(1000) - before).toBeLessThan(4_000_000);
});
