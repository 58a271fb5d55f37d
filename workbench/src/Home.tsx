import './home.css';
import { Alert, Button, FileButton } from '@mantine/core';
import { type DragEvent, useEffect, useState } from 'react';
import { sentencesOf } from '../../src/sentences/sentences-of.js';
import { type DesignFile, type Home as HomeOf, inBrowser, reopened } from './file.js';
import { forgetDesign, keptDesigns } from './kept.js';
import { Shape } from './play/Mark.js';
import { starters } from './starters.js';
import { ThreeQuestions } from './ThreeQuestions.js';
import { words } from './words.js';

/** Characters of a file that are taken. */
const longest = 4_000_000;

/** What the page shows first where it has no design yet: starters, a design from nothing, a file, or one that is kept here. */
export default function Home({ link, open }: HomeOf & { readonly open: (file: DesignFile) => void }) {
  const [kept, setKept] = useState<Awaited<ReturnType<typeof keptDesigns>>>([]);
  const [told, setTold] = useState(link === undefined ? '' : words.home.link[link]);
  const [isAsking, setAsking] = useState(false);
  const look = (): void => {
    void keptDesigns().then(setKept, (error: Error) => setTold(words.storageFull(error.message)));
  };
  useEffect(look, []);
  const take = async (name: string, text: string): Promise<void> => open(await inBrowser(name, text));
  const read = async (file: File | undefined): Promise<void> => {
    if (file === undefined) return;
    if (file.size > longest) setTold(words.home.tooLarge(file.name));
    else {
      try {
        await take(file.name, new TextDecoder('utf-8', { fatal: true }).decode(await file.arrayBuffer()));
      } catch {
        setTold(words.home.noText(file.name));
      }
    }
  };
  return (
    <main
      className="home"
      onDragOver={(event: DragEvent) => event.preventDefault()}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        void read(event.dataTransfer.files[0]);
      }}
    >
      <h1>{words.home.title}</h1>
      <p>{words.home.explain}</p>
      {isAsking && <ThreeQuestions close={() => setAsking(false)} make={take} />}
      {told !== '' && <Alert color="orange">{told}</Alert>}
      <div className="deeds">
        <Button onClick={() => setAsking(true)}>{words.home.questions}</Button>
        <Button variant="default" onClick={() => take('my-game.yaml', words.home.emptyDesign)}>
          {words.home.empty}
        </Button>
        <FileButton accept=".yaml,.yml,.json" onChange={(file) => read(file ?? undefined)}>
          {(props) => (
            <Button variant="default" {...props}>
              {words.home.file}
            </Button>
          )}
        </FileButton>
      </div>
      {kept.length > 0 && (
        <section aria-label={words.home.kept}>
          <h2>{words.home.kept}</h2>
          <ul className="kept">
            {kept.map(({ id, name, text, changed }) => (
              <li key={id}>
                <Button
                  variant="subtle"
                  onClick={async () => {
                    const design = await reopened(id);
                    if (design !== undefined) open(design);
                  }}
                >
                  {/^title: *["']?(.*?)["']? *$/m.exec(text)?.[1] ?? name}
                </Button>
                <span className="dim">
                  {name}, {new Date(changed).toLocaleString()}
                </span>
                <Button
                  variant="subtle"
                  color="gray"
                  size="compact-xs"
                  aria-label={words.home.forget(name)}
                  onClick={async () => {
                    await forgetDesign(id);
                    look();
                  }}
                >
                  ×
                </Button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label={words.home.starters}>
        <h2>{words.home.starters}</h2>
        <ul className="starters">
          {starters.map(({ file, title, about, text }, index) => (
            <li key={file}>
              <button type="button" onClick={() => take(file, text)}>
                <Picture text={text} sky={index} />
                <b>{title}</b>
                <span>{about}</span>
              </button>
            </li>
          ))}
        </ul>
      </section>
    </main>
  );
}

/** Evening skies, from the top down. */
const skies = [
  ['#433063', '#c9825f'],
  ['#1f4a5c', '#8fb8a3'],
  ['#23304f', '#8a93b8'],
  ['#274a3a', '#d6b46a'],
  ['#3a2340', '#d07f8f'],
  ['#34405f', '#d9c6a5'],
] as const;

/** What there is in a design, under a sky of its own. */
function Picture({ text, sky }: { readonly text: string; readonly sky: number }) {
  const things = sentencesOf(text).things.slice(0, 6);
  const [above, below] = skies[sky % skies.length]!;
  const written = (at: number, key: string): string | undefined => {
    const word = things[at]?.words.find((each) => typeof each !== 'string' && each.path[2] === key);
    return typeof word === 'object' ? String(word.value) : undefined;
  };
  const roleOf = (at: number): string | undefined =>
    written(at, 'is') ??
    written(
      things.findIndex(({ path }) => path[1] === written(at, 'like')),
      'is',
    );
  return (
    <svg className="picture" viewBox="0 0 160 70" aria-hidden="true">
      <defs>
        <linearGradient id={`sky-${sky}`} x2="0" y2="1">
          <stop stopColor={above} />
          <stop offset="1" stopColor={below} />
        </linearGradient>
      </defs>
      <rect width="160" height="70" fill={`url(#sky-${sky})`} />
      {things.map(({ path }, index) => {
        const name = String(path[1]);
        const meets = ['hazard', 'foe'].includes(roleOf(index) ?? '') ? 'arrives' : 'sought';
        const x = 22 + (116 * index) / Math.max(1, things.length - 1);
        return (
          <g key={name} transform={`translate(${x} ${index % 2 === 0 ? 26 : 44})`}>
            <Shape name={name} radius={13} meets={meets} />
          </g>
        );
      })}
    </svg>
  );
}
