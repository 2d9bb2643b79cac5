import { choose, customer, expect, test, window } from './lane';

test('levels by keyboard over the matrix, and undo', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  const cell = (skill: string, words: string) =>
    page.getByRole('gridcell', { name: `Bertil Achterberg, ${skill}: ${words}` });
  await cell('Brass', 'none').click();
  await page.keyboard.press('4');
  await expect(cell('Brass', 'level 4, set on the person')).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(page.locator(':focus')).toHaveAccessibleName(/^Bertil Achterberg, Woodwind/);
  await page.keyboard.press('5');
  await expect(cell('Woodwind', 'level 5, set on the person')).toBeVisible();
  await page.keyboard.press('0');
  await expect(cell('Woodwind', 'level 3, from the team Front desk')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(cell('Woodwind', 'level 5, set on the person')).toBeVisible();
  await page.reload();
  await expect(cell('Brass', 'level 4, set on the person')).toBeVisible();
});

test('add a person, with faults named, and find them by go-to', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  await page.getByRole('button', { name: 'Add a person' }).click();
  const form = page.getByRole('form', { name: 'Add a person' });
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(form.getByText('The name is missing')).toBeVisible();
  await form.getByLabel('Full name').fill('Linnea Corby-Vale');
  await form.getByLabel('Name shown to customers').fill('Linnea');
  await form.getByLabel('E-mail address').fill('tamsin.orrel@brindlewood.example');
  await form.getByLabel('Chat at once').fill('2');
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(form.getByText('is taken')).toBeVisible();
  await form.getByLabel('E-mail address').fill('linnea.corby@brindlewood.example');
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('heading', { name: 'Linnea Corby-Vale' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/Name of a page/).fill('linnea');
  await expect(page.getByRole('option', { name: 'Linnea Corby-Vale' })).toHaveAttribute('data-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/person=person_/);
});

test('a duty profile changed on the board counts for everybody on it at once', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people?person=person_05');
  await page.getByRole('link', { name: 'duty: Repairs first' }).click();
  await page.getByRole('button', { name: 'Pick Chat of Billing' }).click();
  await page.getByRole('group', { name: /^Billing by .*, not taken/ }).press('2');
  const joins = page.getByRole('slider', { name: 'Billing, band 2: joins after seconds' });
  for (let i = 0; i < 3; i++) await joins.press('ArrowRight');
  await expect(joins).toHaveAttribute('aria-valuenow', '15');
  await expect(page.getByRole('group', { name: 'Billing by Chat, band 2' })).toBeVisible();
  await page.getByRole('button', { name: /^Apply to \d+ people/ }).click();
  await expect(page.getByText(/applied to \d+ people/)).toBeVisible();
  await page.goto('/people?person=person_05');
  await expect(
    page.getByRole('listitem').filter({ hasText: 'Billing' }).filter({ hasText: 'after 15 s' }),
  ).toBeVisible();
});

test('a queue is added, previewed with counts, applied, and its name cannot be taken twice', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues');
  await page
    .getByRole('button', { name: /Repairs/ })
    .first()
    .click();
  const dialog = page.getByRole('dialog');
  const asked = page.getByRole('group', { name: 'Who is asked' });
  await expect(asked).toContainText(/[1-9]\d* people/);
  await page.getByRole('button', { name: 'Change what it takes' }).click();
  await choose(dialog.getByLabel('Lowest level of Repairs triage'), { value: '5' });
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: 'Apply from the next visit' })).toBeEnabled();
  await page.getByRole('button', { name: 'Undo changes' }).click();
  await expect(page.getByRole('button', { name: 'Nothing changed' })).toBeVisible();
  await page.getByRole('button', { name: 'New', exact: true }).click();
  await dialog.getByLabel('Name', { exact: true }).fill('repairs');
  await expect(dialog.getByText('This name is taken: Repairs is there already')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Done' })).toBeDisabled();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add the queue' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'is taken' })).toBeVisible();
  await page.getByRole('button', { name: 'Change what it takes' }).click();
  await dialog.getByLabel('Name', { exact: true }).fill('Tuning');
  await choose(dialog.getByLabel('Add a needed skill'), 'Keyboards');
  await dialog.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: 'Change picks the person by' }).click();
  await dialog.getByRole('radio', { name: /Even load/ }).check();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: 'Add the queue' }).click();
  await expect(page.getByRole('img', { name: /from 0 s 0 able of 0 on duty/ })).toBeVisible();
  await page.goto('/tofix');
  await expect(
    page
      .getByRole('listitem')
      .filter({ hasText: 'Tuning' })
      .filter({ hasText: 'Voice: nobody at all could take its contacts' }),
  ).toBeVisible();
  await page.goto('/queues');
  await page.getByRole('button', { name: /^Tuning/ }).click();
  await expect(page.getByRole('region', { name: 'Picks the person by' })).toContainText('Even load');
});

test('hours changed close a door at once', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/doors');
  await page.getByRole('link', { name: 'Change hours' }).click();
  await page.getByRole('button', { name: /^Shop and evening/ }).click();
  const week = page.getByRole('region', { name: 'Every week' });
  while ((await week.getByRole('button', { name: /^Remove/ }).count()) > 0)
    await week
      .getByRole('button', { name: /^Remove/ })
      .first()
      .click();
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText(/applied; whatever uses it follows at once/)).toBeVisible();
  await page.goto('/doors');
  await expect(page.getByText('3 open now')).toBeVisible();
  const handset = await customer(browser, lane, 'Website chat');
  await expect(handset.getByText(/We are closed just now/)).toBeVisible();
});
