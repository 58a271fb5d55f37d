// Makes mistakes in clean designs, one at a time, and counts how many `jocus check` tells. Usage: node scripts/mistakes.mjs > docs/mistakes.md
import { readdirSync, readFileSync } from 'node:fs';
import { parse, stringify } from 'yaml';
import { check, DesignError, readDesign, runTests, Session, simulate } from '../dist/index.js';

/** Places that one kind of mistake is made at in one design, evenly spread over all that there are. */
const mostPlaces = 3;

/** Every place of a list, or of a map, that a mistake can be made at: what is there, and where it stands. */
const placesIn = (design, section) => Object.keys(design[section] ?? {});

/** One mutant for each place that `change` alters; it returns false where there is nothing to alter. */
const at = (section, change) => (design) =>
  placesIn(design, section).flatMap((place) => {
    const mutant = structuredClone(design);
    const key = Array.isArray(design[section]) ? Number(place) : place;
    return change(mutant[section][key] ?? {}, mutant, key) === false ? [] : [mutant];
  });
/** One mutant for each effect of each rule and transition. */
const effects = (change) => (design) =>
  ['rules', 'transitions'].flatMap((section) =>
    placesIn(design, section).flatMap((place) =>
      [...(design[section][place].do ?? [])].flatMap((_, index) => {
        const mutant = structuredClone(design);
        const entry = mutant[section][place];
        return change(entry.do[index], mutant, entry, index) === false ? [] : [mutant];
      }),
    ),
  );
/** One mutant for each number in a counter's write. */
const amounts = (kind, change) =>
  effects((effect, design, entry) => {
    if (effect[kind] === undefined) return false;
    const [name] = Object.keys(effect[kind]);
    const changed = change(effect[kind][name], name, design, entry);
    if (changed === undefined) return false;
    effect[kind][name] = changed;
  });
/** One mutant for each condition that a change alters. */
const conditions = (change) => (design) =>
  ['rules', 'transitions'].flatMap((section) =>
    at(section, (entry) => {
      if (typeof entry.if !== 'string') return false;
      const changed = change(entry.if);
      if (changed === entry.if) return false;
      entry.if = changed;
    })(design),
  );
const dropped = (key) => (entry) => (entry[key] === undefined ? false : delete entry[key]);
const put = (entry, key, value) => {
  // A counter that is written as its start alone.
  if (typeof entry !== 'object') return false;
  entry[key] = value;
  return true;
};
const swap = (list, one, other) => {
  [list[one], list[other]] = [list[other], list[one]];
};
const isEnding = (design, screen) => design.screens?.[screen]?.ending !== undefined;
const live = (design) => Object.keys(design.screens ?? {}).find((name) => design.screens[name]?.live);
const counterNames = (design) => Object.keys(design.counters ?? {});
const names = (when) => [when ?? []].flat();

/** What people do, each at every place: forget, copy and forget to change, put in the wrong place, swap, off by one, wrong scope, wrong order. */
const mistakes = {
  'forget a fresh start': at('transitions', dropped('fresh')),
  'forget a way': at('transitions', (_, design, index) => design.transitions.splice(index, 1)),
  'forget a rule': at('rules', (_, design, index) => design.rules.splice(index, 1)),
  'forget an effect': effects((_, __, entry, index) =>
    entry.do.length < 2 ? false : entry.do.splice(index, 1),
  ),
  'forget one of several events': at('rules', (entry) =>
    names(entry.when).length < 2 ? false : put(entry, 'when', names(entry.when).slice(1)),
  ),
  'forget one of several screens': at('transitions', (entry) =>
    Array.isArray(entry.from) && entry.from.length > 1 ? entry.from.pop() : false,
  ),
  'forget a condition': at('transitions', (entry) =>
    entry.when === undefined ? false : dropped('if')(entry),
  ),
  'forget a part of a condition': conditions((text) => text.replace(/ and .*$/, '')),
  'forget a grace or a rest': (design) => [
    ...at('transitions', dropped('grace'))(design),
    ...at('rules', dropped('rest'))(design),
    ...effects((effect, _, entry, index) =>
      effect.grace === undefined || entry.do.length < 2 ? false : entry.do.splice(index, 1),
    )(design),
  ],
  'forget the next level': at('transitions', dropped('level')),
  'forget a wait': at('transitions', (entry) => (entry.when === undefined ? false : dropped('wait')(entry))),
  'forget a HUD line': at('hud', (_, design, index) => design.hud.splice(index, 1)),
  'forget a bound': (design) => ['min', 'max'].flatMap((key) => at('counters', dropped(key))(design)),
  'forget what a piece needs, or how long it lasts': (design) =>
    ['needs', 'lasts'].flatMap((key) => at('pieces', dropped(key))(design)),
  'forget a spawn': at('levels', (level) => ((level.spawn ?? []).length === 0 ? false : level.spawn.pop())),
  'forget a bound of a spawn': at('levels', (level) => {
    const spawn = (level.spawn ?? []).find(({ atOnce, total }) => atOnce ?? total);
    if (spawn === undefined) return false;
    delete spawn.atOnce;
    delete spawn.total;
  }),
  'forget what makes a screen live, or an ending': (design) =>
    ['live', 'ending'].flatMap((key) => at('screens', dropped(key))(design)),
  'copy a rule and forget to change what it does': at('rules', (entry, design, index) =>
    index === 0 ? false : put(entry, 'do', structuredClone(design.rules[index - 1].do)),
  ),
  'copy a rule and forget to change when': at('rules', (entry, design, index) =>
    index === 0 || entry.when === undefined || design.rules[index - 1].when === undefined
      ? false
      : put(entry, 'when', design.rules[index - 1].when),
  ),
  'copy a way and forget to change where to': at('transitions', (entry, design, index) =>
    index === 0 || design.transitions[index - 1].to === entry.to
      ? false
      : put(entry, 'to', design.transitions[index - 1].to),
  ),
  'copy a HUD line and forget to change what it shows': at('hud', (entry, design, index) =>
    index === 0 || entry.show === undefined || design.hud[index - 1].show === undefined
      ? false
      : put(entry, 'show', design.hud[index - 1].show),
  ),
  'copy a level and change its name only': at('levels', (level, design, index) =>
    index === 0
      ? false
      : put(design.levels, index, { ...structuredClone(design.levels[index - 1]), name: level.name }),
  ),
  'put an effect into the next rule': at('rules', (entry, design, index) => {
    const next = design.rules[index + 1];
    if (next?.do === undefined || (entry.do ?? []).length < 2) return false;
    next.do.push(entry.do.shift());
  }),
  'put a rule on the wrong screen': at('rules', (entry, design) => {
    const other = Object.keys(design.screens ?? {}).find((name) => !design.screens[name]?.live);
    return other === undefined || entry.screens !== undefined ? false : put(entry, 'screens', other);
  }),
  'put a HUD line on the wrong screen': at('hud', (entry, design) => {
    const other = Object.keys(design.screens ?? {}).find((name) => !design.screens[name]?.live);
    return other === undefined || entry.screens !== undefined ? false : put(entry, 'screens', other);
  }),
  'let a timer run on the wrong screen': at('timers', (entry, design) => {
    const other = Object.keys(design.screens ?? {}).find((name) => !design.screens[name]?.live);
    return other === undefined || entry.screens !== undefined ? false : put(entry, 'screens', other);
  }),
  'lead to the wrong ending': at('transitions', (entry, design) => {
    const other = Object.keys(design.screens ?? {}).find(
      (name) => isEnding(design, name) && name !== entry.to,
    );
    return !isEnding(design, entry.to) || other === undefined ? false : put(entry, 'to', other);
  }),
  'lead back to play in place of the menu, or to the menu in place of play': at(
    'transitions',
    (entry, design) => {
      const other = entry.to === live(design) ? Object.keys(design.screens)[0] : live(design);
      return entry.to === 'back' || other === undefined || other === entry.to || isEnding(design, entry.to)
        ? false
        : put(entry, 'to', other);
    },
  ),
  'write another counter': effects((effect, design) => {
    if (effect.add === undefined) return false;
    const [name] = Object.keys(effect.add);
    const other = counterNames(design).find((each) => each !== name);
    if (other === undefined || effect.add[other] !== undefined) return false;
    effect.add[other] = effect.add[name];
    delete effect.add[name];
  }),
  'swap gain and loss': amounts('add', (amount) => (typeof amount === 'number' ? -amount : `-(${amount})`)),
  'swap what two rules hear': at('rules', (entry, design, index) => {
    const next = design.rules[index + 1];
    if (next?.when === undefined || entry.when === undefined) return false;
    [entry.when, next.when] = [next.when, entry.when];
  }),
  'swap where two ways lead': at('transitions', (entry, design, index) => {
    const next = design.transitions[index + 1];
    if (next === undefined || next.to === entry.to) return false;
    [entry.to, next.to] = [next.to, entry.to];
  }),
  'swap won and lost': at('screens', (screen) => {
    if (screen.ending !== 'won' && screen.ending !== 'lost') return false;
    screen.ending = screen.ending === 'won' ? 'lost' : 'won';
  }),
  'swap the outcomes of a piece': at('rules', (entry) => {
    const other = { taken: 'missed', missed: 'taken', hit: 'avoided', avoided: 'hit', beaten: 'hit' };
    const changed = names(entry.when).map((name) =>
      name.replace(/\.(\w+)$/, (all, word) => (other[word] ? `.${other[word]}` : all)),
    );
    return changed.join() === names(entry.when).join() ? false : put(entry, 'when', changed);
  }),
  'add where set is meant, or set where add is': effects((effect) => {
    const [from, to] = effect.add === undefined ? ['set', 'add'] : ['add', 'set'];
    if (effect[from] === undefined) return false;
    effect[to] = effect[from];
    delete effect[from];
  }),
  'turn a comparison round': conditions((text) =>
    text.replace(/(<=|>=|<|>)/, (sign) => ({ '<=': '>=', '>=': '<=', '<': '>', '>': '<' })[sign]),
  ),
  'say or where and is meant': conditions((text) => text.replace(' and ', ' or ')),
  'off by one in a comparison': conditions((text) =>
    text.replace(
      /(==|>=|<=|<|>) (\d+)/,
      (_, sign, number) => `${sign} ${number === '0' ? -1 : Number(number) + 1}`,
    ),
  ),
  'off by one at the edge': conditions((text) =>
    text.includes('>=') ? text.replace('>=', '>') : text.replace(/==/, '>'),
  ),
  'ask for ten times as much': conditions((text) => text.replace(/(==|>=) ([1-9]\d*)/, '$1 $20')),
  'start a counter at the wrong end': at('counters', (counter) => {
    const other = counter.start === undefined || counter.start === counter.min ? counter.max : counter.min;
    return typeof other === 'number' && other !== (counter.start ?? 0) ? put(counter, 'start', other) : false;
  }),
  'milliseconds for seconds': at('timers', (timer) =>
    typeof timer.countdown === 'number' ? put(timer, 'countdown', timer.countdown * 1000) : false,
  ),
  'keep for too long': (design) =>
    ['counters', 'timers'].flatMap((section) =>
      at(section, (entry) =>
        ['session', 'forever'].includes(entry.keep) ? false : put(entry, 'keep', 'session'),
      )(design),
    ),
  'keep for too short': at('counters', (counter) =>
    counter.keep === 'life' || counter.keep === 'level' ? false : put(counter, 'keep', 'life'),
  ),
  'a smaller fresh start': at('transitions', (entry) => {
    const smaller = { run: 'level', level: 'life' }[entry.fresh];
    return smaller === undefined ? false : put(entry, 'fresh', smaller);
  }),
  'effects in the wrong order': (design) =>
    ['rules', 'transitions'].flatMap((section) =>
      at(section, (entry) => ((entry.do ?? []).length < 2 ? false : entry.do.reverse() && true))(design),
    ),
  'rules in the wrong order': at('rules', (_, design, index) =>
    index + 1 < design.rules.length ? swap(design.rules, index, index + 1) : false,
  ),
  'ways in the wrong order': at('transitions', (entry, design, index) => {
    const other = design.transitions.findIndex(
      (each, place) => place > index && names(each.from).some((screen) => names(entry.from).includes(screen)),
    );
    return other < 0 ? false : swap(design.transitions, index, other);
  }),
  'a piece of the wrong kind': at('pieces', (piece) =>
    piece.is === 'collectible' ? put(piece, 'is', 'hazard') : false,
  ),
  'one key for two things': at('transitions', (entry, design, index) => {
    const other = design.transitions.find(
      (each, place) =>
        place !== index &&
        typeof each.when === 'string' &&
        each.when.startsWith('input.') &&
        each.when !== entry.when &&
        names(each.from).some((screen) => names(entry.from).includes(screen)),
    );
    return typeof entry.when !== 'string' || !entry.when.startsWith('input.') || other === undefined
      ? false
      : put(entry, 'when', other.when);
  }),
};
const key = ({ code, message }) => `${code} ${message}`;

/**
 * What a design comes to in play, as a text: how its tests end, what thirty sessions of each player add up to, and what it shows
 * at its first start. Two that agree in all of it are taken for the same.
 */
function inPlay(design) {
  const { players } = simulate(design, { sessions: 30, seed: 1 });
  const tallies = players.map(({ tally: { fired, points, taken, spreads } }) => [
    // Rules and ways in another order are the same ones.
    [...fired].sort((one, other) => one - other),
    [...points.high].sort((one, other) => one - other),
    [...taken].sort((one, other) => one - other),
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
    if (fresh.length > 0) return fresh[0].code;
    if (tests.some(({ passed }) => !passed)) return 'its own tests only';
    return inPlay(design) === played ? 'nothing changed' : 'missed';
  } catch (error) {
    if (error instanceof DesignError) return error.problems[0].code;
    throw error;
  }
}

const yamlIn = (folder) =>
  readdirSync(folder)
    .filter((file) => file.endsWith('.yaml'))
    .sort()
    .map((file) => `${folder}/${file}`);
const gallery = ['demo/dusk-on-the-heath.yaml', ...yamlIn('demo/mechanics')];
const games = yamlIn('test/inspect/games');
/** Games at which nobody looked while findings were made: only what comes of them in this table was. */
const heldOut = ['echo-cave', 'harvest-mouse'];
const groups = {
  'the demo and its gallery': gallery,
  'fifteen games, looked at': games.filter((file) => !heldOut.some((name) => file.includes(name))),
  'two games, held out': games.filter((file) => heldOut.some((name) => file.includes(name))),
};

/** So many of a list at the most, evenly spread. */
const spread = (list) =>
  list.length <= mostPlaces
    ? list
    : Array.from({ length: mostPlaces }, (_, index) => list[Math.floor((index * list.length) / mostPlaces)]);

const rows = new Map(Object.keys(mistakes).map((name) => [name, new Map()]));
const totals = new Map(Object.keys(groups).map((name) => [name, new Map()]));
for (const [group, files] of Object.entries(groups)) {
  for (const file of files) {
    const design = parse(readFileSync(file, 'utf8'), { merge: true });
    const whole = readDesign(stringify(design), 'clean.yaml');
    const played = inPlay(whole);
    const clean = new Set(check(whole, { mostStates: 50_000 }).findings.map(key));
    for (const [name, make] of Object.entries(mistakes)) {
      for (const mutant of spread(make(design))) {
        const by = told(mutant, clean, played);
        if (by === 'missed' && process.env.JOCUS_MISSED) process.stderr.write(`${group}\t${file}\t${name}\n`);
        for (const row of [rows.get(name), totals.get(group)]) row.set(by, (row.get(by) ?? 0) + 1);
      }
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
  const { made, found, tests, missed, same } = summed(row);
  const codes = [...row]
    .filter(([by]) => !['its own tests only', 'missed', 'nothing changed'].includes(by))
    .sort((a, b) => b[1] - a[1])
    .slice(0, 6)
    .map(([by, times]) => `${by} ${times}`);
  return `| ${name} | ${made} | ${found} | ${tests} | ${missed} | ${same} | ${codes.join(', ')} |`;
});
const inAll = ([name, row]) => {
  const { made, same, found, tests, missed } = summed(row);
  const percent = (part) => `${part} (${((100 * part) / made).toFixed(1)} %)`;
  return `| ${name} | ${made} | **${percent(found)}** | ${percent(tests)} | ${percent(missed)} | ${same} |`;
};
process.stdout.write(`# Mistakes, and what tells them

Made by \`npm run mistakes\`: what people do when they write a design (forget, copy and forget to change, put in the wrong place, swap, off by one, wrong
scope, wrong order), each at up to ${mostPlaces} places, evenly spread, of the demo, of every design of its gallery, and of seventeen complete games, one at a time. \`jocus check\`
tells a mistake where reading refuses the design, or where it has a finding that the clean design has not. Some are told only by a test that the design
holds; the games hold none. Mistakes that nothing tells and that change nothing in thirty sessions of each player, in the tests and on the HUD are counted apart. Not every
change is a fault to be told: a quota one higher, a wait less, or a rule that gives another amount makes another game, which only its designer can call wrong. The kinds were written down before
this table was made, and at the games that are held out nobody looked while findings were made.

| designs | mistakes | told by a finding or by reading | only by the design's tests | not told | change nothing |
| --- | --- | --- | --- | --- | --- |
${[...totals].map(inAll).join('\n')}

| mistake | made | by a finding or by reading | only by tests | not told | change nothing | the commonest codes |
| --- | --- | --- | --- | --- | --- | --- |
${lines.join('\n')}
`);
