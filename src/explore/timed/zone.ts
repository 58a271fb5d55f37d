/**
 * A set of clock readings, given by bounds on the clocks and on their differences: a difference bound matrix (Dill, "Timing
 * assumptions and verification of finite-state concurrent systems", 1989). All bounds are closed, so that whole milliseconds
 * decide as real time would (Henzinger, Manna and Pnueli, "What good are digital clocks?", 1992).
 *
 * `bounds[i * size + j]` is the most that clock i can be ahead of clock j; clock 0 always shows 0. The matrix is kept tight:
 * no bound can be lowered by adding two others.
 */
export class Zone {
  readonly size: number;

  private constructor(private readonly bounds: Float64Array) {
    this.size = Math.sqrt(bounds.length);
  }

  /** All clocks at 0. */
  static start(clocks: number): Zone {
    return new Zone(new Float64Array((clocks + 1) ** 2));
  }

  copy(): Zone {
    return new Zone(this.bounds.slice());
  }

  /** Takes the readings of another zone of the same clocks. */
  become({ bounds }: Zone): void {
    this.bounds.set(bounds);
  }

  /** Any time goes by. */
  elapse(): void {
    for (let clock = 1; clock < this.size; clock++) this.bounds[clock * this.size] = Number.POSITIVE_INFINITY;
  }

  /** Keeps the readings in which a clock shows at most so much; false where none is left. */
  atMost(clock: number, value: number): boolean {
    return this.#constrain(clock, 0, value);
  }

  atLeast(clock: number, value: number): boolean {
    return this.#constrain(0, clock, -value);
  }

  /** The most that one clock can be ahead of another. */
  bound(ahead: number, behind: number): number {
    return this.bounds[ahead * this.size + behind]!;
  }

  /** The least that a clock shows. */
  least(clock: number): number {
    return -this.bounds[clock]!;
  }

  #constrain(ahead: number, behind: number, bound: number): boolean {
    const { bounds, size } = this;
    if (bound >= bounds[ahead * size + behind]!) return true;
    if (bounds[behind * size + ahead]! + bound < 0) return false;
    for (let i = 0; i < size; i++) {
      const through = bounds[i * size + ahead]! + bound;
      for (let j = 0; j < size; j++) {
        const found = through + bounds[behind * size + j]!;
        if (found < bounds[i * size + j]!) bounds[i * size + j] = found;
      }
    }
    return true;
  }

  /** A clock starts anew. */
  reset(clock: number): void {
    const { bounds, size } = this;
    for (let other = 0; other < size; other++) {
      bounds[clock * size + other] = bounds[other]!;
      bounds[other * size + clock] = bounds[other * size]!;
    }
    bounds[clock * size + clock] = 0;
  }

  /** Forgets what a clock shows, since nothing asks for it. */
  free(clock: number): void {
    const { bounds, size } = this;
    for (let other = 0; other < size; other++) {
      if (other === clock) continue;
      bounds[clock * size + other] = Number.POSITIVE_INFINITY;
      bounds[other * size + clock] = bounds[other * size]!;
    }
  }

  /** Forgets how far past its greatest constant each clock is, which nothing can tell, so that there are finitely many zones. */
  loosen(greatest: readonly number[]): void {
    const { bounds, size } = this;
    let isLoosened = false;
    for (let i = 0; i < size; i++) {
      for (let j = 0; j < size; j++) {
        if (i === j) continue;
        const bound = bounds[i * size + j]!;
        if (i > 0 && bound > greatest[i]!) {
          isLoosened ||= bound !== Number.POSITIVE_INFINITY;
          bounds[i * size + j] = Number.POSITIVE_INFINITY;
        } else if (j > 0 && bound < -greatest[j]!) {
          isLoosened = true;
          bounds[i * size + j] = -greatest[j]!;
        }
      }
    }
    if (!isLoosened) return;
    for (let through = 0; through < size; through++) {
      for (let i = 0; i < size; i++) {
        for (let j = 0; j < size; j++) {
          const found = bounds[i * size + through]! + bounds[through * size + j]!;
          if (found < bounds[i * size + j]!) bounds[i * size + j] = found;
        }
      }
    }
  }

  /** Whether every reading of another zone is one of this. */
  includes(other: Zone): boolean {
    for (let index = 0; index < this.bounds.length; index++) {
      if (this.bounds[index]! < other.bounds[index]!) return false;
    }
    return true;
  }
}
