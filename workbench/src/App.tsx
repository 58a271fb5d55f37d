import { Alert, Button, Modal, SegmentedControl, Tooltip } from '@mantine/core';
import { type ComponentType, lazy, Suspense, useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { PlayPanel } from './play/PlayPanel.js';
import { StatusLine } from './StatusLine.js';
import { SentenceList } from './sentences/SentenceList.js';
import { resolve, show, takeDraft, useParts, useWorkbench, type View, views, widen } from './store.js';
import { Tools } from './Tools.js';
import { words } from './words.js';

// The editor weighs more than all the rest; it is loaded when somebody wants to see the file.
const FileEditor = lazy(() => import('./editor/FileEditor.js'));

const FlowPanel = lazy(() => import('./flow/FlowPanel.js'));
const BalancePanel = lazy(() => import('./balance/BalancePanel.js'));
const LevelsPanel = lazy(() => import('./levels/LevelsPanel.js'));

const panels: { readonly [Name in View]: ComponentType } = {
  play: PlayPanel,
  flow: FlowPanel,
  levels: LevelsPanel,
  balance: BalancePanel,
};

type Shown = 'sentences' | 'file';

export function App({ name, isInBrowser }: { readonly name: string; readonly isInBrowser: boolean }) {
  const [shown, setShown] = useState<Shown>('sentences');
  const { saving, isLost, conflict, goTo, seek, reading, view, isWide, notice, savingFault, draft } =
    useParts(
      'saving',
      'isLost',
      'conflict',
      'goTo',
      'seek',
      'reading',
      'view',
      'isWide',
      'notice',
      'savingFault',
      'draft',
    );
  const { undo, redo, pastStates, futureStates } = useStore(useWorkbench.temporal);
  useEffect(() => {
    if (goTo !== undefined) setShown('file');
  }, [goTo]);
  useEffect(() => {
    if (seek !== undefined) setShown('sentences');
  }, [seek]);
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      // The editor has an undo of its own for what is typed there.
      if (
        !(event.ctrlKey || event.metaKey) ||
        (event.target as HTMLElement).closest('.cm-editor, input, textarea')
      )
        return;
      if (event.key === 'z' && !event.shiftKey) undo();
      else if (event.key === 'y' || (event.key.toLowerCase() === 'z' && event.shiftKey)) redo();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [undo, redo]);
  const Panel = panels[view];
  const title = reading?.value.design?.title;
  useEffect(() => {
    document.title = title === undefined || title === '' ? name : title;
  }, [title, name]);
  return (
    <>
      <header className="head">
        <h1>{title === undefined || title === '' || title === 'design' ? name : title}</h1>
        <Tooltip label={savingFault === '' ? name : savingFault}>
          <span className={`saving ${saving}`} role="status">
            {words.saved[saving]}
          </span>
        </Tooltip>
        <span className="grow" />
        <Button variant="default" size="xs" disabled={pastStates.length === 0} onClick={() => undo()}>
          {words.undo}
        </Button>
        <Button variant="default" size="xs" disabled={futureStates.length === 0} onClick={() => redo()}>
          {words.redo}
        </Button>
        <Tools name={name} isInBrowser={isInBrowser} />
        <SegmentedControl
          size="xs"
          value={shown}
          onChange={(value) => setShown(value as Shown)}
          data={[
            { value: 'sentences', label: words.sentences },
            { value: 'file', label: words.file },
          ]}
        />
      </header>
      <StatusLine />
      {draft !== undefined && (
        <Alert color="orange" className="lost">
          {words.draft.found}{' '}
          <Button size="compact-xs" onClick={() => takeDraft(true)}>
            {words.draft.take}
          </Button>{' '}
          <Button size="compact-xs" variant="default" onClick={() => takeDraft(false)}>
            {words.draft.drop}
          </Button>
        </Alert>
      )}
      {isLost && (
        <Alert color="orange" className="lost">
          {words.lost}
        </Alert>
      )}
      {notice !== '' && (
        <Alert color="orange" className="lost">
          {notice}
        </Alert>
      )}
      <main className={`bench ${isWide ? 'wide' : ''}`}>
        {!isWide && (
          <section className="design" aria-label={shown === 'file' ? words.file : words.sentences}>
            {shown === 'sentences' ? (
              <SentenceList />
            ) : (
              <Suspense fallback={<p>{words.status.reading}</p>}>
                <FileEditor />
              </Suspense>
            )}
          </section>
        )}
        <div className="views">
          <div className="view-tabs">
            <SegmentedControl
              fullWidth
              size="xs"
              aria-label={words.beside}
              value={view}
              onChange={(value) => show(value as View)}
              data={views.map((value) => ({ value, label: words.views[value] }))}
            />
            <Button size="xs" variant="default" aria-pressed={isWide} onClick={() => widen(!isWide)}>
              {isWide ? words.narrow : words.wide}
            </Button>
          </div>
          <Suspense fallback={<p className="dim">{words.status.reading}</p>}>
            <Panel />
          </Suspense>
        </div>
      </main>
      <Modal
        opened={conflict !== undefined}
        onClose={() => {}}
        withCloseButton={false}
        size="80%"
        title={words.conflict.title}
      >
        <p>{words.conflict.explain}</p>
        <div className="both">
          {(['mine', 'theirs'] as const).map((side) => (
            <section key={side} aria-label={words.conflict[side]}>
              <h3>{words.conflict[side]}</h3>
              <pre>{side === 'mine' ? useWorkbench.getState().text : conflict?.text}</pre>
              <Button
                fullWidth
                variant={side === 'mine' ? 'filled' : 'default'}
                onClick={() => resolve(side)}
              >
                {side === 'mine' ? words.conflict.keepMine : words.conflict.keepTheirs}
              </Button>
            </section>
          ))}
        </div>
      </Modal>
    </>
  );
}
