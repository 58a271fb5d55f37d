/**
 * Every state of the wide heath, by code that knows nothing else: mixed-radix keys, a bit for each, the states in the order in which
 * they are found, with parents and events. What `wide-heath.yaml` and `wide-heath-clocks.yaml` say is written out in it.
 */
export interface ByHand {
  readonly keys: Int32Array;
  readonly length: number;
  readonly bits: Int32Array;
  /** Steps from state to state, those to known ones included. */
  readonly steps: number;
  /** Bytes of the states found, and of all that was set aside. */
  readonly bytes: { readonly inUse: number; readonly allocated: number };
}

export const screens = { title: 0, heath: 1, pause: 2, cleared: 3, dark: 4, nightfall: 5 } as const;
const levels = 3;
const quota = [20, 30, 40];
const most = { nectar: 40, lives: 5, streak: 5, honey: 12 };

/** The key of a state; without clocks both timers count as running. */
export function keyByHand(
  mostPollen: number,
  screen: number,
  level: number,
  nectar: number,
  pollen: number,
  lives: number,
  streak: number,
  honey: number,
  daylight: number,
  shower: number,
): number {
  const timers = daylight + 2 * shower;
  const rest = lives + 6 * (streak - 1 + 5 * (honey + 13 * timers));
  return screen + 6 * (level + 3 * (nectar + 41 * (pollen + (mostPollen + 1) * rest)));
}

export function exploreByHand(mostPollen: number, hasClocks: boolean): ByHand {
  const combinations = 6 * 3 * 41 * (mostPollen + 1) * 6 * 5 * 13 * 4;
  const bits = new Int32Array(Math.ceil(combinations / 32));
  let keys = new Int32Array(1 << 16);
  let parents = new Int32Array(1 << 16);
  let events = new Uint8Array(1 << 16);
  let length = 0;
  let row = -1;
  let steps = 0;

  const add = (
    event: number,
    screen: number,
    level: number,
    nectar: number,
    pollen: number,
    lives: number,
    streak: number,
    honey: number,
    daylight: number,
    shower: number,
  ): void => {
    steps++;
    // What is put back before anything reads it is taken for one value.
    if (screen !== screens.heath && screen !== screens.pause) {
      nectar = 0;
      streak = 1;
      if (screen !== screens.cleared) pollen = lives = honey = 0;
    }
    const key = keyByHand(mostPollen, screen, level, nectar, pollen, lives, streak, honey, daylight, shower);
    const word = key >>> 5;
    const bit = 1 << (key & 31);
    if ((bits[word]! & bit) !== 0) return;
    bits[word] = bits[word]! | bit;
    if (length === keys.length) {
      keys = wider(keys, new Int32Array(length * 2));
      parents = wider(parents, new Int32Array(length * 2));
      events = wider(events, new Uint8Array(length * 2));
    }
    keys[length] = key;
    parents[length] = row;
    events[length] = event;
    length++;
  };

  /** What follows once the rules of an event have had their say on the heath. */
  const settle = (
    event: number,
    level: number,
    nectar: number,
    pollen: number,
    lives: number,
    streak: number,
    honey: number,
    daylight: number,
    shower: number,
  ): void => {
    let screen: number = screens.heath;
    if (lives === 0) screen = screens.dark;
    else if (nectar >= quota[level]! && honey >= level + 1)
      screen = level === levels - 1 ? screens.nightfall : screens.cleared;
    add(event, screen, level, nectar, pollen, lives, streak, honey, daylight, shower);
  };

  add(0, screens.title, 0, 0, 0, 3, 1, 0, 1, 1);
  steps = 0;
  for (row = 0; row < length; row++) {
    let rest = keys[row]!;
    const screen = rest % 6;
    rest = (rest / 6) | 0;
    const level = rest % 3;
    rest = (rest / 3) | 0;
    const nectar = rest % 41;
    rest = (rest / 41) | 0;
    const pollen = rest % (mostPollen + 1);
    rest = (rest / (mostPollen + 1)) | 0;
    const lives = rest % 6;
    rest = (rest / 6) | 0;
    const streak = (rest % 5) + 1;
    rest = (rest / 5) | 0;
    const honey = rest % 13;
    rest = (rest / 13) | 0;
    const daylight = rest % 2;
    const shower = rest >> 1;
    const longer = streak < most.streak ? streak + 1 : streak;
    switch (screen) {
      case screens.title:
        settle(1, 0, 0, 0, 3, 1, 0, 1, 1);
        break;
      case screens.heath: {
        if (hasClocks && daylight === 1)
          add(10, screens.dark, level, nectar, pollen, lives, streak, honey, 0, shower);
        if (hasClocks && shower === 1) settle(11, level, nectar, pollen, lives, 1, honey, daylight, 0);
        const gathered = nectar + (streak === most.streak ? 2 : 1);
        settle(
          2,
          level,
          gathered > most.nectar ? most.nectar : gathered,
          pollen,
          lives,
          longer,
          honey,
          daylight,
          shower,
        );
        settle(
          3,
          level,
          nectar,
          pollen + 2 > mostPollen ? mostPollen : pollen + 2,
          lives,
          longer,
          honey,
          daylight,
          shower,
        );
        settle(4, level, nectar, pollen, lives, 1, honey, daylight, shower);
        settle(5, level, nectar, pollen, lives - 1, 1, honey, daylight, shower);
        settle(
          6,
          level,
          nectar > 0 ? nectar - 1 : 0,
          pollen > 3 ? pollen - 3 : 0,
          lives,
          streak,
          honey,
          daylight,
          shower,
        );
        if (pollen >= 6 && nectar >= 2)
          settle(
            7,
            level,
            nectar - 2,
            pollen - 6,
            lives,
            streak,
            honey < most.honey ? honey + 1 : honey,
            daylight,
            shower,
          );
        else settle(7, level, nectar, pollen, lives, streak, honey, daylight, shower);
        if (lives < most.lives && honey >= 3)
          settle(8, level, nectar, pollen, lives + 1, streak, honey - 3, daylight, shower);
        else settle(8, level, nectar, pollen, lives, streak, honey, daylight, shower);
        add(9, screens.pause, level, nectar, pollen, lives, streak, honey, daylight, shower);
        break;
      }
      case screens.pause:
        add(9, screens.heath, level, nectar, pollen, lives, streak, honey, daylight, shower);
        break;
      case screens.cleared:
        // After the wait: the next level begins with an empty comb, a short streak and both timers anew.
        settle(0, level + 1, 0, pollen, lives, 1, honey, 1, 1);
        break;
      default:
        add(1, screens.title, level, nectar, pollen, lives, streak, honey, daylight, shower);
    }
  }
  const allocated = keys.byteLength + parents.byteLength + events.byteLength + bits.byteLength;
  return { keys, length, bits, steps, bytes: { inUse: length * 9 + bits.byteLength, allocated } };
}

function wider<Column extends Int32Array | Uint8Array>(column: Column, into: Column): Column {
  into.set(column);
  return into;
}
