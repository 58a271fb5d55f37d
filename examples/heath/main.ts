import { type FieldScene, field, fieldInputs, fieldWorld, Stage } from 'jocus/world';
import game, { DesignError, recordOf, writeRecord } from '../../demo/dusk-on-the-heath.yaml';
import { draw } from './draw.js';
import { showHud } from './hud.js';

const seed = Number(new URLSearchParams(location.search).get('seed') ?? Date.now() % 1_000_000);
const session = game.start({
  seed: Number.isSafeInteger(seed) && seed >= 0 ? seed : 1,
  storage: localStorage,
  storageEvents: window,
});
const stage = new Stage(fieldWorld, session);
const scene = stage.scene as FieldScene;

const element = <Kind extends HTMLElement>(id: string): Kind => document.getElementById(id) as Kind;
const canvas = element<HTMLCanvasElement>('field');
const context = canvas.getContext('2d')!;
document.title = session.title;

/** What is held down now. */
const held = new Set<string>();
let pointer: { x: number; y: number } | undefined;
const keys: { readonly [key: string]: string } = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
};
/** On screens with inputs, the first key that each takes. */
const inputKeys: { readonly [key: string]: string } = {
  Enter: 'start',
  ' ': 'again',
  h: 'help',
  Escape: 'leave',
};

document.addEventListener('keydown', (press) => {
  const direction = keys[press.key];
  if (direction !== undefined) {
    held.add(direction);
    press.preventDefault();
    return;
  }
  const wanted = session.possible.find((event) => event === `input.${inputKeys[press.key]}`);
  if (wanted !== undefined && !press.repeat) {
    press.preventDefault();
    happen(() => session.send(wanted));
  }
});
document.addEventListener('keyup', ({ key }) => held.delete(keys[key] ?? ''));
window.addEventListener('blur', () => held.clear());
for (const kind of ['pointerdown', 'pointermove'] as const) {
  canvas.addEventListener(kind, ({ buttons, clientX, clientY }) => {
    const { left, top, width, height } = canvas.getBoundingClientRect();
    pointer =
      buttons === 0
        ? undefined
        : { x: ((clientX - left) / width) * field.width, y: ((clientY - top) / height) * field.height };
  });
}
for (const kind of ['pointerup', 'pointercancel', 'pointerleave'] as const) {
  canvas.addEventListener(kind, () => {
    pointer = undefined;
  });
}

/** The input of the field that keys or a finger ask for. */
function steering(): string {
  const sideways = pointer === undefined ? '' : toSide(pointer.x - scene.player.x, 'left', 'right');
  const upDown = pointer === undefined ? '' : toSide(pointer.y - scene.player.y, 'up', 'down');
  const x = held.has('left') ? 'left' : held.has('right') ? 'right' : sideways;
  const y = held.has('up') ? 'up' : held.has('down') ? 'down' : upDown;
  const input = [y, x].filter((part) => part !== '').join(' ');
  return fieldInputs.includes(input) ? input : 'stay';
}

const toSide = (distance: number, less: string, more: string): string =>
  Math.abs(distance) < 12 ? '' : distance < 0 ? less : more;

session.on('popup', ({ text }) => popUp(text));
session.on('counter', ({ counter, before, after }) => {
  if (counter === 'score' && session.isLive) popUp(`+${Number(after) - Number(before)}`);
});
session.on('reload', ({ told }) => {
  element('text').title = told;
});

/** A text that rises from the bee. */
function popUp(text: string): void {
  const popup = document.createElement('span');
  popup.className = 'popup';
  popup.textContent = text;
  popup.style.left = `${(scene.player.x / field.width) * 100}%`;
  popup.style.top = `${(scene.player.y / field.height) * 100}%`;
  popup.addEventListener('animationend', () => popup.remove());
  element('popups').append(popup);
}

let isStopped = false;

/** A design whose rules never end stops the game and says why, once. */
function happen(what: () => void): void {
  try {
    what();
  } catch (error) {
    if (!(error instanceof DesignError)) throw error;
    isStopped = true;
    element('text').textContent = error.message;
  }
}

let offered = '';

function show(now: number): void {
  const light = session.isLive ? session.timer('daylight') / 45 : session.screen === 'dark' ? 0 : 0.7;
  draw(context, scene, light, now);
  document.body.dataset.screen = session.screen;
  document.body.dataset.live = String(session.isLive);
  if (element('text').textContent !== session.text) element('text').textContent = session.text;
  showHud(element('hud'), session.hud);
  const inputs = session.possible.filter((event) => event.startsWith('input.'));
  if (inputs.join() === offered) return;
  offered = inputs.join();
  element('inputs').replaceChildren(
    ...inputs.map((event) => {
      const button = document.createElement('button');
      button.type = 'button';
      button.textContent = `${event.slice('input.'.length)} `;
      const key = Object.keys(inputKeys).find((each) => event === `input.${inputKeys[each]}`);
      const hint = document.createElement('kbd');
      hint.textContent = key === ' ' ? 'Space' : (key ?? '');
      button.append(hint);
      button.dataset.event = event;
      button.addEventListener('click', () => happen(() => session.send(event)));
      return button;
    }),
  );
}

element('save').addEventListener('click', () => {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([writeRecord(recordOf(session))], { type: 'application/jsonl' }));
  link.download = 'session.jsonl';
  link.click();
  URL.revokeObjectURL(link.href);
});

let last = performance.now();
/** Time stands still in a hidden tab: nobody flies the bee there. */
const longestFrame = 100;

function frame(now: number): void {
  const passed = Math.min(Math.max(0, now - last), longestFrame);
  last = now;
  happen(() => stage.advance(passed, steering()));
  if (isStopped) return;
  show(now);
  requestAnimationFrame(frame);
}

requestAnimationFrame(frame);
