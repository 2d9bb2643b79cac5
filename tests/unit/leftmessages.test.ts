import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Figure } from '../../src/core/bots/model';
import { queueFigure } from '../../src/core/routing/queuefigures';
import { callbackOf } from '../../src/data/callbacks';
import { eventsAfter, replayAll } from '../../src/data/events';
import { readQueue } from '../../src/data/queuesettings';
import { visitsOf } from '../../src/data/visits';
import type { Services } from '../../src/services';
import type { ReviewView } from '../../src/services/review/overview';
import { choice, choose, en, end, over, scriptOf, toLine } from '../helpers/scripts';
import { handsIn, queueInput } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, tamsin, odile, ready, take, chat } = handsIn(() => w);
const { live, meet } = botsIn(() => w);

const MESSAGE = { id: 'm', verb: 'take-message', wording: en('After the tone'), queueId: 'queue_newhire' } as const;
/** Somebody leaves a message at a door whose bot takes one. */
function leaves(door: string, from: string, then = [end('x', 'Thanks')]) {
  live(scriptOf([MESSAGE, ...then]), door);
  const c = meet(door, from);
  c.say('This is Ida about my cello');
  return c;
}
const load = (name: string) => s.floor.router.floor.people.get(w.actor(name).personId);
const held = (name: string) => [...(load(name)?.open.values() ?? [])].map((h) => [h.channel, h.cost]);
const act = (legId: string, what: string, more: object = {}) =>
  s.desk.act(tamsin(), { act: what, legId, ...more }, null);

describe('a message left by telephone', () => {
  it('is shown whole, holds the load of a text, and is rung back as a call', () => {
    const c = leaves('door_repairs', '+353209140001');
    s.channel.leave(c.contact, c.token);
    expect(visitsOf(w.db, c.contact)).toMatchObject([
      { kind: 'message', channel: 'voice', goalSeconds: 4 * 3600, endedAt: null },
    ]);
    ready(tamsin());
    const legId = take(tamsin());
    const [shown] = s.desk.view(tamsin(), 0).contacts;
    expect(shown).toMatchObject({ left: true, ringNumber: '+353 20 914 0001', calling: null, cost: 10 });
    expect(shown?.messages.map((m) => m.text)).toContain('This is Ida about my cello');
    expect(held('Tamsin Orrel')).toEqual([['sms', 10]]);
    act(legId, 'ring-back');
    expect(held('Tamsin Orrel')).toEqual([['voice', 100]]);
    expect(c.side()).toMatchObject({ call: 'ringing', callNumber: '+353 20 914 0001' });
    // So it is after a stop.
    s = w.restart();
    expect(held('Tamsin Orrel')).toEqual([['voice', 100]]);
    s.channel.answer(c.contact, c.token, { answer: true }, null);
    expect(s.desk.view(tamsin(), 0).contacts[0]?.calling?.state).toBe('talking');
    act(legId, 'file', { code: 'REPAIR' });
    expect(callbackOf(w.db, c.contact)).toMatchObject({ state: 'reached' });
    expect([c.kept()?.endedHow, held('Tamsin Orrel')]).toEqual(['resolved', []]);
  });
  it('is tried again as a promised call where nobody answers', () => {
    const c = leaves('door_repairs', '+353209140001');
    ready(tamsin());
    act(take(tamsin()), 'ring-back');
    w.pass(25);
    expect(callbackOf(w.db, c.contact)).toMatchObject({ state: 'planned', attempts: 1, outcome: 'NOANSWER' });
    expect(s.desk.view(tamsin(), 0).contacts).toEqual([]);
    w.pass(15 * 60);
    expect(visitsOf(w.db, c.contact).map((v) => v.kind)).toEqual(['message', 'callback']);
  });
  it('is not rung while its person is in a call, nor a second time by a second press', () => {
    const first = leaves('door_repairs', '+353209140001');
    ready(tamsin());
    const legId = take(tamsin());
    const second = meet('door_repairs', '+353209140002');
    second.say('Another one');
    const other = take(tamsin());
    act(legId, 'ring-back');
    expect(codeOf(() => act(other, 'ring-back'))).toBe('not-now');
    expect(codeOf(() => act(legId, 'ring-back'))).toBe('not-now');
    expect([callbackOf(w.db, first.contact)?.state, callbackOf(w.db, second.contact)]).toEqual(['dialling', undefined]);
    // It can be dealt with without ringing.
    act(other, 'file', { code: 'REPAIR' });
    expect(second.kept()?.endedHow).toBe('resolved');
  });
});

describe('a message left in writing', () => {
  it('is answered in the same conversation', () => {
    const c = leaves('door_web', 'guest-1');
    expect(c.side()).toMatchObject({ state: 'waiting', call: 'message-left' });
    ready(tamsin());
    const legId = take(tamsin());
    expect(s.desk.view(tamsin(), 0).contacts[0]).toMatchObject({ left: true, ringNumber: null });
    expect(codeOf(() => act(legId, 'ring-back'))).toBe('not-valid');
    act(legId, 'say', { text: 'Your cello is ready.' });
    expect(c.said()).toContain('Your cello is ready.');
  });
  it('of somebody who is then handed over is dealt with by whoever takes them; where nobody does, it stands in line', () => {
    const c = leaves('door_web', 'guest-1', [over('h', 'queue_newhire')]);
    expect(visitsOf(w.db, c.contact).map((v) => v.kind)).toEqual(['live']);
    s.channel.leave(c.contact, c.token);
    expect(visitsOf(w.db, c.contact).map((v) => [v.kind, v.endedHow])).toEqual([
      ['live', 'gave-up'],
      ['message', null],
    ]);
    const taken = meet('door_web', 'guest-2');
    taken.say('Mine is a flute');
    ready(odile());
    ready(tamsin());
    for (const who of [odile(), tamsin()]) while (s.desk.view(who, 0).offer) take(who);
    s.channel.leave(taken.contact, taken.token);
    expect(visitsOf(w.db, taken.contact).map((v) => v.kind)).toEqual(['live']);
    expect(taken.kept()?.endedHow).toBe('resolved');
  });
  it('stands in line with what the customer came to need, and the log says the same', () => {
    const needs = [{ skillId: 'skill_bowed', atLeast: 3 as const }];
    live(scriptOf([choose('q', [choice('cello', '1', toLine('m'), { needs })]), MESSAGE, end('x', 'Thanks')]));
    const c = meet('door_web', 'guest-1');
    c.say('cello');
    c.say('It has a crack');
    const visit = visitsOf(w.db, c.contact)[0];
    expect(visit).toMatchObject({ kind: 'message', handOver: needs });
    const before = [JSON.stringify(visitsOf(w.db, c.contact)), JSON.stringify(c.kept())];
    replayAll(w.db);
    expect([JSON.stringify(visitsOf(w.db, c.contact)), JSON.stringify(c.kept())]).toEqual(before);
    expect(eventsAfter(w.db, 0, 1e6).filter((e) => e.type === 'message.left')).toHaveLength(2);
  });
});

describe('messages beside everybody else', () => {
  it('have a goal of their own and are in no share of answers, neither on the strip nor in Review', async () => {
    s.queues.save(lead(), queueInput(readQueue(w.db, 'queue_newhire'), { messageGoal: { percent: 90, seconds: 600 } }));
    const late = leaves('door_web', 'guest-1');
    w.pass(601);
    expect([s.strip(lead()).late, s.strip(lead()).inGoal, s.strip(lead()).waiting]).toEqual([1, null, 0]);
    expect(s.callbacks.view(lead()).messages).toMatchObject([
      { contactId: late.contact, queue: 'New hire', channel: 'chat', goalSeconds: 600 },
    ]);
    const figure = (name: Figure) =>
      queueFigure(
        s.floor.router,
        { queueId: 'queue_newhire', channel: 'chat', needs: [], figure: name, within: null },
        w.now(),
      );
    expect([figure('waiting'), figure('longestWait')]).toEqual([0, 0]);
    const floor = () => s.floorView.view(lead()).lanes.find((l) => l.queueId === 'queue_newhire');
    expect([floor()?.waiting.length, floor()?.messages, floor()?.share]).toEqual([0, 1, null]);
    ready(tamsin());
    act(take(tamsin()), 'file', { code: 'HIRE' });
    const soon = meet('door_web', 'guest-2');
    soon.say('Mine is a flute');
    act(take(tamsin()), 'file', { code: 'HIRE' });
    expect([late.kept()?.endedHow, soon.kept()?.endedHow]).toEqual(['resolved', 'resolved']);
    const { figures } = (await s.reading('review', lead(), { from: '2026-11-17', to: '2026-11-17' })) as ReviewView;
    const of = (id: string) => figures.find((f) => f.id === id);
    expect([of('messages-met')?.value, of('messages-met')?.count]).toEqual([0.5, 2]);
    expect([of('service-level')?.count, of('handled')?.count]).toEqual([0, 2]);
  });
  it('do not stand in the way of somebody who is there', () => {
    leaves('door_repairs', '+353209140001');
    chat('guest-9');
    ready(tamsin());
    // A message costs a text: both fit at once.
    take(tamsin());
    take(tamsin());
    expect(load('Tamsin Orrel')?.used).toBe(35);
  });
});
