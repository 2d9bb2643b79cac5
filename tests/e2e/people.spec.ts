import { choose, contactBy, errorOf, expect, readyAgent, reply, test, window } from './lane';

const level = (person: string, skill: string, words: string) => ({ name: `${person}, ${skill}: ${words}` });

/**
 * Forty people the way a spreadsheet gives them: a byte-order mark, semicolons, quotes, two bad lines and one address
 * twice.
 */
function messyFile(): Buffer {
  const rows = Array.from(
    { length: 36 },
    (_, i) =>
      `"Tern, No ${i}";tern.${i}@brindlewood.example;${i % 2 ? 'Front desk' : '"Repairs bench"'};Front desk;${i % 6 || ''}`,
  );
  return Buffer.from(`\uFEFFName;E-mail;Team;Duty profile;Brass\r\n` + `${[...rows, ...BAD].join('\r\n')}\r\n`);
}

/** Lines with something wrong, and one of somebody who is there. */
const BAD = [
  'Wren Bad;no address here;Front desk;Front desk;2',
  'Wren Worse;wren.worse@brindlewood.example;Front desk;Front desk;9',
  'Tern Twice;tern.1@brindlewood.example;Front desk;Front desk;',
  'Odile Karrow;odile.karrow@brindlewood.example;;;4',
];

test('keeping a very large file shows how far it is and is called off: nothing of it is there', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people/import');
  const lines = Array.from(
    { length: 15_000 },
    (_, i) => `Person ${i},person.${i}@brindlewood.example,Front desk,Front desk,${1 + (i % 5)}`,
  );
  await page.locator('input[type=file]').setInputFiles({
    name: 'everybody.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['Name,E-mail,Team,Duty profile,Brass', ...lines].join('\n')),
  });
  const keep = page.getByRole('button', { name: 'Keep 15000 lines' });
  await keep.click({ timeout: 60_000 });
  await expect(page.getByRole('progressbar', { name: /^Putting together/ })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'It was called off. Nothing was changed.' })).toBeVisible();
  await expect(keep).toBeEnabled();
  const history = await window(browser, lane, 'Nell Ashgrove', '/history');
  await expect(history.getByText('Nothing was changed')).toBeVisible();
  await page.goto('/people');
  await expect(page.getByText('64 people · 14 skills')).toBeVisible();
});

test('forty people from a messy file: bad lines are named, one is mended, the rest kept, and a second run changes nothing', async ({
  browser,
  ownLane: lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people/import');
  const choose = async () => {
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'team.csv', mimeType: 'text/csv', buffer: messyFile() });
    await expect(page.getByRole('button', { name: /^all 40/ })).toBeVisible();
  };
  await choose();
  for (const words of ['36 new', '1 changed', '0 unchanged', '3 refused'])
    await expect(page.getByRole('button', { name: words })).toBeVisible();
  await page.getByRole('button', { name: '3 refused' }).click();
  const lines = page.getByRole('region', { name: 'Lines of the file' });
  await expect(lines.getByText('“no address here” is not an e-mail address')).toBeVisible();
  await expect(lines.getByText('“9” is not a level: 1 to 5, never, or 0 to clear')).toBeVisible();
  await expect(lines.getByText('the same address stands in row 3')).toBeVisible();
  await lines.getByLabel('Row 39, Brass').fill('3');
  await lines.getByLabel('Row 39, Brass').press('Enter');
  await expect(page.getByRole('button', { name: '37 new' })).toBeVisible();
  // Meanwhile somebody else changes the one person of the file who is here already.
  const nell = await window(browser, lane, 'Nell Ashgrove', '/people');
  const brass = { personId: 'person_05', skillId: 'skill_brass', level: 3 };
  expect((await nell.request.post('/api/settings/set-levels', { data: { changes: [brass] } })).ok()).toBe(true);
  await page.getByRole('button', { name: 'Keep 38 lines, leave 2 out' }).click();
  await expect(page.getByText(/37 people were kept. One line was left: somebody else changed/)).toBeVisible();
  await expect(lines.getByRole('row', { name: /Odile Karrow.*Brass: 3 → 4/ })).toBeVisible();
  await expect(lines.getByRole('row')).toHaveCount(2);
  await page.getByRole('button', { name: 'Keep 1 line, leave 2 out' }).click();
  await expect(page.getByText('38 people were written.')).toBeVisible();
  await choose();
  for (const words of ['0 new', '0 changed', '37 unchanged'])
    await expect(page.getByRole('button', { name: words })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Nothing to keep' })).toBeDisabled();
  await page.goto('/mailbox');
  await expect(page.getByRole('button', { name: /wren\.worse@brindlewood\.example/ })).toBeVisible();
  // What was acknowledged is there after a power cut.
  await lane.kill();
  await lane.start();
  await page.goto('/people');
  await expect(page.getByText('101 people · 14 skills')).toBeVisible();
});

test('levels over a block by keyboard: set, never, copy, paste, fill down, undo and redo', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await choose(page.getByLabel('Team', { exact: true }), 'Repairs bench');
  const cell = (person: string, skill: string, words: string) =>
    page.getByRole('gridcell', level(person, skill, words));
  await page.getByRole('gridcell', { name: /^Odile Karrow, Keyboards:/ }).click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('4');
  await expect(cell('Odile Karrow', 'Keyboards', 'level 4, set on the person')).toBeVisible();
  await expect(cell('Pell Hathersage', 'Keyboards', 'level 4, set on the person')).toBeVisible();
  await page.keyboard.press('n');
  await expect(cell('Pell Hathersage', 'Keyboards', 'never, set on the person')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(cell('Odile Karrow', 'Keyboards', 'level 4, set on the person')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(cell('Odile Karrow', 'Keyboards', 'level 4, set on the person')).toHaveCount(0);
  await page.keyboard.press('Control+y');
  await expect(cell('Pell Hathersage', 'Keyboards', 'level 4, set on the person')).toBeVisible();
  // What is copied is what a spreadsheet shows, and it can be pasted elsewhere.
  await page.getByRole('gridcell', { name: /^Odile Karrow, Keyboards:/ }).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Control+c');
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('4\t5');
  await page.evaluate(() => navigator.clipboard.writeText('3\tN\nx\t2\n'));
  await page.getByRole('gridcell', { name: /^Sunniva Roe, Spanish:/ }).click();
  await page.keyboard.press('Control+v');
  await expect(cell('Sunniva Roe', 'Spanish', 'level 3, set on the person')).toBeVisible();
  await expect(cell('Sunniva Roe', 'French', 'never, set on the person')).toBeVisible();
  await expect(page.getByText('1 pasted value is no level and was left out.')).toBeVisible();
  const threes = page.getByRole('gridcell', { name: /Spanish: level 3, set on the person/ });
  const had = await threes.count();
  await page.getByRole('gridcell', { name: /^Sunniva Roe, Spanish:/ }).click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await expect(threes).toHaveCount(had + 2);
});

test('a filter is kept by name, and people are changed in bulk with a preview and one undo', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  await choose(page.getByLabel('Skill', { exact: true }), 'French');
  await choose(page.getByLabel('At least level'), { value: '4' });
  await page.getByRole('button', { name: 'Keep this filter' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Good French');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'Clear' }).click();
  await choose(page.getByLabel('Kept filters'), 'Good French');
  await page.getByRole('button', { name: 'As a list' }).click();
  const shown = await page.getByRole('status').filter({ hasText: 'shown' }).textContent();
  const n = Number(/\d+/.exec(shown ?? '')?.[0]);
  expect(n).toBeGreaterThan(1);
  await page.getByLabel('Pick everybody shown').check();
  await page.getByRole('button', { name: `Change ${n}…` }).click();
  await choose(page.getByLabel('What to set'), 'Duty profile');
  await choose(page.getByLabel('To what'), 'Texts only');
  await expect(page.getByText(`${n} would change.`)).toBeVisible();
  await page.getByRole('button', { name: `Change ${n} people` }).click();
  await page.goto('/history');
  await page
    .getByRole('button', { name: `Undo all ${n}` })
    .first()
    .click();
  await expect(page.getByText(`${n} changes taken back.`)).toBeVisible();
  await page.goto('/people?person=person_05');
  await expect(page.getByRole('link', { name: 'duty: Repairs first' })).toBeVisible();
});

test('somebody is on another profile until 14:00, and back after it is ended', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people?person=person_05');
  await page.getByRole('button', { name: 'Another profile for now…' }).click();
  await choose(page.getByLabel('Profile for now'), 'Texts only');
  await page.getByLabel('Until').fill('14:00');
  await page.getByRole('button', { name: 'Move' }).click();
  await expect(page.getByText('On Texts only until 14:00.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'duty: Texts only' })).toBeVisible();
  await choose(page.getByLabel('State', { exact: true }), 'On another profile');
  await expect(page.getByText('1 shown', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'End it now' }).click();
  await expect(page.getByRole('link', { name: 'duty: Repairs first' })).toBeVisible();
});

test('readiness names each broken condition with its fix, and the fix mends it', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people?person=person_04');
  const panel = page.getByRole('region', { name: 'Tamsin Orrel' });
  const answer = () => panel.getByRole('heading', { name: /Can a contact reach them/ });
  await expect(answer()).toContainText('yes');

  await panel.getByRole('button', { name: 'Switch off' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Switch off' }).click();
  await expect(panel.getByText(/The account is switched off/)).toBeVisible();
  await panel.getByRole('button', { name: 'Switch the account on' }).click();
  await expect(answer()).toContainText('yes');

  await panel.getByRole('button', { name: 'Change', exact: true }).click();
  await choose(page.getByLabel('Role'), 'quality reader');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(panel.getByText('The role quality reader does not work with contacts')).toBeVisible();
  await panel.getByRole('button', { name: 'Give another role' }).click();
  await choose(page.getByLabel('Role'), 'agent');
  for (const channel of ['Voice', 'Chat', 'Messaging', 'SMS']) await page.getByLabel(`${channel} at once`).fill('0');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(panel.getByText('Every channel that Front desk takes is set to 0 at once')).toBeVisible();
  await expect(page.getByRole('link', { name: '2 to fix' })).toBeVisible();
  await panel.getByRole('button', { name: 'Allow a channel' }).click();
  for (const channel of ['Voice', 'Chat', 'Messaging', 'SMS']) await page.getByLabel(`${channel} at once`).fill('');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(answer()).toContainText('yes');

  // Whoever waits a minute for Repairs is given to people without its skill: that queue is taken out of the profile.
  const duty = (await (await page.request.get('/api/read/duty')).json()) as {
    profiles: { id: string; rows: { queueId: string }[] }[];
  };
  const front = duty.profiles.find((p) => p.id === 'profile_front');
  const kept = Object.fromEntries(
    Object.entries(front ?? {}).filter(([name]) =>
      /^(id|revision|name|load|acceptSeconds|autoAccept|restSeconds)$/.test(name),
    ),
  );
  const saved = await page.request.post('/api/settings/save-profile', {
    data: { ...kept, rows: front?.rows.filter((r) => r.queueId !== 'queue_repairs') },
  });
  expect(saved.ok()).toBe(true);
  await page.request.post('/api/settings/set-levels', {
    data: {
      changes: ['skill_newhire', 'skill_billing', 'skill_deliveries', 'skill_triage', 'skill_es'].map((skillId) => ({
        personId: 'person_04',
        skillId,
        level: 'never',
      })),
    },
  });
  await expect(panel.getByText(/No queue’s needs are met: New hire needs New hire 2/)).toBeVisible();
  await panel.getByRole('button', { name: 'Set the skills' }).click();
  await choose(panel.getByLabel('New hire: own level'), { value: '5' });
  await panel.getByRole('tab', { name: 'Now' }).click();
  await expect(answer()).toContainText('yes');

  await panel.getByRole('button', { name: 'Change', exact: true }).click();
  const asked = await page.request.get('/api/v1/people/person_04/readiness');
  expect(await asked.json()).toMatchObject({ personId: 'person_04', ready: true });
  await page.goto('/tofix');
  await page.getByRole('link', { name: 'Allow a channel' }).click();
  await expect(page).toHaveURL(/person=person_60/);
});

test('a new person is invited, sets a password by the link in the mail, and works at the Desk', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people');
  await page.getByRole('button', { name: 'Add a person' }).click();
  await page.getByLabel('Full name').fill('Linnea Corby-Vale');
  await page.getByLabel('Name shown to customers').fill('Linnea');
  await page.getByLabel('E-mail address').fill('linnea.corby@brindlewood.example');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('The invitation has not been accepted yet')).toBeVisible();
  await page.goto('/mailbox');
  const path = await page.getByRole('article').getByRole('link').getAttribute('href');
  await page.goto('/people');
  await page.getByLabel('Find a person').fill('linnea');
  await page.getByRole('button', { name: 'Linnea Corby-Vale' }).click();
  await expect(page.getByRole('button', { name: 'Withdraw it' })).toBeVisible();
  const hers = await window(browser, lane, null, path ?? '');
  await hers.getByLabel('Password').fill('short one');
  await hers.getByLabel('The same again').fill('short two');
  await hers.getByLabel('Password').fill('a long enough one');
  await hers.getByLabel('The same again').fill('another entirely');
  await hers.getByRole('button', { name: 'Set it and sign in' }).click();
  await expect(hers.getByText('The two passwords differ.')).toBeVisible();
  await hers.getByLabel('The same again').fill('a long enough one');
  await hers.getByRole('button', { name: 'Set it and sign in' }).click();
  await expect(hers).toHaveURL(/desk/);
  await hers.getByRole('button', { name: 'Go ready' }).click();
  await expect(hers.getByText(/^Ready ·/)).toBeVisible();
  const again = await window(browser, lane, null, path ?? '');
  await expect(again.getByText(/accepted already/)).toBeVisible();
});

test('a supervisor of one team can neither read nor change another’s people: page, act and interface', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Bertil Achterberg', '/people?person=person_05');
  await expect(page.getByText('Nobody chosen')).toBeVisible();
  await page.getByLabel('Find a person').fill('odile');
  await expect(page.getByText('Nobody matches.')).toBeVisible();
  expect(JSON.stringify(await (await page.request.get('/api/read/people')).json())).not.toContain('Odile');
  for (const path of [
    '/api/read/person?id=person_05',
    '/api/read/ways?id=person_05',
    '/api/read/access?id=person_05',
    '/api/v1/people/person_05/readiness',
  ])
    expect((await page.request.get(path)).status(), path).toBe(404);
  for (const [act, body] of [
    ['set-levels', { changes: [{ personId: 'person_05', skillId: 'skill_pl', level: 2 }] }],
    ['switch-person', { personId: 'person_05', active: false }],
    ['set-for-now', { personId: 'person_05', profileId: null }],
  ] as const) {
    const answer = await page.request.post(`/api/settings/${act}`, { data: body });
    expect((await errorOf(answer)).code, act).toBe('not-found');
  }
  expect((await page.request.get('/api/people.csv')).status()).toBe(403);
  await page.goto('/mailbox');
  await expect(page.getByRole('heading', { name: 'You may not open the mailbox' })).toBeVisible();
  await page.goto('/floor');
  await expect(page.getByText('School accounts')).toHaveCount(0);
  await page.goto('/people');
  await page.getByRole('gridcell', { name: /^Tamsin Orrel, Polish:/ }).click();
  await page.keyboard.press('2');
  await expect(page.getByRole('gridcell', level('Tamsin Orrel', 'Polish', 'level 2, set on the person'))).toBeVisible();
});

test('two people change one person: both versions are shown, and the second chooses', async ({ browser, lane }) => {
  const noor = await window(browser, lane, 'Noor Amsel', '/people?person=person_04');
  const nell = await window(browser, lane, 'Nell Ashgrove', '/people?person=person_04');
  for (const page of [noor, nell]) await page.getByRole('button', { name: 'Change', exact: true }).click();
  await noor.getByLabel('Name shown to customers').fill('Tam');
  await noor.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(noor.getByRole('button', { name: 'Change', exact: true })).toBeVisible();
  await nell.getByLabel('Name shown to customers').fill('Miss Orrel');
  // Her form was opened on the version before: she is told, and sees both.
  await nell.getByRole('button', { name: 'Save', exact: true }).click();
  const dialog = nell.getByRole('dialog', { name: 'Somebody else changed this' });
  await expect(dialog.getByRole('row', { name: /name shown Tam Miss Orrel/ })).toBeVisible();
  await dialog.getByRole('button', { name: 'Save mine over it' }).click();
  await expect(dialog).toHaveCount(0);
  await noor.goto('/history?thing=person_04');
  await expect(noor.getByText('Miss Orrel')).toBeVisible();
  await noor.getByRole('button', { name: 'Undo' }).nth(1).click();
  await expect(
    noor.getByRole('dialog', { name: 'It was changed again since' }).getByText('now Miss Orrel, would be Tamsin'),
  ).toBeVisible();
  await noor.getByRole('button', { name: 'Keep it as it is now' }).click();
  await noor.getByRole('button', { name: 'Undo' }).first().click();
  await expect(noor.getByText('Taken back.')).toBeVisible();
});

test('a duty profile is copied, moved by keys, previewed in a situation and taken by nobody until it is given', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people/duty?profile=profile_front');
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.getByRole('group', { name: /^New hire by .*, band 1/ }).press('ArrowDown');
  await expect(page.getByRole('group', { name: /^New hire by .*, band 2/ })).toBeFocused();
  await page.getByLabel('Chats at once').fill('2');
  await expect(page.getByLabel('Load of one by Chat')).toHaveValue('50');
  const situation = page.getByRole('region', { name: 'What would be taken' });
  await choose(situation.getByLabel('Whose skills'), 'Tamsin Orrel');
  await expect(situation.getByText(/this profile would take \d+/)).toBeVisible();
  await page.getByRole('button', { name: 'Add the profile' }).click();
  await expect(page.getByText('0 on it · 0 on duty')).toBeVisible();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByRole('button', { name: /Front desk copy/ })).toHaveCount(0);
});

test('a queue’s side: who takes it is set there for a whole profile', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_schools');
  await choose(page.getByLabel('Evening by Chat: band'), { value: '3' });
  await page.getByLabel('Evening by Chat: after seconds').fill('90');
  await page.getByRole('button', { name: 'Apply to 10 people' }).click();
  await expect(page.getByText('Applied to 10 people; it counts from the next contact on.')).toBeVisible();
  await page.getByRole('link', { name: 'Evening' }).click();
  await expect(page.getByRole('group', { name: 'School accounts by Chat, band 3' })).toBeVisible();
});

test('one person is put on a queue and taken off it from the queue’s page; who takes it is copied from another', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/queues?queue=queue_strings');
  const who = page.getByRole('region', { name: 'Who takes it' });
  await choose(who.getByLabel('Put one person on it, or take them off'), 'Tamsin Orrel, Front desk');
  await expect(who.getByRole('row', { name: /Tamsin Orrel/ })).toContainText('Front desk');
  await choose(who.getByLabel('Tamsin Orrel by Chat: band'), { value: '2' });
  await who.getByLabel('Tamsin Orrel by Chat: after seconds').fill('20');
  await who.getByRole('button', { name: 'Apply to 1 person' }).click();
  await expect(page.getByText('Applied to 1 person; it counts from the next contact on.')).toBeVisible();
  await who.getByRole('link', { name: 'Tamsin Orrel' }).click();
  await expect(page.getByText('Exceptions of their own: Strings advice.')).toBeVisible();
  await page.getByRole('link', { name: 'Strings advice', exact: true }).click();
  await choose(who.getByLabel('Tamsin Orrel by Chat: band'), { value: 'as' });
  await who.getByRole('button', { name: 'Apply to 1 person' }).click();
  await expect(who.getByRole('row', { name: /Tamsin Orrel/ })).toHaveCount(0);
  await choose(who.getByLabel('Copy who takes it from another queue'), 'Repairs');
  await expect(who.getByRole('button', { name: /^Apply to \d+ people/ })).toBeVisible();
  await who.getByRole('button', { name: 'Discard' }).click();
  await expect(who.getByLabel('Copy who takes it from another queue')).toBeVisible();
});

test('people are put on a duty profile from its page', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people/duty?profile=profile_evening');
  await page.getByRole('button', { name: 'Put people on it…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Put people on Evening' });
  await dialog.getByLabel('Find people by name, team or profile').fill('nobody of that name');
  await expect(dialog.getByText('Nobody else is found by these words.')).toBeVisible();
  await dialog.getByLabel('Find people by name, team or profile').fill('orrel');
  await dialog.getByLabel('all 1 found').check();
  await dialog.getByRole('button', { name: 'Put 1 on it' }).click();
  await expect(page.getByText('1 person is on Evening. One undo in History takes it back.')).toBeVisible();
  await expect(page.getByText('11 on it')).toBeVisible();
});

test('a way to reach somebody is verified by the code that was sent, and chosen at the Desk', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people?person=person_05');
  const desk = await window(browser, lane, 'Odile Karrow', '/desk');
  await desk.getByLabel('Calls come to').click();
  await expect(desk.getByRole('option', { name: '+353209110171 (not verified)' })).toBeDisabled();
  await desk.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Verify it' }).click();
  await page.getByRole('button', { name: 'Send a code' }).click();
  const sent = await window(browser, lane, 'Noor Amsel', '/mailbox');
  const code =
    /code is ([\d ]+)\./.exec((await sent.getByRole('article').textContent()) ?? '')?.[1]?.replaceAll(' ', '') ?? '';
  await page.getByLabel('Code sent to +353209110171').fill(code === '111111' ? '222222' : '111111');
  await page.getByRole('button', { name: 'Verify' }).click();
  await expect(page.getByText('This is not the code that was sent.')).toBeVisible();
  await page.getByLabel('Code sent to +353209110171').fill(code);
  await page.getByRole('button', { name: 'Verify' }).click();
  await expect(page.getByText('+353209110171 is verified.')).toBeVisible();
  await desk.reload();
  await choose(desk.getByLabel('Calls come to'), '+353209110171');
  await expect(desk.getByText('Calls come to +353209110171 today.')).toBeVisible();
});

test('a desk profile hides a panel, its rule gives it, and the Desk follows; stock replies are filled', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people/desks');
  const desk = await readyAgent(browser, lane, 'Odile Karrow');
  await contactBy(lane, page, 'door_web', ['a repair', '204816', 'the bridge snapped']);
  const about = desk.getByRole('region', { name: 'About the offer' });
  await expect(about.getByText('the bridge snapped')).toBeVisible();
  await expect(about.getByText(/^You were asked after/)).toBeVisible();
  await desk.getByRole('button', { name: 'Take (T)' }).click();
  await expect(desk.getByRole('heading', { name: 'Why you' })).toBeVisible();
  await desk.getByRole('button', { name: 'Bridge fell or snapped' }).click();
  await expect(reply(desk)).toHaveValue(/loosen the strings/);
  // Another is looked for by typing, and stands behind it.
  await reply(desk).press('ControlOrMeta+End');
  await desk.keyboard.type(' /hello');
  await expect(desk.getByRole('option', { name: /^Hello Greetings/ })).toBeVisible();
  await desk.keyboard.press('Enter');
  await expect(reply(desk)).toHaveValue(/Hello Wren Holloway-Tarn, this is Odile at Brindlewood/);
  await page.getByRole('button', { name: /^Bench Desk/ }).click();
  const talking = page.getByRole('region', { name: 'The Desk while talking' });
  await talking.getByRole('button', { name: 'Take Why you off, while talking' }).click();
  await talking.getByRole('button', { name: 'Take Stock replies off, while talking' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/Suggested replies needs the panel Stock replies while talking/)).toBeVisible();
  await talking.getByRole('button', { name: 'Take Suggested replies off, while talking' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await desk.reload();
  await expect(desk.getByRole('heading', { name: 'What we know' })).toBeVisible();
  await expect(desk.getByRole('heading', { name: 'Why you' })).toHaveCount(0);
  await reply(desk).fill('/');
  await expect(desk.getByRole('listbox')).toHaveCount(0);
  await reply(desk).fill('');
  await desk.getByRole('button', { name: 'Finish' }).click();
  await expect(desk.getByText(/The customer wrote: “the bridge snapped”/)).toBeVisible();
  // A helper is off at every Desk by one press, and rules that are being changed beside it stay.
  await page.getByRole('button', { name: 'Add a rule' }).click();
  const helpers = page.getByRole('region', { name: 'Helpers' });
  await helpers.getByRole('button', { name: 'Off everywhere' }).last().click();
  await expect(page.getByText('Summary is off at every Desk.')).toBeVisible();
  await expect(helpers.getByText('off everywhere', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save the rules' })).toBeEnabled();
  await desk.reload();
  await expect(desk.getByText(/The customer wrote: “the bridge snapped”/)).toHaveCount(0);
});

test('a role is copied, changed and given; ownership is handed on', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Nell Ashgrove', '/people/roles?role=supervisor');
  await page.getByRole('button', { name: 'Copy' }).click();
  await page.getByLabel('Name').fill('floor watcher');
  for (const right of [
    'add and change people, their skills and duty profiles',
    'read conversations',
    'see who changed what',
  ])
    await page.getByLabel(right).uncheck();
  await page.getByLabel('these teams').check();
  await page.getByLabel('Front desk').check();
  await page.getByRole('button', { name: 'Add the role' }).click();
  await expect(page.getByRole('heading', { name: 'floor watcher' })).toBeVisible();
  await page.goto('/people?person=person_05');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await choose(page.getByLabel('Role'), 'floor watcher');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('link', { name: 'Access' }).click();
  const access = page.getByRole('region', { name: 'What one person can see and do' });
  await expect(access.getByText(/teams: Front desk/)).toBeVisible();
  const odile = await window(browser, lane, 'Odile Karrow', '/floor');
  await expect(odile.getByRole('heading', { name: 'You may not open' })).toHaveCount(0);
  await expect(odile.getByText('School accounts')).toHaveCount(0);
  await page.getByRole('button', { name: 'Hand ownership on…' }).click();
  await choose(page.getByLabel('New owner'), 'Noor Amsel');
  await page.getByRole('button', { name: 'Hand it on' }).click();
  await expect(page.getByRole('button', { name: 'Hand ownership on…' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^owner 1 person/ })).toBeVisible();
});

test('a shift from a calendar is shown, kept and counted; a team’s language must be confirmed', async ({
  browser,
  lane,
}) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people/shifts');
  await page.getByRole('button', { name: 'Bring in shifts' }).click();
  const calendar = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//example//EN',
    'BEGIN:VEVENT',
    'UID:1',
    'DTSTAMP:20261101T000000Z',
    'SUMMARY:Late',
    'ATTENDEE:mailto:odile.karrow@brindlewood.example',
    'DTSTART:20261102T120000',
    'DTEND:20261102T200000',
    'RRULE:FREQ=WEEKLY;BYDAY=MO,TU',
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'late.ics', mimeType: 'text/calendar', buffer: Buffer.from(calendar) });
  await expect(page.getByText('2 stretches a week, 0 dated days')).toBeVisible();
  await page.getByRole('button', { name: 'Keep 1 shift' }).click();
  await expect(page.getByRole('img', { name: 'Odile Karrow: Mon 12:00–20:00, Tue 12:00–20:00' })).toBeVisible();
  await page.getByRole('button', { name: 'Odile Karrow' }).click();
  await page.getByRole('button', { name: 'Add a day' }).click();
  await page.getByLabel('Day', { exact: true }).fill('2026-12-24');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The shift of Odile Karrow is saved.')).toBeVisible();
  await page.goto('/people/teams?team=team_front');
  await choose(page.getByLabel('French: level'), { value: '2' });
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/says that everybody in it speaks it equally well/)).toBeVisible();
  await page.getByLabel(/Everybody in this team speaks French equally well/).check();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Front desk saved; it counts from the next contact on.')).toBeVisible();
  await page.goto('/people/teams?skill=skill_fr');
  await expect(page.getByText(/\d\d have it/)).toBeVisible();
});

test('the mouse: a queue is dragged to another band, and a block of cells is drawn', async ({ browser, lane }) => {
  const page = await window(browser, lane, 'Noor Amsel', '/people/duty?profile=profile_front');
  const drag = async (
    from: ReturnType<typeof page.locator>,
    to: ReturnType<typeof page.locator>,
    grip: { x: number; y: number },
  ) => {
    const [a, b] = [await from.boundingBox(), await to.boundingBox()];
    if (!a || !b) throw new Error('nothing to drag');
    await page.mouse.move(a.x + grip.x, a.y + grip.y);
    await page.mouse.down();
    await page.mouse.move(a.x + grip.x + 10, a.y + grip.y + 10, { steps: 4 });
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 10 });
    await page.mouse.up();
  };
  await drag(page.getByRole('group', { name: /^Billing by .*, band 2/ }), page.getByRole('group', { name: 'Band 4' }), {
    x: 12,
    y: 12,
  });
  await expect(page.getByRole('group', { name: /^Billing by .*, band 4/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Apply to/ })).toBeEnabled();
  await page.getByRole('button', { name: 'Undo changes' }).click();
  await expect(page.getByRole('group', { name: /^Billing by .*, band 2/ })).toBeVisible();

  await page.goto('/people');
  await drag(
    page.getByRole('gridcell', { name: /^Bertil Achterberg, Brass:/ }),
    page.getByRole('gridcell', { name: /^Ilse Yarrowby, Percussion:/ }),
    { x: 20, y: 16 },
  );
  await expect(page.getByText('6 cells picked: type a level for all of them')).toBeVisible();
  await page.keyboard.press('2');
  for (const person of ['Bertil Achterberg', 'Colm Ferrity', 'Ilse Yarrowby'])
    for (const skill of ['Brass', 'Percussion'])
      await expect(page.getByRole('gridcell', level(person, skill, 'level 2, set on the person'))).toBeVisible();
});

test('a role that only reads begins where it may, sees no act, and is refused by all of them; a failed read says so', async ({
  browser,
  lane,
}) => {
  const lead = await window(browser, lane, 'Noor Amsel', '/people?person=person_05');
  await lead.getByRole('button', { name: 'Change', exact: true }).click();
  await choose(lead.getByLabel('Role'), 'quality reader');
  await lead.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(lead.getByText('The role quality reader does not work with contacts')).toBeVisible();
  const page = await window(browser, lane, 'Odile Karrow', '/');
  await expect(page).toHaveURL(/review/);
  const stops = page.getByRole('navigation', { name: 'The lane' });
  await expect(stops.getByRole('link', { name: /^Review/ })).toBeVisible();
  await expect(stops.getByRole('link', { name: /^Doors/ })).toHaveCount(0);
  await page.goto('/people?person=person_04');
  await expect(page.getByRole('navigation', { name: 'People' }).getByRole('link', { name: 'Bring in' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Add a person' })).toHaveCount(0);
  const cell = page.getByRole('gridcell', { name: /^Tamsin Orrel, Polish:/ });
  await cell.click();
  await page.keyboard.press('4');
  await expect(page.getByText('These people are not yours to change.')).toBeVisible();
  expect(
    (
      await page.request.post('/api/settings/set-levels', {
        data: { changes: [{ personId: 'person_04', skillId: 'skill_pl', level: 4 }] },
      })
    ).status(),
  ).toBe(403);
  for (const [path, what] of [
    ['/people/import', 'the import'],
    ['/history', 'History'],
    ['/mailbox', 'the mailbox'],
    ['/doors', 'Doors'],
  ] as const) {
    await page.goto(path);
    await expect(page.getByRole('heading', { name: `You may not open ${what}` })).toBeVisible();
  }
  await page.route('**/api/read/person?*', (route) => route.abort());
  await page.goto('/people?person=person_04');
  await expect(page.getByRole('alert').filter({ hasText: 'The server cannot be reached' })).toBeVisible();
  await page.unroute('**/api/read/person?*');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('heading', { name: /Can a contact reach them/ })).toContainText(/yes|no/);
});
