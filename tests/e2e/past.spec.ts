import { expect, test, window } from './lane';

const iso = (day: number, minute: number): string => new Date(Date.UTC(2025, 10, 1 + day, 9, minute)).toISOString();
/** A year of somebody else's: two contacts a day, each answered by one of two people or given up. */
function year(): string {
  const lines = Array.from({ length: 730 }, (_, i) => {
    const day = Math.floor(i / 2);
    const lost = i % 10 === 9;
    return JSON.stringify({
      id: `EXT-${i}`,
      channel: 'voice',
      door: 'Shop line',
      language: 'en',
      customer: `guest ${i % 50}`,
      startedAt: iso(day, i % 50),
      endedAt: iso(day, (i % 50) + (lost ? 2 : 6)),
      ended: lost ? 'gave-up' : 'resolved',
      visits: [
        {
          queue: 'Orders',
          enteredAt: iso(day, i % 50),
          waitedSeconds: 60,
          goalSeconds: 30,
          ended: lost ? 'gave-up' : 'accepted',
          endedAt: iso(day, (i % 50) + 1),
        },
      ],
      turns: lost
        ? []
        : [
            {
              person: i % 2 ? 'Ola Brandvik' : 'Mirra Stohl',
              acceptedAt: iso(day, (i % 50) + 1),
              endedAt: iso(day, (i % 50) + 6),
              outcome: 'Sold',
            },
          ],
    });
  });
  return [...lines, '{"id": "half a line"'].join('\n');
}

test('a year of somebody else’s data is read, brought in, reviewed, and taken out again', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/review/past');
  await expect(page.getByText('Nothing was brought in yet')).toBeVisible();
  await page.getByLabel('A file of the past').setInputFiles({
    name: 'old house.ndjson',
    mimeType: 'application/x-ndjson',
    buffer: Buffer.from(year()),
  });
  const file = page.getByRole('region', { name: 'old house.ndjson' });
  await expect(file.getByText('not kept yet')).toBeVisible();
  await expect(file.getByText('One line is refused')).toBeVisible();
  await file.getByText('Why lines are refused').click();
  await expect(file.getByText('It is not JSON.')).toBeVisible();
  await expect(file.getByText('Mirra Stohl')).toBeVisible();
  await file.getByRole('button', { name: 'Bring in 730 contacts' }).press('Enter');
  await expect(file.getByText('brought in', { exact: true })).toBeVisible();

  await file.getByRole('link', { name: 'Review of these days' }).click();
  const figures = page.getByRole('region', { name: 'Figures' });
  await expect(figures.getByRole('button', { name: /^Contacts 730/ })).toBeVisible();
  await expect(figures.getByRole('button', { name: /^Gave up waiting 10%/ })).toBeVisible();
  await page.getByRole('link', { name: 'Mirra Stohl' }).click();
  await expect(page.getByRole('heading', { name: 'Mirra Stohl', level: 1 })).toBeVisible();
  await page.getByRole('button', { name: 'See the contacts' }).click();
  await page.getByRole('dialog').getByRole('link').first().click();
  await expect(page.getByText('Mirra Stohl handled it in 5:00, filed Sold')).toBeVisible();

  await page.goto(`${lane.url}/review/past`);
  await file.getByRole('button', { name: 'Take out again…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take it out' }).click();
  await expect(page.getByText('Nothing was brought in yet')).toBeVisible();
  await page.goto(`${lane.url}/review?from=2025-11-01&to=2026-10-31`);
  await expect(figures.getByRole('button', { name: /^Contacts 0/ })).toBeVisible();
});

test('whoever has some teams does not bring in the past', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Bertil Achterberg', '/review/past');
  await expect(page.getByText('You may not open bringing in the past')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Bring in', exact: true })).toHaveCount(0);
});
