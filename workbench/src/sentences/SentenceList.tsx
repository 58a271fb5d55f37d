import './sentences.css';
import { Button } from '@mantine/core';
import { memo, useState } from 'react';
import type { Section } from '../../../src/sentences/new-entry.js';
import { type GroupName, groupNames, type Sentence } from '../../../src/sentences/sentence.js';
import { edit, goTo, useParts } from '../store.js';
import { words } from '../words.js';
import { AddEntry } from './AddEntry.js';
import { AddThing } from './AddThing.js';
import { ClauseMenu } from './ClauseMenu.js';
import { FindingNote, Verdicts } from './Verdicts.js';
import { WordControl } from './WordControl.js';

const sectionsOf: { readonly [Name in GroupName]: readonly Section[] } = {
  things: [],
  rules: ['rules'],
  counters: ['counters', 'dials'],
  hud: ['hud'],
  levels: ['levels'],
  time: ['timers'],
  screens: ['screens'],
  transitions: ['transitions'],
  players: ['players'],
  targets: ['targets'],
  tests: ['tests'],
};

const plain = ({ words: all }: Sentence): string =>
  all.map((word) => (typeof word === 'string' ? word : String(word.value))).join('');

/** The name of what a sentence is about, where it is one that can be changed everywhere. */
const nameOf = ({ path: [section, name] }: Sentence): string | undefined =>
  typeof name === 'string' && section !== 'lists' ? name : undefined;

/** The design as sentences, each word that can be changed a control; what is known of a sentence stands with it. */
export function SentenceList() {
  const { reading, judgement, text, seek } = useParts('reading', 'judgement', 'text', 'seek');
  const [isAdding, setAdding] = useState(false);
  const groups = reading?.value.groups;
  if (groups === undefined) return <p>{words.status.reading}</p>;
  const findings = judgement?.text === text ? judgement.value.findings : [];
  const isSaid = (line: number): boolean =>
    groupNames.some((group) => groups[group].some((sentence) => sentence.line === line));
  const elsewhere = findings.filter(({ line }) => !isSaid(line));
  return (
    <>
      <nav className="groups" aria-label={words.sentences}>
        <Button className="add" size="xs" onClick={() => setAdding(true)}>
          {words.addThing}
        </Button>
        {groupNames.map((group) => (
          <a key={group} href={`#group-${group}`}>
            {words.groups[group].title}
            {groups[group].length > 0 && <small> {groups[group].length}</small>}
          </a>
        ))}
      </nav>
      <AddThing opened={isAdding} close={() => setAdding(false)} />
      {elsewhere.length > 0 && (
        <section className="group rest" aria-label={words.elsewhere}>
          <ul>
            {elsewhere.map((found) => (
              <li key={`${found.line} ${found.message}`}>
                <FindingNote found={found} />
                <span className="beside">
                  <LineButton line={found.line} />
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
          <span className="adders">
            {sectionsOf[group].map((section) => (
              <AddEntry key={section} section={section} />
            ))}
          </span>
          <ul>
            {groups[group].map((sentence) => (
              <SentenceItem
                key={sentence.path.join('.')}
                sentence={sentence}
                isSought={seek?.line === sentence.line}
              />
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

function LineButton({ line }: { readonly line: number }) {
  return (
    <button
      type="button"
      className="line"
      title={words.line(line)}
      aria-label={words.line(line)}
      onClick={() => goTo(line)}
    >
      {line}
    </button>
  );
}

const SentenceItem = memo(
  function SentenceItem({ sentence, isSought }: { readonly sentence: Sentence; readonly isSought: boolean }) {
    return (
      <li
        data-path={sentence.path.join('.')}
        className={isSought ? 'sought' : undefined}
        ref={isSought ? (item) => item?.scrollIntoView({ block: 'center' }) : undefined}
      >
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
          <ClauseMenu about={plain(sentence)} clauses={sentence.clauses} name={nameOf(sentence)} />
          <LineButton line={sentence.line} />
          <button
            type="button"
            className="mark"
            aria-label={words.remove(plain(sentence))}
            onClick={() => edit({ kind: 'remove', path: sentence.path })}
          >
            ×
          </button>
        </span>
        <Verdicts line={sentence.line} />
      </li>
    );
  },
  // A text that changed elsewhere leaves a sentence as it is.
  (a, b) => a.isSought === b.isSought && JSON.stringify(a.sentence) === JSON.stringify(b.sentence),
);
