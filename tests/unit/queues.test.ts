import type { ContactView } from '../../src/services/floor/contactview';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { seeded } from '../../src/core/chance';
import { NO_LIMITS } from '../../src/core/routing/limits';
import { callbackOf } from '../../src/data/callbacks';
import { readContact } from '../../src/data/contacts';
import { row } from '../../src/data/database';
import { eventsAfter, replayAll } from '../../src/data/events';
import { searchHistory } from '../../src/data/history';
import { readAllHours } from '../../src/data/hours';
import { readOutcomes } from '../../src/data/outcomes';
import { readQueue } from '../../src/data/queuesettings';
import { openPartnerCalls, partnerCallsOfVisit } from '../../src/data/routermemory';
import { decisionsOf } from '../../src/data/trails';
import { visitsOf } from '../../src/data/visits';
import type { Services } from '../../src/services';
import { handsIn, queueInput } from '../helpers/hands';
import { codeOf, makeWorld, MORNING, type World } from '../helpers/world';
import { sized } from '../helpers/size';
import { STAND_IN } from '../../src/services/contacts/speaker';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, tamsin, odile, ready, chat, take } = handsIn(() => w);

/** A caller at the repair line who has told the bot what it asks, in English. */
function call(from = '+353209140001') {
  const begun = s.channel.start(STAND_IN, { door: 'door_repairs', from, language: 'en' }, null);
  for (const key of ['2', '0', '4', '8', '1', '7', '#']) s.channel.say(begun.contact, begun.token, { key }, null);
  s.channel.say(begun.contact, begun.token, { text: 'the bridge snapped' }, null);
  return {
    ...begun,
    press: (...keys: string[]) => keys.forEach((key) => s.channel.say(begun.contact, begun.token, { key }, null)),
    side: () => s.channel.read(begun.contact, begun.token, 0),
    visit: () => visitsOf(w.db, begun.contact).at(-1),
  };
}
const types = (contactId: string) =>
  eventsAfter(w.db, 0, 1e6).flatMap((e) => ('contactId' in e && e.contactId === contactId ? [e.type] : []));
const setQueue = (id: string, change: Parameters<typeof queueInput>[1]) =>
  s.queues.save(lead(), queueInput(readQueue(w.db, id), change));
/** The last code that was sent to a number, as its owner reads it. */
const codeSentTo = (number: string): string =>
  row<{ body: string }>(
    w.db,
    'SELECT body FROM outside_messages WHERE address = ? ORDER BY id DESC',
    number,
  )?.body.match(/\d{6}/)?.[0] ?? '';
const said = (c: ReturnType<typeof call>) =>
  c
    .side()
    .messages.filter((m) => m.from === 'bot')
    .map((m) => m.text);

describe('a waiting call', () => {
  it('is widened stage by stage at the seconds set, and is told so', () => {
    const c = call();
    expect(said(c).at(-1)).toMatch(
      /^Thank you for calling\. Somebody will be with you soon; the wait is about a few minutes\.$/,
    );
    expect(c.side().music).toBe('cello');
    const needs = () => s.floor.router.floor.waiting.get(c.visit()?.id ?? '')?.needs;
    expect(needs()).toEqual([{ skillId: 'skill_triage', atLeast: 2 }]);
    w.pass(29);
    expect(needs()).toEqual([{ skillId: 'skill_triage', atLeast: 2 }]);
    w.pass(1);
    expect(needs()).toEqual([{ skillId: 'skill_triage', atLeast: 1 }]);
    w.pass(30);
    expect([needs(), s.floor.router.floor.waiting.get(c.visit()?.id ?? '')?.groups]).toEqual([[], ['group_help']]);
    expect(said(c).at(-1)).toMatch(/Press 1 to be called back\./);
    expect(decisionsOf(w.db, c.visit()?.id ?? '').map((t) => [t.kind, t.stage, t.waitedSeconds])).toEqual([
      ['entry', 1, 0],
      ['stage', 2, 30],
      ['stage', 3, 60],
    ]);
  });
  it('goes to whoever a stage makes able, and says why', () => {
    const c = call();
    ready(tamsin());
    expect(s.desk.view(tamsin(), 0).offer).toBeNull();
    w.pass(60);
    // Whoever says nothing to what is offered keeps their place.
    expect(c.side().state).toBe('waiting');
    w.pass(10);
    // Tamsin has the queue after 60 s by her own row, which counts before the group.
    expect(s.desk.view(tamsin(), 0).offer).toMatchObject({
      queue: 'Repairs',
      why: expect.stringMatching(/after 70 s/) as string,
    });
  });
  it('somebody asked is not offered while they choose, for ten seconds at most', () => {
    const c = call();
    w.pass(60);
    ready(tamsin());
    expect(s.desk.view(tamsin(), 0).offer).toBeNull();
    w.pass(10);
    expect(s.desk.view(tamsin(), 0).offer?.queue).toBe('Repairs');
    expect(types(c.contact).filter((t) => t === 'visit.asked')).toHaveLength(2);
  });
});

describe('a callback', () => {
  const promised = () => {
    const c = call();
    w.pass(60);
    c.press('1');
    expect(said(c).at(-1)).toBe(
      'Shall we call you back on +353 20 914 0001? For yes, press 1. For another number, press 2.',
    );
    c.press('1', '1');
    return c;
  };
  it('is asked for while waiting, keeps its place, is dialled and answered', () => {
    const c = promised();
    expect(said(c).at(-1)).toMatch(/We will call \+353 20 914 0001 as soon as possible/);
    expect(visitsOf(w.db, c.contact).map((v) => [v.endedHow, v.kind, v.placedAt])).toEqual([
      ['callback-asked', 'live', MORNING],
      [null, 'callback', MORNING],
    ]);
    s.channel.leave(c.contact, c.token);
    expect(readContact(w.db, c.contact)?.endedAt).toBeNull();
    ready(tamsin());
    w.pass(60);
    const legId = take(tamsin());
    expect(c.side().call).toBe('ringing');
    expect(s.desk.view(tamsin(), 0).contacts[0]?.calling).toMatchObject({
      number: '+353 20 914 0001',
      state: 'dialling',
      attempt: 1,
      of: 3,
    });
    s.channel.answer(c.contact, c.token, { answer: true }, null);
    expect(c.side().call).toBe('answered');
    s.desk.act(tamsin(), { act: 'file', legId, code: 'REPAIR' }, null);
    expect(callbackOf(w.db, c.contact)).toMatchObject({ state: 'reached', outcome: 'REPAIR', attempts: 1 });
    expect(s.callbacks.view(lead()).lines[0]).toMatchObject({ state: 'reached', queue: 'Repairs' });
  });
  it('is tried again after its spacing, and given up after its attempts, with the system’s outcome', () => {
    const c = promised();
    ready(tamsin());
    w.pass(60);
    for (const attempt of [1, 2, 3]) {
      take(tamsin());
      if (attempt === 2) s.channel.answer(c.contact, c.token, { answer: false }, null);
      else w.pass(25);
      expect(s.desk.view(tamsin(), 0).contacts).toEqual([]);
      expect(callbackOf(w.db, c.contact)).toMatchObject({
        attempts: attempt,
        state: attempt === 3 ? 'given-up' : 'planned',
        outcome: attempt === 2 ? 'BUSY' : 'NOANSWER',
      });
      w.pass(15 * 60);
      w.pass(60);
    }
    expect(readContact(w.db, c.contact)?.endedHow).toBe('callback');
    expect(s.desk.view(tamsin(), 0).offer).toBeNull();
  });
  it('for a window waits until it begins; a lead calls it off or has it dialled now', () => {
    const c = call();
    w.pass(60);
    c.press('1', '1', '2');
    const first = callbackOf(w.db, c.contact);
    expect(first).toMatchObject({ state: 'planned', fromAt: Date.parse('2026-11-17T12:00:00Z') });
    expect(s.floor.router.floor.waiting.size).toBe(0);
    s.callbacks.change(lead(), { id: first?.id, act: 'now' });
    expect(callbackOf(w.db, c.contact)?.state).toBe('waiting');
    s.callbacks.change(lead(), { id: first?.id, act: 'cancel' });
    expect([
      callbackOf(w.db, c.contact)?.state,
      readContact(w.db, c.contact)?.endedHow,
      s.floor.router.floor.waiting.size,
    ]).toEqual(['cancelled', 'callback', 0]);
    expect(codeOf(() => s.callbacks.change(lead(), { id: first?.id, act: 'now' }))).toBe('not-now');
  });
  it('asked for in a chat is a call to the number written', () => {
    const callback = readQueue(w.db, 'queue_newhire')?.callback;
    setQueue('queue_newhire', {
      needs: [],
      ...(callback ? { callback: { ...callback, queueId: null } } : {}),
      clocks: {
        chat: [
          {
            atSeconds: 1,
            early: false,
            acts: [
              {
                does: 'ask',
                wording: { en: 'All busy.' },
                choices: [{ key: '1', what: 'callback' }],
                everySeconds: null,
              },
            ],
          },
        ],
      },
    });
    const c = chat();
    w.pass(1);
    for (const text of ['be called back', '+353 20 914 0044', 'right']) c.say(text);
    expect(callbackOf(w.db, c.contact)).toBeUndefined();
    for (const text of [codeSentTo('+353209140044'), 'as soon as possible']) c.say(text);
    expect(callbackOf(w.db, c.contact)).toMatchObject({ state: 'waiting', number: '+353209140044' });
    expect(visitsOf(w.db, c.contact).at(-1)).toMatchObject({ channel: 'voice', kind: 'callback' });
    ready(tamsin());
    take(tamsin());
    expect([s.desk.view(tamsin(), 0).used, s.desk.view(tamsin(), 0).contacts[0]?.calling?.state]).toEqual([
      100,
      'dialling',
    ]);
    expect(w.restart().floor.router.floor.people.get(tamsin().personId)?.used).toBe(100);
  });
  it('is never sent on to a partner desk, and its own queue’s stages still widen it', () => {
    const c = promised();
    w.pass(120);
    expect(partnerCallsOfVisit(w.db, c.visit()?.id ?? '')).toEqual([]);
    expect(s.floor.router.floor.waiting.get(c.visit()?.id ?? '')).toMatchObject({
      kind: 'callback',
      stage: 5,
      partners: ['partner_bench'],
    });
  });
  it('somebody who takes too long goes on waiting at their place', () => {
    const c = call();
    w.pass(60);
    c.press('1');
    w.pass(46);
    c.press('1');
    expect(c.visit()).toMatchObject({ endedAt: null, placedAt: MORNING });
    expect(callbackOf(w.db, c.contact)).toBeUndefined();
  });
});

describe('limits and the partner desk', () => {
  it('a group takes no more than its cap, then the partner desk is dialled, answers, and counts', () => {
    const group = s.groups.view(lead()).groups.find((g) => g.id === 'group_help');
    s.groups.saveGroup(lead(), {
      id: group?.id,
      revision: group?.revision,
      name: group?.name,
      zone: group?.zone,
      hoursId: null,
      limits: { ...NO_LIMITS, perHour: 1 },
      instead: [],
      who: [],
      alsoIds: [odile().personId],
      exceptIds: [],
      weights: {},
    });
    setQueue('queue_newhire', {
      needs: [],
      clocks: {
        voice: [
          { atSeconds: 0, early: false, acts: [{ does: 'add-group', groupId: 'group_help' }] },
          { atSeconds: 30, early: false, acts: [{ does: 'add-partner', partnerId: 'partner_bench' }] },
        ],
      },
      entryRules: [],
    });
    const profile = s.duty.view(lead()).profiles.find((p) => p.id === 'profile_repairs');
    s.duty.saveProfile(lead(), {
      id: profile?.id,
      revision: profile?.revision,
      name: profile?.name,
      rows: profile?.rows.filter((r) => r.queueId !== 'queue_newhire'),
      load: profile?.load,
      acceptSeconds: profile?.acceptSeconds,
      autoAccept: false,
      restSeconds: null,
    });
    ready(odile());
    const enter = (from: string) => {
      const begun = s.channel.start(STAND_IN, { door: 'door_main', from, language: 'en' }, null);
      for (const key of ['1', '9', '9']) s.channel.say(begun.contact, begun.token, { key }, null);
      return begun;
    };
    const first = enter('+353209140011');
    expect(visitsOf(w.db, first.contact)[0]?.queueId).toBe('queue_newhire');
    s.desk.act(odile(), { act: 'file', legId: take(odile()), code: 'HIRE' }, null);
    expect(s.groups.view(lead()).groups.find((g) => g.id === 'group_help')?.use).toMatchObject({
      open: 0,
      hour: 1,
      reached: ['perHour'],
    });
    const second = enter('+353209140012');
    expect(s.desk.view(odile(), 0).offer).toBeNull();
    const visit = visitsOf(w.db, second.contact)[0];
    expect(decisionsOf(w.db, visit?.id ?? '')[0]?.limits).toEqual({ [odile().personId]: 'perHour' });
    w.pass(30);
    // The stand-in answers most calls; whichever number does, the visit has moved on.
    for (let i = 0; i < 60 && openPartnerCalls(w.db).every((c) => c.answeredAt === null); i++) w.pass(5);
    expect(visitsOf(w.db, second.contact)[0]?.endedHow).toBe('moved-on');
    expect(s.channel.read(second.contact, second.token, 0).state).toBe('talking');
    const desk = () => s.groups.view(lead()).partners[0];
    expect(desk()?.numbers.reduce((n, x) => n + x.use.open, 0)).toBe(1);
    expect(desk()?.use).toMatchObject({ open: 1, day: 1 });
    const trail = s.floorView.contact(lead(), second.contact).visits[0]?.rung;
    expect(trail?.at(-1)).toMatchObject({
      desk: 'Bench partner',
      came: expect.stringMatching(/^answered, \d+ s so far$/),
    });
    const before = desk();
    s = w.restart();
    expect(desk()).toEqual(before);
    w.pass(300);
    expect(readContact(w.db, second.contact)?.endedHow).toBe('partner');
    expect(partnerCallsOfVisit(w.db, visit?.id ?? '').at(-1)).toMatchObject({ endedHow: 'done', counted: 1 });
  });
  it('the cap is there again in the next calendar hour, without anybody doing anything', () => {
    const group = s.groups.view(lead()).groups.find((g) => g.id === 'group_help');
    s.groups.saveGroup(lead(), {
      id: group?.id,
      revision: group?.revision,
      name: group?.name,
      zone: group?.zone,
      hoursId: null,
      limits: { ...NO_LIMITS, perHour: 0 },
      instead: [],
      who: [],
      alsoIds: [odile().personId],
      exceptIds: [],
      weights: {},
    });
    expect(s.toFix.view(lead()).findings.find((f) => f.id === 'group|group_help|zero-perHour')).toMatchObject({
      weight: 'stops',
      press: 'Lift the limit',
    });
    s.queueFixes.fix(lead(), { id: 'group|group_help|zero-perHour' });
    expect(s.groups.view(lead()).groups.find((g) => g.id === 'group_help')?.limits.perHour).toBeNull();
    expect(codeOf(() => s.queueFixes.fix(lead(), { id: 'group|group_help|zero-perHour' }))).toBe('not-found');
  });
  it('a group that nothing asks is removed, and comes back', async () => {
    await s.removing.remove(lead(), { kind: 'group', id: 'group_bench', instead: null });
    s.history.undo(lead(), { id: searchHistory(w.db, { kind: 'group' }, 1)[0]?.id });
    expect(s.groups.view(lead()).groups.map((g) => g.name)).toContain('Bench on call');
    expect(
      codeOf(() =>
        s.groups.savePartner(lead(), {
          id: null,
          revision: 0,
          name: 'New',
          zone: 'UTC',
          way: 'one-by-one',
          hoursId: null,
          limits: NO_LIMITS,
          ringSeconds: 20,
          countsFromSeconds: 0,
          numbers: [{ id: null, name: 'x', address: '12', hoursId: null, limits: NO_LIMITS, perQueue: {} }],
        }),
      ),
    ).toBe('not-valid');
  });
});

describe('entry rules and hours', () => {
  it('a full queue sends on to another, keeping the wait; never in a circle', () => {
    setQueue('queue_repairs', {
      entryRules: [{ if: { when: 'waiting', atLeast: 1 }, then: { to: 'queue', queueId: 'queue_strings' } }],
      clocks: {},
    });
    setQueue('queue_strings', {
      entryRules: [{ if: { when: 'nobody' }, then: { to: 'queue', queueId: 'queue_repairs' } }],
      clocks: {},
    });
    call('+353209140021');
    const second = call('+353209140022');
    expect(visitsOf(w.db, second.contact).map((v) => [v.queueId, v.endedHow, v.placedAt])).toEqual([
      ['queue_repairs', 'moved-on', MORNING],
      ['queue_strings', null, MORNING],
    ]);
    expect(s.toFix.view(lead()).findings.some((f) => f.id === 'queue|queue_repairs|circle')).toBe(true);
  });
  it('a closed queue takes a message', () => {
    const hours = s.hours.save(lead(), {
      id: null,
      revision: 0,
      name: 'Afternoons',
      zone: 'Europe/Dublin',
      weekly: [{ day: 2, from: '14:00', to: '17:00' }],
      exceptions: [],
    });
    setQueue('queue_repairs', {
      hoursId: hours.id,
      entryRules: [
        {
          if: { when: 'closed' },
          then: { to: 'message', wording: { en: 'We open at two. Please say what it is about.' } },
        },
      ],
    });
    const c = call();
    expect(said(c).at(-1)).toBe('We open at two. Please say what it is about.');
    s.channel.say(c.contact, c.token, { text: 'My cello has a crack.' }, null);
    expect([said(c).at(-1), readContact(w.db, c.contact)?.endedHow, c.visit()?.kind]).toEqual([
      'Thank you, we have your message. Goodbye.',
      null,
      'message',
    ]);
    expect(codeOf(() => s.hours.remove(lead(), { id: hours.id }))).toBe('not-now');
  });
  it('a calendar closes the door on its day, is shown before, and can be undone', async () => {
    const day = readAllHours(w.db).find((h) => h.name === 'Shop hours');
    const text = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'BEGIN:VEVENT',
      'UID:1',
      'SUMMARY:Stocktaking',
      'DTSTART;VALUE=DATE:20261118',
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n');
    expect((await s.hours.import(lead(), { id: day?.id, timesMean: 'open', text, seen: null })).days).toEqual([
      { date: '2026-11-18', intervals: [], note: 'Stocktaking', was: 'new', over: '' },
    ]);
    const door = () =>
      s.channel.doors().find((d) => s.doors.view(lead()).doors.find((x) => x.id === d.id)?.hoursId === day?.id)?.open;
    w.at(Date.parse('2026-11-18T10:00:00Z'));
    expect(door()).toBe(true);
    const seen = [{ date: '2026-11-18', over: '' }];
    expect((await s.hours.import(lead(), { id: day?.id, timesMean: 'open', text, seen })).met).toEqual([]);
    expect(door()).toBe(false);
    expect(s.hours.calendar(lead(), day?.id ?? '').text).toContain('DTSTART;VALUE=DATE:20261118');
    // A day that somebody else has set otherwise since it was seen is left to them.
    const other = text.replace('Stocktaking', 'Fair');
    expect((await s.hours.import(lead(), { id: day?.id, timesMean: 'open', text: other, seen })).met).toEqual([
      '2026-11-18',
    ]);
    expect(s.hours.calendar(lead(), day?.id ?? '').text).toContain('Stocktaking');
    s.history.undo(lead(), { id: searchHistory(w.db, { kind: 'hours' }, 1)[0]?.id });
    expect(door()).toBe(true);
    await expect(
      s.hours.import(lead(), { id: day?.id, timesMean: 'open', text: 'closed', seen: null }),
    ).rejects.toMatchObject({
      code: 'not-valid',
    });
    // With times it closes what would be open then, by what stands for the day now.
    const talk = text.replace('DTSTART;VALUE=DATE:20261118', 'DTSTART:20261119T120000\r\nDURATION:PT1H');
    expect(
      (await s.hours.import(lead(), { id: day?.id, text: talk, timesMean: 'closed', seen: null })).days,
    ).toMatchObject([{ date: '2026-11-19', intervals: [{ to: '12:00' }, { from: '13:00' }] }]);
    const many = text.replace('DTSTART;VALUE=DATE:20261118', 'DTSTART;VALUE=DATE:20261118\r\nRRULE:FREQ=DAILY');
    const two = await s.hours.import(lead(), { id: day?.id, text: many, timesMean: 'open', seen: null });
    expect(two.faults).toEqual(['“Stocktaking” goes on after 2028-11-18; taken until then.']);
    expect(two.days.length).toBeGreaterThan(700);
  });
});

describe('what is offered, filed and wrapped up', () => {
  it('ring all: the first to accept has it, the others are free without blame', () => {
    setQueue('queue_newhire', { needs: [], offering: { way: 'ring-all', most: 5 }, clocks: {} });
    const c = chat();
    w.pass(61);
    ready(tamsin());
    ready(odile());
    expect([s.desk.view(tamsin(), 0).offer?.queue, s.desk.view(odile(), 0).offer?.queue]).toEqual([
      'New hire',
      'New hire',
    ]);
    take(odile());
    expect([s.desk.view(tamsin(), 0).offer, s.desk.view(tamsin(), 0).duty]).toEqual([null, 'ready']);
    expect(
      eventsAfter(w.db, 0, 1e6)
        .filter((e) => e.type === 'offer.ended' && e.contactId === c.contact)
        .map((e) => ('how' in e ? e.how : '')),
    ).toEqual(['accepted', 'taken']);
  });
  it('a queue that is claimed is taken by hand, by those who could, even when they are full', () => {
    setQueue('queue_newhire', { needs: [], offering: { way: 'claim' }, clocks: {} });
    ready(tamsin());
    const c = chat();
    expect([s.desk.view(tamsin(), 0).offer, s.desk.view(tamsin(), 0).claimable.map((v) => v.queue)]).toEqual([
      null,
      ['New hire'],
    ]);
    expect(s.desk.view(odile(), 0).claimable).toEqual([]);
    // It is looked at before it is taken.
    expect(s.desk.view(tamsin(), 0).claimable[0]).toMatchObject({
      said: 'trumpet',
      language: 'en',
      fields: expect.arrayContaining([{ label: 'Instrument', value: 'trumpet' }]) as unknown,
    });
    // The Floor and the trail say so, and who could.
    const seen = (s.read('contact', lead(), { id: c.contact }) as ContactView).visits[0];
    expect(seen?.nowWhy?.sentence).toMatch(/^Waits to be taken from the list: 1 of \d+ who may could take it now\.$/);
    expect(seen?.decisions[0]?.sentence).toMatch(/^Waits to be taken from the list/);
    const visitId = s.desk.view(tamsin(), 0).claimable[0]?.visitId;
    expect(codeOf(() => s.desk.act(odile(), { act: 'claim', visitId }, null))).toBe('not-now');
    s.desk.act(tamsin(), { act: 'claim', visitId }, null);
    expect(codeOf(() => s.desk.act(tamsin(), { act: 'claim', visitId }, null))).toBe('not-now');
    expect([c.state(), s.desk.view(tamsin(), 0).contacts.length]).toEqual(['talking', 1]);
  });
  it('whoever dealt with the customer last comes first, and the contact is held for them while they are full', () => {
    setQueue('queue_newhire', {
      needs: [],
      familiar: { days: 14, holdSeconds: 60 },
      order: ['longest-idle'],
      clocks: {},
    });
    const profile = s.duty.view(lead()).profiles.find((p) => p.id === 'profile_repairs');
    s.duty.saveProfile(lead(), {
      id: profile?.id,
      revision: profile?.revision,
      name: profile?.name,
      rows: profile?.rows.map((r) => ({ ...r, delaySeconds: 0 })),
      load: profile?.load,
      acceptSeconds: profile?.acceptSeconds,
      autoAccept: false,
      restSeconds: null,
    });
    ready(odile());
    chat('guest-7');
    s.desk.act(odile(), { act: 'file', legId: take(odile()), code: 'HIRE' }, null);
    ready(tamsin());
    // Tamsin has waited longer, but the customer knows Odile.
    chat('guest-7');
    expect(s.desk.view(odile(), 0).offer?.why).toMatch(/knows this customer/);
  });
  it('a code is filed only for contacts of its length, and a set leaves none without', () => {
    const [outcome] = readOutcomes(w.db).filter((o) => o.code === 'WRONGNO');
    ready(tamsin());
    chat();
    const legId = take(tamsin());
    w.pass(121);
    expect(codeOf(() => s.desk.act(tamsin(), { act: 'file', legId, code: 'WRONGNO' }, null))).toBe('not-valid');
    // The Desk says so at the moment at which that is: it knows the limits.
    expect(s.desk.view(tamsin(), 0).contacts[0]?.outcomes.find((o) => o.code === 'WRONGNO')?.longest).toBe(120);
    setQueue('queue_newhire', { outcomes: ['HIRE', 'WRONGNO'] });
    const hire = readOutcomes(w.db).find((o) => o.code === 'HIRE');
    expect(
      codeOf(() =>
        s.outcomes.save(lead(), {
          revision: hire?.revision,
          code: 'HIRE',
          label: 'New hire',
          who: 'agents',
          shortest: 200,
          longest: null,
          category: 'sale',
          retired: false,
        }),
      ),
    ).toBe('not-valid');
    s.desk.act(tamsin(), { act: 'file', legId, code: 'HIRE' }, null);
    expect(codeOf(() => s.outcomes.retire(lead(), { code: outcome?.code }))).toBe('not-now');
    setQueue('queue_newhire', { outcomes: null });
    s.outcomes.retire(lead(), { code: 'WRONGNO' });
    expect(readOutcomes(w.db).some((o) => o.code === 'WRONGNO')).toBe(false);
  });
  it('wrap-up has a time, may end early or not, and asks for an outcome or not, in any mix', () => {
    const wrap = (wrapUp: NonNullable<Parameters<typeof queueInput>[1]>['wrapUp']) =>
      setQueue('queue_newhire', wrapUp ? { wrapUp } : {});
    const finish = () => {
      chat(`g${Math.floor(w.now() % 1e9)}`);
      const legId = take(tamsin());
      s.desk.act(tamsin(), { act: 'end', legId }, null);
      return legId;
    };
    ready(tamsin());
    wrap({ seconds: 30, mayFinishEarly: false, needsOutcome: false });
    let legId = finish();
    s.desk.act(tamsin(), { act: 'file', legId, code: 'HIRE' }, null);
    expect(s.desk.view(tamsin(), 0).contacts[0]?.filed).toBe('HIRE');
    expect(codeOf(() => s.desk.act(tamsin(), { act: 'finish', legId }, null))).toBe('not-now');
    w.pass(30);
    expect(s.desk.view(tamsin(), 0).contacts).toEqual([]);
    wrap({ seconds: null, mayFinishEarly: true, needsOutcome: true });
    w.pass(1);
    legId = finish();
    expect(codeOf(() => s.desk.act(tamsin(), { act: 'finish', legId }, null))).toBe('not-now');
    w.pass(3600);
    s.desk.act(tamsin(), { act: 'file', legId, code: 'HIRE' }, null);
    // A time that may not be cut short, and then an outcome: whichever comes last ends it.
    wrap({ seconds: 30, mayFinishEarly: false, needsOutcome: true });
    w.pass(1);
    legId = finish();
    w.pass(40);
    expect(s.desk.view(tamsin(), 0).contacts).toHaveLength(1);
    s.desk.act(tamsin(), { act: 'file', legId, code: 'HIRE' }, null);
    expect(s.desk.view(tamsin(), 0).contacts).toEqual([]);
    w.pass(1);
    legId = finish();
    s.desk.act(tamsin(), { act: 'file', legId, code: 'HIRE' }, null);
    expect(s.desk.view(tamsin(), 0).contacts).toHaveLength(1);
    w.pass(31);
    expect(s.desk.view(tamsin(), 0).contacts).toEqual([]);
    wrap({ seconds: null, mayFinishEarly: true, needsOutcome: false });
    w.pass(1);
    legId = finish();
    s.desk.act(tamsin(), { act: 'finish', legId }, null);
    expect(s.desk.view(tamsin(), 0).contacts).toEqual([]);
  });
  it('a changed queue is undone from History', () => {
    setQueue('queue_repairs', { order: ['fewest-today'], clocks: {} });
    s.history.undo(lead(), { id: searchHistory(w.db, { kind: 'queue' }, 1)[0]?.id });
    expect(readQueue(w.db, 'queue_repairs')?.order).toEqual(['highest-level', 'lightest-load']);
    expect(codeOf(() => setQueue('queue_repairs', { needs: [{ skillId: 'nothing', atLeast: 2 }] }))).toBe('not-valid');
    expect(
      codeOf(() =>
        setQueue('queue_repairs', {
          entryRules: [{ if: { when: 'closed' }, then: { to: 'queue', queueId: 'queue_repairs' } }],
        }),
      ),
    ).toBe('not-valid');
  });
});

describe('a stop and a start', () => {
  /** A made-up morning by the same acts; `stops` says after which of them the server is started anew. */
  function morning(seed: number, stops: (i: number) => boolean): string[] {
    const world = makeWorld();
    const hands = handsIn(() => world);
    let services = world.services;
    const chance = seeded(seed);
    const people = [hands.tamsin(), hands.odile(), world.actor('Ines Vall'), world.actor('Colm Ferrity')];
    const customers: { contact: string; token: string }[] = [];
    let now = MORNING;
    const attempt = (work: () => unknown) => {
      try {
        work();
      } catch {
        /* what cannot be done now is left */
      }
    };
    for (let i = 0; i < 50; i++) {
      now += chance.below(20_000);
      world.at(now);
      services.timers.runDue();
      const who = chance.pick(people);
      const roll = chance.next();
      const view = services.desk.view(who, 0);
      const leg = view.contacts[0]?.legId;
      if (roll < 0.3) {
        const begun = services.channel.start(
          STAND_IN,
          { door: 'door_repairs', from: `+3532091400${10 + (i % 80)}`, language: 'en' },
          null,
        );
        customers.push(begun);
        for (const key of ['2', '#']) attempt(() => services.channel.say(begun.contact, begun.token, { key }, null));
        attempt(() => services.channel.say(begun.contact, begun.token, { text: 'broken' }, null));
      } else if (roll < 0.45)
        attempt(() => services.desk.act(who, { act: 'duty', duty: chance.pick(['ready', 'ready', 'away']) }, null));
      else if (roll < 0.65)
        attempt(() => services.desk.act(who, { act: 'accept', offerId: view.offer?.offerId ?? '' }, null));
      else if (roll < 0.75)
        attempt(() => services.desk.act(who, { act: 'decline', offerId: view.offer?.offerId ?? '' }, null));
      else if (roll < 0.9)
        attempt(() => services.desk.act(who, { act: 'file', legId: leg ?? '', code: 'REPAIR' }, null));
      else {
        const c = customers[chance.below(customers.length || 1)];
        if (c) attempt(() => services.channel.say(c.contact, c.token, { key: chance.pick(['1', '2']) }, null));
      }
      if (stops(i)) {
        services = world.restart();
        services.floor.resume();
        services.timers.runDue();
        services.floor.askAnew();
      }
    }
    // Ids differ from start to start, so things are named by the order in which they came.
    const names = new Map<unknown, string>();
    const named = (id: unknown) => {
      if (typeof id === 'string' && /_[0-9a-z]{12}$/.test(id) && !names.has(id)) names.set(id, `#${names.size}`);
      return names.get(id) ?? id;
    };
    const log = eventsAfter(world.db, 0, 1e6).map((e) =>
      JSON.stringify(e, (key, value: unknown) => (key === 'seq' || key === 'entry' ? undefined : named(value))),
    );
    world.close();
    return log;
  }
  it.each(sized({ quick: [3], usual: [1], long: [1, 2, 3] }))(
    'with no time between changes nothing (morning %i)',
    (seed) => {
      const without = morning(seed, () => false);
      expect(without.length).toBeGreaterThan(100);
      expect(morning(seed, (i) => i % 7 === 3)).toEqual(without);
      // Once at every step takes long: that is left to the long tests.
      if (sized({ quick: false, usual: false, long: true })) expect(morning(seed, () => true)).toEqual(without);
    },
    90_000,
  );
  it('with time between runs what is overdue in order, at the instant of the start', () => {
    const c = call();
    w.at(MORNING + 200_000);
    const later = w.restart();
    later.floor.resume();
    later.timers.runDue();
    later.floor.askAnew();
    const staged = eventsAfter(w.db, 0, 1e6).flatMap((e) =>
      e.type === 'visit.staged' ? [[e.stage, e.floorAt - MORNING]] : [],
    );
    expect(staged).toEqual([
      [1, 0],
      [2, 200_000],
      [3, 200_000],
      [4, 200_000],
      [5, 200_000],
    ]);
    expect(visitsOf(w.db, c.contact)[0]?.stagedAt).toHaveLength(5);
  });
  it('the tables made from events are what the events say, stages, groups and calls included', () => {
    call();
    w.pass(130);
    w.pass(30);
    const read = () =>
      ['contacts', 'visits', 'offers', 'legs', 'partner_calls'].map((t) =>
        w.db.prepare(`SELECT * FROM ${t} ORDER BY id`).all(),
      );
    const before = read();
    expect(before[4]).not.toEqual([]);
    replayAll(w.db);
    expect(read()).toEqual(before);
  });
});
