// Writes docs/reference from the schema of the design format, from the build. Usage: node scripts/reference.mjs [--check]
import { readdirSync, readFileSync } from 'node:fs';
import { parse } from 'yaml';
import { designSchema } from '../dist/design/schema/design.js';
import { spawnSchema } from '../dist/design/schema/levels.js';
import { actSchema, cautionSchema } from '../dist/design/schema/players.js';
import { effectSchema } from '../dist/design/schema/rules.js';
import { keepPages } from './pages.mjs';

const gallery = [
  ...readdirSync('demo/mechanics')
    .filter((file) => file.endsWith('.yaml'))
    .sort()
    .map((file) => `mechanics/${file}`),
  'dusk-on-the-heath.yaml',
].map((file) => ({ file, design: parse(readFileSync(`demo/${file}`, 'utf8')) }));

const inner = (schema) => (schema.def.type === 'optional' ? inner(schema.def.innerType) : schema);

/** What a value may be, in the words of the messages. */
function allowed(schema) {
  const { def } = inner(schema);
  if (def.error !== undefined)
    return def.error({}).replace(/^one of (.*)$/, (_, words) =>
      words
        .split(', ')
        .map((word) => `\`${word}\``)
        .join(', '),
    );
  return { string: 'a text', boolean: 'true or false' }[def.type] ?? def.type;
}

/** The keys of one entry of a section. */
const entryOf = (schema) => {
  const { def } = inner(schema);
  return inner(def.valueType ?? def.element ?? schema);
};

/** Every entry of a section in a design of the gallery. */
const entriesIn = (design, section) => {
  const value = design[section] ?? [];
  return Array.isArray(value) ? value : Object.values(value).filter((entry) => entry !== null);
};
const effectsIn = (design) =>
  [...entriesIn(design, 'rules'), ...entriesIn(design, 'transitions')].flatMap((entry) => entry.do ?? []);
const spawnsIn = (design) => entriesIn(design, 'levels').flatMap((level) => level.spawn ?? []);

function keyTable(schema, entries) {
  const rows = Object.entries(schema.shape).map(([key, value]) => {
    const { description, default: fallback } = value.meta();
    const isNeeded = value.def.type !== 'optional';
    const shown = gallery.filter(({ design }) => entries(design).some((entry) => Object.hasOwn(entry, key)));
    const links = shown
      .slice(0, 3)
      .map(({ file }) => `[${file.split('/').at(-1).slice(0, -5)}](../../demo/${file})`);
    const rest = isNeeded
      ? 'must be there'
      : fallback === undefined
        ? ''
        : `\`${JSON.stringify(fallback).replaceAll('"', '')}\``;
    return `| \`${key}\` | ${allowed(value)} | ${rest} | ${description} | ${links.join(', ')} |`;
  });
  return [
    '| key | what it may be | default | what it means | shown in |',
    '| --- | --- | --- | --- | --- |',
    ...rows,
  ].join('\n');
}

const pages = new Map();
const sections = [];
for (const [key, schema] of Object.entries(designSchema.shape)) {
  const entry = entryOf(schema);
  const { description } = schema.meta();
  if (entry.def.type !== 'object') continue;
  const kind = inner(schema).def.type === 'record' ? 'A map: each by its name.' : 'A list, in order.';
  const parts = [
    `# ${key}`,
    description,
    kind,
    keyTable(entry, (design) => entriesIn(design, key).filter((each) => typeof each === 'object')),
  ];
  if (key === 'levels')
    parts.push(
      '## spawn',
      'What makes a piece appear while a level is played.',
      keyTable(spawnSchema, spawnsIn),
    );
  if (key === 'players') {
    const under = (name) => (design) =>
      entriesIn(design, 'players').flatMap((player) => (player?.[name] === undefined ? [] : [player[name]]));
    parts.push(
      '## acts',
      'What one entry of `acts` may hold instead of its seconds.',
      keyTable(actSchema, (design) =>
        under('acts')(design)
          .flatMap((acts) => Object.values(acts))
          .filter((act) => typeof act === 'object'),
      ),
      '## caution',
      'When the player takes care, and what that changes.',
      keyTable(cautionSchema, under('caution')),
    );
  }
  if (key === 'rules' || key === 'transitions') parts.push('The effects of `do`: [effects](effects.md).');
  pages.set(key, parts.join('\n\n'));
  sections.push(`| [\`${key}\`](${key}.md) | ${description} |`);
}
pages.set(
  'effects',
  [
    '# Effects',
    'What a rule or a transition does. Each entry of a `do` list has one of these keys.',
    keyTable(effectSchema, effectsIn),
  ].join('\n\n'),
);
const plain = Object.entries(designSchema.shape).filter(
  ([, schema]) => entryOf(schema).def.type !== 'object',
);
pages.set(
  'README',
  [
    '# Reference',
    'Every key of a design file, made from its schema by `npm run reference`. How they work together: [the language](../language.md); one small design for each mechanic: [mechanics](../mechanics.md).',
    'Every section may be left out. Durations are seconds with at most three decimals.',
    [
      '| section | what it holds |',
      '| --- | --- |',
      ...sections,
      '| [effects](effects.md) | What rules and transitions do. |',
    ].join('\n'),
    'Beside the sections, at the top of the file:',
    [
      '| key | what it may be | default | what it means |',
      '| --- | --- | --- | --- |',
      ...plain.map(([key, schema]) => {
        const { description, default: fallback } = schema.meta();
        return `| \`${key}\` | ${allowed(schema)} | ${fallback === undefined ? '' : `\`${fallback}\``} | ${description} |`;
      }),
    ].join('\n'),
  ].join('\n\n'),
);

keepPages('docs/reference', pages, 'npm run reference');
