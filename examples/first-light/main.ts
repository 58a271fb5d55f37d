import text from '../../demo/dusk-on-the-heath.yaml?raw';
import {
  DesignError,
  type HudView,
  readDesign,
  recordOf,
  Session,
  type Step,
  writeRecord,
} from '../../src/index.js';

const design = readDesign(text, 'dusk-on-the-heath.yaml');
const seed = Number(new URLSearchParams(location.search).get('seed') ?? 1);
const session = new Session(design, { seed: Number.isSafeInteger(seed) && seed >= 0 ? seed : 1 });

const element = <Kind extends HTMLElement>(id: string): Kind => document.getElementById(id) as Kind;
const made = <Tag extends keyof HTMLElementTagNameMap>(
  tag: Tag,
  content = '',
  name = '',
): HTMLElementTagNameMap[Tag] => {
  const node = document.createElement(tag);
  node.textContent = content;
  node.className = name;
  return node;
};

/** Every event keeps its key for the whole session, so that fingers can learn it. */
const keys = '1234567890qwertyuiopasdfghjkl';
const keyOf = new Map(session.outsideEvents.map((event, index) => [event, keys[index] ?? '']));

document.title = design.title;
element('title').textContent = design.title;

let buttonsFor = '';
let isStopped = false;
const mostLogged = 200;

function send(event: string): void {
  attempt(() => session.send(event));
  show();
}

/** A design whose rules never end stops the page's clock and says why, once. */
function attempt(happen: () => void): boolean {
  try {
    happen();
    return true;
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    element('text').textContent = error.message;
    isStopped = true;
    return false;
  }
}

function show(): void {
  if (isStopped) return;
  element('text').textContent = session.text;
  element('time').textContent = `${(session.time / 1000).toFixed(1)} s`;
  document.body.dataset.screen = session.screen;
  showHud(session.hud);
  showPresent();
  showEvents(session.possible);
}

function showHud(items: readonly HudView[]): void {
  for (const old of document.querySelectorAll('.item')) old.remove();
  for (const item of items) {
    const node = made('p', '', 'item');
    node.style.gridArea = item.at;
    node.style.margin = '0';
    node.dataset.at = item.at;
    node.dataset.show = item.show ?? '';
    node.append(made('span', item.label === '' ? '' : `${item.label} `));
    const value = made('b', item.text);
    if (item.as === 'icons') {
      value.setAttribute('role', 'img');
      value.setAttribute('aria-label', `${item.full} of ${item.of}`);
    }
    node.append(value);
    if (item.as === 'bar') {
      const meter = made('meter');
      meter.max = item.of;
      meter.value = item.full;
      node.append(' ', meter);
    }
    element('play').append(node);
  }
}

function showPresent(): void {
  const present = Object.entries(session.present).filter(([, count]) => session.isLive && count > 0);
  element('present').replaceChildren(...present.map(([piece, count]) => made('li', `${count} × ${piece}`)));
}

/** Buttons are made anew only when what can happen changes, so that one under the finger stays. */
function showEvents(possible: readonly string[]): void {
  if (possible.join() === buttonsFor) return;
  buttonsFor = possible.join();
  const buttons = possible.map((event) => {
    const button = made('button', `${event.replace(/^input\./, '')} `);
    button.type = 'button';
    button.dataset.event = event;
    button.append(made('kbd', keyOf.get(event)));
    button.addEventListener('click', () => send(event));
    return button;
  });
  element('events').replaceChildren(...buttons);
}

function log(step: Step): void {
  const writes = step.writes
    .filter(({ before, after }) => before !== after)
    .map(({ counter, before, after }) => `${counter} ${before} → ${after}`);
  const told = [...step.sequence, ...writes, ...step.cues.map((cue) => `♪ ${cue}`)];
  if (step.cause === 'spawn' && told.length === 0) return;
  const what = step.reception === 'handled' ? told.join(', ') : step.reception;
  const line = made(
    'li',
    `${(step.at / 1000).toFixed(3)}  ${step.name}: ${what}`,
    step.reception === 'handled' ? '' : 'ignored',
  );
  const list = element('log');
  list.prepend(line);
  while (list.childElementCount > mostLogged) list.lastElementChild?.remove();
}

session.listen(log);

document.addEventListener('keydown', (press) => {
  if (press.repeat || press.ctrlKey || press.metaKey || press.altKey) return;
  const event = session.possible.find((each) => keyOf.get(each) === press.key.toLowerCase());
  if (event !== undefined) send(event);
});

element('save').addEventListener('click', () => {
  const link = made('a');
  link.href = URL.createObjectURL(new Blob([writeRecord(recordOf(session))], { type: 'application/jsonl' }));
  link.download = 'session.jsonl';
  link.click();
  URL.revokeObjectURL(link.href);
});

let last = performance.now();

function frame(now: number): void {
  // Time stands still while the tab is hidden: the browser sends no frames then, and a bee should not pay for it.
  const passed = document.hidden ? 0 : Math.min(now - last, longestFrame);
  last = now;
  if (passed > 0) attempt(() => session.advance(passed));
  show();
  if (!isStopped) requestAnimationFrame(frame);
}

const longestFrame = 1000;
show();
requestAnimationFrame(frame);
