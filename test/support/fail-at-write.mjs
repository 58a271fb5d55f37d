// Loaded into a process before its program, to spoil the calls that change a file. What is done is given by an environment variable:
// WATCHED, a JSON list of files: at each such call, when half of what it writes is written, what these files hold is added to the file
// STATES as a line of JSON: what a kill at that moment would leave. FAIL_AT: the process is killed at the n-th of these moments.
// FAIL_WITH: each call that writes fails with that code, as on a full disk.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';

const { FAIL_WITH: code, FAIL_AT: at, WATCHED: watched, STATES: states } = process.env;
const { readFileSync, appendFileSync } = fs;
const files = JSON.parse(watched ?? '[]');
let moments = 0;
let isLooking = false;

function moment() {
  moments++;
  if (moments === Number(at)) process.kill(process.pid, 'SIGKILL');
  // Appending calls what is spoilt here.
  isLooking = true;
  if (states !== undefined)
    appendFileSync(states, `${JSON.stringify(files.map((file) => readFileSync(file, 'utf8')))}\n`);
  isLooking = false;
}

for (const name of [
  'openSync',
  'writeFileSync',
  'writeSync',
  'fsyncSync',
  'fchmodSync',
  'closeSync',
  'renameSync',
  'rmSync',
]) {
  const real = fs[name];
  fs[name] = (...words) => {
    if (isLooking) return real(...words);
    const [file, text, ...others] = words;
    if (!name.startsWith('write')) {
      moment();
      return real(...words);
    }
    if (code !== undefined) throw Object.assign(new Error(`${code}: made up`), { code });
    if (typeof text !== 'string') {
      moment();
      return real(...words);
    }
    const half = text.slice(0, text.length / 2);
    const written = real(file, half, ...others);
    moment();
    // A file by its name is written from its start again; one that is open goes on where it was.
    return typeof file === 'number'
      ? (written ?? 0) + (real(file, text.slice(half.length), ...others) ?? 0)
      : real(...words);
  };
}
syncBuiltinESMExports();
