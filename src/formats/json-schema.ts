import { z } from 'zod';
import { designSchema } from '../design/schema/design.js';

/** The form of a design file as JSON Schema (2020-12), for editors that complete and check. */
export function designJsonSchema(): object {
  const schema = z.toJSONSchema(designSchema, { io: 'input', target: 'draft-2020-12' });
  return {
    ...schema,
    title: 'Jocus design',
    description: 'The scoring and the flow of screens of one arcade-sized game.',
  };
}
