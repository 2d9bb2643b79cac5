import type { Download, Page } from '@playwright/test';
import { customer, expect, say, test, window } from './lane';

async function textOf(file: Download): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of await file.createReadStream()) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}
const bring = (page: Page, name: string, text: string) =>
  page.getByLabel('Phrasebook file').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
const ask = async (page: Page, text: string) => {
  await page.getByRole('textbox', { name: 'Phrase', exact: true }).fill(text);
  await page.keyboard.press('Enter');
};

test('the phrasebook goes out and comes in as CSV and JSON with a preview; a broken file names its line and changes nothing', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/phrasebook');
  const [csvFile] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV', exact: true }).click(),
  ]);
  const csv = await textOf(csvFile);
  expect(csv).toContain('swap_size');
  const [jsonFile] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Take out (JSON)' }).click(),
  ]);
  const json = await textOf(jsonFile);
  await bring(page, 'broken.json', json.replace('"recognised"', 'recognised'));
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText(/Line \d+: /);
  await page.keyboard.press('Escape');
  await bring(page, 'broken.csv', `${csv.trimEnd()}\r\nnot an id,x,en,hello\r\n`);
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('An intent’s id is letters');
  await page.keyboard.press('Escape');
  await expect(page.getByText('11 intents', { exact: true })).toBeVisible();
  // One more intent by CSV: nothing counts before it is kept, and it is understood from then on.
  await bring(
    page,
    'more.csv',
    `${csv.trimEnd()}\r\nlessons,Lessons,en,do you teach the theremin\r\nlessons,Lessons,en,theremin ` +
      `lessons please\r\nlessons,Lessons,en,who gives theremin lessons\r\n`,
  );
  await expect(page.getByRole('dialog').getByText(/^12 intents with \d+ phrases/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('button', { name: 'Keep and learn' }).click();
  await expect(page.getByText('Kept and learnt.', { exact: false })).toBeVisible();
  await ask(page, 'a theremin lesson');
  await expect(page.getByLabel('Try a phrase').getByRole('listitem').first()).toContainText('Lessons');
  // And back by JSON.
  await bring(page, 'as it was.json', json);
  await expect(page.getByText('1 intents of now are not in it.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByText('12 intents', { exact: true })).toBeVisible();
});

test('lists and patterns of things are made, learnt and picked out of a phrase; the book is judged and leads to its intents', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/phrasebook');
  await page.getByRole('tab', { name: 'Things to recognise' }).click();
  const instruments = page.getByRole('region', { name: 'Instrument' });
  await expect(instruments.getByRole('button', { name: 'Take Instrument out' })).toBeDisabled();
  await instruments.getByLabel('New thing of Instrument').fill('--');
  await page.keyboard.press('Enter');
  await expect(instruments.getByText('29 things', { exact: false })).toBeVisible();
  await instruments.getByLabel('New thing of Instrument').fill('theremin, ether wave');
  await page.keyboard.press('Enter');
  await expect(instruments.getByLabel('theremin, English')).toHaveValue('theremin, ether wave');
  await page.getByRole('button', { name: 'New pattern' }).click();
  await page.getByLabel('Name of New pattern').fill('Case label');
  const pattern = page.getByRole('region', { name: 'Case label' });
  await pattern.getByLabel('Written like (RE2 pattern)').fill('C[0-9');
  await expect(pattern.getByText('The pattern cannot be read.')).toBeVisible();
  await pattern.getByLabel('Written like (RE2 pattern)').fill('C-[0-9]{3}');
  await expect(pattern.getByText('The example does not fit.')).toBeVisible();
  await pattern.getByLabel('An example').fill('C-204');
  await expect(pattern.getByText('It fits.')).toBeVisible();
  await page.getByRole('button', { name: 'Keep and learn' }).click();
  await expect(page.getByText('Kept and learnt.', { exact: false })).toBeVisible();
  await ask(page, 'my ether wave from case c-117');
  await expect(page.getByText('Instrument = theremin')).toBeVisible();
  await expect(page.getByText('Case label = C-117')).toBeVisible();
  await pattern.getByRole('button', { name: 'Take Case label out' }).click();
  await expect(pattern).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(pattern).toBeVisible();

  await page.getByRole('tab', { name: 'Quality' }).click();
  await expect(page.getByRole('heading', { name: 'By intent' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('row', { name: /^Swap size 42 \d+% \d+%$/ })).toBeVisible();
  await page
    .getByRole('row', { name: /^Swap size/ })
    .getByRole('button')
    .click();
  await expect(page.getByLabel('Label')).toHaveValue('Swap size');
});

test('what a bot did not understand is dropped onto an intent, learnt, and understood from the next version on', async ({
  browser,
  lane,
}) => {
  const handset = await customer(browser, lane, 'Website chat');
  await say(handset, 'zigzag parkour trampoline');
  await expect(handset.getByText(/no.*entendido|did not understand|Sorry/i).first()).toBeVisible();
  const page = await window(browser, lane, 'Noor Amsel', '/bots/phrasebook');
  await page.getByRole('tab', { name: 'Not understood 1' }).click();
  await page.getByText('zigzag parkour trampoline').dragTo(
    page
      .getByRole('listitem')
      .filter({ hasText: /^School account$/ })
      .last(),
  );
  await expect(page.getByText('Nothing was left un-understood')).toBeVisible();
  await page.getByRole('textbox', { name: 'Phrase', exact: true }).fill('a zigzag trampoline');
  await page.keyboard.press('Enter');
  await expect(page.getByText('none of these')).toHaveCount(0);
  await page.goto('/bots/bot_chat');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const tried = page.getByRole('list', { name: 'Tried conversation' });
  await page.getByLabel('Say something').fill('zigzag trampoline');
  await page.keyboard.press('Enter');
  await expect(tried.getByText(/heard school account 0\.\d\d/)).toBeVisible();
  await expect(tried.getByText('To School accounts')).toBeVisible();
  await expect(tried.getByText(/The person sees/)).toContainText('Reason: a school');
});
