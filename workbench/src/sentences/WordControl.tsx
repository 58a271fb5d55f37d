import {
  type ChangeEvent,
  type KeyboardEvent,
  type PointerEvent,
  useEffect,
  useId,
  useRef,
  useState,
} from 'react';
import { nameFrom } from '../../../src/design/language/names.js';
import type { Change } from '../../../src/design/text/change.js';
import { madeBy } from '../../../src/sentences/new-entry.js';
import type { Control } from '../../../src/sentences/sentence.js';
import { edit, useWorkbench } from '../store.js';

/** A word that can be changed where it stands: a choice, or a field as wide as what it holds. Emptied, it is taken out. */
export function WordControl({ control }: { readonly control: Control }) {
  const { path, value, kind, choices } = control;
  const [typed, setTyped] = useState(String(value));
  const list = useId();
  const drag = useRef<{ x: number; from: number; isTurning: boolean }>(undefined);
  useEffect(() => setTyped(String(value)), [value]);
  const label = path.join(' ');
  const put = (said: string): void => {
    if (said === String(value)) return;
    const isNew = control.makes !== undefined && !choices.includes(said);
    // Of what is made by naming it, several words are one name; an event has its own form.
    const text = isNew && control.makes !== 'events' ? nameFrom(said) : said;
    if (text.trim() === '') edit({ kind: 'remove', path: control.removes ?? path });
    else {
      const change: Change = { kind: 'set', path, value: asWritten(text, control) };
      const made = isNew ? madeBy(useWorkbench.getState().text, text, control.makes!) : undefined;
      edit(change, ...(made === undefined ? [] : [made]));
    }
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
  /** A number so many steps away; decimals that were written are the step. */
  const turned = (from: number, steps: number): string => {
    const places = /\.(\d+)$/.exec(String(value))?.[1]?.length ?? 0;
    return (from + steps * 10 ** -places).toFixed(places);
  };
  const turn = (by: number): void => {
    if (!Number.isFinite(Number(typed))) return;
    const next = turned(Number(typed), by);
    setTyped(next);
    put(next);
  };
  const dragged = ({ clientX }: PointerEvent): number =>
    Math.trunc((clientX - (drag.current?.x ?? clientX)) / pixelsForStep);
  const offered = choicesAt(typed, control);
  const field = {
    className: `word ${kind}`,
    'aria-label': label,
    value: typed,
    spellCheck: false,
    onChange: ({ target }: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => setTyped(target.value),
    onBlur: () => put(typed),
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key === 'Enter') {
        event.preventDefault();
        put(typed);
      } else if (event.key === 'Escape') setTyped(String(value));
      else if (
        kind !== 'text' &&
        (event.key === 'ArrowUp' || event.key === 'ArrowDown') &&
        typeof value === 'number'
      ) {
        event.preventDefault();
        turn(event.key === 'ArrowUp' ? 1 : -1);
      }
    },
  };
  // By what stands there, not by what is typed: a field that changes its kind would lose the cursor.
  if (String(value).length > widest)
    return <textarea {...field} cols={widest} rows={Math.ceil(typed.length / widest)} />;
  return (
    <>
      <input
        {...field}
        size={Math.max(1, typed.length)}
        list={offered.length > 0 ? list : undefined}
        inputMode={kind === 'number' ? 'decimal' : 'text'}
        onPointerDown={(event) => {
          if (typeof value !== 'number' || event.pointerType === 'touch') return;
          drag.current = { x: event.clientX, from: Number(typed), isTurning: false };
        }}
        onPointerMove={(event) => {
          const { current } = drag;
          if (current === undefined || (!current.isTurning && dragged(event) === 0)) return;
          if (!current.isTurning) event.currentTarget.setPointerCapture(event.pointerId);
          current.isTurning = true;
          event.preventDefault();
          setTyped(turned(current.from, dragged(event)));
        }}
        onPointerUp={(event) => {
          if (drag.current?.isTurning === true) put(turned(drag.current.from, dragged(event)));
          drag.current = undefined;
        }}
      />
      {offered.length > 0 && (
        <datalist id={list}>
          {offered.map((choice) => (
            <option key={choice} value={choice} />
          ))}
        </datalist>
      )}
    </>
  );
}

/** Characters that a field on one line has room for; more are shown on several. */
const widest = 52;

/** Pixels that a number is dragged for one step. */
const pixelsForStep = 6;

/** What could stand there: for an expression, what was typed with its last word completed. */
function choicesAt(typed: string, { kind, choices }: Control): readonly string[] {
  if (kind !== 'expression') return choices;
  const [word = ''] = /[A-Za-z_][\w.]*$/.exec(typed) ?? [];
  if (word === '') return choices;
  const before = typed.slice(0, typed.length - word.length);
  return choices.filter((choice) => choice.startsWith(word)).map((choice) => before + choice);
}

/** What was typed, as the design holds it: numbers as numbers, yes and no as such. */
function asWritten(text: string, { kind, value }: Control): string | number | boolean {
  const number = Number(text);
  if (Number.isFinite(number) && (kind === 'number' || kind === 'expression')) return number;
  return typeof value === 'boolean' && (text === 'true' || text === 'false') ? text === 'true' : text;
}
