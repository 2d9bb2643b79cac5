import { createHash } from 'node:crypto';
import { BOT_TESTS, readBot, SHARED_SCENES } from '../../src/data/bots';
import { ARTICLES } from '../../src/data/articles';
import { readCoachingRules } from '../../src/data/coaching';
import { CONNECTORS, TABLES } from '../../src/data/connectors';
import { readDoors } from '../../src/data/doors';
import { withoutIntent } from '../../src/core/phrases/book';
import { readPhrasebook } from '../../src/data/phrasebook';
import { readProfile } from '../../src/data/dutyprofiles';
import { readFields } from '../../src/data/fields';
import { wave } from './wave';
import { GROUPS, PARTNERS } from '../../src/data/groups';
import { readAllHours } from '../../src/data/hours';
import { readPerson } from '../../src/data/people';
import { readQueue } from '../../src/data/queuesettings';
import { waysOf } from '../../src/data/reach';
import { gatheredNow } from '../../src/services/drafts/gathered';
import type { Actor } from '../../src/services/ground/actor';
import { handsIn, queueInput } from './hands';
import type { World } from './world';

/** One act with something it takes. */
export type ValidAct = {
  readonly act: string;
  /** Tells apart what the same act does in several ways. */
  readonly says: string;
  readonly input: (w: World) => object;
  /** Who does it; the lead where nobody else is named. */
  readonly who?: 'owner';
  /** Whether it is refused when what it is based on was changed meanwhile. */
  readonly based?: true;
  /** Taking it in is work: a book is learnt. */
  readonly slow?: true;
  /** It tries a whole day over a copy of the settings each time that it is taken. */
  readonly heavy?: true;
  /** It can be taken back in History. */
  readonly undone?: true;
};

/** What the demo company is known to have. */
export const must = <T>(found: T | undefined | null): T => {
  if (found === undefined || found === null) throw new Error('the demo has no such thing');
  return found;
};
const without = <T extends object>(thing: T, ...names: string[]) =>
  Object.fromEntries(Object.entries(thing).filter(([name]) => !names.includes(name)));
const lead = (w: World): Actor => w.actor('Noor Amsel');
const tamsin = (w: World): string => w.actor('Tamsin Orrel').personId;
const LOAD = {
  voice: { cost: 100, most: 1 },
  chat: { cost: 25, most: 4 },
  messaging: { cost: 20, most: 5 },
  sms: { cost: 10, most: 8 },
};
const CALENDAR = [
  'BEGIN:VCALENDAR',
  'VERSION:2.0',
  'PRODID:-//test//EN',
  'BEGIN:VEVENT',
  'UID:one',
  'DTSTAMP:20261101T000000Z',
  'DTSTART;VALUE=DATE:20261208',
  'DTEND;VALUE=DATE:20261209',
  'SUMMARY:Stocktaking',
  'END:VEVENT',
  'END:VCALENDAR',
].join('\r\n');

/** Every act that changes settings, each with something it takes in the demo company. */
export const CHANGES: readonly ValidAct[] = [
  {
    act: 'save-person',
    says: 'a new one',
    undone: true,
    input: (w) => ({
      ...without(handsIn(() => w).settings(tamsin(w)), 'roleId'),
      roleId: 'agent',
      id: null,
      revision: 0,
      name: 'Linnea Corby-Vale',
      email: 'linnea.corby@brindlewood.example',
    }),
  },
  {
    act: 'save-person',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...handsIn(() => w).settings(tamsin(w)), shownName: 'Tam' }),
  },
  {
    act: 'set-levels',
    says: 'two levels',
    undone: true,
    input: (w) => ({
      changes: [
        { personId: tamsin(w), skillId: 'skill_brass', level: 4 },
        { personId: tamsin(w), skillId: 'skill_keys', level: 'never', note: 'asked not to' },
      ],
    }),
  },
  {
    act: 'set-for-now',
    says: 'another profile until the afternoon',
    undone: true,
    input: (w) => ({ personId: tamsin(w), profileId: 'profile_repairs', until: '15:00' }),
  },
  {
    act: 'switch-person',
    says: 'off',
    undone: true,
    input: (w) => ({ personId: tamsin(w), active: false, open: 'return' }),
  },
  {
    act: 'bulk-people',
    says: 'a team’s site',
    undone: true,
    input: (w) => ({
      personIds: [tamsin(w), w.actor('Odile Karrow').personId],
      apply: true,
      set: { level: { skillId: 'skill_brass', level: 2 } },
    }),
  },
  {
    act: 'save-team',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(w.services.teams.view(lead(w)).teams[0]), 'members'), name: 'Foremost desk' }),
  },
  {
    act: 'save-skill-set',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...must(w.services.teams.view(lead(w)).sets[0]), name: 'All desks' }),
  },
  {
    act: 'save-site',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(w.services.teams.view(lead(w)).sites[0]), 'people'), address: '1 Quay' }),
  },
  {
    act: 'save-skill',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => {
      const { id, name, revision } = must(w.services.teams.view(lead(w)).skills[0]);
      return { id, revision, name: `${name} and more`, kind: 'product' };
    },
  },
  { act: 'remove-thing', says: 'a set', undone: true, input: () => ({ kind: 'skill-set', id: 'set_basics' }) },
  {
    act: 'save-profile',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(readProfile(w.db, 'profile_front')), 'place'), acceptSeconds: 33 }),
  },
  {
    act: 'save-queue-side',
    says: 'a row',
    undone: true,
    input: (w) => {
      const p = must(readProfile(w.db, 'profile_evening'));
      return {
        queueId: 'queue_billing',
        rows: [{ profileId: p.id, revision: p.revision, channel: 'chat', band: 4, delaySeconds: 60 }],
        own: [],
      };
    },
  },
  {
    act: 'save-queue-side',
    says: 'a person’s own row',
    undone: true,
    input: () => ({
      queueId: 'queue_billing',
      rows: [],
      own: [{ personId: 'person_01', revision: 0, channel: 'chat', band: 2, delaySeconds: 20, asProfile: false }],
    }),
  },
  {
    act: 'save-recording',
    says: 'words',
    undone: true,
    input: () => ({ kind: 'words', language: 'en', text: 'Good morning.', data: wave(0.1), seconds: 1.2 }),
  },
  {
    act: 'save-away-reasons',
    says: 'another list',
    undone: true,
    input: () => ({ reasons: [{ id: null, name: 'Rehearsal', paid: true, minutes: 45 }] }),
  },
  {
    act: 'save-shift',
    says: 'a person’s own',
    undone: true,
    input: (w) => ({
      ownerId: w.actor('Noor Amsel').personId,
      revision: 0,
      weekly: [{ day: 2, from: '10:00', to: '16:00' }],
      exceptions: [{ date: '2026-12-24', intervals: [], note: 'away' }],
    }),
  },
  {
    act: 'save-way',
    says: 'a new one',
    input: (w) => ({
      id: null,
      personId: tamsin(w),
      kind: 'outside',
      address: '+353 20 911 0177',
      mayCall: true,
      maySendText: false,
      mayReceiveText: false,
    }),
  },
  {
    act: 'remove-way',
    says: 'an extension',
    input: (w) => ({ id: must(waysOf(w.db, w.actor('Odile Karrow').personId)[0]).id }),
  },
  {
    act: 'save-desk-profile',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(w.services.deskProfiles.view(lead(w)).profiles[0]), 'people'), helpers: [] }),
  },
  {
    act: 'save-desk-rules',
    says: 'turned round',
    based: true,
    undone: true,
    input: (w) => {
      const v = w.services.deskProfiles.view(lead(w));
      return { revision: v.rulesRevision, rules: v.rules.toReversed(), helpers: v.helpers };
    },
  },
  {
    act: 'save-stock-set',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(w.services.deskProfiles.view(lead(w)).sets[0]), 'place'), name: 'Fewer words' }),
  },
  {
    act: 'remove-desk-thing',
    says: 'a set of replies',
    undone: true,
    input: (w) => ({ kind: 'stock-set', id: must(w.services.deskProfiles.view(lead(w)).sets.at(-1)).id }),
  },
  {
    act: 'save-role',
    says: 'a new one',
    undone: true,
    input: () => ({ id: null, revision: 0, name: 'looker', rights: ['floor.view'], teams: 'supervised' }),
  },
  {
    act: 'hand-on-ownership',
    says: 'to the lead',
    who: 'owner',
    input: (w) => ({ personId: w.actor('Noor Amsel').personId }),
  },
  {
    act: 'save-group',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => {
      const { id, revision, place: _place, ...body } = must(GROUPS.all(w.db)[0]);
      return { id, revision, ...body, name: 'Many hands' };
    },
  },
  {
    act: 'save-partner',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => {
      const { id, revision, place: _place, ...body } = must(PARTNERS.all(w.db)[0]);
      return { id, revision, ...body, ringSeconds: 40 };
    },
  },
  {
    act: 'save-own-limits',
    says: 'a cap for the day',
    undone: true,
    input: (w) => ({ personId: tamsin(w), limits: { atOnce: 2, perHour: null, perDay: 30, perMonth: null } }),
  },
  {
    act: 'save-coaching',
    says: 'one point more',
    based: true,
    undone: true,
    input: (w) => {
      const { points, ...rules } = readCoachingRules(w.db);
      return { ...rules, points: [...points, { id: null, name: `Kind ${points.length}`, words: '' }] };
    },
  },
  {
    act: 'set-figure-goal',
    says: 'of a person',
    undone: true,
    input: (w) => ({ kind: 'people', of: tamsin(w), measure: 'met', bound: 'least', value: 0.9 }),
  },
  {
    act: 'save-outcome',
    says: 'a new one',
    undone: true,
    input: () => ({
      revision: 0,
      code: null,
      label: 'Lent for a day',
      who: 'agents',
      shortest: null,
      longest: 600,
      category: 'settled',
      retired: false,
    }),
  },
  { act: 'retire-outcome', says: 'one nobody filed', undone: true, input: () => ({ code: 'WRONGNO' }) },
  {
    act: 'save-queue',
    says: 'another goal',
    based: true,
    undone: true,
    input: (w) => queueInput(readQueue(w.db, 'queue_repairs'), { familiar: { days: 9, holdSeconds: 45 } }),
  },
  {
    act: 'remove-whole',
    says: 'a door nobody came by',
    undone: true,
    input: () => ({ kind: 'door', id: 'door_repairs', instead: null }),
  },
  {
    act: 'plan-change',
    says: 'of a queue, for a day',
    heavy: true,
    input: (w) => {
      const { revision, value } = must(gatheredNow(w.db, 'queue', 'queue_repairs'));
      const change = { familiar: { days: 9, holdSeconds: 45 } };
      const from = w.now() + 86_400_000;
      return {
        kind: 'queue',
        id: 'queue_repairs',
        revision,
        value: { ...value, ...change },
        from,
        until: from + 1,
        note: '',
      };
    },
  },
  {
    act: 'make-door-key',
    says: 'for a switch',
    input: () => ({ doorId: 'door_repairs', name: 'The switch' }),
  },
  {
    act: 'end-door-key',
    says: 'the only one',
    input: (w) => ({
      id: w.services.doors.makeKey(lead(w), { doorId: 'door_repairs', name: 'The switch' }).id,
    }),
  },
  {
    act: 'save-door',
    says: 'a changed one',
    based: true,
    input: (w) => ({ ...without(without(must(readDoors(w.db)[0]), 'place'), 'byHand'), name: 'First door' }),
  },
  {
    act: 'door-by-hand',
    says: 'a door shut for an hour',
    undone: true,
    input: (w) => ({
      id: must(readDoors(w.db)[0]).id,
      to: 'shut',
      until: w.now() + 3_600_000,
      reason: { en: 'the line is down' },
      seen: null,
    }),
  },
  {
    act: 'save-hours',
    says: 'changed ones',
    based: true,
    undone: true,
    input: (w) => ({ ...must(readAllHours(w.db)[0]), weekly: [{ day: 3, from: '08:00', to: '12:00' }] }),
  },
  {
    act: 'import-hours',
    says: 'a day off',
    undone: true,
    input: (w) => ({
      id: must(readAllHours(w.db)[0]).id,
      text: CALENDAR,
      timesMean: 'open',
      seen: [{ date: '2026-12-08', over: '' }],
    }),
  },
  {
    act: 'save-bot',
    says: 'a changed draft',
    based: true,
    input: (w) => {
      const { id, revision, name, draft } = must(readBot(w.db, 'bot_text'));
      return { id, revision, name, draft: { ...draft, shownName: 'Usher' } };
    },
  },
  {
    act: 'publish-bot',
    says: 'its draft',
    input: (w) => ({
      id: 'bot_text',
      note: 'for the test',
      override: null,
      at: null,
      revision: must(readBot(w.db, 'bot_text')).revision,
    }),
  },
  {
    act: 'save-shared-scene',
    says: 'renamed',
    based: true,
    undone: true,
    input: (w) => {
      const { id, revision, steps, inputs } = must(SHARED_SCENES.all(w.db)[0]);
      return { id, revision, name: 'Another name', steps, inputs };
    },
  },
  {
    act: 'save-connector',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(CONNECTORS.all(w.db)[0]), 'place'), timeoutSeconds: 9 }),
  },
  {
    act: 'save-table',
    says: 'without its rows',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(TABLES.all(w.db)[0]), 'place'), rows: [] }),
  },
  { act: 'save-stand-in', says: 'slow', input: () => ({ mood: 'slow' }) },
  {
    act: 'save-article',
    says: 'another text',
    based: true,
    undone: true,
    input: (w) => ({ ...without(must(ARTICLES.all(w.db)[0]), 'place'), text: 'It is returned within a week.' }),
  },
  {
    act: 'remove-bot-part',
    says: 'an article',
    undone: true,
    input: () => ({ kind: 'article', id: 'article_deposit' }),
  },
  {
    act: 'mend-words',
    says: 'at a door',
    undone: true,
    input: (w) => {
      const door = must(readDoors(w.db).find((d) => (d.closedWording.en ?? '') !== ''));
      const from = door.closedWording.en ?? '';
      return { language: 'en', from, to: `${from} Soon.`, at: [{ kind: 'door', id: door.id, key: 'closed' }] };
    },
  },
  { act: 'begin-language', says: 'a new one', undone: true, input: () => ({ language: 'de' }) },
  {
    act: 'open-language',
    says: 'at a door whose customers meet no gap',
    based: true,
    undone: true,
    input: (w) => {
      const door = must(readDoors(w.db).find((d) => d.id === 'door_web'));
      // The same door without its last language, which is open at once again.
      const [last, languages] = [must(door.languages.at(-1)), door.languages.slice(0, -1)];
      const { place: _place, byHand: _byHand, ...form } = door;
      w.services.doors.save(lead(w), { ...form, languages });
      return { id: door.id, revision: door.revision + 1, language: last };
    },
  },
  {
    act: 'save-phrasebook',
    says: 'one intent fewer',
    slow: true,
    based: true,
    // Every book that was kept stays; that it comes back is seen in the tests of bots.
    input: (w) => {
      const { version: revision, book } = must(readPhrasebook(w.db));
      return { revision, book: withoutIntent(book, book.intents[0]?.id ?? '') };
    },
  },
  {
    act: 'save-field',
    says: 'a changed one',
    based: true,
    undone: true,
    input: (w) => {
      const f = must(readFields(w.db).find((x) => x.id === 'field_school'));
      return { ...without(f, 'place'), label: 'Which school' };
    },
  },
  {
    act: 'remove-whole',
    says: 'a field that nothing sets',
    undone: true,
    input: () => ({ kind: 'field', id: 'field_school', instead: null }),
  },
  {
    act: 'remove-whole',
    says: 'a group',
    undone: true,
    input: () => ({ kind: 'group', id: 'group_bench', instead: null }),
  },
  {
    act: 'keep-bot-test',
    says: 'a copy of one',
    undone: true,
    input: (w) => {
      const { botId, trial } = must(BOT_TESTS.all(w.db)[0]);
      return { botId, ...trial, contactId: null, id: null, name: 'A second one' };
    },
  },
  {
    act: 'remove-bot-test',
    says: 'one',
    undone: true,
    input: (w) => ({ id: must(BOT_TESTS.all(w.db)[0]).id }),
  },
];

/** Acts that answer and change nothing. */
export const ASKED: readonly ValidAct[] = [
  {
    act: 'preview-profile',
    says: 'what it would take',
    input: (w) => ({
      rows: must(readProfile(w.db, 'profile_front')).rows,
      load: LOAD,
      personId: null,
      lines: [{ queueId: 'queue_repairs', channel: 'chat', count: 3, waitedSeconds: 20 }],
    }),
  },
  {
    act: 'preview-queue',
    says: 'a queue',
    input: (w) => ({ queue: queueInput(readQueue(w.db, 'queue_repairs')) }),
  },
  {
    act: 'who-gets',
    says: 'a made-up contact',
    input: (w) => ({
      queue: queueInput(readQueue(w.db, 'queue_repairs')),
      contact: { channel: 'chat', handOver: [{ skillId: 'skill_brass', atLeast: 2 }], waitedSeconds: 30 },
    }),
  },
  {
    act: 'would-ask',
    says: 'who would be asked',
    input: () => ({ queueId: 'queue_repairs', channel: 'voice', needs: [], language: 'en' }),
  },
  {
    act: 'check-bot',
    says: 'a draft',
    input: (w) => ({ id: 'bot_text', draft: must(readBot(w.db, 'bot_text')).draft }),
  },
  { act: 'read-table-file', says: 'a file', input: () => ({ text: 'a,b\r\n1,2\r\n' }) },
  { act: 'read-language', says: 'a file', input: () => ({ language: 'fr', text: 'id,text\r\n' }) },
  {
    act: 'look-at-article',
    says: 'a changed one',
    input: (w) => {
      const { id, name, language, text } = must(ARTICLES.all(w.db)[0]);
      return { id, name, language, text: `${text} And more.`, asks: ['when do I get my deposit back'] };
    },
  },
  { act: 'ask-articles', says: 'a question', input: () => ({ question: 'the deposit', language: 'en' }) },
  { act: 'rank-phrase', says: 'a phrase', input: () => ({ text: 'a string snapped', language: 'en' }) },
  { act: 'run-bot-test', says: 'a test', input: (w) => ({ id: must(BOT_TESTS.all(w.db)[0]).id }) },
];

export const doer = (w: World, { who }: ValidAct): Actor => w.actor(who === 'owner' ? 'Nell Ashgrove' : 'Noor Amsel');

/** The tables of a database: their names, and how to read one, and its rows as one text. */
type Tables = ReadonlyMap<string, { readonly rows: () => unknown[]; readonly text: () => string }>;
const known = new WeakMap<World['db'], Tables>();
function tablesOf({ db }: World): Tables {
  const there = known.get(db);
  if (there) return there;
  // What was learnt of a phrasebook is megabytes: one text tells as much of it.
  db.function('digest', { deterministic: true }, (value) =>
    createHash('sha1')
      .update(value as string | Buffer)
      .digest('hex'),
  );
  const names = db
    .prepare(
      "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT LIKE '%_words_%'",
    )
    .pluck()
    .all() as string[];
  const made = new Map(
    names.map((name) => {
      const columns = (db.pragma(`table_info("${name}")`) as { name: string }[]).map(
        ({ name: c }) =>
          `'${c}', CASE WHEN length("${c}") > 100000 THEN digest("${c}") WHEN typeof("${c}") = 'blob' THEN hex("${c}") ELSE "${c}" END`,
      );
      const rows = db.prepare(`SELECT * FROM "${name}"`);
      const text = db.prepare(`SELECT json_group_array(json_object(${columns.join(', ')})) FROM "${name}"`).pluck();
      return [name, { rows: () => rows.all(), text: () => text.get() as string }];
    }),
  );
  known.set(db, made);
  return made;
}
/** Everything that is kept, but for what only counts acts, sign-ins and times. */
export const everything = (w: World): Readonly<Record<string, readonly unknown[]>> =>
  Object.fromEntries([...tablesOf(w)].map(([name, table]) => [name, table.rows()]));
/** The same, each table as one text: for telling quickly whether something differs. */
export const asTexts = (w: World): Readonly<Record<string, string>> =>
  Object.fromEntries([...tablesOf(w)].map(([name, table]) => [name, table.text()]));
export const personIs = (w: World, personId: string) => must(readPerson(w.db, personId));
