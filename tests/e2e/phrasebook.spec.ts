import type { Download, Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { QUEUE_DEFAULTS } from '../../src/core/routing/queue';
import { choose, contactBy, customer, expect, say, test, window } from './lane';

async function textOf(file: Download): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of await file.createReadStream()) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}
const bring = (page: Page, name: string, text: string) =>
  page.getByLabel('Phrasebook file').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
const ask = async (page: Page, text: string) => {
  await page.getByRole('textbox', { name: 'Phrase', exact: true }).fill(text);
  await page.keyboard.press('Enter');
};

/** Learning has a thread that stands behind all others: beside other tests it takes long, and that is not looked at here. */
const learnt = (page: Page, words: string | RegExp) =>
  expect(page.getByText(words, { exact: false })).toBeVisible({ timeout: 60_000 });

test('the phrasebook goes out and comes in as CSV and JSON with a preview; a broken file names its line and changes nothing', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/phrasebook');
  const [csvFile] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Phrases (CSV)' }).click(),
  ]);
  const csv = await textOf(csvFile);
  expect(csv).toContain('swap_size');
  const [jsonFile] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Take out (JSON)' }).click(),
  ]);
  const json = await textOf(jsonFile);
  await bring(page, 'broken.json', json.replace('"recognised"', 'recognised'));
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText(/Line \d+: /);
  await page.keyboard.press('Escape');
  await bring(page, 'broken.csv', `${csv.trimEnd()}\r\nnot an id,x,en,hello\r\n`);
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('An intent’s id is letters');
  await page.keyboard.press('Escape');
  await expect(page.getByText('11 intents', { exact: true })).toBeVisible();
  // One more intent by CSV: nothing counts before it is kept, and it is understood from then on.
  await bring(
    page,
    'more.csv',
    `${csv.trimEnd()}\r\nlessons,Lessons,en,do you teach the theremin\r\nlessons,Lessons,en,theremin ` +
      `lessons please\r\nlessons,Lessons,en,who gives theremin lessons\r\n`,
  );
  await expect(page.getByRole('dialog').getByText(/^12 intents with \d+ phrases/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('button', { name: 'Keep and learn' }).click();
  await learnt(page, 'Kept and learnt.');
  await ask(page, 'a theremin lesson');
  await expect(page.getByLabel('Try a phrase').getByRole('listitem').first()).toContainText('Lessons');
  // And back by JSON.
  await bring(page, 'as it was.json', json);
  await expect(page.getByText('1 intents of now are not in it.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByText('12 intents', { exact: true })).toBeVisible();
});

test('lists and patterns of things are made, learnt and picked out of a phrase; the book is judged and leads to its intents', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/phrasebook');
  await page.getByRole('tab', { name: 'Things to recognise' }).click();
  const instruments = page.getByRole('region', { name: 'Instrument' });
  await expect(instruments.getByRole('button', { name: 'Take Instrument out' })).toBeDisabled();
  await instruments.getByLabel('New thing of Instrument').fill('--');
  await page.keyboard.press('Enter');
  await expect(instruments.getByText('29 things', { exact: false })).toBeVisible();
  await instruments.getByLabel('New thing of Instrument').fill('theremin, ether wave');
  await page.keyboard.press('Enter');
  await expect(instruments.getByLabel('theremin, English')).toHaveValue('theremin, ether wave');
  await page.getByRole('button', { name: 'New pattern' }).click();
  await page.getByLabel('Name of New pattern').fill('Case label');
  const pattern = page.getByRole('region', { name: 'Case label' });
  await pattern.getByLabel('Written like (RE2 pattern)').fill('C[0-9');
  await expect(pattern.getByText('The pattern cannot be read.')).toBeVisible();
  await pattern.getByLabel('Written like (RE2 pattern)').fill('C-[0-9]{3}');
  await expect(pattern.getByText('The example does not fit.')).toBeVisible();
  await pattern.getByLabel('An example').fill('C-204');
  await expect(pattern.getByText('It fits.')).toBeVisible();
  await page.getByRole('button', { name: 'Keep and learn' }).click();
  await learnt(page, 'Kept and learnt.');
  await ask(page, 'my ether wave from case c-117');
  await expect(page.getByText('Instrument = theremin')).toBeVisible();
  await expect(page.getByText('Case label = C-117')).toBeVisible();
  await pattern.getByRole('button', { name: 'Take Case label out' }).click();
  await expect(pattern).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(pattern).toBeVisible();

  await page.getByRole('tab', { name: 'Quality' }).click();
  await expect(page.getByRole('heading', { name: 'By intent' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('row', { name: /^Swap size 42 \d+% \d+%$/ })).toBeVisible();
  await page
    .getByRole('row', { name: /^Swap size/ })
    .getByRole('button')
    .click();
  await expect(page.getByLabel('Label')).toHaveValue('Swap size');
});

test('what a bot did not understand is dropped onto an intent, learnt, and understood from the next version on', async ({
  browser,
  lane,
}) => {
  const handset = await customer(browser, lane, 'Website chat');
  await say(handset, 'zigzag parkour trampoline');
  await expect(handset.getByText(/no.*entendido|did not understand|Sorry/i).first()).toBeVisible();
  const page = await window(browser, lane, 'Noor Amsel', '/bots/phrasebook');
  await page.getByRole('tab', { name: 'Not understood 1' }).click();
  await page.getByText('zigzag parkour trampoline').dragTo(
    page
      .getByRole('listitem')
      .filter({ hasText: /^School account$/ })
      .last(),
  );
  // Nothing is kept before it was seen where it goes, and what that does.
  const dialog = page.getByRole('dialog', { name: 'Teach from this phrase' });
  await learnt(page, /^Of \d+ kept aside, \d+ are right now and \d+ would be\./);
  await dialog.getByRole('button', { name: 'Keep and learn' }).click();
  await learnt(page, 'Nothing was left un-understood');
  await page.getByRole('textbox', { name: 'Phrase', exact: true }).fill('a zigzag trampoline');
  await page.keyboard.press('Enter');
  await expect(page.getByText('none of these')).toHaveCount(0);
  await page.goto('/bots/bot_chat');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const tried = page.getByRole('list', { name: 'Tried conversation' });
  await page.getByLabel('Say something').fill('zigzag trampoline');
  await page.keyboard.press('Enter');
  await expect(tried.getByText(/heard school account 0\.\d\d/)).toBeVisible();
  await expect(tried.getByText('To School accounts')).toBeVisible();
  await expect(tried.getByText(/The person sees/)).toContainText('Reason: a school');
});

test('a word that customers use is suggested from what was not understood, taken in, and out as CSV; a bot is tried with what was said', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/bots/phrasebook');
  for (const words of ['gurbelit vendrals tomorrow', 'a gurbelit trossen', 'kindly gurbelit fennels'])
    await contactBy(lane, page, 'door_web', [words]);
  await page.getByRole('tab', { name: 'Other words' }).click();
  const suggested = page.getByRole('region', { name: 'Suggested from what was not understood' });
  await suggested.getByRole('button', { name: /^Look at gurbelit for / }).click({ timeout: 60_000 });
  const dialog = page.getByRole('dialog', { name: 'Teach from this phrase' });
  await expect(dialog.getByLabel('Other words')).toHaveValue('gurbelit');
  await dialog.getByLabel('for', { exact: true }).fill('violin');
  await learnt(page, /^Of \d+ kept aside, \d+ are right now and \d+ would be\./);
  await dialog.getByRole('button', { name: 'Keep and learn' }).click();
  await learnt(page, 'It is other words for violin.');
  await expect(page.getByRole('textbox', { name: 'Other words for violin' })).toHaveValue(/gurbelit/);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Other words (CSV)' }).click(),
  ]);
  const csv = await textOf(file);
  expect(csv).toContain('violin,en,gurbelit');
  await bring(page, 'words.csv', `${csv.trimEnd()}\r\nrepair,en,mendings\r\n`);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('textbox', { name: 'Other words for repair' })).toHaveValue('mendings');

  const { contact } = await contactBy(lane, page, 'door_web', ['a new hire', 'trumpet']);
  await page.goto(`/contacts/${contact}`);
  await page.getByRole('link', { name: 'Try its draft with these words' }).click();
  const tried = page.getByRole('list', { name: 'Tried conversation' });
  await expect(tried.getByText('trumpet', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Keep as test' }).click();
  await page.getByLabel('Name of the test').fill('As a customer said it');
  await page.getByRole('button', { name: 'Keep the test' }).click();
  await expect(page.getByText(/The test As a customer said it is kept/)).toBeVisible();
});

test('a new workspace of another business: ten phrases an intent, met at a chat door, asked back, taught, better on those kept aside', async ({
  browser,
  emptyLane,
}) => {
  const page = await window(browser, emptyLane, null, '/signin');
  await expect(page.getByText('Nobody has begun here yet')).toBeVisible();
  await page.goto(/\/welcome\/\S+/.exec(emptyLane.printed())?.[0] ?? '');
  await choose(page.getByLabel('Country'), 'Ireland');
  await page.getByLabel('Name of the company').fill('Saltmarsh Lending Library');
  await page.getByLabel('Your name').fill('Halina Orzel-Tarn');
  await page.getByLabel('Your e-mail address').fill('halina@saltmarsh.example');
  await page.getByLabel('Password').fill('ten letters or more');
  await page.getByLabel('The same again').fill('ten letters or more');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('Halina Orzel-Tarn').first()).toBeVisible();

  // Its book as a file: ten phrases an intent, and those kept aside.
  type Texts = Readonly<Record<string, readonly string[]>>;
  const read = <T>(file: string): T => JSON.parse(readFileSync(`tests/data/${file}`, 'utf8')) as T;
  const { intents } = read<{ intents: { id: string; label: string; description: string; examples: Texts }[] }>(
    'library.json',
  );
  const aside = Object.entries(read<Record<string, Texts>>('library-aside.json')).flatMap(([id, by]) =>
    (by.en ?? []).map((text) => ({ text, language: 'en', intentId: id === '' ? null : id })),
  );
  const book = {
    languages: ['en'],
    intents: intents.map((i) => ({ ...i, examples: { en: (i.examples.en ?? []).slice(0, 10) } })),
    recognised: [],
    aside,
  };
  await page.goto('/bots/phrasebook');
  await bring(page, 'library.json', JSON.stringify(book));
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('button', { name: 'Keep and learn' }).click();
  await learnt(page, 'Kept and learnt.');

  // A queue, hours, a bot whose choices mean the intents, and a door.
  const set = async (act: string, data: object): Promise<{ id: string }> => {
    const answer = await page.request.post(`/api/settings/${act}`, { data });
    expect([act, answer.status(), answer.ok() ? '' : await answer.text()]).toEqual([act, 200, '']);
    return (await answer.json()) as { id: string };
  };
  const queue = await set('save-queue', {
    id: null,
    revision: 0,
    settings: { ...QUEUE_DEFAULTS, name: 'Desk', channels: ['chat'] },
  });
  const hours = await set('save-hours', {
    id: null,
    revision: 0,
    name: 'Always',
    zone: 'UTC',
    weekly: [1, 2, 3, 4, 5, 6, 7].map((day) => ({ day, from: '00:00', to: '23:59' })),
    exceptions: [],
  });
  const no = { text: {} };
  const bot = await set('bring-bot', {
    text: JSON.stringify({
      format: 'usher-lane-bot',
      version: 1,
      name: 'Saltmarsh',
      script: {
        shownName: 'Saltmarsh',
        picture: '',
        languages: ['en'],
        fallbackQueueId: queue.id,
        fallbackWording: no,
        afterSceneId: null,
        quiet: { remindSeconds: 240, wording: no, closeSeconds: 600 },
        scenes: [
          {
            id: 'welcome',
            name: 'Welcome',
            steps: [
              {
                id: 'w1',
                verb: 'listen',
                wording: { text: { en: 'What can we do for you?' } },
                hears: {
                  kind: 'choices',
                  choices: intents.map((i) => ({
                    id: i.id,
                    key: '',
                    label: { en: i.label },
                    synonyms: {},
                    cue: { to: 'scene', sceneId: i.id },
                    intentId: i.id,
                  })),
                },
                tries: 3,
                silenceSeconds: 8,
                again: no,
                silent: no,
                notices: [],
                into: null,
                otherwise: { to: 'scene', sceneId: 'desk' },
              },
            ],
          },
          ...intents.map((i) => ({
            id: i.id,
            name: i.label,
            steps: [{ id: `e_${i.id}`, verb: 'end', wording: { text: { en: `This is about: ${i.label}.` } } }],
          })),
          {
            id: 'desk',
            name: 'Desk',
            steps: [{ id: 'd1', verb: 'end', wording: { text: { en: 'Please ring us instead.' } } }],
          },
        ],
      },
      shared: [],
      tests: [],
      names: {},
    }),
  });
  const publish = async () => {
    const { bot: now } = (await (await page.request.get(`/api/read/bot?id=${bot.id}`)).json()) as {
      bot: { revision: number };
    };
    await set('publish-bot', { id: bot.id, revision: now.revision, note: '', at: null, override: null });
  };
  await publish();
  await set('save-door', {
    id: null,
    revision: 0,
    name: 'Web chat',
    channel: 'chat',
    address: 'saltmarsh.example',
    hoursId: hours.id,
    botId: bot.id,
    languages: ['en'],
    closedWording: {},
    trial: null,
    whenClosed: { does: 'end' },
    meets: { by: 'bot' },
  });

  // Understood in words that were never taught; asked back where it is in doubt.
  const sure = await customer(browser, emptyLane, 'Web chat');
  await say(sure, 'please renew everything I have on my card');
  await expect(sure.getByText('This is about: Renew a loan.')).toBeVisible();
  const inDoubt = await customer(browser, emptyLane, 'Web chat');
  const doubtful = 'could you fetch my gran’s novels round to her flat';
  await say(inDoubt, doubtful);
  await expect(inDoubt.getByText(/^Is it about .+, or .+\?/)).toBeVisible();
  await say(inDoubt, '1');
  await expect(inDoubt.getByText(/^This is about: /)).toBeVisible();

  // Taught from what was in doubt: what that does to those kept aside is seen first.
  await page.goto('/bots/phrasebook');
  await page.getByRole('tab', { name: 'Quality' }).click();
  const apart = page.getByRole('row', { name: /^Kept aside 60 / });
  await expect(apart).toBeVisible({ timeout: 30_000 });
  const shown = (await apart.textContent()) ?? '';
  await page.getByRole('tab', { name: /^Not understood/ }).click();
  await choose(page.getByLabel(`Teach “${doubtful}” to`), 'Home and mobile library');
  const dialog = page.getByRole('dialog', { name: 'Teach from this phrase' });
  const effect = dialog.getByText(/^Of 60 kept aside, \d+ are right now and \d+ would be\./);
  await expect(effect).toBeVisible({ timeout: 30_000 });
  const [before = 0, after = 0] = [...((await effect.textContent()) ?? '').matchAll(/\d+/g)].slice(1).map(Number);
  expect(after).toBeGreaterThan(before);
  await dialog.getByRole('button', { name: 'Keep and learn' }).click();
  await learnt(page, 'Home and mobile library has learnt it.');
  await page.getByRole('tab', { name: 'Quality' }).click();
  await expect(apart).toBeVisible({ timeout: 30_000 });
  await expect(apart).not.toHaveText(shown);

  // The next version of the bot understands it.
  await publish();
  const next = await customer(browser, emptyLane, 'Web chat');
  await say(next, 'please fetch my gran’s novels round to the flat');
  await expect(next.getByText('This is about: Home and mobile library.')).toBeVisible();
});
