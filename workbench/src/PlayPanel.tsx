import { Button } from '@mantine/core';
import type { PlayView } from './play.worker.js';
import { act, goTo, keepAsTest, startAgain, stepBack, useWorkbench } from './store.js';
import { words } from './words.js';

/** Plays the design without movement: a button for each thing that can happen now, and what it did, counter by counter. */
export function PlayPanel() {
  const { play, isPlayed } = useWorkbench();
  if (play === undefined)
    return (
      <section className="play" aria-label={words.play.title}>
        <p className="dim">{words.play.empty}</p>
      </section>
    );
  const hasPieces = Object.values(play.present).some((count) => count > 0);
  return (
    <section className="play" aria-label={words.play.title}>
      <Screen play={play} />
      {!isPlayed && <p className="note">{words.play.stopped}</p>}
      {play.fault !== undefined && (
        <p className="finding error" role="alert">
          {play.fault}
        </p>
      )}
      <fieldset className="deeds" aria-label={words.play.can}>
        {play.possible.map((event) => (
          <Button
            key={event}
            size="xs"
            variant={event.startsWith('input.') ? 'outline' : 'light'}
            onClick={() => act({ event })}
          >
            {event}
          </Button>
        ))}
        {play.possible.length === 0 && <span className="dim">{words.play.nothing}</span>}
      </fieldset>
      <fieldset className="deeds" aria-label={words.play.waits}>
        {[0.1, 1, 10].map((seconds) => (
          <Button key={seconds} size="xs" variant="default" onClick={() => act({ wait: seconds * 1000 })}>
            {words.play.seconds(seconds)}
          </Button>
        ))}
      </fieldset>
      <div className="deeds">
        <Button size="xs" variant="subtle" disabled={play.deeds.length === 0} onClick={stepBack}>
          {words.play.back}
        </Button>
        <Button size="xs" variant="subtle" disabled={play.deeds.length === 0} onClick={startAgain}>
          {words.play.start}
        </Button>
        <Button
          size="xs"
          variant="subtle"
          disabled={play.deeds.length === 0}
          onClick={() => keepAsTest(words.play.testName(play.deeds.length))}
        >
          {words.play.toTest}
        </Button>
      </div>
      {hasPieces && (
        <p className="present">
          <span className="dim">{words.play.present}</span>
          {Object.entries(play.present)
            .filter(([, count]) => count > 0)
            .map(([piece, count]) => (
              <span key={piece} className="thing">
                <Mark name={piece} />
                {count} {piece}
              </span>
            ))}
        </p>
      )}
      <table className="counters">
        <caption>{words.play.counters}</caption>
        <thead>
          <tr>
            <td />
            <th scope="col">{words.play.before}</th>
            <th scope="col">{words.play.after}</th>
          </tr>
        </thead>
        <tbody>
          {Object.entries(play.counters).map(([name, value]) => (
            <tr key={name} className={play.before[name] === value ? undefined : 'changed'}>
              <th scope="row">{name}</th>
              <td>{String(play.before[name] ?? '')}</td>
              <td>{String(value)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Happened play={play} />
    </section>
  );
}

const places = [
  'top-left',
  'top',
  'top-right',
  'left',
  'right',
  'bottom-left',
  'bottom',
  'bottom-right',
] as const;

/** The screen as a player would see it: its text, and the HUD in its corners. */
function Screen({ play }: { readonly play: PlayView }) {
  return (
    <div className={`screen ${play.isLive ? 'live' : 'still'}`} data-screen={play.screen}>
      <p className="name">
        {play.screen} <small>{words.play.at((play.time / 1000).toFixed(1))}</small>
      </p>
      {play.text !== '' && <p className="text">{play.text}</p>}
      {places.map((place) => (
        <div key={place} className={`corner ${place}`}>
          {play.hud
            .filter(({ at }) => at === place)
            .map(({ label, text, spoken, as, full, of }) => (
              <p key={label} className="item">
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

/** What followed from the last deed, which rule did it, and a way to its sentence. */
function Happened({ play }: { readonly play: PlayView }) {
  if (play.steps.length === 0) return null;
  const shown = play.steps.slice(-12);
  return (
    <section className="happened" aria-label={words.play.happened} aria-live="polite">
      <h3>{words.play.happened}</h3>
      <ol>
        {shown.map(({ name, isIgnored, writes, transitions, cues, popups }, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: what happened does not change any more
          <li key={index}>
            <b>{name}</b> {isIgnored && <span className="dim">{words.play.ignored}</span>}
            {writes.map(({ counter, before, after, by, line }) => (
              <span key={`${counter} ${by} ${after}`} className="write">
                {counter} {before} → {after}{' '}
                <button
                  type="button"
                  className="line"
                  aria-label={words.line(line)}
                  onClick={() => goTo(line)}
                >
                  {by}
                </button>
              </span>
            ))}
            {transitions.map((way) => (
              <span key={way} className="way">
                {way}
              </span>
            ))}
            {[...cues.map((cue) => `♪ ${cue}`), ...popups].map((told) => (
              <span key={told} className="dim">
                {told}
              </span>
            ))}
          </li>
        ))}
      </ol>
    </section>
  );
}

/** A drawing of our own for any thing: a shape and a colour of its name, so that two are told apart by both. */
function Mark({ name }: { readonly name: string }) {
  let sum = 0;
  for (const letter of name) sum = (31 * sum + letter.codePointAt(0)!) % 997;
  const hue = (sum * 47) % 360;
  const sides = 3 + (sum % 5);
  const points = Array.from({ length: sides }, (_, index) => {
    const angle = (2 * Math.PI * index) / sides - Math.PI / 2;
    return `${8 + 7 * Math.cos(angle)},${8 + 7 * Math.sin(angle)}`;
  });
  return (
    <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
      <polygon points={points.join(' ')} fill={`hsl(${hue} 55% 55%)`} stroke="currentColor" strokeWidth="1" />
    </svg>
  );
}
