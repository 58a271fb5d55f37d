// Dusk on the Heath: written by jocus from dusk-on-the-heath.yaml. Change the design, not this file.
import type { Game } from 'jocus/engine';

export type Names = {
  counters: {
    score: number;
    lives: number;
    nectar: number;
    streak: number;
    best: number;
  };
  screens: "title" | "help" | "heath" | "cleared" | "dark" | "nightfall";
  events: "blossom.appeared" | "foxglove.appeared" | "royalJelly.appeared" | "blossom.gone" | "foxglove.gone" | "royalJelly.gone" | "blossom.taken" | "foxglove.taken" | "royalJelly.taken" | "blossom.missed" | "foxglove.missed" | "royalJelly.missed" | "wasp.appeared" | "wasp.gone" | "wasp.avoided" | "wasp.hit" | "input.help" | "input.back" | "input.start" | "input.again" | "input.leave";
  timers: "daylight";
  cues: "chime" | "bell" | "hum" | "sting";
};

declare const game: Game<Names>;
export default game;
export { DesignError, recordOf, UsageError, writeRecord } from 'jocus/engine';
