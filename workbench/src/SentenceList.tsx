import { ActionIcon, Button } from '@mantine/core';
import { useState } from 'react';
import { groupNames, type Sentence } from '../../src/sentences/sentence.js';
import { AddThing } from './AddThing.js';
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
  return (
    <>
      <Button className="add" onClick={() => setAdding(true)}>
        {words.addThing}
      </Button>
      <AddThing opened={isAdding} close={() => setAdding(false)} />
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
                  .map(({ severity, message, remedy }) => (
                    <p key={message} className={`finding ${severity}`}>
                      {message} <span>{remedy}</span>
                    </p>
                  ))}
              </li>
            ))}
          </ul>
        </section>
      ))}
      {findings.filter(
        ({ line }) => !groupNames.some((group) => groups[group].some((sentence) => sentence.line === line)),
      ).length > 0 && (
        <section className="group rest">
          <ul>
            {findings
              .filter(
                ({ line }) =>
                  !groupNames.some((group) => groups[group].some((sentence) => sentence.line === line)),
              )
              .map(({ severity, message, remedy, line }) => (
                <li key={`${line} ${message}`}>
                  <p className={`finding ${severity}`}>
                    {message} <span>{remedy}</span>
                  </p>
                  <span className="beside">
                    <button
                      type="button"
                      className="line"
                      aria-label={words.line(line)}
                      onClick={() => goTo(line)}
                    >
                      {line}
                    </button>
                  </span>
                </li>
              ))}
          </ul>
        </section>
      )}
    </>
  );
}
