import { Button, Slider } from '@mantine/core';
import { useEffect, useState } from 'react';
import { type Film as FilmOf, stopWatching } from '../store.js';
import { words } from '../words.js';
import { CounterTable, Happened, Present } from './PlayPanel.js';
import { Screen } from './Screen.js';

/** Milliseconds that a step of a film is seen at the least and at the most. */
const shortest = 150;
const longest = 1200;

/** A recorded session, step by step or run as a film, its pauses cut short. */
export function Film({ film }: { readonly film: FilmOf }) {
  const { frames, name } = film;
  const [at, setAt] = useState(0);
  const [isRunning, setRunning] = useState(true);
  const frame = frames[Math.min(at, frames.length - 1)]!;
  const next = frames[at + 1];
  const isOver = next === undefined;
  useEffect(() => {
    if (!isRunning || next === undefined) return;
    const pause = Math.min(longest, Math.max(shortest, next.time - frame.time));
    const timer = window.setTimeout(() => setAt(at + 1), pause);
    return () => window.clearTimeout(timer);
  }, [isRunning, at, next, frame]);
  return (
    <section className="play film" aria-label={name}>
      <h2>{name}</h2>
      <Screen play={frame} />
      <Slider
        aria-label={words.film.at}
        thumbLabel={words.film.at}
        min={0}
        max={Math.max(1, frames.length - 1)}
        value={at}
        label={(index) => `${((frames[index]?.time ?? 0) / 1000).toFixed(1)} s`}
        onChange={(index) => {
          setRunning(false);
          setAt(Math.min(index, frames.length - 1));
        }}
      />
      <div className="deeds">
        <Button size="xs" variant="default" disabled={at === 0} onClick={() => setAt(at - 1)}>
          {words.film.back}
        </Button>
        <Button
          size="xs"
          onClick={() => {
            if (isOver) setAt(0);
            setRunning(isOver || !isRunning);
          }}
        >
          {isRunning && !isOver ? words.film.pause : words.film.play}
        </Button>
        <Button size="xs" variant="default" disabled={isOver} onClick={() => setAt(at + 1)}>
          {words.film.on}
        </Button>
        <Button size="xs" variant="subtle" onClick={stopWatching}>
          {words.film.close}
        </Button>
      </div>
      <Present play={frame} />
      <CounterTable play={frame} />
      <Happened play={frame} />
    </section>
  );
}
