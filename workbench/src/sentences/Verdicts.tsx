import { Button } from '@mantine/core';
import type { Sentence, Spot } from '../../../src/sentences/sentence.js';
import { edit, useParts, watch } from '../store.js';
import { marks, words } from '../words.js';
import type { Judgement } from '../workers/analysis.worker.js';
import { knownOf } from './known.js';

/** What is known of a sentence: verdicts on its transitions, its test, its target, and what was found about it. */
export function Verdicts({ sentence }: { readonly sentence: Sentence }) {
  const { text, judgement, balance } = useParts('text', 'judgement', 'balance');
  // What was known of an older text is not shown, but keeps its room until more is known: sentences stay where they are.
  const judged = <Told extends Spot>(of: (known: Judgement) => readonly Told[]): readonly Told[] =>
    judgement === undefined ? [] : knownOf(sentence, judgement.groups, of(judgement.value));
  const targets = balance === undefined ? [] : knownOf(sentence, balance.groups, balance.value.targets);
  const isOld = judgement?.text !== text;
  const targetClass = balance?.text === text ? 'verdict' : 'verdict unknown';
  return (
    <div className={isOld ? 'verdicts unknown' : 'verdicts'} aria-hidden={isOld}>
      {judged(({ verdicts }) => verdicts).map(({ name, verdict, reason, record }, _, all) => (
        <p key={name} className={`verdict ${verdict}`}>
          <b>
            {marks[verdict]} {words.verdicts[verdict]}
          </b>{' '}
          <span>{reason ?? (all.length > 1 ? name : '')}</span>
          {record !== undefined && (
            <button
              type="button"
              className="line"
              aria-label={words.verdicts.film(name)}
              title={words.verdicts.film(name)}
              onClick={() => watch(record, name)}
            >
              ▶
            </button>
          )}
        </p>
      ))}
      {judged(({ testResults }) => testResults).map(({ passed, told }) => (
        <p key="test" className={`verdict ${passed ? 'reached' : 'unreachable'}`}>
          <b>{passed ? `✓ ${words.verdicts.passed}` : `✗ ${words.verdicts.failed}`}</b> <span>{told}</span>
        </p>
      ))}
      {targets.map(({ verdict, of, value, interval, wanted }) => (
        <p key={of} className={`${targetClass} target-${verdict}`}>
          <b>
            {marks[verdict]} {words.verdicts[verdict]}
          </b>{' '}
          <span>{words.verdicts.target(of, value, interval, wanted)}</span>
        </p>
      ))}
      {judged(({ findings }) => findings).map((found) => (
        <FindingNote key={found.message} found={found} />
      ))}
    </div>
  );
}

/** What was found, what to do about it, and a button that does it where that needs no thought. */
export function FindingNote({ found }: { readonly found: Judgement['findings'][0] }) {
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
