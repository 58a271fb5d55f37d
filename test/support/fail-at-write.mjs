// Loaded into a process before its program: at the n-th call that changes a file, FAIL_AT, the process is killed, with half of what it
// writes written; or, with FAIL_WITH, that call and every later one of its kind fails with that code, as on a full disk.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';

const at = Number(process.env.FAIL_AT);
const code = process.env.FAIL_WITH;
let calls = 0;
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
  const writes = name.startsWith('write');
  fs[name] = (...words) => {
    calls++;
    if (code === undefined && calls === at) {
      if (writes && typeof words[1] === 'string') real(words[0], words[1].slice(0, words[1].length / 2));
      process.kill(process.pid, 'SIGKILL');
    }
    if (code !== undefined && calls >= at && writes)
      throw Object.assign(new Error(`${code}: made up`), { code });
    return real(...words);
  };
}
syncBuiltinESMExports();
