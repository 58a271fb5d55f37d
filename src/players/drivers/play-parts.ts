import type { Form } from '../../engine/program/form.js';
import { golden, mixFirst, mixSecond } from '../../engine/run/draw.js';

/** Later than any clock of a session, and a small integer on every JavaScript engine. */
export const never = 2 ** 30 - 1;

/** Pieces on their way to the player, or waiting for it, at the most. */
export const capacity = 2 ** 16;

/** Later than any wait, so that what rests on a screen can be told apart by one number. */
export const restingTimer = never;

/** In place of an event that nothing on the screen hears, so that the rules need not be run. */
export const unheard = -2;

/** Whether the present screen is live: compared with its numbers where they are few, which is faster than a look into a table. */
export function onLive({ screens }: Form): string {
  const live = screens.flatMap((screen, index) => (screen.live ? [index] : []));
  return live.length > 2
    ? 'isLive[screen] === 1'
    : `(${live.map((index) => `screen === ${index}`).join(' || ') || 'false'})`;
}

export const kinds = { spawn: 0, arrival: 1, attempt: 2, expiry: 3, wait: 4, timer: 5 } as const;

const round = `x = Math.imul(x ^ (x >>> 16), ${mixFirst}); x = Math.imul(x ^ (x >>> 15), ${mixSecond}); x ^= x >>> 15;`;

/** `draw` of `draw.ts`, for the text; V8 takes it into the code where it is called. */
export const drawFunction = `function draw(asked, low, high, keyLow, keyHigh) {
  let x = (Math.imul(asked, ${golden}) + low) ^ keyLow;
  ${round}
  x = (x + (high ^ keyHigh)) | 0;
  ${round}
  return x >>> 0;
}`;

export const drawn = (ask: string, low: string, high: string): string =>
  `draw(${ask}, ${low}, ${high}, keyLow, keyHigh)`;

export const choice = (draw: string, choices: string): string =>
  `Math.floor(${draw} * ${choices} / 4294967296)`;

const findArrival = `arrivalDue = ${never};
for (let i = 0; i < arriving; i++) {
  if (arrivingDue[i] < arrivalDue || (arrivingDue[i] === arrivalDue && arrivingPiece[i] < arrivingPiece[arrivalAt])) { arrivalDue = arrivingDue[i]; arrivalAt = i; }
}`;

export const findExpiry = `expiryDue = ${never};
for (let i = soughtHead; i < soughtTail; i++) {
  if (soughtDue[i] < expiryDue || (soughtDue[i] === expiryDue && expiryDue < ${never} && soughtPiece[i] < soughtPiece[expiryAt])) { expiryDue = soughtDue[i]; expiryAt = i; }
}`;

export const removeArriving = `arriving--;
for (let i = arrivalAt; i < arriving; i++) { arrivingDue[i] = arrivingDue[i + 1]; arrivingPiece[i] = arrivingPiece[i + 1]; }
${findArrival}`;

export const removeSought = `soughtTail--;
for (let i = expiryAt; i < soughtTail; i++) { soughtDue[i] = soughtDue[i + 1]; soughtPiece[i] = soughtPiece[i + 1]; }
${findExpiry}`;

/** `piece` waits for the player until `due`. */
const seek = `
if (soughtTail === ${capacity}) {
  soughtDue.copyWithin(0, soughtHead, soughtTail); soughtPiece.copyWithin(0, soughtHead, soughtTail);
  soughtTail -= soughtHead; expiryAt -= soughtHead; soughtHead = 0;
  if (soughtTail === ${capacity}) host.tooMany(piece);
}
soughtDue[soughtTail] = due; soughtPiece[soughtTail] = piece;
if (due < expiryDue || (due === expiryDue && due < ${never} && piece < soughtPiece[expiryAt])) { expiryDue = due; expiryAt = soughtTail; }
soughtTail++;`;

/** An attempt at `piece` is over, and it waits on as it did before. */
export const seekAgain = `{ const due = attemptExpires < live ? live : attemptExpires; ${seek} }`;

/** `piece` has appeared. */
export const appear = `
if (meets[piece] === 2) {
  if (arriving === ${capacity}) host.tooMany(piece);
  let due = live + leadLeast[piece];
  if (leadChoices[piece] > 1) due += leadStep[piece] * ${choice(drawn('leadsAsked[piece]++', 'leadLow[piece]', 'leadHigh[piece]'), 'leadChoices[piece]')};
  arrivingDue[arriving] = due; arrivingPiece[arriving] = piece;
  if (due < arrivalDue || (due === arrivalDue && piece < arrivingPiece[arrivalAt])) { arrivalDue = due; arrivalAt = arriving; }
  arriving++;
} else if (meets[piece] === 1) {
  const due = lasts[piece] === ${never} ? ${never} : live + lasts[piece];
  ${seek}
}`;

/** Every `piece` is gone. */
export const clear = `
let kept = 0;
for (let i = 0; i < arriving; i++) if (arrivingPiece[i] !== piece) { arrivingDue[kept] = arrivingDue[i]; arrivingPiece[kept++] = arrivingPiece[i]; }
arriving = kept; ${findArrival}
kept = soughtHead;
for (let i = soughtHead; i < soughtTail; i++) if (soughtPiece[i] !== piece) { soughtDue[kept] = soughtDue[i]; soughtPiece[kept++] = soughtPiece[i]; }
soughtTail = kept; ${findExpiry}
if (attempted === piece) { attempted = -1; attemptDue = ${never}; }`;

/** The player turns to what has been there longest; `turn` does so with what stands at `soughtHead`. */
export const attendOldest = (turn: string): string => `
${turn}
const first = soughtHead++;
if (soughtHead === soughtTail) { soughtHead = soughtTail = 0; expiryDue = ${never}; }
else if (expiryAt === first) { ${findExpiry} }`;
