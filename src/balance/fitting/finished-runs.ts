import type { Form } from '../../engine/program/form.js';
import { fineness, Histogram } from '../../measure/histogram.js';
import { runColumns, runWidth, type SessionLog } from '../../measure/session-log.js';
import { RunShares } from '../../measure/shares.js';

/** What became of runs that came to an ending. Of one that the player left before, a log shows no more than that it was left. */
export class FinishedRuns {
  sessions = 0;
  runs = 0;
  runsSquared = 0;
  readonly score = new Histogram(fineness.values);
  readonly runTime = new Histogram(fineness.times);
  readonly endings: RunShares;

  constructor(private readonly form: Form) {
    this.endings = new RunShares(form.screens.length);
  }

  count({ runs, columns }: SessionLog): void {
    const finished = Array.from({ length: runs }, (_, run) => run * runWidth).filter(
      (at) => columns[at + runColumns.ending]! >= 0,
    );
    if (finished.length === 0) return;
    this.sessions++;
    this.runs += finished.length;
    this.runsSquared += finished.length ** 2;
    const values = (column: number): Float64Array =>
      Float64Array.from(finished, (at) => columns[at + column]!);
    if (this.form.score >= 0) this.score.add(values(runColumns.score), finished.length);
    this.runTime.add(values(runColumns.duration), finished.length);
    for (const at of finished) this.endings.here[columns[at + runColumns.ending]!]!++;
    this.endings.fold(finished.length);
  }
}
