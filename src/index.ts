/**
 * Reads designs, runs sessions, simulates players, checks the flow and judges the balance.
 *
 * @module jocus
 */

export {
  type CompareOptions,
  type Comparison,
  compare,
  type Difference,
  type TestVerdict,
  type Worse,
} from './balance/compare.js';
export { type Fit, fitLog } from './balance/fitting/fit.js';
export type { FitOptions, FittedPlayer, FittedValue } from './balance/fitting/fitted.js';
export type { LogRow } from './balance/fitting/playtest.js';
export type { Observation } from './balance/observations.js';
export { type Report, reportOn } from './balance/report.js';
export {
  type Moment,
  type Played,
  recordPlayed,
  type Sample,
  type SampleSession,
  samplesOf,
} from './balance/sample-sessions.js';
export {
  type CurvePoint,
  type Effect,
  type Sensitivity,
  type SensitivityOptions,
  sensitivity,
  type TargetCurve,
} from './balance/sensitivity.js';
export { judgeSolved } from './balance/solved-targets.js';
export type { Distribution, HistogramPart } from './balance/statistics/distribution.js';
export type { Estimate } from './balance/statistics/intervals.js';
export { type Precise, simulateUntil, type WatchedFigure } from './balance/statistics/precision.js';
export {
  type LevelSummary,
  type PlayerSummary,
  type SimulationSummary,
  summarize,
  type TransitionName,
} from './balance/summary.js';
export type { TargetResult, TargetVerdict } from './balance/targets.js';
export { type Conflict, type Tried, type Tuned, type TuneOptions, tune } from './balance/tune.js';
export { defineDesign } from './design/define.js';
export type {
  CounterInput,
  DesignInput,
  EffectInput,
  LevelInput,
  PieceInput,
  RuleInput,
  TimerInput,
  TransitionInput,
} from './design/design-input.js';
export type {
  Counter,
  Design,
  DesignTest,
  Dial,
  HudItem,
  Keep,
  Level,
  Piece,
  Player,
  Role,
  Rule,
  Screen,
  Target,
  Timer,
  Transition,
  Value,
} from './design/model.js';
export type { GameNames, NamedDesign } from './design/names-of.js';
export {
  DesignError,
  formatPlace,
  type Place,
  type Problem,
  type UsageCode,
  UsageError,
} from './design/problems/problem.js';
export type { ProblemCode } from './design/problems/problem-details.js';
export { readDesign } from './design/read.js';
export { type Settings, withDials } from './design/settings.js';
export { type Change, changeDesign } from './design/text/change.js';
export { type Edit, editDesign, writeDesign } from './design/text/write.js';
export type { Course } from './engine/program/course.js';
export type { GamePiece } from './engine/program/pieces.js';
export { type Miss, runTests, type TestResult } from './engine/record/design-tests.js';
export { readRecord } from './engine/record/read-record.js';
export { type RecordEnd, recordOf, type SessionRecord, writeRecord } from './engine/record/record.js';
export type { RecordLine } from './engine/record/record-line.js';
export { replay } from './engine/record/replay.js';
export type { BackendName } from './engine/run/backend.js';
export type { Reception } from './engine/run/reception.js';
export type { PieceChange, Step, Write } from './engine/run/step.js';
export { gameOf, Session, type SessionOptions } from './engine/session/design-session.js';
export { Game } from './engine/session/game.js';
export { type GameOptions, GameSession, type Reload } from './engine/session/session.js';
export type { SessionEvents } from './engine/session/session-events.js';
export type { Snapshot } from './engine/session/snapshot.js';
export type { KeepStorage, StorageEvents } from './engine/session/storage.js';
export type { HudView } from './engine/session/view.js';
export type { Trap } from './explore/evidence/traps.js';
export type {
  ClosedSet,
  Fault,
  Judgement,
  PartVerdict,
  TransitionVerdict,
  Verdict,
} from './explore/evidence/verdict.js';
export type { Witness } from './explore/evidence/witness.js';
export { type BestPlay, bestPlay, type Choice } from './explore/exact/best-play.js';
export { type Slope, slopes } from './explore/exact/slopes.js';
export { type SolveOptions, solve } from './explore/exact/solve.js';
export type { Bounds, Solved, SolvedSpread } from './explore/exact/solved.js';
export {
  type Exploration,
  type ExploreOptions,
  explore,
} from './explore/explore.js';
export type { EndingReach, Extreme, ScoreRange } from './explore/optimum/extremes.js';
export { flowToSvg } from './formats/flow-svg.js';
export { checkToJson, problemsToJson } from './formats/json.js';
export { designJsonSchema } from './formats/json-schema.js';
export { checkToJunit, targetsToJunit } from './formats/junit.js';
export { checkToSarif } from './formats/sarif.js';
export { flowToScxml } from './formats/scxml.js';
export { type LevelSheet, levelSheet, levelsToCsv, withLevels } from './formats/tables/levels-csv.js';
export { readLog } from './formats/tables/read-log.js';
export { type Row, rowsToText, runRows, sessionRow } from './formats/tables/rows.js';
export { type Check, check } from './inspect/check.js';
export type { Finding } from './inspect/finding.js';
export type { Severity } from './inspect/finding-catalogue.js';
export { type MarkingTest, readMarkingTests, runMarkingTests } from './inspect/marking.js';
export { mendOf } from './inspect/mend.js';
export type { SessionLog } from './measure/session-log.js';
export type { Tally } from './measure/tally.js';
export type { Decide, DecisionContext } from './players/drivers/decision-context.js';
export { WorldFault } from './players/worlds/world-fault.js';
export * from './players/worlds/worlds.js';
export {
  type Control,
  type GroupName,
  groupNames,
  type Sentence,
  type SentenceGroups,
  type Word,
} from './sentences/sentence.js';
export { sentencesOf } from './sentences/sentences-of.js';
export { type Answers, designFrom } from './sentences/three-questions.js';
export { mergeParts, type Part, partOf, partText, readPart, shardOf } from './simulate/shards.js';
export {
  type DecidingPlayer,
  type SimulateOptions,
  type Simulation,
  simulate,
} from './simulate/simulate.js';
export { type Chunk, type SpreadOutOptions, simulateWith, type WorkerPool } from './simulate/worker-pool.js';
