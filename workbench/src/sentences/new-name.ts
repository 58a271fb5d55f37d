import { useState } from 'react';
import { hasNameForm } from '../../../src/design/language/names.js';
import { useWorkbench } from '../store.js';
import { words } from '../words.js';

/** A name being typed for something new: whether it can be given, and what to say to one that cannot. */
export function useNewName() {
  const names = useWorkbench(({ reading }) => reading?.value.names);
  const [name, setName] = useState('');
  const isTaken = names?.includes(name) === true;
  const isFree = hasNameForm(name) && !isTaken;
  const told = isTaken ? words.add.taken(name) : words.add.bad;
  return {
    name,
    isFree,
    error: name === '' || isFree ? undefined : told,
    setName: (typed: string) => setName(typed.trim()),
  };
}
