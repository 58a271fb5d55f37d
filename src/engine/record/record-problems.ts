import { type Wording, worded } from '../../design/problems/problem.js';
import type { RecordDetails } from '../../design/problems/problem-details.js';

/** The words of what can be wrong with a session record. */
const wording: Wording<RecordDetails> = {
  'not-a-record': ({ reason }) => ({
    message: `This is not a session record: ${reason}.`,
    remedy: 'A record is JSON Lines, as the page or the library saved it.',
  }),
  'other-design': ({ recorded, found }) => ({
    message: `The record was made with the design ${recorded}; this file is ${found}.`,
    remedy: 'Replay it with the design it was recorded with.',
  }),
  'replay-differs': ({ what, recorded, found }) => ({
    message: `The replay ends with ${what} ${found}, the record with ${recorded}.`,
    remedy: 'The record was edited or is damaged.',
  }),
};

export const recordProblem = worded(wording);
