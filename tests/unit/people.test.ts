import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { readProfile } from '../../src/data/dutyprofiles';
import { searchHistory } from '../../src/data/history';
import { readOutside } from '../../src/data/outside';
import { readPeople, readPerson } from '../../src/data/people';
import { waysOf } from '../../src/data/reach';
import { ownLevelsOf } from '../../src/data/skills';
import { visitsOf } from '../../src/data/visits';
import { announce } from '../../src/services/ground/change';
import type { Services } from '../../src/services';
import type { Actor } from '../../src/services/ground/actor';
import type { ImportView } from '../../src/services/people/peopleimport';
import { handsIn } from '../helpers/hands';
import { codeOf, makeWorld, MORNING, type World } from '../helpers/world';
import { browserAt } from '../helpers/reached';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());

const { owner, lead, bertil, tamsin, odile, ready, chat, take, settings } = handsIn(() => w);
const condition = (personId: string, id: string) =>
  s.readiness.of(lead(), personId).conditions.find((c) => c.id === id);

describe('where levels come from', () => {
  it('a second team, a set and the person’s own count as the rules say, and change what the router offers', () => {
    const ines = w.actor('Ines Vall');
    const cell = () => s.people.view(lead()).people.find((p) => p.id === ines.personId)?.cells;
    expect(cell()?.skill_bowed).toEqual({ level: 3, from: 'team', giver: 'Strings advice' });
    expect(cell()?.skill_keys).toEqual({ level: 1, from: 'set', giver: 'Every desk' });
    s.levels.setLevels(lead(), { changes: [{ personId: ines.personId, skillId: 'skill_bowed', level: 'never' }] });
    expect(cell()?.skill_bowed).toEqual({ level: 0, from: 'never' });
    expect(s.floor.router.floor.people.get(ines.personId)?.levels.has('skill_bowed')).toBe(false);
  });
  it('a licence counts through its last day in the person’s zone, and the router hears of its end', () => {
    const p = tamsin().personId;
    s.levels.setLevels(lead(), { changes: [{ personId: p, skillId: 'skill_credit', level: 4, until: '2026-11-17' }] });
    const has = () => s.floor.router.floor.people.get(p)?.levels.get('skill_credit');
    expect(has()).toBe(4);
    w.at(Date.parse('2026-11-17T23:59:59Z'));
    s.timers.runDue();
    expect(has()).toBe(4);
    w.at(Date.parse('2026-11-18T00:00:00Z'));
    s.timers.runDue();
    expect(has()).toBeUndefined();
    expect(s.people.view(lead()).people.find((x) => x.id === p)?.cells.skill_credit).toEqual({
      level: 0,
      from: 'ended',
      until: '2026-11-17',
    });
  });
  it('a team given a language must be confirmed; a set given to a team reaches its people', () => {
    const t = s.teams.view(lead()).teams.find((x) => x.id === 'team_front');
    const save = (extra: object) =>
      s.teams.saveTeam(lead(), {
        id: t?.id,
        revision: t?.revision,
        name: t?.name,
        zone: t?.zone,
        supervisorIds: t?.supervisorIds,
        setIds: ['set_bench'],
        levels: { ...t?.levels, skill_fr: 2 },
        ...extra,
      });
    expect(codeOf(() => save({}))).toBe('not-valid');
    save({ allSpeak: true });
    expect(s.people.person(lead(), tamsin().personId).levels.find((l) => l.name === 'Repairs triage')?.sentence).toBe(
      'Level 2 comes from the set Bench apprentice, given to Front desk.',
    );
  });
  it('a team with people in it is not removed; whoever was given a set loses it with the set', async () => {
    await expect(s.removing.remove(lead(), { kind: 'team', id: 'team_front', instead: null })).rejects.toMatchObject({
      code: 'not-now',
    });
    s.teams.remove(lead(), { kind: 'skill-set', id: 'set_basics' });
    expect(s.teams.view(lead()).teams.find((t) => t.id === 'team_front')?.setIds).toEqual([]);
  });
});

describe('another duty profile for now', () => {
  it('counts at once and ends by itself at its time', () => {
    const p = odile().personId;
    ready(odile());
    const { until } = s.people.setForNow(lead(), { personId: p, profileId: 'profile_front', until: '14:00' });
    expect(until).toBe(Date.parse('2026-11-17T14:00:00Z'));
    s.levels.setLevels(lead(), { changes: [{ personId: p, skillId: 'skill_newhire', level: 5 }] });
    chat();
    expect(s.desk.view(odile(), 0).offer?.queue).toBe('New hire');
    s.desk.act(odile(), { act: 'decline', offerId: s.desk.view(odile(), 0).offer?.offerId }, null);
    w.pass(4 * 3600);
    expect(readPerson(w.db, p)?.forNow).toBeNull();
    expect(
      s.floor.router.floor.people.get(p)?.profile.rows.some((r) => r.queueId === 'queue_repairs' && r.band === 1),
    ).toBe(true);
  });
});

describe('resting conversations and automatic acceptance', () => {
  const profile = (change: object) => {
    const p = readProfile(w.db, 'profile_front');
    s.duty.saveProfile(lead(), { ...p, ...change });
  };
  it('a quiet customer frees the load; their next word takes it back, even over the limit', () => {
    profile({ restSeconds: 120, load: { ...readProfile(w.db, 'profile_front')?.load, chat: { cost: 100, most: 1 } } });
    ready(tamsin());
    const first = chat('guest-1');
    const legId = take(tamsin());
    expect(s.desk.view(tamsin(), 0).used).toBe(100);
    s.desk.beat(tamsin(), { window: 'one', legId: null, seen: true, focused: true });
    w.pass(121);
    expect(s.desk.view(tamsin(), 0)).toMatchObject({ used: 0, contacts: [{ legId, resting: true }] });
    chat('guest-2');
    take(tamsin());
    first.say('are you there?');
    expect(s.desk.view(tamsin(), 0)).toMatchObject({ used: 200 });
    expect(s.desk.view(tamsin(), 0).contacts.every((c) => !c.resting)).toBe(true);
    const again = w.restart();
    expect(again.desk.view(tamsin(), 0).used).toBe(200);
  });
  it('offers are taken unasked where the profile says so', () => {
    profile({ autoAccept: true });
    ready(tamsin());
    chat();
    expect(s.desk.view(tamsin(), 0)).toMatchObject({ offer: null, contacts: [{ queue: 'New hire' }] });
  });
});

describe('readiness', () => {
  it('the demo has exactly one person whom nothing can reach, and To fix leads there', () => {
    expect(s.readiness.notReady(lead()).map((p) => p.personId)).toEqual(['person_60']);
    expect(s.toFix.view(lead()).findings.filter((f) => f.weight === 'stops')).toMatchObject([
      { path: '/people?person=person_60', says: expect.stringContaining('set to 0 at once') as string },
    ]);
    expect(s.strip(lead()).toFix).toBe(1);
  });
  it('names each condition as it breaks, and is well again when it is mended', () => {
    const p = tamsin().personId;
    expect(condition(p, 'invitation')).toMatchObject({ state: 'stops', says: 'No invitation was sent' });
    s.invitations.send(lead(), { personIds: [p] });
    expect(condition(p, 'invitation')?.says).toBe('The invitation has not been accepted yet');
    w.at(MORNING + 8 * 86_400_000);
    expect(condition(p, 'invitation')?.says).toBe('The invitation ran out before it was accepted');
    w.at(MORNING);
    s.people.switchPerson(lead(), { personId: p, active: false });
    expect(condition(p, 'active')?.state).toBe('stops');
    s.people.switchPerson(lead(), { personId: p, active: true });
    expect(condition(p, 'active')?.state).toBe('ok');
    s.people.save(lead(), { ...settings(p), roleId: 'role_quality' });
    expect(condition(p, 'role')?.fix?.words).toBe('Give another role');
    s.people.save(lead(), { ...settings(p), roleId: 'agent', most: { voice: 0, chat: 0, messaging: 0, sms: 0 } });
    expect(condition(p, 'duty')?.state).toBe('stops');
    s.people.save(lead(), { ...settings(p), most: {} });
    s.levels.setLevels(lead(), {
      changes: ['skill_newhire', 'skill_billing', 'skill_deliveries', 'skill_triage', 'skill_es'].map((skillId) => ({
        personId: p,
        skillId,
        level: 'never',
      })),
    });
    // Who waits a minute for Repairs is given to people without its skill: a stage reaches her.
    expect(condition(p, 'skills')).toMatchObject({ state: 'ok', says: 'Skills meet 1 of 5 queues: Repairs' });
    s.shifts.remove(lead(), { ownerId: p });
    expect(condition(p, 'shift')).toMatchObject({ state: 'advice', fix: { act: 'open-shift' } });
  });
});

describe('ways to reach a person', () => {
  const code = () => /code is ([\d ]+)\./.exec(readOutside(w.db, 1)[0]?.body ?? '')?.[1]?.replaceAll(' ', '') ?? '';
  it('an outside number is verified by the code that was spoken to it, then chosen for today', () => {
    const way = waysOf(w.db, odile().personId).find((x) => x.kind === 'outside');
    expect(codeOf(() => s.reach.choose(odile(), { wayId: way?.id }))).toBe('not-now');
    s.reach.sendCode(odile(), { id: way?.id });
    expect(readOutside(w.db, 1)[0]).toMatchObject({ medium: 'call', address: '+353209110171' });
    const right = code();
    expect(codeOf(() => s.reach.verify(odile(), { id: way?.id, code: right === '000000' ? '000001' : '000000' }))).toBe(
      'not-valid',
    );
    s.reach.verify(odile(), { id: way?.id, code: right });
    s.reach.choose(odile(), { wayId: way?.id });
    expect(s.reach.needsBeat(odile().personId)).toBe(false);
    expect(condition(odile().personId, 'reach')?.says).toBe('Calls come to +353209110171, which is verified');
  });
  it('five wrong codes are enough, and a code runs out', () => {
    const way = waysOf(w.db, odile().personId).find((x) => x.kind === 'outside');
    const id = way?.id ?? '';
    s.reach.sendCode(odile(), { id });
    const wrong = code() === '123456' ? '654321' : '123456';
    for (let i = 0; i < 5; i++) expect(codeOf(() => s.reach.verify(odile(), { id, code: wrong }))).toBe('not-valid');
    expect(codeOf(() => s.reach.verify(odile(), { id, code: code() }))).toBe('slow-down');
    s.reach.sendCode(odile(), { id });
    w.pass(601);
    expect(codeOf(() => s.reach.verify(odile(), { id, code: code() }))).toBe('not-now');
    expect(codeOf(() => s.reach.sendCode(tamsin(), { id }))).toBe('not-found');
  });
  it.each([
    ['outside', '12', 'not-valid'],
    ['outside', '+353 20 911 0188', 'none'],
    ['extension', 'x1', 'not-valid'],
    ['extension', '214', 'not-valid'],
    ['messaging', 'odile.k', 'none'],
  ])('%s %s: %s', (kind, address, expected) => {
    expect(
      codeOf(() =>
        s.reach.saveWay(lead(), {
          id: null,
          personId: odile().personId,
          kind,
          address,
          mayCall: true,
          maySendText: true,
          mayReceiveText: true,
        }),
      ),
    ).toBe(expected);
  });
});

describe('invitations', () => {
  const link = () => /\/invitation\/(\S+)/.exec(readOutside(w.db, 1)[0]?.body ?? '')?.[1] ?? '';
  const add = () =>
    s.people.save(lead(), {
      ...settings(tamsin().personId),
      id: null,
      revision: 0,
      email: 'new@brindlewood.example',
      name: 'Wren Tarn',
    }).id;
  it('a link sets a password once, and that signs in', async () => {
    const id = add();
    s.invitations.send(lead(), { personIds: [id] });
    const token = link();
    expect(s.invitations.view(token)).toMatchObject({ name: 'Wren Tarn' });
    await expect(s.invitations.accept({ token, password: 'short' })).rejects.toMatchObject({ code: 'not-valid' });
    // Two who hold the same link: deriving a password takes a while, and only one of them has it.
    const both = [1, 2].map((n) => s.invitations.accept({ token, password: `a long enough one ${n}` }));
    const ends = await Promise.allSettled(both);
    expect(ends.map((e) => e.status).sort()).toEqual(['fulfilled', 'rejected']);
    const password = `a long enough one ${ends.findIndex((e) => e.status === 'fulfilled') + 1}`;
    await expect(s.invitations.accept({ token, password })).rejects.toMatchObject({ code: 'closed' });
    const { token: session } = await s.signIn.signIn({ email: 'new@brindlewood.example', password }, browserAt());
    expect(s.sessions.actor(session)?.personId).toBe(id);
    expect(s.invitations.send(lead(), { personIds: [id] }).sent).toBe(0);
  });
  it('an older link, a withdrawn one and one that ran out do not work', () => {
    const id = add();
    s.invitations.send(lead(), { personIds: [id] });
    const first = link();
    s.invitations.send(lead(), { personIds: [id] });
    expect(codeOf(() => s.invitations.view(first))).toBe('closed');
    const second = link();
    w.at(MORNING + 7 * 86_400_000);
    expect(codeOf(() => s.invitations.view(second))).toBe('closed');
    w.at(MORNING);
    s.invitations.withdraw(lead(), { personIds: [id] });
    expect(codeOf(() => s.invitations.view(second))).toBe('closed');
    expect(codeOf(() => s.invitations.view('nonsense'))).toBe('not-found');
  });
});

describe('switching off with contacts open', () => {
  const begin = () => {
    ready(tamsin());
    const c = chat();
    take(tamsin());
    return c;
  };
  const off = (open?: string) =>
    s.people.switchPerson(lead(), { personId: tamsin().personId, active: false, ...(open ? { open } : {}) });
  it('asks what happens to them', () => {
    begin();
    expect(codeOf(() => off())).toBe('not-valid');
  });
  it('returns them to their queue at the place they had, and not to the same person', () => {
    const c = begin();
    w.pass(300);
    off('return');
    expect(visitsOf(w.db, c.contact).at(-1)).toMatchObject({
      endedAt: null,
      placedAt: MORNING,
      queueId: 'queue_newhire',
    });
    expect(readPerson(w.db, 'person_04')).toMatchObject({ active: false, duty: 'off' });
  });
  it('ends them', () => {
    const c = begin();
    off('end');
    expect(s.channel.read(c.contact, c.token, 0).state).toBe('ended');
  });
  it('lets the person finish, then switches off with the last', () => {
    begin();
    const legId = s.desk.view(tamsin(), 0).contacts[0]?.legId;
    const who = tamsin();
    off('finish');
    expect(readPerson(w.db, who.personId)).toMatchObject({ active: true, leaving: true, duty: 'away-when-empty' });
    s.desk.act(who, { act: 'file', legId, code: 'HIRE' }, null);
    expect(readPerson(w.db, who.personId)).toMatchObject({ active: false, leaving: false, duty: 'off' });
  });
  it('never the owner, and never oneself', () => {
    expect(codeOf(() => s.people.switchPerson(lead(), { personId: owner().personId, active: false }))).toBe(
      'not-valid',
    );
    expect(codeOf(() => s.people.switchPerson(lead(), { personId: lead().personId, active: false }))).toBe('not-valid');
  });
});

describe('roles', () => {
  it('ownership is handed on, and the old owner is a lead', () => {
    expect(codeOf(() => s.roles.handOn(lead(), { personId: tamsin().personId }))).toBe('not-allowed');
    s.roles.handOn(owner(), { personId: lead().personId });
    expect(
      readPeople(w.db)
        .filter((p) => p.roleId === 'owner')
        .map((p) => p.name),
    ).toEqual(['Noor Amsel']);
    expect(readPerson(w.db, 'person_01')?.roleId).toBe('lead');
  });
  it('built-in roles stand; a copy holds no more than its maker', () => {
    const copy = { id: null, revision: 0, name: 'watcher', rights: ['floor.view'], teams: ['team_front'] };
    expect(codeOf(() => s.roles.save(lead(), { ...copy, id: 'agent' }))).toBe('not-allowed');
    const { id } = s.roles.save(lead(), copy);
    s.people.save(lead(), { ...settings(tamsin().personId), roleId: id });
    expect(s.floorView.view(tamsin()).people.every((p) => p.teamId === 'team_front')).toBe(true);
    expect(codeOf(() => s.roles.remove(lead(), { id }))).toBe('not-now');
    const maker: Actor = { ...bertil(), rights: [...bertil().rights, 'roles.change'] };
    expect(codeOf(() => s.roles.save(maker, { ...copy, name: 'x', teams: ['team_repairs'] }))).toBe('not-allowed');
    expect(codeOf(() => s.roles.save(maker, { ...copy, name: 'x', rights: ['doors.change'] }))).toBe('not-allowed');
    expect(codeOf(() => s.roles.save(maker, { ...copy, name: 'x' }))).toBe('none');
  });
  it('whoever holds more is not taken over, switched off or demoted by whoever holds less', () => {
    const noor = lead().personId;
    const wider: Actor = { ...bertil(), rights: [...bertil().rights, 'roles.change'] };
    for (const by of [bertil(), wider]) {
      expect(codeOf(() => s.people.save(by, { ...settings(noor), email: 'mine@brindlewood.example' }))).toBe(
        'not-allowed',
      );
      expect(codeOf(() => s.people.save(by, { ...settings(noor), roleId: 'agent' }))).toBe('not-allowed');
      expect(codeOf(() => s.people.switchPerson(by, { personId: noor, active: false }))).toBe('not-allowed');
      expect(codeOf(() => s.invitations.send(by, { personIds: [noor] }))).toBe('not-allowed');
      expect(s.bulk.run(by, { personIds: [noor], apply: true, set: { active: false } }).refused).toHaveLength(1);
    }
    expect(
      codeOf(() => s.people.save(lead(), { ...settings(owner().personId), email: 'mine@brindlewood.example' })),
    ).toBe('not-allowed');
    expect(codeOf(() => s.people.save(bertil(), { ...settings(noor), outbound: '214' }))).toBe('none');
    expect(codeOf(() => s.people.save(lead(), { ...settings(noor), email: 'noor@brindlewood.example' }))).toBe('none');
    expect(readPerson(w.db, noor)).toMatchObject({ roleId: 'lead', active: true });
  });
  it('nobody takes the management of roles from themselves', () => {
    const { id } = s.roles.save(lead(), {
      id: null,
      revision: 0,
      name: 'second lead',
      rights: [...lead().rights],
      teams: 'all',
    });
    s.people.save(owner(), { ...settings(lead().personId), roleId: id });
    expect(
      codeOf(() =>
        s.roles.save(lead(), { id, revision: 1, name: 'second lead', rights: ['people.view'], teams: 'all' }),
      ),
    ).toBe('not-valid');
  });
});

describe('a supervisor of one team', () => {
  it('sees and changes their own people only, everywhere', () => {
    const b = bertil();
    const front = (p: { teamId: string }) => p.teamId === 'team_front';
    expect(s.people.view(b).people.every((p) => front(p) || p.alsoTeamIds.includes('team_front'))).toBe(true);
    expect(s.people.view(b).people.length).toBe(20);
    expect(s.search.places(b).some((p) => p.name === 'Odile Karrow')).toBe(false);
    for (const work of [
      () => s.people.person(b, odile().personId),
      () => s.readiness.of(b, odile().personId),
      () => s.reach.ways(b, odile().personId),
      () => s.roles.access(b, odile().personId),
      () => s.people.setForNow(b, { personId: odile().personId, profileId: null }),
      () => s.people.switchPerson(b, { personId: odile().personId, active: false }),
      () => s.invitations.send(b, { personIds: [odile().personId] }),
      () => s.shifts.save(b, { ownerId: odile().personId, revision: 1, weekly: [], exceptions: [] }),
      () => s.bulk.run(b, { personIds: [odile().personId], apply: true, set: { dutyProfileId: 'profile_front' } }),
      () => s.people.save(b, { ...settings(odile().personId), name: 'X' }),
    ])
      expect(codeOf(work)).toBe('not-found');
    expect(codeOf(() => s.people.save(b, { ...settings(tamsin().personId), teamId: 'team_repairs' }))).toBe(
      'not-allowed',
    );
    expect(s.people.standings(b)).toHaveLength(20);
    expect(s.shifts.view(b, {}).lines.every((l) => l.teamId === 'team_front')).toBe(true);
    s.levels.setLevels(lead(), {
      changes: [
        { personId: odile().personId, skillId: 'skill_pl', level: 2 },
        { personId: tamsin().personId, skillId: 'skill_pl', level: 2 },
      ],
    });
    expect(s.history.view(b, {}).lines.map((l) => l.thing)).toEqual(['Tamsin Orrel']);
    const entry = searchHistory(w.db, { thingId: odile().personId }, 1)[0];
    expect(codeOf(() => s.history.undo(b, { id: entry?.id }))).toBe('not-found');
  });
  it('does not see conversations that never came to their teams', () => {
    ready(odile());
    const c = chat('g', ['a repair', '204816', 'the bridge snapped']);
    s.people.save(lead(), { ...settings(bertil().personId) });
    const profile = readProfile(w.db, 'profile_front');
    s.duty.saveProfile(lead(), { ...profile, rows: profile?.rows.filter((r) => r.queueId !== 'queue_repairs') });
    const texts = readProfile(w.db, 'profile_texts');
    expect(texts?.rows.some((r) => r.queueId === 'queue_repairs')).toBe(false);
    expect(codeOf(() => s.floorView.contact(bertil(), c.contact))).toBe('not-found');
    expect(s.floorView.view(bertil()).lanes.some((l) => l.queueId === 'queue_repairs')).toBe(false);
    expect(codeOf(() => s.floorView.contact(lead(), c.contact))).toBe('none');
  });
});

describe('bulk edit', () => {
  it('shows what would change, changes it in one press, and one undo takes it back', () => {
    const personIds = [tamsin().personId, odile().personId, bertil().personId];
    const set = { teamId: 'team_strings', level: { skillId: 'skill_pl', level: 3 } };
    const shown = s.bulk.run(lead(), { personIds, apply: false, set });
    expect(shown.changes.map((c) => `${c.name} ${c.what} ${c.from}→${c.to}`)).toContain(
      'Odile Karrow team Repairs bench→Strings advice',
    );
    expect(readPerson(w.db, odile().personId)?.teamId).toBe('team_repairs');
    s.bulk.run(lead(), { personIds, apply: true, set });
    expect(personIds.map((id) => readPerson(w.db, id)?.teamId)).toEqual(Array(3).fill('team_strings'));
    const last = s.history.view(lead(), {}).lines[0];
    expect(last?.batch).toBe(6);
    s.history.undo(lead(), { id: last?.id });
    expect(personIds.map((id) => readPerson(w.db, id)?.teamId)).toEqual(['team_front', 'team_repairs', 'team_front']);
    expect(ownLevelsOf(w.db, odile().personId).get('skill_pl')).toBeUndefined();
  });
  it('names who is refused and why, and leaves them alone', () => {
    const shown = s.bulk.run(lead(), {
      personIds: [owner().personId, tamsin().personId],
      apply: true,
      set: { active: false },
    });
    expect(shown.refused).toEqual([
      { name: 'Nell Ashgrove', why: expect.stringContaining('holds more than you do') as string },
    ]);
    expect(
      s.bulk.run(owner(), { personIds: [owner().personId], apply: true, set: { active: false } }).refused,
    ).toMatchObject([{ why: expect.stringContaining('The owner cannot be switched off') as string }]);
    expect([readPerson(w.db, owner().personId)?.active, readPerson(w.db, 'person_04')?.active]).toEqual([true, false]);
  });
});

describe('history', () => {
  it('says who changed what in words, finds it again, and takes it back', () => {
    s.people.save(lead(), { ...settings(tamsin().personId), teamId: 'team_strings', name: 'Tamsin Orrel-Vane' });
    const found = s.history.view(lead(), { text: 'orrel-vane' }).lines;
    expect(found).toMatchObject([
      {
        who: 'Noor Amsel',
        kindName: 'person',
        thing: 'Tamsin Orrel-Vane',
        did: 'changed',
        changes: [
          { what: 'name', from: 'Tamsin Orrel', to: 'Tamsin Orrel-Vane' },
          { what: 'team', from: 'Front desk', to: 'Strings advice' },
        ],
      },
    ]);
    s.history.undo(lead(), { id: found[0]?.id });
    expect(readPerson(w.db, 'person_04')).toMatchObject({ name: 'Tamsin Orrel', teamId: 'team_front' });
    expect(codeOf(() => s.history.undo(lead(), { id: found[0]?.id }))).toBe('not-now');
    // The undo is itself a change, and can be undone.
    s.history.undo(lead(), { id: s.history.view(lead(), {}).lines[0]?.id });
    expect(readPerson(w.db, 'person_04')?.name).toBe('Tamsin Orrel-Vane');
  });
  it('refuses to undo over a later change, names both versions, and does it when asked again', () => {
    s.people.save(lead(), { ...settings(tamsin().personId), name: 'First' });
    const first = s.history.view(lead(), {}).lines[0]?.id;
    s.people.save(lead(), { ...settings(tamsin().personId), name: 'Second' });
    try {
      s.history.undo(lead(), { id: first });
      expect.unreachable();
    } catch (error) {
      expect(error).toMatchObject({
        code: 'changed-meanwhile',
        faults: [{ where: 'First · name', what: 'now Second, would be Tamsin Orrel' }],
      });
    }
    s.history.undo(lead(), { id: first, anyway: 1 });
    expect(readPerson(w.db, 'person_04')?.name).toBe('Tamsin Orrel');
  });
  it('levels set later for another skill do not bar an undo', () => {
    const p = odile().personId;
    s.levels.setLevels(lead(), { changes: [{ personId: p, skillId: 'skill_pl', level: 2 }] });
    const id = s.history.view(lead(), {}).lines[0]?.id;
    s.levels.setLevels(lead(), { changes: [{ personId: p, skillId: 'skill_es', level: 2 }] });
    s.history.undo(lead(), { id });
    expect([ownLevelsOf(w.db, p).get('skill_pl'), ownLevelsOf(w.db, p).get('skill_es')?.level]).toEqual([undefined, 2]);
  });
  it('every kind that can be undone comes back as it was', () => {
    const before = (): unknown =>
      JSON.parse(
        JSON.stringify(
          [
            s.teams.view(lead()),
            s.duty.view(lead()),
            s.deskProfiles.view(lead()),
            s.roles.view(lead()).roles,
            s.shifts.view(lead(), {}),
          ],
          (key, value: unknown) => (/revision$/i.test(key) ? undefined : value),
        ),
      );
    const was = before();
    const d = readProfile(w.db, 'profile_texts');
    s.teams.saveSet(lead(), {
      id: 'set_bench',
      revision: 1,
      name: 'Bench',
      levels: { skill_brass: 2 },
      teamIds: ['team_repairs'],
      personIds: [],
    });
    s.teams.saveSite(lead(), { id: null, revision: 0, name: 'Cork', zone: 'Europe/Dublin', address: '' });
    s.teams.saveSkill(lead(), { id: null, revision: 0, name: 'Harp', kind: 'product' });
    s.duty.saveProfile(lead(), { ...d, name: 'Texts', acceptSeconds: 33 });
    s.duty.saveReasons(lead(), { reasons: [{ id: null, name: 'Tea', paid: true, minutes: 5 }] });
    s.deskProfiles.saveRules(lead(), { revision: 1, helpers: [], rules: [] });
    s.deskProfiles.remove(lead(), { kind: 'desk-profile', id: 'desk_calm' });
    s.roles.save(lead(), { id: 'role_quality', revision: 1, name: 'reader', rights: ['review.view'], teams: 'all' });
    s.shifts.save(lead(), {
      ownerId: odile().personId,
      revision: 1,
      weekly: [],
      exceptions: [{ date: '2026-12-24', intervals: [], note: 'eve' }],
    });
    expect(before()).not.toEqual(was);
    for (const line of s.history.view(lead(), {}).lines) s.history.undo(lead(), { id: line.id });
    expect(before()).toEqual(was);
  });
});

describe('bringing people in', () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  const settled = async (id: string, kind = ''): Promise<ImportView> => {
    for (let i = 0; i < 50; i++) {
      const view = s.peopleImport.view(lead(), { id, kind });
      if (view.state !== 'reading' && view.state !== 'planning') return view;
      await new Promise((r) => setTimeout(r, 2));
    }
    throw new Error('the import never settled');
  };
  const file =
    'Name;E-mail;Team;Duty profile;Brass\nWren Tarn;wren@brindlewood.example;Front desk;Front ' +
    'desk;4\nBad Line;nowhere;Front desk;Front desk;9\n';
  it('shows every line, takes a mended cell, writes all at once, and changes nothing the second time', async () => {
    const { id } = s.peopleImport.begin(lead(), bytes(file), 'team.csv');
    const shown = await settled(id);
    expect(shown.counts).toEqual({ new: 1, changed: 0, unchanged: 0, refused: 1 });
    s.peopleImport.plan(lead(), {
      id,
      targets: shown.targets,
      edits: [
        { row: 3, column: 1, text: 'bad@brindlewood.example' },
        { row: 3, column: 4, text: '5' },
      ],
    });
    expect((await settled(id)).counts?.new).toBe(2);
    expect(await s.peopleImport.apply(lead(), { id, invite: true })).toEqual({ written: 2, met: 0 });
    expect(readPeople(w.db)).toHaveLength(66);
    expect(readOutside(w.db, 9).map((m) => m.address)).toEqual(['bad@brindlewood.example', 'wren@brindlewood.example']);
    const again = await settled(
      s.peopleImport.begin(
        lead(),
        bytes(file.replace('nowhere', 'bad@brindlewood.example').replace(';9', ';5')),
        'team.csv',
      ).id,
    );
    expect(again.counts).toEqual({ new: 0, changed: 0, unchanged: 2, refused: 0 });
    const batch = s.history.view(lead(), {}).lines[0];
    s.history.undo(lead(), { id: batch?.id });
    expect(readPeople(w.db)).toHaveLength(64);
  });
  it('a preview is kept although settings that it does not look at were changed since', async () => {
    const { id } = s.peopleImport.begin(lead(), bytes(file), 'team.csv');
    await settled(id);
    s.host.transact((tx) => announce(tx, 'phrasebook', 'phrasebook'));
    expect((await s.peopleImport.apply(lead(), { id, invite: false })).written).toBeGreaterThan(0);
  });
  it('what others changed meanwhile holds up only the lines it is about, which are shown as they would be now', async () => {
    const three = `${file.split('\n')[0]}\nWren Tarn;wren@brindlewood.example;Front desk;Front desk;4
Odile Karrow;odile.karrow@brindlewood.example;;;5\nTamsin Orrel;tamsin.orrel@brindlewood.example;;;5\n`;
    const { id } = s.peopleImport.begin(lead(), bytes(three), 'team.csv');
    expect((await settled(id)).counts).toMatchObject({ new: 1, changed: 2 });
    // One of somebody whose line says nothing of it, one of the very thing.
    const brass = (level: number) => ({ personId: odile().personId, skillId: 'skill_brass', level });
    const polish = { personId: tamsin().personId, skillId: 'skill_pl', level: 1 };
    s.levels.setLevels(owner(), { changes: [polish] });
    s.levels.setLevels(owner(), { changes: [brass(1)] });
    expect(await s.peopleImport.apply(lead(), { id, invite: false })).toEqual({ written: 2, met: 1 });
    expect(ownLevelsOf(w.db, tamsin().personId).get('skill_brass')?.level).toBe(5);
    expect(ownLevelsOf(w.db, tamsin().personId).get('skill_pl')?.level).toBe(1);
    expect(ownLevelsOf(w.db, odile().personId).get('skill_brass')?.level).toBe(1);
    const left = await settled(id, 'met');
    expect(left).toMatchObject({
      state: 'planned',
      written: 2,
      met: 1,
      counts: { new: 0, changed: 1, unchanged: 2, refused: 0 },
      lines: [{ name: 'Odile Karrow', changes: [{ from: '1', to: '5' }] }],
    });
    expect(await s.peopleImport.apply(lead(), { id, invite: false })).toEqual({ written: 1, met: 0 });
    expect(s.peopleImport.view(lead(), { id })).toMatchObject({ state: 'applied', written: 3, met: 0 });
    expect(ownLevelsOf(w.db, odile().personId).get('skill_brass')?.level).toBe(5);
  });
  it('where all of it was done by others, nothing is written and the file is shown again', async () => {
    const { id } = s.peopleImport.begin(lead(), bytes('E-mail;Brass\nodile.karrow@brindlewood.example;5\n'), 'x.csv');
    await settled(id);
    s.levels.setLevels(owner(), {
      changes: [{ personId: odile().personId, skillId: 'skill_brass', level: 5 }],
    });
    const lines = s.history.view(lead(), {}).lines.length;
    expect(await s.peopleImport.apply(lead(), { id, invite: false })).toEqual({ written: 0, met: 0 });
    expect((await settled(id)).counts).toMatchObject({ changed: 0, unchanged: 1 });
    expect(s.history.view(lead(), {}).lines).toHaveLength(lines);
  });
  it('of two files kept at once the second goes on with what the first left as it was', async () => {
    const brass = (lines: string) => bytes(`E-mail;Brass\n${lines}`);
    const hers = s.peopleImport.begin(owner(), brass('odile.karrow@brindlewood.example;4\n'), 'hers.csv').id;
    const mine = s.peopleImport.begin(
      lead(),
      brass('odile.karrow@brindlewood.example;5\ntamsin.orrel@brindlewood.example;5\n'),
      'mine.csv',
    ).id;
    await settled(mine);
    await new Promise((r) => setTimeout(r, 20));
    const both = [s.peopleImport.apply(owner(), { id: hers, invite: false })];
    both.push(s.peopleImport.apply(lead(), { id: mine, invite: false }));
    expect(await Promise.all(both)).toEqual([
      { written: 1, met: 0 },
      { written: 1, met: 1 },
    ]);
    expect(ownLevelsOf(w.db, odile().personId).get('skill_brass')?.level).toBe(4);
    expect(ownLevelsOf(w.db, tamsin().personId).get('skill_brass')?.level).toBe(5);
  });
  it('called off while it is checked again, nothing is written', async () => {
    const { id } = s.peopleImport.begin(lead(), bytes(file), 'team.csv');
    await settled(id);
    s.levels.setLevels(owner(), { changes: [{ personId: odile().personId, skillId: 'skill_pl', level: 1 }] });
    const kept = s.peopleImport.apply(lead(), { id, invite: false });
    s.peopleImport.cancel(lead(), { id });
    await expect(kept).rejects.toMatchObject({ code: 'not-now' });
    expect(s.peopleImport.view(lead(), { id }).state).toBe('cancelled');
    expect(readPeople(w.db)).toHaveLength(64);
  });
  it('what was taken out comes in again unchanged', async () => {
    const { text } = s.peopleImport.csv(lead(), '');
    const view = await settled(s.peopleImport.begin(lead(), bytes(text), 'people.csv').id, 'refused');
    expect(view.counts).toEqual({ new: 0, changed: 0, unchanged: 64, refused: 0 });
  });
  it('a file that is no table fails with a sentence; another person’s import is not there', async () => {
    const { id } = s.peopleImport.begin(lead(), bytes('a,b\n"x'), 'x.csv');
    expect(await settled(id)).toMatchObject({
      state: 'failed',
      fault: expect.stringContaining('never closed') as string,
    });
    expect(codeOf(() => s.peopleImport.view(owner(), { id }))).toBe('not-found');
  });
  it('a supervisor brings people into their own team only', async () => {
    const { id } = s.peopleImport.begin(
      bertil(),
      bytes(
        'Name,E-mail,Team,Duty profile\nA B,a@brindlewood.example,Repairs bench,Front desk\nOdile,odile.karrow@brindlewood.example,,\n',
      ),
      'x.csv',
    );
    await new Promise((r) => setTimeout(r, 20));
    expect(s.peopleImport.view(bertil(), { id }).lines.map((l) => l.reasons[0]?.what)).toEqual([
      'there is no team “Repairs bench” that you may use',
      'this address belongs to somebody you may not change',
    ]);
  });
});

describe('who takes a queue, and shifts', () => {
  it('a queue’s rows are set in several profiles in one press', () => {
    const rows = s.queueSide
      .view(lead(), 'queue_schools')
      .rows.filter((r) => ['profile_front', 'profile_evening'].includes(r.profileId))
      .map((r) => ({ profileId: r.profileId, revision: r.revision, channel: 'chat', band: 3, delaySeconds: 90 }));
    expect(s.queueSide.save(lead(), { queueId: 'queue_schools', rows, own: [] }).people).toBeGreaterThan(20);
    expect(readProfile(w.db, 'profile_front')?.rows).toContainEqual({
      queueId: 'queue_schools',
      channel: 'chat',
      band: 3,
      delaySeconds: 90,
    });
    expect(codeOf(() => s.queueSide.save(lead(), { queueId: 'queue_schools', rows, own: [] }))).toBe(
      'changed-meanwhile',
    );
  });
  it('a profile with people on it is not removed', () =>
    expect(codeOf(() => s.duty.removeProfile(lead(), { id: 'profile_front' }))).toBe('not-now'));
  it('shifts from a file are shown before they are kept', async () => {
    const text =
      'who,day,from,to\nodile.karrow@brindlewood.example,sat,10:00,14:00\nnobody@x.example,mon,09:00,17:00\n';
    expect(await s.shifts.import(lead(), { text, ownerId: null, seen: null })).toMatchObject({
      applied: false,
      lines: [{ name: 'Odile Karrow', week: 1 }],
      faults: [expect.stringContaining('nobody@x.example')],
    });
    const planned = () => s.shifts.view(lead(), {}).lines.find((l) => l.name === 'Odile Karrow')?.weekly;
    const was = planned();
    const { lines: seen } = await s.shifts.import(lead(), { text, ownerId: null, seen: null });
    const keep = () =>
      s.shifts.import(lead(), {
        text,
        ownerId: null,
        seen: seen.map(({ ownerId, over }) => ({ ownerId, over })),
      });
    expect(await keep()).toMatchObject({ applied: true, met: [], lines: [{ name: 'Odile Karrow' }] });
    expect(planned()).toEqual([{ day: 6, from: '10:00', to: '14:00' }]);
    // Once more it stands over another shift than was seen: somebody's change of meanwhile is not replaced unseen.
    expect(await keep()).toMatchObject({ applied: true, met: ['Odile Karrow'], lines: [] });
    s.history.undo(lead(), { id: s.history.view(lead(), {}).lines[0]?.id });
    expect(planned()).toEqual(was);
    // What it stood over when it was seen is there again.
    expect(await keep()).toMatchObject({ met: [], lines: [{ name: 'Odile Karrow' }] });
    s.shifts.remove(lead(), { ownerId: seen[0]?.ownerId });
    expect(await keep()).toMatchObject({ met: ['Odile Karrow'], lines: [] });
  });
});
