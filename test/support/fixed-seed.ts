import fc from 'fast-check';

// A change lands or fails by what it changes, not by luck: `npm test` tries the same cases each time, `npm run soak` fresh ones.
if (process.env.JOCUS_SOAK === undefined) fc.configureGlobal({ seed: 20_261_127 });
