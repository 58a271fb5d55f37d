import { Button, FileButton } from '@mantine/core';
import { useState } from 'react';
import { edit, fitTo } from '../store.js';
import { words } from '../words.js';
import type { FitView } from '../workers/balance.worker.js';

/** Takes a log of a real playtest and says how skilled its players were, how hard the pieces are, and what is still otherwise. */
export function FitLog() {
  const [fit, setFit] = useState<FitView>();
  const [told, setTold] = useState('');
  const read = async (file: File | undefined): Promise<void> => {
    if (file === undefined) return;
    const found = await fitTo(await file.text(), file.name);
    if (found === undefined) return;
    setTold('told' in found ? found.told : '');
    setFit('told' in found ? undefined : found);
  };
  const known = fit?.pieces.filter(({ estimate }) => estimate !== undefined) ?? [];
  return (
    <section aria-label={words.balance.fit}>
      <div className="deeds">
        <FileButton accept=".csv,.jsonl" onChange={(file) => read(file ?? undefined)}>
          {(props) => (
            <Button size="xs" variant="default" {...props}>
              {words.balance.fit}
            </Button>
          )}
        </FileButton>
        <span className="dim">{words.balance.fitHint}</span>
      </div>
      {told !== '' && (
        <p className="finding error" role="alert">
          {told}
        </p>
      )}
      {fit !== undefined && (
        <>
          {(['players', 'pieces'] as const).map((which) => (
            <table key={which}>
              <caption>{which === 'players' ? words.balance.skills : words.balance.difficulties}</caption>
              <thead>
                <tr>
                  <td />
                  <th scope="col">{words.balance.estimate}</th>
                  <th scope="col">{words.balance.within}</th>
                  <th scope="col">{words.balance.inDesign}</th>
                  <th scope="col">{words.balance.tries}</th>
                </tr>
              </thead>
              <tbody>
                {fit[which].map(({ name, estimate, interval, design, attempts }) => (
                  <tr key={name}>
                    <th scope="row">{name}</th>
                    <td>{estimate?.toFixed(2) ?? words.balance.allAlike}</td>
                    <td>{interval}</td>
                    <td>{design?.toFixed(2) ?? '–'}</td>
                    <td>{attempts}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ))}
          {known.length > 0 && (
            <Button
              size="xs"
              onClick={() =>
                edit(
                  ...known.map(({ name, estimate }) => ({
                    kind: 'set' as const,
                    path: ['pieces', name, 'difficulty'],
                    value: Number(estimate!.toFixed(2)),
                  })),
                )
              }
            >
              {words.balance.useDifficulties}
            </Button>
          )}
          {!fit.tellsTries && <p>{words.balance.noTries}</p>}
          <p>{words.balance.likeness}</p>
          <ul className="likeness">
            {fit.likeness.map(({ player, what, played, simulated, verdict }) => (
              <li key={`${player} ${what}`} className={verdict === 'differs' ? 'differs' : undefined}>
                {signs[verdict]} {words.balance.differs(what, player, played, simulated)}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

const signs = { alike: '✓', differs: '!', 'not yet clear': '?' } as const;
