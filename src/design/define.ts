import type { CounterInput, DesignInput, PieceInput, TimerInput } from './design-input.js';
import type { Value } from './model.js';
import type { EventsOf, NamedDesign, NamesOf, Section } from './names-of.js';
import { ProblemList } from './problems/problem-list.js';
import { readFrom } from './read.js';
import { valueSource } from './text/value-source.js';

/** A section whose entries have these keys alone: the compiler takes any where it infers what is written. */
type Exactly<Entries, Key> = Entries & {
  readonly [Name in keyof Entries]: Entries[Name] extends object
    ? { readonly [Other in Exclude<keyof Entries[Name], Key>]: 'no key of this entry' }
    : unknown;
};

/**
 * A design written in TypeScript. The compiler checks the names of counters, timers, pieces, screens, dials and players, and the events
 * that rules hear; all else is checked when it runs, as for a file. A session made from it accepts and reports only these names.
 *
 * @throws DesignError with every problem, each with its path, such as `rules[2].when`
 * @throws UsageError where the value is no plain data
 * @example
 * const design = defineDesign({
 *   counters: { score: {} },
 *   pieces: { blossom: { is: 'collectible' } },
 *   rules: [{ when: 'blossom.taken', do: [{ add: { score: 10 } }] }],
 * });
 */
export function defineDesign<
  const Dial extends string = never,
  const Counters extends Section<Value> = Record<never, never>,
  const Timers extends Section = Record<never, never>,
  const Pieces extends Section = Record<never, never>,
  const Screen extends string = never,
  const Player extends string = never,
  const Emitted extends string = never,
>(
  input: DesignInput<
    {
      dial: Dial;
      counter: keyof Counters & string;
      timer: keyof Timers & string;
      piece: keyof Pieces & string;
      screen: Screen;
      player: Player;
      event: string;
      emitted: string;
    },
    {
      dial: NoInfer<Dial>;
      counter: NoInfer<keyof Counters & string>;
      timer: NoInfer<keyof Timers & string>;
      piece: NoInfer<keyof Pieces & string>;
      screen: NoInfer<Screen>;
      player: NoInfer<Player>;
      event: NoInfer<EventsOf<Pieces, Timers, Screen, Emitted>>;
      emitted: Emitted;
    }
  > & {
    readonly counters?: Exactly<Counters, keyof CounterInput>;
    readonly timers?: Exactly<Timers, keyof TimerInput<string>>;
    readonly pieces?: Exactly<Pieces, keyof PieceInput>;
  },
): NamedDesign<NamesOf<Counters, Timers, Pieces, Screen>> {
  const problems = new ProblemList();
  return readFrom(valueSource(input, problems), problems);
}
