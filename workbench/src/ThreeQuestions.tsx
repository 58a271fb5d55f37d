import { Button, Modal, SegmentedControl, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import { nameFrom } from '../../src/design/language/names.js';
import { type Answers, designFrom, endsWhen } from '../../src/sentences/three-questions.js';
import { words } from './words.js';

/** Three questions that make a game which can be played. */
export function ThreeQuestions({
  close,
  make,
}: {
  readonly close: () => void;
  readonly make: (name: string, text: string) => void;
}) {
  const [take, setTake] = useState('');
  const [hurts, setHurts] = useState('');
  const [ends, setEnds] = useState<Answers['ends']>('time');
  const [told, setTold] = useState('');
  const answer = (event: FormEvent): void => {
    event.preventDefault();
    try {
      const answers = { take: nameFrom(take), hurts: nameFrom(hurts), ends };
      make(`${answers.take}.yaml`, designFrom(answers));
    } catch (error) {
      setTold((error as Error).message);
    }
  };
  return (
    <Modal
      opened
      onClose={close}
      title={words.questions.title}
      size="lg"
      closeButtonProps={{ 'aria-label': words.add.cancel }}
    >
      <form className="add-form" onSubmit={answer}>
        <TextInput
          data-autofocus
          label={words.questions.take}
          placeholder={words.questions.takeHint}
          value={take}
          onChange={({ currentTarget }) => setTake(currentTarget.value)}
        />
        <TextInput
          label={words.questions.hurts}
          placeholder={words.questions.hurtsHint}
          value={hurts}
          onChange={({ currentTarget }) => setHurts(currentTarget.value)}
        />
        <div>
          <p id="ends-label">{words.questions.ends}</p>
          <SegmentedControl
            fullWidth
            aria-labelledby="ends-label"
            value={ends}
            onChange={(value) => setEnds(value as Answers['ends'])}
            data={endsWhen.map((value) => ({ value, label: words.questions.endsWhen[value] }))}
          />
        </div>
        {told !== '' && (
          <p className="finding error" role="alert">
            {told}
          </p>
        )}
        <div className="buttons">
          <Button variant="default" onClick={close}>
            {words.add.cancel}
          </Button>
          <Button type="submit" disabled={take.trim() === ''}>
            {words.questions.done}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
