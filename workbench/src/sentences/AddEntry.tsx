import { Button, Popover, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import { newEntry, type Section, sections } from '../../../src/sentences/new-entry.js';
import { edit, useWorkbench } from '../store.js';
import { words } from '../words.js';
import { useNewName } from './new-name.js';

/** Adds an entry to a section, which is then changed word by word; where it has a name, asks for it first. */
export function AddEntry({ section }: { readonly section: Section }) {
  const [isOpen, setOpen] = useState(false);
  const { typed, setTyped, name, isFree, error, hint } = useNewName();
  const [told, setTold] = useState<string>();
  const label = words.addEntry.sections[section];
  const put = (): void => {
    try {
      edit(newEntry(useWorkbench.getState().text, section, name));
      setOpen(false);
      setTyped('');
      setTold(undefined);
    } catch (refusal) {
      setTold((refusal as Error).message);
      setOpen(true);
    }
  };
  const ask = (event: FormEvent): void => {
    event.preventDefault();
    if (isFree) put();
  };
  return (
    // A verdict that comes in meanwhile may move the button, even out of sight: what is asked stays, and moves with it.
    <Popover
      opened={isOpen}
      onChange={setOpen}
      width={280}
      position="bottom-end"
      trapFocus
      shadow="md"
      hideDetached={false}
      withinPortal={false}
    >
      <Popover.Target>
        <Button
          size="compact-xs"
          variant="subtle"
          onClick={() => (sections[section].isNamed ? setOpen(!isOpen) : put())}
        >
          {label}
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        {told !== undefined && <p role="alert">{told}</p>}
        {told === undefined && (
          <form onSubmit={ask}>
            <TextInput
              data-autofocus
              label={words.addEntry.name}
              description={hint}
              value={typed}
              error={error}
              onChange={({ currentTarget }) => setTyped(currentTarget.value)}
            />
            <Button mt="xs" size="xs" type="submit" disabled={!isFree}>
              {words.addEntry.done}
            </Button>
          </form>
        )}
      </Popover.Dropdown>
    </Popover>
  );
}
