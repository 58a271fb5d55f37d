/**
 * Pieces that are on their way to the player, or wait for it, in the order in which they appeared, each due at some live
 * time (Infinity: never). Which is due first is kept at hand.
 */
export class Gathering {
  readonly #pieces: number[] = [];
  readonly #dues: number[] = [];
  #count = 0;
  #first = -1;
  /** When the first is due; of those due together, the piece that the file names first, then the one there longest. */
  due = Number.POSITIVE_INFINITY;

  get isEmpty(): boolean {
    return this.#count === 0;
  }

  add(piece: number, due: number): void {
    this.#pieces[this.#count] = piece;
    this.#dues[this.#count] = due;
    if (this.#isBefore(this.#count, this.#first)) this.#setFirst(this.#count);
    this.#count++;
  }

  /** Takes out the piece that is due first. */
  takeDue(): number {
    return this.take(this.#first);
  }

  /** Where the one stands that weighs most, and of these has been there longest; -1: none weighs anything. */
  heaviest(weigh: (piece: number) => number): number {
    let most = 0;
    let found = -1;
    for (let index = 0; index < this.#count; index++) {
      const weight = weigh(this.#pieces[index]!);
      if (weight <= most) continue;
      most = weight;
      found = index;
    }
    return found;
  }

  /** All of them, the one there longest first. */
  all(): { readonly index: number; readonly piece: number; readonly due: number }[] {
    return Array.from({ length: this.#count }, (_, index) => ({
      index,
      piece: this.#pieces[index]!,
      due: this.#dues[index]!,
    }));
  }

  dueOf(index: number): number {
    return this.#dues[index]!;
  }

  remove(piece: number): void {
    for (let index = this.#count - 1; index >= 0; index--) {
      if (this.#pieces[index] === piece) this.take(index);
    }
  }

  clear(): void {
    this.#count = 0;
    this.#setFirst(-1);
  }

  take(index: number): number {
    const piece = this.#pieces[index]!;
    this.#count--;
    for (let at = index; at < this.#count; at++) {
      this.#pieces[at] = this.#pieces[at + 1]!;
      this.#dues[at] = this.#dues[at + 1]!;
    }
    if (index < this.#first) this.#first--;
    else if (index === this.#first) {
      let first = -1;
      for (let at = 0; at < this.#count; at++) if (this.#isBefore(at, first)) first = at;
      this.#setFirst(first);
    }
    return piece;
  }

  #setFirst(index: number): void {
    this.#first = index;
    this.due = index < 0 ? Number.POSITIVE_INFINITY : this.#dues[index]!;
  }

  #isBefore(index: number, other: number): boolean {
    const due = this.#dues[index]!;
    if (due === Number.POSITIVE_INFINITY) return false;
    if (other < 0) return true;
    return (
      due < this.#dues[other]! || (due === this.#dues[other] && this.#pieces[index]! < this.#pieces[other]!)
    );
  }
}
