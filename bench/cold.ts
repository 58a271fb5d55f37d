import { readFileSync } from 'node:fs';
import { readDesign } from '../src/design/read.js';
import { formOf } from '../src/engine/program/lower/lower.js';
import { SessionLog } from '../src/measure/session-log.js';
import { Tally } from '../src/measure/tally.js';
import { Play } from '../src/players/drivers/play.js';
import { meetingOf } from '../src/players/meeting/meeting.js';
import { playByHand } from './dusk-by-hand.js';

// The first 1,000 sessions of a process, of one player, from the design's text on: run once for each way, in a process of its own.
const isByHand = process.argv[2] === 'hand';
const text = readFileSync('demo/dusk-on-the-heath.yaml', 'utf8');
const start = performance.now();
const design = readDesign(text, 'demo/dusk-on-the-heath.yaml');
const form = formOf(design);
const player = design.players[1]!;
const meeting = meetingOf(form, player);
const tally = new Tally(form);
const hand = {
  runs: player.runs,
  patience: player.patience,
  thresholds: Float64Array.from(meeting.thresholds),
  attempts: Int32Array.from(meeting.attempts),
  log: new SessionLog(form),
};
const play = new Play(form, meeting, tally);
for (let session = 0; session < 1000; session++) {
  if (isByHand) playByHand(1, session, hand, tally);
  else play.play(1, session);
}
process.stdout.write(String(performance.now() - start));
