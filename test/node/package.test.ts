import { execFileSync, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, createServer } from 'vite';
import { beforeAll, describe, expect, test } from 'vitest';
import { temporaryFolder } from '../support/command-line.js';

const root = fileURLToPath(new URL('../../', import.meta.url));
const folder = temporaryFolder();
const modules = join(folder, 'node_modules');
const installed = join(modules, 'jocus');

interface Manifest {
  readonly dependencies?: Readonly<Record<string, string>>;
  readonly exports: Readonly<Record<string, unknown>>;
  readonly bin: Readonly<Record<string, string>>;
}
const manifestOf = (path: string): Manifest => JSON.parse(readFileSync(join(path, 'package.json'), 'utf8'));

/** Puts a package and all that it depends on beside the one under test, and nothing else: no development dependency of ours. */
function give(name: string): void {
  const to = join(modules, name);
  if (existsSync(to)) return;
  const from = join(root, 'node_modules', name);
  mkdirSync(dirname(to), { recursive: true });
  symlinkSync(from, to);
  for (const dependency of Object.keys(manifestOf(from).dependencies ?? {})) give(dependency);
}

/** A program that uses every entry. */
const program = `import { readDesign, simulate, summarize, solve, check, checkToSarif, readMarkingTests } from 'jocus';
import { Game } from 'jocus/engine';
import { fieldWorld } from 'jocus/world';
import { reportToHtml, type FigureDocument } from 'jocus/report';
import { nodeWorkers } from 'jocus/node';
import { browserWorkers } from 'jocus/browser';
import { queueWorkers, workOn } from 'jocus/queue';
import { useSession } from 'jocus/react';
import { jocus } from 'jocus/vite';

const design = readDesign('counters: { score: {} }\\npieces: { shell: { is: collectible, takes: 1 } }\\nlevels: [{ place: { shell: 3 } }]\\nrules: [{ when: shell.taken, do: [{ add: { score: 1 } }] }]\\nplayers: { one: { patience: 5 } }');
const { players } = summarize(simulate(design, { sessions: 10, seed: 1 }));
const mean: number | undefined = players.one?.score?.mean;
const exact = solve(design, { player: 'one' }).score?.mean.least;
const log = checkToSarif(check(design));
export const all: readonly unknown[] = [mean, exact, log.runs[0]?.results.length, Game, fieldWorld, reportToHtml, nodeWorkers, browserWorkers, queueWorkers, workOn, useSession, jocus, readMarkingTests];
export type Page = FigureDocument;
process.stdout.write(JSON.stringify({ mean, exact, entries: all.filter((each) => typeof each === 'function').length }));
`;

beforeAll(() => {
  const tarball = execFileSync(
    'npm',
    ['pack', '--ignore-scripts', '--silent', '--pack-destination', folder],
    {
      cwd: root,
      encoding: 'utf8',
    },
  );
  mkdirSync(modules);
  execFileSync('tar', ['xzf', join(folder, tarball.trim()), '-C', folder]);
  execFileSync('mv', [join(folder, 'package'), installed]);
  for (const dependency of Object.keys(manifestOf(installed).dependencies!)) give(dependency);
  // What the entries for Vite, React and a queue ask their users to have, and the types of Node.
  for (const peer of ['vite', 'bullmq', 'ioredis', 'react', '@types/react', '@types/node', 'undici-types'])
    give(peer);
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
  writeFileSync(join(folder, 'all.ts'), program);
}, 120_000);

describe('the package as it is installed', () => {
  test.each([
    ['nodenext', 'nodenext'],
    ['esnext', 'bundler'],
  ])(
    'compiles with every entry, under module %s and resolution %s, types of libraries checked too',
    (module, moduleResolution) => {
      const config = {
        compilerOptions: {
          module,
          moduleResolution,
          target: 'es2023',
          lib: ['es2023', 'dom'],
          strict: true,
          skipLibCheck: false,
          types: ['node'],
          outDir: 'out',
          preserveSymlinks: true,
        },
        files: ['all.ts'],
      };
      writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify(config));
      const { status, stdout } = spawnSync(
        process.execPath,
        [join(root, 'node_modules/typescript/bin/tsc'), '-p', folder],
        {
          encoding: 'utf8',
        },
      );
      expect(stdout.split('\n').filter((line) => line.includes('jocus'))).toEqual([]);
      expect([status, stdout]).toEqual([0, '']);
    },
    120_000,
  );

  test('runs in Node', () => {
    const { stdout, stderr } = spawnSync(
      process.execPath,
      ['--preserve-symlinks', join(folder, 'out/all.js')],
      { encoding: 'utf8' },
    );
    expect(stderr).toBe('');
    expect(JSON.parse(stdout)).toMatchObject({ mean: 1.4, exact: 1.5, entries: 9 });
  });

  test('its command runs, and finds its own files', () => {
    const jocus = (...words: string[]) =>
      spawnSync(process.execPath, [join(installed, manifestOf(installed).bin.jocus!), ...words], {
        cwd: folder,
        encoding: 'utf8',
      });
    const started = jocus('new', 'pool.yaml', '--like', 'low-tide');
    expect([started.status, started.stderr]).toEqual([0, '']);
    expect(jocus('check', 'pool.yaml').stdout).toContain('✓ passed');
    // Enough sessions for threads, whose script is found beside the command.
    expect(jocus('simulate', 'pool.yaml', '--sessions', '4000', '--workers', '2').status).toBe(0);
    expect(jocus('check', 'node_modules/jocus/examples/exercises/1-snails-after-rain.yaml').status).toBe(1);
  }, 60_000);

  test('works in a build and in a development server of Vite', async () => {
    writeFileSync(join(folder, 'index.html'), '<script type="module" src="./page.ts"></script>');
    writeFileSync(
      join(folder, 'page.ts'),
      "import { readDesign, simulate } from 'jocus';\nimport { Game } from 'jocus/engine';\nconsole.log(simulate(readDesign('counters: { score: {} }'), { sessions: 1, seed: 1 }), Game);\n",
    );
    const common = {
      root: folder,
      configFile: false,
      logLevel: 'error',
      resolve: { preserveSymlinks: true },
    } as const;
    await build({ ...common, build: { outDir: 'built' } });
    expect(readdirSync(join(folder, 'built/assets')).some((file) => file.endsWith('.js'))).toBe(true);
    const server = await createServer({ ...common, server: { port: 0, host: '127.0.0.1' } });
    try {
      await server.listen();
      const { port } = server.httpServer!.address() as { port: number };
      const get = async (path: string): Promise<string> =>
        (await fetch(`http://127.0.0.1:${port}${path}`)).text();
      const entry = /from "([^"]*jocus[^"]*)"/.exec(await get('/page.ts'))![1]!;
      expect(await get(entry)).toContain('simulate');
    } finally {
      await server.close();
    }
  }, 60_000);

  test('ships nothing that leads nowhere: no source maps, no sources, no tests', () => {
    const all = readdirSync(installed, { recursive: true, encoding: 'utf8' });
    const strange = all.filter(
      (file) => /\.(map|tsx?)$/.test(file) && !/\.d\.ts$/.test(file) && !file.startsWith('demo/'),
    );
    expect(strange).toEqual([]);
    const bytes = all.reduce((sum, file) => {
      const stats = statSync(join(installed, file));
      return sum + (stats.isFile() ? stats.size : 0);
    }, 0);
    // Unpacked, the workbench included.
    expect(bytes).toBeLessThan(12e6);
  });
});
