// Writes docs/findings from the catalogue and demo/findings, from the build. Usage: node scripts/findings.mjs [--check]
import { readFileSync } from 'node:fs';
import { catalogue } from '../dist/inspect/finding-catalogue.js';
import { meanings } from '../dist/inspect/finding-meanings.js';
import { keepPages } from './pages.mjs';

const pages = new Map();
const rows = { error: [], warning: [], hint: [] };
for (const [code, { severity }] of Object.entries(catalogue)) {
  const { title, why } = meanings[code];
  const [has, hasNot] = readFileSync(`demo/findings/${code}.yaml`, 'utf8')
    .split('---\n')
    .map((text) => text.replace(/^#.*\n/, ''));
  rows[severity].push(`| [${code}](${code}.md) | ${title} |`);
  pages.set(
    code,
    `# ${code}\n\n**${title}** (${severity})\n\n${why}\n\nA design that has it:\n\n\`\`\`yaml\n${has}\`\`\`\n\nOne that looks alike and has not:\n\n\`\`\`yaml\n${hasNot}\`\`\``,
  );
}
const table = (severity) => `## ${severity}s\n\n| code | |\n| --- | --- |\n${rows[severity].join('\n')}`;
pages.set(
  'README',
  `# Findings\n\nWhat \`jocus check\` says about a design, made from its catalogue by \`npm run findings\`. An error fails the check; a warning is probably not\nwhat was meant; a hint is the next thing to add, or to look at once.\n\n${['error', 'warning', 'hint'].map(table).join('\n\n')}`,
);

keepPages('docs/findings', pages, 'npm run findings');
