import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { keptMood } from '../../src/data/moods';
import { appendEvent, replayAll } from '../../src/data/events';
import { messagesOf } from '../../src/data/messages';
import type { FindView } from '../../src/services/review/find';
import type { Actor } from '../../src/services/ground/actor';
import { handsIn } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { choice, choose, end, hear, scriptOf } from '../helpers/scripts';
import { codeIn, makeWorld, type World } from '../helpers/world';

/** How customers seemed to feel: judged when a contact ends, corrected by whoever coaches, found and counted. */
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());
const { lead, tamsin, chat, ready, take } = handsIn(() => w);
const { live, meet } = botsIn(() => w);

/** A chat in which its customer says something to whoever takes it, and that ends. */
function talked(from: string, ...texts: string[]): string {
  ready(tamsin());
  const contact = chat(from);
  const legId = take(tamsin());
  for (const text of texts) w.services.channel.say(contact.contact, contact.token, { text }, null);
  w.services.desk.act(tamsin(), { act: 'end', legId }, null);
  w.pass(600);
  return contact.contact;
}
const say = (who: Actor, contactId: string, mood: string | null) =>
  w.services.act('set-mood', who, { contactId, mood });
const found = async (asked: object) =>
  ((await w.services.reading('find-contacts', lead(), asked)) as FindView).lines.map((l) => [l.id, l.mood, l.moodSaid]);
const upset = async (asked: object = {}) => {
  const view = await w.services.reading('review', lead(), asked);
  const figure = view.figures.find((f) => f.id === 'upset');
  return figure && [figure.value, figure.count];
};

describe('the mood of a contact', () => {
  it('is judged when it ends, from what the customer said in its language, and stands after a replay', () => {
    const [angry, glad, asked] = [
      talked('a', 'This is awful', 'I am very disappointed and angry'),
      talked('b', 'Thank you, that was excellent'),
      talked('c', 'When does it arrive'),
    ];
    const moods = () => [angry, glad, asked].map((id) => keptMood(w.db, id));
    expect(moods()).toEqual([
      { mood: 'upset', personId: null },
      { mood: 'pleased', personId: null },
      { mood: 'even', personId: null },
    ]);
    replayAll(w.db);
    expect(moods().map((m) => m?.mood)).toEqual(['upset', 'pleased', 'even']);
  });
  it('is not by what they were offered to choose, and not known where nothing was said or nothing can be told', () => {
    live(scriptOf([choose('A terrible disaster', [choice('A terrible disaster', '1')]), end('e')]));
    const chose = meet('door_web', 'x');
    chose.press('1');
    expect(chose.kept()?.endedHow).toBe('bot');
    expect(messagesOf(w.db, chose.contact).filter((m) => m.sender === 'customer')).toHaveLength(1);
    expect(keptMood(w.db, chose.contact)).toBeNull();
    live(scriptOf([hear('n', { type: 'text' }, 'name'), end('e')]));
    const [plain, other] = [meet('door_web', 'y'), meet('door_web', 'z')];
    appendEvent(w.db, { type: 'contact.language', contactId: other.contact, language: 'tlh' }, w.now(), w.now());
    for (const one of [plain, other]) one.say('terrible, awful');
    expect([plain, other].map((one) => keptMood(w.db, one.contact)?.mood)).toEqual(['upset', undefined]);
  });
  it('can be said otherwise by whoever coaches, and taken back; figures and lists go by it, never of a person', async () => {
    const angry = talked('a', 'I am furious, this is a disgrace');
    talked('b', 'Thank you, that was excellent');
    expect(await upset()).toEqual([0.5, 2]);
    expect(await found({ mood: 'upset' })).toEqual([[angry, 'upset', 0]]);
    say(lead(), angry, 'pleased');
    expect(await upset()).toEqual([0, 2]);
    expect(await found({ mood: 'upset' })).toEqual([]);
    expect((await found({ mood: 'pleased' })).find(([id]) => id === angry)).toEqual([angry, 'pleased', 1]);
    expect((w.services.read('contact', lead(), { id: angry }) as { mood: object }).mood).toEqual({
      mood: 'pleased',
      by: 'Noor Amsel',
    });
    replayAll(w.db);
    expect(await upset()).toEqual([0, 2]);
    say(lead(), angry, null);
    expect(await upset()).toEqual([0.5, 2]);
    // Of a person it is told by no figure, and nothing stands behind it.
    expect(await upset({ person: tamsin().personId })).toBeUndefined();
    const behind = await w.services.reading('behind', lead(), { measure: 'upset', person: tamsin().personId });
    expect([behind.value, behind.total]).toEqual([null, 0]);
  });
  it('is not said by others, of others’ contacts, or while the conversation goes on', async () => {
    const angry = talked('a', 'I am furious, this is awful');
    expect(await codeIn(() => say(tamsin(), angry, 'pleased'))).toBe('not-allowed');
    expect(await codeIn(() => say(lead(), angry, 'hungry'))).toBe('not-valid');
    ready(tamsin());
    const { contact } = chat('going');
    expect(await codeIn(() => say(lead(), contact, 'upset'))).toBe('not-valid');
    live(scriptOf([hear('n', { type: 'text' }, 'name'), end('e')]));
    const alone = meet('door_web', 'with a bot');
    alone.say('awful');
    expect(await codeIn(() => say({ ...lead(), teams: [] }, alone.contact, 'pleased'))).toBe('not-found');
    expect(keptMood(w.db, angry)?.mood).toBe('upset');
  });
});
