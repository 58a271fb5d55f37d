import type { Form } from '../../engine/program/form.js';
import { watchesNothing } from '../../engine/run/probe.js';
import { type Edge, UntimedGame } from '../abstraction/untimed-game.js';
import { type Paces, paceOf } from '../timed/timed-search.js';
import { BestWays } from './best-ways.js';

/**
 * Searches how soon screens can be come to by the time alone that the fastest player takes to meet what it seeks, one piece after the
 * other: not before that, whatever else takes time.
 */
export class SoonestSearch extends BestWays {
  constructor(
    private readonly form: Form,
    private readonly paces: Paces,
  ) {
    super(new UntimedGame(form, watchesNothing), -1);
  }

  /** By screen, milliseconds of play; undefined where it takes too many steps to tell, or time cannot be left out. */
  times(): ReadonlyMap<number, number> | undefined {
    const { cone, narrowedBy } = this.game;
    if (cone.timerRead !== undefined || narrowedBy !== undefined) return undefined;
    const labels = this.find(Number.NEGATIVE_INFINITY);
    if (labels === undefined || labels === 'endless') return undefined;
    const times = new Map<number, number>();
    for (const label of labels) {
      const screen = this.screenOf(label);
      times.set(screen, Math.min(this.sumOf(label), times.get(screen) ?? Number.POSITIVE_INFINITY));
    }
    return times;
  }

  protected override first(): number {
    return 0;
  }

  protected override settle(): void {}

  protected override after(edge: Edge, sum: number): number | undefined {
    return this.game.step(edge) ? sum + paceOf(this.form, this.paces, edge) : undefined;
  }
}
