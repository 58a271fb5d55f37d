/// <reference types="vite/client" />

/** Complete small games to begin with, each different in kind, by the names of their files. */
const files: { readonly [path: string]: string } = {
  ...import.meta.glob<string>('../../demo/dusk-on-the-heath.yaml', {
    eager: true,
    query: '?raw',
    import: 'default',
  }),
  ...import.meta.glob<string>('../../demo/starters/*.yaml', {
    eager: true,
    query: '?raw',
    import: 'default',
  }),
};

export interface Starter {
  readonly file: string;
  readonly title: string;
  /** What it is, in a sentence or two: the first line of the file. */
  readonly about: string;
  readonly text: string;
}

export const starters: readonly Starter[] = Object.entries(files).map(([path, text]) => {
  const [, title = '', about = ''] = /^# ([^:]+): (.*)$/m.exec(text) ?? [];
  const sentence = about.slice(0, 1).toUpperCase() + about.slice(1);
  return { file: path.slice(path.lastIndexOf('/') + 1), title, about: sentence, text };
});
