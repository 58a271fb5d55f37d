/**
 * Pieces that are on their way to the player, or wait for it, in the order in which they appeared, each due at some live
 * time (Infinity: never). Which is due first is kept at hand.
 */
export class Gathering {
  #pieces: number[] = [];
  #dues: number[] = [];
  #first = -1;

  get isEmpty(): boolean {
    return this.#pieces.length === 0;
  }

  /** When the first is due; of those due together, the piece that the file names first, then the one there longest. */
  get due(): number {
    return this.#first < 0 ? Number.POSITIVE_INFINITY : this.#dues[this.#first]!;
  }

  add(piece: number, due: number): void {
    this.#pieces.push(piece);
    this.#dues.push(due);
    if (this.#isBefore(this.#pieces.length - 1, this.#first)) this.#first = this.#pieces.length - 1;
  }

  /** Takes out the piece that is due first. */
  takeDue(): number {
    return this.take(this.#first);
  }

  /** Where the one stands that weighs most, and of these has been there longest; -1: none weighs anything. */
  heaviest(weigh: (piece: number) => number): number {
    let most = 0;
    let found = -1;
    for (let index = 0; index < this.#pieces.length; index++) {
      const weight = weigh(this.#pieces[index]!);
      if (weight <= most) continue;
      most = weight;
      found = index;
    }
    return found;
  }

  /** All of them, the one there longest first. */
  all(): { readonly index: number; readonly piece: number; readonly due: number }[] {
    return this.#pieces.map((piece, index) => ({ index, piece, due: this.#dues[index]! }));
  }

  dueOf(index: number): number {
    return this.#dues[index]!;
  }

  remove(piece: number): void {
    for (let index = this.#pieces.length - 1; index >= 0; index--) {
      if (this.#pieces[index] === piece) this.take(index);
    }
  }

  clear(): void {
    this.#pieces.length = 0;
    this.#dues.length = 0;
    this.#first = -1;
  }

  take(index: number): number {
    const piece = this.#pieces[index]!;
    for (let at = index + 1; at < this.#pieces.length; at++) {
      this.#pieces[at - 1] = this.#pieces[at]!;
      this.#dues[at - 1] = this.#dues[at]!;
    }
    this.#pieces.pop();
    this.#dues.pop();
    if (index < this.#first) this.#first--;
    else if (index === this.#first) {
      this.#first = -1;
      for (let at = 0; at < this.#pieces.length; at++) if (this.#isBefore(at, this.#first)) this.#first = at;
    }
    return piece;
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
