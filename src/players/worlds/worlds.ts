/** For games with their own movement and collisions: what plays them, on the screen and simulated. */
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
