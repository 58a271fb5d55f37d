/** Milliseconds of a press past which it is no click any more, but a drag that is to be followed at once. */
const longestClick = 400;

/**
 * Tells when no click is under way, so that nothing moves from under one: a button that is pressed and is elsewhere when it is let go was
 * not clicked.
 *
 * @param target hears what is pressed
 */
export function clicksOn(target: EventTarget): () => Promise<void> {
  let over: Promise<void> = Promise.resolve();
  let end = (): void => undefined;
  target.addEventListener(
    'pointerdown',
    () => {
      over = new Promise((done) => {
        end = done;
        setTimeout(done, longestClick);
      });
    },
    { capture: true },
  );
  // The click itself comes right after.
  for (const name of ['pointerup', 'pointercancel'])
    target.addEventListener(name, () => setTimeout(end), { capture: true });
  return () => over;
}
