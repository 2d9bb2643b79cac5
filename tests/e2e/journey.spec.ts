import { choose, contactBy, customer, expect, readyAgent, reply, say, test, window, startUnread } from './lane';

test(
  'a lead changes a wording and publishes; a chat customer meets it, is handed to the person the ' +
    'rules name, and Review counts it',
  async ({ browser, lane }) => {
    const lead = await window(browser, lane, 'Noor Amsel', '/bots/bot_chat');
    await lead.getByRole('group', { name: 'Line 1.1, Say' }).press('Enter');
    await lead.getByLabel('Says, English').fill('Welcome to Brindlewood. I am Brindle.');
    await expect(lead.getByText(/^Saved \d/)).toBeVisible();
    await lead.getByRole('button', { name: 'Check & publish' }).click();
    await lead.getByLabel('What changed').fill('A warmer welcome');
    await lead.getByRole('button', { name: 'Publish version 2' }).click();
    // The tests still expect the old welcome.
    await lead.getByLabel('Publish all the same, because').fill('the welcome is new');
    await lead.getByRole('button', { name: 'Publish version 2' }).click();
    await expect(lead.getByText('2 is live · 3 doors')).toBeVisible();

    const desk = await readyAgent(browser, lane, 'Odile Karrow');
    const handset = await customer(browser, lane, 'Website chat', { name: 'Nerea Solas' });
    await expect(handset.getByText('Welcome to Brindlewood. I am Brindle.')).toBeVisible();
    await handset.getByRole('button', { name: 'a repair' }).click();
    await expect(handset.getByText(/What is the hire number/)).toBeVisible();
    await say(handset, '204816');
    await say(handset, 'the bridge of the cello snapped');
    await expect(handset.getByText('waiting for a person')).toBeVisible();

    await expect(desk.getByText('Repairs for you')).toBeVisible();
    await desk.keyboard.press('t');
    await expect(desk.getByRole('definition').filter({ hasText: '204816' })).toBeVisible();
    await expect(desk.getByText(/You were asked after \d+ s: the only one able/)).toBeVisible();
    await reply(desk).fill('Hello Nerea, I can send a replacement tomorrow.');
    await desk.keyboard.press('Control+Enter');
    await expect(handset.getByText('Hello Nerea, I can send a replacement tomorrow.')).toBeVisible();
    await expect(handset.getByText('Odile', { exact: true })).toBeVisible();
    await say(handset, 'Before noon?');
    await expect(desk.getByText('Before noon?')).toBeVisible();
    await desk.getByLabel('Workshop note').fill('bridge goes out by post');
    await desk.keyboard.press('Enter');
    await desk.getByRole('button', { name: 'Finish' }).click();
    await expect(handset.getByText('How was it, from 1 to 5?')).toBeVisible();
    await handset.getByRole('button', { name: '5', exact: true }).click();
    await expect(handset.getByText('The conversation has ended.')).toBeVisible();
    await desk.getByRole('button', { name: 'Repair booked' }).click();
    await expect(desk.getByText('Ready. The next contact that fits comes to you.')).toBeVisible();

    await lead.goto('/review');
    // What was in front at the Desk made the handle time, and the customer's answer the rating.
    await expect(lead.getByRole('button', { name: /^Rating 5\.00/ })).toBeVisible();
    await lead.getByRole('button', { name: /^Handle time \d/ }).click();
    await expect(lead.getByText(/Here all of it is what was in front\./)).toBeVisible();
    await lead.getByRole('button', { name: /^Handled 1/ }).click();
    await lead.getByRole('button', { name: 'See the contacts', exact: true }).click();
    await lead.getByRole('dialog').getByRole('link').click();
    await expect(lead.getByText('filed REPAIR')).toBeVisible();
    await expect(lead.getByText('the bridge of the cello snapped').first()).toBeVisible();
    await expect(lead.getByText('bridge goes out by post')).toBeVisible();
    await expect(lead.getByText('204816')).toHaveCount(0);
    await expect(lead.getByText('•••').first()).toBeVisible();
    const csv = await lead.request.get('/api/review.csv?kind=people');
    expect(await csv.text()).toContain(',Odile Karrow,1,');
  },
);

test('a caller goes through the bot by telephone keys in Spanish, talks to a person and hangs up', async ({
  browser,
  lane,
}) => {
  const desk = await readyAgent(browser, lane, 'Tamsin Orrel');
  const handset = await customer(browser, lane, 'Main number');
  await handset.getByRole('button', { name: 'Key 2' }).click();
  await expect(handset.getByText(/¿De qué se trata\?.*Para una reparación, pulse 2/)).toBeVisible();
  await handset.getByRole('button', { name: 'Key 9' }).click();
  await expect(handset.getByText(/no le he entendido/)).toBeVisible();
  await handset.getByRole('button', { name: 'Key 3' }).click();
  await handset.getByRole('button', { name: 'Key 2' }).click();
  await expect(handset.getByText(/busco a la persona adecuada/)).toBeVisible();
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await reply(desk).fill('Buenos días, soy Tamsin.');
  await desk.keyboard.press('Control+Enter');
  await expect(handset.getByText('Buenos días, soy Tamsin.')).toBeVisible();
  await say(handset, 'Quiero pagar mi factura');
  await expect(desk.getByText('Quiero pagar mi factura')).toBeVisible();
  await handset.getByRole('button', { name: 'Hang up' }).click();
  await expect(desk.getByText('The conversation has ended. File its outcome')).toBeVisible();
  await desk.getByRole('button', { name: 'Payment settled' }).click();
  await expect(desk.getByText(/^0 of 100/)).toBeVisible();
});

test('SMS choices come as numbered lines, and a bot can finish alone', async ({ browser, lane }) => {
  const handset = await customer(browser, lane, 'Text line');
  await expect(handset.getByText('2 change the day')).toBeVisible();
  await say(handset, '1');
  await expect(handset.getByText('Which hire number?')).toBeVisible();
  await say(handset, 'BH-200172');
  await expect(handset.getByText(/Your delivery comes/)).toBeVisible();
  await expect(handset.getByText('The conversation has ended.')).toBeVisible();
});

test('of two agents the better level is asked, and the Floor says why; both figures and state are live', async ({
  browser,
  lane,
}) => {
  const lead = await window(browser, lane, 'Noor Amsel', '/people?person=person_04');
  await lead.getByRole('gridcell', { name: /^Tamsin Orrel, Repairs triage/ }).click();
  await lead.keyboard.press('3');
  await expect(
    lead.getByRole('gridcell', { name: 'Tamsin Orrel, Repairs triage: level 3, set on the person' }),
  ).toBeVisible();
  await lead.getByRole('button', { name: 'Change', exact: true }).click();
  await choose(lead.getByLabel('Duty profile'), 'Repairs first');
  await lead.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(lead.getByRole('link', { name: 'duty: Repairs first' })).toBeVisible();

  const tamsin = await readyAgent(browser, lane, 'Tamsin Orrel');
  const odile = await readyAgent(browser, lane, 'Odile Karrow');
  await lead.goto('/floor');
  await expect(lead.getByText('free 2 · busy 0 · away 0')).toBeVisible();
  await contactBy(lane, lead, 'door_web', ['a repair', '204816', 'the bridge snapped']);
  await expect(odile.getByText('Repairs for you')).toBeVisible();
  await expect(tamsin.getByText('Repairs for you')).toHaveCount(0);
  await expect(lead.getByText(/Odile Karrow was asked after \d+ s: the highest level of 2 able people/)).toBeVisible();
  await expect(lead.getByText('1 able, later in the picking order')).toBeVisible();
  await expect(lead.getByRole('link', { name: /^Queues 1 waiting/ })).toBeVisible();
  await odile.keyboard.press('p');
  await expect(tamsin.getByText('Repairs for you')).toBeVisible();
  await tamsin.keyboard.press('t');
  await expect(lead.getByText('free 1 · busy 1 · away 0')).toBeVisible();
});

test('nobody able: the Floor says why, and the contact goes to whoever becomes able', async ({ browser, lane }) => {
  const lead = await window(browser, lane, 'Noor Amsel', '/floor');
  await expect(lead.getByText('Nobody is waiting')).toBeVisible();
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await contactBy(lane, lead, 'door_web', ['a bill', 'something else']);
  await expect(lead.getByText('Why nobody yet')).toBeVisible();
  await expect(lead.getByText('Nobody on duty takes this queue on this channel.')).toBeVisible();
  await expect(lead.getByText('1 whose duty profile does not take it')).toBeVisible();
  const tamsin = await readyAgent(browser, lane, 'Tamsin Orrel');
  await expect(tamsin.getByText('Billing for you')).toBeVisible();
  await expect(desk.getByText('Billing for you')).toHaveCount(0);
});

test('passing on moves the contact to another queue, and several texts fill the bar', async ({ browser, lane }) => {
  const desk = await readyAgent(browser, lane, 'Tamsin Orrel');
  for (let i = 0; i < 2; i++) {
    await contactBy(lane, desk, 'door_web', ['a new hire', 'trumpet']);
    await desk.getByRole('button', { name: 'Take (T)' }).click();
  }
  await expect(desk.getByText('50 of 100')).toBeVisible();
  await desk.getByRole('button', { name: 'Pass on…' }).click();
  await desk.getByRole('radio', { name: /^School accounts/ }).check();
  await desk.getByRole('button', { name: 'Pass on to School accounts' }).click();
  await desk.getByRole('button', { name: 'Now', exact: true }).click();
  await expect(desk.getByText('25 of 100')).toBeVisible();
  const lead = await window(browser, lane, 'Noor Amsel', '/queues');
  await expect(lead.getByRole('button', { name: /School accounts.*1/ })).toBeVisible();
});

test('a server whose output nobody reads goes on', async ({ request }) => {
  const unread = await startUnread();
  try {
    const answer = () =>
      request.get(`${unread.url}/signin`, { timeout: 5000 }).then(
        (r) => r.status(),
        () => 0,
      );
    await expect.poll(answer, { timeout: 60_000 }).toBe(200);
    // It printed that it listens, to nobody; and it is still there.
    await expect.poll(answer).toBe(200);
  } finally {
    unread.end();
  }
});

test('killed in the middle of a conversation and started again, nothing acknowledged is lost', async ({
  browser,
  ownLane: lane,
}) => {
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  const handset = await customer(browser, lane, 'Website chat', { name: 'Ida Lindqvarn' });
  await handset.getByRole('button', { name: 'a repair' }).click();
  await say(handset, '204816');
  await say(handset, 'the valve leaks');
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await reply(desk).fill('I am looking at it.');
  await desk.keyboard.press('Control+Enter');
  await expect(handset.getByText('I am looking at it.')).toBeVisible();
  const waiting = await contactBy(lane, desk, 'door_web', ['a bill', 'something else']);
  await lane.kill();
  await say(handset, 'Are you there?');
  await expect(handset.getByRole('alert').filter({ hasText: 'cannot be reached' })).toBeVisible();
  await expect(handset.getByRole('textbox')).toHaveValue('Are you there?');
  await lane.start();
  await handset.getByRole('button', { name: 'Send' }).click();
  await expect(desk.getByText('Are you there?')).toBeVisible({ timeout: 20_000 });
  await expect(desk.getByText('I am looking at it.')).toBeVisible();
  await expect(desk.getByText('25 of 100')).toBeVisible();
  const state = await desk.request.get(`${lane.url}/api/v1/contacts/${waiting.contact}`, {
    headers: { authorization: `Bearer ${waiting.token}` },
  });
  expect(await state.json()).toMatchObject({ state: 'waiting' });
  await desk.getByRole('button', { name: 'Finish' }).click();
  await desk.getByRole('button', { name: 'Advice given' }).click();
  await expect(desk.getByText(/^0 of 100/)).toBeVisible();
});
