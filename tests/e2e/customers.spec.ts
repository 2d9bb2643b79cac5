import type { Page } from '@playwright/test';
import { expect, type Lane, readyAgent, reply, test, window } from './lane';

/** A contact for whose address the stand-in telephone vouches; what is said to the bot. */
async function comes(lane: Lane, page: Page, door: string, from: string, words: readonly string[]) {
  const answer = await page.request.post(`${lane.url}/api/handset/contacts`, { data: { door, from } });
  expect(answer.ok()).toBe(true);
  const begun = (await answer.json()) as { contact: string; token: string };
  for (const text of words)
    await page.request.post(`${lane.url}/api/v1/contacts/${begun.contact}/messages`, {
      data: { text },
      headers: { authorization: `Bearer ${begun.token}` },
    });
  return begun;
}

test('the same customer rings while a text is open: the agent sees both, and notes what the next one should know', async ({
  browser,
  lane,
}) => {
  const desk = await readyAgent(browser, lane, 'Tamsin Orrel');
  const lead = await window(browser, lane, 'Noor Amsel', '/floor');
  await comes(lane, lead, 'door_sms', '+4930555777', ['a new hire', 'trumpet']);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  const before = desk.getByRole('list', { name: 'Contacts over all channels' });
  await expect(desk.getByText('Their first contact.')).toBeVisible();
  await comes(lane, lead, 'door_main', '+4930555777', []);
  await expect(before.getByRole('button')).toHaveCount(1);
  await expect(before).toContainText('with the bot');
  await before.getByRole('button').click();
  await expect(before.getByText(/press/i).first()).toBeVisible();
  await expect(desk.getByText(/One number on two channels/)).toBeVisible();

  await desk.getByRole('button', { name: 'Name and language…' }).click();
  await desk.getByLabel('Name', { exact: true }).fill('Quilla Brand');
  await desk.getByRole('button', { name: 'Keep it' }).click();
  await expect(desk.getByRole('heading', { name: 'Quilla Brand' })).toBeVisible();
  await desk.getByLabel('A note about this customer').fill('Rings from the workshop.');
  await desk.getByRole('button', { name: 'Keep the note' }).click();
  await expect(desk.getByText('Rings from the workshop.')).toBeVisible();
  await reply(desk).fill('Good morning, Quilla.');
  await desk.keyboard.press('Control+Enter');
  await expect(desk.getByRole('region', { name: 'What was said' }).getByText('Good morning, Quilla.')).toBeVisible();
});

test('a customer is found from anywhere, joined, blocked on request, let in again and erased', async ({
  browser,
  lane,
}) => {
  const desk = await readyAgent(browser, lane, 'Tamsin Orrel');
  const lead = await window(browser, lane, 'Noor Amsel', '/floor');
  await comes(lane, lead, 'door_sms', '+4930666888', ['a new hire', 'trumpet']);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await desk.getByRole('button', { name: 'Ask that they be blocked…' }).click();
  await desk.getByLabel('Why').fill('Shouts at people');
  await desk.getByRole('button', { name: 'Ask for it' }).click();
  await expect(desk.getByText('Tamsin Orrel asks that they be blocked')).toBeVisible();
  await expect(desk.getByRole('button', { name: 'Block them' })).toHaveCount(0);

  await lead.goto('/tofix');
  await lead.getByRole('link', { name: 'Decide' }).click();
  await expect(lead.getByRole('heading', { name: '+4930666888' })).toBeVisible();
  await lead.getByRole('button', { name: 'Block them' }).click();
  await expect(lead.getByText(/Blocked by Noor Amsel/)).toBeVisible();
  const again = await lead.request.post(`${lane.url}/api/handset/contacts`, {
    data: { door: 'door_sms', from: '+4930666888' },
  });
  expect(again.status()).toBe(403);
  await lead.reload();
  await expect(lead.getByText(/They came 1× since/)).toBeVisible();
  await lead.getByRole('button', { name: 'Let them come again' }).click();
  await expect(lead.getByRole('button', { name: 'Ask that they be blocked…' })).toBeVisible();

  // Whatever is open is ended first.
  await lead.getByRole('button', { name: 'Erase…' }).click();
  await expect(lead.getByText('They have a contact open, or a call promised. End that first.')).toBeVisible();
  await lead.getByRole('button', { name: 'Cancel' }).click();
  const chat = await lead.request.post(`${lane.url}/api/handset/contacts`, {
    data: { door: 'door_web', from: 'quilla@chat.example', name: 'Quilla Brand' },
  });
  const { contact, token } = (await chat.json()) as { contact: string; token: string };
  await lead.request.post(`${lane.url}/api/v1/contacts/${contact}/leave`, {
    headers: { authorization: `Bearer ${token}` },
  });
  await desk.getByRole('button', { name: 'Finish', exact: true }).click();
  await desk.getByRole('button', { name: 'Advice given' }).click();
  await expect(desk.getByText('0 of 100')).toBeVisible();

  await lead.keyboard.press('ControlOrMeta+k');
  await lead.getByPlaceholder(/Name of a page/).fill('030 666 888');
  await lead.getByRole('option', { name: /\+4930666888/ }).click();
  await lead.getByRole('button', { name: 'Join with…' }).click();
  await lead.getByRole('dialog').getByLabel('Name, address or number').fill('quilla');
  await lead.getByRole('button', { name: 'Join with Quilla Brand' }).click();
  await expect(lead.getByRole('heading', { name: 'Quilla Brand' })).toBeVisible();
  await lead.getByRole('button', { name: /^Part / }).click();
  await expect(lead.getByRole('heading', { name: '+4930666888' })).toBeVisible();
  await lead.getByRole('button', { name: 'Join with…' }).click();
  await lead.getByRole('dialog').getByLabel('Name, address or number').fill('quilla');
  await lead.getByRole('button', { name: 'Join with Quilla Brand' }).click();
  await expect(lead.getByRole('heading', { name: 'Quilla Brand' })).toBeVisible();
  await lead.getByRole('button', { name: 'Erase…' }).click();
  await expect(lead.getByRole('dialog').getByText('quilla@chat.example')).toBeVisible();
  await lead.getByRole('checkbox').check();
  await lead.getByRole('button', { name: 'Erase all 2' }).click();
  await expect(lead.getByText('This customer was erased')).toBeVisible();
  await lead.goto('/customers');
  for (const text of ['quilla', '666888']) {
    await lead.getByLabel('Name, address or number').fill(text);
    await expect(lead.getByText('Nobody is known so')).toBeVisible();
  }
});
