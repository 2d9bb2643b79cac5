import { expect, test, window } from './lane';

test('days are typed in any usual way, chosen from a calendar, or taken from ready-made ranges', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/review');
  const from = page.getByLabel('Days: from');
  await from.fill('3.9.2026');
  await page.keyboard.press('Tab');
  await expect(page).toHaveURL(/from=2026-09-03/);
  await expect(from).toHaveValue('3 Sept 2026');
  // What is no day is put back to what counts.
  await from.fill('sometime');
  await expect(from).toHaveAttribute('aria-invalid', 'true');
  await page.keyboard.press('Tab');
  await expect(from).toHaveValue('3 Sept 2026');
  await page.getByRole('button', { name: 'Days: choose from a calendar' }).click();
  await page.getByRole('button', { name: 'Last 28 days' }).click();
  await expect(page).not.toHaveURL(/from=2026-09-03/);

  await page.goto('/doors/hours');
  await page.getByRole('button', { name: 'Add a day' }).click();
  const day = page.getByLabel('Day', { exact: true }).last();
  await day.fill('24/12/2027');
  await page.keyboard.press('Tab');
  await expect(day).toHaveValue('24 Dec 2027');
  const start = page.getByLabel('Monday from').first();
  await start.fill('930');
  await page.keyboard.press('Tab');
  await expect(start).toHaveValue('09:30');
});

test('an arrow on a list never does anything by itself: choosing and doing are two acts', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  const team = page.getByLabel('Team', { exact: true });
  await team.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { selected: true })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Escape');
  await expect(team).toHaveText('All teams');
  await expect(team).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { selected: true })).toBeFocused();
  await page.keyboard.press('End');
  await expect(page.getByRole('option').last()).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(team).not.toHaveText('All teams');
});
