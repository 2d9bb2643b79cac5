import { wave } from '../helpers/wave';
import { customer, expect, test, window } from './lane';

test('a sentence is recorded, heard by callers, and spoken again when its recording is taken away', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/recordings');
  await expect(page.getByRole('status')).toContainText('0 of');
  await page.getByLabel('Find words').fill('Which language shall we speak?');
  const line = page.getByRole('row', { name: /Which language shall we speak/ });
  await line.getByLabel(/^Recording of/).setInputFiles({
    name: 'page.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('<html>'),
  });
  await expect(page.getByText('This browser cannot play the file. Use WAV, MP3 or Ogg.')).toBeVisible();
  await line.getByLabel(/^Recording of/).setInputFiles({
    name: 'which.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(wave(1.5), 'base64'),
  });
  await expect(line.getByRole('button', { name: /^Play/ })).toHaveText('▶ 1.5 s');
  await expect(page.getByRole('status')).toContainText('1 of');
  const handset = await customer(browser, lane, 'Main number');
  await expect(handset.getByText('recorded', { exact: true })).toBeVisible();
  // The rest of its bot is still spoken, which whoever writes it is told.
  await page.goto('/bots/bot_front');
  await expect(page.getByText(/sentences are recorded and the others spoken/)).toBeVisible();
  await page.goto('/bots/recordings');
  await page.getByRole('button', { name: /^Remove the recording of/ }).click();
  await expect(page.getByRole('status')).toContainText('0 of');
  const again = await customer(browser, lane, 'Main number');
  await expect(again.getByText(/Which language shall we speak/)).toBeVisible();
  await expect(again.getByText('recorded', { exact: true })).toHaveCount(0);
});

test('music of one’s own is added and chosen on a wait clock', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/recordings');
  await page.getByLabel('Music file').setInputFiles({
    name: 'Harbour lights.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(wave(2), 'base64'),
  });
  await expect(page.getByText('no queue plays it')).toBeVisible();
  await page.goto('/queues?queue=queue_repairs');
  await page.getByRole('button', { name: 'Add to Hears' }).click();
  await page.getByRole('menuitem', { name: 'Music: Harbour lights' }).click();
  await page.getByRole('button', { name: 'Apply from the next visit' }).click();
  await page.goto('/bots/recordings');
  await expect(page.getByText('played by Repairs')).toBeVisible();
  await page.getByRole('button', { name: 'Remove Harbour lights' }).click();
  await expect(page.getByText('It is played by Repairs. Take it out of their clocks first.')).toBeVisible();
});
