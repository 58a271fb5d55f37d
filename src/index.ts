export { type CompareOptions, type Comparison, compare, type Difference } from './balance/compare.js';
export type { Distribution } from './balance/distribution.js';
export { type Fit, type FitOptions, fitLog, type LogRow } from './balance/fit.js';
export type { Estimate } from './balance/intervals.js';
export { type Precise, simulateUntil } from './balance/precision.js';
export type { Remark } from './balance/remarks.js';
export { type Report, reportOn } from './balance/report.js';
export {
  type Effect,
  type Sensitivity,
  type SensitivityOptions,
  sensitivity,
} from './balance/sensitivity.js';
export { type Moment, type Played, recordPlayed, type Story, storiesOf } from './balance/stories.js';
export {
  type LevelSummary,
  type PlayerSummary,
  type SimulationSummary,
  summarize,
} from './balance/summary.js';
export type { TargetResult, TargetVerdict } from './balance/targets.js';
export { type Tuned, type TuneOptions, tune } from './balance/tune.js';
export { type Change, changeDesign } from './design/change.js';
export { type DesignInput, defineDesign } from './design/define.js';
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
export {
  DesignError,
  formatPlace,
  type Place,
  type Problem,
  UsageError,
} from './design/problem.js';
export { readDesign } from './design/read.js';
export { type Settings, withDials } from './design/settings.js';
export { type Edit, editDesign, writeDesign } from './design/write.js';
export type { CarrierName } from './engine/carrier.js';
export { gameOf, Session, type SessionOptions } from './engine/design-session.js';
export { Game, type GameNames } from './engine/game.js';
export type { KeepStorage, StorageEvents } from './engine/keep.js';
export type { Reception } from './engine/machine.js';
export { readRecord } from './engine/read-record.js';
export { type RecordLine, recordOf, type SessionRecord, writeRecord } from './engine/record.js';
export { replay } from './engine/replay.js';
export { type GameOptions, GameSession, type Reload } from './engine/session.js';
export type { SessionEvents } from './engine/session-events.js';
export type { Snapshot } from './engine/snapshot.js';
export type { Step, Write } from './engine/step.js';
export { type Miss, runTests, type TestResult } from './engine/trial.js';
export type { HudView } from './engine/view.js';
export {
  type Exploration,
  type ExploreOptions,
  explore,
} from './explore/explore.js';
export type { EndingReach, Extreme, ScoreRange } from './explore/extremes.js';
export type { Trap } from './explore/traps.js';
export type {
  ClosedSet,
  Fault,
  Judgement,
  PartVerdict,
  TransitionVerdict,
  Verdict,
} from './explore/verdict.js';
export type { Witness } from './explore/witness.js';
export { flowToSvg } from './formats/flow-svg.js';
export { checkToJson, problemsToJson } from './formats/json.js';
export { designJsonSchema } from './formats/json-schema.js';
export { checkToJunit, targetsToJunit } from './formats/junit.js';
export { readLog } from './formats/read-log.js';
export { type Row, rowsToText, runRows, sessionRow } from './formats/rows.js';
export { checkToSarif } from './formats/sarif.js';
export { flowToScxml } from './formats/scxml.js';
export type { Severity } from './inspect/catalogue.js';
export { type Check, check } from './inspect/check.js';
export type { Finding } from './inspect/finding.js';
export { mendOf } from './inspect/mend.js';
export type { Sheet } from './players/sheet.js';
export type { Decide, Situation } from './players/situation.js';
export type { Tally } from './players/tally.js';
export { WorldFault } from './players/world-fault.js';
export * from './players/worlds.js';
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
export { type Chunk, type Crew, type SpreadOutOptions, simulateWith } from './simulate/crew.js';
export { mergeParts, type Part, partOf, partText, readPart, shardOf } from './simulate/parts.js';
export {
  type DecidingPlayer,
  type SimulateOptions,
  type Simulation,
  simulate,
} from './simulate/simulate.js';
