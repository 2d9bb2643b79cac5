import type { Away, WhenClosed } from '../../core/doors/doorway';
import { isText } from '../../core/channels';
import { LaneError } from '../../core/errors';
import type { Db } from '../../data/database';
import { readBots } from '../../data/bots';
import { type Door, readDoor } from '../../data/doors';
import { readPeople } from '../../data/people';
import { readQueue } from '../../data/queuesettings';

/** Refuses a door that leads to nothing that is there, or round in a circle. */

type Leading = Pick<Door, 'whenClosed' | 'meets' | 'channel'>;
type Refuse = (sentence: string) => never;
const refuseAt =
  (where: string): Refuse =>
  (sentence) => {
    throw new LaneError('not-valid', sentence, [{ where, what: sentence }]);
  };

function mustFollow(
  db: Db,
  then: Exclude<WhenClosed, { readonly does: 'door' }> | Away['then'],
  channel: Door['channel'],
  refuse: Refuse,
): void {
  if (then.does === 'bot' && !readBots(db).some((b) => b.id === then.botId)) refuse('This bot is not there any more.');
  if (then.does !== 'message' && then.does !== 'callback') return;
  const queue = readQueue(db, then.queueId);
  if (!queue) return refuse('This queue is not there any more.');
  if (then.does === 'callback' && !queue.channels.includes('voice'))
    refuse(`${queue.name} takes no calls, so that it cannot call back.`);
  if (then.does === 'message' && !queue.channels.includes(channel))
    refuse(`${queue.name} does not take what comes in at this door, so that messages would wait in vain.`);
}

function mustMeet(db: Db, { meets, channel }: Leading): void {
  const refuse = refuseAt('meets');
  if (meets.by === 'first-words') {
    if (!isText(channel)) refuse('A caller is spoken to first, so that a call cannot be led by its first words.');
    const bots = new Set(readBots(db).map((b) => b.id));
    for (const rule of meets.rules) {
      if (!bots.has(rule.botId)) refuse('A bot for first words is not there any more.');
      if (Object.values(rule.words).every((each) => each.every((w) => w.trim() === '')))
        refuse('Give each bot the words by which it is asked for.');
    }
  }
  if (meets.by !== 'people') return;
  const people = new Set(readPeople(db).map((p) => p.id));
  if (meets.personIds.some((id) => !people.has(id))) refuse('Somebody it leads to is not there any more.');
  const queue = readQueue(db, meets.queueId);
  if (!queue) return refuse('This queue is not there any more.');
  if (!queue.channels.includes(channel)) refuse(`${queue.name} does not take what comes in at this door.`);
  mustFollow(db, meets.away.then, channel, refuse);
}

export function mustLead(db: Db, doorId: string, door: Leading): void {
  mustMeet(db, door);
  const refuse = refuseAt('whenClosed');
  const been = new Set([doorId]);
  let then: WhenClosed = door.whenClosed;
  while (then.does === 'door') {
    if (been.has(then.doorId)) refuse('The doors would lead round in a circle.');
    been.add(then.doorId);
    const other = readDoor(db, then.doorId);
    if (!other) return refuse('The other door is not there any more.');
    then = other.whenClosed;
  }
  if (door.whenClosed.does !== 'door') mustFollow(db, door.whenClosed, door.channel, refuse);
}
