// The tests of the example apps need a real Chromium. On a machine without one, Debian's package is installed.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

if (!existsSync('/usr/bin/chromium')) {
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  for (const words of [
    ['apt-get', 'update'],
    ['apt-get', 'install', '-y', '--no-install-recommends', 'chromium'],
  ]) {
    const [command, ...rest] = [...sudo, ...words];
    const { status } = spawnSync(command, rest, { stdio: ['ignore', 'ignore', 'inherit'], env });
    if (status !== 0) {
      process.stderr.write(
        'Chromium is needed at /usr/bin/chromium and could not be installed with apt-get.\n',
      );
      process.exit(1);
    }
  }
}
