import { memo } from 'react';
import { type Sentence, textOf } from '../../../src/sentences/sentence.js';
import { edit, goTo } from '../store.js';
import { words } from '../words.js';
import { ClauseMenu } from './ClauseMenu.js';
import { Verdicts } from './Verdicts.js';
import { WordControl } from './WordControl.js';

/** The name of what a sentence is about, where it is one that can be changed everywhere. */
const nameOf = ({ path: [section, name] }: Sentence): string | undefined =>
  typeof name === 'string' && section !== 'lists' ? name : undefined;

/** A way to a line of the file. */
export function LineButton({ line }: { readonly line: number }) {
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

/** What stays on the line of the word before or after it. */
const marksBefore = /^[.,;:”]+/;
const quoteAfter = /“$/;

/** A sentence, each word that can be changed a control; what is known of it stands with it. */
export const SentenceItem = memo(
  function SentenceItem({
    sentence,
    isSought,
    hasVerdicts = true,
  }: {
    readonly sentence: Sentence;
    readonly isSought: boolean;
    /** False where they are told beside it. */
    readonly hasVerdicts?: boolean;
  }) {
    return (
      <li
        data-path={sentence.path.join('.')}
        className={isSought ? 'sought' : undefined}
        ref={isSought ? (item) => item?.scrollIntoView({ block: 'center' }) : undefined}
      >
        <p className="sentence">
          {sentence.words.map((word, index, all) => {
            if (typeof word === 'string')
              // biome-ignore lint/suspicious/noArrayIndexKey: the words of a sentence stand in one order
              return <span key={index}>{word.replace(marksBefore, '').replace(quoteAfter, '')}</span>;
            const [before, after] = [all[index - 1], all[index + 1]];
            return (
              <span key={word.path.join('.')} className="kept">
                {typeof before === 'string' && quoteAfter.exec(before)}
                <WordControl control={word} />
                {typeof after === 'string' && marksBefore.exec(after)}
              </span>
            );
          })}
        </p>
        <span className="beside">
          <ClauseMenu about={textOf(sentence)} clauses={sentence.clauses} name={nameOf(sentence)} />
          <LineButton line={sentence.line} />
          <button
            type="button"
            className="mark"
            aria-label={words.remove(textOf(sentence))}
            onClick={() => edit({ kind: 'remove', path: sentence.path })}
          >
            ×
          </button>
        </span>
        {hasVerdicts && <Verdicts sentence={sentence} />}
      </li>
    );
  },
  // A text that changed elsewhere leaves a sentence as it is.
  (a, b) => a.isSought === b.isSought && JSON.stringify(a.sentence) === JSON.stringify(b.sentence),
);
