import { spawn } from 'node:child_process';
import { serveWorkbench } from '../node/workbench-server.js';
import { readText } from './files.js';
import type { ExitCode } from './outcome.js';
import { plain, type Terminal } from './terminal.js';

export interface OpenCall {
  readonly port: number;
  readonly browser: boolean;
}

/** Serves the workbench for a design and shows it in the browser, until the process is ended. */
export async function openCommand(terminal: Terminal, file: string, call: OpenCall): Promise<ExitCode> {
  readText(file, 'a design in YAML; jocus new writes a first one');
  const workbench = await serveWorkbench(file, { port: call.port });
  terminal.out(`${plain(file)} is open at ${workbench.address}\nCtrl-C ends it.\n`);
  if (call.browser) showInBrowser(workbench.address);
  await new Promise<void>((ended) => {
    process.once('SIGINT', () => ended());
    process.once('SIGTERM', () => ended());
  });
  await workbench.close();
  return 0;
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
