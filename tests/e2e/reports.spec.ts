import type { Page } from '@playwright/test';
import { expect, test, window } from './lane';

/** Keeps the page as it is, for all. */
async function keepView(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Keep this view…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill(name);
  await dialog.getByLabel(/^For everybody/).check();
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText(`Kept as ${name}.`)).toBeVisible();
}

test('a lead writes a report of kept views, sends it, and its reader finds it as it was, with what they may see', async ({
  browser,
  pastLane: lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/review/reports');
  await expect(page.getByText('No report yet')).toBeVisible();
  await page.goto('/review');
  await keepView(page, 'Everything');
  await page.goto('/review/people');
  await keepView(page, 'Everybody');

  await page.goto('/review/reports');
  await page.getByRole('button', { name: 'New report' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('How it went');
  for (const view of ['Everything', 'Everybody']) {
    await dialog.getByLabel('Add a view').click();
    await page.getByRole('option', { name: view, exact: true }).click();
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
  }
  await dialog.getByLabel('What you say of Everybody').fill('Who did how much.');
  // In another order, by the keyboard.
  await dialog.getByRole('button', { name: 'Everybody up' }).press('Enter');
  await dialog.getByRole('button', { name: 'Keep report' }).click();
  await expect(page.getByRole('heading', { name: 'How it went', level: 1 })).toBeVisible();
  await expect(page.getByRole('heading', { level: 2 })).toHaveText(['Everybody · Handled', 'Everything']);
  await expect(page.getByText('Who did how much.')).toBeVisible();
  const everything = page.getByRole('region', { name: 'Everything' });
  await expect(everything.getByRole('columnheader')).toHaveCount(5); // the figure, three months, the change
  await expect(everything.getByRole('rowheader', { name: 'Answered in goal' })).toBeVisible();

  await page.getByRole('button', { name: 'Send…' }).click();
  await dialog.getByLabel('To whom').click();
  await page.getByRole('option', { name: 'Bertil Achterberg' }).click();
  await dialog.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByRole('link', { name: 'How it went' }).nth(1)).toBeVisible();

  // It is forgotten; what was sent stays.
  await page.getByRole('link', { name: 'How it went' }).first().click();
  await page.getByRole('button', { name: 'Forget', exact: true }).click();
  await dialog.getByRole('button', { name: 'Forget it' }).click();
  await expect(page.getByText('No report yet')).toBeVisible();
  const theirs = await window(browser, lane, 'Bertil Achterberg', '/review/reports');
  await theirs.getByRole('link', { name: 'How it went' }).click();
  await expect(theirs.getByText(/as it was sent .* by Noor Amsel/)).toBeVisible();
  await expect(theirs.getByText('Who did how much.')).toBeVisible();
  await expect(theirs.getByText('Odile Karrow')).toHaveCount(0);
  await theirs.getByText('How the figures are made').click();
  await expect(theirs.getByText(/^Accepted within the goal/)).toBeVisible();
});

test('a supervisor of one team finds nobody of another on any page of Review', async ({ browser, pastLane: lane }) => {
  const { from, to } = lane.past;
  const mine = await window(browser, lane, 'Noor Amsel', `/review/people?from=${from}&to=${to}`);
  await expect(mine.getByRole('link', { name: 'Odile Karrow' })).toBeVisible();
  const page = await window(browser, lane, 'Bertil Achterberg', `/review/people?from=${from}&to=${to}`);
  await expect(page.getByRole('link', { name: 'Tamsin Orrel' })).toBeVisible();
  await expect(page.getByText('Odile Karrow')).toHaveCount(0);
  const pages = [
    '',
    '/callbacks',
    '/messages',
    '/ranges',
    '/reports',
    '/coaching',
    '/teams',
    '/queues',
    '/channels',
    '/doors',
    '/bots',
    '/languages',
    '/skills',
    '/outcomes',
  ];
  const further = ['/queues/queue_newhire', '/languages/en', '/people/person_04', '/people/person_04/beside', '/find'];
  for (const path of [...pages, ...further]) {
    await page.goto(`/review${path}?from=${from}&to=${to}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page.getByText('Odile Karrow')).toHaveCount(0);
  }
  // Theirs are not there by their address either.
  for (const path of ['/people/person_05', '/people/person_05/beside', '/people/person_04/beside?with=person_05']) {
    await page.goto(`/review${path}`);
    await expect(page.getByText('This cannot be shown')).toBeVisible();
  }
});
