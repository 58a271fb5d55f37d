import type { Design } from '../../design/model.js';
import type { IntervalForm } from '../../engine/program/form.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { range } from '../../players/meeting/meeting.js';

/** The intervals of a design that are drawn at random, in words, those that can fall in most ways first. */
export function drawnIntervals(design: Design): string[] {
  const form = formOf(design);
  const pieces = design.pieces.map(({ name }) => name);
  const found = new Map<string, number>();
  const add = (what: string, interval: Pick<IntervalForm, 'choices'> | undefined): void => {
    if (interval !== undefined && interval.choices > 1)
      found.set(what, Math.max(interval.choices, found.get(what) ?? 0));
  };
  for (const { spawns } of form.levels)
    for (const { piece, every, first } of spawns) {
      add(`how often ${pieces[piece]} appears`, every);
      add(`when ${pieces[piece]} appears first`, first);
    }
  form.timers.forEach(({ name, interval }) => {
    add(`the timer ${name}`, interval);
  });
  for (const { name, lead } of design.pieces) add(`how soon ${name} arrives`, range(lead));
  return [...found].sort(([, a], [, b]) => b - a).map(([what, ways]) => `${what} (${ways} ways)`);
}
