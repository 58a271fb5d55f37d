import type { Design } from '../../design/model.js';
import { formOf } from '../../engine/program/lower/lower.js';
import { Tally, type TallyData } from '../../measure/tally.js';
import { choosePlayers } from '../../simulate/simulate.js';
import { type Observation, type Observed, observedColumns } from './paired.js';

/** What was played as plain data, by player in their order. */
export interface PlayedData {
  readonly tallies: readonly TallyData[];
  /** Undefined where nothing was kept of each session. */
  readonly observed?: readonly ObservedData[];
}

interface ObservedData {
  readonly hits: readonly (readonly number[])[];
  readonly all: readonly (readonly number[])[];
  readonly points: readonly (readonly number[])[];
}

export function observationToData({ simulation, of }: Observation): PlayedData {
  const plain = (columns: Iterable<Float64Array>): number[][] => [...columns].map((column) => [...column]);
  return {
    tallies: simulation.players.map(({ tally }) => tally.toData()),
    observed: simulation.players.map(({ player }) => {
      const { hits, all, points } = of.get(player.name)!;
      return {
        hits: plain(hits),
        all: plain(all),
        points: plain([...points.values()].map(({ bySession }) => bySession)),
      };
    }),
  };
}

/** What was played of one design in several parts, each of the sessions that follow those of the one before, put together. */
export function joinedObservation(
  design: Design,
  {
    seed,
    sessions,
    players,
  }: { readonly seed: number; readonly sessions: number; readonly players: readonly string[] },
  parts: readonly PlayedData[],
): Observation {
  const form = formOf(design);
  const chosen = choosePlayers(design, players).map(({ player }) => player);
  const joined = (columns: readonly (readonly number[])[]): Float64Array => Float64Array.from(columns.flat());
  const isObserved = parts.some(({ observed }) => observed !== undefined);
  const of = new Map(
    (isObserved ? chosen : []).map(({ name }, index): [string, Observed] => {
      const own = parts.map(({ observed }) => observed![index]!);
      const column = (pick: (part: (typeof own)[0]) => readonly (readonly number[])[]): Float64Array[] =>
        pick(own[0]!).map((_, quantity) => joined(own.map((part) => pick(part)[quantity]!)));
      return [
        name,
        observedColumns(
          design,
          column(({ hits }) => hits),
          column(({ all }) => all),
          column(({ points }) => points),
        ),
      ];
    }),
  );
  const tallies = chosen.map((player, index) => {
    const tally = new Tally(form);
    for (const part of parts) tally.merge(Tally.fromData(form, part.tallies[index]!));
    return { player, tally };
  });
  return { simulation: { design, seed, first: 0, sessions, players: tallies }, of };
}
