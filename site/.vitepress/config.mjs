import { cpSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitepress';

const root = fileURLToPath(new URL('../../', import.meta.url));
const outDir = fileURLToPath(new URL('../dist/', import.meta.url));

/** Of the pages that typedoc makes from the doc comments. */
const api = JSON.parse(readFileSync(`${root}site/api/typedoc-sidebar.json`, 'utf8'));

const here = fileURLToPath(import.meta.url);
const page = (text, link) => ({ text, link });

export default defineConfig({
  title: 'Jocus',
  description: 'Scoring and screen flow of arcade games: run it, prove it, balance it.',
  srcDir: '..',
  outDir,
  // Pages of the repository that are no pages for readers.
  srcExclude: [
    '**/node_modules/**',
    'site/dist/**',
    'site/*.md',
    'workbench/**',
    'dist/**',
    'examples/**',
    'demo/**',
  ],
  rewrites: { 'README.md': 'index.md', 'docs/:page*': ':page*', 'site/api/:page*': 'api/:page*' },
  // A link that leads nowhere ends the build.
  ignoreDeadLinks: false,
  lastUpdated: false,
  // It is read from a disk or a server of one's own: nothing is fetched from elsewhere.
  appearance: true,
  // The pages lie outside this folder, and what they are compiled to looks for Vue from there.
  vite: {
    plugins: [
      {
        name: 'pages-outside',
        enforce: 'pre',
        resolveId(id, _, { ssr }) {
          if (id !== 'vue' && id !== 'vue/server-renderer') return undefined;
          return ssr ? { id, external: true } : this.resolve(id, here, { skipSelf: true });
        },
      },
    ],
  },
  themeConfig: {
    search: { provider: 'local' },
    outline: [2, 3],
    nav: [
      page('Start', '/'),
      page('Recipes', '/recipes'),
      page('Language', '/language'),
      page('Findings', '/findings/README'),
      page('Balance', '/balance'),
      page('In a game', '/embedding'),
      page('API', '/api/'),
    ],
    sidebar: {
      '/api/': [{ text: 'TypeScript', items: api[0].items }],
      '/': [
        {
          text: 'Begin',
          items: [
            page('Your first design', '/'),
            page('The workbench', '/workbench'),
            page('Recipes', '/recipes'),
            page('Mechanics', '/mechanics'),
          ],
        },
        {
          text: 'Know',
          items: [
            page('The language', '/language'),
            page('Every key', '/reference/README'),
            page('Findings', '/findings/README'),
            page('Commands', '/commands'),
          ],
        },
        {
          text: 'Balance',
          items: [
            page('Is it balanced?', '/balance'),
            page('Many machines', '/machines'),
            page('How often intervals hold', '/coverage'),
          ],
        },
        {
          text: 'Use',
          items: [
            page('In a game', '/embedding'),
            page('TypeScript, call by call', '/api/'),
            page('Teaching', '/teaching'),
            page('Reliability', '/reliability'),
          ],
        },
        {
          text: 'Jocus itself',
          collapsed: true,
          items: [
            page('Contributing', '/CONTRIBUTING'),
            page('Changes', '/CHANGELOG'),
            page('Architecture', '/architecture'),
            page('Decisions', '/decisions'),
            page('Mistakes that check finds', '/mistakes'),
            page('Speed of the simulator', '/bench-simulate'),
            page('Speed of the explorer', '/bench-explore'),
            page('Large games', '/bench-large'),
            page('The queue', '/bench-queue'),
          ],
        },
      ],
    },
  },
  // Designs that pages link to.
  buildEnd() {
    for (const folder of ['demo', 'examples/exercises', 'examples/steps', 'schema'])
      cpSync(`${root}${folder}`, `${outDir}${folder}`, { recursive: true });
  },
});
