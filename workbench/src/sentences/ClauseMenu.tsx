import { ActionIcon, Button, Menu, Modal, ScrollArea, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Clause } from '../../../src/sentences/sentence.js';
import { edit, rename } from '../store.js';
import { words } from '../words.js';

/** Clauses past so many get a field to find one in. */
const many = 9;

/** What a sentence could say as well; choosing puts it there with a value to begin with. */
export function ClauseMenu({
  about,
  clauses,
  name,
}: {
  readonly about: string;
  readonly clauses: readonly Clause[];
  /** What can be renamed; undefined where it has no name. */
  readonly name: string | undefined;
}) {
  const [newName, setNewName] = useState<string>();
  const [sought, setSought] = useState('');
  if (clauses.length === 0 && name === undefined) return null;
  const found = clauses.filter(({ label }) => label.toLowerCase().includes(sought.toLowerCase()));
  return (
    <>
      <Menu shadow="md" width={280} position="bottom-end" onClose={() => setSought('')}>
        <Menu.Target>
          <ActionIcon variant="subtle" size="sm" aria-label={words.say.more(about)}>
            +
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          {clauses.length > many && (
            <TextInput
              data-autofocus
              size="xs"
              aria-label={words.say.filter}
              placeholder={words.say.filter}
              value={sought}
              onChange={({ currentTarget }) => setSought(currentTarget.value)}
            />
          )}
          {name !== undefined && sought === '' && (
            <Menu.Item onClick={() => setNewName(name)}>{words.rename.item}</Menu.Item>
          )}
          <ScrollArea.Autosize mah={320} type="auto">
            {found.map(({ label, help, change }) => (
              <Menu.Item key={label} title={help} onClick={() => edit(change)}>
                {label}
              </Menu.Item>
            ))}
            {found.length === 0 && <Menu.Label>{words.say.none}</Menu.Label>}
          </ScrollArea.Autosize>
        </Menu.Dropdown>
      </Menu>
      <Modal
        opened={newName !== undefined}
        onClose={() => setNewName(undefined)}
        title={words.rename.title(name ?? '')}
        closeButtonProps={{ 'aria-label': words.add.cancel }}
      >
        <form
          onSubmit={(event) => {
            event.preventDefault();
            rename(name!, newName!.trim());
            setNewName(undefined);
          }}
        >
          <TextInput
            data-autofocus
            label={words.addEntry.name}
            value={newName ?? ''}
            onChange={({ currentTarget }) => setNewName(currentTarget.value)}
          />
          <Button mt="sm" type="submit" disabled={newName?.trim() === name}>
            {words.rename.done}
          </Button>
        </form>
      </Modal>
    </>
  );
}
