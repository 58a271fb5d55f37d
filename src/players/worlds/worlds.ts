/**
 * Games with their own movement and collisions, on the screen and in simulations.
 *
 * @module jocus/world
 */

export {
  type Body,
  type FieldScene,
  type FieldWorld,
  field,
  fieldInputs,
  fieldWorld,
} from './field-world.js';
export { Stage } from './stage.js';
export type { Decision, World, WorldScene, WorldStage } from './world.js';
