import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { watch } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { basename, dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import sirv from 'sirv';
import { UsageError } from '../design/problems/problem.js';
import { statsOf, writeWhole } from './output-file.js';
import { readTextFile } from './text-file.js';

/** Characters of a design that are taken from the page. */
const mostCharacters = 4_000_000;
/** Editors write a file in several steps; it counts once nothing was written for this many milliseconds. */
const quiet = 60;

/** What the page may do: its own scripts and styles, its own server, and nothing from anywhere else. */
const pagePolicy =
  "default-src 'none'; script-src 'self'; worker-src 'self'; connect-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
/** What its workers may do: run what a checked design is compiled to, and nothing else. They have no document and no network. */
const workerPolicy = "default-src 'none'; script-src 'self' 'unsafe-eval'";

export interface Workbench {
  /** Where the page is, with the token that it needs. */
  readonly address: string;
  close(): Promise<void>;
}

export interface WorkbenchOptions {
  /** 0: any that is free. */
  readonly port: number;
  /** The folder of the page, built. */
  readonly page?: string;
}

/** A design as it stands on the disk. */
interface OnDisk {
  readonly text: string;
  readonly version: string;
}

/**
 * Serves the workbench for one file on this machine alone. Whoever talks to it needs the token of the address; what it reads and writes is
 * that file and no other. A text is only written over the version that it was made from.
 *
 * @param file undefined: the page alone, which then keeps its work in the browser
 * @throws UsageError where the port is taken, or the page was not built
 */
export async function serveWorkbench(
  file: string | undefined,
  { port, page = fileURLToPath(new URL('../workbench', import.meta.url)) }: WorkbenchOptions,
): Promise<Workbench> {
  const token = randomBytes(24).toString('base64url');
  const listeners = new Set<ServerResponse>();
  const assets = sirv(page, { etag: true, dev: false });
  const server = createServer((request, response) => {
    try {
      answer(request, response);
    } catch (error) {
      if (response.headersSent) response.end();
      else send(response, 500, { message: (error as Error).message });
    }
  });

  /** Why a request is not answered: it comes from elsewhere, or has not the token. */
  function refusal(request: IncomingMessage, url: URL): { status: number; message: string } | undefined {
    const { port: own } = server.address() as AddressInfo;
    const hosts = [`127.0.0.1:${own}`, `localhost:${own}`];
    const { host = '', origin } = request.headers;
    if (!hosts.includes(host)) return { status: 403, message: 'This host is not served.' };
    if (origin !== undefined && !hosts.some((each) => origin === `http://${each}`))
      return { status: 403, message: 'Other pages may not use the workbench.' };
    if (!url.pathname.startsWith('/api/'))
      return request.method === 'GET' || request.method === 'HEAD'
        ? undefined
        : { status: 405, message: 'A page is only read.' };
    if (file === undefined) return { status: 404, message: 'No file is open here.' };
    const given = request.headers['x-jocus-token'] ?? url.searchParams.get('token') ?? '';
    return isSame(String(given), token)
      ? undefined
      : { status: 401, message: 'Open the address that jocus open has printed.' };
  }

  function answer(request: IncomingMessage, response: ServerResponse): void {
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    response.setHeader('x-content-type-options', 'nosniff');
    // The page cannot read headers of its own but this one: that it is to ask for a file.
    if (file !== undefined) response.setHeader('server-timing', 'file');
    response.setHeader('referrer-policy', 'no-referrer');
    response.setHeader('cross-origin-resource-policy', 'same-origin');
    const refused = refusal(request, url);
    if (refused !== undefined) send(response, refused.status, { message: refused.message });
    else if (!url.pathname.startsWith('/api/')) {
      const isWorker = /worker[^/]*\.js$/.test(url.pathname);
      response.setHeader('content-security-policy', isWorker ? workerPolicy : pagePolicy);
      assets(request, response, () => send(response, 404, { message: 'There is no such page.' }));
    } else if (file !== undefined) serve(file, `${request.method} ${url.pathname}`, request, response);
  }

  function serve(file: string, call: string, request: IncomingMessage, response: ServerResponse): void {
    if (call === 'GET /api/file')
      send(response, 200, { name: basename(file), id: versionOf(resolve(file)), ...read(file) });
    else if (call === 'GET /api/changes') listen(response);
    else if (call === 'PUT /api/file') takeIn(file, request, response);
    else send(response, 404, { message: 'The workbench has no such call.' });
  }

  function listen(response: ServerResponse): void {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    response.write(': here\n\n');
    listeners.add(response);
    response.on('close', () => listeners.delete(response));
  }

  function takeIn(file: string, request: IncomingMessage, response: ServerResponse): void {
    const parts: Buffer[] = [];
    let size = 0;
    request.on('data', (part: Buffer) => {
      size += part.length;
      if (size <= 4 * mostCharacters) parts.push(part);
    });
    request.on('end', () => {
      const sent = size > 4 * mostCharacters ? undefined : parse(Buffer.concat(parts).toString('utf8'));
      if (sent === undefined || sent.text.length > mostCharacters)
        send(response, 400, { message: `Send text, of at most ${mostCharacters} characters, and base.` });
      else keep(file, sent, response);
    });
  }

  function keep(
    file: string,
    { text, base }: { text: string; base: string },
    response: ServerResponse,
  ): void {
    try {
      const now = read(file);
      // Where somebody has saved another text meanwhile both are kept, and the page shows both.
      if (now.version !== base) send(response, 409, now);
      else {
        if (now.text !== text) writeWhole(file, text);
        send(response, 200, { version: versionOf(text) });
      }
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      send(response, 507, { message: error.message });
    }
  }

  await listening(server, port);
  const unwatch =
    file === undefined
      ? () => {}
      : watchFile(file, (now) => {
          for (const listener of listeners) listener.write(`event: file\ndata: ${JSON.stringify(now)}\n\n`);
        });

  const { port: own } = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${own}/${file === undefined ? '' : `#${token}`}`,
    async close() {
      unwatch();
      for (const listener of listeners) listener.end();
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
    },
  };
}

/** Tells whenever somebody has put another text into a file, until it is called off. */
function watchFile(file: string, tell: (now: OnDisk) => void): () => void {
  let told = read(file).version;
  const look = (): void => {
    try {
      const now = read(file);
      if (now.version === told) return;
      told = now.version;
      tell(now);
    } catch (error) {
      // What cannot be read now is told once it can; the page keeps its text, and nothing is written over it.
      if (!(error instanceof UsageError)) throw error;
    }
  };
  let timer: NodeJS.Timeout | undefined;
  // The folder is watched, since an editor may put a new file in the place of the old.
  const watcher = watch(dirname(resolve(file)), (_, name) => {
    if (name !== null && name !== basename(file)) return;
    clearTimeout(timer);
    timer = setTimeout(look, quiet);
  });
  return () => {
    watcher.close();
    clearTimeout(timer);
  };
}

const versionOf = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 24);

/**
 * The file as it stands, its byte-order mark included; one that is gone is empty.
 *
 * @throws UsageError where it cannot be read, or its bytes are not UTF-8, which no text could be written back from
 */
function read(file: string): OnDisk {
  if (statsOf(file) === undefined) return { text: '', version: versionOf('') };
  const { text, hasMark } = readTextFile(file, 'a design in YAML');
  const whole = `${hasMark ? '\uFEFF' : ''}${text}`;
  return { text: whole, version: versionOf(whole) };
}

function parse(body: string): { readonly text: string; readonly base: string } | undefined {
  try {
    const { text, base } = JSON.parse(body) as { text: unknown; base: unknown };
    return typeof text === 'string' && typeof base === 'string' ? { text, base } : undefined;
  } catch {
    return undefined;
  }
}

/** Takes the same time whatever is given, so that no token can be guessed letter by letter. */
function isSame(given: string, token: string): boolean {
  const [a, b] = [Buffer.from(given), Buffer.from(token)];
  return a.length === b.length && timingSafeEqual(a, b);
}

function send(response: ServerResponse, status: number, value: object): void {
  response.writeHead(status, {
    'content-type': 'application/json; charset=utf-8',
    'cache-control': 'no-store',
  });
  response.end(JSON.stringify(value));
}

function listening(server: Server, port: number): Promise<void> {
  return new Promise((done, fail) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      const taken =
        error.code === 'EADDRINUSE'
          ? 'is taken; choose another with --port'
          : `cannot be used (${error.code})`;
      fail(new UsageError('not-allowed', `The port ${port} ${taken}.`));
    });
    server.listen(port, '127.0.0.1', () => done());
  });
}
