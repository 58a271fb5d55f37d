// Writes docs/mechanics.md from the designs in demo/mechanics. Usage: node scripts/mechanics.mjs [--check]
import { readdirSync, readFileSync } from 'node:fs';
import { parse } from 'yaml';
import { keepPages } from './pages.mjs';

const folder = 'demo/mechanics';
const parts = readdirSync(folder)
  .filter((file) => file.endsWith('.yaml'))
  .sort()
  .map((file) => {
    const text = readFileSync(`${folder}/${file}`, 'utf8');
    const [title, need, ...lines] = text.split('\n');
    const shown = parse(text).tests.map((test) => `- ${test.name}`);
    const design = lines.join('\n').trimEnd();
    const file_ = `[${file}](../${folder}/${file})`;
    return `## ${title.slice(2)}\n\n${need.slice(2)}\n\n\`\`\`yaml\n${design}\n\`\`\`\n\nIts tests show (${file_}):\n\n${shown.join('\n')}\n`;
  });
const page = `# Mechanics\n\nOne small design for each mechanic, made from \`demo/mechanics\` by \`npm run mechanics\`. Every rule and every\ntransition of each is guarded by its tests: take one out, and a test fails.\n\n${parts.join('\n')}`;
keepPages('docs', [['mechanics', page.trimEnd()]], 'npm run mechanics');
