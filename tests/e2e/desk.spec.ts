import type { Browser, Page } from '@playwright/test';
import { contactBy, customer, expect, readyAgent, reply, say, test, window, type Lane } from './lane';

/** Tamsin has taken a chat in which Ida asked for a trumpet. */
async function talkingToIda(browser: Browser, lane: Lane): Promise<{ readonly desk: Page; readonly handset: Page }> {
  const desk = await readyAgent(browser, lane, 'Tamsin Orrel');
  const handset = await customer(browser, lane, 'Website chat', { name: 'Ida Lindqvarn' });
  await handset.getByRole('button', { name: 'a new hire' }).click();
  await say(handset, 'trumpet');
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  return { desk, handset };
}

test('unsent words are there after a reload and in another window, and go once however often they are sent', async ({
  browser,
  lane,
}) => {
  const { desk, handset } = await talkingToIda(browser, lane);
  await contactBy(lane, desk, 'door_web', ['a new hire', 'trumpet']);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await expect(desk.getByRole('heading', { name: 'Wren Holloway-Tarn' })).toBeVisible();
  await reply(desk).fill('meant for the second');
  const blocks = desk.getByRole('group', { name: 'Open contacts' }).getByRole('button');
  await blocks.first().click();
  await expect(reply(desk)).toHaveValue('');
  await reply(desk).fill('Good morning, I am');
  await blocks.last().click();
  await expect(reply(desk)).toHaveValue('meant for the second');
  await blocks.first().click();
  const beside = await desk.context().newPage();
  await beside.goto('/desk');
  await expect(reply(beside)).toHaveValue('Good morning, I am');
  await reply(beside).fill('Good morning, I am here.');
  await beside.close();
  await desk.reload();
  await expect(reply(desk)).toHaveValue('Good morning, I am here.');
  await reply(desk).focus();
  await desk.keyboard.press('Control+Enter');
  await desk.keyboard.press('Control+Enter');
  await expect(handset.getByText('Good morning, I am here.')).toHaveCount(1);
  await expect(reply(desk)).toHaveValue('');

  // What did not arrive waits, over a reload too, and arrives once, in its order.
  let lost = 0;
  await desk.route('**/api/desk', async (route) => {
    if (route.request().method() !== 'POST') return route.continue();
    lost += 1;
    // The server has it; its answer never comes.
    if (lost === 1) await route.fetch();
    await route.abort();
  });
  await reply(desk).fill('First of two.');
  await desk.keyboard.press('Control+Enter');
  await reply(desk).fill('Second of two.');
  await desk.keyboard.press('Control+Enter');
  await expect(desk.getByText(/Not sent yet; it goes as soon as it can/).first()).toBeVisible();
  await desk.unroute('**/api/desk');
  await desk.reload();
  await expect(handset.getByText(/of two\.$/)).toHaveText(['First of two.', 'Second of two.']);
  await expect(desk.getByRole('list', { name: 'Not sent yet' })).toHaveCount(0);
});

test('what a customer writes meanwhile is marked, with how long they wait, until it is looked at', async ({
  browser,
  lane,
}) => {
  const { desk, handset } = await talkingToIda(browser, lane);
  await reply(desk).fill('Good morning.');
  await desk.keyboard.press('Control+Enter');
  const first = desk.getByRole('group', { name: 'Open contacts' }).getByRole('button', { name: /Ida Lindqvarn/ });
  await expect(first).toContainText('you wait for them');
  await contactBy(lane, desk, 'door_web', ['a new hire', 'trumpet']);
  await reply(desk).fill('typing just now');
  // An offer is taken while typing by a chord of its own.
  await expect(desk.getByRole('button', { name: 'Take (T)' })).toBeVisible();
  await expect(desk).toHaveTitle(/New hire for you/);
  await reply(desk).press('Alt+t');
  await expect(desk.getByText('50 of 100')).toBeVisible();
  await say(handset, 'See https://shop.example/cello, please');
  await expect(first).toContainText('1');
  await expect(first).toContainText(/waits for you 0:/);
  await expect(desk).toHaveTitle(/^\(1\) /);
  await first.click();
  await expect(desk.getByRole('link', { name: 'https://shop.example/cello' })).toHaveAttribute(
    'href',
    'https://shop.example/cello',
  );
  await expect(desk).toHaveTitle(/^Desk|^(?!\()/);
  await expect(reply(desk)).toHaveValue('typing just now');
});

test('a contact is passed on to a colleague with a note, taken back first, and refused once they are gone', async ({
  browser,
  lane,
}) => {
  const desk = await readyAgent(browser, lane, 'Tamsin Orrel');
  await contactBy(lane, desk, 'door_web', ['a new hire', 'trumpet']);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  const other = await readyAgent(browser, lane, 'Bertil Achterberg');
  await desk.getByRole('button', { name: 'Pass on…' }).click();
  const dialog = desk.getByRole('dialog');
  // Keys alone: nothing happens by moving through the list.
  await dialog.getByLabel('Name of a person, queue or group').fill('Bertil');
  await dialog.getByRole('radio', { name: /^Bertil Achterberg/ }).focus();
  await desk.keyboard.press('Space');
  await dialog.getByLabel('Note for whoever takes it').fill('Wants a silver one.');
  await dialog.getByRole('button', { name: 'Pass on to Bertil Achterberg' }).click();
  await desk.getByRole('button', { name: 'Undo' }).click();
  await expect(desk.getByText('25 of 100')).toBeVisible();
  await expect(other.getByText(/for you$/)).toHaveCount(0);

  await desk.getByRole('button', { name: 'Pass on…' }).click();
  await dialog.getByRole('radio', { name: /^Bertil Achterberg/ }).check();
  await dialog.getByLabel('Note for whoever takes it').fill('Wants a silver one.');
  await dialog.getByRole('button', { name: 'Pass on to Bertil Achterberg' }).click();
  await desk.getByRole('button', { name: 'Now', exact: true }).click();
  await expect(desk.getByText('0 of 100')).toBeVisible();
  await expect(other.getByRole('region', { name: 'About the offer' })).toContainText(
    'Tamsin Orrel: Wants a silver one.',
  );
  await other.getByRole('button', { name: 'Take (T)' }).click();
  await expect(other.getByText('Tamsin Orrel: Wants a silver one.')).toBeVisible();

  // Whoever goes meanwhile is said to be gone, and the contact stays where it is.
  await contactBy(lane, desk, 'door_web', ['a new hire', 'trumpet']);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await desk.getByRole('button', { name: 'Pass on…' }).click();
  await dialog.getByRole('radio', { name: /^Bertil Achterberg/ }).check();
  await dialog.getByRole('button', { name: 'Pass on to Bertil Achterberg' }).click();
  await other.getByRole('button', { name: 'Away ▾' }).click();
  await other.getByRole('menuitem').first().click();
  await expect(other.getByText(/^Away:/)).toBeVisible();
  await desk.getByRole('button', { name: 'Now', exact: true }).click();
  await expect(desk.getByText(/They cannot take it any more/)).toBeVisible();
  await expect(desk.getByText('25 of 100')).toBeVisible();

  // It is passed on when the time to take it back is over, also while another is looked at.
  await contactBy(lane, desk, 'door_web', ['a new hire', 'trumpet']);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await expect(desk.getByText('50 of 100')).toBeVisible();
  await desk.getByRole('button', { name: 'Pass on…' }).click();
  await dialog.getByRole('radio', { name: /^School accounts/ }).check();
  await dialog.getByRole('button', { name: 'Pass on to School accounts' }).click();
  await expect(desk.getByText(/^Passing on to School accounts in/)).toBeVisible();
  await desk.getByRole('group', { name: 'Open contacts' }).getByRole('button').first().click();
  await expect(desk.getByText(/^Passing on to/)).toHaveCount(0);
  await expect(desk.getByText('25 of 100')).toBeVisible();
});

test('what was missed is said when somebody is back, until they have seen it', async ({ browser, lane }) => {
  const desk = await window(browser, lane, 'Tamsin Orrel', '/desk');
  await desk.getByRole('button', { name: 'Noticing…' }).click();
  await desk.getByLabel('Sound').click();
  await desk.getByRole('option', { name: 'a ping' }).click();
  await desk.keyboard.press('Escape');
  await desk.reload();
  await desk.getByRole('button', { name: 'Noticing…' }).click();
  await expect(desk.getByLabel('Sound')).toContainText('a ping');
  await desk.keyboard.press('Escape');
  await desk.getByRole('button', { name: 'Go ready' }).click();
  await contactBy(lane, desk, 'door_web', ['a new hire', 'trumpet']);
  await expect(desk.getByRole('button', { name: 'Take (T)' })).toBeVisible();
  await expect(desk.getByText(/^You missed an offer: Wren Holloway-Tarn for New hire/)).toBeVisible({
    timeout: 40_000,
  });
  await desk.reload();
  await desk.getByRole('button', { name: 'Seen' }).click();
  await desk.reload();
  await expect(desk.getByText(/^You missed/)).toHaveCount(0);
});

test('a call is held and muted: music plays, what is said is refused in a sentence, and the trail says for how long', async ({
  browser,
  lane,
}) => {
  const desk = await readyAgent(browser, lane, 'Tamsin Orrel');
  const handset = await customer(browser, lane, 'Main number');
  for (const key of ['2', '3', '2']) await handset.getByRole('button', { name: `Key ${key}` }).click();
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await desk.getByRole('button', { name: 'Hold', exact: true }).click();
  await expect(desk.getByText(/^On hold for 0:0\d: music plays/)).toBeVisible();
  await expect(handset.getByText(/On hold: nobody hears you\. ♪/)).toBeVisible();
  await say(handset, '¿Hola?');
  await expect(handset.getByText('You are on hold; nobody hears you until they come back.')).toBeVisible();
  await reply(desk).fill('Un momento.');
  await desk.keyboard.press('Control+Enter');
  await expect(desk.getByText(/Not sent: The customer is on hold/)).toBeVisible();
  // From wherever one types, by keys.
  await reply(desk).press('Alt+h');
  await expect(handset.getByText(/On hold: nobody/)).toHaveCount(0);
  await desk.getByRole('button', { name: 'Send it again' }).click();
  await expect(handset.getByText('Un momento.')).toBeVisible();
  await reply(desk).press('Alt+m');
  await expect(desk.getByText(/^You are muted/)).toBeVisible();
  await say(handset, 'Quiero pagar mi factura');
  await expect(desk.getByText('Quiero pagar mi factura')).toBeVisible();
  await desk.getByRole('button', { name: 'Unmute' }).click();
  await desk.getByRole('button', { name: 'Hang up' }).click();
  await desk.getByRole('button', { name: 'Payment settled' }).click();
  await expect(desk.getByText(/^0 of 100/)).toBeVisible();
  const lead = await window(browser, lane, 'Noor Amsel', '/review/find');
  await lead.getByRole('table', { name: 'Contacts found' }).getByRole('link').first().click();
  await expect(lead.getByText(/handled it in .*, on hold 0:\d\d of it/)).toBeVisible();
});

test('an agent keeps a reply of their own from what they typed, finds it behind a slash, and drops it', async ({
  browser,
  lane,
}) => {
  const { desk, handset } = await talkingToIda(browser, lane);
  await reply(desk).fill('Mouthpieces are sent within {days} days.');
  await desk.getByRole('button', { name: 'Keep as your reply…' }).click();
  const dialog = desk.getByRole('dialog', { name: 'Replies of your own' });
  await dialog.getByLabel('A new one: its title').fill('Mouthpieces');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(desk.getByText('Nothing fills {days}.')).toBeVisible();
  await dialog.getByLabel('What it says').fill('Dear {customer}, mouthpieces are sent within two days.');
  await desk.keyboard.press('Tab');
  await desk.keyboard.press('Enter');
  await expect(dialog.getByRole('list', { name: 'Your replies' })).toContainText('Mouthpieces');
  await desk.keyboard.press('Escape');
  await reply(desk).fill('/mouth');
  await expect(desk.getByRole('option', { name: /Mouthpieces Mine/ })).toBeVisible();
  await reply(desk).press('Enter');
  await reply(desk).press('Control+Enter');
  await expect(handset.getByText('Dear Ida Lindqvarn, mouthpieces are sent within two days.')).toBeVisible();
  await desk.getByRole('button', { name: 'Your replies…' }).click();
  await dialog.getByRole('button', { name: 'Drop Mouthpieces', exact: true }).click();
  await dialog.getByRole('button', { name: 'Drop Mouthpieces for good' }).click();
  await expect(dialog.getByRole('list', { name: 'Your replies' })).toHaveCount(0);
});
