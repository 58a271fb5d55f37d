/** What a game needs to run a design that was written out ahead of time: no reader, no lowering. */
export { DesignError, UsageError } from '../design/problem.js';
export { Game, type GameNames } from './game.js';
export { HotGame } from './hot.js';
export type { KeepStorage, StorageEvents } from './keep.js';
export type { Reception } from './machine.js';
export { type RecordLine, recordOf, type SessionRecord, writeRecord } from './record.js';
export { type GameOptions, GameSession, type Reload } from './session.js';
export type { SessionEvents } from './session-events.js';
export type { Snapshot } from './snapshot.js';
export type { Step, Write } from './step.js';
export type { HudView } from './view.js';
