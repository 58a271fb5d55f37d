// The tests of the pages need a real Chromium, those of the queue a real Redis. On a machine without them, Debian's packages are installed.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { chromiumFiles } from './chromium.mjs';

const needed = { 'chromium-headless-shell': chromiumFiles, 'redis-server': ['/usr/bin/redis-server'] };
const missing = Object.entries(needed).filter(([, files]) => !files.some((file) => existsSync(file)));
if (missing.length > 0) {
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const packages = missing.map(([name]) => name);
  for (const words of [
    ['apt-get', 'update'],
    ['apt-get', 'install', '-y', '--no-install-recommends', ...packages],
  ]) {
    const [command, ...rest] = [...sudo, ...words];
    const { status } = spawnSync(command, rest, { stdio: ['ignore', 'ignore', 'inherit'], env });
    if (status !== 0) {
      const files = missing.map(([, [file]]) => file).join(' and ');
      process.stderr.write(`${files} is needed by the tests and could not be installed with apt-get.\n`);
      process.exit(1);
    }
  }
}
