import { Button, Checkbox, Modal, NumberInput, SegmentedControl, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import { nameFrom } from '../../../src/design/language/names.js';
import type { Change } from '../../../src/design/text/change.js';
import { edit, useWorkbench } from '../store.js';
import { words } from '../words.js';
import { faultIn, useNewName } from './new-name.js';

type Kind = keyof typeof words.add.kinds;
const outcomeOf: { readonly [Name in Kind]: string } = { collectible: 'taken', hazard: 'hit', foe: 'hit' };
const usual: { readonly [Name in Kind]: { counter: string; amount: number } } = {
  collectible: { counter: 'score', amount: 10 },
  hazard: { counter: 'lives', amount: -1 },
  foe: { counter: 'lives', amount: -1 },
};

/** Three questions that make a thing: what it is, what touching it does, and whether the HUD shows it. */
export function AddThing({ opened, close }: { readonly opened: boolean; readonly close: () => void }) {
  const groups = useWorkbench(({ reading }) => reading?.value.groups);
  const { typed, setTyped, name, isFree, error, hint } = useNewName();
  const [kind, setKind] = useState<Kind>('collectible');
  const [typedCounter, setCounter] = useState<string>(usual.collectible.counter);
  const counter = nameFrom(typedCounter);
  const counterFault = faultIn(counter);
  const [amount, setAmount] = useState<number>(usual.collectible.amount);
  const [isShown, setShown] = useState(true);
  const [count, setCount] = useState(3);
  const choose = (chosen: Kind): void => {
    setKind(chosen);
    setCounter(usual[chosen].counter);
    setAmount(usual[chosen].amount);
  };
  const add = (event: FormEvent): void => {
    event.preventDefault();
    if (!isFree || counterFault !== undefined) return;
    const counters = (groups?.counters ?? []).map(({ path }) => path[1]);
    const shown = (groups?.hud ?? []).some(({ words: all }) =>
      all.some((word) => typeof word !== 'string' && word.path[2] === 'show' && word.value === counter),
    );
    const changes: Change[] = [{ kind: 'set', path: ['pieces', name], value: { is: kind } }];
    if (!counters.includes(counter)) {
      const value = counter === 'lives' ? { start: 3, min: 0, max: 5 } : { start: 0, min: 0 };
      changes.push({ kind: 'set', path: ['counters', counter], value });
    }
    const does = { when: `${name}.${outcomeOf[kind]}`, do: [{ add: { [counter]: amount } }] };
    changes.push({ kind: 'add', path: ['rules'], value: does });
    if (count > 0) changes.push(placed(name, count));
    if (isShown && !shown) {
      const at = counter === 'lives' ? 'top-right' : 'top-left';
      changes.push({ kind: 'add', path: ['hud'], value: { show: counter, at } });
    }
    edit(...changes);
    setTyped('');
    choose('collectible');
    close();
  };
  return (
    <Modal
      opened={opened}
      onClose={close}
      title={words.addThing}
      size="lg"
      closeButtonProps={{ 'aria-label': words.add.cancel }}
    >
      <form className="add-form" onSubmit={add}>
        <TextInput
          data-autofocus
          label={words.add.what}
          placeholder={words.add.whatHint}
          description={hint}
          value={typed}
          error={error}
          onChange={({ currentTarget }) => setTyped(currentTarget.value)}
        />
        <div>
          <p id="kind-label">{words.add.kind}</p>
          <SegmentedControl
            fullWidth
            aria-labelledby="kind-label"
            value={kind}
            onChange={(value) => choose(value as Kind)}
            data={Object.entries(words.add.kinds).map(([value, label]) => ({ value, label }))}
          />
        </div>
        <fieldset>
          <legend>{words.add.does}</legend>
          <NumberInput
            label={words.add.amount}
            value={amount}
            onChange={(value) => setAmount(Number(value))}
          />
          <TextInput
            label={words.add.counter}
            value={typedCounter}
            error={counterFault}
            onChange={({ currentTarget }) => setCounter(currentTarget.value)}
          />
        </fieldset>
        <NumberInput
          label={words.add.count}
          min={0}
          max={50}
          value={count}
          onChange={(value) => setCount(Number(value))}
        />
        <Checkbox
          label={words.add.hud}
          checked={isShown}
          onChange={({ currentTarget }) => setShown(currentTarget.checked)}
        />
        <div className="buttons">
          <Button variant="default" onClick={close}>
            {words.add.cancel}
          </Button>
          <Button type="submit" disabled={!isFree || counterFault !== undefined}>
            {words.add.done}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

/** Lets some stand on the first level from its start. */
const placed = (name: string, count: number): Change =>
  useWorkbench.getState().reading?.value.hasLevels === true
    ? { kind: 'set', path: ['levels', 0, 'place', name], value: count }
    : { kind: 'add', path: ['levels'], value: { place: { [name]: count } } };
