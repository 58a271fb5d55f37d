/**
 * The Vite plugin that imports designs.
 *
 * @module jocus/vite
 */

import { relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Plugin } from 'vite';
import { DesignError, type Problem, UsageError } from '../design/problems/problem.js';
import { readDesign } from '../design/read.js';
import { formOf } from '../engine/program/lower/lower.js';
import { declarationText, moduleText } from '../engine/run/module-text.js';
import { writeMade } from './made-file.js';

export interface JocusPluginOptions {
  /**
   * Whether the names of `game.yaml` are written to `game.d.yaml.ts` beside it, where TypeScript finds them with
   * `allowArbitraryExtensions`. True unless it is given. A file there that Jocus did not write is left alone, which is a warning.
   */
  readonly declarations?: boolean;
}

/** What a page imports of the package is this very copy of it. */
const entries: { readonly [id: string]: string } = {
  'jocus/engine': fileURLToPath(new URL('../engine/index.js', import.meta.url)),
  'jocus/world': fileURLToPath(new URL('../players/worlds/worlds.js', import.meta.url)),
};

/**
 * Lets a game import a design: `import game from './game.yaml'` gives a `Game`, its code written out, as `jocus build`
 * writes it. A YAML file is a design where it has the key `jocus`; all others are left alone. Problems stop the build and
 * stand in the terminal and the browser's overlay with their places. While a development server runs, sessions go on under
 * a changed design.
 */
export function jocus({ declarations = true }: JocusPluginOptions = {}): Plugin {
  let root = process.cwd();
  let isServed = false;
  /** Files that were designs once: an editor may leave one empty for a moment, which is a problem of the design then. */
  const designs = new Set<string>();
  return {
    name: 'jocus',
    enforce: 'pre',
    configResolved(config) {
      root = config.root;
      isServed = config.command === 'serve';
    },
    resolveId: (id) => (Object.hasOwn(entries, id) ? entries[id] : undefined),
    transform(text, id) {
      if (!/\.ya?ml$/.test(id) || !(designs.has(id) || /^(["']?)jocus\1\s*:/m.test(text))) return undefined;
      designs.add(id);
      try {
        const form = formOf(readDesign(text, relative(root, id)));
        const warning =
          declarations && keepCurrent(id.replace(/\.(ya?ml)$/, '.d.$1.ts'), declarationText(form));
        if (warning) this.warn(warning);
        return { code: moduleText(form, { hot: isServed }), map: { mappings: '' }, moduleType: 'js' };
      } catch (error) {
        if (!(error instanceof DesignError)) throw error;
        const [first] = error.problems as readonly [Problem];
        return this.error({
          message: error.message,
          id,
          // Counted from 1, since Vite prints it as it is and the message counts so.
          loc: { file: id, line: first.place.line, column: first.place.column },
          frame: frame(text, first.place),
        });
      }
    },
  };
}

/** Writes the declarations where they have changed; gives a warning where that cannot be. */
function keepCurrent(file: string, text: string): string | undefined {
  try {
    if (writeMade(file, text) !== 'not ours') return undefined;
    return `${file} was not written by Jocus and is left as it is; move it, or set declarations: false.`;
  } catch (error) {
    if (error instanceof UsageError) return error.message;
    throw error;
  }
}

/** The line that a place is on, a mark under its column. */
function frame(text: string, { line, column }: Problem['place']): string {
  const gutter = `${line} | `;
  return `${gutter}${text.split('\n')[line - 1] ?? ''}\n${' '.repeat(gutter.length + column - 1)}^`;
}
