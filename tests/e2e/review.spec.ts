import { choose, contactBy, customer, expect, reply, readyAgent, say, test, window } from './lane';

test('a lead asks Review by queue and day, opens a person and the contacts behind a figure; a link shares what was asked', async ({
  browser,
  lane,
}) => {
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await contactBy(lane, desk, 'door_web', ['a repair', '204816', 'the bridge snapped']);
  await expect(desk.getByText('Repairs for you')).toBeVisible();
  await desk.keyboard.press('t');
  await reply(desk).fill('Hello, I can send a replacement.');
  await desk.keyboard.press('Control+Enter');
  await desk.getByRole('button', { name: 'Finish' }).click();
  await desk.getByRole('button', { name: 'Repair booked' }).click();
  await expect(desk.getByText('Ready. The next contact that fits comes to you.')).toBeVisible();

  const page = await window(browser, lane, 'Noor Amsel', '/review');
  // A figure shows its line, and on one press its contacts.
  const level = page.getByRole('button', { name: /^Answered in goal 100%/ });
  await expect(level).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: /^Mean wait/ }).click();
  await expect(page.getByRole('region', { name: 'Mean wait, by day' })).toBeVisible();
  await level.click();
  await page.getByRole('button', { name: 'See the contacts', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('heading', { name: 'Answered in goal 100%' })).toBeVisible();
  await dialog.getByRole('button', { name: 'not: 0' }).click();
  await expect(dialog.getByText('No contact stands behind this figure')).toBeVisible();
  await dialog.getByRole('button', { name: 'counted in: 1' }).click();
  await expect(dialog.getByRole('row')).toHaveCount(2);
  await page.keyboard.press('Escape');

  // Narrowed by the keyboard alone, to a queue in which nothing came.
  await page.getByRole('button', { name: 'Narrow by…' }).focus();
  await page.keyboard.press('Enter');
  await dialog.getByLabel('Queues', { exact: true }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Bill');
  // The list follows what is typed a moment later, as somebody who looks at it sees.
  await expect(page.getByRole('option', { name: 'Billing' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('button', { name: 'Take out Billing' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Show' }).press('Enter');
  await expect(page).toHaveURL(/queue=queue_billing/);
  await expect(page.getByText('Queues: Billing')).toBeVisible();
  await expect(page.getByText('No contact was finished in this range')).toBeVisible();
  await page.getByRole('button', { name: 'Not narrowed by queues' }).click();
  await expect(page).not.toHaveURL(/queue=/);

  // A view kept for all leads everybody to what they may see.
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Keep this view…' }).click();
  await dialog.getByLabel('Name').fill('Our week');
  await dialog.getByLabel(/^For everybody/).check();
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  await expect(page.getByRole('menuitem', { name: 'Our week yours, for all' })).toBeVisible();
  // It is mailed in the morning, and Review begins with it.
  await page.getByRole('menuitem', { name: 'Mail Our week…' }).click();
  await dialog.getByLabel('When').click();
  await page.getByRole('option', { name: 'on Mondays' }).click();
  await dialog.getByLabel('Add somebody').click();
  await page.getByRole('option', { name: 'Bertil Achterberg' }).click();
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Our week is mailed at seven in the morning.')).toBeVisible();
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Begin with Our week' }).click();
  await expect(page.getByText('Review begins with Our week.')).toBeVisible();
  const before = new URL(page.url());
  await page.goto(`${before.origin}/review`);
  await expect(page).toHaveURL(/from=.*to=/);
  await page.goto(before.href);

  // A person's own page, and from it the queue.
  await page.getByRole('link', { name: 'Odile Karrow' }).click();
  await expect(page.getByRole('heading', { name: 'Odile Karrow', level: 1 })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Handled 1/ })).toBeVisible();
  await page.getByRole('region', { name: 'By queue' }).getByRole('link', { name: 'Repairs' }).click();
  await expect(page.getByRole('heading', { name: 'Repairs', level: 1 })).toBeVisible();
  await page.getByRole('link', { name: 'Outcomes' }).click();
  await page.getByRole('button', { name: /^Repair booked: Handle time/ }).click();
  await expect(dialog.getByRole('heading', { name: /^Repair booked: Handle time/ })).toBeVisible();
  await dialog.getByRole('link').click();
  await expect(page.getByText('filed REPAIR')).toBeVisible();

  // The same contact is found again by what was said, from anywhere.
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Name of a page, person, queue, bot, door or customer').fill('bridge snapped');
  await page.getByRole('option', { name: 'Contacts in which “bridge snapped” was said' }).click();
  await expect(page.getByRole('heading', { name: 'Find a contact' })).toBeVisible();
  const listed = page.getByRole('region', { name: 'Contacts found' });
  await expect(listed.getByText('the bridge snapped')).toBeVisible();
  await page.getByLabel('Customer', { exact: true }).fill('nobody at all');
  await page.keyboard.press('Enter');
  await expect(listed.getByText('No contact like that in this range')).toBeVisible();

  // What somebody else finds under the same address is what they may see.
  const supervisor = await window(browser, lane, 'Bertil Achterberg', '/review/people');
  await expect(supervisor.getByText('queues that your people serve')).toBeVisible();
  await expect(supervisor.getByRole('heading', { name: 'People', level: 1 })).toBeVisible();
  await expect(supervisor.getByRole('link', { name: 'Odile Karrow' })).toHaveCount(0);
  await supervisor.getByRole('button', { name: 'Views', exact: true }).press('Enter');
  await supervisor.getByRole('menuitem', { name: 'Our week Noor Amsel' }).press('Enter');
  await expect(supervisor.getByRole('heading', { name: 'How the team did' })).toBeVisible();
  await expect(supervisor.getByText('queues that your people serve')).toBeVisible();
  await supervisor.goto('/review/people/person_05');
  await expect(supervisor.getByText('There is nothing by that name that you may see.')).toBeVisible();
});

test('an empty range says so, days move by whole ranges, and what cannot be asked is told', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/review?from=2026-03-02&to=2026-03-08');
  await expect(page.getByText('No contact was finished in this range')).toBeVisible();
  await expect(page.getByText('No contact came in this range')).toBeVisible();
  await page.getByRole('button', { name: 'Earlier' }).click();
  await expect(page).toHaveURL(/from=2026-02-23&to=2026-03-01/);
  await page.getByRole('button', { name: 'Later' }).click();
  await expect(page).toHaveURL(/from=2026-03-02/);
  for (const kind of ['people', 'teams', 'queues', 'channels', 'doors', 'bots', 'languages', 'skills', 'outcomes']) {
    await page.goto(`/review/${kind}?from=2026-03-02&to=2026-03-08`);
    await expect(page.getByText('Nothing in this range')).toBeVisible();
  }
  await page.goto('/review/moods');
  await expect(page.getByText('Review has no such page.')).toBeVisible();
  for (const strange of ['nobody', '%25', '%2525', '..%2F..', '%F0%9F%8E%BB']) {
    expect((await page.goto(`/review/people/${strange}`))?.status(), strange).toBeLessThan(500);
    await expect(page.getByText('There is nothing by that name that you may see.')).toBeVisible();
  }
  await page.goto('/review?from=2026-03-02&to=2026-03-08&from_a_letter=1');
  await expect(page.getByText('No contact was finished in this range')).toBeVisible();
  await page.goto('/review?from=2020-01-01');
  await expect(page.getByText(/A range may cover at most 400 days/)).toBeVisible();
});

test('a lead finds the missed Monday and its hours, opens the shifts; compares two people and reads the sum; looks at a day', async ({
  browser,
  pastLane: lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', `/review?from=${lane.past.from}&to=${lane.past.to}`);
  const stands = page.getByRole('region', { name: 'Stands out' });
  await expect(stands.getByText(/New hire misses its goal, Mondays 10:00–12:00/)).toBeVisible();
  await stands.getByRole('button', { name: 'See the 50' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('50 contacts')).toBeVisible();
  await page.keyboard.press('Escape');

  // Two people side by side: the reasons sum to the difference, and each opens its contacts.
  await page.getByRole('link', { name: 'Odile Karrow' }).click();
  await expect(page.getByRole('heading', { name: 'Odile Karrow', level: 1 })).toBeVisible();
  await page.getByRole('link', { name: 'Beside another…' }).click();
  await expect(page.getByText('Choose what it is put beside')).toBeVisible();
  await page.getByLabel('Beside whom').click();
  await page.getByRole('option', { name: 'Tamsin Orrel' }).click();
  const why = page.getByRole('region', { name: 'Why they differ' });
  await expect(why.getByRole('heading', { name: /^Why Odile Karrow took \d+ more contacts$/ })).toBeVisible();
  const differences = await why.locator('tbody tr td:nth-child(5)').allTextContents();
  const sum = differences.reduce((n, text) => n + Number(text.replace('−', '-').replace('+', '')), 0);
  await expect(why.locator('tfoot td').nth(4)).toHaveText(`+${sum}`);
  await why.getByRole('button', { name: 'does not meet French' }).click();
  await expect(page.getByRole('heading', { name: '…does not meet French' })).toBeVisible();
  await page.getByRole('button', { name: 'Swap' }).click();
  await expect(why.getByRole('heading', { name: /^Why Tamsin Orrel took \d+ fewer contacts$/ })).toBeVisible();

  // A day of theirs, chosen by the keyboard.
  await page.goto(`${lane.url}/review/people/person_05?from=${lane.past.from}&to=${lane.past.to}`);
  const days = page.getByRole('region', { name: 'Their day' });
  await days.getByRole('button', { name: /^Mon/ }).focus();
  await page.keyboard.press('Enter');
  await expect(days.getByRole('link', { name: /^Voice at 10:02, New hire/ }).first()).toBeVisible();
  await expect(days.getByText('Every offer was taken.')).toBeVisible();

  // A day that was not like others is marked, named, and no longer.
  await page.goto(`${lane.url}/review?from=${lane.past.from}&to=${lane.past.to}`);
  await page.getByRole('button', { name: 'Mark days that were not like others…' }).click();
  await dialog.getByLabel('In words').fill('The telephone exchange');
  await dialog.getByRole('button', { name: 'Mark', exact: true }).click();
  await expect(page.getByText(/: The telephone exchange/)).toBeVisible();
  await page.getByRole('button', { name: 'No longer mark The telephone exchange' }).click();
  await expect(page.getByText(/: The telephone exchange/)).toHaveCount(0);

  // From what stands out to the shifts.
  await page.goto(`${lane.url}/review?from=${lane.past.from}&to=${lane.past.to}`);
  await stands.getByRole('link', { name: 'Open the shifts' }).first().click();
  await expect(page).toHaveURL(/people\/shifts/);
});

test('messages by hour and door, and two ranges side by side, are a press away', async ({ browser, lane }) => {
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await contactBy(lane, desk, 'door_web', ['a repair', '204816', 'the bridge snapped']);
  await expect(desk.getByText('Repairs for you')).toBeVisible();
  await desk.keyboard.press('t');
  await reply(desk).fill('Hello, I can send a replacement.');
  await desk.keyboard.press('Control+Enter');
  await expect(reply(desk)).toHaveValue('');

  const page = await window(browser, lane, 'Noor Amsel', '/review');
  await page.getByRole('link', { name: 'Messages', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Messages', exact: true, level: 1 })).toBeVisible();
  await page.getByRole('button', { name: /^Written by people 1/ }).click();
  await page.getByRole('button', { name: 'See the contacts', exact: true }).click();
  await expect(page.getByRole('dialog').getByRole('row')).toHaveCount(2);
  await page.keyboard.press('Escape');
  const hours = page.getByRole('region', { name: 'When it was written' });
  await hours.getByRole('button', { name: 'contacts' }).press('Enter');
  await expect(hours.getByRole('button', { name: 'contacts' })).toHaveAttribute('aria-pressed', 'true');
  const door = page.getByRole('region', { name: 'By door' }).getByRole('row', { name: /Website chat/ });
  await expect(door).toBeVisible();

  // What a page is compared with leads to both beside each other.
  await page.getByRole('link', { name: /^against/ }).click();
  await expect(page.getByRole('heading', { name: 'Two ranges side by side' })).toBeVisible();
  const row = page.getByRole('row', { name: /^Messages in/ });
  await expect(row).toContainText('3');
  await row.getByRole('button').press('Enter');
  await expect(page.getByRole('region', { name: /^Messages in, by/ })).toBeVisible();
});

test('a lead finds whoever seemed upset, says otherwise where that was judged wrongly, and the figures go by it', async ({
  browser,
  lane,
}) => {
  const handset = await customer(browser, lane, 'Website chat', { name: 'Ida Lindqvarn' });
  await say(handset, 'I am very disappointed, this is a disgrace');
  await handset.getByRole('button', { name: 'Leave' }).click();
  await expect(handset.getByText('The conversation has ended.')).toBeVisible();
  const lead = await window(browser, lane, 'Noor Amsel', '/review/find');
  await choose(lead.getByLabel('Mood'), 'upset');
  await lead.getByRole('button', { name: 'Find', exact: true }).click();
  const found = lead.getByRole('table', { name: 'Contacts found' });
  await expect(found.getByText('upset')).toBeVisible();
  await found.getByRole('link').first().click();
  await expect(lead.getByText('judged automatically by their words')).toBeVisible();
  await choose(lead.getByLabel('How the customer felt'), 'They were pleased');
  await expect(lead.getByText('said by Noor Amsel')).toBeVisible();
  await lead.goto('/review/find?mood=upset');
  await expect(lead.getByText('No contact like that in this range')).toBeVisible();
  await lead.goto('/review/find?mood=pleased');
  await expect(found.getByText('pleased')).toBeVisible();
});
