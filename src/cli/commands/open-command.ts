import { spawn } from 'node:child_process';
import { UsageError } from '../../design/problems/problem.js';
import { serveWorkbench, type Workbench } from '../../node/workbench-server.js';
import { readText } from '../files/files.js';
import type { ExitCode } from '../outcome.js';
import { plain, type Terminal } from '../terminal.js';

export interface OpenCall {
  /** The usual one unless it is given, or any that is free where that is taken. */
  readonly port?: number;
  readonly browser: boolean;
}

const usualPort = 4480;

/** Serves the workbench for a design, or for the choice of one, and shows it in the browser, until the process is ended. */
export async function openCommand(
  terminal: Terminal,
  file: string | undefined,
  call: OpenCall,
): Promise<ExitCode> {
  if (file !== undefined) readText(file, 'a design in YAML; jocus new writes a first one');
  const workbench = await serveAtUsualPort(file, call.port);
  const what = file === undefined ? 'The workbench' : plain(file);
  terminal.out(`${what} is open at ${workbench.address}\nCtrl-C ends it.\n`);
  if (call.browser) showInBrowser(workbench.address);
  await new Promise<void>((ended) => {
    process.once('SIGINT', () => ended());
    process.once('SIGTERM', () => ended());
  });
  await workbench.close();
  return 0;
}

/** The same port each time where it is free, so that the browser finds again what it has kept for the page. */
async function serveAtUsualPort(file: string | undefined, port: number | undefined): Promise<Workbench> {
  if (port !== undefined) return serveWorkbench(file, { port });
  try {
    return await serveWorkbench(file, { port: usualPort });
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    return serveWorkbench(file, { port: 0 });
  }
}

/** Asks the system for its browser; where it has none, the address that was printed is enough. */
function showInBrowser(address: string): void {
  const { platform } = process;
  const [command, words] =
    platform === 'darwin'
      ? ['open', [address]]
      : platform === 'win32'
        ? ['cmd', ['/c', 'start', '', address]]
        : ['xdg-open', [address]];
  const child = spawn(command as string, words as string[], { stdio: 'ignore', detached: true });
  child.on('error', () => {});
  child.unref();
}
