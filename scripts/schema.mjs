// Writes the JSON Schema of the design format, from the build. Usage: node scripts/schema.mjs
import { mkdirSync, writeFileSync } from 'node:fs';
import { designJsonSchema } from '../dist/index.js';

mkdirSync('schema', { recursive: true });
writeFileSync('schema/design.schema.json', `${JSON.stringify(designJsonSchema(), null, 2)}\n`);
