import { choose, customer, expect, readyAgent, reply, say, test, window } from './lane';

const press = async (handset: Awaited<ReturnType<typeof customer>>, keys: string) => {
  for (const key of keys)
    await handset.getByRole('button', { name: `Key ${key === '#' ? 'hash' : key}`, exact: true }).click();
};

test('a bot that calls back is written; a door shut by hand leads to it, says why and when it opens, and the typed number rings', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots');
  await page.getByRole('button', { name: 'New bot' }).click();
  await page.getByLabel('Name').fill('Ringer');
  await page.getByRole('button', { name: 'Begin its script' }).click();
  await page.getByRole('button', { name: 'New line in Welcome' }).click();
  await page.keyboard.type('call');
  await page.keyboard.press('Enter');
  await choose(page.getByLabel('Queue that calls'), 'Repairs');
  await page.getByText('Sentences').click();
  await page.getByLabel('Asks when, English').fill('When suits you? {options}');
  await choose(page.getByLabel('Nothing comes of it goes to'), '→ end');
  await page.keyboard.press('Escape');
  const line = page.getByRole('group', { name: /^Line 1\.1, Call back/ });
  await expect(line).toContainText('by Repairs, on their own number or another');
  await page.getByRole('radio', { name: /voice/i }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const tried = page.getByRole('list', { name: 'Tried conversation' });
  await expect(tried.getByText(/Shall we call you back on/)).toBeVisible();
  await page.getByLabel('Say something').fill('yes');
  await page.keyboard.press('Enter');
  await expect(tried.getByText(/^When suits you\? For as soon as possible, press 1\./)).toBeVisible();
  await page.getByLabel('Say something').fill('as soon as possible');
  await page.keyboard.press('Enter');
  await expect(tried.getByText(/a call promised to/)).toBeVisible();
  await expect(tried.getByText('To Repairs')).toBeVisible();
  // It ends without a word where nothing comes of it: nobody is left so.
  await page
    .getByRole('button', { name: /Say goodbye/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Check & publish' }).click();
  await page.getByRole('button', { name: 'Publish version 1' }).click();
  await expect(page.getByText('1 is live · 0 doors')).toBeVisible();

  await page.goto('/doors?door=door_repairs');
  await page.getByLabel('Said when closed, English').fill('Shut: {reason}. We open again {opens}.');
  await choose(page.getByLabel('When closed, it'), 'has a bot answer');
  await choose(page.getByLabel('Bot when closed'), 'Ringer');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText('Repairs line saved; it counts from the next contact on.')).toBeVisible();
  await page.getByRole('button', { name: 'Shut for now…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Shut Repairs line for now' });
  await dialog.getByRole('button', { name: '3 hours' }).click();
  await dialog.getByLabel('Reason, English').fill('our line is down');
  await dialog.getByRole('button', { name: 'Shut it' }).click();
  await expect(page.getByRole('heading', { name: 'Shut by hand' })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'The lane' }).getByText('1 by hand')).toBeVisible();
  const floor = await window(browser, lane, 'Noor Amsel', '/floor');
  await expect(floor.getByRole('list', { name: 'Doors set by hand' })).toContainText('our line is down');

  const handset = await customer(browser, lane, 'Repairs line');
  await expect(handset.getByText(/^Shut: our line is down\. We open again .*\d\d:\d\d\.$/)).toBeVisible();
  await expect(handset.getByText(/For yes, press 1\. For another number, press 2\.$/)).toBeVisible();
  await press(handset, '20209140077#');
  await expect(handset.getByText('We heard +353 20 914 0077. Is that right?', { exact: false })).toBeVisible();
  await press(handset, '1');
  await expect(handset.getByText(/We have sent a code to \+353 20 914 0077/)).toBeVisible();
  const mailbox = await window(browser, lane, 'Noor Amsel', '/mailbox');
  const code = /code is ([\d ]+)\./.exec((await mailbox.getByRole('article').textContent()) ?? '')?.[1] ?? '';
  await press(handset, `${code.replaceAll(' ', '')}#`);
  await expect(handset.getByText(/^When suits you\?/)).toBeVisible();
  await press(handset, '2');
  await expect(handset.getByText(/^We will call \+353 20 914 0077 \w+day \d\d:00–\d\d:00\. Goodbye\.$/)).toBeVisible();

  // Planned for its window; a lead has it rung now.
  await page.goto('/queues/callbacks');
  const promised = page.getByRole('row', { name: /\+353 20 914 0077/ });
  await expect(promised).toContainText('Repairs');
  await promised.getByRole('button', { name: /now/i }).click();
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await expect(handset.getByText('The telephone rings: +353 20 914 0077')).toBeVisible();
  await handset.getByRole('button', { name: 'Answer' }).click();
  await expect(desk.getByText(/ answered\.$/)).toBeVisible();

  // The door follows its hours again by one press.
  await page.goto('/doors?door=door_repairs');
  await page.getByRole('button', { name: 'Follow its hours again' }).click();
  await expect(page.getByText('Repairs line follows its hours again.')).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'The lane' }).getByText('1 by hand')).toHaveCount(0);
});

test('a message left by telephone at a closed door is taken up and rung back', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/doors?door=door_repairs');
  await choose(page.getByLabel('When closed, it'), 'takes a message');
  await choose(page.getByLabel('Work for'), 'Repairs');
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText('Repairs line saved; it counts from the next contact on.')).toBeVisible();
  await page.getByRole('button', { name: 'Shut for now…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Shut it' }).click();
  await expect(page.getByRole('heading', { name: 'Shut by hand' })).toBeVisible();
  const handset = await customer(browser, lane, 'Repairs line');
  await expect(handset.getByText('Please leave your message now.')).toBeVisible();
  await say(handset, 'The bow of my cello is broken');
  await expect(handset.getByText(/Your message was taken/)).toBeVisible();
  await page.goto('/queues/callbacks');
  await expect(page.getByRole('table', { name: 'Messages to be taken up' })).toContainText('Repairs');
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await expect(desk.getByText('A message for Repairs')).toBeVisible();
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await expect(desk.getByText('The bow of my cello is broken').first()).toBeVisible();
  await expect(desk.getByText('A message left by telephone.', { exact: false })).toBeVisible();
  await desk.getByRole('button', { name: /^Ring back \+353/ }).click();
  await expect(handset.getByText(/The telephone rings: \+353/)).toBeVisible();
  await handset.getByRole('button', { name: 'Answer' }).click();
  await expect(desk.getByText(/ answered\.$/)).toBeVisible();
  await reply(desk).fill('Bring it by, we will look at it.');
  await desk.keyboard.press('Control+Enter');
  await expect(handset.getByText('Bring it by, we will look at it.')).toBeVisible();
  await desk.getByRole('button', { name: 'Repair booked' }).click();
  await expect(handset.getByText('The call has ended.')).toBeVisible();
});

test('a text door leads to the bot that first words ask for; a line leads straight to somebody, with a message when they are off', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/doors?door=door_web');
  const door = page.getByRole('region', { name: 'Door Website chat' });
  await choose(door.getByLabel('While it is open, customers meet'), 'a bot by their first words');
  await choose(door.getByRole('group', { name: 'First words 1' }).getByLabel('Bot'), 'Delivery updates');
  await door.getByRole('button', { name: 'Apply' }).click();
  await expect(door.getByText('Give each bot the words by which it is asked for.')).toBeVisible();
  await door.getByLabel('Words, English').fill('parcel, where is it');
  await door.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText('Website chat saved; it counts from the next contact on.')).toBeVisible();
  await expect(page.getByRole('row', { name: /Website chat/ })).toContainText('1 by first words');
  const chat = await customer(browser, lane, 'Website chat');
  await expect(chat.getByText('Write to begin.')).toBeVisible();
  await say(chat, 'Where is it?');
  await expect(chat.getByText(/Brindlewood|hire number/i).first()).toBeVisible();

  await page.goto('/doors?door=door_repairs');
  const line = page.getByRole('region', { name: 'Door Repairs line' });
  await choose(line.getByLabel('While it is open, customers meet'), 'named people');
  await choose(line.getByLabel('Add a person'), 'Odile Karrow');
  await choose(line.getByLabel('Within the queue'), 'Repairs');
  await line.getByLabel('Said when none of them is on duty, English').fill('Odile is not at her bench.');
  await line.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByText('Repairs line saved; it counts from the next contact on.')).toBeVisible();
  await expect(page.getByRole('row', { name: /Repairs line/ })).toContainText('Odile Karrow');
  const off = await customer(browser, lane, 'Repairs line');
  await expect(off.getByText('Odile is not at her bench.')).toBeVisible();
  await off.getByRole('button', { name: 'Hang up' }).click();
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await customer(browser, lane, 'Repairs line');
  await expect(desk.getByRole('button', { name: 'Take (T)' })).toBeVisible();
});
