import { goTo, useWorkbench } from './store.js';
import { words } from './words.js';

/** Where the design stands, always in sight: of the present text, or that it is being found out. */
export function StatusLine() {
  const { text, reading, judgement } = useWorkbench();
  const problems = reading?.text === text ? reading.value.problems : undefined;
  if (problems === undefined) return <p className="status waiting">{words.status.reading}</p>;
  if (problems.length > 0)
    return (
      <div className="status bad" role="status">
        <b>✗ {words.status.problems(problems.length)}</b>
        <ul>
          {problems.slice(0, 5).map(({ message, remedy, line }) => (
            <li key={`${line} ${message}`}>
              <button type="button" onClick={() => goTo(line)}>
                {line}
              </button>{' '}
              {message} {remedy}
            </li>
          ))}
        </ul>
      </div>
    );
  if (judgement?.text !== text) return <p className="status waiting">{words.status.checking}</p>;
  const { passed, complete, reached, transitions, passedTests, tests, findings } = judgement.value;
  const verdict =
    !complete && !passed ? words.status.late : passed ? words.status.passed : words.status.fails;
  return (
    <p className={`status ${passed ? 'good' : 'bad'}`} role="status">
      <b>
        {passed ? '✓' : '✗'} {verdict}
      </b>
      {transitions > 0 && <span>{words.status.transitions(reached, transitions)}</span>}
      <span>{words.status.tests(passedTests, tests)}</span>
      {findings[0] === undefined ? (
        <span>{words.status.findings(0)}</span>
      ) : (
        <button type="button" onClick={() => goTo(findings[0]!.line)}>
          {words.status.findings(findings.length)}
        </button>
      )}
    </p>
  );
}
