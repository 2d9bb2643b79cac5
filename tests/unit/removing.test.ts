import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { allSteps } from '../../src/core/bots/model';
import { leadsTo, stepsWithoutAsked } from '../../src/core/removing/without';
import { readBot, readBots } from '../../src/data/bots';
import { rows, run } from '../../src/data/database';
import { nameOf } from '../../src/data/names';
import { readDoor, readDoors } from '../../src/data/doors';
import { readProfiles } from '../../src/data/dutyprofiles';
import { readQueue, readQueues } from '../../src/data/queuesettings';
import { readRetired } from '../../src/data/retired';
import type { Services } from '../../src/services';
import { gatheredNow } from '../../src/services/drafts/gathered';
import { namesOf } from '../../src/services/review/names';
import { handsIn } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { over, scriptOf } from '../helpers/scripts';
import { codeIn, codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const lead = () => w.actor('Noor Amsel');
const hands = handsIn(() => w);
const { live } = botsIn(() => w);
const pick = ({ id, revision, name }: { id: string; revision: number; name: string }) => ({ id, revision, name });
const { chat, ready, take, odile } = hands;
const tamsinId = () => hands.tamsin().personId;
const QUEUE = 'queue_repairs';
const found = () => s.toFix.view(lead()).findings.map((f) => f.id);
const remove = (kind: string, id: string, instead: string | null = null) =>
  s.removing.remove(lead(), { kind, id, instead });
const preview = (kind: string, id: string, instead = '') => s.removing.view(lead(), { kind, id, instead });
const everyReference = () =>
  rows<{ text: string }>(
    w.db,
    `SELECT body AS text FROM documents UNION ALL SELECT body FROM duty_profiles UNION ALL SELECT draft FROM bots
      UNION ALL SELECT when_closed || meets FROM doors WHERE retired_at IS NULL`,
  )
    .map((r) => r.text)
    .join('\n');

/** A queue for trying things out, which others lead to in every way there is. */
function practice(): string {
  const body = readQueue(w.db, QUEUE);
  if (!body) throw new Error('no queue');
  const { id: _id, revision: _r, place: _p, ...settings } = body;
  const { id } = s.queues.save(lead(), { id: null, revision: 0, settings: { ...settings, name: 'Practice' } });
  const billing = readQueue(w.db, 'queue_billing');
  if (!billing) throw new Error('no queue');
  const { id: ofBilling, revision, place: _q, ...own } = billing;
  s.queues.save(lead(), {
    id: ofBilling,
    revision,
    settings: {
      ...own,
      entryRules: [{ if: { when: 'waiting', atLeast: 9 }, then: { to: 'queue', queueId: id } }],
      clocks: {
        chat: [{ atSeconds: 60, early: false, acts: [{ does: 'move', onward: { to: 'queue', queueId: id } }] }],
      },
    },
  });
  s.queueSide.save(lead(), {
    queueId: id,
    rows: [{ profileId: 'profile_front', revision: profile().revision, channel: 'chat', band: 2, delaySeconds: 0 }],
    own: [
      {
        personId: odile().personId,
        asProfile: false,
        revision: 0,
        channel: 'chat',
        band: 1,
        delaySeconds: 0,
      },
    ],
  });
  return id;
}
const profile = () => readProfiles(w.db).find((p) => p.id === 'profile_front') ?? { revision: 0, rows: [] };

describe('a queue that was never used', () => {
  it('is deleted with all that leads to it, which is shown before, and leaves no trace in To fix', async () => {
    // Whoever is asked about is somebody real from then on.
    odile();
    const before = found();
    const id = practice();
    const view = await preview('queue', id);
    expect(view).toMatchObject({ name: 'Practice', used: false, stops: [], needsInstead: false });
    expect(view.touches.map((t) => t.name).sort()).toEqual(['Billing', 'Front desk', 'Odile Karrow']);
    expect(await remove('queue', id)).toEqual({ id, retired: false });
    expect(readQueues(w.db).map((q) => q.id)).not.toContain(id);
    expect(everyReference()).not.toContain(id);
    expect(readQueue(w.db, 'queue_billing')).toMatchObject({ entryRules: [] });
    expect(found()).toEqual(before);
    expect(s.removing.retired(lead()).retired).toEqual([]);
    w.restart();
    expect(found()).toEqual(before);
  });
  it('is there again with all that led to it once its removal is undone', async () => {
    const id = practice();
    const was = [readQueue(w.db, 'queue_billing')?.clocks, profile().rows];
    await remove('queue', id);
    const line = s.history.view(lead(), {}).lines[0];
    await s.history.undo(lead(), { id: line?.id ?? 0 });
    expect(readQueue(w.db, id)?.name).toBe('Practice');
    expect([readQueue(w.db, 'queue_billing')?.clocks, profile().rows]).toEqual(was);
  });
});

describe('a queue that was used', () => {
  /** A contact that waited in Repairs and was answered. */
  function used(): void {
    const c = chat('guest-1', ['a repair', '204816', 'the bridge snapped']);
    ready(odile());
    const leg = take(odile());
    s.desk.act(odile(), { act: 'say', legId: leg, text: 'Good day' }, null);
    expect(c.contact).not.toBe('');
  }
  const unlead = async (to: string) => {
    for (const b of readBots(w.db))
      if (b.draft.fallbackQueueId === QUEUE || leadsTo(allSteps(b.draft), 'queue', QUEUE)) {
        const text = JSON.stringify(b.draft).replaceAll(`"${QUEUE}"`, `"${to}"`);
        s.bots.save(lead(), { id: b.id, revision: b.revision, name: b.name, draft: JSON.parse(text) as object });
        await s.bots.publish(lead(), {
          id: b.id,
          revision: readBot(w.db, b.id)?.revision ?? 0,
          note: 'Without it',
          at: null,
          override: 'for the test',
        });
      }
  };
  it('stays while a live bot leads to it, or somebody waits in it', async () => {
    chat('guest-1', ['a repair', '204816', 'the bridge snapped']);
    const view = await preview('queue', QUEUE, 'queue_billing');
    expect(view.used).toBe(true);
    expect(view.stops.join(' ')).toMatch(/1 contact waits in it now\..*is live and hands over to it/s);
    expect(await codeIn(() => remove('queue', QUEUE, 'queue_billing'))).toBe('not-now');
    expect(await codeIn(() => remove('queue', QUEUE))).toBe('not-now');
    expect(readQueue(w.db, QUEUE)).toBeDefined();
  });
  it('is retired: out of lists and checks, named in Review and in its contacts, and brought back by one press', async () => {
    used();
    await unlead('queue_billing');
    const view = await preview('queue', QUEUE, 'queue_billing');
    expect(view.stops).toEqual([]);
    expect(await remove('queue', QUEUE, 'queue_billing')).toEqual({ id: QUEUE, retired: true });
    expect(readQueues(w.db).map((q) => q.id)).not.toContain(QUEUE);
    expect(s.removing.retired(lead()).retired).toMatchObject([{ kind: 'queue', id: QUEUE, name: 'Repairs' }]);
    expect(namesOf(s.host, lead())('queue', QUEUE)).toBe('Repairs');
    expect(found().filter((id) => id.includes(QUEUE))).toEqual([]);
    s = w.restart();
    expect(readRetired(w.db)).toHaveLength(1);
    s.removing.bringBack(lead(), { kind: 'queue', id: QUEUE });
    expect(readQueue(w.db, QUEUE)?.name).toBe('Repairs');
    expect(s.removing.retired(lead()).retired).toEqual([]);
    expect(await codeIn(() => s.removing.bringBack(lead(), { kind: 'queue', id: QUEUE }))).toBe('not-found');
  });
});

describe('doors and bots', () => {
  it('a door is deleted or retired, and its address is free for another', async () => {
    const [first] = readDoors(w.db).filter((d) => d.channel === 'chat');
    if (!first) throw new Error('no door');
    const { place: _p, byHand: _b, ...body } = first;
    const { id } = s.doors.save(lead(), { ...body, id: null, revision: 0, name: 'Fair', address: 'fair-chat' });
    expect(await remove('door', id)).toEqual({ id, retired: false });
    const c = chat('guest-9');
    const by =
      rows<{ door: string }>(w.db, 'SELECT door_id AS door FROM contacts WHERE id = ?', c.contact)[0]?.door ?? '';
    expect((await preview('door', by)).stops.join()).toMatch(/contact is open that came by it/);
    expect(await codeIn(() => remove('door', by))).toBe('not-now');
    expect(readDoor(w.db, by)).toBeDefined();
  });
  it('a bot is removed once another meets whoever comes to its doors', async () => {
    const [bot] = readBots(w.db).filter((b) => readDoors(w.db).some((d) => d.botId === b.id));
    const other = readBots(w.db).find((b) => b.id !== bot?.id && b.liveVersion !== null);
    if (!bot || !other) throw new Error('no bot');
    expect((await preview('bot', bot.id)).needsInstead).toBe(true);
    expect(await codeIn(() => remove('bot', bot.id))).toBe('not-now');
    expect(await remove('bot', bot.id, other.id)).toEqual({ id: bot.id, retired: false });
    expect(readDoors(w.db).map((d) => d.botId)).not.toContain(bot.id);
    expect(readBots(w.db).map((b) => b.id)).not.toContain(bot.id);
    const line = s.history.view(lead(), {}).lines[0];
    await s.history.undo(lead(), { id: line?.id ?? 0 });
    expect(readBot(w.db, bot.id)).toMatchObject({ name: bot.name, draft: bot.draft });
    expect(readDoors(w.db).map((d) => d.botId)).toContain(bot.id);
  });
  it('a queue that is changed for a time is removed once that is over', async () => {
    const id = practice();
    const { revision, value } = gatheredNow(w.db, 'queue', id) ?? { revision: 0, value: {} };
    const from = w.now() + 1000;
    const change = { ...value, name: 'Practice for the fair' };
    await s.plans.plan(lead(), { kind: 'queue', id, revision, value: change, from, until: from + 9e6, note: '' });
    w.pass(2);
    expect((await preview('queue', id)).stops.join()).toMatch(/A planned change of it is on/);
    expect(await codeIn(() => remove('queue', id))).toBe('not-now');
    w.pass(9100);
    expect(await remove('queue', id)).toEqual({ id, retired: false });
  });
  it('takes the right for everybody', async () => {
    const somebody = w.actor('Odile Karrow');
    expect(await codeIn(() => s.removing.view(somebody, { kind: 'queue', id: QUEUE }))).toBe('not-allowed');
    expect(await codeIn(() => s.removing.remove(somebody, { kind: 'queue', id: QUEUE, instead: null }))).toBe(
      'not-allowed',
    );
    expect(await codeIn(() => s.removing.bringBack(somebody, { kind: 'queue', id: QUEUE }))).toBe('not-allowed');
  });
});

describe('groups, partner desks, skills, teams and fields', () => {
  it('a group that was asked is retired with what led to it, and brought back; nothing it did loses its name', async () => {
    chat();
    run(
      w.db,
      "INSERT OR IGNORE INTO offers (id, visit_id, person_id, made_at, accept_by, ended_at, ended_how, group_id) SELECT 'o', id, 'person_05', 1, 2, 2, 'missed', 'group_help' FROM visits LIMIT 1",
    );
    // A bot that is live and hands over to it is published without first.
    expect((await preview('group', 'group_help')).stops).toMatchObject([
      expect.stringMatching(/^Evening desk is live/),
    ]);
    const bot = readBot(w.db, 'bot_evening');
    if (!bot) throw new Error('no bot');
    const gone = { kind: 'group', id: 'group_help', instead: null } as const;
    const scenes = bot.draft.scenes.map((scene) => ({ ...scene, steps: stepsWithoutAsked(scene.steps, gone) }));
    const { revision } = s.bots.save(lead(), { ...pick(bot), draft: { ...bot.draft, scenes } });
    await s.bots.publish(lead(), { id: bot.id, revision, note: '', at: null, override: 'in a test' });
    const { used, touches, stops } = await preview('group', 'group_help');
    expect({ used, stops }).toEqual({ used: true, stops: [] });
    expect(touches.map((t) => [t.name, t.becomes])).toContainEqual(['Repairs', 'does not ask it any more']);
    expect(await remove('group', 'group_help')).toMatchObject({ retired: true });
    expect(everyReference()).not.toContain('group_help');
    expect(s.groups.view(lead()).groups.some((g) => g.id === 'group_help')).toBe(false);
    expect(nameOf(w.db, 'group_help')).toBe('Helping hands');
    expect(readRetired(w.db).map((r) => r.name)).toEqual(['Helping hands']);
    s.removing.bringBack(lead(), { kind: 'group', id: 'group_help' });
    expect(s.groups.view(lead()).groups.find((g) => g.id === 'group_help')?.name).toBe('Helping hands');
    expect(readRetired(w.db)).toEqual([]);
  });
  it('a partner desk gives way to another, and History takes all of it back', async () => {
    const there = s.groups.view(lead()).partners.find((p) => p.id === 'partner_bench');
    if (!there) throw new Error('no desk');
    const { zone, hoursId, limits, way, ringSeconds, countsFromSeconds, numbers } = there;
    const { id: other } = s.groups.savePartner(lead(), {
      ...{ zone, hoursId, limits, way, ringSeconds, countsFromSeconds },
      id: null,
      revision: 0,
      name: 'Second bench',
      numbers: numbers.map(({ use: _u, ...n }) => ({ ...n, id: null })),
    });
    const before = everyReference();
    await remove('partner', 'partner_bench', other);
    expect(everyReference()).not.toContain('partner_bench');
    expect(JSON.stringify(readQueue(w.db, QUEUE)?.clocks)).toContain(other);
    s.history.undo(lead(), { id: s.history.view(lead(), {}).lines[0]?.id });
    expect(everyReference()).toBe(before);
    expect(s.groups.view(lead()).partners.map((p) => p.id)).toContain('partner_bench');
  });
  it('a skill comes back with everybody’s level, by one press or from History', async () => {
    const levels = () =>
      rows(
        w.db,
        'SELECT person_id, level, until, note FROM own_levels WHERE skill_id = ? ORDER BY person_id',
        'skill_triage',
      );
    const sentence = () => JSON.stringify(s.teams.view(lead()).skills.find((x) => x.id === 'skill_triage'));
    const [had, was] = [levels(), sentence()];
    expect(had.length).toBeGreaterThan(3);
    const { touches, used } = await preview('skill', 'skill_triage');
    expect(used).toBe(true);
    expect(touches.map((t) => t.becomes)).toContain('neither needs nor loosens it any more');
    await remove('skill', 'skill_triage');
    expect(levels()).toEqual([]);
    expect(readQueue(w.db, QUEUE)?.needs).toEqual([]);
    expect(everyReference()).not.toContain('skill_triage');
    s.removing.bringBack(lead(), { kind: 'skill', id: 'skill_triage' });
    expect(levels()).toEqual(had);
    await remove('skill', 'skill_triage');
    s.history.undo(lead(), { id: s.history.view(lead(), {}).lines[0]?.id });
    expect(levels()).toEqual(had);
    expect(sentence().length).toBeLessThanOrEqual(was.length);
    expect(readRetired(w.db)).toEqual([]);
  });
  it('bringing a skill back is undone by one press, and it is retired as before', async () => {
    await remove('skill', 'skill_triage');
    s.removing.bringBack(lead(), { kind: 'skill', id: 'skill_triage' });
    s.history.undo(lead(), { id: s.history.view(lead(), {}).lines[0]?.id });
    expect(readRetired(w.db)).toMatchObject([{ kind: 'skill', name: 'Repairs triage' }]);
    s.removing.bringBack(lead(), { kind: 'skill', id: 'skill_triage' });
    expect(readRetired(w.db)).toEqual([]);
    expect(rows(w.db, 'SELECT 1 FROM own_levels WHERE skill_id = ?', 'skill_triage').length).toBeGreaterThan(3);
  });
  it('a skill that a live bot asks for, or somebody waits for, stays', async () => {
    odile();
    chat('g', ['a repair', '204816', 'the bridge snapped']);
    expect((await preview('skill', 'skill_triage')).stops.join(' ')).toMatch(/contact waits for somebody who has it/);
    const id = live(scriptOf([over('h', 'queue_newhire', { needs: [{ skillId: 'skill_fr', atLeast: 2 }] })]));
    expect((await preview('skill', 'skill_fr')).stops.join(' ')).toMatch(/is live and asks for it/);
    await expect(remove('skill', 'skill_fr')).rejects.toMatchObject({ code: 'not-now' });
    expect((await preview('skill', 'skill_fr')).touches.some((t) => t.path === `/bots/${id}`)).toBe(true);
  });
  it('a team is removed once it is empty, with its shift and whoever belongs to it besides', async () => {
    const { id } = s.teams.saveTeam(lead(), {
      id: null,
      revision: 0,
      name: 'Saturday',
      zone: 'Europe/Dublin',
      levels: { skill_triage: 2 },
      setIds: [],
      supervisorIds: [],
      allSpeak: false,
    });
    const person = hands.settings(tamsinId());
    s.people.save(lead(), { ...person, alsoTeamIds: [id] });
    const { touches, used } = await preview('team', id);
    expect(used).toBe(true);
    expect(touches).toMatchObject([{ name: 'Tamsin Orrel', becomes: 'does not belong to it any more' }]);
    expect(await remove('team', id)).toMatchObject({ retired: true });
    expect(hands.settings(tamsinId()).alsoTeamIds).toEqual([]);
    s.removing.bringBack(lead(), { kind: 'team', id });
    expect(s.teams.view(lead()).teams.find((t) => t.id === id)).toMatchObject({
      name: 'Saturday',
      levels: { skill_triage: 2 },
    });
    s.removing.remove(lead(), { kind: 'team', id: 'team_front', instead: null }).catch(() => undefined);
    expect((await preview('team', 'team_front')).stops.join(' ')).toMatch(/people are in it/);
  });
  it('a field that contacts have something in is retired, and their pages keep its label', async () => {
    odile();
    const { contact } = chat('g', ['a repair', '204816', 'the bridge snapped']);
    run(w.db, "INSERT INTO contact_values (contact_id, name, value) VALUES (?, 'school name', 'Elm Lane')", contact);
    expect(await remove('field', 'field_school')).toMatchObject({ retired: true });
    expect(s.fields.view(lead()).fields.some((f) => f.id === 'field_school')).toBe(false);
    expect(s.floorView.contact(lead(), contact).fields).toContainEqual({ label: 'School', value: 'Elm Lane' });
    s.removing.bringBack(lead(), { kind: 'field', id: 'field_school' });
    expect(s.fields.view(lead()).fields.some((f) => f.id === 'field_school')).toBe(true);
    expect((await preview('field', 'field_hire')).stops.join(' ')).toMatch(/sets it: take that out first/);
  });
  it('a name that was given to another meanwhile keeps a retired one away', async () => {
    run(w.db, "INSERT INTO contact_values (contact_id, name, value) VALUES (?, 'school name', 'x')", chat().contact);
    await remove('field', 'field_school');
    s.fields.save(lead(), {
      id: null,
      revision: 0,
      name: 'another',
      label: 'School',
      private: false,
      reported: true,
      type: 'text',
      filledBy: ['bot'],
    });
    expect(codeOf(() => s.removing.bringBack(lead(), { kind: 'field', id: 'field_school' }))).toBe('not-now');
  });
});
