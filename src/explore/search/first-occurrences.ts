import type { Problem } from '../../design/problems/problem.js';
import type { Form } from '../../engine/program/form.js';

/** In a column of states, that something was seen nowhere. */
export const unseen = -2;

/** What a search writes down on its way: where each thing first happened, by the state and the edge that led to it. */
export class Notes {
  /** By transition: the state that first took it, -1 at the very start, `unseen` nowhere; and the edge taken there. */
  readonly takenFrom: Int32Array;
  readonly takenBy: Int32Array;
  /** The same by rule. */
  readonly firedFrom: Int32Array;
  readonly firedBy: Int32Array;
  /** The same by level in which a transition was taken, so that none that a chain runs through is missed. */
  readonly leftFrom: Int32Array;
  readonly leftBy: Int32Array;
  /** By transition that was ready to go: the earlier one that went first, or -1. */
  readonly preemptedBy: Int32Array;
  /** By edge: the first state in which it was possible, or `unseen`. */
  offeredFrom = new Int32Array(64).fill(unseen);
  /** Transitions that begin a level which the next transition of the same chain ends. */
  readonly atOnce: {
    readonly begins: number;
    readonly ends: number;
    readonly row: number;
    edge: number;
  }[] = [];
  /** Faults by what they are and where in the file, each once. */
  readonly faults: { readonly problem: Problem; readonly row: number; readonly edge: number }[] = [];

  /** Whether anything was seen for the first time since the last renaming. */
  hasNew = false;

  constructor(private readonly form: Form) {
    const { transitions, rules, levels } = form;
    this.takenFrom = new Int32Array(transitions.length).fill(unseen);
    this.takenBy = new Int32Array(transitions.length).fill(-1);
    this.firedFrom = new Int32Array(rules.length).fill(unseen);
    this.firedBy = new Int32Array(rules.length).fill(-1);
    this.leftFrom = new Int32Array(levels.length).fill(unseen);
    this.leftBy = new Int32Array(levels.length).fill(-1);
    this.preemptedBy = new Int32Array(transitions.length).fill(-1);
  }

  offer(edge: number, row: number): void {
    if (edge >= this.offeredFrom.length) {
      const wider = new Int32Array(edge * 2).fill(unseen);
      wider.set(this.offeredFrom);
      this.offeredFrom = wider;
    }
    if (this.offeredFrom[edge] === unseen) this.offeredFrom[edge] = row;
  }

  leave(level: number, row: number, edge: number): void {
    const at = Math.min(level, this.leftFrom.length - 1);
    if (this.leftFrom[at] !== unseen) return;
    this.hasNew = true;
    this.leftFrom[at] = row;
    this.leftBy[at] = edge;
  }

  /** Two transitions of one chain: whether the first began a level that ends by a condition before anything happens in it. */
  twice(begins: number, ends: number, row: number, edge: number): void {
    const { transitions, screens } = this.form;
    const way = transitions[begins]!;
    const { from, wait } = transitions[ends]!;
    const begun = way.respawns && way.to === from && screens[from]!.live;
    const isByItself = screens[from]!.conditionTransitions.includes(ends) && wait === 0;
    if (!begun || !isByItself || this.atOnce.some((each) => each.begins === begins)) return;
    this.hasNew = true;
    this.atOnce.push({ begins, ends, row, edge });
  }

  /** What was seen at the last step from a state was seen over this edge: which one it is was not known before. */
  rename(row: number, from: number, to: number): void {
    if (!this.hasNew) return;
    this.hasNew = false;
    for (const [rows, edges] of [
      [this.takenFrom, this.takenBy],
      [this.firedFrom, this.firedBy],
      [this.leftFrom, this.leftBy],
    ] as const) {
      for (let at = 0; at < rows.length; at++) if (rows[at] === row && edges[at] === from) edges[at] = to;
    }
    for (const each of this.atOnce) if (each.row === row && each.edge === from) each.edge = to;
  }

  fault(problem: Problem, row: number, edge: number): void {
    if (!isKnownFault(this.faults, problem)) this.faults.push({ problem, row, edge });
  }
}

/** Whether a fault of the same code at the same line of the file is among those that are known. */
export const isKnownFault = (
  known: readonly { readonly problem: Problem }[],
  { code, place }: Problem,
): boolean => known.some(({ problem }) => problem.code === code && problem.place.line === place.line);
