/** Words of other tools and of everyday speech for what a role is to the player. */
const words: readonly (readonly [roles: string, words: readonly string[]])[] = [
  [
    'hazard where it is only to be avoided, or foe where it can also be beaten',
    ['enemy', 'enemies', 'monster', 'opponent', 'boss', 'villain', 'bad'],
  ],
  ['hazard', ['obstacle', 'trap', 'spike', 'danger', 'harm', 'deadly']],
  [
    'collectible',
    ['item', 'pickup', 'bonus', 'powerup', 'food', 'fruit', 'treasure', 'reward', 'collectable', 'good'],
  ],
  [
    'exit where the player is to reach it, foe where it is to be hit, or prop where outcomes of its own say what becomes of it',
    ['target', 'note'],
  ],
  ['exit', ['goal', 'door', 'finish', 'end', 'portal', 'gate']],
  ['checkpoint', ['save', 'flag', 'respawn']],
  ['prop', ['wall', 'decoration', 'block', 'scenery', 'platform']],
];

/** The roles, in words, that a word which is none may stand for. */
export const roleFor = (word: string): string | undefined =>
  words.find(([, known]) => known.includes(word.toLowerCase().replaceAll(/[^a-z]/g, '')))?.[0];
