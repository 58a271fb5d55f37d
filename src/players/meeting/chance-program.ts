import {
  ask,
  assign,
  binary,
  call,
  choose,
  constant,
  count,
  declare,
  get,
  give,
  isEqual,
  isLess,
  type Local,
  local,
  minus,
  plus,
  type Value,
} from '../../engine/compile/representation.js';
import type { Build } from '../../engine/program/build/build.js';
import { exponentialTerms, hardest, ln2High, ln2Low } from './chance.js';

const times = (left: Value, right: Value): Value => binary('*', left, right);
const by = (left: Value, right: Value): Value => binary('/', left, right);

/** What `threshold` gives of `successChance`, where a program works the difficulty out: the same operations in the same order. */
export function computedThreshold(build: Build, skill: Value, difficulty: Value): Value {
  const name = build.once('successThreshold', () => {
    const [ofPlayer, asked, held, x] = ['skill', 'asked', 'held', 'x'].map(local) as [
      Local,
      Local,
      Local,
      Local,
    ];
    const [halvings, rest, sum, power, nth] = ['halvings', 'rest', 'sum', 'power', 'nth'].map(local) as [
      Local,
      Local,
      Local,
      Local,
      Local,
    ];
    const within = call('min', hardest, call('max', -hardest, get(asked)));
    const exponential = choose(
      isLess(get(halvings), 0),
      by(get(sum), get(power)),
      times(get(sum), get(power)),
    );
    const chance = by(constant(1), plus(constant(1), exponential));
    const term = minus(constant(exponentialTerms), get(nth));
    return {
      parameters: [ofPlayer, asked],
      body: [
        // What is no number at all is neither hard nor easy.
        declare(held, choose(isEqual(get(asked), get(asked)), within, 0)),
        declare(x, minus(get(held), get(ofPlayer))),
        declare(halvings, call('floor', plus(by(get(x), constant(ln2High + ln2Low)), 0.5))),
        declare(
          rest,
          minus(
            minus(get(x), times(get(halvings), constant(ln2High))),
            times(get(halvings), constant(ln2Low)),
          ),
        ),
        declare(sum, 1),
        ...count(nth, 0, exponentialTerms, [
          assign(sum, plus(constant(1), by(times(get(rest), get(sum)), term))),
        ]),
        declare(power, 1),
        ...count(nth, 0, call('abs', get(halvings)), [assign(power, times(get(power), constant(2)))]),
        give(call('min', 2 ** 32 - 1, call('max', 1, call('round', times(chance, constant(2 ** 32)))))),
      ],
    };
  });
  return ask(name, skill, difficulty);
}
