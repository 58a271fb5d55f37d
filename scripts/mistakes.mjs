// Makes mistakes in clean designs, one at a time, and counts how many `jocus check` tells. Usage: node scripts/mistakes.mjs > docs/mistakes.md
import { readdirSync, readFileSync } from 'node:fs';
import { parse, stringify } from 'yaml';
import { check, DesignError, readDesign, runTests, Session, simulate } from '../dist/index.js';

/** Places that one kind of mistake is tried at in one design. */
const mostPlaces = 2;

const clone = (design) => structuredClone(design);
const list = (design, section) => design[section] ?? [];
const map = (design, section) => Object.entries(design[section] ?? {});

/** Writes a key, and says that there was something to alter. */
const put = (entry, key, value) => {
  entry[key] = value;
  return true;
};

/** One mutant for each entry of a list that `change` alters; it returns false where there is nothing to alter. */
const each = (section, change) => (design) =>
  list(design, section).flatMap((_, index) => {
    const mutant = clone(design);
    return change(mutant[section][index], mutant, index) === false ? [] : [mutant];
  });
const eachNamed = (section, change) => (design) =>
  map(design, section).flatMap(([name]) => {
    const mutant = clone(design);
    return change(mutant[section][name] ?? {}, mutant, name) === false ? [] : [mutant];
  });
const without = (key) => (entry) => (entry[key] === undefined ? false : delete entry[key]);
const dropEffect = (kind) => (entry) => {
  const kept = (entry.do ?? []).filter((effect) => effect[kind] === undefined);
  if (kept.length === (entry.do ?? []).length || kept.length === 0) return false;
  entry.do = kept;
};
const isEnding = (design, screen) => design.screens?.[screen]?.ending !== undefined;
const fromEnding = (entry, design) => [entry.from].flat().some((screen) => isEnding(design, screen));

/** Written down before the findings they measure; see docs/mistakes.md. */
const mistakes = {
  'drop fresh: run': each('transitions', (entry) => (entry.fresh === 'run' ? delete entry.fresh : false)),
  'fresh: life for run': each('transitions', (entry) =>
    entry.fresh === 'run' ? put(entry, 'fresh', 'life') : false,
  ),
  'drop fresh: level': each('transitions', (entry) => (entry.fresh === 'level' ? delete entry.fresh : false)),
  'drop the way back from an ending': each('transitions', (entry, design, index) =>
    fromEnding(entry, design) ? design.transitions.splice(index, 1) : false,
  ),
  'drop a transition to an ending': each('transitions', (entry, design, index) =>
    isEnding(design, entry.to) ? design.transitions.splice(index, 1) : false,
  ),
  'drop another transition': each('transitions', (entry, design, index) =>
    isEnding(design, entry.to) || fromEnding(entry, design) ? false : design.transitions.splice(index, 1),
  ),
  'lead to the wrong screen': each('transitions', (entry, design) => {
    const others = Object.keys(design.screens ?? {}).filter(
      (name) => name !== entry.to && ![entry.from].flat().includes(name),
    );
    return others.length === 0 || entry.to === 'back' ? false : put(entry, 'to', others[0]);
  }),
  'drop level: next': each('transitions', (entry) => (entry.level === 'next' ? delete entry.level : false)),
  'drop a condition of a transition': each('transitions', (entry) =>
    entry.when === undefined ? false : without('if')(entry),
  ),
  'raise a threshold': each('transitions', (entry) => {
    if (typeof entry.if !== 'string' || !/(==|>=) \d+/.test(entry.if)) return false;
    entry.if = entry.if.replace(/(==|>=) (\d+)/, (_, sign, number) => `${sign} ${Number(number) + 1000}`);
  }),
  'turn == 0 to < 0': each('transitions', (entry) => {
    if (typeof entry.if !== 'string' || !entry.if.includes('== 0')) return false;
    entry.if = entry.if.replace('== 0', '< 0');
  }),
  'misspell a screen': each('transitions', (entry) =>
    entry.to === 'back' ? false : put(entry, 'to', `${entry.to}s`),
  ),
  'drop a grace': each('rules', dropEffect('grace')),
  'drop the grace of a way in': each('transitions', without('grace')),
  'drop a rest': each('rules', without('rest')),
  'drop a rule': each('rules', (_, design, index) =>
    design.rules.length < 2 ? false : design.rules.splice(index, 1),
  ),
  'drop a name that rules hear': eachNamed('pieces', (_, design, name) => delete design.pieces[name]),
  'hear an event that never is': each('rules', (entry) =>
    typeof entry.when === 'string' ? put(entry, 'when', entry.when.replace(/\.\w+$/, '.touched')) : false,
  ),
  'write a counter that is not there': each('rules', (entry) => {
    const effect = (entry.do ?? []).find(({ add }) => add !== undefined);
    if (effect === undefined) return false;
    const [name] = Object.keys(effect.add);
    effect.add[`${name}x`] = effect.add[name];
    delete effect.add[name];
  }),
  'add nothing': each('rules', (entry) => {
    const effect = (entry.do ?? []).find(({ add }) => add !== undefined);
    if (effect === undefined) return false;
    effect.add[Object.keys(effect.add)[0]] = 0;
  }),
  'limit a rule to the first screen': each('rules', (entry, design) => {
    const [first] = Object.entries(design.screens ?? {});
    return first === undefined || first[1]?.live || entry.when === undefined
      ? false
      : put(entry, 'screens', first[0]);
  }),
  'set once more on the same event': each('rules', (entry, design) => {
    const effect = (entry.do ?? []).find(({ set }) => set !== undefined);
    if (effect === undefined || entry.when === undefined || entry.if !== undefined) return false;
    design.rules.push({ when: entry.when, do: [{ set: effect.set }] });
  }),
  'drop a HUD line': each('hud', (_, design, index) => design.hud.splice(index, 1)),
  'show what is not there': each('hud', (entry) =>
    entry.show === undefined ? false : put(entry, 'show', `${entry.show}x`),
  ),
  'too few digits': each('hud', (entry) =>
    entry.as === 'digits' && entry.width > 1 ? put(entry, 'width', 1) : false,
  ),
  'show it on another screen': each('hud', (entry, design) => {
    const other = Object.entries(design.screens ?? {}).find(([, screen]) => !screen?.live);
    return other === undefined || entry.show === undefined ? false : put(entry, 'screens', other[0]);
  }),
  'drop a bound of a spawn': each('levels', (entry) => {
    const spawn = (entry.spawn ?? []).find(
      ({ atOnce, total }) => atOnce !== undefined || total !== undefined,
    );
    if (spawn === undefined) return false;
    delete spawn.atOnce;
    delete spawn.total;
  }),
  'drop a spawn': each('levels', (entry) => ((entry.spawn ?? []).length === 0 ? false : entry.spawn.shift())),
  'drop what is placed': each('levels', without('place')),
  'drop first of a spawn': each('levels', (entry) => {
    const spawn = (entry.spawn ?? []).find(({ first }) => first !== undefined);
    return spawn === undefined ? false : delete spawn.first;
  }),
  'drop a level': each('levels', (_, design, index) =>
    design.levels.length < 2 ? false : design.levels.splice(index, 1),
  ),
  'drop a max': eachNamed('counters', without('max')),
  'drop a min': eachNamed('counters', without('min')),
  'keep a counter for the session': eachNamed('counters', (entry, design, name) => {
    if (['session', 'forever'].includes(entry.keep)) return false;
    design.counters[name] = { ...entry, keep: 'session' };
  }),
  'start at the bound': eachNamed('counters', (entry) =>
    entry.max === undefined || entry.words ? false : put(entry, 'start', entry.max),
  ),
  'drop a timer': eachNamed('timers', (_, design, name) => delete design.timers[name]),
  'keep a timer for the session': eachNamed('timers', (entry) => put(entry, 'keep', 'session')),
  'let a timer run everywhere': eachNamed('timers', (entry, design) => {
    const screens = Object.keys(design.screens ?? {});
    return screens.length < 2 ? false : put(entry, 'screens', screens);
  }),
  'a hundredth of the time': eachNamed('timers', (entry) =>
    typeof entry.countdown === 'number'
      ? put(entry, 'countdown', Math.max(0.001, entry.countdown / 100))
      : false,
  ),
  'forget that a screen is live': eachNamed('screens', without('live')),
  'forget that a screen is an ending': eachNamed('screens', without('ending')),
  'drop the text of an ending': eachNamed('screens', (entry) =>
    entry.ending === undefined ? false : without('text')(entry),
  ),
  'drop needs': eachNamed('pieces', without('needs')),
};

const key = ({ code, message }) => `${code} ${message}`;

/**
 * What a design comes to in play, as a text: how its tests end, what thirty sessions of each player add up to, and what it shows
 * at its first start. Two that agree in all of it are taken for the same.
 */
function inPlay(design) {
  const { players } = simulate(design, { sessions: 30, seed: 1 });
  const tallies = players.map(({ tally: { fired, points, taken, spreads } }) => [
    [...fired],
    [...points.high, ...points.low],
    [...taken],
    spreads.score.toData(),
    spreads.runTime.toData(),
  ]);
  const tests = runTests(design).map(({ passed }) => passed);
  const { hud, text } = new Session(design);
  return JSON.stringify([tallies, tests, hud, text]);
}

/** How one mutant is told: by a problem of reading, a finding, only a test of its own, or not at all. */
function told(mutant, clean, played) {
  try {
    const design = readDesign(stringify(mutant), 'mutant.yaml');
    const { findings, tests } = check(design, { mostStates: 50_000 });
    const fresh = findings.filter((found) => !clean.has(key(found)));
    if (fresh.length > 0) return { by: fresh[0].code };
    if (tests.some(({ passed }) => !passed)) return { by: 'its own tests only' };
    return { by: inPlay(design) === played ? 'nothing changed' : 'missed' };
  } catch (error) {
    if (error instanceof DesignError) return { by: error.problems[0].code };
    throw error;
  }
}

const files = [
  'dusk-on-the-heath.yaml',
  ...readdirSync('demo/mechanics')
    .sort()
    .map((file) => `mechanics/${file}`),
];
/** Every third design was left alone while the findings were made to tell more, and is counted by itself. */
const isHeldOut = (index) => index % 3 === 2;

const rows = new Map(Object.keys(mistakes).map((name) => [name, new Map()]));
const totals = { seen: new Map(), heldOut: new Map() };
for (const [index, file] of files.entries()) {
  const text = readFileSync(`demo/${file}`, 'utf8');
  const design = parse(text);
  const whole = readDesign(stringify(design), 'clean.yaml');
  const played = inPlay(whole);
  const clean = new Set(check(whole, { mostStates: 50_000 }).findings.map(key));
  for (const [name, make] of Object.entries(mistakes)) {
    for (const mutant of make(design).slice(0, mostPlaces)) {
      const { by } = told(mutant, clean, played);
      for (const row of [rows.get(name), totals[isHeldOut(index) ? 'heldOut' : 'seen']])
        row.set(by, (row.get(by) ?? 0) + 1);
    }
  }
}

/** How many count, and how many of these a finding or reading tells, only a test of the design, and nothing. */
function summed(row) {
  const count = (by) => row.get(by) ?? 0;
  const same = count('nothing changed');
  const made = [...row.values()].reduce((sum, value) => sum + value, 0) - same;
  const tests = count('its own tests only');
  const missed = count('missed');
  return { made, same, tests, missed, found: made - tests - missed };
}

const lines = [...rows].map(([name, row]) => {
  const { made, found, tests, missed } = summed(row);
  const codes = [...row]
    .filter(([by]) => !['its own tests only', 'missed', 'nothing changed'].includes(by))
    .sort((a, b) => b[1] - a[1])
    .map(([by, times]) => `${by} ${times}`);
  return `| ${name} | ${made} | ${found} | ${tests} | ${missed} | ${codes.join(', ')} |`;
});
const inAll = (name, row) => {
  const { made, same, found, tests, missed } = summed(row);
  const percent = (part) => `${part} (${((100 * part) / made).toFixed(1)} %)`;
  return `| ${name} | ${made} | **${percent(found + tests)}** | ${percent(found)} | ${percent(tests)} | ${missed} | ${same} |`;
};
process.stdout.write(`# Mistakes, and what tells them

Made by \`npm run mistakes\`: each kind of mistake is made at up to ${mostPlaces} places of the demo and of every design of the gallery, one at a time. \`jocus check\`
tells it where reading refuses the design, where it has a finding that the clean design has not, or where only a test that the design holds fails. The
kinds were written down before the findings were tuned to them, and every third design was held out of the tuning. Mistakes that nothing tells
and that change nothing in thirty sessions of each player, in the tests and on the HUD are counted apart.

| designs | mistakes | told by check | by a finding or by reading | only by the design's tests | not told | change nothing |
| --- | --- | --- | --- | --- | --- | --- |
${inAll('two thirds, looked at', totals.seen)}
${inAll('one third, held out', totals.heldOut)}

| mistake | made | by a finding or by reading | only by tests | not told | codes |
| --- | --- | --- | --- | --- | --- |
${lines.join('\n')}
`);
