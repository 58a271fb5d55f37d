import type { LineResult } from '../../engine/record/script.js';
import type { Step } from '../../engine/run/step.js';
import type { Session } from '../../engine/session/design-session.js';
import { paint, plain, type Terminal, timestamp, wrap } from '../terminal.js';

/** Where a session stands: screen, HUD, and what can happen now. */
export function showSession(terminal: Terminal, session: Session): string {
  const { hud, text, possible, present } = session;
  const there = Object.entries(present).filter(([, count]) => session.isLive && count > 0);
  const lines = [
    `${paint(terminal, 'bold', session.screen)}  ${timestamp(session.time)}${text === '' ? '' : `  ${paint(terminal, 'cyan', plain(text))}`}`,
    ...(hud.length === 0 ? [] : [hud.map((item) => `${plain(item.label)} ${plain(item.text)}`).join('   ')]),
    ...(there.length === 0
      ? []
      : [paint(terminal, 'dim', there.map(([piece, count]) => `${count} ${piece}`).join(', '))]),
    paint(
      terminal,
      'dim',
      wrap(
        `can happen: ${possible.length === 0 ? 'only time' : possible.join('  ')}`,
        terminal.width - 2,
        '  ',
      ),
    ),
  ];
  return `${lines.map((line) => `  ${line}`).join('\n')}\n`;
}

/** What one line did: each thing that happened, with its rules and every counter before and after. */
export function showLine(terminal: Terminal, result: LineResult): string {
  if (result.kind === 'refused')
    return `  ${paint(terminal, 'redBright', wrap(plain(result.reason), terminal.width - 4, '  '))}\n`;
  if (result.kind === 'undone') return `  ${paint(terminal, 'yellow', 'taken back')}\n`;
  return result.steps.map((step) => showStep(terminal, step)).join('');
}

function showStep(terminal: Terminal, step: Step): string {
  const writes = step.writes.map(({ counter, before, after, wanted }) => {
    const change = before === after ? `${counter} stays ${after}` : `${counter} ${before} -> ${after}`;
    return wanted === after ? change : `${change} (held from ${wanted})`;
  });
  const told = [
    ...step.sequence,
    ...writes,
    ...step.cues.map((cue) => `♪ ${cue}`),
    ...step.popups.map((popup) => `“${popup}”`),
  ];
  if (step.reception !== 'handled')
    return `  ${timestamp(step.at)}  ${step.name}  ${paint(terminal, 'yellow', step.reception)}\n`;
  if (told.length === 0 && step.cause === 'wait') return '';
  return `  ${timestamp(step.at)}  ${plain(step.name)}${told.length === 0 ? '' : `  ${paint(terminal, 'green', plain(told.join(', ')))}`}\n`;
}
