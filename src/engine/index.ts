/**
 * What a game needs to run a design that was compiled ahead of time, without the parser.
 *
 * @module jocus/engine
 */

export type { GameNames } from '../design/names-of.js';
export { DesignError, type UsageCode, UsageError } from '../design/problems/problem.js';
export { recordOf, type SessionRecord, writeRecord } from './record/record.js';
export type { RecordLine } from './record/record-line.js';
export type { Reception } from './run/reception.js';
export type { Step, Write } from './run/step.js';
export { Game } from './session/game.js';
export { HotGame } from './session/hot-reload.js';
export { type GameOptions, GameSession, type Reload } from './session/session.js';
export type { SessionEvents } from './session/session-events.js';
export type { Snapshot } from './session/snapshot.js';
export type { KeepStorage, StorageEvents } from './session/storage.js';
export type { HudView } from './session/view.js';
