import { existsSync } from 'node:fs';

/** Debian's Chromium without a window, which starts sooner and works less; or the whole one, where that stands already. */
export const chromiumFiles = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];
export const chromiumFile = chromiumFiles.find((file) => existsSync(file));
