import type { z } from 'zod';
import { closest } from '../language/names.js';
import { keyFor } from '../language/synonyms.js';
import { elsewhere, neededFor } from '../problems/elsewhere.js';
import { effectSchema } from './rules.js';

/** The keys that a schema allows at a path inside it. */
export function keysOf(schema: z.ZodType, path: readonly (string | number)[]): readonly string[] {
  const at = schemaAt(schema, path);
  const object = at && objectIn(at);
  return object === undefined ? [] : Object.keys(object.shape);
}

/** What the key at a path is for: the first sentence of its description, to stand in brackets. */
export function purposeOf(schema: z.ZodType, path: readonly (string | number)[]): string | undefined {
  const description = schemaAt(schema, path)
    ?.meta()
    ?.description?.split(/\.(?=\s|$)/)[0]
    ?.replaceAll('`', '');
  return description && description[0]!.toLowerCase() + description.slice(1);
}

function schemaAt(schema: z.ZodType, path: readonly (string | number)[]): z.ZodType | undefined {
  let at: z.ZodType | undefined = schema;
  for (const step of path) at = at && inner(at, step);
  return at;
}

type ObjectSchema = z.ZodObject<Record<string, z.ZodType>>;

function objectIn(schema: z.ZodType): ObjectSchema | undefined {
  const { def } = schema as {
    def: { type: string; innerType?: z.ZodType; options?: z.ZodType[] };
  } & z.ZodType;
  if (def.type === 'object') return schema as ObjectSchema;
  if (def.innerType !== undefined) return objectIn(def.innerType);
  return def.options?.map(objectIn).find((each) => each !== undefined);
}

function inner(schema: z.ZodType, step: string | number): z.ZodType | undefined {
  const { def } = schema as {
    def: { innerType?: z.ZodType; element?: z.ZodType; valueType?: z.ZodType };
  } & z.ZodType;
  if (def.innerType !== undefined) return inner(def.innerType, step);
  return def.element ?? def.valueType ?? objectIn(schema)?.shape[step];
}

/** Whether a key is that of an effect, at what has a list of them. */
export const isEffectOutsideDo = (key: string, allowed: readonly string[]): boolean =>
  allowed.includes('do') && !allowed.includes('expect') && Object.hasOwn(effectSchema.shape, key);

/** Whether it is known what an unknown key stands for, or asks for. */
export const isKnownKey = (key: string, allowed: readonly string[]): boolean =>
  (elsewhere(key, allowed, key) ?? keyFor(key, allowed) ?? closest(key, allowed)) !== undefined;

/** The keys, with their paths, that unknown ones seem to stand for. */
export function meantKeys(schema: z.ZodType, issues: readonly z.core.$ZodIssue[]): ReadonlySet<string> {
  const meant = new Set<string>();
  for (const issue of issues) {
    if (issue.code !== 'unrecognized_keys') continue;
    const allowed = keysOf(schema, issue.path as (string | number)[]);
    for (const key of issue.keys) {
      const found = isEffectOutsideDo(key, allowed)
        ? 'do'
        : (neededFor(key, allowed) ?? keyFor(key, allowed) ?? closest(key, allowed));
      if (found !== undefined) meant.add([...issue.path, found].join('.'));
    }
  }
  return meant;
}
