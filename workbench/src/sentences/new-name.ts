import { useState } from 'react';
import { nameFault, nameFrom } from '../../../src/design/language/names.js';
import { useWorkbench } from '../store.js';
import { words } from '../words.js';

/** A name being typed for something new: what it is in the file, whether it can be given, and what to say to one that cannot. */
export function useNewName() {
  const names = useWorkbench(({ reading }) => reading?.value.names);
  const [typed, setTyped] = useState('');
  const name = nameFrom(typed);
  const fault = names?.includes(name) === true ? words.add.taken(name) : faultIn(name);
  return {
    typed,
    setTyped,
    name,
    isFree: fault === undefined,
    error: typed.trim() === '' ? undefined : fault,
    hint: fault === undefined && name !== typed.trim() ? words.add.called(name) : undefined,
  };
}

/** What is wrong with a name; undefined where it may be used. */
export function faultIn(name: string): string | undefined {
  const fault = nameFault(name);
  return fault && (fault === 'bad-name' ? words.add.bad : words.add.reserved(name));
}
