import { expect, test } from 'vitest';
import { Field, high, type Kind, reach, wide } from '../../workbench/src/play/field.js';

const acorn: Kind = {
  name: 'acorn',
  meets: 'sought',
  touched: 'acorn.taken',
  leftAlone: 'acorn.missed',
  beaten: undefined,
  lasts: 2000,
};
const owl: Kind = {
  ...acorn,
  name: 'owl',
  meets: 'arrives',
  touched: 'owl.hit',
  leftAlone: 'owl.beaten',
  beaten: 'owl.beaten',
};
const still = { x: 0, y: 0 };

/** Lets so many seconds pass, and gives all that happened. */
function wait(field: Field, seconds: number, isStriking = false): string[] {
  const events: string[] = [];
  for (let moment = 0; moment < seconds * 50; moment++) events.push(...field.pass(20, still, isStriking));
  return events;
}

test('as many stand there as the session says, apart from each other, from the player and from the edge', () => {
  const field = new Field([acorn]);
  field.hold({ acorn: 6 });
  expect(field.things).toHaveLength(6);
  for (const { x, y } of field.things) {
    expect(Math.min(x, y, wide - x, high - y)).toBeGreaterThan(reach);
    expect(Math.hypot(x - field.player.x, y - field.player.y)).toBeGreaterThan(2 * reach);
  }
  field.hold({ acorn: 2 });
  expect(field.things).toHaveLength(2);
  field.hold({});
  expect(field.things).toHaveLength(0);
});

test('what is left alone for as long as it lasts is missed, once', () => {
  const field = new Field([acorn]);
  field.hold({ acorn: 2 });
  expect(wait(field, 1.9)).toEqual([]);
  expect(wait(field, 1)).toEqual(['acorn.missed', 'acorn.missed']);
});

test('flying to a thing takes it, once', () => {
  const field = new Field([{ ...acorn, lasts: undefined }]);
  field.hold({ acorn: 1 });
  const [thing] = field.things;
  const events: string[] = [];
  for (let moment = 0; moment < 200; moment++) {
    const way = { x: thing!.x - field.player.x, y: thing!.y - field.player.y };
    events.push(...field.pass(20, way, false));
  }
  expect(events).toEqual(['acorn.taken']);
});

test('a foe flies at the player: it hits one who waits, and is beaten by one who strikes', () => {
  const waiting = new Field([owl]);
  waiting.hold({ owl: 1 });
  expect(wait(waiting, 6)).toEqual(['owl.hit']);
  const striking = new Field([owl]);
  striking.hold({ owl: 1 });
  expect(wait(striking, 6, true)).toEqual(['owl.beaten']);
});

test('one who gets out of the way is left alone, and nobody leaves the field', () => {
  const field = new Field([owl]);
  field.hold({ owl: 1 });
  const events: string[] = [];
  for (let moment = 0; moment < 600; moment++) events.push(...field.pass(20, { x: 0, y: 1 }, false));
  expect(events).toEqual(['owl.beaten']);
  expect(field.player.y).toBe(high - reach);
});
