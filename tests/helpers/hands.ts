import type { QueueSettings } from '../../src/core/routing/queue';
import { readPerson, settingsOfPerson } from '../../src/data/people';
import type { QueueRecord } from '../../src/data/queuesettings';
import type { Actor } from '../../src/services/ground/actor';
import type { World } from './world';
import { STAND_IN } from '../../src/services/contacts/speaker';

/** A queue as its page sends it, with some of its settings changed. */
export function queueInput(queue: QueueRecord | undefined, change: Partial<QueueSettings> = {}) {
  if (!queue) throw new Error('there is no such queue');
  const { id, revision, place: _place, ...settings } = queue;
  return { id, revision, settings: { ...settings, ...change } };
}

/**
 * What the tests of services do over and over: people at their Desks, customers at the website chat, a lead at the
 * pages.
 */
export function handsIn(world: () => World) {
  const actor = (name: string) => world().actor(name);
  return {
    owner: () => actor('Nell Ashgrove'),
    lead: () => actor('Noor Amsel'),
    bertil: () => actor('Bertil Achterberg'),
    tamsin: () => actor('Tamsin Orrel'),
    odile: () => actor('Odile Karrow'),
    ready: (who: Actor) => world().services.desk.act(who, { act: 'duty', duty: 'ready' }, null),
    /** A customer on the website chat who has said these things to the bot. */
    chat: (from = 'guest-1', wants: readonly string[] = ['a new hire', 'trumpet']) => {
      const { channel } = world().services;
      const begun = channel.start(STAND_IN, { door: 'door_web', from, name: 'Ida Lindqvarn' }, null);
      for (const text of wants) channel.say(begun.contact, begun.token, { text }, null);
      return {
        ...begun,
        say: (text: string) => channel.say(begun.contact, begun.token, { text }, null),
        state: () => channel.read(begun.contact, begun.token, 0).state,
      };
    },
    /** Takes what is offered; gives the leg. */
    take: (who: Actor) =>
      world().services.desk.act(
        who,
        { act: 'accept', offerId: world().services.desk.view(who, 0).offer?.offerId },
        null,
      ).legId ?? '',
    /** A person as the page saves them. */
    settings: (personId: string) => {
      const person = readPerson(world().db, personId);
      if (!person) throw new Error(`nobody called ${personId}`);
      const { active: _active, ...rest } = settingsOfPerson(person);
      return { ...rest, revision: person.revision };
    },
  };
}
