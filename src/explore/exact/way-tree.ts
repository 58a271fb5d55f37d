import { widened } from '../../engine/program/columns.js';
import type { Fork } from './forks.js';

/** What a way through a turn leads to: points, and a state of a moment; or the run is over. */
export interface Leaf {
  readonly points: number;
  /** The number of the moment; -1: the run is over. */
  readonly moment: number;
  readonly row: number;
}

interface Node {
  fork: Pick<Fork, 'chances' | 'draws' | 'decides'> | undefined;
  readonly children: Node[];
  leaf: Leaf | undefined;
}

const kinds = { leaf: 0, chance: 1, decision: 2 } as const;

/**
 * All ways through the turns of many states, each turn as a tree: written out from its root on, into one column of numbers. A leaf is its
 * kind, points, moment and row; a chance its kind, how many ways, and their chances; a decision its kind, how many options, and
 * these; below each stand its branches.
 */
export class WayTrees {
  #numbers = new Float64Array(1024);
  #length = 0;
  #root = emptyNode();

  /** A way through the turn that is gone now. */
  add(path: readonly Fork[], leaf: Leaf): void {
    let node = this.#root;
    for (const fork of path) {
      node.fork ??= fork;
      node = node.children[fork.at] ??= emptyNode();
    }
    node.leaf = leaf;
  }

  /** All ways of the turn were added; where its tree stands. */
  end(): number {
    const at = this.#length;
    this.#write(this.#root);
    this.#root = emptyNode();
    return at;
  }

  #write({ fork, children, leaf }: Node): void {
    if (leaf !== undefined) {
      for (const each of [kinds.leaf, leaf.points, leaf.moment, leaf.row]) this.#push(each);
      return;
    }
    const { decides, draws, chances } = fork!;
    this.#push(decides ? kinds.decision : kinds.chance);
    this.#push(children.length);
    for (const each of decides ? draws : chances) this.#push(each);
    for (const child of children) this.#write(child);
  }

  #push(value: number): void {
    if (this.#length === this.#numbers.length) this.#numbers = widened(this.#numbers);
    this.#numbers[this.#length++] = value;
  }

  /** The highest points that can be expected of a turn and all after it, where a leaf is worth what `worth` says. */
  best(tree: number, worth: (moment: number, row: number) => number): number {
    return this.#best({ at: tree }, worth);
  }

  #best(cursor: { at: number }, worth: (moment: number, row: number) => number): number {
    const n = this.#numbers;
    const { at } = cursor;
    if (n[at] === kinds.leaf) {
      cursor.at += 4;
      const moment = n[at + 2]!;
      return n[at + 1]! + (moment < 0 ? 0 : worth(moment, n[at + 3]!));
    }
    const many = n[at + 1]!;
    cursor.at += 2 + many;
    if (n[at] === kinds.chance) {
      let sum = 0;
      for (let way = 0; way < many; way++) sum += n[at + 2 + way]! * this.#best(cursor, worth);
      return sum;
    }
    let most = Number.NEGATIVE_INFINITY;
    for (let option = 0; option < many; option++) most = Math.max(most, this.#best(cursor, worth));
    return most;
  }

  /** Goes through a turn as it is best, with some chance; tells each decision and each leaf that it comes to. */
  follow(
    tree: number,
    chance: number,
    worth: (moment: number, row: number) => number,
    told: {
      decision(options: readonly number[], chosen: number, chance: number): void;
      leaf(moment: number, row: number, chance: number): void;
    },
  ): void {
    const n = this.#numbers;
    const walk = (cursor: { at: number }, chance: number): void => {
      const { at } = cursor;
      if (n[at] === kinds.leaf) {
        cursor.at += 4;
        if (n[at + 2]! >= 0 && chance > 0) told.leaf(n[at + 2]!, n[at + 3]!, chance);
        return;
      }
      const many = n[at + 1]!;
      cursor.at += 2 + many;
      if (n[at] === kinds.chance) {
        for (let way = 0; way < many; way++) walk(cursor, chance * n[at + 2 + way]!);
        return;
      }
      const begins = cursor.at;
      let [chosen, most] = [0, Number.NEGATIVE_INFINITY];
      for (let option = 0; option < many; option++) {
        const value = this.#best(cursor, worth);
        // Of two that are as good the first counts: what has been there longest, and anything before nothing.
        if (value > most + slack(value)) [chosen, most] = [option, value];
      }
      if (chance > 0) told.decision([...n.subarray(at + 2, at + 2 + many)], chosen, chance);
      cursor.at = begins;
      for (let option = 0; option < many; option++) walk(cursor, option === chosen ? chance : 0);
    };
    walk({ at: tree }, chance);
  }
}

const emptyNode = (): Node => ({ fork: undefined, children: [], leaf: undefined });

/** Two values this near are one, but for rounding. */
const slack = (value: number): number => (Number.isFinite(value) ? 1e-9 * Math.max(1, Math.abs(value)) : 0);
