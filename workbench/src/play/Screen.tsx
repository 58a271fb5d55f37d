import { type PointerEvent, type ReactNode, useRef, useState } from 'react';
import { hudPlaces } from '../../../src/design/model.js';
import { edit } from '../store.js';
import { words } from '../words.js';
import type { PlayView } from '../workers/play.worker.js';

type Place = (typeof hudPlaces)[number];

/** The screen as a player would see it: its text, and the HUD in its corners, whose items can be dragged to other places. */
export function Screen({ play, children }: { readonly play: PlayView; readonly children?: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<{ item: number; over: Place }>();
  /** The place of a screen cut in three by three that the pointer is over. */
  const placeAt = ({ clientX, clientY }: PointerEvent): Place | undefined => {
    const { left, top, width, height } = box.current!.getBoundingClientRect();
    const third = (part: number): number => Math.min(2, Math.max(0, Math.floor(3 * part)));
    const across = ['left', '', 'right'][third((clientX - left) / width)]!;
    const down = ['top', '', 'bottom'][third((clientY - top) / height)]!;
    const place = [down, across].filter((part) => part !== '').join('-');
    return hudPlaces.find((each) => each === (place === '' ? 'middle' : place));
  };
  return (
    <div
      ref={box}
      className={`screen ${play.isLive ? 'live' : 'still'} ${children && play.isLive ? 'flown' : ''}`}
      data-screen={play.screen}
      onPointerMove={(event) => {
        const over = dragged === undefined ? undefined : placeAt(event);
        if (dragged !== undefined && over !== undefined) setDragged({ ...dragged, over });
      }}
      onPointerUp={() => {
        if (dragged !== undefined && play.hud.find(({ item }) => item === dragged.item)?.at !== dragged.over)
          edit({ kind: 'set', path: ['hud', dragged.item, 'at'], value: dragged.over });
        setDragged(undefined);
      }}
      onPointerLeave={() => setDragged(undefined)}
    >
      {children}
      <p className="name">
        {play.screen} <small>{words.play.at((play.time / 1000).toFixed(1))}</small>
      </p>
      {play.text !== '' && <p className="text">{play.text}</p>}
      {hudPlaces.map((place) => (
        <div key={place} className={`corner ${place} ${dragged?.over === place ? 'over' : ''}`}>
          {play.hud
            .filter(({ at, item }) => (dragged?.item === item ? dragged.over : at) === place)
            .map(({ label, text, spoken, as, full, of, item }) => (
              <p
                key={item}
                className={`item ${dragged?.item === item ? 'dragged' : ''}`}
                title={words.play.drag}
                onPointerDown={(event) => {
                  event.preventDefault();
                  event.stopPropagation();
                  setDragged({ item, over: place });
                }}
              >
                {label !== '' && <span aria-hidden="true">{label} </span>}
                {as === 'bar' ? (
                  <meter aria-label={spoken} min={0} max={of} value={full} />
                ) : (
                  <b aria-hidden="true">{text}</b>
                )}
                {as !== 'bar' && <span className="spoken">{spoken}</span>}
              </p>
            ))}
        </div>
      ))}
    </div>
  );
}
