import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type Design, DesignError, readDesign, Session, type Snapshot } from '../../src/index.js';
import { demo } from '../support/designs.js';
import { designText, drive, happenings } from '../support/generated-designs.js';
import { countedRuns } from '../support/runs.js';

/** Numbers that a damaged file could hold in the place of one of the state's. */
const odd = fc.constantFrom(
  -1e308,
  1e308,
  -1,
  0.5,
  1e6,
  2 ** 53,
  -(2 ** 53),
  Number.MAX_SAFE_INTEGER,
  null,
  'x',
  undefined,
  true,
);

/** A session, or undefined for a design that faults at its very start. */
function started(design: Design): Session | undefined {
  try {
    return new Session(design);
  } catch (error) {
    if (error instanceof DesignError) return undefined;
    throw error;
  }
}

/** Goes on for a while; only a fault of the design may end it. */
function goOn(session: Session): void {
  try {
    for (let tenths = 0; tenths < 20; tenths++) {
      for (const event of session.possible) session.send(event);
      session.advance(100);
    }
    void [session.hud, session.text, session.lists, session.course];
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
  }
}

test('a snapshot of any session is taken up, and with any of its numbers changed is refused or can be played', () => {
  let refused = 0;
  fc.assert(
    fc.property(designText, happenings, fc.nat(), odd, (text, happened, where, value) => {
      const design = readDesign(text);
      const session = started(design);
      if (session === undefined) return;
      try {
        drive(session, happened);
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
      }
      const whole = JSON.parse(JSON.stringify(session.snapshot())) as Snapshot;
      new Session(design).restore(whole);
      const cells = [...whole.cells] as unknown[];
      cells[where % cells.length] = value;
      const later = new Session(design);
      try {
        later.restore({ ...whole, cells });
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
        refused++;
        expect(later.snapshot()).toEqual(new Session(design).snapshot());
        return;
      }
      goOn(later);
    }),
    countedRuns(150, 60),
  );
  expect(refused).toBeGreaterThan(50);
});

test.each([
  ['spawn', (form: Cells) => form.spawnDue, -1e15],
  ['number of blossom', (form: Cells) => form.present, -1],
  ['number of blossom', (form: Cells) => form.present, 10_001],
  ['number of spawned pieces', (form: Cells) => form.spawnMade, -5],
  ['daylight', (form: Cells) => form.timers, 0],
])('damage is named: %s', (what, cell, value) => {
  const session = new Session(demo());
  session.send('input.start');
  session.advance(3000);
  const snapshot = session.snapshot();
  const { cells: at } = (session as unknown as { form: { cells: Cells } }).form;
  const cells = snapshot.cells.with(cell(at), value);
  expect(() => session.restore({ ...snapshot, cells })).toThrow(`its ${what} is out of range`);
});

interface Cells {
  readonly spawnDue: number;
  readonly spawnMade: number;
  readonly present: number;
  readonly timers: number;
}
