import { existsSync, readFileSync, statSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { extname, join, normalize } from 'node:path';
import { type Browser, chromium } from 'playwright-core';

// As in scripts/chromium.mjs: that without a window where it stands, which works less.
const executablePath = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((file) =>
  existsSync(file),
)!;

export const launch = (): Promise<Browser> =>
  chromium.launch({
    executablePath,
    headless: true,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      // Pages that live for seconds: what V8 optimises early would soon be thrown away.
      '--js-flags=--invocation-count-for-maglev=4000,--interrupt-budget=600000',
    ],
  });

const types: { readonly [ending: string]: string } = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.svg': 'image/svg+xml',
};

/** Serves a folder on a free port of this machine, with a content security policy where one is given. */
export async function serve(folder: string, policy?: string): Promise<{ url: string; server: Server }> {
  const server = createServer((request, response) => {
    const path = normalize(new URL(request.url ?? '/', 'http://localhost').pathname);
    const file = join(folder, path === '/' ? 'index.html' : path);
    if (!file.startsWith(folder) || !existsSync(file) || !statSync(file).isFile()) {
      response.writeHead(404).end();
      return;
    }
    response.setHeader('content-type', types[extname(file)] ?? 'application/octet-stream');
    if (policy !== undefined) response.setHeader('content-security-policy', policy);
    response.end(readFileSync(file));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, server };
}
