import { placeKey, sessionKey } from '../src/engine/run/draw.js';
import { paceParts, paceStep, type SessionLog } from '../src/measure/session-log.js';
import type { Tally } from '../src/measure/tally.js';

/**
 * Dusk on the Heath and its simulated players, written by hand for this one design as fast as plain TypeScript goes. It
 * knows nothing of designs; it keeps the same tallies as the simulator, so that the two can be compared value for value.
 */

const draws = {
  spawn: [
    ['Gorse Bank blossom 1'],
    ['Foxglove Hollow blossom 1', 'Foxglove Hollow foxglove 1', 'Foxglove Hollow wasp 1'],
    ['Last Light blossom 1', 'Last Light foxglove 1', 'Last Light wasp 1'],
  ].map((names) => names.map((name) => placeKey(`spawn ${name}`))),
  outcome: ['blossom', 'foxglove', 'royalJelly', 'wasp'].map((name) => placeKey(`outcome ${name}`)),
  lead: placeKey('lead wasp'),
  input: ['title', 'help', 'heath', 'cleared', 'dark', 'nightfall'].map((name) => placeKey(`input ${name}`)),
};

const spawnLow = new Int32Array(12);
const spawnHigh = new Int32Array(12);
draws.spawn.forEach((keys, level) => {
  keys.forEach(({ low, high }, slot) => {
    spawnLow[level * 4 + slot] = low;
    spawnHigh[level * 4 + slot] = high;
  });
});
const outcomeLow = Int32Array.from(draws.outcome, (key) => key.low);
const outcomeHigh = Int32Array.from(draws.outcome, (key) => key.high);
const inputLow = Int32Array.from(draws.input, (key) => key.low);
const inputHigh = Int32Array.from(draws.input, (key) => key.high);
const { low: leadLow, high: leadHigh } = draws.lead;

function draw(keyLow: number, keyHigh: number, low: number, high: number, asked: number): number {
  let x = (Math.imul(asked, 0x9e3779b9) + low) ^ keyLow;
  x = Math.imul(x ^ (x >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  x = ((x ^ (x >>> 15)) + (high ^ keyHigh)) | 0;
  x = Math.imul(x ^ (x >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  return (x ^ (x >>> 15)) >>> 0;
}

const blossom = 0;
const foxglove = 1;
const royalJelly = 2;
const wasp = 3;
const title = 0;
const help = 1;
const heath = 2;
const cleared = 3;
const dark = 4;
const nightfall = 5;

const never = 2 ** 30 - 1;
const quota = [12, 16, 20];
// By level and spawn: the piece, how many at once, the least interval, its steps of 0.1 s, the first.
const pieceOf = Int32Array.from([0, 3, 0, 0, 0, 1, 3, 2, 0, 1, 3, 2]);
const atOnce = Int32Array.from([6, 3, 0, 0, 4, 3, 3, 1, 4, 4, 4, 1]);
const least = Int32Array.from([500, 6000, 0, 0, 1000, 1500, 4000, 20000, 1000, 1000, 2500, 25000]);
const choices = Int32Array.from([11, 1, 1, 1, 11, 16, 21, 1, 11, 16, 21, 1]);
const total = Int32Array.from([never, never, 0, 0, never, never, never, 2, never, never, never, 1]);
const first = Int32Array.from([-1, 4000, never, never, -1, 1000, 3000, 15000, -1, 1000, 3000, 20000]);
const lasts = Int32Array.from([4000, 4000, 3000, never]);

const asked = new Int32Array(12);
const outcomeAsked = new Int32Array(4);
const inputAsked = new Int32Array(6);
const present = new Int32Array(4);
const due = new Int32Array(4);
const made = new Int32Array(4);
const waspDue = new Int32Array(64);
const flowerDue = new Int32Array(4096);
const flower = new Int32Array(4096);

export interface HandPlayer {
  readonly runs: number;
  readonly patience: number;
  readonly thresholds: Float64Array;
  readonly attempts: Int32Array;
  readonly log: SessionLog;
}

export function playByHand(seed: number, session: number, player: HandPlayer, tally: Tally): void {
  const { low, high } = sessionKey(seed, session);
  const { thresholds, attempts, log } = player;
  log.begin(session);
  playSession(low, high, player.runs, player.patience, thresholds, attempts, log);
  tally.count(log);
}

function playSession(
  keyLow: number,
  keyHigh: number,
  mostRuns: number,
  patience: number,
  thresholds: Float64Array,
  attempts: Int32Array,
  log: SessionLog,
): void {
  const { fired, points, taken, pace, held, tries, screensEntered: visited } = log;
  asked.fill(0);
  outcomeAsked.fill(0);
  inputAsked.fill(0);
  let leadAsked = 0;
  let now = 0;
  let live = 0;
  let screen = title;
  let entered = 0;
  let level = 0;
  let score = 0;
  let lives = 3;
  let nectar = 0;
  let streak = 1;
  let daylight = 45_000;
  let grace = 0;
  let spawnNext = never;
  let spawnAt = 0;
  let wasps = 0;
  let waspNext = never;
  let waspAt = 0;
  let flowerHead = 0;
  let flowerTail = 0;
  let expiryNext = never;
  let expiryAt = 0;
  let attempted = -1;
  let attemptDue = never;
  let thinks = 1000;
  let began = 0;
  let running = false;
  let ended = 0;
  let fresh = 1;
  let cause = -1;
  let firstPoint = -1;
  let firstLoss = -1;
  let lastPoint = 0;
  let drySpell = 0;
  let row = 0;
  let most = 0;
  // Since when play, and counters that sit at a bound, are not counted yet.
  let since = 0;
  let scoreZero = 0;
  let livesZero = 0;
  let livesFive = 0;
  let nectarZero = 0;
  let nectarFull = 0;
  let streakOne = 0;
  let streakFive = 0;
  taken[12]!++;
  visited[0] = 1;

  for (;;) {
    if (fresh > 0) {
      // A new level, or a new run: everything kept for no longer is put back.
      fresh = 0;
      nectar = 0;
      streak = 1;
      daylight = live + 45_000;
      grace = 0;
      wasps = 0;
      waspNext = never;
      flowerHead = flowerTail = 0;
      expiryNext = never;
      attempted = -1;
      attemptDue = never;
      present.fill(0);
      if (level === 0) {
        present[blossom] = 2;
        flower[0] = flower[1] = blossom;
        flowerDue[0] = flowerDue[1] = live + 4000;
        flowerTail = 2;
        expiryNext = live + 4000;
        expiryAt = 0;
      }
      spawnNext = never;
      for (let slot = 0; slot < 4; slot++) {
        const spawn = level * 4 + slot;
        made[slot] = 0;
        if (first[spawn] === never) due[slot] = never;
        else if (first[spawn]! >= 0) due[slot] = live + first[spawn]!;
        else {
          const drawn = draw(keyLow, keyHigh, spawnLow[spawn]!, spawnHigh[spawn]!, asked[spawn]!++);
          due[slot] = live + least[spawn]! + 100 * Math.floor((drawn * choices[spawn]!) / 4294967296);
        }
        if (due[slot]! < spawnNext) {
          spawnNext = due[slot]!;
          spawnAt = slot;
        }
      }
    }

    if (screen === heath) {
      if (attempted < 0 && flowerHead < flowerTail) {
        attempted = flower[flowerHead]!;
        attemptDue = live + attempts[attempted]!;
        const gone = flowerHead++;
        if (flowerHead === flowerTail) {
          flowerHead = flowerTail = 0;
          expiryNext = never;
        } else if (gone === expiryAt) {
          expiryNext = never;
          for (let i = flowerHead; i < flowerTail; i++) {
            if (
              flowerDue[i]! < expiryNext ||
              (flowerDue[i] === expiryNext && flower[i]! < flower[expiryAt]!)
            ) {
              expiryNext = flowerDue[i]!;
              expiryAt = i;
            }
          }
        }
      }
      let next = daylight;
      if (spawnNext < next) next = spawnNext;
      if (waspNext < next) next = waspNext;
      if (attemptDue < next) next = attemptDue;
      if (expiryNext < next) next = expiryNext;
      now += next - live;
      if (now > patience) {
        now = patience;
        break;
      }
      live = next;

      if (next === daylight) {
        daylight = never;
        log.playTime += now - since;
        if (score === 0) held[0]! += now - scoreZero;
        if (lives === 0) held[1]! += now - livesZero;
        else if (lives === 5) held[2]! += now - livesFive;
        if (nectar === 0) held[3]! += now - nectarZero;
        else if (nectar === 20) held[4]! += now - nectarFull;
        if (streak === 1) held[5]! += now - streakOne;
        else if (streak === 5) held[6]! += now - streakFive;
        since = scoreZero = livesZero = livesFive = nectarZero = nectarFull = streakOne = streakFive = now;
        cause = 4;
        taken[4]!++;
        fired[6]!++;
        screen = dark;
      } else if (next === spawnNext) {
        const spawn = level * 4 + spawnAt;
        const piece = pieceOf[spawn]!;
        const appears = present[piece]! < atOnce[spawn]!;
        if (appears) made[spawnAt]!++;
        if (made[spawnAt]! >= total[spawn]!) due[spawnAt] = never;
        else if (choices[spawn] === 1) due[spawnAt] = next + least[spawn]!;
        else {
          const drawn = draw(keyLow, keyHigh, spawnLow[spawn]!, spawnHigh[spawn]!, asked[spawn]!++);
          due[spawnAt] = next + least[spawn]! + 100 * Math.floor((drawn * choices[spawn]!) / 4294967296);
        }
        spawnNext = due[0]!;
        spawnAt = 0;
        for (let slot = 1; slot < 4; slot++) {
          if (due[slot]! < spawnNext) {
            spawnNext = due[slot]!;
            spawnAt = slot;
          }
        }
        if (appears) {
          present[piece]!++;
          if (piece === wasp) {
            const arrives =
              live +
              1000 +
              100 * Math.floor((draw(keyLow, keyHigh, leadLow, leadHigh, leadAsked++) * 11) / 4294967296);
            waspDue[wasps] = arrives;
            if (arrives < waspNext) {
              waspNext = arrives;
              waspAt = wasps;
            }
            wasps++;
          } else {
            if (flowerTail === 4096) {
              flower.copyWithin(0, flowerHead, flowerTail);
              flowerDue.copyWithin(0, flowerHead, flowerTail);
              expiryAt -= flowerHead;
              flowerTail -= flowerHead;
              flowerHead = 0;
            }
            const withers = live + lasts[piece]!;
            flower[flowerTail] = piece;
            flowerDue[flowerTail] = withers;
            if (withers < expiryNext || (withers === expiryNext && piece < flower[expiryAt]!)) {
              expiryNext = withers;
              expiryAt = flowerTail;
            }
            flowerTail++;
          }
        }
        continue;
      } else if (next === waspNext) {
        wasps--;
        for (let i = waspAt; i < wasps; i++) waspDue[i] = waspDue[i + 1]!;
        waspNext = never;
        for (let i = 0; i < wasps; i++) {
          if (waspDue[i]! < waspNext) {
            waspNext = waspDue[i]!;
            waspAt = i;
          }
        }
        present[wasp]!--;
        if (
          draw(keyLow, keyHigh, outcomeLow[wasp]!, outcomeHigh[wasp]!, outcomeAsked[wasp]!++) <
          thresholds[wasp]!
        ) {
          if (++row > most) most = row;
        } else if (live >= grace) {
          row = 0;
          fired[4]!++;
          if (lives === 5) held[2]! += now - livesFive;
          lives--;
          if (lives === 0) livesZero = now;
          if (firstLoss < 0) firstLoss = now - began;
          if (streak === 5) held[6]! += now - streakFive;
          if (streak !== 1) streakOne = now;
          streak = 1;
          grace = live + 1000;
          if (lives === 0) {
            log.playTime += now - since;
            if (score === 0) held[0]! += now - scoreZero;
            if (lives === 0) held[1]! += now - livesZero;
            else if (lives === 5) held[2]! += now - livesFive;
            if (nectar === 0) held[3]! += now - nectarZero;
            else if (nectar === 20) held[4]! += now - nectarFull;
            if (streak === 1) held[5]! += now - streakOne;
            else if (streak === 5) held[6]! += now - streakFive;
            since =
              scoreZero =
              livesZero =
              livesFive =
              nectarZero =
              nectarFull =
              streakOne =
              streakFive =
                now;
            cause = 3;
            taken[3]!++;
            fired[6]!++;
            screen = dark;
          }
        }
        if (screen === heath) continue;
      } else if (next === attemptDue) {
        const piece = attempted;
        attempted = -1;
        attemptDue = never;
        present[piece]!--;
        const drawn = draw(keyLow, keyHigh, outcomeLow[piece]!, outcomeHigh[piece]!, outcomeAsked[piece]!++);
        if (drawn >= thresholds[piece]!) {
          row = 0;
          if (piece !== royalJelly) {
            fired[2]!++;
            if (streak === 5) held[6]! += now - streakFive;
            if (streak !== 1) streakOne = now;
            streak = 1;
          }
          continue;
        }
        if (++row > most) most = row;
        if (piece === royalJelly) {
          fired[3]!++;
          if (lives < 5 && ++lives === 5) livesFive = now;
          continue;
        }
        const worth = (piece === foxglove ? 20 : 10) * streak;
        fired[piece]!++;
        points[piece]! += worth;
        if (score === 0) held[0]! += now - scoreZero;
        score += worth;
        const part = now === began ? 0 : Math.ceil((now - began) / paceStep) - 1;
        pace[part < paceParts ? part : paceParts - 1]! += worth;
        if (firstPoint < 0) firstPoint = now - began;
        if (now - lastPoint > drySpell) drySpell = now - lastPoint;
        lastPoint = now;
        if (nectar === 0) held[3]! += now - nectarZero;
        if (++nectar === 20) nectarFull = now;
        if (streak === 1) held[5]! += now - streakOne;
        if (streak < 5 && ++streak === 5) streakFive = now;
        if (nectar < quota[level]!) continue;
        const saved = 2 * Math.floor((daylight - live) / 1000);
        log.playTime += now - since;
        if (score === 0) held[0]! += now - scoreZero;
        if (lives === 0) held[1]! += now - livesZero;
        else if (lives === 5) held[2]! += now - livesFive;
        if (nectar === 0) held[3]! += now - nectarZero;
        else if (nectar === 20) held[4]! += now - nectarFull;
        if (streak === 1) held[5]! += now - streakOne;
        else if (streak === 5) held[6]! += now - streakFive;
        since = scoreZero = livesZero = livesFive = nectarZero = nectarFull = streakOne = streakFive = now;
        pace[part < paceParts ? part : paceParts - 1]! += saved;
        score += saved;
        points[5]! += saved;
        fired[5]!++;
        if (level === 2) {
          cause = 5;
          taken[5]!++;
          fired[6]!++;
          screen = nightfall;
        } else {
          taken[6]!++;
          screen = cleared;
        }
      } else {
        const piece = flower[expiryAt]!;
        flowerTail--;
        for (let i = expiryAt; i < flowerTail; i++) {
          flower[i] = flower[i + 1]!;
          flowerDue[i] = flowerDue[i + 1]!;
        }
        expiryNext = never;
        for (let i = flowerHead; i < flowerTail; i++) {
          if (flowerDue[i]! < expiryNext || (flowerDue[i] === expiryNext && flower[i]! < flower[expiryAt]!)) {
            expiryNext = flowerDue[i]!;
            expiryAt = i;
          }
        }
        present[piece]!--;
        row = 0;
        if (piece !== royalJelly) {
          fired[2]!++;
          if (streak === 5) held[6]! += now - streakFive;
          if (streak !== 1) streakOne = now;
          streak = 1;
        }
        continue;
      }
      entered = now;
      thinks = now + 1000;
      visited[0]! |= 1 << screen;
      if (screen === cleared) continue;
      tries[level]!++;
      log.endRun(
        score,
        now - began,
        screen,
        cause,
        level,
        lives,
        firstPoint,
        firstLoss,
        now - lastPoint > drySpell ? now - lastPoint : drySpell,
        most,
        began,
      );
      running = false;
      if (++ended >= mostRuns) break;
      continue;
    }

    if (screen === cleared) {
      if (entered + 2000 > patience) {
        now = patience;
        break;
      }
      now = entered + 2000;
      taken[7]!++;
      tries[level]!++;
      since = scoreZero = livesZero = livesFive = nectarZero = nectarFull = streakOne = streakFive = now;
      level++;
      fresh = 1;
      screen = heath;
      entered = now;
      continue;
    }

    if (thinks > patience) {
      now = patience;
      break;
    }
    now = thinks;
    thinks = now + 1000;
    const drawn = draw(keyLow, keyHigh, inputLow[screen]!, inputHigh[screen]!, inputAsked[screen]!++);
    const second = drawn >= 2 ** 31;
    if (screen === help) {
      taken[1]!++;
      screen = title;
    } else if (screen === title && !second) {
      taken[0]!++;
      screen = help;
    } else if (screen === title || !second) {
      taken[screen === title ? 2 : screen === dark ? 8 : 10]!++;
      screen = heath;
      level = 0;
      score = 0;
      lives = 3;
      fresh = 2;
      running = true;
      began = now;
      visited[0] = 0;
      firstPoint = firstLoss = -1;
      lastPoint = now;
      drySpell = row = most = 0;
      since = scoreZero = livesZero = livesFive = nectarZero = nectarFull = streakOne = streakFive = now;
    } else {
      taken[screen === dark ? 9 : 11]!++;
      screen = title;
    }
    visited[0]! |= 1 << screen;
    entered = now;
  }
  if (running) {
    if (screen === heath) {
      log.playTime += now - since;
      if (score === 0) held[0]! += now - scoreZero;
      if (lives === 0) held[1]! += now - livesZero;
      else if (lives === 5) held[2]! += now - livesFive;
      if (nectar === 0) held[3]! += now - nectarZero;
      else if (nectar === 20) held[4]! += now - nectarFull;
      if (streak === 1) held[5]! += now - streakOne;
      else if (streak === 5) held[6]! += now - streakFive;
      since = scoreZero = livesZero = livesFive = nectarZero = nectarFull = streakOne = streakFive = now;
    }
    tries[level]!++;
    log.endRun(
      score,
      now - began,
      -1,
      -1,
      level,
      lives,
      firstPoint,
      firstLoss,
      now - lastPoint > drySpell ? now - lastPoint : drySpell,
      most,
      began,
    );
  }
  log.duration = now;
}
