// Runs command lines one after the other, as a thread beside the tests; see `inThread` in command-line.ts.
import { parentPort, workerData } from 'node:worker_threads';

const { runCommand } = await import(workerData);
parentPort.on('message', async ({ words, done, port }) => {
  let stdout = '';
  let stderr = '';
  const out = (text) => {
    stdout += text;
  };
  const err = (text) => {
    stderr += text;
  };
  const status = await runCommand(words, { out, err, width: 100, colour: false, progress: false });
  port.postMessage({ status, stdout, stderr });
  Atomics.store(done, 0, 1);
  Atomics.notify(done, 0);
});
