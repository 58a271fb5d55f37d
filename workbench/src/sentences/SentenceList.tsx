import './sentences.css';
import { Button } from '@mantine/core';
import { useState } from 'react';
import type { Section } from '../../../src/sentences/new-entry.js';
import { type GroupName, groupNames, isAbout } from '../../../src/sentences/sentence.js';
import { useParts } from '../store.js';
import { words } from '../words.js';
import { AddEntry } from './AddEntry.js';
import { AddThing } from './AddThing.js';
import { knownElsewhere } from './known.js';
import { LineButton, SentenceItem } from './SentenceItem.js';
import { FindingNote } from './Verdicts.js';

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

/** The design as sentences, each word that can be changed a control; what is known of a sentence stands with it. */
export function SentenceList() {
  const { reading, judgement, text, seek } = useParts('reading', 'judgement', 'text', 'seek');
  const [isAdding, setAdding] = useState(false);
  const groups = reading?.value.groups;
  if (groups === undefined) return <p>{words.status.reading}</p>;
  const elsewhere = judgement === undefined ? [] : knownElsewhere(judgement.groups, judgement.value.findings);
  // Of an older text it keeps its room, as at a sentence.
  const isOld = judgement?.text !== text;
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
        <section
          className={isOld ? 'group rest unknown' : 'group rest'}
          aria-label={words.elsewhere}
          aria-hidden={isOld}
        >
          <ul>
            {elsewhere.map((found) => (
              <li
                key={`${found.line} ${found.message}`}
                ref={
                  seek?.line === found.line && seek.column === found.column
                    ? (item) => item?.scrollIntoView({ block: 'center' })
                    : undefined
                }
              >
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
                isSought={seek !== undefined && isAbout(sentence, seek)}
              />
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}
