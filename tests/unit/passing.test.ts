import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { usedLoad } from '../../src/core/people/load';
import { heldBy } from '../../src/core/routing/floor';
import { FULL } from '../../src/core/people/load';
import { STOCK_SETS } from '../../src/data/duty';
import { readQueue } from '../../src/data/queuesettings';
import { replyUses } from '../../src/data/replyuses';
import type { Services } from '../../src/services';
import { unansweredSince } from '../../src/services/contacts/deskcontact';
import { handsIn, queueInput } from '../helpers/hands';
import { codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, tamsin, odile, bertil, chat, ready, take } = handsIn(() => w);
const holdings = (personId: string) => {
  const person = s.floor.router.floor.people.get(personId);
  return person ? heldBy(person) : [];
};
/** A new hire that Tamsin has open. */
function opened(from = 'guest-1') {
  ready(tamsin());
  const contact = chat(from);
  return { ...contact, legId: take(tamsin()) };
}
const rowFor = (name: string) => {
  const person = s.floor.router.floor.people.get(w.actor(name).personId);
  if (!person) throw new Error(`no ${name}`);
  return person;
};
/** Somebody who could take Tamsin's contact, by the same rules that route; with their queue. */
function colleague(legId: string) {
  const [person] = s.desk.targets(tamsin(), legId).people;
  if (!person) throw new Error('nobody could take it');
  return person;
}

describe('passing on', () => {
  it('to a person offers it to them first, with the note, and to nobody else while they have room', () => {
    const { legId, contact } = opened();
    for (const one of [odile(), bertil()]) ready(one);
    const to = colleague(legId);
    expect(to.now).toBe(true);
    s.desk.act(tamsin(), { act: 'pass-on', legId, queueId: to.queueId, personId: to.id, note: 'Wants a cello.' }, null);
    const visit = [...s.floor.router.floor.waiting.values()].find((v) => v.contactId === contact);
    expect(visit?.offers.map((o) => o.personId)).toEqual([to.id]);
    const them = [odile(), bertil()].find((a) => a.personId === to.id) ?? lead();
    expect(s.desk.view(them, 0).offer?.passNote).toMatchObject({ from: 'Tamsin Orrel', words: 'Wants a cello.' });
    const taken = take(them);
    expect(s.desk.view(them, 0).contacts.find((c) => c.legId === taken)?.passNote?.words).toBe('Wants a cello.');
  });

  it('is refused for whoever cannot take it: off duty, away, oneself, not in their profile, or in another queue', () => {
    const { legId, contact } = opened();
    const pass = (more: object) =>
      codeOf(() => s.desk.act(tamsin(), { act: 'pass-on', legId, queueId: 'queue_newhire', ...more }, null));
    for (const personId of [odile().personId, tamsin().personId, 'person_none'])
      expect([personId, pass({ personId })]).toEqual([personId, 'not-now']);
    expect(s.desk.targets(tamsin(), legId).people.map((p) => p.id)).not.toContain(tamsin().personId);
    expect(pass({ groupId: 'group_none' })).toBe('not-found');
    expect(codeOf(() => s.desk.targets(odile(), legId))).toBe('not-found');
    // All is as it was: the contact is with its person, and no note is left.
    expect(s.desk.view(tamsin(), 0).contacts).toMatchObject([{ contactId: contact, talking: true, passNote: null }]);
  });

  it('to somebody without room waits for them, and never goes over what they may hold', () => {
    const legs = [0, 1, 2, 3].map((i) => opened(`guest-${i}`).legId);
    for (const one of [odile(), bertil()]) ready(one);
    const to = colleague(legs[0] ?? '');
    const them = [odile(), bertil()].find((a) => a.personId === to.id) ?? lead();
    const [other] = [odile(), bertil()].filter((a) => a.personId !== to.id);
    if (other) s.desk.act(other, { act: 'duty', duty: 'off' }, null);
    const most = rowFor(to.name).load.chat.most;
    const pass = (legId: string) => {
      s.desk.act(tamsin(), { act: 'pass-on', legId, queueId: to.queueId, personId: to.id }, null);
      if (s.desk.view(them, 0).offer) take(them);
      expect(usedLoad(holdings(to.id))).toBeLessThanOrEqual(FULL);
      expect(holdings(to.id).filter((h) => h.channel === 'chat').length).toBeLessThanOrEqual(most);
    };
    for (const legId of legs) pass(legId);
    const last = opened('guest-9');
    expect(s.desk.targets(tamsin(), last.legId).people.find((p) => p.id === to.id)?.now).toBe(false);
    pass(last.legId);
    expect([...s.floor.router.floor.waiting.values()].map((v) => v.contactId)).toEqual([last.contact]);
  });

  it('to a group opens it to that group from the start', () => {
    const { legId, contact } = opened();
    const [group] = s.desk.targets(tamsin(), legId).groups;
    s.desk.act(tamsin(), { act: 'pass-on', legId, queueId: 'queue_newhire', groupId: group?.id }, null);
    const visit = [...s.floor.router.floor.waiting.values()].find((v) => v.contactId === contact);
    expect(visit?.groups).toContain(group?.id);
  });
});

describe('what the Desk tells', () => {
  it('since when a customer waits for a person: since it was taken, then since the first word nobody has answered', () => {
    const at = (from: 'customer' | 'bot' | 'person', when: number) => ({ from, at: when });
    expect(unansweredSince([at('customer', 5), at('bot', 6)], 10)).toBe(10);
    expect(unansweredSince([at('customer', 5), at('person', 12)], 10)).toBeNull();
    expect(unansweredSince([at('person', 12), at('customer', 15), at('customer', 20)], 10)).toBe(15);
    expect(unansweredSince([at('person', 12), at('customer', 15), at('person', 16)], 10)).toBeNull();
    // Whoever had it before has answered; whoever has it now has not.
    expect(unansweredSince([at('person', 8)], 10)).toBe(10);
  });
  it('what a conversation came to: by its own words, as somebody mends it, and kept with the contact', async () => {
    const ended = (from: string) => {
      const { contact, legId, say } = opened(from);
      say('the valve sticks on the low notes');
      s.desk.act(tamsin(), { act: 'end', legId }, null);
      return { contact, legId };
    };
    const kept = async (contact: string) => (await s.reading('contact-words', lead(), { contact })).summary;
    const first = ended('guest-1');
    const own = s.desk.view(tamsin(), 0).contacts[0]?.summary;
    expect([own, await kept(first.contact)]).toEqual([expect.stringContaining('trumpet'), null]);
    s.desk.act(tamsin(), { act: 'finish', legId: first.legId }, null);
    expect(await kept(first.contact)).toEqual({ words: own, by: null });
    const second = ended('guest-2');
    s.desk.act(tamsin(), { act: 'summarise', legId: second.legId, words: 'Wants another mouthpiece.' }, null);
    s.desk.act(tamsin(), { act: 'finish', legId: second.legId }, null);
    expect(await kept(second.contact)).toEqual({ words: 'Wants another mouthpiece.', by: 'Tamsin Orrel' });
    // Whoever has it no more says nothing of it.
    expect(codeOf(() => s.desk.act(tamsin(), { act: 'summarise', legId: second.legId, words: 'x' }, null))).toBe(
      'not-found',
    );
  });
  it('private values once a contact is offered or taken, and not to whoever only could take it', () => {
    const repairs = readQueue(w.db, 'queue_repairs');
    s.queues.save(lead(), queueInput(repairs, { needs: [], offering: { way: 'claim' }, clocks: {} }));
    ready(odile());
    chat('guest-1', ['a repair', '204816', 'the bridge of 204816 snapped']);
    const [waits] = s.desk.view(odile(), 0).claimable;
    expect(waits?.fields).toContainEqual({ label: 'Hire number', value: '•••' });
    expect(JSON.stringify(waits)).not.toContain('204816');
    s.desk.act(odile(), { act: 'claim', visitId: waits?.visitId }, null);
    expect(s.desk.view(odile(), 0).contacts[0]?.fields).toContainEqual({ label: 'Hire number', value: '204816' });
  });
  it('offers that were missed today', () => {
    ready(tamsin());
    chat();
    expect(s.desk.view(tamsin(), 0).missed).toEqual([]);
    w.pass(60);
    expect(s.desk.view(tamsin(), 0).missed).toMatchObject([{ queue: readQueue(w.db, 'queue_newhire')?.name }]);
    expect(s.desk.view(tamsin(), w.now() + 1).missed).toEqual([]);
  });
});

describe('stock replies', () => {
  const setOf = (text: string) => ({
    id: null,
    revision: 0,
    name: 'Trying',
    replies: [{ id: null, title: 'A reply', text: { en: text } }],
  });
  it('are kept with placeholders that something fills, and with no other', () => {
    expect(codeOf(() => s.deskProfiles.saveSet(lead(), setOf('Your {ordr number}, {customer}')))).toBe('not-valid');
    expect(() => s.deskProfiles.saveSet(lead(), setOf('{nonsense}'))).toThrow('Nothing fills {nonsense} in A reply');
    expect(
      codeOf(() => s.deskProfiles.saveSet(lead(), setOf('Hello {customer} of {queue}, about {hire number}'))),
    ).toBe('none');
  });
  it('go only when everything in them is filled, and their use is counted', () => {
    const { id } = s.deskProfiles.saveSet(lead(), setOf('About {hire number}, {customer}'));
    const replyId = STOCK_SETS.one(w.db, id)?.replies[0]?.id;
    const { legId } = opened();
    const say = (text: string) => codeOf(() => s.desk.act(tamsin(), { act: 'say', legId, text, replyId }, null));
    expect([say('About {hire number}, Ida'), replyUses(w.db).size]).toEqual(['not-valid', 0]);
    expect([say('About BH-1, Ida'), say('About BH-2, Ida {smile}')]).toEqual(['none', 'none']);
    expect(replyUses(w.db).get(replyId ?? '')).toBe(2);
    s.queues.save(lead(), queueInput(readQueue(w.db, 'queue_newhire')));
  });
});
