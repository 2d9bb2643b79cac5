import { readdirSync } from 'node:fs';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { RIGHTS } from '../../src/core/people/rights';
import { run } from '../../src/data/database';
import { type Person, readPeople } from '../../src/data/people';
import { readPersonByEmail } from '../../src/data/people';
import { waysOf } from '../../src/data/reach';
import type { Services } from '../../src/services';
import { type Actor, sees } from '../../src/services/ground/actor';
import { READINGS } from '../../src/services/readings';
import { VIEWS } from '../../src/services/views';
import { emailOf } from '../../demo/company';
import { handsIn } from '../helpers/hands';
import { ASKED, asTexts, CHANGES, must, type ValidAct } from '../helpers/validacts';
import { codeIn, makeWorld, type World } from '../helpers/world';

/**
 * The third side of the table of rights: whose thing it is. Somebody who holds every right for one team meets things of
 * their own team, of another, and made up; the last two must read the same, name nobody and change nothing.
 */
let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { chat, ready, take, odile, lead } = handsIn(() => w);

const TEAM = 'team_front';
const reader = (): Actor => ({ ...w.actor('Tamsin Orrel'), roleName: 'tester', rights: RIGHTS, teams: [TEAM] });
const MADE_UP = 'person_made_up';
/** Somebody of the reader's team, and somebody of another. */
const people = () => {
  const all = readPeople(w.db).filter((p) => p.active && p.roleId === 'agent');
  return {
    own: must(all.find((p) => p.teamId === TEAM && p.id !== reader().personId)),
    other: must(all.find((p) => !sees(reader(), p))),
  };
};
const others = (): Person[] => readPeople(w.db).filter((p) => !sees(reader(), p));

/** What names those whom the reader may not see. Whoever made a change is named, so the lead is left out. */
function wordsOfOthers(): string[] {
  const mine = new Set(
    readPeople(w.db)
      .filter((p) => sees(reader(), p))
      .flatMap((p) => [p.name, p.shownName]),
  );
  return others()
    .filter((p) => !['Noor Amsel', 'Nell Ashgrove'].includes(p.name))
    .flatMap((p) => [p.name, p.email, ...(mine.has(p.shownName) ? [] : [p.shownName])]);
}
/** Which of these words stand in a text as words of their own; few stand in it at all, which is seen at once. */
const named = (text: string, words = wordsOfOthers()): string[] =>
  words.filter(
    (word) =>
      text.includes(word) &&
      new RegExp(`(?<![\\p{L}\\d])${word.replaceAll('.', '\\.')}(?![\\p{L}\\d])`, 'u').test(text),
  );

/** A floor on which others have worked, written, been changed and been named. */
function busy(): { contacts: string[]; queue: string } {
  const { other } = people();
  const c = chat('guest-1', ['a repair', '204816', 'the bridge snapped']);
  ready(odile());
  const leg = take(odile());
  s.desk.act(odile(), { act: 'say', legId: leg, text: 'Good day' }, null);
  s.people.save(lead(), {
    ...handsIn(() => w).settings(other.id),
    outbound: 'the other desk',
  });
  s.reach.saveWay(lead(), {
    id: null,
    personId: other.id,
    kind: 'outside',
    address: '+353209140077',
    mayCall: true,
    maySendText: false,
    mayReceiveText: false,
  });
  const waiting = chat('guest-2');
  return { contacts: [c.contact, waiting.contact], queue: 'queue_repairs' };
}

describe('what somebody with one team reads', () => {
  it('names nobody of another, in whatever view and whatever is asked of it', async () => {
    const { contacts, queue } = busy();
    const { own, other } = people();
    const ids = [own.id, other.id, MADE_UP, ...contacts, queue, 'queue_newhire', 'bot_front', 'bot_text'];
    const words = wordsOfOthers();
    const asked = [
      {},
      ...ids.map((id) => ({ id })),
      { person: other.id },
      { team: other.teamId },
      { kind: 'person', thing: other.id },
      { search: other.name },
      { owner: other.id },
    ];
    for (const [views, read] of [
      [Object.keys(VIEWS), (name: string, a: object) => s.read(name, reader(), a as Record<string, string>)],
      [Object.keys(READINGS), (name: string, a: object) => s.reading(name as never, reader(), a as never)],
    ] as const)
      for (const name of views)
        for (const a of asked) {
          const text = await Promise.resolve()
            .then(() => read(name, a))
            .then(
              (view) => JSON.stringify(view) ?? '',
              (error: Error & { faults?: unknown }) => `${error.message} ${JSON.stringify(error.faults)}`,
            );
          // What was asked for by name may stand in the answer as it was asked.
          const back = 'search' in a ? named(text.replaceAll(other.name, ''), words) : named(text, words);
          expect([name, a, back]).toEqual([name, a, []]);
        }
  });
  it('another team’s person, way and contact are as if they were made up', async () => {
    const { contacts } = busy();
    run(w.db, 'UPDATE visits SET queue_id = ? WHERE contact_id = ?', 'queue_elsewhere', contacts[0] ?? '');
    const { own, other } = people();
    const told = (view: string, id: string) =>
      codeIn(() => s.read(view, reader(), { id })).then((code) => `${view} ${code}`);
    for (const view of ['person', 'ways', 'access']) {
      expect(await told(view, own.id)).toBe(`${view} none`);
      expect(await told(view, other.id)).toBe(`${view} not-found`);
      expect(await told(view, MADE_UP)).toBe(`${view} not-found`);
    }
    expect(await codeIn(() => s.readiness.of(reader(), other.id))).toBe('not-found');
    expect(await codeIn(() => s.readiness.of(reader(), own.id))).toBe('none');
    const csv = await s.reading('people-csv', reader(), { team: other.teamId, after: '' });
    expect(JSON.stringify(csv)).not.toContain(other.email);
  });
});

describe('what somebody with one team does', () => {
  /** The input with everybody it means replaced by one person; null where it means nobody. */
  function about(input: unknown, from: ReadonlyMap<string, string>): unknown {
    if (typeof input === 'string') return from.get(input) ?? input;
    if (Array.isArray(input)) return input.map((i) => about(i, from));
    return typeof input === 'object' && input !== null
      ? Object.fromEntries(Object.entries(input).map(([k, v]) => [k, about(v, from)]))
      : input;
  }
  const meant = (): Map<string, 'person' | 'way'> => {
    const found = new Map<string, 'person' | 'way'>();
    for (const p of readPeople(w.db)) {
      found.set(p.id, 'person');
      for (const way of waysOf(w.db, p.id)) found.set(way.id, 'way');
    }
    return found;
  };
  const wayOf = (personId: string): string =>
    s.reach.saveWay(lead(), {
      id: null,
      personId,
      kind: 'outside',
      address: `+3532091400${personId.slice(-2)}`,
      mayCall: true,
      maySendText: false,
      mayReceiveText: false,
    }).id;
  const cases = [...CHANGES, ...ASKED].filter((a) => a.slow !== true);
  it.each(cases.map((a): [string, ValidAct] => [`${a.act}: ${a.says}`, a]))('%s', async (_name, valid) => {
    const input = valid.input(w);
    const text = JSON.stringify(input);
    const there = [...meant()].filter(([id]) => text.includes(JSON.stringify(id)));
    if (there.length === 0) return;
    const { own, other } = people();
    const ways = { own: wayOf(own.id), other: wayOf(other.id) };
    const swapped = (person: string, way: string) =>
      about(input, new Map(there.map(([id, kind]) => [id, kind === 'way' ? way : person])));
    const before = JSON.stringify(asTexts(w));
    const attempt = (asked: unknown) =>
      Promise.resolve()
        .then(() => s.act(valid.act, reader(), asked))
        .then(
          (answer) => `done ${JSON.stringify(answer)}`,
          (error: Error & { code?: string; faults?: unknown }) =>
            `${error.code ?? 'other'} ${error.message} ${JSON.stringify(error.faults ?? [])}`,
        );
    const [theirs, nobodys] = [
      await attempt(swapped(other.id, ways.other)),
      await attempt(swapped(MADE_UP, 'way_made_up')),
    ];
    expect(JSON.stringify(asTexts(w))).toBe(before);
    expect(named(theirs)).toEqual([]);
    // Not even whether there is such a person can be told.
    const plain = (answer: string) =>
      answer
        .replaceAll(other.id, 'X')
        .replaceAll(MADE_UP, 'X')
        .replaceAll(ways.other, 'Y')
        .replaceAll('way_made_up', 'Y');
    expect(plain(theirs)).toBe(plain(nobodys));
    expect(theirs).not.toMatch(/^other/);
  });
});

describe('routes', () => {
  /** How each route knows whose thing it is. Whoever adds one adds it here, and its test above. */
  const ROUTES: Readonly<Record<string, string>> = {
    'contacts.csv': 'a reading',
    'contacts.ndjson': 'a reading',
    'desk/beat': 'oneself',
    desk: 'legs of one’s own',
    'handset/contacts': 'stand-ins',
    'hours.ics': 'everybody’s',
    invitation: 'a link',
    'people.csv': 'a reading',
    'people/import': 'team by team',
    password: 'a link',
    past: 'everybody’s',
    'read/[view]': 'views',
    'review.csv': 'a reading',
    session: 'oneself',
    'session/one': 'oneself',
    'settings/[act]': 'acts',
    stream: 'named only to whom it concerns',
    trouble: 'everybody’s',
    'v1/contacts': 'a key of the door',
    'v1/contacts/[id]': 'the contact’s token',
    'v1/contacts/[id]/answer': 'the contact’s token',
    'v1/contacts/[id]/leave': 'the contact’s token',
    'v1/contacts/[id]/messages': 'the contact’s token',
    'v1/contacts/[id]/stream': 'the contact’s token',
    'v1/doors': 'everybody’s',
    'v1/images/[id]': 'everybody’s',
    'v1/sounds/[id]': 'everybody’s',
    'v1/people/[id]/readiness': 'people of one’s teams',
    welcome: 'a link',
  };
  it('are all accounted for', () => {
    const found = readdirSync('src/app/api', { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('route.ts'))
      .map((file) => file.replace(/\/route\.ts$/, ''));
    expect(found.sort()).toEqual(Object.keys(ROUTES).sort());
  });
  it('at the Desk nobody’s leg, offer or visit but one’s own is there', async () => {
    const { contacts } = busy();
    const leg = must(s.desk.view(odile(), 0).contacts[0]).legId;
    for (const act of [
      { act: 'say', text: 'x' },
      { act: 'end' },
      { act: 'file', code: 'SOLD' },
      { act: 'finish' },
      { act: 'note', name: 'x', value: '' },
      { act: 'pass-on', queueId: 'queue_repairs' },
    ])
      for (const legId of [leg, 'leg_made_up'])
        expect([act.act, await codeIn(() => s.desk.act(reader(), { ...act, legId }, null))]).toEqual([
          act.act,
          'not-found',
        ]);
    expect(contacts.length).toBe(2);
  });
});

describe('the mailbox', () => {
  const OWNER = emailOf('Nell Ashgrove');
  const bodies = (actor: Actor) => s.mailbox.view(actor).map((m) => m.body);
  it('shows links and codes to nobody who holds less than whom they are for', async () => {
    await s.newPassword.ask({ email: OWNER });
    const owner = w.actor('Nell Ashgrove');
    const { id } = s.reach.saveWay(owner, {
      id: null,
      personId: owner.personId,
      kind: 'outside',
      address: '+353209140070',
      mayCall: true,
      maySendText: false,
      mayReceiveText: false,
    });
    s.reach.sendCode(owner, { id });
    const shown = bodies(owner).join('\n');
    const [link, code] = [/\/password\/(\S+)/.exec(shown)?.[1] ?? '', /(?:\d ){5}\d/.exec(shown)?.[0] ?? ''];
    expect([link.length, code.length]).toEqual([32, 11]);
    for (const holder of [lead(), { ...lead(), rights: ['people.view', 'people.change'] as const }]) {
      const less = bodies(holder).join('\n');
      expect(less).toContain('•••');
      expect([less.includes(link), less.includes(code)]).toEqual([false, false]);
    }
    // A link that was sent to an earlier address is still the owner's.
    run(w.db, "UPDATE people SET email = 'new@brindlewood.example' WHERE id = ?", owner.personId);
    expect(bodies(lead()).join('\n')).not.toContain(link);
  });
  it('shows those for whoever holds no more', async () => {
    await s.newPassword.ask({ email: emailOf('Tamsin Orrel') });
    expect(bodies(lead()).join('\n')).toMatch(/\/password\/\S{32}/);
    expect(readPersonByEmail(w.db, emailOf('Tamsin Orrel'))).toBeDefined();
  });
});

describe('the strip', () => {
  it('gives each figure only to whoever may open the page it stands for', () => {
    const of = (rights: Actor['rights']) =>
      Object.entries(s.strip({ ...lead(), rights }))
        .filter(([name, figure]) => figure !== null && name !== 'seq' && name !== 'toFix')
        .map(([name]) => name)
        .sort();
    expect(of(['settings.view'])).toEqual(['botsLive', 'byHand', 'doorsOpen', 'drafts', 'waiting']);
    expect(of(['people.view'])).toEqual(['onDuty', 'people']);
    expect(of(['floor.view'])).toEqual(['late']);
  });
});
