import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { serveWorkbench, type Workbench } from '../../dist/node/workbench-server.js';
import { jocus, startJocus } from '../support/command-line.js';
import { demoFile, demoText } from '../support/designs.js';

let folder: string;
let file: string;
let workbench: Workbench;
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'jocus-open-'));
  file = join(folder, 'heath.yaml');
  writeFileSync(file, demoText);
  writeFileSync(join(folder, 'secret.txt'), 'secret');
  workbench = await serveWorkbench(file, { port: 0 });
});
afterEach(async () => {
  await workbench.close();
  rmSync(folder, { recursive: true, force: true });
});
const token = (): string => new URL(workbench.address).hash.slice(1);

interface Call {
  readonly method?: string;
  readonly headers?: { readonly [name: string]: string };
  readonly body?: string;
}

/** A request as any program could make it, headers and path as given. */
function ask(path: string, { method = 'GET', headers = {}, body }: Call = {}) {
  const { port } = new URL(workbench.address);
  return new Promise<{ status: number; text: string; policy: string | undefined }>((done, fail) => {
    const call = request({ host: '127.0.0.1', port, path, method, headers, agent: false }, (answer) => {
      let text = '';
      answer.on('data', (part) => {
        text += part;
      });
      answer.on('end', () =>
        done({
          status: answer.statusCode!,
          text,
          policy: answer.headers['content-security-policy'] as string | undefined,
        }),
      );
    });
    call.on('error', fail);
    call.end(body);
  });
}
const own = (headers: object = {}): Call => ({ headers: { 'x-jocus-token': token(), ...headers } });
const put = (text: string, base: string, headers: object = {}): Call => ({
  ...own(headers),
  method: 'PUT',
  body: JSON.stringify({ text, base }),
});
const version = async (): Promise<string> => JSON.parse((await ask('/api/file', own())).text).version;

describe('the server of the workbench', () => {
  test('gives the file to the page that has the token, and takes changes of it', async () => {
    const { status, text } = await ask('/api/file', own());
    expect([status, JSON.parse(text)]).toEqual([
      200,
      {
        name: 'heath.yaml',
        id: expect.stringMatching(/^[0-9a-f]{24}$/),
        text: demoText,
        version: expect.stringMatching(/^[0-9a-f]{24}$/),
      },
    ]);
    expect((await ask('/api/file', put('title: New\n', await version()))).status).toBe(200);
    expect(readFileSync(file, 'utf8')).toBe('title: New\n');
  });

  test.each([
    ['another host', 403, () => own({ host: 'evil.example' })],
    [
      'another host with the right port',
      403,
      () => own({ host: `evil.example:${new URL(workbench.address).port}` }),
    ],
    ['another page', 403, () => own({ origin: 'http://evil.example' })],
    ['a page without an origin of its own', 403, () => own({ origin: 'null' })],
    ['no token', 401, () => ({})],
    ['a wrong token', 401, () => ({ headers: { 'x-jocus-token': 'x'.repeat(32) } })],
    ['a token of another length', 401, () => ({ headers: { 'x-jocus-token': 'x' } })],
  ])('refuses %s, for reading and for writing', async (_, status, call) => {
    expect((await ask('/api/file', call())).status).toBe(status);
    expect((await ask('/api/changes', call())).status).toBe(status);
    const written = await ask('/api/file', {
      ...call(),
      method: 'PUT',
      body: JSON.stringify({ text: 'x', base: await version() }),
    });
    expect(written.status).toBe(status);
    expect(readFileSync(file, 'utf8')).toBe(demoText);
  });

  test('serves its own pages and no other path', async () => {
    const page = await ask('/');
    expect([page.status, page.policy]).toEqual([200, expect.stringContaining("script-src 'self';")]);
    expect(page.policy).not.toContain('unsafe-eval');
    expect(page.text).not.toContain(token());
    const built = readdirSync(fileURLToPath(new URL('../../dist/workbench/assets', import.meta.url)));
    const worker = `assets/${built.find((name) => name.includes('worker'))}`;
    expect((await ask(`/${worker}`)).policy).toBe("default-src 'none'; script-src 'self' 'unsafe-eval'");
    for (const path of [
      '/../secret.txt',
      '/..%2fsecret.txt',
      '/%2e%2e/secret.txt',
      '//etc/passwd',
      `/${folder}/secret.txt`,
      '/../../package.json',
      '/.env',
    ]) {
      const { status, text } = await ask(path, own());
      expect([status, text.includes('secret')], path).toEqual([404, false]);
    }
    expect((await ask('/', { method: 'POST' })).status).toBe(405);
    expect((await ask('/api/other', own())).status).toBe(404);
    expect((await ask('/api/file', { ...own(), method: 'DELETE' })).status).toBe(404);
  });

  test('writes over no version but the one that a text was made from', async () => {
    const base = await version();
    writeFileSync(file, 'title: Theirs\n');
    const { status, text } = await ask('/api/file', put('title: Mine\n', base));
    expect([status, JSON.parse(text)]).toEqual([409, { text: 'title: Theirs\n', version: await version() }]);
    expect(readFileSync(file, 'utf8')).toBe('title: Theirs\n');
    expect((await ask('/api/file', put('title: Mine\n', await version()))).status).toBe(200);
  });

  test.each([
    '',
    '{',
    'null',
    '{"text":5,"base":"x"}',
    '{"text":"x"}',
    JSON.stringify({ text: 'x'.repeat(4_000_001), base: 'x' }),
  ])('refuses a body that is none: %.20s', async (body) => {
    expect((await ask('/api/file', { ...own(), method: 'PUT', body })).status).toBe(400);
    expect(readFileSync(file, 'utf8')).toBe(demoText);
  });

  test('tells its pages when the file changes, and not of their own changes twice', async () => {
    const answer = await fetch(`${new URL(workbench.address).origin}/api/changes?token=${token()}`);
    const reader = answer.body!.getReader();
    const next = async (): Promise<string> => new TextDecoder().decode((await reader.read()).value);
    expect(await next()).toContain(': here');
    writeFileSync(file, 'title: Elsewhere\n');
    expect(await next()).toMatch(
      /^event: file\ndata: \{"text":"title: Elsewhere\\n","version":"[0-9a-f]+"\}/,
    );
    await reader.cancel();
  });

  test('neither gives nor overwrites bytes that are not UTF-8, outlives them, and tells when they are mended', async () => {
    const bytes = Buffer.from([0x23, 0x20, 0xe9, 0x0a]);
    const base = await version();
    const answer = await fetch(`${new URL(workbench.address).origin}/api/changes?token=${token()}`);
    const reader = answer.body!.getReader();
    await reader.read();
    writeFileSync(file, bytes);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(await ask('/api/file', own())).toMatchObject({
      status: 500,
      text: expect.stringContaining('is not UTF-8 text'),
    });
    expect((await ask('/api/file', put('title: x\n', base))).status).toBe(507);
    expect(readFileSync(file)).toEqual(bytes);
    writeFileSync(file, '\uFEFFtitle: Mended\n');
    expect(new TextDecoder().decode((await reader.read()).value)).toContain('Mended');
    await reader.cancel();
    // A byte-order mark is part of the text, so that it stays.
    expect(JSON.parse((await ask('/api/file', own())).text).text).toBe('\uFEFFtitle: Mended\n');
  });
});

describe('jocus open', () => {
  test('prints the address, answers there, and ends with Ctrl-C', async () => {
    const running = startJocus(['open', file, '--no-browser']);
    const address = await new Promise<string>((done) => {
      running.stdout.on('data', (data) => {
        const found = /http:\S+/.exec(String(data));
        if (found !== null) done(found[0]);
      });
    });
    const { origin, hash } = new URL(address);
    const answer = await fetch(`${origin}/api/file`, { headers: { 'x-jocus-token': hash.slice(1) } });
    expect((await answer.json()).text).toBe(demoText);
    running.kill('SIGINT');
    expect(await new Promise((done) => running.on('close', done))).toBe(0);
  });

  test('says what is wrong with a file or a port', async () => {
    expect(jocus(['open', join(folder, 'no.yaml'), '--no-browser'])).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('There is no file'),
    });
    const { port } = new URL(workbench.address);
    expect(jocus(['open', demoFile, '--no-browser', '--port', port])).toMatchObject({
      status: 2,
      stderr: expect.stringContaining(`The port ${port} is taken`),
    });
  });
});

test('a file that may not be written is told, and the page keeps its text', async () => {
  chmodSync(folder, 0o500);
  try {
    const { status, text } = await ask('/api/file', put('title: x\n', await version()));
    // Whoever runs as root may write all the same.
    if (process.getuid?.() !== 0)
      expect([status, JSON.parse(text).message]).toEqual([
        507,
        expect.stringContaining('may not be written'),
      ]);
    else expect(status).toBe(200);
  } finally {
    chmodSync(folder, 0o700);
  }
});

describe('the workbench without a file', () => {
  test('serves the page alone, and has no call', async () => {
    await workbench.close();
    workbench = await serveWorkbench(undefined, { port: 0 });
    expect(new URL(workbench.address).hash).toBe('');
    expect((await ask('/')).text).toContain('<title>Jocus workbench</title>');
    for (const method of ['GET', 'PUT'])
      expect((await ask('/api/file', { method, body: '{}' })).status).toBe(404);
    expect((await ask('/api/changes')).status).toBe(404);
  });

  test('is what jocus open gives, at the usual port or another', async () => {
    const first = startJocus(['open', '--no-browser']);
    const second = startJocus(['open', file, '--no-browser']);
    try {
      const addresses = await Promise.all(
        [first, second].map(
          ({ stdout }) =>
            new Promise<string>((done) => {
              stdout.on('data', (told) => {
                const [address] = /http:\S+/.exec(String(told)) ?? [];
                if (address !== undefined) done(address);
              });
            }),
        ),
      );
      const ports = addresses.map((address) => new URL(address).port);
      expect(new Set(ports).size).toBe(2);
      expect(new URL(addresses[0]!).hash).toBe('');
      expect(new URL(addresses[1]!).hash.length).toBeGreaterThan(20);
    } finally {
      first.kill();
      second.kill();
    }
  });
});
