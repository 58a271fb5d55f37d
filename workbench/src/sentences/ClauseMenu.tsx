import { Button, Menu, Modal, ScrollArea, TextInput } from '@mantine/core';
import { useState } from 'react';
import { nameFrom } from '../../../src/design/language/names.js';
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
  const [isOpen, setOpen] = useState(false);
  const [isRenaming, setRenaming] = useState(false);
  if (clauses.length === 0 && name === undefined) return null;
  const opener = (
    <button
      type="button"
      className="mark"
      aria-label={words.say.more(about)}
      aria-haspopup="menu"
      onClick={() => setOpen(true)}
    >
      +
    </button>
  );
  // A page has many sentences: what they could say is made when somebody asks for it.
  if (!isOpen && !isRenaming) return opener;
  return (
    <>
      {isOpen ? (
        // A verdict that comes in meanwhile may move the sentence, even out of sight: the menu stays, and moves with it.
        <Menu
          opened
          onChange={setOpen}
          shadow="md"
          width={280}
          position="bottom-end"
          hideDetached={false}
          withinPortal={false}
        >
          <Menu.Target>{opener}</Menu.Target>
          <Clauses clauses={clauses} rename={name === undefined ? undefined : () => setRenaming(true)} />
        </Menu>
      ) : (
        opener
      )}
      {isRenaming && <Renaming name={name!} close={() => setRenaming(false)} />}
    </>
  );
}

function Clauses({
  clauses,
  rename: askForName,
}: {
  readonly clauses: readonly Clause[];
  readonly rename: (() => void) | undefined;
}) {
  const [sought, setSought] = useState('');
  const found = clauses.filter(({ label }) => label.toLowerCase().includes(sought.toLowerCase()));
  return (
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
      {askForName !== undefined && sought === '' && (
        <Menu.Item onClick={askForName}>{words.rename.item}</Menu.Item>
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
  );
}

function Renaming({ name, close }: { readonly name: string; readonly close: () => void }) {
  const [typed, setTyped] = useState(name);
  const newName = nameFrom(typed);
  return (
    <Modal
      opened
      onClose={close}
      title={words.rename.title(name)}
      closeButtonProps={{ 'aria-label': words.add.cancel }}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void rename(name, newName);
          close();
        }}
      >
        <TextInput
          data-autofocus
          label={words.addEntry.name}
          value={typed}
          onChange={({ currentTarget }) => setTyped(currentTarget.value)}
        />
        <Button mt="sm" type="submit" disabled={newName === name}>
          {words.rename.done}
        </Button>
      </form>
    </Modal>
  );
}
