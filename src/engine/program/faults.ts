import { type Wording, worded } from '../../design/problems/problem.js';
import type { FaultDetails } from '../../design/problems/problem-details.js';

const list = (words: readonly string[]): string => (words.length === 0 ? 'none' : words.join(', '));

const wording: Wording<FaultDetails> = {
  'endless-chain': ({ steps, loop }) => ({
    message: `More than ${steps} steps followed from one event: ${loop.join(', ')} set each other off without end.`,
    remedy: 'Give one of them a condition that its own effects end.',
  }),
  'number-too-large': ({ counter, by, found }) => ({
    message: `${by} would make ${counter} ${found}; a counter holds finite numbers up to 2^53.`,
    remedy: `Give ${counter} a max, or fix the amount.`,
  }),
  'no-next-level': ({ level }) => ({
    message: `This goes to the next level, and ${level} is the last.`,
    remedy: 'Add a transition before it with if: level.last.',
  }),
  'too-many-pieces': ({ piece, most }) => ({
    message: `More than ${most} pieces would be present at once; the last was a ${piece}.`,
    remedy: `Spawn fewer, or only some of the time, such as if: present.${piece} < 100.`,
  }),
  'not-a-snapshot': ({ reason }) => ({
    message: `This is not a snapshot of a session: ${reason}.`,
    remedy: 'Restore what snapshot() gave; the session goes on as it was.',
  }),
  'design-changed': ({ sections }) => ({
    message: `The design has changed since the snapshot was taken, in: ${list(sections)}.`,
    remedy: 'Start a new session; the one that runs goes on as it was.',
  }),
  'time-over': ({ at }) => ({
    message: `The limit on time was reached at ${at / 1000} s of session time.`,
    remedy: 'Allow more time, let less session time pass, or give the timers longer intervals.',
  }),
};

export const fault = worded(wording);
