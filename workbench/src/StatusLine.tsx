import { Button } from '@mantine/core';
import { edit, goTo, seek, show, useParts } from './store.js';
import { words } from './words.js';

/** Where the design stands, always in sight: of the present text, or that it is being found out. */
export function StatusLine() {
  const { text, reading, judgement, balance, turned } = useParts(
    'text',
    'reading',
    'judgement',
    'balance',
    'turned',
  );
  const problems = reading?.text === text ? reading.value.problems : undefined;
  if (problems === undefined) return <p className="status waiting">{words.status.reading}</p>;
  if (problems.length > 0)
    return (
      <div className="status problems bad" role="status">
        <b>✗ {words.status.problems(problems.length)}</b>
        <ul>
          {problems.slice(0, 5).map(({ message, remedy, line, mend }) => (
            <li key={`${line} ${message}`}>
              <button type="button" onClick={() => goTo(line)}>
                {line}
              </button>{' '}
              {message} {remedy}
              {mend !== undefined && (
                <>
                  {' '}
                  <Button size="compact-xs" onClick={() => edit(mend)}>
                    {words.mend}
                  </Button>
                </>
              )}
            </li>
          ))}
        </ul>
      </div>
    );
  if (judgement?.text !== text) return <p className="status waiting">{words.status.checking}</p>;
  const { passed, isCut, leftOpen, ways, testResults: tests, findings } = judgement.value;
  const firstTest = tests.find((test) => !test.passed) ?? tests[0] ?? { line: 1, column: 1 };
  // With dials turned they are targets of another design.
  const isOfText = balance?.text === text && Object.keys(turned).length === 0;
  const targets = isOfText ? balance.value.targets : undefined;
  const verdict = isCut ? words.status.late : passed ? words.status.passed : words.status.fails;
  const reached = ways.filter((way) => way.verdict === 'reached').length;
  return (
    <div className={`status ${passed ? 'good' : 'bad'}`} role="status">
      <b>
        {passed ? '✓' : '✗'} {verdict}
      </b>
      {ways.length > 0 && (
        <button type="button" onClick={() => show('flow')}>
          {words.status.transitions(reached, ways.length)}
        </button>
      )}
      <button type="button" onClick={() => seek(firstTest)}>
        {words.status.tests(tests.filter((test) => test.passed).length, tests.length)}
      </button>
      {targets !== undefined && targets.length > 0 && (
        <button
          type="button"
          className={targets.some((each) => each.verdict === 'missed') ? 'missed' : undefined}
          onClick={() => show('balance')}
        >
          {words.status.targets(targets.filter((each) => each.verdict === 'met').length, targets.length)}
        </button>
      )}
      {leftOpen !== undefined && (
        <details>
          <summary>{words.status.leftOpen}</summary>
          <p>{words.status.whatIsOpen(leftOpen)}</p>
        </details>
      )}
      {findings[0] === undefined ? (
        <span>{words.status.findings(0)}</span>
      ) : (
        <button type="button" onClick={() => seek(findings[0]!)}>
          {words.status.findings(findings.length)}
        </button>
      )}
    </div>
  );
}
