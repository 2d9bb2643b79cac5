import type { Page } from '@playwright/test';
import { plusDays, weekdayOf } from '../../src/core/hours/dates';
import type { Step } from '../../src/core/bots/model';
import type { DutyProfile } from '../../src/core/people/duty';
import type { QueueSettings } from '../../src/core/routing/queue';
import type { QueuesView } from '../../src/services/queues/queuesview';
import { choice, choose as chooseLine, end, NEXT, scriptOf, toLine } from '../helpers/scripts';
import { choose, customer, expect, readyAgent, reply, say, test, window } from './lane';

/** Changes a queue the way its page does, for tests that are about what follows. */
async function setQueue(page: Page, id: string, change: Partial<QueueSettings>): Promise<void> {
  const view = (await (await page.request.get('/api/read/queues')).json()) as QueuesView;
  const queue = view.queues.find((q) => q.id === id);
  if (!queue) throw new Error(`there is no queue ${id}`);
  const { id: _id, revision, place: _place, waiting: _waiting, ...settings } = queue;
  const answer = await page.request.post('/api/settings/save-queue', {
    data: { id, revision, settings: { ...settings, ...change } },
  });
  expect(await answer.text()).toContain(id);
}
/** A caller at the repair line who waits in Repairs. */
async function caller(
  ...[browser, lane]: Parameters<typeof readyAgent> extends [infer B, infer L, ...unknown[]] ? [B, L] : never
): Promise<Page> {
  const handset = await customer(browser, lane, 'Repairs line');
  await say(handset, '204817');
  await expect(handset.getByText(/What has happened/)).toBeVisible();
  await say(handset, 'the bow is broken');
  await expect(handset.getByText('waiting for a person')).toBeVisible();
  return handset;
}

test('a queue with three stages is built on the clock by keyboard only, applied, and undone', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_deliveries');
  const keys = async (...list: string[]) => {
    for (const key of list) await page.keyboard.press(key);
  };
  const focused = () => page.locator(':focus');
  /** Walks with Tab until something of this name has the focus. */
  const tabTo = async (name: RegExp) => {
    for (let i = 0; i < 80; i++) {
      await page.keyboard.press('Tab');
      const label = await focused()
        .evaluate((e) => e.getAttribute('aria-label') ?? e.textContent ?? '')
        .catch(() => '');
      if (name.test(label)) return;
    }
    throw new Error(`nothing called ${name} is reached with Tab`);
  };
  /** Opens the menu that has the focus and chooses by the arrows. */
  const pick = async (item: string) => {
    await keys('Enter');
    await expect(
      page.getByRole('menuitem').first(),
      await focused()
        .evaluate((e) => e.outerHTML.slice(0, 200))
        .catch(() => 'nothing'),
    ).toBeFocused();
    for (let i = 0; i < 20 && (await focused().textContent()) !== item; i++) await keys('ArrowDown');
    await keys('Enter');
  };
  await expect(page.getByRole('heading', { name: 'Deliveries' })).toBeVisible();
  await tabTo(/^Add to Hears$/);
  await pick('Music: Cello loop');
  await expect(focused()).toHaveAccessibleName(/^Cello loop, at 0 s/);
  await tabTo(/^Add to Ways out$/);
  await pick('Ways out');
  await expect(focused()).toHaveAccessibleName(/^Ways out: 1 call me back, at 30 s/);
  await keys('ArrowRight', 'ArrowRight', 'ArrowRight', 'Shift+ArrowLeft');
  await expect(focused()).toHaveAccessibleName(/at 44 s/);
  await tabTo(/^Add to Must know$/);
  await pick('Loosen Deliveries');
  await expect(focused()).toHaveAccessibleName(/^Deliveries not needed, at 74 s/);
  await keys('Enter', 'Control+a');
  await page.keyboard.type('20');
  await keys('Enter');
  await expect(focused()).toHaveAccessibleName(/^Deliveries not needed, at 20 s/);
  await page.getByRole('button', { name: /^Ways out:.*at 44 s/ }).focus();
  await tabTo(/^Add to Who is asked$/);
  await pick('Group Helping hands');
  await expect(focused()).toHaveAccessibleName(/^Group Helping hands, at 74 s/);
  await tabTo(/^Add to And then$/);
  await pick('More urgent');
  await expect(focused()).toHaveAccessibleName(/^Urgency rises by 1/);
  await keys('Delete');
  await expect(page.getByRole('button', { name: /^Urgency rises/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Apply from the next visit' }).focus();
  await keys('Enter');
  await expect(page.getByText('Deliveries applied; it counts from the next visit on.')).toBeVisible();
  await page.reload();
  for (const name of [
    /^Cello loop, at 0 s/,
    /^Deliveries not needed, at 20 s/,
    /^Ways out: .*at 44 s/,
    /^Group Helping hands, at 74 s/,
  ])
    await expect(page.getByRole('button', { name })).toBeVisible();
  await expect(page.getByRole('region', { name: 'In sentences' })).toContainText(
    'after 20 s Deliveries may be 1 level lower; after 44 s the customer may choose a callback; ' +
      'after 74 s Helping hands is asked as well',
  );
  await page.goto('/history');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await page.goto('/queues?queue=queue_deliveries');
  await expect(page.getByRole('heading', { name: 'Deliveries' })).toBeVisible();
  await expect(page.locator('[data-act]')).toHaveCount(0);
});

test('an act is dragged along the clock with the mouse, and what a caller hears is played', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_repairs');
  const group = page.getByRole('button', { name: /^Group Helping hands, at 60 s/ });
  const box = await group.boundingBox();
  if (!box) throw new Error('the block has no place');
  await page.mouse.move(box.x + 20, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 10, { steps: 4 });
  await page.mouse.move(box.x + 20 + box.width / 4, box.y + 10, { steps: 6 });
  await page.mouse.up();
  await expect(
    page.getByRole('button', { name: /^Group Helping hands, at (8|9|10)\d? s|^Group Helping hands, at 9\d s/ }),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Apply from the next visit' })).toBeEnabled();
  // Looking at another queue loses nothing.
  await page.getByRole('button', { name: /^Billing/ }).click();
  await expect(page.getByRole('button', { name: 'Nothing changed' })).toBeVisible();
  await page.getByRole('button', { name: /^Repairs.*changed, not applied/ }).click();
  await expect(page.getByRole('button', { name: 'Apply from the next visit' })).toBeEnabled();
  await page.getByRole('button', { name: 'What a caller hears' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: '×10' }).click();
  await dialog.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(dialog.getByRole('status')).toContainText('♪ Cello loop');
  await choose(dialog.getByLabel('Language'), { value: 'es' });
  await dialog.getByRole('slider').fill('1');
  await expect(dialog.getByRole('status')).toContainText('Gracias por llamar');
});

test('who would get a made-up contact, and settings copied from another queue', async ({ browser, lane }) => {
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_repairs');
  await page.getByRole('button', { name: 'Who would get it' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText(/^Odile Karrow would be asked first: the only one able/)).toBeVisible();
  await choose(dialog.getByLabel('The hand-over also needs'), 'Polish');
  await expect(dialog.getByText('Nobody could take it now.')).toBeVisible();
  await expect(dialog.getByRole('row', { name: /Odile Karrow/ })).toContainText('Polish 3 or better is needed');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^School accounts/ }).click();
  await page.getByRole('button', { name: 'Copy from…' }).click();
  await choose(dialog.getByLabel('Queue'), 'Repairs');
  await dialog.getByLabel('picking order and offering').check();
  await dialog.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Picks the person by' })).toContainText('Best match');
  await expect(page.getByRole('button', { name: /^Group Helping hands, at 60 s/ })).toBeVisible();
  await desk.close();
});

test('a waiting call widens stage by stage on the Floor, at the seconds set', async ({ browser, lane }) => {
  const lead = await window(browser, lane, 'Noor Amsel', '/floor');
  await setQueue(lead, 'queue_repairs', {
    needs: [{ skillId: 'skill_triage', atLeast: 3 }],
    entryRules: [],
    clocks: {
      voice: [
        {
          atSeconds: 0,
          early: false,
          acts: [
            { does: 'say', wording: { en: 'Thank you for calling.' }, everySeconds: null },
            { does: 'play', music: 'cello' },
          ],
        },
        { atSeconds: 4, early: false, acts: [{ does: 'lower', skillId: 'skill_triage', by: 1 }] },
        {
          atSeconds: 8,
          early: false,
          acts: [
            { does: 'lower', skillId: 'skill_triage', by: 2 },
            { does: 'add-group', groupId: 'group_help' },
          ],
        },
      ],
    },
  });
  const handset = await caller(browser, lane);
  await expect(handset.getByText('Thank you for calling.')).toBeVisible();
  await expect(handset.getByText('♪ Cello loop')).toBeVisible();
  const begun = Date.now();
  await lead
    .getByRole('button', { name: /Voice in Repairs|Repairs/ })
    .first()
    .press('Enter');
  await expect(lead.getByText('needs Repairs triage 3 or better')).toBeVisible();
  await expect(lead.getByText('needs Repairs triage 2 or better')).toBeVisible();
  expect(Date.now() - begun).toBeLessThan(8000);
  await expect(lead.getByText(/stage 3 of 3; Helping hands asked as well/)).toBeVisible();
  await expect(lead.getByText(/needs Repairs triage/)).toHaveCount(0);
  await readyAgent(browser, lane, 'Odile Karrow');
  await expect(lead.getByText('Being offered')).toBeVisible();
});

test('a callback is asked for while waiting, dialled and answered', async ({ browser, lane }) => {
  const lead = await window(browser, lane, 'Noor Amsel', '/queues/callbacks');
  await setQueue(lead, 'queue_repairs', {
    entryRules: [],
    clocks: {
      voice: [
        {
          atSeconds: 1,
          early: false,
          acts: [
            {
              does: 'ask',
              wording: { en: 'We are all busy.' },
              choices: [{ key: '2', what: 'callback' }],
              everySeconds: null,
            },
          ],
        },
      ],
    },
  });
  const handset = await caller(browser, lane);
  await expect(handset.getByText(/Press 2 to be called back/)).toBeVisible();
  await handset.getByRole('button', { name: 'Key 2' }).click();
  await expect(handset.getByText(/Shall we call you back on \+353/)).toBeVisible();
  await handset.getByRole('button', { name: 'Key 1' }).click();
  await expect(handset.getByText(/When shall we call\?/)).toBeVisible();
  await handset.getByRole('button', { name: 'Key 1' }).click();
  await expect(handset.getByText(/as soon as possible\. Your place is kept/)).toBeVisible();
  await expect(lead.getByRole('row', { name: /\+353.*in line/ })).toBeVisible();
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await expect(desk.getByText(/^Calling \+353 .*, attempt 1 of 3: ringing/)).toBeVisible();
  await expect(handset.getByText('The telephone rings')).toBeVisible();
  await handset.getByRole('button', { name: 'Answer' }).click();
  await expect(desk.getByText(/ answered\.$/)).toBeVisible();
  await reply(desk).fill('Good day, this is Odile.');
  await desk.keyboard.press('Control+Enter');
  await expect(handset.getByText('Good day, this is Odile.')).toBeVisible();
  await desk.getByRole('button', { name: 'Repair booked' }).click();
  await expect(lead.getByRole('row', { name: /reached/ })).toContainText('REPAIR');
});

test('a group reaches its cap and the partner desk takes over', async ({ browser, lane }) => {
  const lead = await window(browser, lane, 'Noor Amsel', '/queues/groups');
  const form = lead.getByRole('form', { name: 'Helping hands' });
  await form.getByLabel('Contacts at most: an hour').fill('0');
  await form.getByRole('button', { name: 'Apply' }).click();
  await expect(lead.getByText('Helping hands applied; it counts from the next decision on.')).toBeVisible();
  await lead.goto('/tofix');
  await expect(lead.getByRole('listitem', { name: /Helping hands: It may take 0 contacts an hour/ })).toBeVisible();
  await setQueue(lead, 'queue_repairs', {
    entryRules: [],
    clocks: {
      voice: [
        {
          atSeconds: 0,
          early: false,
          acts: [
            { does: 'lower', skillId: 'skill_triage', by: 5 },
            { does: 'add-group', groupId: 'group_help' },
          ],
        },
        { atSeconds: 3, early: false, acts: [{ does: 'add-partner', partnerId: 'partner_bench' }] },
      ],
    },
  });
  await readyAgent(browser, lane, 'Tamsin Orrel');
  await lead.goto('/queues/partners');
  const whole = lead.getByRole('region', { name: 'The agreement' });
  await whole.getByLabel('Contacts at most, by all its numbers: at once').fill('1');
  await lead.getByRole('button', { name: 'Apply' }).click();
  await expect(lead.getByText('Bench partner applied; it counts from the next call on.')).toBeVisible();
  const handset = await caller(browser, lane);
  await expect(lead.getByRole('button', { name: /Bench partner/ })).toContainText('1 on the line');
  await expect(whole.getByText('(1 of 1)')).toBeVisible();
  await expect(handset.getByText('with a person')).toBeVisible({ timeout: 60_000 });
  await handset.getByRole('button', { name: 'Hang up' }).click();
  await expect(handset.getByText('The call has ended.')).toBeVisible();
  await expect(lead.getByRole('button', { name: /Bench partner/ })).toContainText('0 on the line');
  // One press lifts the limit; then the group takes the next call.
  await lead.goto('/tofix');
  await lead
    .getByRole('listitem', { name: /Helping hands/ })
    .getByRole('button', { name: 'Lift the limit' })
    .click();
  await expect(lead.getByText(/Helping hands: mended/)).toBeVisible();
});

test('a calendar brought in closes the door tomorrow; the same calendar comes out again', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/doors/hours');
  await page.getByRole('button', { name: /^Shop hours/ }).click();
  const day = await page.getByLabel('Day to ask about').inputValue();
  const next = new Date(Date.parse(`${day} 12:00 UTC`) + 86_400_000).toISOString().slice(0, 10);
  await page.getByRole('button', { name: 'Bring in a calendar' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Or paste it here').fill('nonsense');
  await dialog.getByRole('button', { name: 'Read it' }).click();
  await expect(dialog.getByRole('alert')).toContainText('not an iCalendar file');
  await dialog.getByLabel('Calendar file').setInputFiles({
    name: 'closed.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from(
      [
        'BEGIN:VCALENDAR',
        'VERSION:2.0',
        'BEGIN:VEVENT',
        'UID:1',
        'SUMMARY:Stocktaking',
        `DTSTART;VALUE=DATE:${next.replaceAll('-', '')}`,
        'END:VEVENT',
        'END:VCALENDAR',
      ].join('\r\n'),
    ),
  });
  await expect(dialog.getByText('1 new days, 0 changed, 0 the same.')).toBeVisible();
  // What has times may open its day only then, or close what would be open.
  const weekday = plusDays(next, (10 - weekdayOf(next)) % 7);
  const talk = ['DTSTART:12', 'DTEND:13'].map((l) => l.replace(':', `:${weekday.replaceAll('-', '')}T`) + '0000');
  await dialog
    .getByLabel('Or paste it here')
    .fill(['BEGIN:VCALENDAR', 'BEGIN:VEVENT', 'SUMMARY:Talk', ...talk, 'END:VEVENT', 'END:VCALENDAR'].join('\n'));
  await dialog.getByRole('button', { name: 'Read it' }).click();
  await expect(dialog.getByRole('listitem')).toContainText('12:00–13:00');
  await choose(dialog.getByLabel('Events with times mean'), 'closed then, of what would be open');
  await expect(dialog.getByRole('listitem')).toContainText(/–12:00, 13:00–/);
  await dialog.getByLabel('Or paste it here').fill('');
  await dialog.getByLabel('Calendar file').setInputFiles({
    name: 'closed.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from(
      `BEGIN:VCALENDAR\nBEGIN:VEVENT\nSUMMARY:Stocktaking\nDTSTART;VALUE=DATE:${next.replaceAll('-', '')}\nEND:VEVENT\nEND:VCALENDAR`,
    ),
  });
  await expect(dialog.getByText('1 new days, 0 changed, 0 the same.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Put 1 day in' }).click();
  await expect(page.getByLabel(`Note for ${next}`)).toHaveValue('Stocktaking');
  await page.getByLabel('Day to ask about').fill(next);
  await expect(page.getByRole('region', { name: 'Is it open at' }).getByRole('status')).toContainText('Closed');
  const calendar = await page.request.get(
    (await page.getByRole('link', { name: 'Take out as calendar' }).getAttribute('href')) ?? '',
  );
  expect(await calendar.text()).toContain(`DTSTART;VALUE=DATE:${next.replaceAll('-', '')}`);
});

test('an outcome is added with its rules, offered at the Desk only when it can be filed, and retired', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues/outcomes');
  await page.getByRole('button', { name: 'Add an outcome' }).click();
  await page.getByLabel('In a few words').fill('Settled at once');
  await page.getByLabel('Shortest contact, s').fill('600');
  await page.getByRole('button', { name: 'Add it' }).click();
  const settled = page.getByRole('list', { name: 'settled' });
  await expect(settled.getByRole('button', { name: /^Settled at once, from 10 min, filed by agents/ })).toBeVisible();
  await expect(page.getByText('In files it is SEATON.')).toBeVisible();
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await caller(browser, lane);
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await expect(
    desk.getByRole('button', { name: /^Settled at once ?, the contact must last at least 600 s/ }),
  ).toBeDisabled();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(settled.getByRole('button', { name: /^Settled at once/ })).toHaveCount(0);
});

test('what a bot counts and branches by is so for this contact: people who join later, a group from the start, a loosened skill, a Spanish need', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_repairs');
  const act = async (name: string, data: object) => {
    const answer = await page.request.post(`/api/settings/${name}`, { data });
    expect([name, answer.status(), answer.ok() ? '' : await answer.text()]).toEqual([name, 200, '']);
    return (await answer.json()) as { id: string; revision: number };
  };
  const count = (id: 'now' | 'soon' | 'ever', within?: number): Step => ({
    id,
    verb: 'count',
    queue: { by: 'name', queueId: 'queue_repairs' },
    figure: 'able',
    ...(within === undefined ? {} : { within }),
    into: { name: id, scope: 'conversation' },
  });
  const needs = [{ skillId: 'skill_es', atLeast: 2 as const }];
  const script = scriptOf([
    chooseLine('q', [choice('English', '1'), choice('Spanish', '2', NEXT, { needs })]),
    count('now', 0),
    count('soon', 20),
    count('ever'),
    {
      id: 'b',
      verb: 'branch',
      ways: [{ when: { '>': [{ var: 'queue.queue_repairs.able:0' }, 0] }, cue: toLine('free') }],
      otherwise: NEXT,
    },
    end('later', 'later {now} {soon} {ever}'),
    end('free', 'free {now} {soon} {ever}'),
  ]);
  const made = await act('save-bot', {
    id: null,
    revision: 0,
    name: 'Counter',
    draft: { ...script, fallbackQueueId: 'queue_repairs' },
  });
  await act('publish-bot', { id: made.id, revision: made.revision, note: '', at: null, override: null });
  await act('save-door', {
    id: null,
    revision: 0,
    name: 'Counting chat',
    channel: 'chat',
    address: 'count.brindlewood.example',
    hoursId: 'hours_long',
    botId: made.id,
    languages: ['en'],
    closedWording: {},
    trial: null,
    whenClosed: { does: 'end' },
    meets: { by: 'bot' },
  });
  type Duty = { profiles: readonly (DutyProfile & { revision: number })[] };
  const joins = async (delaySeconds: number | null) => {
    const { profiles } = (await (await page.request.get('/api/read/duty')).json()) as Duty;
    const profile = profiles.find((p) => p.id === 'profile_front');
    if (!profile) throw new Error('there is no such profile');
    const { id, revision, name, ...rest } = profile;
    const rows = profile.rows.filter((r) => r.queueId !== 'queue_repairs' || r.channel !== 'chat');
    const row = { queueId: 'queue_repairs', channel: 'chat', band: 1, delaySeconds };
    await act('save-profile', {
      id,
      revision,
      name,
      acceptSeconds: rest.acceptSeconds,
      autoAccept: rest.autoAccept,
      restSeconds: rest.restSeconds,
      load: rest.load,
      rows: delaySeconds === null ? rows : [...rows, row],
    });
  };
  const knows = (skillId: string, level: number | 'never') =>
    act('set-levels', { changes: [{ personId: 'person_04', skillId, level }] });
  const says = async (words: string, language: 'English' | 'Spanish' = 'English') => {
    const handset = await customer(browser, lane, 'Counting chat');
    await handset.getByRole('button', { name: language }).click();
    await expect(handset.getByText(words)).toBeVisible();
    await handset.close();
  };
  const triage = [{ skillId: 'skill_triage', atLeast: 2 as const }];
  await setQueue(page, 'queue_repairs', { needs: triage, clocks: {} });
  await joins(20);
  await knows('skill_triage', 2);
  await knows('skill_es', 'never');
  await says('later 0 0 0');
  await readyAgent(browser, lane, 'Tamsin Orrel');
  await says('later 0 1 1');
  // She knows too little at first, and enough once a stage asks for less.
  await knows('skill_triage', 1);
  await says('later 0 0 0');
  await setQueue(page, 'queue_repairs', {
    clocks: {
      chat: [{ atSeconds: 60, early: false, acts: [{ does: 'lower', skillId: 'skill_triage', by: 1 }] }],
    },
  });
  await says('later 0 0 1');
  // By a group that is asked from the start, without a row of her own.
  await joins(null);
  await setQueue(page, 'queue_repairs', {
    needs: [],
    clocks: { chat: [{ atSeconds: 0, early: false, acts: [{ does: 'add-group', groupId: 'group_help' }] }] },
  });
  await says('free 1 1 1');
  await says('later 0 0 0', 'Spanish');
});
