import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { readDesign } from '../src/design/read.js';
import { check } from '../src/inspect/check.js';
import { longMeadow, longRoad, manyKinds } from './large-designs.js';

const designs: Readonly<Record<string, () => string>> = {
  'an arcade game: 60 screens, 100 levels, 25 counters': longMeadow,
  'a course of 60 pieces': () => longRoad(60),
  '10 kinds, 5 of each placed, a counter for each': () => manyKinds(10),
  '15 kinds, 5 of each placed, a counter for each': () => manyKinds(15),
};
const [asked] = process.argv.slice(2);

if (asked === undefined) {
  const print = (line = ''): boolean => process.stdout.write(`${line}\n`);
  print('# Whole checks of large designs');
  print();
  print(
    `Printed by \`npm run --silent bench:large\`. Node ${process.version}; each in a process of its own, reading included, findings included; the most memory that the process held. The designs are those of \`bench/large-designs.ts\`.`,
  );
  print();
  print('| design | seconds | MB | transitions and parts decided | left open |');
  print('| --- | --- | --- | --- | --- |');
  for (const name of Object.keys(designs))
    print(
      execFileSync(process.execPath, [fileURLToPath(import.meta.url), name], { encoding: 'utf8' }).trim(),
    );
} else {
  const start = performance.now();
  const { exploration } = check(readDesign(designs[asked]!(), 'large.yaml'));
  const seconds = ((performance.now() - start) / 1000).toFixed(1);
  const verdicts = [...exploration.transitions, ...exploration.parts];
  const decided = verdicts.filter(({ verdict }) => verdict !== 'undecided').length;
  const memory = Math.round(process.resourceUsage().maxRSS / 1024);
  process.stdout.write(
    `| ${asked} | ${seconds} | ${memory} | ${decided} of ${verdicts.length} | ${exploration.leftOpen ?? ''} |\n`,
  );
}
