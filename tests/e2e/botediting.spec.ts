import type { Page } from '@playwright/test';
import { choose, customer, expect, test, window } from './lane';

const line = (page: Page, name: string) =>
  page.getByRole('group', { name: new RegExp(`^Line ${name.replace('.', '\\.')}`) });
const tried = (page: Page) => page.getByRole('list', { name: 'Tried conversation' });
/** A new bot whose script is empty. */
async function newBot(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'New bot' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Begin its script' }).click();
  await expect(page.getByRole('button', { name: 'New line in Welcome' })).toBeVisible();
}
/** A line of a verb at the end of the first scene, opened. */
async function add(page: Page, verb: string): Promise<void> {
  await page.getByRole('button', { name: 'New line in Welcome' }).click();
  await page.keyboard.type(verb);
  await page.keyboard.press('Enter');
}

test('a condition is built by clicking, read as a sentence, and decides when it is tried in a world set by hand', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots');
  await newBot(page, 'Sorter');
  await add(page, 'bra');
  await choose(page.getByLabel('Way 1: what, 1'), 'how many people …');
  await choose(page.getByLabel('Way 1: which people, 1'), 'in Repairs');
  await choose(page.getByLabel('Way 1: comparison, 1'), 'is more than');
  await page.getByLabel('Way 1: with, 1').fill('1');
  await page.getByRole('button', { name: 'and, or…' }).click();
  await choose(page.getByLabel('Way 1: what, 2'), 'the customer is known');
  await expect(
    page.getByText('free people at any stage in Repairs is more than 1 and the customer is known', { exact: true }),
  ).toBeVisible();
  await choose(page.getByLabel('Way 1: all or any'), { value: 'any' });
  await page.getByRole('button', { name: 'Done' }).click();
  await add(page, 'end');
  await page.getByLabel('Last words, English').fill('Nobody for you.');
  await page.keyboard.press('Escape');
  await add(page, 'end');
  await page.getByLabel('Last words, English').fill('Somebody for you.');
  await page.keyboard.press('Escape');
  await line(page, '1.1, Branch').press('Enter');
  // Enter leads into the line: what is typed goes into its first field.
  await expect(page.getByLabel('Way 1: what, 1')).toBeFocused();
  await choose(page.getByLabel('Way 1 goes to'), '→ 1.3');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(line(page, '1.1, Branch')).toContainText(
    'free people at any stage in Repairs is more than 1 or the customer is known',
  );

  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(tried(page).getByText('Nobody for you.')).toBeVisible();
  await page.getByRole('button', { name: 'Set the world it is tried in' }).click();
  await page.getByRole('dialog').getByLabel('Customer').fill('Ida');
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await expect(tried(page).getByText('Somebody for you.')).toBeVisible();
  await page.getByRole('button', { name: 'Set the world it is tried in' }).click();
  await page.getByRole('dialog').getByLabel('Customer').fill('');
  await page.getByRole('dialog').getByLabel('free people at any stage in Repairs').fill('2');
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await expect(tried(page).getByText('Somebody for you.')).toBeVisible();
  await page.getByRole('button', { name: 'Set the world it is tried in' }).click();
  await page.getByRole('dialog').getByLabel('free people at any stage in Repairs').fill('1');
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await expect(tried(page).getByText('Nobody for you.')).toBeVisible();
});

test(
  'several lines are chosen by keys, moved, duplicated, cut into another scene and brought back; a ' +
    'line’s users are found; a scene folds',
  async ({ browser, lane }) => {
    const page = await window(browser, lane, 'Noor Amsel', '/bots/bot_chat');
    const lines = async (scene: number) =>
      (await page.getByRole('group', { name: new RegExp(`^Line ${scene}\\.`) }).allTextContents()).map((t) =>
        t.replace(/^\d+\.\d+/, ''),
      );
    await expect(line(page, '1.1')).toBeVisible();
    for (const fold = page.getByRole('button', { name: /^Unfold/ }); (await fold.count()) > 0;)
      await fold.first().click();
    const [first, second] = [await lines(3), await lines(4)];
    expect(Math.min(first.length, second.length)).toBeGreaterThanOrEqual(2);
    await line(page, '3.1').focus();
    await page.keyboard.press('Shift+ArrowDown');
    await expect(page.getByRole('group', { name: /, chosen$/ })).toHaveCount(2);
    await page.keyboard.press('Control+d');
    expect(await lines(3)).toHaveLength(first.length + 2);
    await page.keyboard.press('Control+z');
    expect(await lines(3)).toEqual(first);
    // Cut, and put in below the first line of the next scene.
    await line(page, '3.1').focus();
    await page.keyboard.press('Escape');
    await page.keyboard.press(' ');
    await page.keyboard.press('Control+x');
    expect(await lines(3)).toHaveLength(first.length - 1);
    await line(page, '4.1').focus();
    await page.keyboard.press('Control+v');
    const dialog = page.getByRole('dialog');
    if (await dialog.isVisible()) await dialog.getByRole('button', { name: 'Put in' }).click();
    await expect.poll(() => lines(4)).toHaveLength(second.length + 1);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    expect([await lines(3), await lines(4)]).toEqual([first, second]);
    await page.keyboard.press('Control+Shift+z');
    expect(await lines(3)).toHaveLength(first.length - 1);
    await page.keyboard.press('Control+z');
    // Who leads to a line, and folding by the arrow key.
    await line(page, '4.1').focus();
    await page.keyboard.press('u');
    await expect(page.getByText(/^(4\.1 is reached from|Nothing leads to this line)/)).toBeVisible();
    await line(page, '4.1').focus();
    await page.keyboard.press('ArrowLeft');
    await expect(line(page, '4.1')).toHaveCount(0);
    // The key that folded it leads to what unfolds it, in the next frame.
    await expect(page.getByRole('button', { name: /^Unfold/ })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(line(page, '4.1')).toBeVisible();
  },
);

test('by voice Try it fits its panel; two who write one bot are told apart, and neither loses what they wrote', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/bot_front');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.getByRole('group', { name: 'Keypad' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep as test' })).toBeInViewport({ ratio: 1 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(
    0,
  );

  const other = await window(browser, lane, 'Nell Ashgrove', '/bots/bot_front');
  const name = (p: Page) => p.getByLabel('Name of the bot');
  await name(other).fill('Front door by Nell');
  await expect(other.getByText(/^Saved \d/)).toBeVisible();
  await name(page).fill('Front door by Noor');
  await expect(page.getByText('Not saved')).toBeVisible();
  await expect(name(page)).toHaveValue('Front door by Noor');
  // Another line of the same script is nobody's clash: it is there already.
  const both = page.getByRole('region', { name: 'Both versions' });
  await expect(both.getByText('Front door by Nell')).toBeVisible();
  await both
    .getByRole('group', { name: 'name' })
    .getByLabel(/^Yours/)
    .check();
  await both.getByRole('button', { name: 'Go on with this' }).click();
  await expect(both).toHaveCount(0);
  await expect(page.getByText(/^Saved \d/)).toBeVisible();
  await other.goto('/bots');
  await expect(other.getByText('Front door by Noor')).toBeVisible();

  // Out of reach it says so, asks before it is left, and is kept by itself as soon as the server is there again.
  await page.route('**/api/settings/**', (route) => route.abort());
  await name(page).fill('Front door again');
  await expect(page.getByText('Not saved')).toBeVisible();
  const asked = new Promise<string>((resolve) => {
    page.once('dialog', (dialog) => {
      resolve(dialog.type());
      void dialog.dismiss();
    });
  });
  await page.close({ runBeforeUnload: true });
  expect(await asked).toBe('beforeunload');
  await page.unroute('**/api/settings/**');
  await expect(page.getByText(/^Saved \d/)).toBeVisible();
  await other.reload();
  await expect(other.getByText('Front door again')).toBeVisible();
});

test('who may see bots but not write them reads everything and is offered nothing; an agent does not get there', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Bertil Achterberg', '/bots/bot_chat');
  await expect(page.getByRole('heading', { name: 'Chat front door' })).toBeVisible();
  for (const name of ['Check & publish', 'Undo', 'Add a scene', 'New line in Welcome'])
    await expect(page.getByRole('button', { name })).toHaveCount(0);
  await line(page, '1.1, Say').press('Enter');
  await expect(page.getByLabel('Says, English')).toHaveCount(0);
  // Trying is free: it changes nothing.
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(tried(page).getByRole('listitem').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep as test' })).toHaveCount(0);
  await page.getByRole('tab', { name: 'Wording' }).click();
  await expect(page.getByLabel('1.1, wording, English')).toBeDisabled();
  for (const [path, button] of [
    ['/bots', 'New bot'],
    ['/bots/phrasebook', 'Keep and learn'],
    ['/bots/shared', 'New scene'],
    ['/bots/connections', 'New connector'],
    ['/bots/articles', 'New article'],
    ['/bots/fields', 'New field'],
  ] as const) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page.getByRole('button', { name: button })).toHaveCount(0);
  }
  await page.goto('/bots/phrasebook');
  await page.getByRole('tab', { name: 'Things to recognise' }).click();
  await expect(page.getByLabel('violin, English')).toBeDisabled();
  for (const name of ['New list', 'New pattern', 'Take Instrument out', 'Add'])
    await expect(page.getByRole('button', { name, exact: true })).toHaveCount(0);
  const agent = await window(browser, lane, 'Odile Karrow', '/bots/bot_chat');
  await expect(agent.getByRole('heading', { name: 'Chat front door' })).toHaveCount(0);
  expect((await agent.request.get('/api/read/bot?id=bot_chat')).status()).toBe(403);
});

test('a picture is put into a line, worded, met in Try it and at the Handset, and what is no picture is refused', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/bot_chat');
  await line(page, '1.1, Say').press('Enter');
  const pick = (name: string, buffer: Buffer) =>
    page.getByLabel('Picture file').setInputFiles({ name, mimeType: 'image/png', buffer });
  await pick('page.png', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'));
  await expect(page.getByText('A picture is a PNG, JPEG, GIF or WebP file.')).toBeVisible();
  // One dot, made by hand.
  await pick(
    'dot.png',
    Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    ),
  );
  await expect(page.getByText('1.1 has no words for the picture', { exact: false })).toBeVisible();
  await page.getByLabel('What the picture shows, English').fill('A dot');
  await page.getByLabel('What the picture shows, Spanish').fill('Un punto');
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('No fault found in this script.')).toBeVisible();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(tried(page).getByRole('img', { name: 'A dot' })).toBeVisible();
  await page.getByRole('button', { name: 'Check & publish' }).click();
  await page.getByRole('button', { name: 'Publish version 2' }).click();
  await expect(page.getByText('2 is live · 3 doors')).toBeVisible();
  const met = await customer(browser, lane, 'Website chat', { language: 'es' });
  const shown = met.getByRole('img', { name: 'Un punto' });
  await expect(shown).toBeVisible();
  expect(await shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1);
});
