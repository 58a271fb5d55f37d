import type { Domain, StatePart } from './domain.js';

/** A word of a packed state holds so many values at the most, so that it stays a small integer on every JavaScript engine. */
export const mostInWord = 2 ** 31;

/** Where a part stands in a packed state: `floor(word / radix) % size`; a wide one in the whole of its word and of the next. */
export interface PackedPart extends StatePart {
  readonly word: number;
  readonly radix: number;
}

/** States as mixed-radix numbers: as few words as hold every combination of the parts' values. */
export class Packing {
  readonly parts: readonly PackedPart[];
  readonly words: number;
  /** How many states there could be at all; for one word, packed states are below it. */
  readonly combinations: number;

  constructor({ parts }: Domain) {
    let word = 0;
    let radix = 1;
    this.parts = parts.map((part) => {
      if (radix > 1 && radix * part.size > mostInWord) {
        word++;
        radix = 1;
      }
      if (part.kind === 'wide') {
        word += 2;
        return { ...part, word: word - 2, radix };
      }
      const packed = { ...part, word, radix };
      radix *= part.size;
      return packed;
    });
    this.words = Math.max(1, radix > 1 ? word + 1 : word);
    this.combinations = parts.reduce((product, { size }) => product * size, 1);
  }

  /** The number of the part whose value does not fit; -1: all do. */
  pack(state: Float64Array, into: Int32Array): number {
    into.fill(0);
    for (let index = 0; index < this.parts.length; index++) {
      const { kind, least, size, choices, word, radix } = this.parts[index]!;
      const value = state[index]!;
      if (kind === 'wide') {
        const high = Math.floor(value / mostInWord);
        into[word] = value - high * mostInWord;
        into[word + 1] = high;
        continue;
      }
      const place = kind === 'choice' ? choices.indexOf(value) : value - least;
      if (place < 0 || place >= size) return index;
      into[word] = into[word]! + place * radix;
    }
    return -1;
  }

  unpack(packed: Int32Array, from: number, state: Float64Array): void {
    for (let index = 0; index < this.parts.length; index++) {
      const { kind, least, size, choices, word, radix } = this.parts[index]!;
      if (kind === 'wide') {
        state[index] = packed[from + word + 1]! * mostInWord + packed[from + word]!;
        continue;
      }
      const place = Math.floor(packed[from + word]! / radix) % size;
      state[index] = kind === 'choice' ? choices[place]! : place + least;
    }
  }
}
