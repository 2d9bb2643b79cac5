// Takes the pictures in docs/screenshots from a running demo (PORT, default 3000): `npm run screenshots [-- name …]`.
import { mkdirSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { findChromium } from './ground.mjs';

const at = `http://localhost:${process.env.PORT ?? 3000}`;
const folder = process.env.SHOTS ?? 'docs/screenshots';
mkdirSync(folder, { recursive: true });
const wanted = process.argv.slice(2);
const browser = await chromium.launch({
  executablePath: findChromium(),
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});

async function as(email, work) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  page.on('console', (message) => {
    if (message.type() === 'error') console.log(`console: ${message.text().slice(0, 300)}`);
  });
  page.on('pageerror', (error) => console.log(`page error: ${error.message}`));
  if (email) {
    await context.request.post(`${at}/api/session`, {
      data: { email: `${email}@brindlewood.example`, password: 'brindlewood' },
      headers: { origin: at },
    });
  }
  const shot = async (name, path, prepare) => {
    if (wanted.length > 0 && !wanted.includes(name)) return;
    await page.goto(at + path);
    await page.waitForLoadState('load');
    await prepare?.(page);
    await page.waitForTimeout(700);
    await page.screenshot({ path: `${folder}/${name}.png` });
  };
  await work(shot, page, context);
  await context.close();
}

await as('noor.amsel', async (shot, page) => {
  await shot('doors', '/doors');
  await shot('script', '/bots/bot_chat', async () => {
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    await page.getByRole('button', { name: 'a repair', exact: true }).click();
    for (const words of ['204816', 'the drum head has split']) {
      await page.getByLabel('Say something').fill(words);
      await page.keyboard.press('Enter');
    }
  });
  await shot('languages', '/bots/languages?language=fr');
  await shot('phrasebook', '/bots/phrasebook', async () => {
    await page.getByRole('textbox', { name: 'Phrase', exact: true }).fill('my violin has popped a string');
    await page.keyboard.press('Enter');
    await page.getByRole('tab', { name: 'Quality' }).click();
    await page.getByText('Weakest phrases').waitFor();
  });
  await shot('queues', '/queues?queue=queue_repairs');
  await shot('customer', '/customers', async () => {
    // Whoever came most often of those who are known by one number on two channels.
    const id = await page.evaluate(async () => {
      const read = async (path) => (await fetch(`/api/read/${path}`)).json();
      const found = [];
      for (const digits of ['32091355', '32091365', '32091375', '32091385'])
        found.push(...(await read(`find-customers?text=${digits}`)).found);
      const views = [];
      for (const one of found) views.push(await read(`customer?id=${one.id}`));
      const worth = (v) => v.knownBy.length * 100 + v.contacts.length;
      return views.sort((a, b) => worth(b) - worth(a))[0].id;
    });
    await page.goto(`${at}/customers/${id}`);
    await page.getByRole('list', { name: 'Contacts over all channels' }).getByRole('button').first().click();
    await page.getByText('Reading…').waitFor({ state: 'detached' });
  });
  await shot('people', '/people?person=person_07');
  await shot('duty', '/people/duty?profile=profile_front');
  await shot('shifts', '/people/shifts');
  await shot('plans', '/plans', async () => {
    // Something to see: a campaign that comes and goes, and a change that is not finished.
    await page.evaluate(async () => {
      const post = (act, body) =>
        fetch(`/api/settings/${act}`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        });
      const { now } = await (await fetch('/api/read/plans')).json();
      const day = 86_400_000;
      const only = (thing, names) =>
        Object.fromEntries(Object.entries(thing).filter(([name]) => !names.includes(name)));
      const head = ['id', 'revision', 'place'];
      const queue = (await (await fetch('/api/read/queues')).json()).queues[0];
      const value = only(queue, [...head, 'waiting']);
      const campaign = { from: now + 4 * day, until: now + 7 * day, note: 'The winter campaign' };
      const goals = { ...value.goals, voice: { percent: 90, seconds: 20 } };
      const { id, revision } = queue;
      await post('plan-change', { kind: 'queue', id, revision, value: { ...value, goals }, ...campaign });
      const { hours, doors } = await (await fetch('/api/read/doors')).json();
      const [door] = doors;
      const settings = only(door, [...head, 'opening', 'setBy', 'botName', 'botLive', 'hoursName', 'byHand']);
      await post('plan-change', {
        kind: 'door',
        id: door.id,
        revision: door.revision,
        value: { ...settings, hoursId: hours.find((h) => h.id !== door.hoursId).id },
        from: now + 4 * day,
        until: null,
        note: 'New hours from Friday on',
      });
      const { groups } = await (await fetch('/api/read/groups')).json();
      const base = { name: groups[0].name };
      const mine = { name: `${groups[0].name} and the evening` };
      await post('keep-draft', { kind: 'group', id: groups[0].id, label: mine.name, revision: 1, base, mine, turn: 0 });
    });
    await page.reload();
    await page.getByText('Looking at that day…').first().waitFor({ state: 'detached' });
  });
  await shot('history', '/history', async () => {
    // Something to see: a block of levels, and somebody on another profile for now.
    await page.evaluate(async () => {
      const post = (act, body) =>
        fetch(`/api/settings/${act}`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        });
      await post('set-levels', {
        changes: ['person_06', 'person_07', 'person_08'].map((personId) => ({
          personId,
          skillId: 'skill_keys',
          level: 3,
        })),
      });
      await post('set-for-now', { personId: 'person_09', profileId: 'profile_front', until: '14:00' });
    });
    await page.reload();
    await page.getByRole('button', { name: 'Undo all 3' }).first().click();
    await page.getByText('taken back', { exact: true }).first().waitFor();
  });
  // A picture of a quiet minute says little: wait for a few contacts, or take what there is after two minutes.
  await shot('floor', '/floor', async () => {
    await page
      .getByText(/^([4-9]|\d\d) waiting ·/)
      .waitFor({ timeout: 120_000 })
      .catch(() => {});
  });
  await shot('review', '/review', async () => {
    await page.getByRole('region', { name: 'Stands out' }).waitFor();
  });
  await shot('person', '/review/people', async () => {
    await page.getByRole('link', { name: 'Odile Karrow' }).click();
    await page.getByRole('heading', { name: 'Odile Karrow', level: 1 }).waitFor();
    await page.getByRole('region', { name: 'Their day' }).getByRole('link').first().waitFor();
  });
  await shot('two', '/review/people/person_05/beside?with=person_08', async () => {
    await page.getByRole('region', { name: 'Contacts of this reason' }).getByRole('link').first().waitFor();
  });
  await shot('coaching', '/review/coaching');
  await shot('contact', '/review', async () => {
    await page
      .getByRole('button', { name: /^Handle time/ })
      .first()
      .click();
    await page
      .getByRole('region', { name: 'Handle time, by day' })
      .getByRole('button', { name: 'See the contacts' })
      .click();
    await page.getByRole('dialog').getByRole('link').nth(3).click();
    await page.waitForURL(/contacts/);
  });
});
if (wanted.length === 0 || wanted.includes('desk') || wanted.includes('handset')) {
  await as('odile.karrow', async (shot, page) => {
    await shot('desk', '/desk', async () => {
      const ready = page.getByRole('button', { name: 'Go ready' });
      await ready.waitFor({ timeout: 3000 }).then(
        () => ready.click(),
        () => {},
      );
      for (let i = 0; i < 2; i++)
        await page
          .getByRole('button', { name: 'Take (T)' })
          .click({ timeout: 60_000 })
          .catch(() => {});
      const box = page.getByRole('textbox', { name: /^(Write to |What you say)/ });
      await box.fill('Hello, this is Odile. I have read what you told our assistant.');
      await box.press('Control+Enter');
      await page.waitForTimeout(9000);
    });
  });
  const context = await browser.newContext({ viewport: { width: 390, height: 800 } });
  const page = await context.newPage();
  await page.goto(`${at}/handset`);
  await page.getByRole('button', { name: /Main number/ }).click();
  await page.getByRole('button', { name: 'Ring' }).click();
  await page.getByRole('button', { name: 'Key 1' }).click();
  await page.waitForTimeout(900);
  await page.screenshot({ path: `${folder}/handset.png` });
}
await browser.close();
