import { ActionIcon, Button } from '@mantine/core';
import { useState } from 'react';
import { groupNames, type Sentence } from '../../src/sentences/sentence.js';
import { AddThing } from './AddThing.js';
import type { Judgement } from './analysis.worker.js';
import { edit, goTo, useWorkbench } from './store.js';
import { WordControl } from './WordControl.js';
import { words } from './words.js';

const plain = ({ words: all }: Sentence): string =>
  all.map((word) => (typeof word === 'string' ? word : String(word.value))).join('');

/** The design as sentences, each word that can be changed a control; what was found about a sentence stands below it. */
export function SentenceList() {
  const { reading, judgement, text } = useWorkbench();
  const [isAdding, setAdding] = useState(false);
  const groups = reading?.value.groups;
  if (groups === undefined) return <p>{words.status.reading}</p>;
  const findings = judgement?.text === text ? judgement.value.findings : [];
  const isSaid = (line: number): boolean =>
    groupNames.some((group) => groups[group].some((sentence) => sentence.line === line));
  const elsewhere = findings.filter(({ line }) => !isSaid(line));
  return (
    <>
      <Button className="add" onClick={() => setAdding(true)}>
        {words.addThing}
      </Button>
      <AddThing opened={isAdding} close={() => setAdding(false)} />
      {elsewhere.length > 0 && (
        <section className="group rest" aria-label={words.elsewhere}>
          <ul>
            {elsewhere.map((found) => (
              <li key={`${found.line} ${found.message}`}>
                <FindingNote found={found} />
                <span className="beside">
                  <button
                    type="button"
                    className="line"
                    aria-label={words.line(found.line)}
                    onClick={() => goTo(found.line)}
                  >
                    {found.line}
                  </button>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {groupNames.map((group) => (
        <section key={group} className={`group ${group}`} aria-labelledby={`group-${group}`}>
          <h2 id={`group-${group}`}>
            {words.groups[group].title} <small>{words.groups[group].hint}</small>
          </h2>
          <ul>
            {groups[group].map((sentence) => (
              <li key={sentence.path.join('.')} data-path={sentence.path.join('.')}>
                <p className="sentence">
                  {sentence.words.map((word, index) =>
                    typeof word === 'string' ? (
                      // biome-ignore lint/suspicious/noArrayIndexKey: the words of a sentence stand in one order
                      <span key={index}>{word}</span>
                    ) : (
                      <WordControl key={word.path.join('.')} control={word} />
                    ),
                  )}
                </p>
                <span className="beside">
                  <button
                    type="button"
                    className="line"
                    title={words.line(sentence.line)}
                    aria-label={words.line(sentence.line)}
                    onClick={() => goTo(sentence.line)}
                  >
                    {sentence.line}
                  </button>
                  <ActionIcon
                    variant="subtle"
                    size="sm"
                    color="gray"
                    aria-label={words.remove(plain(sentence))}
                    onClick={() => edit({ kind: 'remove', path: sentence.path })}
                  >
                    ×
                  </ActionIcon>
                </span>
                {findings
                  .filter(({ line }) => line === sentence.line)
                  .map((found) => (
                    <FindingNote key={found.message} found={found} />
                  ))}
              </li>
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

/** What was found, what to do about it, and a button that does it where that needs no thought. */
function FindingNote({ found }: { readonly found: Judgement['findings'][0] }) {
  const { severity, message, remedy, mend } = found;
  return (
    <p className={`finding ${severity}`}>
      {message} <span>{remedy}</span>{' '}
      {mend !== undefined && (
        <Button size="compact-xs" variant="default" onClick={() => edit(mend)}>
          {words.mend}
        </Button>
      )}
    </p>
  );
}
