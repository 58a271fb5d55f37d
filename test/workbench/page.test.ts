import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { parse } from 'yaml';
import { serveWorkbench } from '../../dist/node/workbench-server.js';
import { readDesign } from '../../src/index.js';
import { changed, demoText, smallText } from '../support/designs.js';
import {
  barriers,
  browser,
  button,
  errors,
  file,
  open,
  page,
  saved,
  status,
  withWorkbenchPage,
  word,
  workbench,
} from '../support/workbench-page.js';

withWorkbenchPage();

test('a number turned in a sentence stands in the file, all else as it was, and the verdict is of the new text', async () => {
  await open(smallText);
  await status(/Passed.*5 of 5 transitions reached.*1 of 1 test passed.*no findings/);
  await word('dials petal value').fill('11');
  await word('dials petal value').press('Enter');
  const text = await saved((now) => now.includes('value: 11'));
  expect(text).toBe(smallText.replace('petal: { value: 10', 'petal: { value: 11'));
  await status(/Falls short.*0 of 1 test passed/);
  await word('dials petal value').press('ArrowDown');
  await saved((now) => now === smallText);
  await status('Passed');
  expect(errors).toEqual([]);
});

test('an edit made in another editor appears at once, and the session goes on', async () => {
  await open(smallText);
  await button('input.start').click();
  await page.waitForSelector('[data-screen="heath"]');
  writeFileSync(
    file,
    changed('difficulty: -0.6', 'difficulty: -0.2', changed('Small Heath', 'Late on the Heath', smallText)),
  );
  await expect.poll(() => word('pieces wasp difficulty').inputValue()).toBe('-0.2');
  await page.getByRole('heading', { name: 'Late on the Heath' }).waitFor();
  expect(await page.locator('.screen').getAttribute('data-screen')).toBe('heath');
});

test('somebody who has never seen the file adds a thing in three answers, and touches it once', async () => {
  await open('title: My game\n');
  await button('Add a thing').click();
  await page.getByLabel('What is it called?').fill('acorn');
  await button('Add it').click();
  const text = await saved((now) => now.includes('acorn'));
  const design = readDesign(text);
  expect(design.pieces.map(({ name, role }) => [name, role])).toEqual([['acorn', 'collectible']]);
  expect(text.startsWith('title: My game\n')).toBe(true);
  await page.getByText('When ').first().waitFor();
  await button('acorn.taken').click();
  const row = page.locator('.counters tr', { has: page.getByRole('rowheader', { name: 'score' }) });
  await expect.poll(() => row.locator('td').allTextContents()).toEqual(['0', '10']);
  await expect.poll(() => page.locator('.corner.top-left').textContent()).toContain('10');
  // One undo takes back all that the answers made.
  await button('Undo').click();
  await saved((now) => now === 'title: My game\n');
  await button('Redo').click();
  await saved((now) => now === text);
  // A second thing of another kind, which hurts.
  await button('Add a thing').click();
  await page.getByLabel('What is it called?').fill('acorn');
  await page.getByText('The name acorn is taken').waitFor();
  await page.getByLabel('What is it called?').fill('thorn');
  await page.getByText('Something that hurts').click();
  await button('Add it').click();
  const second = parse(await saved((now) => now.includes('thorn'))) as { [section: string]: object };
  expect(second.pieces).toEqual({ acorn: { is: 'collectible' }, thorn: { is: 'hazard' } });
  expect(second.rules).toContainEqual({ when: 'thorn.hit', do: [{ add: { lives: -1 } }] });
  await button('thorn.hit').click();
  await expect
    .poll(() =>
      page
        .locator('.counters tr', { has: page.getByRole('rowheader', { name: 'lives' }) })
        .locator('td')
        .allTextContents(),
    )
    .toEqual(['3', '2']);
  expect(errors).toEqual([]);
});

test('what is played can be gone back over, and becomes a test of the design that passes', async () => {
  await open(smallText);
  await button('input.start').click();
  await button('blossom.taken').click();
  await button('blossom.taken').click();
  const score = page
    .locator('.counters tr', { has: page.getByRole('rowheader', { name: 'score' }) })
    .locator('td');
  await expect.poll(() => score.allTextContents()).toEqual(['10', '20']);
  await page.locator('.happened').getByText('score 10 → 20').waitFor();
  await button('Step back').click();
  await expect.poll(() => score.last().textContent()).toBe('10');
  await button('Keep as a test').click();
  const text = await saved((now) => now.includes('what I played'));
  const tests = (parse(text) as { tests: { name: string; do: string[]; expect: object }[] }).tests;
  expect(tests.at(-1)).toMatchObject({
    do: ['input.start', 'blossom.taken'],
    expect: { score: 10, screen: 'heath' },
  });
  await status(/Passed.*2 of 2 tests passed/);
});

test('undo and redo go over the sentences, and over what was typed in the file', async () => {
  await open(smallText);
  await word('rules 1 do 0 add lives').fill('-2');
  await word('rules 1 do 0 add lives').press('Enter');
  await saved((now) => now.includes('lives: -2'));
  await page.getByText('File', { exact: true }).click();
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+Home');
  await page.keyboard.type('# mine\n');
  await saved((now) => now.startsWith('# mine\n'));
  await page.getByText('Sentences', { exact: true }).click();
  while (await button('Undo').isEnabled()) {
    // The one before may have been the last.
    await button('Undo')
      .click({ timeout: 5000 })
      .catch(() => undefined);
  }
  await saved((now) => now === smallText);
  await button('Redo').click();
  await saved((now) => now.includes('lives: -2'));
});

test('a mistake typed into the file is told with its line, and the session before goes on', async () => {
  await open(smallText);
  await button('input.start').click();
  await page.getByText('File', { exact: true }).click();
  await page.locator('.cm-content').waitFor();
  writeFileSync(file, changed('when: wasp.hit', 'when: wasp.hitt', smallText));
  await status(/1 problem in the file.*Did you mean wasp\.hit\?/);
  await page.getByText('The changed design cannot be played yet').waitFor();
  expect(await page.locator('.screen').getAttribute('data-screen')).toBe('heath');
  await page.locator('.status button').first().click();
  await page.locator('.cm-lint-marker-error').waitFor();
  // What is missing is added by a click.
  writeFileSync(file, changed('add: { lives: -1 }', 'add: { lives: -1, stings: 1 }', smallText));
  await status(/There is no counter "stings"\. Add it under counters/);
  await page.locator('.status').getByRole('button', { name: 'Do it for me' }).click();
  await saved((text) => text.includes('stings: { start: 0 }'));
  await status('Passed');
  expect(errors).toEqual([]);
});

test('a restart that forgets to put things back: found at hand, mended by its button, as it was', async () => {
  const broken = changed(/(from: dark, +to: heath, +when: input\.again), fresh: run/, '$1');
  await open(broken);
  await status('Falls short');
  const note = page.locator('.finding.error', {
    hasText: 'After dark -> heath, play does not start as it does the first time',
  });
  await note.getByRole('button', { name: 'Do it for me' }).click();
  const text = await saved((now) => now !== broken);
  expect(parse(text)).toEqual(parse(demoText));
  await status(/Passed.*no findings/);
});

test('a sentence is taken out, and its line goes from the file', async () => {
  await open(smallText);
  await page.getByRole('button', { name: /^Remove: When wasp\.hit/ }).click();
  const text = await saved((now) => !now.includes('wasp.hit'));
  expect(parse(text)).toEqual({
    ...parse(smallText),
    rules: parse(smallText).rules.filter(({ when }: { when: unknown }) => when !== 'wasp.hit'),
  });
});

test('a file changed on both sides is shown as both, and nothing is written before a choice', async () => {
  await open(smallText);
  await status('Passed');
  const theirs = changed('start: 3', 'start: 1', smallText);
  // Somebody else is quicker: their text is there when the page's arrives.
  await page.route('**/api/file', (route) => {
    if (route.request().method() === 'PUT') writeFileSync(file, theirs);
    return route.continue();
  });
  await word('counters lives start').fill('5');
  await word('counters lives start').press('Enter');
  await page.getByText('The file was changed elsewhere at the same time').waitFor();
  expect(readFileSync(file, 'utf8')).toBe(theirs);
  expect(await page.locator('.both pre').allTextContents()).toEqual([
    theirs.replace('start: 1', 'start: 5'),
    theirs,
  ]);
  await page.unroute('**/api/file');
  await button('Keep mine').click();
  const text = await saved((now) => now.includes('start: 5'));
  expect(text).toContain('lives: { start: 5');
});

test('without the token it says what it needs; a reload keeps it', async () => {
  await open(smallText);
  await page.reload();
  await page.waitForSelector('.sentence');
  const other = await browser.newPage();
  await other.goto(new URL(workbench.address).origin);
  await other.getByText('This page needs the address that jocus open has printed').waitFor();
  await other.close();
});

test('names of a hostile design are only text', async () => {
  const evil = '<img src=x onerror=window.hit=1>';
  await open(
    JSON.stringify({
      title: evil,
      counters: { score: {} },
      pieces: { berry: { is: 'collectible' } },
      rules: [{ name: evil, when: 'berry.taken', do: [{ popup: evil }, { add: { score: 1 } }] }],
      levels: [{ name: evil, place: { berry: 2 } }],
      screens: { glade: { live: true, text: evil } },
    }),
  );
  await button('berry.taken').click();
  await page.locator('.happened').getByText('score 0 → 1').waitFor();
  expect(await page.evaluate(() => 'hit' in window)).toBe(false);
  expect(await page.locator('img').count()).toBe(0);
  expect(errors).toEqual([]);
});

test('a design that never comes to rest stops what it runs in, not the page', async () => {
  await open(
    'counters: { score: {} }\ntimers: { beat: { every: 0.001 } }\nrules: [{ when: beat.ticked, do: [{ add: { score: 1 } }] }, { when: input.go, do: [{ emit: own.a }] }, { when: own.a, do: [{ emit: own.a }] }]\ntests: [{ name: long, do: [wait 86400], expect: { score: 1 } }]\n',
  );
  await button('input.go').click();
  await page.getByRole('alert').getByText('set each other off without end').waitFor();
  await word('rules 0 do 0 add score').fill('2');
  await word('rules 0 do 0 add score').press('Enter');
  await saved((now) => now.includes('score: 2'));
});

test('axe finds nothing serious in the sentences, the file and the questions, light or dark', async () => {
  await open(smallText);
  await button('input.start').click();
  await page.waitForSelector('.happened');
  const look = async (): Promise<void> =>
    expect(await barriers(page, { exclude: '.cm-scroller' })).toEqual([]);
  await look();
  await button('Add a thing').click();
  await page.getByLabel('What is it called?').waitFor();
  await page.waitForTimeout(400);
  await look();
  await page.keyboard.press('Escape');
  await page.getByText('File', { exact: true }).click();
  await page.locator('.cm-content').waitFor();
  await look();
});

test('a server that ends loses nothing: what was changed meanwhile is found at the next start', async () => {
  await open(smallText);
  await status('Passed');
  const { port } = new URL(workbench.address);
  await workbench.close();
  await page.getByText('The server has ended').waitFor();
  await word('counters lives start').fill('5');
  await word('counters lives start').press('Enter');
  await page.getByText('Not saved').waitFor();
  expect(readFileSync(file, 'utf8')).toBe(smallText);
  // The command begins again at the same port, with another token.
  const again = await serveWorkbench(file, { port: Number(port) });
  try {
    await page.goto('about:blank');
    await page.goto(again.address);
    await page.getByText('had not been saved').waitFor();
    await button('Take it up').click();
    await saved((now) => now.includes('lives: { start: 5'));
  } finally {
    await again.close();
  }
});

test('sessions that take long are stopped by a button, and played again after the next change', async () => {
  await open(
    'counters: { score: {} }\npieces: { acorn: { is: collectible } }\nlevels: [{ spawn: [{ piece: acorn, every: 0.1, atOnce: 3 }] }]\nrules: [{ when: acorn.taken, do: [{ add: { score: 1 } }] }]\nscreens: { wood: { live: true } }\nplayers: { tireless: { patience: 80000 } }\n',
  );
  await page.locator('.view-tabs').getByText('Balance', { exact: true }).click();
  await page.getByText('more are played').waitFor({ timeout: 60_000 });
  await button('Stop').click();
  await expect.poll(() => page.getByText('more are played').isVisible()).toBe(false);
  await word('players tireless patience').fill('60');
  await word('players tireless patience').press('Enter');
  await page.getByText('3,000 sessions of each player').waitFor({ timeout: 60_000 });
  expect(errors).toEqual([]);
});

test('what is changed while a save is under way is saved after it, and is no conflict', async () => {
  await open(smallText);
  await status('Passed');
  // A slow disk: each save takes longer than the next change.
  await page.route('**/api/file', async (route) => {
    if (route.request().method() === 'PUT') await new Promise((done) => setTimeout(done, 700));
    await route.continue();
  });
  for (const lives of ['4', '5', '2', '1']) {
    await word('counters lives start').fill(lives);
    await word('counters lives start').press('Enter');
    await page.waitForTimeout(300);
  }
  await saved((now) => now === smallText.replace('lives: { start: 3', 'lives: { start: 1'));
  expect(await page.getByText('The file was changed elsewhere').count()).toBe(0);
  await page.locator('.saving.saved').waitFor();
});
