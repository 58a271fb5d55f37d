import { useEffect, useId, useState } from 'react';
import type { Control } from '../../../src/sentences/sentence.js';
import { edit } from '../store.js';

/** A word that can be changed where it stands: a choice, or a field as wide as what it holds. Emptied, it is taken out. */
export function WordControl({ control }: { readonly control: Control }) {
  const { path, value, kind, choices } = control;
  const [typed, setTyped] = useState(String(value));
  const list = useId();
  useEffect(() => setTyped(String(value)), [value]);
  const label = path.join(' ');
  const put = (text: string): void => {
    if (text === String(value)) return;
    if (text.trim() === '') edit({ kind: 'remove', path: control.removes ?? path });
    else edit({ kind: 'set', path, value: asWritten(text, control) });
  };
  if (kind === 'choice' || kind === 'flag') {
    const shown = kind === 'flag' ? choices[value === true ? 0 : 1]! : String(value);
    return (
      <select
        className="word"
        aria-label={label}
        value={shown}
        onChange={({ target }) =>
          kind === 'flag'
            ? edit({ kind: 'set', path, value: target.value === choices[0] })
            : put(target.value)
        }
      >
        {(choices.includes(shown) ? choices : [shown, ...choices]).map((choice) => (
          <option key={choice}>{choice}</option>
        ))}
      </select>
    );
  }
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

/** What was typed, as the design holds it: numbers as numbers, yes and no as such. */
function asWritten(text: string, { kind, value }: Control): string | number | boolean {
  const number = Number(text);
  if (Number.isFinite(number) && (kind === 'number' || kind === 'expression')) return number;
  return typeof value === 'boolean' && (text === 'true' || text === 'false') ? text === 'true' : text;
}
