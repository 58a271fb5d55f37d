import { number } from '../../../formats/written.js';
import { mergeParts, mustBeWhole, partOf, partText, readPart } from '../../../simulate/shards.js';
import { mustBeOutput, readDesignFile, readText, writeOver } from '../../files/files.js';
import type { ExitCode } from '../../outcome.js';
import { plain, type Terminal } from '../../terminal.js';
import type { SimulateCall } from './simulate-call.js';
import { tell } from './simulate-outcome.js';

/** Merges parts of one simulation and shows the whole. */
export function mergeCommand(
  terminal: Terminal,
  file: string,
  partFiles: readonly string[],
  { format, out }: Pick<SimulateCall, 'format' | 'out'>,
): ExitCode {
  mustBeOutput(out, [file, ...partFiles]);
  const design = readDesignFile(file);
  const parts = partFiles.map((each) => ({
    part: readPart(readText(each, 'a part of a simulation'), each),
    file: each,
  }));
  const whole = mergeParts(design, parts);
  const { of } = parts[0]!.part;
  mustBeWhole(whole, of);
  if (out !== undefined) {
    writeOver(out, partText(partOf(whole, of)));
    terminal.out(`Saved ${plain(out)}: all ${number(of)} sessions.\n`);
  }
  return tell(terminal, whole, { format, world: undefined });
}
