import '../balance/balance.css';
import { Button } from '@mantine/core';
import { useEffect, useState } from 'react';
import { percent } from '../../../src/formats/written.js';
import { type LevelTable, levelsAsText, pasteLevels } from '../../../src/sentences/level-table.js';
import { AddEntry } from '../sentences/AddEntry.js';
import { edit, seek, useParts, useWorkbench } from '../store.js';
import { words } from '../words.js';

/** A table of the levels: what each has, and how many runs reach it and fail there. */
export default function LevelsPanel() {
  const { reading, judgement, balance, text } = useParts('reading', 'judgement', 'balance', 'text');
  const [isCopied, setCopied] = useState(false);
  const table = reading?.value.levels;
  if (table === undefined) return <p className="dim">{words.status.reading}</p>;
  const players = balance?.text === text ? Object.entries(balance.value.summary.players) : ([] as const);
  const isFailing = players.some(([, { levels }]) => levels.some(({ fails }) => fails !== null));
  const formulas = judgement?.text === text ? judgement.value.formulas : {};
  const funnel = balance?.value.figures.find(({ name }) => name === 'funnel');
  const copy = async (): Promise<void> => {
    await navigator.clipboard.writeText(levelsAsText(table));
    setCopied(true);
  };
  return (
    <section className="levels" aria-label={words.views.levels}>
      <div className="tools">
        <AddEntry section="levels" />
        <Button size="compact-xs" variant="default" onClick={copy} disabled={table.rows.length === 0}>
          {isCopied ? words.levels.copied : words.levels.copy}
        </Button>
      </div>
      {table.rows.length === 0 ? (
        <p className="dim">{words.levels.none}</p>
      ) : (
        <>
          <p className="dim">{words.levels.paste}</p>
          <div className="scroll">
            <table>
              <thead>
                <tr>
                  <th scope="col">{words.levels.level}</th>
                  {table.columns.map(({ of, name }) => (
                    <th key={`${of} ${name}`} scope="col">
                      {name}
                    </th>
                  ))}
                  {players.map(([player]) => (
                    <th key={player} scope="col" className="measured">
                      {words.levels.reached(player, isFailing)}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {table.rows.map(({ name, line, column, cells }, row) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: levels stand in their order
                  <tr key={row}>
                    <th scope="row">
                      <Cell table={table} row={row} column={-1} value={name} />
                      <button
                        type="button"
                        className="line"
                        aria-label={words.line(line)}
                        onClick={() => seek({ line, column })}
                      >
                        {line}
                      </button>
                    </th>
                    {cells.map((value, column) => (
                      <td key={`${table.columns[column]!.of} ${table.columns[column]!.name}`}>
                        <Cell table={table} row={row} column={column} value={value} />
                        {typeof value === 'string' && formulas[table.columns[column]!.name] !== undefined && (
                          <small>{words.levels.comesTo(formulas[table.columns[column]!.name]![row]!)}</small>
                        )}
                      </td>
                    ))}
                    {players.map(([player, { levels }]) => (
                      <td key={player} className="measured">
                        {share(levels[row]?.reached.value)}
                        {isFailing && ` · ${share(levels[row]?.fails?.value)}`}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {funnel !== undefined && (
            <figure aria-label={funnel.title}>
              {/* biome-ignore lint/security/noDangerouslySetInnerHtml: drawn by the library, every text in it escaped */}
              <div className="drawing" dangerouslySetInnerHTML={{ __html: funnel.svg }} />
              <figcaption>{funnel.caption}</figcaption>
            </figure>
          )}
        </>
      )}
    </section>
  );
}

const share = (value: number | undefined): string => (value === undefined ? '–' : percent(value));

/** A cell that is typed in, and that a block of cells can be pasted into. */
function Cell({
  table,
  row,
  column,
  value,
}: {
  readonly table: LevelTable;
  readonly row: number;
  readonly column: number;
  readonly value: string | number | undefined;
}) {
  const written = String(value ?? '');
  const [typed, setTyped] = useState(written);
  useEffect(() => setTyped(written), [written]);
  const put = (cells: readonly (readonly string[])[]): void =>
    edit(...pasteLevels(useWorkbench.getState().text, { row, column }, cells));
  return (
    <input
      className="word cell"
      aria-label={words.levels.cell(row + 1, column < 0 ? words.levels.level : table.columns[column]!.name)}
      value={typed}
      size={Math.max(2, typed.length)}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={() => typed !== written && put([[typed]])}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && typed !== written) put([[typed]]);
        else if (event.key === 'Escape') setTyped(written);
      }}
      onPaste={(event) => {
        const block = event.clipboardData.getData('text/plain').replace(/\r?\n$/, '');
        if (!/[\t\n]/.test(block)) return;
        event.preventDefault();
        put(block.split(/\r?\n/).map((line) => line.split('\t')));
      }}
    />
  );
}
