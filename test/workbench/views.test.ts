import { expect, test } from 'vitest';
import { parse } from 'yaml';
import { readDesign } from '../../src/index.js';
import { changed, demoText, smallText, withoutEnd } from '../support/designs.js';
import {
  barriers,
  button,
  errors,
  open,
  page,
  saved,
  status,
  withWorkbenchPage,
  word,
} from '../support/workbench-page.js';

withWorkbenchPage();

const view = (name: string) => page.locator('.view-tabs').getByText(name, { exact: true }).click();
const counter = (name: string) =>
  page
    .locator('table.counters tr', { has: page.getByRole('rowheader', { name, exact: true }) })
    .locator('td');
const target = (name: string) =>
  page.locator('.balance tr', { has: page.getByRole('rowheader', { name, exact: true }) });

test('a game is made from nothing by sentences alone, and played', async () => {
  await open('');
  await button('Add a thing').click();
  await page.getByLabel('What is it called?').fill('level');
  await page.getByText('The word level has a meaning of its own: choose another.').waitFor();
  await page.getByLabel('What is it called?').fill('ripe acorn');
  await page.getByText('It is called ripeAcorn in the file.').waitFor();
  await button('Add it').click();
  const add = async (label: string, name?: string): Promise<void> => {
    await button(label).click();
    if (name !== undefined) {
      await page.getByLabel('Its name').fill(name);
      await button('Add').click();
    }
  };
  await page.getByLabel('counters score start').waitFor();
  await add('Add a screen', 'wood');
  await saved((text) => text.includes('wood'));
  await add('Add a screen', 'winter');
  await saved((text) => text.includes('winter'));
  // Both screens stand on one line of the file: what is found about one is told with that one alone.
  const unentered = page.getByText('The screen winter is never entered');
  await page.locator('[data-path="screens.winter"]').filter({ has: unentered }).waitFor();
  expect(await unentered.count()).toBe(1);
  await add('Add a timer', 'autumn');
  await saved((text) => text.includes('autumn'));
  await add('Add a transition');
  await saved((text) => text.includes('transitions'));
  await word('transitions 0 when').fill('autumn.ended');
  await word('transitions 0 when').press('Enter');
  // The run ends there: said by choosing what the sentence could say as well.
  await page.getByRole('button', { name: /^Say more: Winter stands still/ }).click();
  await page.getByRole('menuitem', { name: 'that the run ends here' }).click();
  const text = await saved((now) => now.includes('ending'));
  const design = readDesign(text);
  expect(design.screens.map(({ name, live, ending }) => [name, live, ending])).toEqual([
    ['wood', true, undefined],
    ['winter', false, 'lost'],
  ]);
  expect(design.transitions.map(({ from, to, events }) => [from, to, events])).toEqual([
    ['wood', 'winter', ['autumn.ended']],
  ]);
  await button('ripeAcorn.taken').click();
  await expect.poll(() => counter('score').allTextContents()).toEqual(['0', '10']);
  for (let time = 0; time < 3; time++) await button('10 s').click();
  await page.locator('[data-screen="winter"]').waitFor();
  expect(errors).toEqual([]);
});

test('a word that is emptied is taken out, and what a sentence could say as well is put in', async () => {
  await open(smallText);
  const without = smallText.replace(', lasts: 4', '');
  await word('pieces blossom lasts').fill('');
  await word('pieces blossom lasts').press('Enter');
  expect(await saved((text) => !text.includes('lasts: 4'))).toBe(without);
  await page.getByRole('button', { name: /^Say more: When wasp\.hit/ }).click();
  await page.getByRole('menuitem', { name: 'add to score' }).click();
  const text = await saved((now) => now.includes('{ add: { score: 1 } }'));
  expect(parse(text).rules[1].do).toEqual([{ add: { lives: -1 } }, { grace: 1 }, { add: { score: 1 } }]);
  // Emptied, the only amount of an effect takes the effect with it.
  await word('rules 1 do 2 add score').fill('');
  await word('rules 1 do 2 add score').press('Enter');
  await saved((now) => now === without);
  // What is too long for a line is seen whole on several, and stays one line of the file.
  const points = word('rules 0 do 0 add score');
  const long = 'petal + (lives >= 3 ? 10 : 0) + (lives >= 2 ? 5 : 0) + floor(timer.daylight)';
  await points.fill(long);
  await points.press('Enter');
  await saved((now) => now.includes(long));
  const isWhole = (): Promise<[string, boolean]> =>
    points.evaluate((field) => [
      field.tagName,
      field.scrollWidth <= field.clientWidth && field.scrollHeight <= field.clientHeight,
    ]);
  await expect.poll(isWhole).toEqual(['TEXTAREA', true]);
  await points.fill(`${long} + 1`);
  await points.press('Enter');
  expect(await saved((now) => now.includes(`${long} + 1`))).toBe(
    without.replace('score: petal', `score: "${long} + 1"`),
  );
  await points.fill('petal');
  await points.press('Enter');
  await saved((now) => now === without);
  // A screen that is named and not there yet is made; one undo takes back both.
  await word('transitions 0 to').fill('credits');
  await word('transitions 0 to').press('Enter');
  const { screens, transitions } = parse(await saved((now) => now.includes('credits')));
  expect([transitions[0].to, screens.credits]).toEqual(['credits', { text: 'Press go' }]);
  await button('Undo').click();
  await saved((now) => !now.includes('credits'));
});

test('a transition says how it is reached, and its witness is watched as a film', async () => {
  await open(smallText);
  await status('Passed');
  await page.getByLabel('Watch how heath → dark is reached').first().click();
  await page.locator('.film h2', { hasText: 'heath → dark' }).waitFor();
  await page.locator('.film [data-screen="dark"]').waitFor({ timeout: 60_000 });
  await expect.poll(() => counter('lives').allTextContents()).toEqual(['1', '0']);
  await button('One step back').click();
  await page.locator('.film [data-screen="heath"]').waitFor();
  await button('Close the film').click();
  await page.locator('.play [data-screen="title"]').waitFor();
});

test('the flow shows each transition with its verdict and how often it is taken, and is wired by dragging', async () => {
  await open(changed('quota: 12', 'quota: 25'));
  await status('Falls short');
  await view('Flow');
  await page.getByRole('button', { name: /^heath → cleared.*never happens$/ }).click();
  const chosen = page.locator('.flow section.chosen');
  await chosen.getByText(/"nectar >= level.quota" never holds/).waitFor();
  await page.getByRole('button', { name: /^heath → dark, if lives == 0: reached$/ }).click();
  await expect.poll(() => chosen.textContent(), { timeout: 60_000 }).toMatch(/newcomer: \d\.\d\d a session/);
  // From the foot of one screen to the head of another.
  const source = page.locator('.react-flow__node[data-id="help"] .react-flow__handle-bottom');
  const goal = page.locator('.react-flow__node[data-id="dark"] .react-flow__handle-top');
  await source.hover();
  await page.mouse.down();
  await goal.hover();
  await page.mouse.up();
  const text = await saved((now) => now.includes('from: help, to: dark'));
  expect(parse(text).transitions.at(-1)).toEqual({ from: 'help', to: 'dark', when: 'input.go' });
  expect(errors).toEqual([]);
});

test('a way back is drawn to every screen that it may lead to', async () => {
  await open(
    'counters: { score: {} }\npieces: { acorn: { is: collectible } }\nlevels: [{ place: { acorn: 1 } }]\nrules: [{ when: acorn.taken, do: [{ add: { score: 1 } }] }]\nscreens: { title: {}, wood: { live: true }, help: {} }\ntransitions:\n  - { from: title, to: wood, when: input.go, fresh: run }\n  - { from: [title, wood], to: help, when: input.help }\n  - { from: help, to: back, when: input.back }\n',
  );
  await view('Flow');
  await page
    .getByRole('button', { name: /^help → back, when input.back: reached/ })
    .first()
    .waitFor();
  // A verdict that comes in between draws them again.
  await expect.poll(() => page.getByRole('button', { name: /^help → back/ }).count()).toBe(2);
  await page
    .getByRole('button', { name: /^help → back/ })
    .first()
    .click();
  const chosen = page.locator('.flow section.chosen', { hasText: 'help → back, when input.back' });
  // Without a target, sessions are played for those who look at how often.
  await expect.poll(() => chosen.textContent(), { timeout: 60_000 }).toMatch(/regular: \d\.\d\d a session/);
});

test('a dial that is turned moves the figures and changes the verdict of a target; kept, it stands in the file', async () => {
  await open(smallText);
  await status('1 of 1 target met');
  await view('Balance');
  await page.getByText('3,000 sessions of each player').waitFor({ timeout: 60_000 });
  const median = target('median score, newcomer');
  expect(await median.textContent()).toContain('met');
  await button('Pin this result').click();
  const slider = page.getByRole('slider', { name: 'petal' });
  await slider.focus();
  for (let step = 0; step < 10; step++) await page.keyboard.press('ArrowRight');
  await expect.poll(() => median.textContent(), { timeout: 60_000 }).toContain('✗ missed');
  // Next to the value with the dial turned stands the pinned one.
  const [value, pinned] = await median.locator('td').allTextContents();
  expect(Number(value!.replace(',', ''))).toBeGreaterThan(1.5 * Number(pinned));
  await expect.poll(() => page.locator('.balance figure[aria-label="Scores"] svg').count()).toBe(1);
  await button('Keep these settings').click();
  const text = await saved((now) => now !== smallText);
  expect(text).toBe(changed('petal: { value: 10', 'petal: { value: 20', smallText));
  await status('0 of 1 target met');
  await page.locator('.status .missed', { hasText: '0 of 1 target met' }).waitFor();
  await button('Undo').click();
  await saved((now) => now === smallText);
  await status('1 of 1 target met');
  expect(errors).toEqual([]);
});

test('a lucky session is watched, and it is said which dial moves which target', async () => {
  await open(smallText);
  await status('1 of 1 target met');
  await view('Balance');
  await page.getByText('3,000 sessions of each player').waitFor({ timeout: 60_000 });
  await button('Which dial moves which target').click();
  const cells = page.locator('.balance table', { hasText: 'with a dial at its lowest' });
  await cells.waitFor({ timeout: 60_000 });
  expect(await cells.getByRole('row').count()).toBe(2);
  await page.getByRole('button', { name: 'lucky session, newcomer', exact: true }).click();
  await page.locator('.film h2', { hasText: 'lucky session, newcomer' }).waitFor({ timeout: 60_000 });
  await page.locator('.film [data-screen="heath"]').waitFor({ timeout: 60_000 });
});

test('a block of a spreadsheet pasted into the levels changes them, and new rows become levels', async () => {
  await open(demoText);
  await view('Levels');
  await word('Level 2, quota').focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', '14\t3\n18\t\n22\t5\n');
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true }),
    );
  });
  const { levels } = parse(await saved((now) => now.includes('quota: 22')));
  expect(levels.map(({ values, place }: { values: object; place?: object }) => [values, place])).toEqual([
    [{ quota: 12 }, { blossom: 2 }],
    [{ quota: 14 }, { blossom: 3 }],
    [{ quota: 18 }, undefined],
    [{ quota: 22 }, { blossom: 5 }],
  ]);
  await expect
    .poll(() => page.locator('.levels tbody tr').last().textContent(), { timeout: 60_000 })
    .toMatch(/% · /);
  await button('Undo').click();
  await saved((now) => now === demoText);
});

test('an item of the HUD is dragged to another place of the screen', async () => {
  await open(smallText);
  await button('input.start').click();
  const item = page.locator('.item', { hasText: 'Lives' });
  await item.hover();
  await page.mouse.down();
  const box = (await page.locator('.screen').boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  const text = await saved((now) => now !== smallText);
  expect(text).toBe(changed('as: icons, at: top-right', 'as: icons, at: left', smallText));
  await expect.poll(() => page.locator('.corner.left').textContent()).toContain('Lives');
});

test('the design is flown: time runs, what is touched is taken, and nothing is counted twice on the way back', async () => {
  await open(
    'counters: { score: {} }\npieces: { acorn: { is: collectible } }\nlevels: [{ place: { acorn: 30 } }]\nrules: [{ when: acorn.taken, do: [{ add: { score: 1 } }, { cue: tick }, { popup: "+1" }] }]\nscreens: { wood: { live: true } }\nhud: [{ show: score }]\n',
  );
  await page.getByRole('button', { name: '▶ Fly it' }).click();
  const field = (await page.locator('.field').boundingBox())!;
  const score = async (): Promise<number> => Number((await counter('score').allTextContents()).at(-1));
  for (const [across, down] of [
    [0.1, 0.2],
    [0.9, 0.2],
    [0.9, 0.5],
    [0.1, 0.5],
    [0.1, 0.8],
    [0.9, 0.8],
  ]) {
    await page.mouse.move(field.x + across! * field.width, field.y + down! * field.height, { steps: 4 });
    await page.waitForTimeout(1200);
  }
  await page.getByRole('button', { name: /Hold time/ }).click();
  const flown = await score();
  expect(flown).toBeGreaterThan(2);
  // What happened in the field is what the session says is gone.
  expect(await page.locator('.present').textContent()).toContain(`${30 - flown} acorn`);
  await button('Keep as a test').click();
  const { tests } = parse(await saved((now) => now.includes('tests')));
  expect(tests[0].do.filter((step: string) => step === 'acorn.taken')).toHaveLength(flown);
  await status(/1 of 1 test passed/);
  expect(errors).toEqual([]);
});

test('what a hostile design is called runs nothing in any view', async () => {
  const name = '<img src=x onerror=alert(1)>';
  await open(changed('label: Score', `label: "${name}"`, changed('Gorse Bank', name, smallText)));
  page.on('dialog', (dialog) => errors.push(dialog.message()));
  await status('Passed');
  for (const each of ['Flow', 'Levels', 'Balance']) {
    await view(each);
    await page.waitForTimeout(700);
  }
  await page.locator('.balance figure').first().waitFor({ timeout: 60_000 });
  expect(await page.locator('img[src="x"]').count()).toBe(0);
  expect(errors).toEqual([]);
});

test('no view has a fault that keeps anybody out, light or dark', async () => {
  await open(smallText);
  await status('1 of 1 target met');
  for (const each of ['Flow', 'Levels', 'Balance']) {
    await view(each);
    await page.waitForTimeout(900);
    expect(await barriers(page, { include: '.views' }), each).toEqual([]);
  }
});

test('a playtest log says how hard the pieces were, and one click writes it down', async () => {
  await open(demoText);
  await status('4 of 4 targets met');
  await view('Balance');
  const rows = Array.from({ length: 60 }, (_, at) => {
    const [player, session] = [at % 2 === 0 ? 'newcomer' : 'regular', Math.floor(at / 20)];
    return `${player},${session},${10 + at},${at % 3 === 0 ? 'foxglove' : 'blossom'}.${at % 4 === 0 ? 'missed' : 'taken'}`;
  });
  const log = (text: string) => ({ name: 'log.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  const field = page.locator('.balance input[type=file]');
  await field.setInputFiles(log('player,session,at,event\nnewcomer,0,1,rose.taken\n'));
  await page.locator('.balance [role=alert]', { hasText: 'rose.taken' }).waitFor();
  await field.setInputFiles(log(`player,session,at,event\n${rows.join('\n')}\n`));
  const blossom = page.locator('.balance tr', {
    has: page.getByRole('rowheader', { name: 'blossom', exact: true }),
  });
  await blossom.waitFor({ timeout: 60_000 });
  expect((await blossom.locator('td').allTextContents()).at(-1)).toBe('40');
  await button('Use these difficulties').click();
  const { pieces } = parse(await saved((now) => now !== demoText));
  expect(pieces.blossom.difficulty).not.toBe(-0.5);
  expect(pieces.royalJelly.difficulty).toBe(1.2);
});

test('formulas of levels are worked out, and the HUD is seen at its least and its most', async () => {
  const text = changed('quota: 16', 'quota: 10 + 3 * level')
    .replace('counters:\n', 'counters:\n  warmth: { start: 1, min: 0, max: 2.5, places: 1 }\n')
    .replace('hud:\n', 'hud:\n  - { show: warmth, label: Warmth, at: bottom-left }\n');
  await open(text);
  await view('Levels');
  await page.locator('.levels td', { hasText: '= 16' }).waitFor({ timeout: 60_000 });
  await view('Play');
  await button('input.start').click();
  const corner = (place: string) => page.locator(`.corner.${place}`);
  await button('at its most').click();
  await expect.poll(() => corner('top-right').textContent()).toContain('●●●●●');
  // The most that the score can come to was found by the check.
  await expect.poll(() => corner('top-left').textContent()).toMatch(/Score 00\d{4}/);
  expect(await corner('top-left').textContent()).not.toContain('000000');
  expect(await corner('bottom-left').textContent()).toContain('Warmth 2.5');
  await button('HUD at its least').click();
  await expect.poll(() => corner('top-right').textContent()).toContain('○○○○○');
  await button('blossom.taken').click();
  await expect.poll(() => corner('top-right').textContent()).toContain('●●●○○');
});

test('what is left open is told beside the verdict, at a click', async () => {
  await open(withoutEnd);
  const told = page.getByText(
    /^It was not found out whether .*, since no end of states was found; a narrow min/,
  );
  await page.getByText('something is left open').click();
  await told.waitFor();
  await page.getByText('something is left open').press('Enter');
  await told.waitFor({ state: 'hidden' });
});
