import { Button, Menu, Modal, TextInput, useMantineColorScheme } from '@mantine/core';
import { useEffect, useState } from 'react';
import { textOf } from '../../src/sentences/sentence.js';
import type { Version } from './kept.js';
import { linkTo } from './link.js';
import { exportAs, goTo, type as put, seek, show, useWorkbench, versions, views } from './store.js';
import { words } from './words.js';

const exportNames = Object.keys(words.exports) as (keyof typeof words.exports)[];

/** Offers a text as a file. */
function download(name: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type: 'text/plain;charset=utf-8' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}

/** Saving, sharing, exporting, earlier versions, and a way to everything. */
export function Tools({ name, isInBrowser }: { readonly name: string; readonly isInBrowser: boolean }) {
  const { toggleColorScheme } = useMantineColorScheme();
  const [isFinding, setFinding] = useState(false);
  const [kept, setKept] = useState<readonly Version[]>();
  const [told, setTold] = useState('');
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key !== 'k') return;
      event.preventDefault();
      setFinding(true);
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, []);
  const tell = async (task: () => Promise<string>): Promise<void> => {
    try {
      setTold(await task());
    } catch (error) {
      setTold((error as Error).message);
    }
  };
  const { text } = useWorkbench.getState();
  return (
    <>
      <Menu shadow="md" width={300} position="bottom-end">
        <Menu.Target>
          <Button size="xs" variant="default">
            {words.menu.title}
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => setFinding(true)}>{words.menu.find}</Menu.Item>
          {isInBrowser && (
            <>
              <Menu.Item
                onClick={() => {
                  history.replaceState(null, '', location.pathname);
                  location.reload();
                }}
              >
                {words.menu.home}
              </Menu.Item>
              <Menu.Item onClick={() => download(name, useWorkbench.getState().text)}>
                {words.menu.save}
              </Menu.Item>
              <Menu.Item
                onClick={() =>
                  tell(async () => {
                    await navigator.clipboard.writeText(await linkTo(useWorkbench.getState().text));
                    return words.menu.linkCopied;
                  })
                }
              >
                {words.menu.link}
              </Menu.Item>
            </>
          )}
          <Menu.Item onClick={toggleColorScheme}>{words.menu.scheme}</Menu.Item>
          <Menu.Item onClick={() => versions().then(setKept)}>{words.menu.versions}</Menu.Item>
          <Menu.Label>{words.menu.exports}</Menu.Label>
          {exportNames.map((each) => (
            <Menu.Item
              key={each}
              onClick={() =>
                tell(async () => {
                  const made = await exportAs(each);
                  download(made.file, made.text);
                  return '';
                })
              }
            >
              {words.exports[each]}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      <span className="saving" role="status">
        {told}
      </span>
      <Modal
        opened={kept !== undefined}
        onClose={() => setKept(undefined)}
        title={words.menu.versions}
        closeButtonProps={{ 'aria-label': words.add.cancel }}
      >
        <p className="dim">{kept?.length === 0 ? words.menu.noVersions : words.menu.versionsHint}</p>
        <ul className="kept">
          {kept?.map((version) => (
            <li key={version.at}>
              <Button
                variant="subtle"
                size="xs"
                disabled={version.text === text}
                onClick={() => {
                  put(version.text);
                  setKept(undefined);
                }}
              >
                {new Date(version.at).toLocaleString()}
              </Button>
              <span className="dim">{words.menu.lines(version.text.split('\n').length)}</span>
            </li>
          ))}
        </ul>
      </Modal>
      <Modal
        opened={isFinding}
        onClose={() => setFinding(false)}
        title={words.menu.find}
        size="lg"
        closeButtonProps={{ 'aria-label': words.add.cancel }}
      >
        {isFinding && <Finder close={() => setFinding(false)} />}
      </Modal>
    </>
  );
}

interface Place {
  readonly label: string;
  readonly go: () => void;
}

const mostFound = 12;

/** Everything there is, by what it says: views, sentences, problems and findings. */
function Finder({ close }: { readonly close: () => void }) {
  const [sought, setSought] = useState('');
  const [at, setAt] = useState(0);
  const { reading, judgement } = useWorkbench.getState();
  const places: Place[] = [
    ...views.map((view) => ({ label: words.views[view], go: () => show(view) })),
    ...Object.values(reading?.value.groups ?? {}).flatMap((group) =>
      group.map((sentence) => ({
        label: textOf(sentence),
        go: () => seek({ line: sentence.line, column: sentence.columns[0] }),
      })),
    ),
    ...(judgement?.value.findings ?? []).map(({ message, line }) => ({
      label: message,
      go: () => goTo(line),
    })),
  ];
  const parts = sought
    .toLowerCase()
    .split(/\s+/)
    .filter((part) => part !== '');
  const found = places
    .filter(({ label }) => parts.every((part) => label.toLowerCase().includes(part)))
    .slice(0, mostFound);
  const take = (place: Place | undefined): void => {
    if (place === undefined) return;
    close();
    place.go();
  };
  return (
    <>
      <TextInput
        data-autofocus
        aria-label={words.menu.find}
        value={sought}
        onChange={({ currentTarget }) => {
          setSought(currentTarget.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') take(found[at]);
          else if (event.key === 'ArrowDown') setAt(Math.min(at + 1, found.length - 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
          else return;
          event.preventDefault();
        }}
      />
      <ul className="found-places">
        {found.map((place, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two sentences may read alike
          <li key={`${index} ${place.label}`}>
            <button type="button" className={index === at ? 'here' : undefined} onClick={() => take(place)}>
              {place.label}
            </button>
          </li>
        ))}
        {found.length === 0 && <li className="dim">{words.say.none}</li>}
      </ul>
    </>
  );
}
