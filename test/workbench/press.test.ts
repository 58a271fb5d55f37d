import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { clicksOn } from '../../workbench/src/press.js';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

test('what comes in waits for a click that is under way, and for its end, but not for a drag', async () => {
  const page = new EventTarget();
  const noClick = clicksOn(page);
  const told: string[] = [];
  const tell = (what: string) => noClick().then(() => told.push(what));
  const pass = (milliseconds: number) => vi.advanceTimersByTimeAsync(milliseconds);
  tell('nothing is pressed');
  await pass(0);
  expect(told).toEqual(['nothing is pressed']);
  page.dispatchEvent(new Event('pointerdown'));
  tell('pressed');
  await pass(300);
  page.addEventListener('pointerup', () => told.push('let go'));
  page.dispatchEvent(new Event('pointerup'));
  await pass(0);
  expect(told.slice(1)).toEqual(['let go', 'pressed']);
  page.dispatchEvent(new Event('pointerdown'));
  tell('dragged');
  await pass(399);
  expect(told).not.toContain('dragged');
  await pass(1);
  tell('further');
  await pass(0);
  expect(told.slice(3)).toEqual(['dragged', 'further']);
});
