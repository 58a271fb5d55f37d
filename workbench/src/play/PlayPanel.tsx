import './play.css';
import { Button, Checkbox } from '@mantine/core';
import { useEffect, useState } from 'react';
import { act, hudAt, keepAsTest, seek, startAgain, stepBack, useParts } from '../store.js';
import { words } from '../words.js';
import type { PlayView } from '../workers/play.worker.js';
import { FieldLayer } from './FieldLayer.js';
import { Film } from './Film.js';
import { Mark } from './Mark.js';
import { Screen } from './Screen.js';

/** Plays the design without movement: a button for each thing that can happen now, and what it did, counter by counter. */
export function PlayPanel() {
  const { play, isPlayed, film } = useParts('play', 'isPlayed', 'film');
  const [isFlying, setFlying] = useState(false);
  const [hasFlown, setFlown] = useState(false);
  const [hasSound, setSound] = useState(false);
  const [hud, setHud] = useState<PlayView['hud']>();
  // What is shown at its bounds is shown so until something happens.
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever the session is, it is another
  useEffect(() => setHud(undefined), [play]);
  if (film !== undefined) return <Film key={film.name} film={film} />;
  if (play === undefined)
    return (
      <section className="play" aria-label={words.play.title}>
        <p className="dim">{words.play.empty}</p>
      </section>
    );
  return (
    <section className="play" aria-label={words.play.title}>
      <Screen play={hud === undefined ? play : { ...play, hud }}>
        {hasFlown && <FieldLayer isRunning={isFlying} hasSound={hasSound} />}
      </Screen>
      <div className="deeds">
        <Button
          size="xs"
          aria-pressed={isFlying}
          onClick={() => {
            setFlying(!isFlying);
            setFlown(true);
          }}
        >
          {isFlying ? words.play.hold : words.play.fly}
        </Button>
        <Checkbox
          size="xs"
          label={words.play.sound}
          checked={hasSound}
          onChange={({ currentTarget }) => setSound(currentTarget.checked)}
        />
        {isFlying && <span className="dim">{words.play.keys}</span>}
        {!isFlying && play.hud.length > 0 && <HudBounds show={setHud} />}
      </div>
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
      <Present play={play} />
      <CounterTable play={play} />
      <Happened play={play} />
    </section>
  );
}

/** Shows the HUD at the least and the most that its counters can come to, to see whether all of it fits. */
function HudBounds({ show }: { readonly show: (hud: PlayView['hud'] | undefined) => void }) {
  return (
    <Button.Group aria-label={words.play.hudAt}>
      {(['min', 'max'] as const).map((bound) => (
        <Button
          key={bound}
          size="compact-xs"
          variant="default"
          onClick={async () => show(await hudAt(bound))}
        >
          {bound === 'min' ? words.play.hudLeast : words.play.hudMost}
        </Button>
      ))}
      <Button size="compact-xs" variant="default" onClick={() => show(undefined)}>
        {words.play.hudNow}
      </Button>
    </Button.Group>
  );
}

/** The pieces that are there, each with its drawing. */
export function Present({ play }: { readonly play: PlayView }) {
  if (Object.values(play.present).every((count) => count === 0)) return null;
  return (
    <p className="present">
      <span className="dim">{words.play.present}</span>
      {Object.entries(play.present)
        .filter(([, count]) => count > 0)
        .map(([piece, count]) => (
          <span key={piece} className="thing">
            <Mark name={piece} meets={play.kinds.find(({ name }) => name === piece)?.meets ?? 'sought'} />
            {count} {piece}
          </span>
        ))}
    </p>
  );
}

/** Every counter before and after what was done last. */
export function CounterTable({ play }: { readonly play: PlayView }) {
  return (
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
  );
}

/** What followed from the last deed, which rule did it, and a way to its sentence. */
export function Happened({ play }: { readonly play: PlayView }) {
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
            {writes.map(({ counter, before, after, by, place }) => (
              <span key={`${counter} ${by} ${after}`} className="write">
                {counter} {before} → {after}{' '}
                <button
                  type="button"
                  className="line"
                  aria-label={words.line(place.line)}
                  onClick={() => seek(place)}
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
