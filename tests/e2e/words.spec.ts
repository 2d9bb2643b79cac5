import { readFileSync } from 'node:fs';
import { readTable, writeTable } from '../../src/core/formats/csv';
import { customer, expect, say, test, window } from './lane';

test('a wrong word on a live phone bot is found and mended while a caller is in it', async ({ browser, lane }) => {
  const handset = await customer(browser, lane, 'Repairs line');
  await expect(handset.getByText(/hire number/).first()).toBeVisible();
  const page = await window(browser, lane, 'Noor Amsel', '/floor');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Name of a page/).fill('what has happened');
  await page.getByText('“what has happened” wherever customers meet it').click();
  const sentences = page.getByRole('list', { name: 'Sentences' });
  await sentences
    .getByRole('button', { name: /Repairs line.*English/ })
    .first()
    .click();
  const mend = page.getByRole('region', { name: 'Mend' });
  // The very same stands in two other bots, which are left this time.
  await expect(mend.getByText(/Said by Repairs line, version 1; Telephone/)).toBeVisible();
  for (const other of await mend.getByRole('checkbox').all()) await other.uncheck();
  await expect(mend.getByText(/Said by Repairs line, version 1; 1 going on now/)).toBeVisible();
  const words = mend.getByLabel('What it says, English');
  await words.fill('Tell us what broke, please.');
  await mend.getByRole('button', { name: 'Mend it' }).click();
  await expect(
    page.getByText(/Customers meet version 2 of Repairs line. One conversation going on meets it/),
  ).toBeVisible();
  await say(handset, '204817');
  await expect(handset.getByText('Tell us what broke, please.')).toBeVisible();
  // It is in the draft as well, and History takes it back as one.
  await page.goto('/bots/bot_repairs');
  await expect(page.getByText('Tell us what broke, please.').first()).toBeVisible();
  await page.goto('/history');
  await expect(
    page
      .getByRole('main')
      .getByText(/words of a bot/i)
      .first(),
  ).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).first().click();
  await page.goto('/bots/words?find=what+broke');
  await expect(page.getByText('No customer meets “what broke”')).toBeVisible();
});

test('French is opened at one door after its gaps are filled from one file', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/languages?language=fr');
  const doors = page.getByRole('region', { name: 'Doors' });
  const door = doors
    .getByRole('listitem')
    .filter({ has: page.getByRole('link', { name: 'Repairs line' }) })
    .first();
  await expect(door.getByRole('button', { name: 'Open' })).toBeDisabled();
  await expect(door.getByText(/gaps its customers would meet/)).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Take out what it lacks' }).click(),
  ]);
  const { header, rows } = readTable(readFileSync(await file.path(), 'utf8'));
  const [original, text] = [header.indexOf('original'), header.indexOf('text')];
  const filled = writeTable(
    header,
    rows.map(({ cells }) =>
      header.map((_h, i) => (i === text ? `F ${cells[original] || 'x'}`.slice(0, 79) : (cells[i] ?? ''))),
    ),
  );
  // A file with a fault is told by row, and nothing is taken from it.
  const bring = (body: string) =>
    page
      .locator('input[type=file]')
      .setInputFiles({ name: 'words.csv', mimeType: 'text/csv', buffer: Buffer.from(body) });
  await bring(`${filled}\r\nbot nobody x,,,,,y`);
  await expect(page.getByRole('dialog').getByText(/There is no sentence with the id bot nobody x here/)).toBeVisible();
  await page.keyboard.press('Escape');
  await bring(filled);
  const dialog = page.getByRole('dialog', { name: 'Words in French' });
  await expect(dialog.getByText(`${rows.length} sentences would change.`)).toBeVisible();
  await dialog.getByRole('button', { name: 'Take them in' }).click();
  await expect(page.getByText(`${rows.length} sentences are taken in.`)).toBeVisible();
  await expect(page.getByText('French lacks nothing')).toBeVisible();
  await expect(door.getByRole('button', { name: 'Open' })).toBeDisabled();
  await door.getByText('one gap its customers would meet').click();
  await door.getByRole('link', { name: 'Repairs line: it is written in French, and is to be published' }).click();
  await page.getByRole('button', { name: 'Check & publish' }).click();
  await page.getByRole('button', { name: 'Publish version 2' }).click();
  await expect(page.getByText(/version 2/i).first()).toBeVisible();
  await page.goto('/bots/languages?language=fr');
  await door.getByRole('button', { name: 'Open' }).click();
  await expect(page.getByText('Repairs line is open in French.')).toBeVisible();
  await expect(door.getByText('open', { exact: true })).toBeVisible();
});
