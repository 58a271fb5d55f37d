import type { Piece, Screen, Timer } from '../model.js';
import { listed, type Reading } from '../reading/reading.js';
import type { Path } from '../text/source.js';
import { secondsIn } from './duration.js';
import { nameFault } from './names.js';

/** Every event that can happen, by all the words that a rule may use for it. */
export class Events {
  /** Word to concrete events: `flower.taken` to `blossom.taken` and `foxglove.taken`. */
  readonly #meanings = new Map<string, Set<string>>();
  /** All words, as long as none has come since they were listed. */
  #words: readonly string[] | undefined;

  constructor(pieces: readonly Piece[], timers: readonly Timer[], screens: readonly Screen[]) {
    for (const piece of pieces) {
      for (const outcome of ['appeared', 'gone', ...piece.outcomes.map(({ name }) => name)]) {
        for (const word of piece.answersTo) this.#add(`${word}.${outcome}`, `${piece.name}.${outcome}`);
      }
    }
    for (const timer of timers) {
      this.#add(timer.event, timer.event);
      if (timer.warn.length > 0) this.#add(`${timer.name}.warned`, `${timer.name}.warned`);
    }
    for (const screen of screens) this.#add(`${screen.name}.entered`, `${screen.name}.entered`);
  }

  #add(word: string, concrete: string): void {
    const known = this.#meanings.get(word);
    if (known !== undefined) known.add(concrete);
    else {
      this.#meanings.set(word, new Set([concrete]));
      this.#words = undefined;
    }
  }

  /** The concrete events that words stand for; unknown ones are reported. An input exists by being named. */
  resolve(
    reading: Reading,
    written: string | readonly string[] | undefined,
    path: Path,
  ): { heard: string[]; events: string[] } {
    const heard: string[] = [];
    const events = new Set<string>();
    for (const { name, path: at } of listed(written ?? [], path)) {
      heard.push(name);
      const input = name.startsWith('input.') ? name.slice('input.'.length) : undefined;
      if (input !== undefined) {
        if (nameFault(input) === 'bad-name') reading.fail('bad-name', { name: input }, at);
        else this.#add(name, name);
      }
      const meaning = this.#meanings.get(name);
      if (meaning === undefined && input === undefined) {
        this.#unknown(reading, name, at);
      }
      for (const event of meaning ?? []) events.add(event);
    }
    return { heard, events: [...events] };
  }

  #unknown(reading: Reading, name: string, path: Path): void {
    const [, every, time] = /^(every |each )?(.*)$/s.exec(name)!;
    const seconds = secondsIn(time!);
    if (seconds !== undefined)
      reading.fail('time-as-event', { found: name, seconds, repeats: every !== undefined }, path);
    else if (/[<>=]/.test(name)) reading.fail('condition-as-event', { found: name }, path);
    else {
      const [subject] = name.split('.') as [string];
      if (reading.doubtful.has(subject)) return;
      this.#words ??= [...this.#meanings.keys()];
      const of = reading.names.has(subject) ? undefined : subject;
      reading.fail('unknown-event', { event: name, allowed: this.#words, of }, path);
    }
  }

  /** Takes in an event that a rule emits. */
  own(reading: Reading, name: string, path: Path): void {
    const [subject = '', what = '', ...more] = name.split('.');
    const owner = subject === 'input' ? 'player' : reading.names.get(subject)?.kind;
    if (nameFault(subject) !== undefined || nameFault(what) === 'bad-name' || more.length > 0) {
      reading.fail(
        'wrong-type',
        { found: `"${name}"`, expected: 'an event of your own, such as comb.full' },
        path,
      );
    } else if (owner !== undefined) reading.fail('not-your-event', { event: name, owner }, path);
    else this.#add(name, name);
  }

  /** Every concrete event, in a fixed order. */
  all(): string[] {
    return [...new Set([...this.#meanings.values()].flatMap((meaning) => [...meaning]))];
  }
}

/** The pieces that answer to a name, in file order. */
export const membersOf = (name: string, pieces: readonly Piece[]): string[] =>
  pieces.filter((piece) => piece.answersTo.includes(name)).map((piece) => piece.name);
