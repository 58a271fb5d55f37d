import { describe, expectTypeOf, test } from 'vitest';
import type { z } from 'zod';
import type {
  DesignInput,
  EffectInput,
  LevelInput,
  Names,
  RuleInput,
  TransitionInput,
} from '../../src/design/design-input.js';
import type { designSchema } from '../../src/design/schema/design.js';
import type { hudSchema, listSchema, screenSchema, transitionSchema } from '../../src/design/schema/flow.js';
import type { acceptSchema, targetSchema, testSchema } from '../../src/design/schema/judging.js';
import type { levelSchema, spawnSchema } from '../../src/design/schema/levels.js';
import type { actSchema, cautionSchema, playerSchema } from '../../src/design/schema/players.js';
import type { effectSchema, ruleSchema } from '../../src/design/schema/rules.js';
import type { counterSchema, dialSchema, pieceSchema, timerSchema } from '../../src/design/schema/things.js';

type Input = DesignInput<Names>;
type Section<Name extends keyof Input> = NonNullable<Input[Name]>;
/** The entries of a section that is a map, or a list. */
type Entry<Name extends keyof Input> =
  Section<Name> extends readonly (infer Item)[] ? Item : Section<Name>[keyof Section<Name>];
/** The keys of the maps of a union. */
type KeysOf<Union> = Union extends string | number | boolean | readonly unknown[] ? never : keyof Union;
type Keys<Schema extends z.ZodType> = keyof z.output<Schema>;

describe('the types of defineDesign and the schema of a file have the same keys', () => {
  test('in every section', () => {
    expectTypeOf<keyof Input>().toEqualTypeOf<Keys<typeof designSchema>>();
    expectTypeOf<KeysOf<Entry<'dials'>>>().toEqualTypeOf<Keys<typeof dialSchema>>();
    expectTypeOf<KeysOf<Entry<'counters'>>>().toEqualTypeOf<Keys<typeof counterSchema>>();
    expectTypeOf<KeysOf<Entry<'timers'>>>().toEqualTypeOf<Keys<typeof timerSchema>>();
    expectTypeOf<KeysOf<Entry<'pieces'>>>().toEqualTypeOf<Keys<typeof pieceSchema>>();
    expectTypeOf<keyof LevelInput<Names>>().toEqualTypeOf<Keys<typeof levelSchema>>();
    expectTypeOf<keyof NonNullable<LevelInput<Names>['spawn']>[number]>().toEqualTypeOf<
      Keys<typeof spawnSchema>
    >();
    expectTypeOf<keyof RuleInput<Names>>().toEqualTypeOf<Keys<typeof ruleSchema>>();
    expectTypeOf<KeysOf<EffectInput<Names>>>().toEqualTypeOf<Keys<typeof effectSchema>>();
    expectTypeOf<KeysOf<Entry<'screens'>>>().toEqualTypeOf<Keys<typeof screenSchema>>();
    expectTypeOf<keyof TransitionInput<Names>>().toEqualTypeOf<Keys<typeof transitionSchema>>();
    expectTypeOf<KeysOf<Entry<'hud'>>>().toEqualTypeOf<Keys<typeof hudSchema>>();
    expectTypeOf<KeysOf<Entry<'lists'>>>().toEqualTypeOf<Keys<typeof listSchema>>();
    expectTypeOf<KeysOf<Entry<'players'>>>().toEqualTypeOf<Keys<typeof playerSchema>>();
    expectTypeOf<KeysOf<Entry<'tests'>>>().toEqualTypeOf<Keys<typeof testSchema>>();
    expectTypeOf<KeysOf<Entry<'targets'>>>().toEqualTypeOf<Keys<typeof targetSchema>>();
    expectTypeOf<KeysOf<Entry<'accept'>>>().toEqualTypeOf<Keys<typeof acceptSchema>>();
  });

  test('and in what players do', () => {
    type Player = Entry<'players'>;
    type Act = NonNullable<Player['acts']>[`input.${string}`];
    expectTypeOf<KeysOf<Act>>().toEqualTypeOf<Keys<typeof actSchema>>();
    expectTypeOf<keyof NonNullable<Player['caution']>>().toEqualTypeOf<Keys<typeof cautionSchema>>();
  });
});
