/**
 * A session in a React component.
 *
 * @module jocus/react
 */

import { useCallback, useMemo, useSyncExternalStore } from 'react';
import type { GameNames } from '../design/names-of.js';
import type { GameSession } from '../engine/session/session.js';
import type { HudView } from '../engine/session/view.js';

/** What a component draws of a session: the same object until something on it has changed. */
export interface SessionView<Names extends GameNames = GameNames> {
  readonly screen: Names['screens'];
  /** The text of the screen, with its values in it. */
  readonly text: string;
  readonly hud: readonly HudView[];
}

export interface UseSessionOptions {
  /** Whether time stands still; false unless it is given. What is sent still counts. */
  readonly isPaused?: boolean | undefined;
}

/** Milliseconds that one frame counts for at the most, so that a page that was hidden goes on where it was left. */
const longestFrame = 250;

/**
 * Runs a session from the page's frames and renders again when what it shows has changed. Make the session outside the component, or with
 * `useState(() => game.start())`, so that it outlives a drawing. A fault in the rules is thrown where the component is drawn.
 *
 * @example
 * const { screen, text, hud } = useSession(session);
 * return <main data-screen={screen}>{hud.map((item) => <b key={item.label}>{item.text}</b>)}<p>{text}</p></main>;
 */
export function useSession<Names extends GameNames>(
  session: GameSession<Names>,
  { isPaused = false }: UseSessionOptions = {},
): SessionView<Names> {
  const look = useMemo(() => lookingAt(session), [session]);
  const subscribe = useCallback(
    (changed: () => void) => {
      const stopListening = session.listen(changed);
      let last: number | undefined;
      let frame = 0;
      const run = (now: number): void => {
        try {
          if (last !== undefined) session.advance(Math.min(longestFrame, now - last));
        } catch (error) {
          look.fail(error);
          changed();
          return;
        }
        last = now;
        changed();
        frame = requestAnimationFrame(run);
      };
      if (!isPaused) frame = requestAnimationFrame(run);
      return () => {
        stopListening();
        cancelAnimationFrame(frame);
      };
    },
    [session, look, isPaused],
  );
  return useSyncExternalStore(subscribe, look.view, look.view);
}

function lookingAt<Names extends GameNames>(session: GameSession<Names>) {
  let last: SessionView<Names> | undefined;
  let fault: { readonly error: unknown } | undefined;
  return {
    fail(error: unknown): void {
      fault = { error };
    },
    view(): SessionView<Names> {
      if (fault !== undefined) throw fault.error;
      const { screen, text, hud } = session;
      if (last?.screen !== screen || last.text !== text || !looksAlike(last.hud, hud))
        last = { screen, text, hud };
      return last;
    },
  };
}

/** Whether two HUDs are drawn alike: a clock has another value in each frame, and another text once a second. */
const looksAlike = (one: readonly HudView[], other: readonly HudView[]): boolean =>
  one === other ||
  (one.length === other.length &&
    one.every((item, index) => {
      const also = other[index]!;
      return (
        item === also ||
        (item.show === also.show &&
          item.text === also.text &&
          item.at === also.at &&
          (item.as !== 'bar' || (item.full === also.full && item.of === also.of)))
      );
    }));
