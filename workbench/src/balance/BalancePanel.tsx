import './balance.css';
import { Button, Slider } from '@mantine/core';
import { useState } from 'react';
import type { Dial } from '../../../src/design/model.js';
import { percent } from '../../../src/formats/written.js';
import { AddEntry } from '../sentences/AddEntry.js';
import {
  dialsOnTargets,
  keepDials,
  pin,
  stopSimulating,
  tuneDials,
  turn,
  turnBack,
  useParts,
  useWorkbench,
  watchSample,
} from '../store.js';
import { marks, words } from '../words.js';
import type { BalanceView, TargetView } from '../workers/balance.worker.js';
import { FitLog } from './FitLog.js';

/** Simulated sessions of the present text: targets, players and figures, and dials that move them all. */
export default function BalancePanel() {
  const { balance, balanceFault, text, reading } = useParts('balance', 'balanceFault', 'text', 'reading');
  if (balanceFault !== '')
    return (
      <section className="balance" aria-label={words.views.balance}>
        <p className="finding error">{balanceFault}</p>
      </section>
    );
  if (balance === undefined)
    return (
      <p className="dim">
        {(reading?.value.problems.length ?? 0) > 0 ? words.play.empty : words.balance.waiting}
      </p>
    );
  const { value } = balance;
  const isOld = balance.text !== text;
  return (
    <section className={`balance ${isOld ? 'old' : ''}`} aria-label={words.views.balance} aria-busy={isOld}>
      <p className="progress" role="status">
        {words.balance.sessions(value.sessions)} <Pin value={value} />{' '}
        {/* Its room stays when all are played, so that nothing moves from under a click. */}
        <span className={value.isDone ? 'played' : undefined}>
          {words.balance.more}{' '}
          <Button size="compact-xs" variant="default" onClick={stopSimulating}>
            {words.balance.stop}
          </Button>
        </span>
      </p>
      <Dials />
      <Targets targets={value.targets} />
      <Players value={value} />
      <DialsOnTargets />
      <FitLog />
      {value.figures.map(({ name, title, caption, svg }) => (
        <figure key={name} aria-label={title}>
          <h3>{title}</h3>
          {/* biome-ignore lint/security/noDangerouslySetInnerHtml: drawn by the library, every text in it escaped */}
          <div className="drawing" dangerouslySetInnerHTML={{ __html: svg }} />
          <figcaption>{caption}</figcaption>
        </figure>
      ))}
    </section>
  );
}

function Pin({ value }: { readonly value: BalanceView }) {
  const pinned = useWorkbench((state) => state.pinned);
  return (
    <Button size="compact-xs" variant="subtle" onClick={() => pin(pinned === undefined ? value : undefined)}>
      {pinned === undefined ? words.balance.pin : words.balance.unpin}
    </Button>
  );
}

function Dials() {
  const { dials, turned } = useParts('dials', 'turned');
  const all = dials?.value ?? [];
  const isTurned = Object.keys(turned).length > 0;
  return (
    <section aria-label={words.balance.dials}>
      <h3>
        {words.balance.dials} <AddEntry section="dials" />
      </h3>
      <p className="dim">{all.length === 0 ? words.balance.noDials : words.balance.dialsHint}</p>
      {all.map((dial) => (
        <DialSlider key={dial.name} dial={dial} value={turned[dial.name] ?? dial.value} />
      ))}
      {isTurned && (
        <div className="deeds">
          <Button size="xs" onClick={() => keepDials(turned)}>
            {words.balance.keep}
          </Button>
          <Button size="xs" variant="default" onClick={turnBack}>
            {words.balance.back}
          </Button>
        </div>
      )}
    </section>
  );
}

function DialSlider({ dial, value }: { readonly dial: Dial; readonly value: number }) {
  const { name, from, to } = dial;
  const isWhole = [dial.value, from, to].every(Number.isInteger);
  const step = dial.step ?? (isWhole ? 1 : (to - from) / 100);
  return (
    <div className="dial">
      <span id={`dial-${name}`}>{name}</span>
      <Slider
        min={from}
        max={to}
        step={step}
        value={value}
        thumbLabel={name}
        label={null}
        marks={[{ value: dial.value }]}
        onChange={(turnedTo) => turn(name, Number(turnedTo.toPrecision(6)))}
      />
      <b>{value}</b>
    </div>
  );
}

const keyOf = ({ line, of }: TargetView): string => `${line} ${of}`;

function Targets({ targets }: { readonly targets: readonly TargetView[] }) {
  const pinned = useWorkbench((state) => state.pinned);
  return (
    <section aria-label={words.balance.targets}>
      <h3>
        {words.balance.targets} <AddEntry section="targets" />
      </h3>
      {targets.length === 0 ? (
        <p className="dim">{words.balance.noTargets}</p>
      ) : (
        <table>
          <thead>
            <tr>
              <th scope="col">{words.balance.what}</th>
              <th scope="col">{words.balance.value}</th>
              {pinned !== undefined && <th scope="col">{words.balance.pinned}</th>}
              <th scope="col">{words.balance.within}</th>
              <th scope="col">{words.balance.wanted}</th>
              <th scope="col">{words.balance.verdict}</th>
            </tr>
          </thead>
          <tbody>
            {targets.map((target) => (
              <tr key={keyOf(target)} className={`target-${target.verdict}`}>
                <th scope="row">
                  {target.what}, {target.of}
                </th>
                <td>{target.value}</td>
                {pinned !== undefined && (
                  <td className="dim">
                    {pinned.targets.find((each) => keyOf(each) === keyOf(target))?.value ?? '–'}
                  </td>
                )}
                <td>{target.interval}</td>
                <td>{target.wanted}</td>
                <td>
                  {marks[target.verdict]} {words.verdicts[target.verdict]}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Players({ value }: { readonly value: BalanceView }) {
  const pinned = useWorkbench((state) => state.pinned);
  const number = (found: number | undefined): string =>
    found === undefined ? '–' : found.toLocaleString('en', { maximumFractionDigits: 1 });
  return (
    <section aria-label={words.balance.players}>
      <h3>{words.balance.players}</h3>
      <table>
        <thead>
          <tr>
            <th scope="col">{words.balance.player}</th>
            <th scope="col">{words.balance.median}</th>
            {pinned !== undefined && <th scope="col">{words.balance.pinned}</th>}
            <th scope="col">{words.balance.spread}</th>
            <th scope="col">{words.balance.length}</th>
            <th scope="col">{words.balance.endings}</th>
            <th scope="col">{words.balance.watchHint}</th>
          </tr>
        </thead>
        <tbody>
          {Object.entries(value.summary.players).map(([name, { score, runSeconds, endings }]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{number(score?.p50)}</td>
              {pinned !== undefined && (
                <td className="dim">{number(pinned.summary.players[name]?.score?.p50)}</td>
              )}
              <td>{score === null ? '–' : `${number(score.p10)} to ${number(score.p90)}`}</td>
              <td>{runSeconds === null ? '–' : `${number(runSeconds.p50)} s`}</td>
              <td className="wraps">
                {Object.entries(endings)
                  .map(([screen, share]) => `${screen} ${percent(share.value)}`)
                  .join(', ')}
              </td>
              <td className="wraps">
                {(['unlucky', 'typical', 'lucky'] as const).map((kind) => (
                  <Button
                    key={kind}
                    size="compact-xs"
                    variant="subtle"
                    aria-label={words.balance.filmName(words.balance.watch[kind], name)}
                    onClick={() =>
                      watchSample(name, kind, words.balance.filmName(words.balance.watch[kind], name))
                    }
                  >
                    {words.balance.watch[kind]}
                  </Button>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

type Matrix = NonNullable<Awaited<ReturnType<typeof dialsOnTargets>>>;
type Found = NonNullable<Awaited<ReturnType<typeof tuneDials>>>;

/** What each dial does to each target, and a search for settings that meet them all: both take a while, so they are asked for. */
function DialsOnTargets() {
  const { text, balance, dials } = useParts('text', 'balance', 'dials');
  const [matrix, setMatrix] = useState<{ text: string; value: Matrix }>();
  const [found, setFound] = useState<{ text: string; value: Found }>();
  const [isBusy, setBusy] = useState(false);
  if ((dials?.value.length ?? 0) === 0 || (balance?.value.targets.length ?? 0) === 0) return null;
  const ask = async <Answer,>(
    task: () => Promise<Answer | undefined>,
    show: (answer: { text: string; value: Answer }) => void,
  ): Promise<void> => {
    setBusy(true);
    const value = await task();
    setBusy(false);
    if (value !== undefined) show({ text, value });
  };
  return (
    <section aria-label={words.balance.matrix}>
      <div className="deeds">
        <Button size="xs" variant="default" disabled={isBusy} onClick={() => ask(dialsOnTargets, setMatrix)}>
          {words.balance.matrix}
        </Button>
        <Button size="xs" variant="default" disabled={isBusy} onClick={() => ask(tuneDials, setFound)}>
          {isBusy ? words.balance.tuning : words.balance.tune}
        </Button>
      </div>
      {matrix?.text === text && (
        <table>
          <caption>{words.balance.matrixHint}</caption>
          <thead>
            <tr>
              <td />
              {dials?.value.map(({ name }) => (
                <th key={name} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[...new Set(matrix.value.targets.map(({ what, of }) => `${what}, ${of}`))].map((target) => (
              <tr key={target}>
                <th scope="row">{target}</th>
                {dials?.value.map((dial) => {
                  const curve = matrix.value.targets.find(
                    (each) => `${each.what}, ${each.of}` === target && each.dial === dial.name,
                  );
                  return (
                    <td key={dial.name}>{curve === undefined ? '–' : <Curve {...{ curve, dial }} />}</td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {found?.text === text && (
        <div className="found">
          <p>{found.value.isMet ? words.balance.tuned : words.balance.nearest}</p>
          <Settings settings={found.value.settings} before={found.value.before} />
          {found.value.others.length > 0 && <p className="dim">{words.balance.others}</p>}
          {found.value.others.map((settings) => (
            <Settings key={JSON.stringify(settings)} settings={settings} before={found.value.before} />
          ))}
        </div>
      )}
    </section>
  );
}

function Settings({ settings, before }: Pick<Found, 'settings' | 'before'>) {
  return (
    <p>
      {Object.entries(settings)
        .map(([name, value]) => `${name} ${before[name]} → ${Number(value.toPrecision(6))}`)
        .join(', ')}{' '}
      <Button size="compact-xs" variant="default" onClick={() => keepDials(settings)}>
        {words.balance.use}
      </Button>
    </p>
  );
}

const targetMarks = { met: '✓', missed: '✗', 'not yet clear': '?' } as const;

function Curve({ curve, dial }: { readonly curve: Matrix['targets'][0]; readonly dial: Dial }) {
  const shown = [dial.from, dial.value, dial.to];
  const points = curve.points.filter(
    ({ setting }, index, all) => shown.includes(setting) || index === 0 || index === all.length - 1,
  );
  return (
    <>
      {points.map(({ setting, value, verdict }) => (
        <span key={setting} className={`point ${setting === dial.value ? 'here' : ''}`}>
          {targetMarks[verdict]} {value === null ? '–' : Number(value.toPrecision(3))}
        </span>
      ))}
    </>
  );
}
