import type { Design, Piece } from '../../src/design/model.js';
import type { Form } from '../../src/engine/program/form.js';
import { formOf } from '../../src/engine/program/lower/lower.js';
import type { ClosedSet } from '../../src/explore/evidence/verdict.js';
import { DesignError } from '../../src/index.js';
import { Reference } from './reference.js';

/** Moves of one design that are tried: the slow reading is slow. */
const mostMoves = 1500;

/** Later than anything that a step looks at. */
export const farOff = 1e12;

/** The slow reading of a design, put into a state of the search: cells as the search left them, no rest and no grace. */
export function readingOf(design: Design, form: Form, cells: Float64Array, seed: number): Reference {
  const reading = new Reference(design, seed);
  const at = form.cells;
  reading.now = reading.live = 0;
  reading.timeOn.clear();
  reading.screen = design.screens[cells[at.screen]!]!.name;
  reading.level = cells[at.level]!;
  reading.waited = cells[at.waited]!;
  reading.entered = -reading.waited;
  reading.graceEnds = 0;
  design.counters.forEach(({ name, kind, places }, index) => {
    const cell = cells[at.counters + index]!;
    reading.counters.set(name, kind === 'flag' ? cell !== 0 : cell / 10 ** places);
  });
  design.timers.forEach(({ name }, index) => {
    reading.timers.set(
      name,
      cells[at.timers + index] === Number.POSITIVE_INFINITY ? Number.POSITIVE_INFINITY : farOff,
    );
    reading.warnings.set(name, Number.POSITIVE_INFINITY);
  });
  design.pieces.forEach(({ name }, index) => {
    reading.present.set(name, cells[at.present + index]!);
  });
  const { spawns } = design.levels[Math.min(reading.level, design.levels.length - 1)]!;
  reading.spawns = spawns.map((_, slot) => ({ due: farOff, made: cells[at.spawnMade + slot]! }));
  reading.course = Array.from({ length: reading.course.length }, () => undefined);
  reading.rests.clear();
  reading.wasTrue.clear();
  reading.spent.clear();
  design.rules.forEach((rule, index) => {
    const { memoryCell, onceCell } = form.rules[index]!;
    if (rule.passes !== undefined) reading.passed.set(rule, cells[memoryCell]!);
    else if (memoryCell >= 0 && cells[memoryCell] !== 0) reading.wasTrue.add(rule);
    if (onceCell >= 0 && cells[onceCell] !== 0) reading.spent.add(rule);
  });
  form.screens.forEach(({ name, backCell }) => {
    if (backCell < 0) return;
    const screen = design.screens[cells[backCell]!]!.name;
    reading.returns.set(name, { screen, lasted: 0, waited: cells[backCell + 2]! });
  });
  reading.log.length = 0;
  return reading;
}

/** The cells that a reading stands for, as far as the search looks at them. */
export function cellsOf(reading: Reference, design: Design, form: Form, before: Float64Array): Float64Array {
  const cells = before.slice();
  const at = form.cells;
  cells[at.screen] = design.screens.findIndex(({ name }) => name === reading.screen);
  cells[at.level] = reading.level;
  cells[at.waited] = reading.waited;
  design.counters.forEach(({ name, places }, index) => {
    cells[at.counters + index] = Math.round(Number(reading.counters.get(name)) * 10 ** places);
  });
  design.timers.forEach(({ name }, index) => {
    cells[at.timers + index] = reading.timers.get(name)!;
  });
  design.pieces.forEach(({ name }, index) => {
    cells[at.present + index] = reading.present.get(name)!;
  });
  for (let slot = 0; slot < at.spawnMade - at.spawnDue; slot++)
    cells[at.spawnMade + slot] = reading.spawns[slot]?.made ?? 0;
  design.rules.forEach((rule, index) => {
    const { memoryCell, onceCell } = form.rules[index]!;
    if (memoryCell >= 0)
      cells[memoryCell] =
        rule.passes === undefined ? Number(reading.wasTrue.has(rule)) : reading.passed.get(rule)!;
    if (onceCell >= 0) cells[onceCell] = Number(reading.spent.has(rule));
  });
  form.screens.forEach(({ name, backCell }) => {
    const back = reading.returns.get(name);
    if (backCell < 0 || back === undefined) return;
    cells[backCell] = design.screens.findIndex((screen) => screen.name === back.screen);
    cells[backCell + 2] = back.waited;
  });
  return cells;
}

/** Everything that may come next in a state, each as a change of the reading. */
function movesIn(
  design: Design,
  reading: Reference,
  tracked: ReadonlySet<string>,
  followed: ReadonlySet<string>,
): ((of: Reference) => void)[] {
  const level = design.levels[Math.min(reading.level, design.levels.length - 1)]!;
  const inLevel = (name: string, of = level): boolean =>
    of.placed.some(({ piece, count }) => piece === name && count !== 0) ||
    of.spawns.some(({ piece }) => piece === name) ||
    of.course.includes(name);
  const byEffect = (name: string): boolean =>
    [...design.rules, ...design.transitions].some(({ effects }) =>
      effects.some(
        (effect) =>
          (effect.kind === 'spawn' && effect.pieces.some(({ piece }) => piece === name)) ||
          (effect.kind === 'become' && effect.changes.some(({ to }) => to === name)),
      ),
    );
  const isMade = (name: string): boolean =>
    byEffect(name) || design.levels.some((each) => inLevel(name, each));
  const canBeThere = ({ name }: Piece): boolean =>
    (!isMade(name) || byEffect(name) || inLevel(name)) &&
    (!tracked.has(name) || reading.present.get(name)! > 0);
  const moves: ((of: Reference) => void)[] = [];
  for (const event of design.events) if (event.startsWith('input.')) moves.push((of) => of.send(event));
  if (reading.isLive) {
    for (const piece of design.pieces) {
      if (!isMade(piece.name)) moves.push((of) => of.send(`${piece.name}.appeared`));
      if (!canBeThere(piece)) continue;
      for (const { name } of piece.outcomes) moves.push((of) => of.send(`${piece.name}.${name}`));
    }
    level.spawns.forEach(({ piece, total }, slot) => {
      // How many a spawn has made of a piece that the search does not follow is nothing to it.
      if (!followed.has(piece)) return;
      if (typeof total !== 'object' && reading.spawns[slot]!.made >= reading.meant(total)) return;
      moves.push((of) => {
        of.spawns[slot]!.due = 0;
        of.advance(0);
      });
    });
  }
  for (const { name, screens, warn } of design.timers) {
    if (reading.timers.get(name) === Number.POSITIVE_INFINITY || !screens.includes(reading.screen)) continue;
    moves.push((of) => {
      of.timers.set(name, 0);
      of.advance(0);
    });
    if (warn.length > 0) {
      moves.push((of) => {
        of.warnings.set(name, 0);
        of.advance(0);
      });
    }
  }
  const waits = design.transitions.flatMap(({ from, wait }) =>
    from === reading.screen && reading.length(wait) > reading.waited ? [reading.length(wait)] : [],
  );
  if (waits.length > 0) {
    const next = Math.min(...waits);
    moves.push((of) => {
      of.entered = -next;
      of.advance(0);
    });
  }
  return moves;
}

/**
 * Steps that lead out of the closed set of what is called unreachable, or take one of these transitions; each in words. The
 * steps are made by the slow reading, which knows nothing of the search: every counter that the search leaves out is given
 * another value first, and some rules a rest.
 *
 * @param isTaken whether something of the log of a step is one of the unreachable transitions
 */
export function holesIn(
  design: Design,
  { game, states }: ClosedSet,
  seed: number,
  isTaken: (line: string) => boolean,
): string[] {
  const form = formOf(design);
  const { cone } = game;
  const state = new Float64Array(game.width);
  const known = new Set<string>();
  for (let row = 0; row < states.length; row++) {
    states.read(row, state);
    known.add(state.join());
  }
  const tracked = new Set(cone.pieces.map((piece) => design.pieces[piece]!.name));
  const followed = new Set([
    ...tracked,
    ...form.pieces.flatMap(({ name, appeared }) => (cone.events.has(appeared) ? [name] : [])),
  ]);
  const holes: string[] = [];
  let made = 0;
  for (let row = 0; row < states.length && made < mostMoves; row++) {
    states.read(row, state);
    game.write(state);
    const cells = game.machine.cells.slice();
    form.counters.forEach(({ min, max }, counter) => {
      const other = Math.min(max, Math.max(min, (row * 7 + seed) % 5));
      if (!cone.counters.includes(counter)) cells[form.cells.counters + counter] = other;
    });
    const count = movesIn(design, readingOf(design, form, cells, seed), tracked, followed).length;
    for (let move = 0; move < count; move++) {
      made++;
      const reading = readingOf(design, form, cells, seed + row + move);
      design.rules.forEach((rule, index) => {
        if (rule.rest !== 0 && (row + move + index) % 3 === 0) reading.rests.set(rule, farOff);
      });
      try {
        movesIn(design, reading, tracked, followed)[move]!(reading);
      } catch (error) {
        if (
          error instanceof DesignError ||
          /endless-chain|no-next-level|number-too-large|too-many-pieces/.test(String(error))
        )
          continue;
        throw error;
      }
      game.read(state, cellsOf(reading, design, form, cells));
      if (!known.has(state.join()))
        holes.push(`move ${move} leads out of state ${row}: ${reading.log.join(', ')}`);
      for (const line of reading.log)
        if (isTaken(line)) holes.push(`move ${move} takes ${line} from state ${row}`);
    }
  }
  return holes;
}
