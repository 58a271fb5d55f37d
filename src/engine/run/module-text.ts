import { probing, sessionProgram } from '../program/build/session-program.js';
import type { Form, GameForm } from '../program/form.js';
import { backendText } from './backend.js';

export interface ModuleOptions {
  /**
   * The runtime as a script that declares `jocusEngine`, to be written into the module; where it is undefined, the module
   * imports the runtime from `jocus/engine`.
   */
  readonly runtime?: string;
  /** Whether running sessions go on under the new design when a development server sends one. */
  readonly hot?: boolean;
}

/**
 * A design as an ES module whose default export is a {@link Game}: its code written out, its names and places as plain
 * data. The module makes no code from text, so that it runs at full speed under a strict content security policy.
 */
export function moduleText(form: Form, { runtime, hot = false }: ModuleOptions = {}): string {
  const others = ['recordOf', 'writeRecord', 'DesignError', 'UsageError'].join(', ');
  const kind = hot ? 'HotGame' : 'Game';
  const names = `${kind}, ${others}`;
  const engine =
    runtime === undefined
      ? `import { ${names} } from 'jocus/engine';`
      : `${runtime}\nconst { ${names} } = jocusEngine;`;
  return `${head(form.title, 'jocus build', form.design.file)}
${engine}

const form = ${literal(gameForm(form))};

function makeBackend(host, probe) {
${backendText(sessionProgram(form, probing))}
}

const game = new ${kind}(form, makeBackend);
export default game;
export { ${others} };
${hot ? acceptChange : ''}`;
}

const acceptChange = `if (import.meta.hot) {
  import.meta.hot.accept((next) => {
    if (!(next?.default instanceof HotGame)) return;
    for (const { told } of game.replaceBy(next.default)) console.info(\`[jocus] \${told}\`);
  });
}
`;

/** The declarations of such a module: the design's names, for the compiler. */
export function declarationText(form: Form): string {
  const counters = form.counters.map(({ name, kind, words }) => {
    const type = kind === 'words' ? oneOf(words) : kind === 'flag' ? 'boolean' : 'number';
    // What a piece has left of its health is named with a dot.
    return `    ${name.includes('.') ? JSON.stringify(name) : name}: ${type};\n`;
  });
  const outside = form.events.filter(({ kind }) => ['outcome', 'appeared', 'gone', 'input'].includes(kind));
  const names = (named: readonly { readonly name: string }[]): string => oneOf(named.map(({ name }) => name));
  // Only the name: where the design stands from here depends on who writes this.
  const [file] = form.design.file.split(/[\\/]/).slice(-1);
  return `${head(form.title, 'jocus', file!)}
import type { Game } from 'jocus/engine';

export type Names = {
  counters: {
${counters.join('')}  };
  screens: ${names(form.screens)};
  events: ${names(outside)};
  timers: ${names(form.timers)};
  cues: ${oneOf(form.cues)};
};

declare const game: Game<Names>;
export default game;
export { DesignError, recordOf, UsageError, writeRecord } from 'jocus/engine';
`;
}

const head = (title: string, by: string, file: string): string =>
  `// ${comment(title)}: written by ${by} from ${comment(file)}. Change the design, not this file.`;

/** Whether a text begins with the line that only modules and declarations of ours begin with. */
export const isMadeText = (text: string): boolean =>
  /^\/\/ .*: written by jocus (?:build )?from .+\. Change the design, not this file\.\r?(?:\n|$)/.test(text);

const oneOf = (words: readonly string[]): string =>
  words.length === 0 ? 'never' : words.map((word) => JSON.stringify(word)).join(' | ');

/** A text as it may stand in a line comment, of a module that may be inlined into a page too. */
const comment = (text: string): string => text.replace(/[\p{C}\u2028\u2029<]/gu, ' ');

/** A text as a quoted string, in which nothing ends or opens an element of a page that the module is inlined into. */
const quoted = (text: string): string => JSON.stringify(text).replaceAll('<', '\\u003c');

/** The part of a form that a running session needs: all that happens is in the code already. */
function gameForm(form: Form): GameForm {
  const { title, fingerprint, digests, cells, score, clocks, endless, cues, popups, hud, lists, draws } =
    form;
  const told = {
    title,
    fingerprint,
    digests,
    cells,
    score,
    clocks,
    endless,
    cues,
    popups,
    hud,
    lists,
    draws,
  };
  return {
    ...told,
    counters: form.counters.map(({ start, bounds, ...counter }) => counter),
    timers: form.timers.map(({ name, clockCell, event, warnCell, warnEvent }) => ({
      name,
      clockCell,
      event,
      warnCell,
      warnEvent,
    })),
    pieces: form.pieces.map(({ name, role, lasts, data, place, outcomes }) => ({
      name,
      role,
      lasts,
      data,
      place,
      outcomes,
    })),
    levels: form.levels.map(({ name, spawns, course }) => ({
      name,
      spawns: spawns.map(({ piece, most }) => ({ piece, most })),
      course,
    })),
    rules: form.rules.map(({ name, restCell, place }) => ({ name, restCell, place })),
    transitions: form.transitions.map(({ from, to, index, fresh, place }) => ({
      from,
      to,
      index,
      fresh,
      place,
    })),
    screens: form.screens.map(({ name, text, live, handlers, backCell }) => ({
      name,
      text,
      live,
      handlers: new Set(handlers.keys()),
      backCell,
    })),
    events: form.events.map(({ name, kind, origin }) => ({ name, kind, origin })),
  };
}

/** Plain data, maps and sets as JavaScript text. Every text of the design is a quoted string in it. */
function literal(value: unknown): string {
  if (typeof value === 'string') return quoted(value);
  if (typeof value === 'number') return Object.is(value, -0) ? '-0' : String(value);
  if (value === null || typeof value !== 'object') return String(value);
  if (value instanceof Map) return `new Map(${literal([...value])})`;
  if (value instanceof Set) return `new Set(${literal([...value])})`;
  if (Array.isArray(value)) return `[${value.map(literal).join()}]`;
  const entries = Object.entries(value).filter(([, entry]) => entry !== undefined);
  return `{${entries.map(([key, entry]) => `${quoted(key)}:${literal(entry)}`).join()}}`;
}
