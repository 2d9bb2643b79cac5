import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { readProfile } from '../../src/data/dutyprofiles';
import { searchHistory } from '../../src/data/history';
import { writeSupervisors } from '../../src/data/teams';
import type { Services } from '../../src/services';
import { noticesFor } from '../../src/services/floor/stream';
import type { Actor } from '../../src/services/ground/actor';
import { sightOf } from '../../src/services/ground/scope';
import { handsIn } from '../helpers/hands';
import { codeOf, makeWorld, MORNING, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());

const { lead, bertil, tamsin, odile, ready, chat, take, settings } = handsIn(() => w);
/** Takes what is offered, talks for so many seconds and files it. */
function handle(who: Actor, seconds: number): void {
  const legId = take(who);
  for (let left = seconds; left > 0; left -= 30) {
    s.desk.beat(who, { window: 'one', legId: null, seen: true, focused: true });
    w.pass(Math.min(30, left));
    s.desk.act(who, { act: 'say', legId, text: 'One moment.' }, null);
  }
  s.desk.act(who, { act: 'file', legId, code: 'HIRE' }, null);
}

describe('rows of one person’s own', () => {
  const QUEUE = 'queue_newhire';
  const own = (who: Actor) => s.queueSide.view(lead(), QUEUE).people.find((p) => p.personId === who.personId);
  const set = (who: Actor, change: { band: number; delaySeconds?: number; asProfile?: boolean }, revision?: number) =>
    s.queueSide.save(lead(), {
      queueId: QUEUE,
      rows: [],
      own: [
        {
          ...{ personId: who.personId, revision: revision ?? own(who)?.revision, channel: 'chat' },
          ...{ band: change.band, delaySeconds: change.delaySeconds ?? 0, asProfile: change.asProfile ?? false },
        },
      ],
    });
  const offered = (who: Actor) => s.desk.view(who, 0).offer !== null;

  it('take one person off a queue, while others on the profile go on', () => {
    ready(tamsin());
    set(tamsin(), { band: 0 });
    const c = chat();
    expect(offered(tamsin())).toBe(false);
    const why = s.floorView.contact(lead(), c.contact).visits[0]?.nowWhy;
    expect(why?.others.find((o) => o.text.includes('duty profile does not take it'))?.people).toContain('Tamsin Orrel');
    expect(readProfile(w.db, 'profile_front')?.rows.some((r) => r.queueId === QUEUE)).toBe(true);
    set(tamsin(), { band: 0, asProfile: true });
    expect(own(tamsin())?.channels).toEqual({});
    expect(offered(tamsin())).toBe(true);
  });
  it('put one person on, from their second on, wherever their profile is; a stop changes nothing', () => {
    const profileId = own(tamsin())?.profileId ?? '';
    const profile = readProfile(w.db, profileId);
    if (!profile) throw new Error('no profile');
    const { revision, ...body } = profile;
    s.duty.saveProfile(lead(), { ...body, revision, rows: body.rows.filter((r) => r.queueId !== QUEUE) });
    ready(tamsin());
    set(tamsin(), { band: 1, delaySeconds: 30 });
    chat();
    expect(offered(tamsin())).toBe(false);
    s = w.restart();
    w.pass(31);
    expect(offered(tamsin())).toBe(true);
    expect(s.people.view(lead()).people.find((p) => p.id === tamsin().personId)?.ownRows).toEqual([
      { queueId: QUEUE, channel: 'chat', band: 1, delaySeconds: 30 },
    ]);
  });
  it('of two who change one person’s, the second is told; one press in History takes all of a press back', () => {
    set(tamsin(), { band: 3 });
    expect(codeOf(() => set(tamsin(), { band: 4 }, 0))).toBe('changed-meanwhile');
    const rows = s.queueSide
      .view(lead(), QUEUE)
      .rows.slice(0, 1)
      .map((r) => ({ ...{ profileId: r.profileId, revision: r.revision }, channel: 'chat', band: 5, delaySeconds: 0 }));
    s.queueSide.save(lead(), {
      ...{ queueId: QUEUE, rows },
      own: [{ personId: odile().personId, revision: 0, channel: 'chat', band: 2, delaySeconds: 0, asProfile: false }],
    });
    s.history.undo(lead(), { id: searchHistory(w.db, { kind: 'own-rows' }, 1)[0]?.id });
    expect(own(odile())?.channels).toEqual({});
    expect(s.queueSide.view(lead(), QUEUE).rows[0]?.channels.chat?.band).not.toBe(5);
    expect(own(tamsin())?.channels.chat?.band).toBe(3);
    expect(codeOf(() => s.queueSide.save(lead(), { queueId: QUEUE, rows: [], own: [] }))).toBe('not-valid');
  });
  it('let a supervisor see a queue that only somebody’s own row serves', () => {
    const sees = () => sightOf(w, bertil()).queues?.has('queue_strings') ?? true;
    const mine = s.people.view(bertil()).people[0];
    if (!mine) throw new Error('nobody is seen');
    const before = sees();
    s.queueSide.save(lead(), {
      ...{ queueId: 'queue_strings', rows: [] },
      own: [{ personId: mine.id, revision: 0, channel: 'voice', band: 2, delaySeconds: 0, asProfile: false }],
    });
    expect([before, sees()]).toEqual([false, true]);
  });
});

describe('what the busiest hour needed', () => {
  it('is worked out from what people did, by skill and by half-hour', () => {
    expect(s.people.view(lead()).needs).toEqual({});
    ready(tamsin());
    for (let i = 0; i < 4; i++) {
      chat(`guest-${i}`);
      handle(tamsin(), 600);
    }
    w.at(MORNING + 2 * 3_600_000);
    // Four chats of ten minutes, each a quarter of a person, from 10:20: 1,000 s of a person in all, 0.17 of one in
    // the hour from 10.
    expect(s.people.view(lead()).needs.skill_newhire).toEqual({ people: 1, day: 2, hour: 10 });
    const shifts = s.shifts.view(lead(), {});
    expect(
      shifts.needed
        .map((n, i) => [i, n])
        .filter(([, n]) => n)
        .map(([i]) => i),
    ).toEqual([68, 69]);
    expect(shifts.weeksOfHistory).toBe(1);
    expect(s.shifts.view(bertil(), {}).needed).toEqual([]);
  });
  it('coverage counts people on shift, a team’s week for whoever has none of their own', () => {
    const before = s.shifts.view(lead(), { team: 'team_evening' }).planned;
    s.shifts.remove(lead(), { ownerId: 'person_60' });
    const without = s.shifts.view(lead(), { team: 'team_evening' });
    s.shifts.save(lead(), {
      ownerId: 'team_evening',
      revision: 0,
      weekly: [{ day: 7, from: '10:00', to: '12:00' }],
      exceptions: [],
    });
    const after = s.shifts.view(lead(), { team: 'team_evening' });
    expect(without.planned.reduce((a, b) => a + b)).toBeLessThan(before.reduce((a, b) => a + b));
    expect(after.planned.slice(6 * 48).filter((n) => n > 0)).toEqual([1, 1, 1, 1]);
    expect(after.lines.find((l) => l.ownerId === 'person_60')).toMatchObject({ from: 'team' });
  });
});

describe('at the Desk', () => {
  it('away reasons are the lead’s list', () => {
    s.duty.saveReasons(lead(), { reasons: [{ id: null, name: 'Tea', paid: true, minutes: 10 }] });
    ready(tamsin());
    expect(codeOf(() => s.desk.act(tamsin(), { act: 'duty', duty: 'away', reason: 'Lunch' }, null))).toBe('not-valid');
    s.desk.act(tamsin(), { act: 'duty', duty: 'away' }, null);
    expect(s.desk.view(tamsin(), 0)).toMatchObject({
      duty: 'away',
      reason: 'Tea',
      reasons: [{ name: 'Tea', minutes: 10 }],
    });
  });
  it('shows the lists of its profile, and the summary only while the helper is on for the workspace', () => {
    ready(tamsin());
    chat('guest-1');
    handle(tamsin(), 30);
    expect(s.desk.view(tamsin(), 0)).toMatchObject({
      layout: { name: 'Everyday Desk' },
      today: [{ customer: 'Ida Lindqvarn', outcome: 'HIRE' }],
      team: [],
    });
    chat('guest-2');
    take(tamsin());
    expect(s.desk.view(tamsin(), 0).contacts[0]?.summary).toContain('Reason: a new hire');
    s.deskProfiles.saveRules(lead(), { revision: 1, helpers: ['suggest'], rules: s.deskProfiles.view(lead()).rules });
    expect(s.desk.view(tamsin(), 0).contacts[0]?.summary).toBeNull();
  });
  it('an offer comes with what the customer asked before', () => {
    ready(tamsin());
    const first = chat('guest-7');
    handle(tamsin(), 30);
    chat('guest-7');
    expect(s.desk.view(tamsin(), 0).offer?.before).toMatchObject([
      { contactId: first.contact, channel: 'chat', how: 'resolved' },
    ]);
  });
  it('a rule with an exception gives the next profile, and the page says by which rule', () => {
    const rules = s.deskProfiles
      .view(lead())
      .rules.map((r, i) => (i === 0 ? { ...r, exceptIds: [odile().personId] } : r));
    s.deskProfiles.saveRules(lead(), {
      revision: 1,
      helpers: [],
      rules: rules.slice(0, 1).concat({ who: { by: 'everyone' }, exceptIds: [], profileId: 'desk_calm' }),
    });
    expect(s.deskProfiles.view(lead()).people.find((p) => p.id === odile().personId)).toMatchObject({
      rule: 1,
      profile: 'Calm Desk for newcomers',
    });
    expect(s.desk.view(odile(), 0).layout.panels.talking).toEqual(['known', 'replies']);
  });
});

describe('whose people', () => {
  it('somebody in two teams is seen by both supervisors and changed by that of the home team', () => {
    writeSupervisors(w.db, 'team_strings', [odile().personId]);
    s.people.save(lead(), { ...settings(odile().personId), roleId: 'supervisor' });
    const ines = w.actor('Ines Vall').personId;
    const level = { changes: [{ personId: ines, skillId: 'skill_pl', level: 1 }] };
    expect(s.people.person(odile(), ines).id).toBe(ines);
    expect(codeOf(() => s.levels.setLevels(odile(), level))).toBe('not-allowed');
    expect(codeOf(() => s.levels.setLevels(bertil(), level))).toBe('none');
  });
  it('the stream tells a supervisor that something happened, and to whom only when it is theirs', () => {
    const hear = noticesFor(s, bertil());
    const event = {
      type: 'person.duty',
      personId: odile().personId,
      duty: 'ready',
      reason: null,
      seq: 1,
      v: 1,
      floorAt: 0,
      realAt: 0,
    } as const;
    expect(hear(event)).toEqual({ seq: 1, type: 'person.duty', contactId: null, personId: null });
    expect(noticesFor(s, lead())(event)).toMatchObject({ personId: odile().personId });
    expect(noticesFor(s, tamsin())(event)).toBeNull();
  });
  it('figures of a supervisor are those of their people and queues', () => {
    ready(odile());
    chat('guest-1', ['a repair', '204816', 'the bridge snapped']);
    handle(odile(), 60);
    const front = readProfile(w.db, 'profile_front');
    s.duty.saveProfile(lead(), { ...front, rows: front?.rows.filter((r) => r.queueId !== 'queue_repairs') });
    const day = { from: '2026-11-17', to: '2026-11-17' };
    const handled = (who: Actor) => s.review.view(who, day).figures.find((f) => f.id === 'handled')?.value;
    expect([handled(lead()), handled(bertil())]).toEqual([1, 0]);
    expect(s.review.view(bertil(), day).people).toEqual([]);
  });
  it('people of other teams have no name in what a supervisor reads of a contact, a figure or a trial', () => {
    const c = chat('guest-1', ['a repair', '204816', 'the bridge snapped']);
    ready(odile());
    take(odile());
    s.desk.act(odile(), { act: 'file', legId: s.desk.view(odile(), 0).contacts[0]?.legId, code: 'REPAIR' }, null);
    const day = { from: '2026-11-17', to: '2026-11-17', measure: 'offered' };
    const read = (who: Actor) =>
      JSON.stringify([
        s.floorView.contact(who, c.contact),
        s.review.behind(who, day),
        s.botTrials.wouldAsk(who, { queueId: 'queue_repairs', channel: 'chat', needs: [] }),
      ]);
    expect(read(lead())).toContain('Odile Karrow');
    expect(read(bertil())).not.toContain('Odile');
    expect(s.floorView.contact(bertil(), c.contact).visits[0]?.decisions.at(-1)?.sentence).toContain(
      'somebody in another team',
    );
    // What is left of the others is their number.
    chat('guest-2', ['a repair', '204817', 'a key stuck']);
    s.desk.act(odile(), { act: 'duty', duty: 'off' }, null);
    const waiting = chat('guest-3', ['a repair', '204818', 'a reed split']);
    expect(JSON.stringify(s.floorView.contact(bertil(), waiting.contact).visits[0]?.nowWhy?.others)).toMatch(
      /\d+ in other teams/,
    );
  });
  it('a press that changed people of other teams too is not for a supervisor to take back', () => {
    s.bulk.run(lead(), {
      personIds: [tamsin().personId, odile().personId],
      apply: true,
      set: { dutyProfileId: 'profile_evening' },
    });
    const line = s.history.view(bertil(), {}).lines[0];
    expect(line?.thing).toBe('Tamsin Orrel');
    expect(codeOf(() => s.history.undo(bertil(), { id: line?.id }))).toBe('not-allowed');
  });
  it('History is searched by days of the company, not of Greenwich', () => {
    w.db.prepare("UPDATE workspace SET zone = 'Pacific/Auckland'").run();
    s.people.save(lead(), { ...settings(tamsin().personId), outbound: '214' });
    const on = (from: string, to: string) => s.history.view(lead(), { from, to }).lines.length;
    // 10:20 in Greenwich on the 17th is 23:20 in Auckland.
    expect([on('2026-11-17', '2026-11-17'), on('2026-11-18', '2026-11-18')]).toEqual([1, 0]);
    w.at(MORNING + 3_600_000);
    s.people.save(lead(), { ...settings(tamsin().personId), outbound: '215' });
    expect([on('2026-11-17', '2026-11-17'), on('2026-11-18', '2026-11-18')]).toEqual([1, 1]);
  });
  it('a kept filter is one person’s own', () => {
    const { id } = s.peopleFilters.keepFilter(lead(), {
      id: null,
      name: 'Good French',
      filter: { skill: 'skill_fr', level: '4' },
    });
    expect(s.people.view(lead()).filters).toMatchObject([{ name: 'Good French' }]);
    expect(s.people.view(bertil()).filters).toEqual([]);
    expect(codeOf(() => s.peopleFilters.dropFilter(bertil(), { id }))).toBe('not-found');
    s.peopleFilters.keepFilter(lead(), { id: null, name: 'Good French', filter: { skill: 'skill_fr', level: '5' } });
    expect(s.people.view(lead()).filters).toMatchObject([{ filter: { level: '5' } }]);
  });
  it('what one person can see and do follows role, teams and profiles', () => {
    expect(s.roles.access(lead(), bertil().personId)).toMatchObject({
      role: 'supervisor',
      teams: ['Front desk'],
      people: 20,
      of: 64,
      queues: ['New hire', 'Repairs', 'Billing', 'Deliveries', 'Español'],
    });
    expect(s.roles.access(lead(), tamsin().personId)).toMatchObject({
      can: ['work with contacts at the Desk'],
      people: 0,
      queues: [],
    });
    expect(s.roles.access(lead(), lead().personId)).toMatchObject({ teams: 'all', queues: 'all', people: 64 });
  });
});

describe('duty profiles', () => {
  it('one that somebody is on for now is not removed, and a preview asks for the person’s own skills', () => {
    const texts = readProfile(w.db, 'profile_texts');
    const { id } = s.duty.saveProfile(lead(), { ...texts, id: null, revision: 0, name: 'Spare' });
    s.people.setForNow(lead(), { personId: odile().personId, profileId: id, until: '18:00' });
    expect(codeOf(() => s.duty.removeProfile(lead(), { id }))).toBe('not-now');
    s.people.setForNow(lead(), { personId: odile().personId, profileId: null });
    expect(codeOf(() => s.duty.removeProfile(lead(), { id }))).toBe('none');
    const ask = (personId: string | null) =>
      s.duty.preview(lead(), {
        rows: texts?.rows,
        load: texts?.load,
        personId,
        lines: [{ queueId: 'queue_billing', channel: 'chat', count: 2, waitedSeconds: 40 }],
      });
    expect(ask(null).taken).toHaveLength(2);
    expect(ask(odile().personId)).toMatchObject({ taken: [], left: [{ count: 2, why: 'skill' }] });
  });
  it('a changed profile counts for the next contact of everybody on it', () => {
    ready(tamsin());
    const front = readProfile(w.db, 'profile_front');
    s.duty.saveProfile(lead(), { ...front, rows: [] });
    chat('guest-1');
    expect(s.desk.view(tamsin(), 0).offer).toBeNull();
    s.duty.saveProfile(lead(), { ...front, revision: (front?.revision ?? 0) + 1 });
    expect(s.desk.view(tamsin(), 0).offer?.queue).toBe('New hire');
  });
});
