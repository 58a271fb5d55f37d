const numbered = <Item>(count: number, make: (index: number) => Item): Item[] =>
  Array.from({ length: count }, (_, index) => make(index));
const lines = (...parts: readonly (string | readonly string[])[]): string => parts.flat().join('\n');

/**
 * A game as arcades have them: sixty screens, a hundred levels, twenty-five counters; a shop of eighteen goods, a second life for sale, a prize
 * each day, three to choose from, a book of help.
 */
export function longMeadow(): string {
  const goods = numbered(18, (index) => `good${index}`);
  const pages = numbered(32, (index) => `page${index}`);
  return lines(
    'title: The Long Meadow',
    'score: score',
    'counters:',
    '  score: { start: 0, min: 0, max: 999999 }',
    '  lives: { start: 3, min: 0, max: 5 }',
    '  acorns: { start: 0, min: 0, max: 999, keep: forever }',
    '  gathered: { start: 0, min: 0, max: 30, keep: level }',
    '  who: { words: [vole, shrew, mole], start: vole, keep: session }',
    '  prize: { start: false, keep: session }',
    '  revived: { start: false, keep: run }',
    goods.map((good) => `  ${good}: { start: 0, min: 0, max: 3, keep: forever }`),
    'timers: { day: { countdown: 90 } }',
    'pieces:',
    '  seed: { is: collectible, takes: 0.7, lasts: 6 }',
    '  berry: { like: seed, difficulty: 0.5 }',
    '  owl: { is: hazard }',
    '  fox: { is: hazard, difficulty: 0.6 }',
    'levels:',
    numbered(100, (index) => {
      const rival = (from: number, least: number): string => Math.max(least, from - index / 20).toFixed(2);
      const spawns = [
        '{ piece: seed, every: [0.5, 1.5], atOnce: 6 }',
        '{ piece: berry, every: [1, 3], atOnce: 3 }',
        `{ piece: owl, every: ${rival(8, 2)} }`,
        `{ piece: fox, every: ${rival(12, 3)} }`,
      ];
      return `  - { name: Meadow ${index + 1}, values: { quota: ${6 + Math.floor(index / 5)} }, spawn: [${spawns.join(', ')}] }`;
    }),
    'rules:',
    '  - { when: seed.taken, do: [{ add: { score: 10, gathered: 1, acorns: 1 } }] }',
    '  - { when: berry.taken, do: [{ add: { score: 25, gathered: 1, acorns: 2 } }] }',
    '  - { when: [owl.hit, fox.hit], do: [{ add: { lives: -1 } }, { grace: 1 }] }',
    'screens:',
    '  title: { text: The Long Meadow }',
    '  meadow: { live: true }',
    '  still: { text: Paused }',
    '  cleared: { text: "{level.name} cleared" }',
    '  shop: { text: "The shop: {acorns} acorns" }',
    '  revive: { text: Go on for 50 acorns? }',
    '  daily: { text: Twenty acorns for today }',
    '  choose: { text: "{who}" }',
    '  over: { ending: lost, text: "{score}" }',
    '  won: { ending: won, text: "{score}" }',
    goods.map((good) => `  ${good}Shelf: { text: "{${good}} of three" }`),
    pages.map((page, index) => `  ${page}: { text: Help ${index + 1} }`),
    'transitions:',
    '  - { from: title, to: meadow, when: input.start, fresh: run }',
    '  - { from: title, to: daily, when: input.daily, if: not prize, do: [{ add: { acorns: 20 } }, { set: { prize: true } }] }',
    '  - { from: daily, to: title, when: input.leave }',
    '  - { from: title, to: choose, when: input.who }',
    ['vole', 'shrew', 'mole'].map(
      (who) => `  - { from: choose, to: title, when: input.${who}, do: [{ set: { who: ${who} } }] }`,
    ),
    '  - { from: title, to: shop, when: input.shop }',
    '  - { from: shop, to: title, when: input.leave }',
    goods.flatMap((good, index) => [
      `  - { from: shop, to: ${good}Shelf, when: input.${good} }`,
      `  - { from: ${good}Shelf, to: ${good}Shelf, when: input.buy, if: ${good} < 3, do: [{ pay: { acorns: ${10 + index} } }, { add: { ${good}: 1 } }] }`,
      `  - { from: ${good}Shelf, to: shop, when: input.leave }`,
    ]),
    '  - { from: title, to: page0, when: input.help }',
    pages.slice(1).map((page, index) => `  - { from: page${index}, to: ${page}, when: input.next }`),
    pages.map((page) => `  - { from: ${page}, to: title, when: input.leave }`),
    '  - { from: meadow, to: still, when: input.pause }',
    '  - { from: still, to: back, when: input.pause }',
    '  - { from: meadow, to: revive, if: lives == 0 and not revived }',
    '  - { from: revive, to: meadow, when: input.yes, fresh: life, do: [{ pay: { acorns: 50 } }, { set: { lives: 1, revived: true } }] }',
    '  - { from: revive, to: over, when: input.no }',
    '  - { from: meadow, to: over, if: lives == 0 }',
    '  - { from: meadow, to: over, when: day.ended }',
    '  - { from: meadow, to: won, if: gathered >= level.quota and level.last }',
    '  - { from: meadow, to: cleared, if: gathered >= level.quota }',
    '  - { from: cleared, to: meadow, wait: 2, fresh: level, level: next }',
    '  - { from: [over, won], to: title, when: input.again }',
    'hud:',
    '  - { show: score, as: digits, width: 6 }',
    '  - { show: lives, as: icons, at: top-right }',
    '  - { show: gathered, at: top }',
    '  - { show: day, as: clock, at: bottom }',
    '  - { show: acorns, at: bottom-right }',
  );
}

/** A road of so many pieces, one after the other, on which a fall goes back to the cairn before it. */
export function longRoad(pieces: number): string {
  const kinds = ['pear', 'pear', 'boar', 'pit', 'pear', 'cairn'];
  const course = numbered(pieces, (index) => (index === pieces - 1 ? 'inn' : kinds[index % kinds.length]!));
  return lines(
    'title: The Long Road',
    'score: pears',
    'counters: { pears: {}, tumbles: { keep: run } }',
    'pieces:',
    '  pear: { is: collectible }',
    '  boar: { is: foe, outcomes: { stomped: 1, hit: 1, passed: 1 }, ends: stomped }',
    '  pit: { is: hazard }',
    '  cairn: { is: checkpoint }',
    '  inn: { is: exit, again: true, ends: reached }',
    `levels: [{ name: Road, course: [${course.join(', ')}] }]`,
    'rules:',
    '  - { when: pear.taken, do: [{ add: { pears: 1 } }] }',
    '  - { when: [boar.hit, pit.hit], do: [{ add: { tumbles: 1 } }] }',
    'screens: { road: { live: true }, goal: { ending: won, text: "{pears} pears, {tumbles} tumbles" } }',
    'transitions:',
    '  - { from: road, to: road, when: [boar.hit, pit.hit], fresh: life }',
    '  - { from: road, to: goal, when: inn.reached }',
    '  - { from: goal, to: road, when: input.again, fresh: run }',
    'hud: [{ show: pears }, { show: tumbles, at: top-right }]',
  );
}

/** So many kinds, five of each placed, and as many counters of what was found of each, all of which the way out asks for. */
export function manyKinds(kinds: number): string {
  const herbs = numbered(kinds, (index) => `herb${index}`);
  return lines(
    'title: The Herb Garden',
    'counters:',
    '  lives: { start: 3, min: 0 }',
    herbs.map((herb) => `  ${herb}Found: { min: 0, max: 5 }`),
    'timers: { day: { countdown: 90 } }',
    'pieces:',
    herbs.map((herb) => `  ${herb}: { is: collectible, ends: taken }`),
    '  wasp: { is: hazard }',
    `levels: [{ place: { ${herbs.map((herb) => `${herb}: 5`).join(', ')} }, spawn: [{ piece: wasp, every: 3 }] }]`,
    'rules:',
    herbs.map((herb) => `  - { when: ${herb}.taken, do: [{ add: { ${herb}Found: 1 } }] }`),
    '  - { when: wasp.hit, do: [{ add: { lives: -1 } }, { grace: 1 }] }',
    'screens: { title: { text: Herbs }, garden: { live: true }, home: { ending: won, text: Home }, dark: { ending: lost, text: Dark } }',
    'transitions:',
    '  - { from: title, to: garden, when: input.start, fresh: run }',
    '  - { from: garden, to: dark, if: lives == 0 }',
    `  - { from: garden, to: home, if: ${herbs.map((herb) => `${herb}Found >= 5`).join(' and ')} }`,
    '  - { from: garden, to: dark, when: day.ended }',
    '  - { from: [home, dark], to: title, when: input.again }',
    'hud:',
    '  - { show: lives }',
    herbs.map((herb) => `  - { show: ${herb}Found, at: right }`),
  );
}
