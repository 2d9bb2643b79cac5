import type { BotScript } from '../../src/core/bots/model';
import { readContact } from '../../src/data/contacts';
import { readDoor } from '../../src/data/doors';
import { handsIn } from './hands';
import type { World } from './world';
import { STAND_IN } from '../../src/services/contacts/speaker';

/** What tests of running bots do over and over: put a script live behind a door, and meet it as a customer. */
export function botsIn(world: () => World) {
  const { lead } = handsIn(world);
  return {
    /** Gives the bot's id. `at` is when it goes live, null for now. */
    live(script: BotScript, door = 'door_web', at: number | null = null): string {
      const { bots, doors } = world().services;
      const draft = { ...script, fallbackQueueId: 'queue_newhire' };
      const { id, revision } = bots.save(lead(), { id: null, revision: 0, name: `Bot ${Math.random()}`, draft });
      bots.publish(lead(), { id, revision, note: '', at, override: null });
      const there = readDoor(world().db, door);
      if (there) {
        const { place: _p, byHand: _h, ...rest } = there;
        doors.save(lead(), { ...rest, botId: id, trial: null });
      }
      return id;
    },
    meet(door = 'door_web', from = 'guest-1') {
      const channel = () => world().services.channel;
      const begun = channel().start(STAND_IN, { door, from, language: 'en' }, null);
      const side = () => channel().read(begun.contact, begun.token, 0);
      return {
        ...begun,
        side,
        said: () =>
          side()
            .messages.filter((m) => m.from !== 'customer')
            .map((m) => m.text),
        say: (text: string) => channel().say(begun.contact, begun.token, { text }, null),
        press: (keys: string) => [...keys].forEach((key) => channel().say(begun.contact, begun.token, { key }, null)),
        kept: () => readContact(world().db, begun.contact),
      };
    },
  };
}
