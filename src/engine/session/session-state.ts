import type { GameNames } from '../../design/names-of.js';
import { unknownName } from '../../design/problems/problem.js';
import { type Course, courseOf } from '../program/course.js';
import type { GameForm } from '../program/form.js';
import { counterNamed } from '../program/named.js';
import { type GamePiece, piecesOf } from '../program/pieces.js';
import { fromCell } from '../program/value.js';
import type { Machine } from '../run/machine.js';
import type { HudView, Views } from './view.js';

/** What a session shows of the state that it is in. */
export abstract class SessionState<Names extends GameNames> {
  protected form!: GameForm;
  protected machine!: Machine;
  protected views!: Views;

  protected cell(index: number): number {
    return this.machine.cells[index]!;
  }

  get title(): string {
    return this.form.title;
  }

  /** Of the design, as in its records. */
  get fingerprint(): string {
    return this.form.fingerprint;
  }

  /** Milliseconds of session time. */
  get time(): number {
    return this.cell(this.form.cells.now);
  }

  get screen(): Names['screens'] {
    return this.form.screens[this.cell(this.form.cells.screen)]!.name as Names['screens'];
  }

  /** Milliseconds spent on live screens. */
  get liveTime(): number {
    return this.cell(this.form.cells.live);
  }

  /** Whether timers, spawns and meetings run on the present screen. */
  get isLive(): boolean {
    return this.form.screens[this.cell(this.form.cells.screen)]!.live;
  }

  /** The number of the level, from 1. */
  get level(): number {
    return this.cell(this.form.cells.level) + 1;
  }

  /** The text of the present screen, its values filled in. It may hold any characters; it is never markup. */
  get text(): string {
    return this.views.screenText();
  }

  /** The HUD of the present screen: the same array where nothing on it has changed, the same object for what has not. */
  get hud(): readonly HudView[] {
    return this.views.hud();
  }

  /** The pieces of the design. */
  get pieces(): readonly GamePiece[] {
    return piecesOf(this.form, (index) => this.machine.value(index));
  }

  /** Every counter by its name. */
  get counters(): Readonly<Names['counters']> {
    const first = this.form.cells.counters;
    return Object.fromEntries(
      this.form.counters.map((counter, index) => [counter.name, fromCell(counter, this.cell(first + index))]),
    ) as Names['counters'];
  }

  get course(): Course {
    return courseOf(this.form, this.machine.cells);
  }

  /** How many of each piece are present. */
  get present(): { readonly [piece: string]: number } {
    return Object.fromEntries(
      this.form.pieces.map(({ name }, index) => [name, this.cell(this.form.cells.present + index)]),
    );
  }

  /** @throws UsageError where the design has no such counter */
  counter<Name extends keyof Names['counters'] & string>(name: Name): Names['counters'][Name] {
    return counterNamed(this.form, this.machine.cells, name) as Names['counters'][Name];
  }

  /**
   * Seconds until a timer fires; 0 where it does not run.
   *
   * @throws UsageError where the design has no such timer
   */
  timer(name: Names['timers']): number {
    const index = this.form.timers.findIndex((timer) => timer.name === name);
    if (index < 0) throw unknownName('timer', name, this.form.timers);
    const due = this.cell(this.form.cells.timers + index);
    return due === Number.POSITIVE_INFINITY
      ? 0
      : (due - this.cell(this.form.timers[index]!.clockCell)) / 1000;
  }

  /** Every outside event that the design knows, in a fixed order: the outcomes of its pieces, then inputs. */
  get outsideEvents(): Names['events'][] {
    const { events } = this.form;
    return (['outcome', 'input'] as const).flatMap((kind) =>
      events.filter((each) => each.kind === kind).map((each) => each.name),
    );
  }

  /** The outside events that can happen now: inputs that something hears here, and the outcomes of what is present. */
  get possible(): Names['events'][] {
    const { events, pieces, cells } = this.form;
    const screen = this.form.screens[this.cell(cells.screen)]!;
    const inputs = events.flatMap(({ kind }, index) =>
      kind === 'input' && screen.handlers.has(index) ? [index] : [],
    );
    const outcomes = pieces.flatMap((piece, index) =>
      screen.live && this.cell(cells.present + index) > 0 && this.machine.canMeet(index)
        ? piece.outcomes
        : [],
    );
    return [...inputs, ...outcomes].map((event) => events[event]!.name);
  }
}
