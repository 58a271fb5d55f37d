import { useEffect, useId, useState } from 'react';
import type { Control } from '../../src/sentences/sentence.js';
import { edit } from './store.js';

/** A word that can be changed where it stands: a choice, or a field as wide as what it holds. */
export function WordControl({ control }: { readonly control: Control }) {
  const { path, value, kind, choices } = control;
  const [typed, setTyped] = useState(String(value));
  const list = useId();
  useEffect(() => setTyped(String(value)), [value]);
  const label = path.join(' ');
  const put = (text: string): void => {
    if (text === String(value)) return;
    const number = Number(text);
    const isNumber =
      text.trim() !== '' && Number.isFinite(number) && (kind === 'number' || kind === 'expression');
    edit({ kind: 'set', path, value: isNumber ? number : text });
  };
  if (kind === 'choice')
    return (
      <select
        className="word"
        aria-label={label}
        value={String(value)}
        onChange={({ target }) => put(target.value)}
      >
        {(choices.includes(String(value)) ? choices : [String(value), ...choices]).map((choice) => (
          <option key={choice}>{choice}</option>
        ))}
      </select>
    );
  const turn = (by: number): void => {
    const number = Number(typed);
    if (!Number.isFinite(number)) return;
    // Decimals that were written are the step.
    const places = /\.(\d+)$/.exec(typed)?.[1]?.length ?? 0;
    const turned = (number + by * 10 ** -places).toFixed(places);
    setTyped(turned);
    put(turned);
  };
  return (
    <>
      <input
        className={`word ${kind}`}
        aria-label={label}
        value={typed}
        size={Math.max(1, typed.length)}
        list={choices.length > 0 ? list : undefined}
        inputMode={kind === 'number' ? 'decimal' : 'text'}
        spellCheck={false}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={() => put(typed)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') put(typed);
          else if (event.key === 'Escape') setTyped(String(value));
          else if (
            kind !== 'text' &&
            (event.key === 'ArrowUp' || event.key === 'ArrowDown') &&
            typeof value === 'number'
          ) {
            event.preventDefault();
            turn(event.key === 'ArrowUp' ? 1 : -1);
          }
        }}
      />
      {choices.length > 0 && (
        <datalist id={list}>
          {choices.map((choice) => (
            <option key={choice} value={choice} />
          ))}
        </datalist>
      )}
    </>
  );
}
