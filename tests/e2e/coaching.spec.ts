import { monthName } from '../../src/ui/coaching/months';
import { expect, test, window } from './lane';

test('a coach draws contacts, rates one, marks another for a talk, and the person reads what was shared', async ({
  browser,
  pastLane: lane,
}) => {
  const page = await window(browser, lane, 'Bertil Achterberg', '/review/coaching');
  const table = page.getByRole('table');
  await expect(table.getByRole('link', { name: 'Tamsin Orrel' })).toBeVisible();
  await expect(table.getByRole('link', { name: 'Odile Karrow' })).toHaveCount(0);
  // By the floor's clock the week before this one may lie in the month before.
  const month = page.getByText(monthName(lane.past.to.slice(0, 7)), { exact: true });
  if ((await month.count()) === 0) await page.getByRole('button', { name: 'The month before' }).click();
  await expect(month).toBeVisible();
  await page.getByRole('button', { name: 'Draw contacts to rate' }).click();
  await expect(page.getByText('4 contacts were drawn to be rated.')).toBeVisible();
  const due = page.getByRole('region', { name: 'To rate' });
  await expect(due.getByRole('link')).toHaveCount(4);
  await expect(due.getByText('took longest')).toHaveCount(1);

  // Rated by the keyboard alone.
  await due.getByRole('link').first().click();
  const coaching = page.getByRole('region', { name: 'Coaching' });
  await expect(coaching.getByText(/^Drawn to be rated for Tamsin Orrel/)).toBeVisible();
  await coaching.getByRole('button', { name: 'Rate it…' }).press('Enter');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: 'Keep the rating' })).toBeDisabled();
  const understood = dialog.getByRole('group', { name: /Understood/ });
  await understood.getByRole('radio', { name: 'met' }).press('Space');
  const right = dialog.getByRole('group', { name: /^Right/ });
  await right.getByRole('radio', { name: 'met' }).press('Space');
  await page.keyboard.press('ArrowRight');
  await expect(right.getByRole('radio', { name: 'partly' })).toBeChecked();
  await expect(dialog.getByText('75%')).toBeVisible();
  await dialog.getByLabel('In words').fill('Ask for the number first.');
  await dialog.getByRole('button', { name: 'Keep the rating' }).press('Enter');
  await expect(coaching.getByText('Ask for the number first.')).toBeVisible();
  await expect(coaching.getByText('Tamsin Orrel reads it')).toBeVisible();

  await coaching.getByRole('button', { name: 'Write a note…' }).click();
  await dialog.getByLabel('Note').fill('Look at the wrap-up together.');
  await dialog.getByLabel('To be talked about with Tamsin Orrel').check();
  await dialog.getByRole('button', { name: 'Keep the note' }).click();
  await expect(coaching.getByText('to talk about')).toBeVisible();
  await expect(coaching.getByText('coaches only')).toBeVisible();

  await page.goto(`${lane.url}/review/people/person_04?from=${lane.past.from}&to=${lane.past.to}`);
  await expect(coaching.getByText('Look at the wrap-up together.')).toBeVisible();
  await coaching.getByRole('button', { name: 'Talked about' }).click();
  await expect(coaching.getByText(/^talked about /)).toBeVisible();

  // A goal has its line in the chart.
  await page.getByRole('button', { name: /^Handle time/ }).click();
  await page.getByRole('button', { name: 'Set a goal…' }).click();
  await dialog.getByLabel('Reached with').click();
  await page.getByRole('option', { name: 'at most' }).click();
  await dialog.getByLabel('Value (seconds)').fill('240');
  await dialog.getByRole('button', { name: 'Set it' }).click();
  await expect(page.getByText('goal: at most 4:00')).toBeVisible();

  // Themselves they read the rating, which was shared, and not the note.
  const own = await window(browser, lane, 'Tamsin Orrel', '/desk');
  await own.getByRole('button', { name: /Tamsin Orrel/ }).click();
  await own.getByRole('menuitem', { name: 'How I did' }).click();
  await expect(own.getByRole('heading', { name: 'How I did' })).toBeVisible();
  await expect(own.getByText('Ask for the number first.')).toBeVisible();
  await expect(own.getByText('Look at the wrap-up together.')).toHaveCount(0);
});
